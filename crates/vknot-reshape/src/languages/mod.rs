//! What is each language's own among the reshapes: one folder and one line of the registry for each.

mod c;
mod clojure;
mod cpp;
mod csharp;
mod css;
mod dax;
mod gdscript;
mod go;
mod html;
mod java;
mod javascript;
mod json;
mod less;
mod markdown;
mod matlab;
mod notebook;
mod octave;
mod pascal;
mod plain;
mod python;
mod racket;
mod rust;
mod scheme;
mod scss;
mod tsx;
mod typescript;

use std::sync::OnceLock;

use vknot_syntax::{Field, Kind, Language, Role};

use crate::imports::ImportSpec;
use crate::indent::rules::{IndentSpec, IndentTable};
use crate::layout::rules::{LayoutSpec, LayoutTable};
use crate::looks::{Construct, LookSpec};

/// What a language's folder gives.
pub(crate) struct ToolSpec {
    pub name: &'static str,
    /// `None` while its white space is left to its author.
    pub layout: Option<&'static LayoutSpec>,
    pub looks: &'static LookSpec,
    pub indent: &'static IndentSpec,
    pub imports: Option<&'static ImportSpec>,
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
}

/// What one kind of node is to looks.
#[derive(Clone, Copy, Default)]
pub(crate) struct KindLooks {
    /// The field of the value it names, if it names one.
    pub value: Option<Field>,
    /// Whether it has an outline entry whatever its role.
    pub outlined: bool,
    /// Whether it holds one item and what is said about it.
    pub wraps: bool,
    /// Whether what is inside is not to be outlined.
    pub hides: bool,
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
            wraps: looks.wrappers.contains(&name),
            hides: looks.hidden.contains(&name),
            construct,
        }
    }
}

/// Sorted by name.
static SPECS: &[&ToolSpec] = &[
    &c::SPEC,
    &clojure::SPEC,
    &cpp::SPEC,
    &csharp::SPEC,
    &css::SPEC,
    &dax::SPEC,
    &gdscript::SPEC,
    &go::SPEC,
    &html::SPEC,
    &java::SPEC,
    &javascript::SPEC,
    &json::SPEC,
    &less::SPEC,
    &markdown::SPEC,
    &matlab::SPEC,
    &notebook::SPEC,
    &octave::SPEC,
    &pascal::SPEC,
    &plain::SPEC,
    &python::SPEC,
    &racket::SPEC,
    &rust::SPEC,
    &scheme::SPEC,
    &scss::SPEC,
    &tsx::SPEC,
    &typescript::SPEC,
];

impl Toolkit {
    /// What a kind of node is to looks.
    pub fn kind(&self, kind: Kind) -> KindLooks {
        self.kinds.get(kind.0 as usize).copied().unwrap_or_default()
    }

    /// What a kind of node is called.
    pub fn words(&self, kind: Kind) -> &str {
        self.words.get(kind.0 as usize).map_or("", String::as_str)
    }

    /// The toolkit of a language; one of each is made, when first asked for.
    pub fn of(language: &'static Language) -> &'static Toolkit {
        static READY: [OnceLock<Toolkit>; SPECS.len()] = [const { OnceLock::new() }; SPECS.len()];
        READY[language.index().min(SPECS.len() - 1)].get_or_init(|| Toolkit::build(language))
    }

    fn build(language: &'static Language) -> Toolkit {
        let spec = SPECS.iter().find(|spec| spec.name == language.name()).unwrap_or(&&plain::SPEC);
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

/// What can be done with files of a language, beside the looks that all have.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct Capabilities {
    /// Whether its files can be laid out.
    pub layout: bool,
    /// Whether the lines of its files can be set by structure, or by levels where indentation is meaning.
    pub indentation: bool,
    /// Whether its imports can be put in order.
    pub imports: bool,
    /// What opens and what closes a region of that name; `None` where there is no comment for it.
    pub region: Option<(String, String)>,
    /// Whether comments that begin with `%%`, or headings of its own, part its files into sections.
    pub sections: bool,
}

/// What can be done with files of a language.
pub fn capabilities(language: &'static Language) -> Capabilities {
    let toolkit = Toolkit::of(language);
    let cells = (0..language.kind_count() as u16).any(|kind| language.role(Kind(kind)) == vknot_syntax::Role::Cell);
    Capabilities {
        layout: toolkit.layout.is_some(),
        indentation: crate::indent::covers(language),
        imports: toolkit.imports.is_some(),
        region: crate::regions::markers(language, "Tides").ok(),
        sections: toolkit.looks.sections || toolkit.has_headings || cells,
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn every_language_has_its_tools() {
        let tools: Vec<&str> = SPECS.iter().map(|spec| spec.name).filter(|name| *name != "plain").collect();
        let languages: Vec<&str> = Language::all().map(Language::name).collect();
        assert_eq!(tools, languages);
    }
}
