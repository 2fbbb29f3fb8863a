//! What a language's folder gives, and its tables by number of kind.

use std::collections::{HashMap, HashSet};

use vknot_style::choices::ImportMerge;
use vknot_style::LanguageStyle;
use vknot_syntax::{Embedded, Field, Kind, Language, NodeId, Role, Source, Span, TokenId, Tree};

use super::bindings::Binding;
use super::imports::{Declared, Groups, Home, Import, Name, Origin, Room, Surroundings, Unbound, Uses, Verdict, Wants};
use super::indent::{IndentSpec, IndentTable};
use super::layout::{LayoutSpec, LayoutTable};
use super::looks::{Construct, LookSpec};
use crate::reshape::Reshape;

/// How modules are loaded, where the order of imports is one of what is run.
pub(crate) struct LoadSpec {
    /// The name of the module at a place of a project.
    pub module: fn(&str) -> String,
    /// The modules that an import of the file at a place loads, as in [`Declared::loads`].
    pub loads: fn(&Import, &str) -> Vec<String>,
    /// The names that are used when the file is run, where an import none of whose names is one loads nothing; `None` where all load.
    pub values: for<'a> fn(Code<'a>) -> Option<HashSet<&'a str>>,
}

/// What a language's folder gives for imports.
pub(crate) struct ImportSpec {
    /// Whether a node is one import.
    pub is_import: fn(Code<'_>, NodeId) -> bool,
    /// Whether imports are items of a form, which change places there.
    pub in_forms: bool,
    /// Takes one apart; `None` for what is not known, which stays where it is and which nothing passes.
    pub read: fn(Code<'_>, NodeId) -> Option<Import>,
    /// Writes one.
    pub write: fn(&Import, Room<'_>) -> String,
    /// One thing that is brought in, in a form that does not depend on layout, order or merging.
    pub leaf: fn(&Import, &Name) -> String,
    /// What imports are sorted by; without letters' case where that does not count.
    pub key: fn(&Import) -> String,
    /// The same where an import of several names stands behind those of one name from the same place; `None` where there is no such order.
    pub key_of_list: fn(&Import) -> Option<String>,
    /// Whether capitals usually come first.
    pub cased: bool,
    /// Whether a blank line usually parts groups.
    pub blank: bool,
    /// Whether functions, types and constants usually stand apart, in this order.
    pub kinds_apart: bool,
    /// What names in one import are sorted by.
    pub name_key: fn(&Name) -> String,
    /// Imports for which this is the same are of one place, and can be made one; `None` for what stays on its own.
    pub merges: fn(&Import) -> Option<String>,
    /// Whether an import is one that people often leave apart though they make one of others from the same place.
    pub left_apart: fn(&Import) -> bool,
    /// Whether those of one place usually become one where a file whose imports are in order does not show what its author wants.
    pub merge: ImportMerge,
    /// Whether what it comes from is the language's own library, comes with the project, or stands beside the file.
    pub home: fn(&Import, &dyn Surroundings) -> Home,
    /// Orders of groups that are usual, the most usual first.
    pub orders: &'static [Groups],
    /// The names used in a file; `None` where nothing is ever taken for unused.
    pub uses: Option<for<'a> fn(Code<'a>, &Wants) -> Uses<'a>>,
    /// Whether one thing that is imported is needed.
    pub judge: fn(&Evidence<'_>, &Import, &Name, &Wants) -> Verdict,
    /// What a file at a place of its project declares; `None` where nothing asks for it.
    pub declares: Option<fn(Code<'_>, &str) -> Declared>,
    /// For modules that are run when they are loaded.
    pub loads: Option<&'static LoadSpec>,
    /// The file that tells a project, and what finds in it what the project calls itself.
    pub project: (&'static str, fn(&str) -> Option<String>),
    /// What opens and closes a list of imports, where several that are new come as one, each of its groups from one kind of home.
    pub listed: Option<(&'static str, &'static str)>,
    /// Kinds of node that imports stand behind.
    pub opening: &'static [&'static str],
    /// For names that nothing declares or imports.
    pub missing: Option<&'static MissingSpec>,
    /// For wildcards that names can stand for.
    pub wildcards: Option<&'static WildcardSpec>,
    /// For compiled libraries.
    pub library: Option<&'static LibrarySpec>,
    /// The languages whose files can import from each other; none where that is the language itself.
    pub kin: &'static [&'static str],
}

/// What holds of the imports of most languages, and of those that are sorted and no more.
pub(crate) const IMPORTS_OF_MOST: ImportSpec = ImportSpec {
    is_import: |_, _| false,
    in_forms: false,
    read: |_, _| None,
    write: |import, _| import.manner.clone(),
    leaf: |import, _| import.manner.clone(),
    key: |import| import.source.clone(),
    key_of_list: |_| None,
    cased: true,
    blank: true,
    kinds_apart: false,
    name_key: |name| name.path.clone(),
    merges: |_| None,
    left_apart: |_| false,
    merge: ImportMerge::Merge,
    home: |_, _| Home::Other,
    orders: &[&["written"]],
    uses: None,
    judge: |_, _, _, _| Verdict::Needed,
    declares: None,
    loads: None,
    project: ("", |_| None),
    listed: None,
    opening: &[],
    missing: None,
    wildcards: None,
    library: None,
    kin: &[],
};

/// The package and the name of what an entry of an archive offers.
type Offers = fn(&str, &[u8]) -> Option<(String, String)>;

/// How a language's compiled libraries are told.
#[derive(Clone, Copy, Debug)]
pub struct LibrarySpec {
    /// How archives of them end.
    pub ending: &'static str,
    /// The package and the name that an entry of an archive, given by its path and content, offers to others; `None` where it offers
    /// nothing.
    pub offers: Offers,
}

/// What makes a wildcard of some imports from one place, or says why that is not certain.
type Collapses = fn(&Evidence<'_>, &[Import], &[Import]) -> Result<Import, String>;

/// How a language has wildcards: the imports that one stands for, and the one that some can become; or why that is not certain.
pub(crate) struct WildcardSpec {
    /// An import for each name of it that is used.
    pub expands: fn(&Evidence<'_>, &Import) -> Result<Vec<Import>, String>,
    /// The wildcard for some imports from one place, beside those that have become wildcards before.
    pub collapses: Collapses,
}

/// How a language finds names that nothing declares or imports.
pub(crate) struct MissingSpec {
    /// The names that are used, and that nothing in the file declares or imports, in order.
    pub names: for<'a> fn(Code<'a>, &dyn Surroundings) -> Vec<Unbound<'a>>,
    /// From where a name can come by what libraries and the project offer.
    pub known: fn(&str, &dyn Surroundings) -> Vec<Origin>,
    /// Whether the file can import a name from there: not from itself, nor where what it asks of it is not to be had.
    pub fits: fn(&Origin, &Unbound<'_>, &dyn Surroundings) -> bool,
    /// Whether the project has it itself.
    pub is_own: fn(&Origin, &dyn Surroundings) -> bool,
    /// Whether hardly anything else has that name: it is of the core of the language's own library.
    pub is_sure: fn(&Origin) -> bool,
    /// The import.
    pub import: fn(&Origin, &dyn Surroundings, Code<'_>) -> Import,
    /// What it is called where several could be meant.
    pub shown: fn(&Origin) -> String,
}

/// What must hold of a kind of node.
pub(crate) enum Law {
    /// Only these stand in it, comments and fixed tokens aside.
    Holds { holder: &'static str, kinds: &'static [&'static str], roles: &'static [Role] },
    /// What stands in it comes in this order; kinds that are not named come last.
    Order { holder: &'static str, ranks: &'static [&'static [&'static str]] },
    /// What is in this field is there, and not empty.
    Filled { kinds: &'static [&'static str], field: &'static str },
    /// What is a name does not read as one of these words.
    Names { kinds: &'static [&'static str], words: &'static [&'static str] },
    /// No such mark stands there without an item in front of it; with `last`, there may be one behind the last item.
    Parted { kinds: &'static [&'static str], marks: &'static [&'static str], last: bool },
    /// It stands in one of these holders, nearer than in a callable or a type that is none; with `callables`, those are holders, too.
    Within { kinds: &'static [&'static str], holders: &'static [&'static [&'static str]], callables: bool },
    /// It does not stand in such a holder itself, as what declares something does not where one statement is wanted.
    Barred { kinds: &'static [&'static str], holders: &'static [&'static str] },
    /// Something else.
    Sound { holder: &'static str, is_sound: fn(Code<'_>, NodeId) -> bool },
}

