//! A language: how to recognise its files, how to read them, and the role of each kind of node.

use std::collections::HashMap;

use crate::role::Role;

/// A kind of node, numbered within one language.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Hash, PartialOrd, Ord)]
pub struct Kind(pub u16);

/// The part a node plays in its parent (tree-sitter's fields), numbered within one language. 0 is none.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq, Hash)]
pub struct Field(pub u16);

/// One row of a language's table of roles: a role and the kinds that have it.
pub type RoleRow = (Role, &'static [&'static str]);

/// A token beside which white space may come and go, in a language in which white space is meaning otherwise.
#[derive(Clone, Copy, Debug)]
pub struct Loose {
    /// Its text.
    pub token: &'static str,
    /// The kind it must be a part of; empty for any.
    pub within: &'static str,
    /// Whether white space may come and go in front of it.
    pub before: bool,
    /// And behind it.
    pub behind: bool,
}

/// What a language's folder says about it. All plain data; [`Language`] is what is made of it.
pub struct LanguageSpec {
    /// The name used in options and output, in lower case.
    pub name: &'static str,
    /// The name for people.
    pub title: &'static str,
    /// File name endings without the dot.
    pub extensions: &'static [&'static str],
    /// Whole file names.
    pub file_names: &'static [&'static str],
    /// Programs that a first line with `#!` may name, without version numbers.
    pub interpreters: &'static [&'static str],
    /// Further names by which a first line or a code fence may call it.
    pub aliases: &'static [&'static str],
    /// Tables of roles by kind; kinds that are missing are [`Role::Part`].
    pub roles: &'static [&'static [RoleRow]],
    /// Where a kind keeps its name, as a path of fields from the node; a kind that is missing uses the field `name`.
    pub names: &'static [(&'static str, &'static [&'static str])],
    /// What begins a line comment; empty where there is none.
    pub line_comment: &'static str,
    /// Other beginnings of line comments.
    pub other_line_comments: &'static [&'static str],
    /// What begins and ends a block comment; empty where there is none.
    pub block_comment: (&'static str, &'static str),
    /// Pairs of characters that a compiler reads as one operator, or as part of one, when they touch. A grammar may see
    /// two tokens there; they must not be parted.
    pub joined: &'static [&'static str],
    /// Where it is meaning whether two tokens touch: the tokens beside which it is none.
    pub loose: &'static [Loose],
    /// What begins a directive, which is a line of its own among tokens that are read whatever lines they stand on; empty where there
    /// is none.
    pub line_directive: &'static str,
    /// Kinds of prose: the lines of such a token may begin at any column.
    pub prose: &'static [&'static str],
    /// What begins a comment that documents the item behind it.
    pub doc_comments: &'static [&'static str],
    /// What begins a comment that is about what holds it, not about what follows: it never moves.
    pub holder_comments: &'static [&'static str],
    /// Beginnings of a first line that only files of this language have.
    pub first_lines: &'static [&'static str],
}

/// What most languages do not have; for the end of a language's own spec.
pub(crate) const LANGUAGE: LanguageSpec = LanguageSpec {
    name: "",
    title: "",
    extensions: &[],
    file_names: &[],
    interpreters: &[],
    aliases: &[],
    roles: &[],
    names: &[],
    line_comment: "",
    other_line_comments: &[],
    block_comment: ("", ""),
    joined: &[],
    loose: &[],
    line_directive: "",
    doc_comments: &[],
    prose: &[],
    holder_comments: &["#!"],
    first_lines: &[],
};

impl LanguageSpec {
    /// All beginnings of line comments.
    pub fn line_comments(&self) -> impl Iterator<Item = &'static str> {
        std::iter::once(self.line_comment)
            .chain(self.other_line_comments.iter().copied())
            .filter(|mark| !mark.is_empty())
    }
}

struct KindFacts {
    name: String,
    named: bool,
    role: Role,
    name_path: Option<Vec<Field>>,
    prose: bool,
    bracket: Option<Bracket>,
}

