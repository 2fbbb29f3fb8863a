//! The words in which a language says how its lines stand.

use vknot_syntax::{Bracket, Kind, Language, Role};

/// How the lines inside a kind of node stand.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub(crate) enum Hold {
    /// As what holds it says.
    Through,
    /// All at the line it begins on.
    Flat,
    /// Declarations at the line it begins on, statements one level in.
    Parts,
    /// Its first line, and what wraps from it one wrap further in.
    Head,
    /// Like [`Hold::Head`], with return type and name on lines of their own.
    Header,
    /// A conditional or loop: a statement without braces one level in, `else` and the like with the head.
    Branch,
    /// A labelled group: its statements one level in.
    Arm,
    /// A statement behind a label that is a target of jumps.
    Labelled,
    /// A word, and items one level in from it.
    Section,
    /// Items between brackets, one level in.
    Body,
    /// A list between brackets: one wrap in, or under its first item.
    List,
    /// A literal of several items: one level in.
    Literal,
    /// A chain of calls: links one wrap in.
    Chain,
    /// Operands that begin on a line of their own: lines led by an operator one wrap in, others as what holds them says.
    Operands,
    /// Markup from an opening to a closing tag.
    Element,
    /// A tag, whose attributes may wrap.
    Tag,
    /// What closes an element.
    Closing,
    /// A directive: at the margin, whatever holds it, or with the code.
    Margin,
    /// A branch of a conditional that was read flat.
    Inactive,
}

/// What says where the lines of a language stand.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub(crate) enum LinesBy {
    /// The tree.
    Structure,
    /// Their own indentation, which means something and can only be scaled.
    Levels,
    /// Their author.
    Author,
}

/// What a directive is to a conditional of the preprocessor.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub(crate) enum Conditional {
    /// It begins one.
    Begin,
    /// It parts two branches of one.
    Else,
    /// It ends one.
    End,
}

const CONDITIONALS: [Conditional; 3] = [Conditional::Begin, Conditional::Else, Conditional::End];

/// What a language's folder says about indentation. All plain data.
#[derive(Clone, Copy, Debug)]
pub(crate) struct IndentSpec {
    /// Columns of a level where neither settings nor the file tell.
    pub habit: u32,
    /// Whether levels are tabs where neither settings nor the file tell.
    pub tabs: bool,
    /// What kinds hold whose role does not tell.
    pub holds: &'static [(Hold, &'static [&'static str])],
    /// Words that stand with the head of their branch, with what they begin.
    pub middle: &'static [&'static str],
    /// Words that do so by themselves, and may also begin a branch of their own.
    pub tails: &'static [&'static str],
    /// Words that begin a group of arms, in front of whose last arm a word of `middle` may stand.
    pub cases: &'static [&'static str],
    /// Words of which the second, on the line behind the first, may stand with it.
    pub else_if: Option<(&'static str, &'static str)>,
    /// Kinds that stand below each other where one holds nothing but another.
    pub stacked: &'static [&'static str],
    /// Kinds that begin with names, which stand below each other.
    pub named: &'static [&'static str],
    /// Words and marks behind which a value begins that what wraps may line up with.
    pub leads: &'static [&'static str],
    /// How a comment begins that says that its group goes on with the next one.
    pub falls_through: &'static [&'static str],
    /// The names of directives that begin, part and end what a preprocessor may leave out.
    pub directives: [&'static [&'static str]; 3],
    /// Words in front of a condition that no bracket encloses.
    pub conditions: &'static [&'static str],
    /// Words that are operators.
    pub operators: &'static [&'static str],
    /// Kinds whose members are not indented if the style says so.
    pub namespaces: &'static [&'static str],
    /// Words in front of what is said about the rest of a declaration, which may begin on a line of its own.
    pub prefixes: &'static [&'static str],
    /// Kinds of what is said there.
    pub parameters: &'static [&'static str],
    /// Kinds of what is asked of it, which may stand with the declaration or further in.
    pub constraints: &'static [&'static str],
    /// Whether a file may be held by a function that its code need not stand in from.
    pub module_function: bool,
    /// Kinds whose members are never indented.
    pub flush: &'static [&'static str],
    /// Names of the elements that hold a page and its text, outermost first.
    pub page: &'static [&'static str],
    /// Names of elements whose white space is shown as it is.
    pub preserved: &'static [&'static str],
    /// The marks that begin and end blocks of a template.
    pub templates: Option<&'static TemplateSpec>,
    /// Marks and words behind which the next line is a new statement, where no tree tells.
    pub ends: &'static [&'static str],
    /// Words that open and close something, where no tree tells.
    pub opening: &'static [&'static str],
    pub closing: &'static [&'static str],
    /// How forms are indented, in languages made of them.
    pub forms: Option<&'static super::forms::FormSpec>,
    /// Marks that may lead a line; what opens behind them stands against what is behind them.
    pub marks: &'static [&'static str],
    /// What leads lines of a piece that are code but are not shown there, with a blank behind it; empty where there are none.
    pub hidden: &'static str,
    /// Whether names may have prefixes that tell for whom they are (`-moz-filter`), behind which rows line up.
    pub prefixed_names: bool,
    /// Whether a link of a chain stands with its beginning where a block ends in front of it.
    pub links_follow_blocks: bool,
    /// What says where lines stand.
    pub lines: LinesBy,
}