/// What edits go by, where roles do not tell.
pub(crate) struct EditSpec {
    /// The mark that must stand between statements, where the last one may do without; empty where there is none.
    pub between: &'static str,
    /// What parts items of lists; empty for white space.
    pub listed: &'static str,
    /// The operator that puts two strings together, empty where they need only stand side by side; `None` where nothing does.
    pub strings: Option<&'static str>,
    /// What turns a condition, in front of it; empty where branches cannot be swapped.
    pub negation: &'static str,
    /// The operator by which both conditions must hold; empty where an `if` cannot be split.
    pub both: &'static str,
    /// Kinds of conditional statement with fields `condition`, `consequence` and `alternative`.
    pub conditionals: &'static [&'static str],
    /// Kinds of statement that declare several names behind one head.
    pub declarations: &'static [&'static str],
    /// Whether a line end ends a statement, or a row of values, between brackets, too.
    pub lines_end: bool,
    /// Kinds of node among items that no item moves past, and that never move: what says which of them are there.
    pub fixed: &'static [&'static str],
    /// Whether a list that is broken into lines has a mark behind its last item.
    pub trailing: bool,
    /// What its names are bound to; `None` where that is told by word.
    pub scopes: Option<&'static ScopeSpec>,
    /// What compilers do not take though the grammar does.
    pub laws: &'static [Law],
}