/// What a bracket is like.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub struct Bracket {
    /// Its opening form: `(`, `[` or `{`.
    pub shape: u8,
    /// Whether it opens, as against closes.
    pub opens: bool,
}

impl Bracket {
    /// The bracket that a text is.
    pub fn of(text: &str) -> Option<Bracket> {
        let (shape, opens) = match text {
            "(" | "[" | "{" => (text.bytes().next()?, true),
            ")" => (b'(', false),
            "]" => (b'[', false),
            "}" => (b'{', false),
            _ => return None,
        };
        Some(Bracket { shape, opens })
    }

    /// The opening bracket at the end of a text that begins with a mark, as in `#(`.
    pub fn marked(text: &str) -> Option<Bracket> {
        let (mark, bracket) = text.split_at_checked(text.len().checked_sub(1)?)?;
        let marked = mark.starts_with(['#', '@', '$']) && mark.bytes().skip(1).all(|byte| byte.is_ascii_alphanumeric());
        Bracket::of(bracket).filter(|bracket| marked && bracket.opens)
    }
}

/// A language, ready for use. There is one of each for the life of the program.
pub struct Language {
    spec: &'static LanguageSpec,
    kinds: Vec<KindFacts>,
    fields: Vec<String>,
    named: HashMap<String, Kind>,
    fixed: HashMap<String, Kind>,
    grammar: Option<tree_sitter::Language>,
    index: usize,
}

impl std::fmt::Debug for Language {
    fn fmt(&self, f: &mut std::fmt::Formatter<'_>) -> std::fmt::Result {
        write!(f, "Language({})", self.spec.name)
    }
}

impl PartialEq for Language {
    fn eq(&self, other: &Self) -> bool {
        self.spec.name == other.spec.name
    }
}

/// The fields of hand-made readers, numbered from 1.
const OWN_FIELDS: [&str; 4] = ["name", "parameters", "value", "body"];

impl Field {
    /// A node's name, in trees of hand-made readers.
    pub const NAME: Field = Field(1);
    /// A callable's parameters, in trees of hand-made readers.
    pub const PARAMETERS: Field = Field(2);
    /// What stands behind a name, in trees of hand-made readers.
    pub const VALUE: Field = Field(3);
    /// The body of what has a header, in trees of hand-made readers.
    pub const BODY: Field = Field(4);
}

/// The name of the kind that stands for unreadable text, in every language.
const ERROR: &str = "ERROR";

impl Language {
    /// Makes a language ready: of a grammar with its kinds, or of a hand-made reader with those given.
    pub(crate) fn build(
        spec: &'static LanguageSpec,
        grammar: Option<tree_sitter::Language>,
        own_kinds: &[&str],
        index: usize,
    ) -> Language {
        let rows = spec.roles.iter().copied().flatten();
        let roles: HashMap<&str, Role> =
            rows.flat_map(|(role, kinds)| kinds.iter().map(|kind| (*kind, *role))).collect();
        let mut fields = vec![String::new()];
        if grammar.is_none() {
            fields.extend(OWN_FIELDS.iter().map(|name| (*name).to_owned()));
        }
        let mut names: Vec<(String, bool)> = match &grammar {
            Some(grammar) => {
                let count = grammar.field_count() as u16;
                fields.extend((1..=count).map(|id| grammar.field_name_for_id(id).unwrap_or("").to_owned()));
                let kind = |id| (grammar.node_kind_for_id(id).unwrap_or("").to_owned(), grammar.node_kind_is_named(id));
                (0..grammar.node_kind_count() as u16).map(kind).collect()
            }
            None => {
                let kind = |kind: &&str| ((*kind).to_owned(), kind.starts_with(|c: char| c.is_ascii_lowercase()));
                own_kinds.iter().map(kind).collect()
            }
        };
        names.push((ERROR.to_owned(), true));
        let (mut named, mut fixed) = (HashMap::new(), HashMap::new());
        for (id, (name, is_named)) in names.iter().enumerate() {
            // Grammars number one name several times; nodes carry the number the grammar gives out for the name.
            let public = grammar.as_ref().map_or(0, |grammar| grammar.id_for_node_kind(name, *is_named));
            let kind = Kind(if public == 0 { id as u16 } else { public });
            let table = if *is_named { &mut named } else { &mut fixed };
            table.entry(name.clone()).or_insert(kind);
        }
        let field_id = |name: &str| fields.iter().position(|field| field == name).map(|id| Field(id as u16));
        let paths: HashMap<&str, Vec<Field>> = spec.names
            .iter()
            .map(|(kind, path)| (*kind, path.iter().filter_map(|field| field_id(field)).collect()))
            .collect();
        let facts = |(name, named): (String, bool)| KindFacts {
            named,
            role: match name.as_str() {
                ERROR => Role::Error,
                name if named => roles.get(name).copied().unwrap_or_default(),
                _ => Role::Part,
            },
            name_path: if named { paths.get(name.as_str()).cloned() } else { None },
            prose: spec.prose.contains(&name.as_str()),
            bracket: if named { None } else { Bracket::of(&name) },
            name,
        };
        let kinds = names.into_iter().map(facts).collect();
        Language { spec, kinds, fields, named, fixed, grammar, index }
    }

