//! What a language's folder says of imports: how to take one apart and write it, where it belongs, what tells that nothing needs it.

use std::collections::{HashMap, HashSet};
use std::sync::{Arc, OnceLock};

use super::loading::{Loaded, Loading};

/// What an import is, where that says where it stands among others.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq, PartialOrd, Ord, Hash)]
pub(crate) enum Form {
    /// As most are: `import a`.
    #[default]
    Plain,
    /// Single names out of something: `from a import b`, where a language has both.
    From,
    /// Members of a type.
    Static,
    /// Another name for something.
    Alias,
    /// What has to stand in front of all others.
    First,
    /// What stands in front of the others in its author's group.
    Own,
    /// Types alone.
    Types,
}

/// What stands between the segments of a path in what imports and names are sorted by: in front of all that a segment may hold.
pub(crate) const BETWEEN_SEGMENTS: char = '\u{1}';
/// A segment that stands in front of all others.
pub(crate) const FIRST_SEGMENT: char = '\u{2}';
/// Where a list stands that stands behind all single segments.
pub(crate) const LIST_SEGMENT: char = '\u{10fffe}';
/// A segment that stands behind all others.
pub(crate) const LAST_SEGMENT: char = char::MAX;

/// One thing that an import brings in.
#[derive(Clone, Debug, Default, PartialEq, Eq)]
pub(crate) struct Name {
    /// What it is where it comes from, with the words that belong to it: `List`, `*`, `type Level`.
    pub path: String,
    /// The name it gets here.
    pub alias: Option<String>,
    /// By what it is called in this file; `None` where it has no name that would tell.
    pub bound: Option<String>,
}

/// An import taken apart.
#[derive(Clone, Debug, Default, PartialEq, Eq)]
pub(crate) struct Import {
    /// The words it begins with, such as `pub use`: what differs in them is never merged.
    pub head: String,
    /// Where it comes from, without quotes: `java.util`, `./gauge`.
    pub source: String,
    /// What it brings in; nothing where it only runs something.
    pub names: Vec<Name>,
    pub form: Form,
    /// What its author chose though it means the same: quotes, the mark at the end.
    pub manner: String,
    /// Whether nothing may pass it.
    pub barrier: bool,
    /// Whether it counts as an import only where the style says so.
    pub required: bool,
    /// Whether it has to stay as it is written.
    pub fixed: bool,
    /// Whether its names stand on lines of their own.
    pub broken: bool,
}

impl Import {
    /// Whether it loads something when the file is run, where imports of which no name is among these do not.
    pub fn is_run(&self, values: Option<&HashSet<&str>>) -> bool {
        let is_value = |name: &Name, values: &HashSet<&str>| name.bound
            .as_deref()
            .is_none_or(|name| values.contains(name));
        values.is_none_or(|values| self.names.is_empty() || self.names.iter().any(|name| is_value(name, values)))
    }
}

/// For writing an import: how much room there is.
#[derive(Clone, Copy, Debug)]
pub(crate) struct Room<'a> {
    /// Columns of a line.
    pub width: usize,
    /// The column at which it begins.
    pub column: usize,
    /// One level of indentation.
    pub level: &'a str,
    /// What is in front of its lines.
    pub indent: &'a str,
    pub line_end: &'a str,
    /// Whether a list of names that is broken into lines has a comma behind the last, where the language leaves that open.
    pub comma: bool,
}

impl Room<'_> {
    /// Room without end, for what is written on one line.
    pub const ENDLESS: Room<'static> = Room {
        width: usize::MAX,
        column: 0,
        level: "",
        indent: "",
        line_end: "\n",
        comma: true,
    };
}

