//! What a kind of node is, in terms that all languages share.

/// The role a kind of node plays. A language's table gives each of its kinds at most one; shared code asks for roles only.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq, Hash)]
pub enum Role {
    /// No role of its own: it passes for a part of what holds it.
    #[default]
    Part,
    /// The whole file.
    File,
    /// An import.
    Import,
    /// A package or namespace line that opens a file.
    Package,
    /// A type, trait, implementation or module: something with members.
    Type,
    /// A function, method, constructor or initializer.
    Callable,
    /// A named member that is neither type nor callable: field, constant, variant, object member.
    Member,
    /// A statement.
    Statement,
    /// A statement with branches or a body: conditionals, loops, `switch`, `match`, `try`.
    Branch,
    /// One arm or labelled group of a branch.
    Arm,
    /// A label (`case x:`, `'outer:`).
    Label,
    /// Statements between braces.
    Block,
    /// Members between braces.
    Body,
    /// Items between brackets with separators, declared: parameters, type parameters.
    List,
    /// Items between brackets with separators, handed over: arguments.
    Arguments,
    /// A literal of several items: array, struct, object.
    Collection,
    /// A call.
    Call,
    /// A member access that may be a link of a chain.
    Link,
    /// An operator with its operands.
    Operator,
    /// An assignment or a declaration with a value.
    Assignment,
    /// An anonymous function.
    Lambda,
    /// A value in parentheses.
    Parenthesized,
    /// A literal that is not a string.
    Literal,
    /// A string or character literal. Its inside is opaque.
    String,
    /// A comment. Its inside is opaque.
    Comment,
    /// An annotation or attribute.
    Annotation,
    /// A macro call or definition; what is inside is not known to be code of this language.
    Macro,
    /// A name, plain or qualified.
    Name,
    /// A type where it is used.
    TypeUse,
    /// A heading line that begins a section.
    Heading,
    /// A style rule: selectors with a body of declarations.
    Rule,
    /// An element of markup, from its opening tag to its closing one.
    Element,
    /// An attribute of an element.
    Attribute,
    /// A parenthesised form.
    Form,
    /// A cell of a notebook.
    Cell,
    /// What opens a pair with the [`Role::Close`] among its siblings: a block keyword, a tag.
    Open,
    /// What closes such a pair.
    Close,
    /// What looks like a bracket and is none, such as those in the unread half of a conditional.
    Inert,
    /// Something the reader could not make sense of.
    Error,
}

impl Role {
    /// Whether a node with this role stands in a sequence and is an item on its own.
    pub fn is_item(self) -> bool {
        matches!(
            self,
            Role::Import
                | Role::Package
                | Role::Type
                | Role::Callable
                | Role::Member
                | Role::Statement
                | Role::Branch
                | Role::Arm
                | Role::Annotation
                | Role::Rule
                | Role::Element
                | Role::Form
                | Role::Cell
                | Role::Heading
        )
    }

    /// Whether the role holds a sequence of items.
    pub fn is_sequence(self) -> bool {
        matches!(
            self,
            Role::File | Role::Block | Role::Body | Role::List | Role::Arguments | Role::Collection
        )
    }
}