    /// Its number among all languages, from 0; plain text has the last.
    pub fn index(&self) -> usize {
        self.index
    }

    /// What its folder says about it.
    pub fn spec(&self) -> &'static LanguageSpec {
        self.spec
    }

    /// Its name in options and output.
    pub fn name(&self) -> &'static str {
        self.spec.name
    }

    /// Its tree-sitter grammar, where it is read by one.
    pub fn grammar(&self) -> Option<&tree_sitter::Language> {
        self.grammar.as_ref()
    }

    /// How many kinds of node there are; kinds are numbered from 0.
    pub fn kind_count(&self) -> usize {
        self.kinds.len()
    }

    /// The named kind of that name.
    pub fn kind(&self, name: &str) -> Option<Kind> {
        self.named.get(name).copied()
    }

    /// The kind of a fixed token such as `{`.
    pub fn token_kind(&self, text: &str) -> Option<Kind> {
        self.fixed.get(text).copied()
    }

    /// The kind of unreadable pieces.
    pub fn error_kind(&self) -> Kind {
        Kind(self.kinds.len() as u16 - 1)
    }

    /// The field of that name; the field "none" when the grammar has no such name.
    pub fn field(&self, name: &str) -> Field {
        Field(self.fields.iter().position(|field| field == name).unwrap_or(0) as u16)
    }

    /// A field's name; empty for none.
    pub fn field_name(&self, field: Field) -> &str {
        self.fields.get(field.0 as usize).map_or("", String::as_str)
    }

    /// A kind's name.
    pub fn kind_name(&self, kind: Kind) -> &str {
        self.kinds.get(kind.0 as usize).map_or(ERROR, |facts| facts.name.as_str())
    }

    /// Whether the kind has a name of its own, as against a fixed token such as `{`.
    pub fn is_named(&self, kind: Kind) -> bool {
        self.kinds.get(kind.0 as usize).is_none_or(|facts| facts.named)
    }

    /// A kind's role.
    pub fn role(&self, kind: Kind) -> Role {
        self.kinds.get(kind.0 as usize).map_or(Role::Error, |facts| facts.role)
    }

    /// Whether the inside of the kind is opaque, so that the whole is one token.
    pub fn is_atom(&self, kind: Kind) -> bool {
        matches!(self.role(kind), Role::String | Role::Comment)
    }

    /// Whether the kind is prose, the lines of which may begin at any column.
    pub fn is_prose(&self, kind: Kind) -> bool {
        self.kinds.get(kind.0 as usize).is_some_and(|facts| facts.prose)
    }

    /// The bracket that a kind of token is.
    pub fn bracket(&self, kind: Kind) -> Option<Bracket> {
        self.kinds.get(kind.0 as usize).and_then(|facts| facts.bracket)
    }

    /// The fields that lead from a node of this kind to its name.
    pub fn name_path(&self, kind: Kind) -> Option<&[Field]> {
        self.kinds.get(kind.0 as usize)?.name_path.as_deref()
    }
}