/// Whether something that is imported is needed.
#[derive(Clone, Debug, PartialEq, Eq)]
pub(crate) enum Verdict {
    Needed,
    /// It is not, for this reason: `is not used`.
    Dead(&'static str),
    /// It may not be: what is not known.
    Unknown(String),
}

/// What a file uses outside its imports, as far as names tell.
#[derive(Clone, Debug, Default)]
pub(crate) struct Uses<'a> {
    /// The names that stand where something imported may be meant.
    pub names: HashSet<&'a str>,
    /// Names of members, where a language brings those in with a whole namespace.
    pub members: HashSet<&'a str>,
    /// The kinds of node that there are, where some use what is imported without naming it.
    pub kinds: HashSet<&'a str>,
    /// The package or namespaces that the file is in.
    pub packages: Vec<String>,
    /// Whether there is nothing else in the file, so that it must be there for others to take from.
    pub nothing_else: bool,
    /// Why nothing can be said to be unused, if so.
    pub doubt: Option<&'static str>,
    /// Whether something is named of which nothing is known, told when it is first asked for.
    pub strange: OnceLock<bool>,
}

impl<'a> Uses<'a> {
    /// The same with what is used beside a file.
    pub fn with(mut self, beside: Option<&Uses<'a>>) -> Self {
        if let Some(beside) = beside {
            self.names.extend(&beside.names);
            self.members.extend(&beside.members);
            self.kinds.extend(&beside.kinds);
            self.doubt = self.doubt.or(beside.doubt);
        }
        self
    }

    pub fn has(&self, name: &str) -> bool {
        self.names.contains(name)
    }
}

/// What one file offers to others.
#[derive(Clone, Debug, Default, PartialEq, Eq)]
pub struct Declared {
    /// The package, namespace or module it is, or is part of.
    pub package: String,
    /// Types, functions and so on that others can import from it.
    pub names: Vec<String>,
    /// The same where a file has several packages, each with one name.
    pub places: Vec<(String, String)>,
    /// Names it takes from elsewhere, as `module name`, where that makes a difference to the other file.
    pub taken: Vec<String>,
    /// What it imports, each with the name it has there.
    pub imports: Vec<(String, Origin)>,
    /// The modules of the project that it loads when it is loaded, in order; a name behind a `:` is a module inside the one in front of
    /// it, if there is such a one.
    pub loads: Vec<String>,
    /// Whether it is a library that the project names, and no part of it.
    pub library: bool,
}

/// What the files of a project declare.
#[derive(Clone, Debug, Default)]
pub struct Index {
    /// The names in each package, sorted.
    packages: HashMap<String, Vec<String>>,
    /// The packages that the project's own files are in.
    own: HashSet<String>,
    /// The packages in which a name is declared, sorted.
    homes: HashMap<String, Vec<String>>,
    taken: HashSet<String>,
    /// From where files of the project import a name, and how many do.
    usual: HashMap<String, HashMap<Origin, usize>>,
    /// Which modules load which.
    loading: Loading,
}

impl Index {
    /// Of what each file declares.
    pub fn of(files: impl IntoIterator<Item = Declared>) -> Index {
        let mut index = Index::default();
        let mut modules = Vec::new();
        for Declared { package, names, places, taken, imports, loads, library } in files {
            modules.push((package.clone(), loads));
            for (name, origin) in imports {
                *index.usual.entry(name).or_default().entry(origin).or_default() += 1;
            }
            index.taken.extend(taken);
            for (package, name) in places {
                index.homes.entry(name.clone()).or_default().push(package.clone());
                if !library {
                    index.own.insert(package.clone());
                }
                index.packages.entry(package).or_default().push(name);
            }
            for name in &names {
                index.homes.entry(name.clone()).or_default().push(package.clone());
            }
            if !package.is_empty() || !names.is_empty() {
                index.own.insert(package.clone());
                index.packages.entry(package).or_default().extend(names);
            }
        }
        index.packages.values_mut().chain(index.homes.values_mut()).for_each(|list| {
            list.sort_unstable();
            list.dedup();
        });
        index.loading = Loading::of(&modules);
        index
    }

    /// The names that a package of the project declares; `None` where it has no such package.
    pub fn names_in(&self, package: &str) -> Option<&[String]> {
        self.packages.get(package).map(Vec::as_slice)
    }