/// How a language binds names.
pub(crate) struct ScopeSpec {
    /// Kinds of token that are names.
    pub names: &'static [&'static str],
    /// What a name does.
    pub binding: fn(Code<'_>, NodeId) -> Binding,
    /// What a name does in the code inside a token, by what that code says of it.
    pub inner: fn(Code<'_>, NodeId, Span, Binding) -> Binding,
    /// Which of its namespaces a name is of, as bits: a use is of what declares it in one of them.
    pub spaces: fn(Code<'_>, NodeId) -> u8,
    /// What is written where another name comes in: `key: name` where the name is a key, too.
    pub written: fn(Code<'_>, NodeId, &str) -> String,
    /// The types that a file tells of, and whether keys of them are members.
    pub keyed: for<'a> fn(Code<'a>) -> HashMap<&'a str, bool>,
    /// What the language means by itself: no name can be called so.
    pub reserved: &'static [&'static str],
}

impl std::fmt::Debug for ScopeSpec {
    fn fmt(&self, f: &mut std::fmt::Formatter<'_>) -> std::fmt::Result {
        write!(f, "ScopeSpec({:?})", self.names)
    }
}

/// What a language's folder gives.
pub(crate) struct ToolSpec {
    pub name: &'static str,
    /// `None` while its white space is left to its author.
    pub layout: Option<&'static LayoutSpec>,
    pub looks: &'static LookSpec,
    pub indent: &'static IndentSpec,
    pub imports: Option<&'static ImportSpec>,
    pub edits: EditSpec,
    pub style: &'static LanguageStyle,
}

/// A language's tables, ready for use.
pub(crate) struct Toolkit {
    pub layout: Option<LayoutTable>,
    pub looks: &'static LookSpec,
    pub indent: IndentTable,
    /// What looks go by, for each kind of node.
    pub kinds: Vec<KindLooks>,
    words: Vec<String>,
    /// Whether it has headings of its own.
    pub has_headings: bool,
    pub imports: Option<&'static ImportSpec>,
    pub edits: &'static EditSpec,
    /// Its own defaults, and the settings that have an effect in it.
    pub style: &'static LanguageStyle,
}

/// What one kind of node is to looks.
#[derive(Clone, Copy, Default)]
pub(crate) struct KindLooks {
    /// The field of the value it names, if it names one.
    pub value: Option<Field>,
    /// Whether it has an outline entry whatever its role.
    pub outlined: bool,
    /// The word for names in it, if they are members.
    pub names: Option<&'static str>,
    /// Whether it holds one item and what is said about it.
    pub wraps: bool,
    /// Whether what is inside is not to be outlined.
    pub hides: bool,
    /// Whether it is worth a rung of the ladder though it has no role.
    pub is_rung: bool,
    /// Whether its language has a word for it.
    pub has_word: bool,
    /// What its blocks are parts of.
    pub construct: Option<Construct>,
}

impl KindLooks {
    fn of(looks: &LookSpec, language: &'static Language, kind: Kind) -> KindLooks {
        let name = language.kind_name(kind);
        if !language.is_named(kind) {
            return KindLooks::default();
        }
        let value = looks.named_values.iter().find(|(kind, _)| *kind == name);
        let construct = match name {
            name if looks.conditionals.contains(&name) => Some(Construct::Conditional),
            name if looks.loops.contains(&name) => Some(Construct::Loop),
            _ => None,
        };
        KindLooks {
            value: value.map(|(_, field)| language.field(field)),
            outlined: looks.outlined.contains(&name),
            names: looks.name_lists.iter().find(|(kind, _)| *kind == name).map(|(_, word)| *word),
            wraps: looks.wrappers.contains(&name),
            hides: looks.hidden.contains(&name),
            is_rung: looks.rungs.contains(&name),
            has_word: looks.words.iter().any(|(kind, _)| *kind == name),
            construct,
        }
    }
}

impl Toolkit {
    /// What a kind of node is to looks.
    pub fn kind(&self, kind: Kind) -> KindLooks {
        self.kinds.get(kind.0 as usize).copied().unwrap_or_default()
    }

    /// What a kind of node is called.
    pub fn words(&self, kind: Kind) -> &str {
        self.words.get(kind.0 as usize).map_or("", String::as_str)
    }

    /// Makes the tables of a language ready.
    pub fn build(spec: &'static ToolSpec, language: &'static Language) -> Toolkit {
        let layout = spec.layout.map(|layout| LayoutTable::new(layout, language));
        let kinds = || (0..language.kind_count() as u16).map(Kind);
        Toolkit {
            layout,
            looks: spec.looks,
            indent: IndentTable::new(spec.indent, language),
            kinds: kinds().map(|kind| KindLooks::of(spec.looks, language, kind)).collect(),
            words: kinds().map(|kind| words_for(spec.looks, language.kind_name(kind))).collect(),
            has_headings: kinds().any(|kind| language.role(kind) == Role::Heading),
            imports: spec.imports,
            edits: &spec.edits,
            style: spec.style,
        }
    }
}

/// What a kind is called: a `method_declaration` is a `method`, unless its language has a better word.
fn words_for(looks: &LookSpec, kind: &str) -> String {
    const ENDINGS: [&str; 7] = [
        "_declaration",
        "_definition",
        "_item",
        "_statement",
        "_expression",
        "_specification",
        "_literal",
    ];
    if let Some((_, word)) = looks.words.iter().find(|(name, _)| *name == kind) {
        return (*word).to_owned();
    }
    let bare = ENDINGS.iter().find_map(|ending| kind.strip_suffix(ending)).unwrap_or(kind);
    bare.replace('_', " ")
}

/// Finds the tables of a language.
pub(crate) type Tables = fn(&'static Language) -> &'static Toolkit;

/// A text with its tree and the way to the tables of its language: what looks and reshapes go by.
#[derive(Clone, Copy)]
pub struct Code<'a> {
    /// The text.
    pub source: &'a Source,
    /// Its tree.
    pub tree: &'a Tree,
    pub(crate) tables: Tables,
}

impl<'a> Code<'a> {
    /// The tables of the language it is in.
    pub(crate) fn toolkit(self) -> &'static Toolkit {
        (self.tables)(self.tree.language())
    }

    /// The text of a node.
    pub(crate) fn text(self, id: NodeId) -> &'a str {
        self.source.slice(self.tree.node(id).span())
    }

    /// The token in front of a node; nothing at the start of a file.
    pub(crate) fn text_before(self, id: NodeId) -> &'a str {
        self.tree.node(id).first_token.checked_sub(1).map_or("", |token| self.token(token))
    }

    /// The token behind a node; nothing at the end of a file.
    pub(crate) fn text_behind(self, id: NodeId) -> &'a str {
        self.token(self.tree.node(id).token_end)
    }

    fn token(self, token: TokenId) -> &'a str {
        self.tree.tokens().get(token as usize).map_or("", |token| self.source.slice(token.span()))
    }

    /// A piece of another language inside it.
    pub fn piece(self, piece: &'a Embedded) -> Code<'a> {
        Code { source: &piece.source, tree: &piece.tree, tables: self.tables }
    }

    /// The tree of the text that layout or indentation makes of it, which is only read where white space tells something, or tokens came.
    pub(crate) fn tree_after(self, made: &Reshape, new: &Source) -> Tree {
        match self.toolkit().layout.is_some() && made.receipt.added.is_empty() {
            true => made.edits.tree_after(self.tree, new),
            false => Tree::read(new, self.tree.language()),
        }
    }

    /// Another text in the same language, or in another one.
    pub(crate) fn other<'b>(self, source: &'b Source, tree: &'b Tree) -> Code<'b> {
        Code { source, tree, tables: self.tables }
    }
}

/// What an import is judged by.
pub(crate) struct Evidence<'a> {
    pub code: Code<'a>,
    pub uses: &'a Uses<'a>,
    pub around: &'a dyn Surroundings,
}
