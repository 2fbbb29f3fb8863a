//! A language: how to recognise its files, how to read them, and the role of each kind of node.

use std::collections::HashMap;
use std::path::Path;
use std::sync::OnceLock;

use crate::detect;
use crate::languages::SPECS;
use crate::role::Role;
use crate::text::{Source, Span};
use crate::tree::{Piece, Tree, TreeBuilder};

/// A kind of node, numbered within one language.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Hash, PartialOrd, Ord)]
pub struct Kind(pub u16);

/// The part a node plays in its parent (tree-sitter's fields), numbered within one language. 0 is none.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq, Hash)]
pub struct Field(pub u16);

/// One row of a language's table of roles: a role and the kinds that have it.
pub type RoleRow = (Role, &'static [&'static str]);

/// How the text of a language becomes a tree.
#[derive(Clone, Copy)]
pub enum Reader {
    /// A tree-sitter grammar.
    Grammar(fn() -> tree_sitter::Language),
    /// A hand-made reader with its own list of kinds; a kind in quotes-free lower case counts as named.
    Own {
        /// Names of the kinds, in the order of their numbers.
        kinds: &'static [&'static str],
        /// Reads a text into the builder.
        read: fn(&str, &mut TreeBuilder),
    },
}

/// A text made readable for a grammar that lacks something of its language: of the same length, with what the grammar
/// does not know blanked out or replaced.
pub struct Mask {
    /// The text to parse.
    pub text: Vec<u8>,
    /// What was blanked out; each becomes a token.
    pub hidden: Vec<Span>,
}

impl Mask {
    /// A mask that changes nothing yet.
    pub fn new(text: &str) -> Mask {
        Mask { text: text.as_bytes().to_vec(), hidden: Vec::new() }
    }

    /// Blanks a span out, line ends aside.
    pub fn hide(&mut self, start: usize, end: usize) {
        self.replace(start, end, b' ');
        self.hidden.push(Span::new(start as u32, end as u32));
    }

    /// Puts a byte in place of every byte of a span, line ends aside.
    pub fn replace(&mut self, start: usize, end: usize, with: u8) {
        let piece = self.text.get_mut(start..end).unwrap_or_default();
        piece.iter_mut().filter(|byte| !matches!(byte, b'\n' | b'\r')).for_each(|byte| *byte = with);
    }

    /// Puts a byte in place of one.
    pub fn set(&mut self, at: usize, with: u8) {
        if let Some(byte) = self.text.get_mut(at) {
            *byte = with;
        }
    }
}

/// The second try at a text that the grammar did not read without errors.
#[derive(Clone, Copy)]
pub struct Repair {
    /// Makes the mask; `None` when there is nothing to mask.
    pub mask: fn(&str) -> Option<Mask>,
    /// The kind of the tokens that were blanked out.
    pub kind: &'static str,
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
    /// How to read it.
    pub reader: Reader,
    /// A second try where the grammar fails.
    pub repair: Option<Repair>,
    /// Programs that a first line with `#!` may name, without version numbers.
    pub interpreters: &'static [&'static str],
    /// Further names by which a first line or a code fence may call it.
    pub aliases: &'static [&'static str],
    /// Tells the files of this language from others with the same ending, by ending and text. Of several languages for one ending the first
    /// that says yes wins, then the first that does not say anything.
    pub sniff: Option<fn(&str, &str) -> bool>,
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
    /// Kinds of prose: the lines of such a token may begin at any column.
    pub prose: &'static [&'static str],
    /// What begins a comment that documents the item behind it.
    pub doc_comments: &'static [&'static str],
    /// Finds the pieces that are code of another language.
    pub embeds: Option<fn(&Source, &Tree) -> Vec<Piece>>,
}