    /// The packages of the project that declare a name.
    pub fn homes_of(&self, name: &str) -> &[String] {
        self.homes.get(name).map_or(&[], Vec::as_slice)
    }

    /// Whether a file of the project takes something from another one.
    pub fn takes(&self, what: &str) -> bool {
        self.taken.contains(what)
    }

    /// What modules the file of a module loads by what it imports.
    pub(crate) fn loaded(&self, module: &str, loads: &[String]) -> Loaded {
        self.loading.loaded(module, loads)
    }

    /// From where files of the project import a name, and how many do.
    pub fn usual(&self, name: &str) -> impl Iterator<Item = (&Origin, usize)> {
        self.usual.get(name).into_iter().flatten().map(|(origin, count)| (origin, *count))
    }

    /// Whether a package, or one inside it, is of the project.
    pub fn has_package(&self, package: &str) -> bool {
        self.own.contains(package)
    }

    /// How many packages there are.
    pub fn len(&self) -> usize {
        self.packages.len()
    }

    /// Whether it knows nothing.
    pub fn is_empty(&self) -> bool {
        self.packages.is_empty()
    }
}

/// What is known around a file: asked for when it is needed, since telling may take long.
pub trait Surroundings: Sync {
    /// What the files of the project declare in the file's language; `None` where there is no project.
    fn index(&self) -> Option<Arc<Index>>;
    /// The path of the file inside its project, with `/`; `None` where there is no project.
    fn place(&self) -> Option<String>;
    /// What the project calls itself where its modules are named by that.
    fn name(&self) -> Option<String>;
}

/// A file on its own.
#[derive(Clone, Copy, Debug)]
pub struct Alone;

impl Surroundings for Alone {
    fn index(&self) -> Option<Arc<Index>> {
        None
    }

    fn place(&self) -> Option<String> {
        None
    }

    fn name(&self) -> Option<String> {
        None
    }
}

/// Settings of imports that a language reads itself.
#[derive(Clone, Debug, Default)]
pub(crate) struct Wants {
    /// Beginnings of what is the project's own.
    pub own: Vec<String>,
    /// Whether names in doc comments count as used.
    pub documented: bool,
    /// Whether what counts as an import only where the style says so does: what is required in an expression, or included.
    pub required: bool,
    /// Whether what a package's own file offers on is pruned, too.
    pub offered: bool,
}

/// How a language tells an order that is usual in it: names of groups, which are `standard`, `other`, `own`, `near`, `static`, `types`, or
/// beginnings of what is imported.
pub(crate) type Groups = &'static [&'static str];

/// From where something can be imported.
#[derive(Clone, Debug, Default, PartialEq, Eq, PartialOrd, Ord, Hash)]
pub struct Origin {
    /// The package or module.
    pub source: String,
    /// What it is called there.
    pub path: String,
    /// What it is called here, if that differs.
    pub alias: Option<String>,
}

/// A name that is used, and that nothing in a file declares or imports.
#[derive(Clone, Debug, Default, PartialEq, Eq)]
pub(crate) struct Unbound<'a> {
    pub name: &'a str,
    /// Where it is used first, in bytes.
    pub offset: u32,
    /// What is asked of it, where a language's names are of packages; or how it is used.
    pub members: Vec<&'a str>,
    /// Whether something that is there without a further import may have it.
    pub doubt: bool,
}

impl<'a> Unbound<'a> {
    /// Of which no more is known.
    pub fn at(name: &'a str, offset: u32) -> Unbound<'a> {
        Unbound { name, offset, ..Unbound::default() }
    }
}

/// Where what is imported comes from.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub(crate) enum Home {
    /// The language's own library.
    Standard,
    /// Somebody else's.
    Other,
    /// The project.
    Own,
    /// Beside the file.
    Near,
}

impl Home {
    /// The name of its group.
    pub fn group(self) -> &'static str {
        match self {
            Home::Standard => "standard",
            Home::Other => "other",
            Home::Own => "own",
            Home::Near => "near",
        }
    }
}