/// The marks of templates.
#[derive(Clone, Copy, Debug)]
pub(crate) struct TemplateSpec {
    /// The kind of node that they are.
    pub kind: &'static str,
    /// Whether one begins, parts or ends a block, and the name of that; blocks of code without names share an empty one.
    pub said: fn(&str) -> Option<(TemplatePart, &str)>,
}

/// What a mark is to a block of a template.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub(crate) enum TemplatePart {
    Begin,
    Middle,
    End,
}

impl IndentSpec {
    /// What a text is to a conditional that begins with the mark of a directive, or behind it. A comment may begin like one: `{ if ...`.
    pub fn conditional(&self, text: &str) -> Option<Conditional> {
        let marks = ["#", "{$", "(*$"];
        let text =
            marks.iter().find_map(|mark| text.strip_prefix(mark)).unwrap_or(text).trim_start_matches([' ', '\t']);
        let word = &text[..text.find(|c: char| !c.is_ascii_alphanumeric()).unwrap_or(text.len())];
        let is_one_of = |names: &[&str]| names.iter().any(|name| name.eq_ignore_ascii_case(word));
        CONDITIONALS.into_iter().zip(self.directives).find(|(_, names)| is_one_of(names)).map(|(part, _)| part)
    }
}

/// What a token is to the frames, where its kind tells.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub(crate) enum Mark {
    /// Its text tells.
    Unknown,
    /// It opens a bracket.
    Opens(u8),
    /// It closes one.
    Closes(u8),
    /// `<`, which may open a list.
    Less,
    /// `>` or `/>`, which may close one.
    Greater,
    /// `:`
    Colon,
    /// Nothing of all that.
    Other,
}

impl Mark {
    /// What a text is.
    pub fn of(text: &str, role: Role) -> Mark {
        let inside = matches!(role, Role::String | Role::Comment | Role::Inert);
        let bracket = Bracket::of(text).or_else(|| Bracket::marked(text));
        match (text, bracket) {
            (_, Some(bracket)) if bracket.opens && !inside => Mark::Opens(bracket.shape),
            (_, Some(bracket)) if !bracket.opens => Mark::Closes(bracket.shape),
            ("<", _) => Mark::Less,
            (">" | "/>", _) => Mark::Greater,
            (":", _) => Mark::Colon,
            _ => Mark::Other,
        }
    }
}

/// What one kind of node is to indentation.
#[derive(Clone, Copy, Debug)]
pub(crate) struct KindIndent {
    /// What a token of the kind is.
    pub mark: Mark,
    pub hold: Hold,
    pub role: Role,
    pub namespace: bool,
    pub flush: bool,
    /// Whether it stands in front of a declaration, and says something about it.
    pub prefix: bool,
    pub constraint: bool,
}

/// A language's indentation, ready for use.
pub(crate) struct IndentTable {
    pub spec: &'static IndentSpec,
    kinds: Vec<KindIndent>,
    /// Whether any kind is a directive.
    pub has_directives: bool,
}

impl IndentTable {
    pub fn new(spec: &'static IndentSpec, language: &'static Language) -> Self {
        let of = |kind: Kind| {
            let (name, role) = (language.kind_name(kind), language.role(kind));
            let named = spec.holds.iter().find(|(_, kinds)| kinds.contains(&name));
            // A grammar's fixed tokens are called what they are, and its other tokens are none of these.
            let mark = match (language.grammar().is_some(), language.is_named(kind)) {
                (false, _) => Mark::Unknown,
                (true, false) => Mark::of(name, role),
                (true, true) if role == Role::Error => Mark::Unknown,
                (true, true) => Mark::Other,
            };
            KindIndent {
                mark,
                hold: named.map_or_else(|| by_role(role), |(hold, _)| *hold),
                role,
                namespace: spec.namespaces.contains(&name),
                flush: spec.flush.contains(&name),
                prefix: spec.parameters.contains(&name) || spec.constraints.contains(&name),
                constraint: spec.constraints.contains(&name),
            }
        };
        let kinds: Vec<KindIndent> = (0..language.kind_count() as u16).map(Kind).map(of).collect();
        let has_directives = kinds.iter().any(|kind| kind.hold == Hold::Margin);
        Self { spec, kinds, has_directives }
    }

    pub fn kind(&self, kind: Kind) -> KindIndent {
        let none = KindIndent {
            mark: Mark::Unknown,
            hold: Hold::Through,
            role: Role::Part,
            namespace: false,
            flush: false,
            prefix: false,
            constraint: false,
        };
        self.kinds.get(kind.0 as usize).copied().unwrap_or(none)
    }
}

/// What a role holds unless its language says otherwise.
fn by_role(role: Role) -> Hold {
    match role {
        Role::File | Role::Error | Role::Cell => Hold::Flat,
        Role::Import
        | Role::Package
        | Role::Type
        | Role::Callable
        | Role::Member
        | Role::Statement
        | Role::Macro
        | Role::Assignment
        | Role::Lambda
        | Role::Rule => Hold::Head,
        Role::Branch => Hold::Branch,
        Role::Arm => Hold::Arm,
        Role::Block | Role::Body => Hold::Body,
        Role::List | Role::Arguments | Role::Parenthesized => Hold::List,
        Role::Collection => Hold::Literal,
        Role::Call | Role::Link => Hold::Chain,
        Role::Operator => Hold::Operands,
        Role::Element => Hold::Element,
        _ => Hold::Through,
    }
}