/// What most languages do not have; for the end of a language's own spec.
pub(crate) const LANGUAGE: LanguageSpec = LanguageSpec {
    name: "",
    title: "",
    extensions: &[],
    file_names: &[],
    reader: Reader::Own { kinds: &[], read: |_, _| {} },
    repair: None,
    interpreters: &[],
    aliases: &[],
    sniff: None,
    roles: &[],
    names: &[],
    line_comment: "",
    other_line_comments: &[],
    block_comment: ("", ""),
    joined: &[],
    doc_comments: &[],
    prose: &[],
    embeds: None,
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
    /// All languages, sorted by name.
    pub fn all() -> impl Iterator<Item = &'static Language> {
        (0..SPECS.len()).filter_map(Self::at)
    }

    /// The language of that name.
    pub fn named(name: &str) -> Option<&'static Language> {
        SPECS.iter().position(|spec| spec.name == name).and_then(Self::at)
    }

    /// The language of that name, or one that goes by it elsewhere: an alias or a file name ending.
    pub fn called(name: &str) -> Option<&'static Language> {
        let name = name.to_ascii_lowercase();
        let fits = |spec: &&LanguageSpec| spec.aliases.contains(&&*name) || spec.extensions.contains(&&*name);
        Self::named(&name).or_else(|| SPECS.iter().position(fits).and_then(Self::at))
    }

    /// The language a path's file name stands for; where several share the ending, the likeliest.
    pub fn for_path(path: &Path) -> Option<&'static Language> {
        Self::candidates(path).next().and_then(Self::at)
    }

    /// The language of a file: by its name, among several for one ending by its text, else by its first line.
    pub fn of_file(path: &Path, text: &str) -> Option<&'static Language> {
        let mut named = Self::candidates(path).peekable();
        if named.peek().is_none() {
            return detect::by_first_line(text);
        }
        let extension = path.extension().and_then(|e| e.to_str()).unwrap_or("").to_ascii_lowercase();
        named.find(|index| SPECS[*index].sniff.is_none_or(|fits| fits(&extension, text))).and_then(Self::at)
    }

    /// Languages whose files are called like this. Those that look at the text come first.
    fn candidates(path: &Path) -> impl Iterator<Item = usize> + use<> {
        let file_name = path.file_name().and_then(|name| name.to_str()).unwrap_or("").to_owned();
        let extension = path.extension().and_then(|e| e.to_str()).unwrap_or("").to_ascii_lowercase();
        let fits = move |spec: &LanguageSpec| {
            spec.file_names.contains(&&*file_name) || spec.extensions.contains(&&*extension)
        };
        let (asking, sure): (Vec<usize>, Vec<usize>) =
            (0..SPECS.len()).filter(|index| fits(SPECS[*index])).partition(|index| SPECS[*index].sniff.is_some());
        asking.into_iter().chain(sure)
    }

    /// The reader by brackets and lines, for files of no known language.
    pub fn plain() -> &'static Language {
        static PLAIN: OnceLock<Language> = OnceLock::new();
        PLAIN.get_or_init(|| Language::build(&crate::languages::plain::SPEC, SPECS.len()))
    }

    fn at(index: usize) -> Option<&'static Language> {
        static READY: [OnceLock<Language>; SPECS.len()] = [const { OnceLock::new() }; SPECS.len()];
        Some(READY.get(index)?.get_or_init(|| Language::build(SPECS[index], index)))
    }

    fn build(spec: &'static LanguageSpec, index: usize) -> Language {
        let rows = spec.roles.iter().copied().flatten();
        let roles: HashMap<&str, Role> =
            rows.flat_map(|(role, kinds)| kinds.iter().map(|kind| (*kind, *role))).collect();
        let grammar = match spec.reader {
            Reader::Grammar(load) => Some(load()),
            Reader::Own { .. } => None,
        };
        let mut fields = vec![String::new()];
        if grammar.is_none() {
            fields.extend(OWN_FIELDS.iter().map(|name| (*name).to_owned()));
        }
        let mut names: Vec<(String, bool)> = match (&grammar, spec.reader) {
            (Some(grammar), _) => {
                let count = grammar.field_count() as u16;
                fields.extend((1..=count).map(|id| grammar.field_name_for_id(id).unwrap_or("").to_owned()));
                let kind = |id| (grammar.node_kind_for_id(id).unwrap_or("").to_owned(), grammar.node_kind_is_named(id));
                (0..grammar.node_kind_count() as u16).map(kind).collect()
            }
            (None, Reader::Own { kinds, .. }) => kinds
                .iter()
                .map(|kind| ((*kind).to_owned(), kind.starts_with(|c: char| c.is_ascii_lowercase())))
                .collect(),
            (None, Reader::Grammar(_)) => Vec::new(),
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

    /// The fields that lead from a node of this kind to its name.
    pub fn name_path(&self, kind: Kind) -> Option<&[Field]> {
        self.kinds.get(kind.0 as usize)?.name_path.as_deref()
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn the_registry_is_sorted_and_its_tables_name_real_kinds() {
        let names: Vec<&str> = SPECS.iter().map(|spec| spec.name).collect();
        assert!(names.is_sorted(), "{names:?}");
        for language in Language::all() {
            for kind in language.spec().roles.iter().copied().flatten().flat_map(|(_, kinds)| *kinds) {
                assert!(language.kind(kind).is_some(), "{}: no kind {kind}", language.name());
            }
            for (kind, path) in language.spec().names {
                assert!(language.kind(kind).is_some(), "{}: no kind {kind}", language.name());
                for field in *path {
                    assert_ne!(language.field(field), Field(0), "{}: no field {field}", language.name());
                }
            }
        }
    }

    #[test]
    fn files_are_recognised_by_name() {
        for (path, name) in [("a/Gauge.java", "java"), ("lib.RS", "rust"), ("x.json", "json")] {
            assert_eq!(Language::for_path(Path::new(path)).map(Language::name), Some(name), "{path}");
        }
        assert!(Language::for_path(Path::new("notes.txt")).is_none());
    }
}
