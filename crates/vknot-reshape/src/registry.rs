//! From a language to its tables.

use std::sync::OnceLock;

use vknot_style::{LanguageStyle, Style};
use vknot_syntax::{Kind, Language, Source, Tree};

use crate::languages::SPECS;
use crate::spec::{Code, ImportSpec, LibrarySpec, Toolkit};
use crate::spec::imports::Declared;
use crate::spec::indent::LinesBy;

/// The tables of a language; one of each is made, when first asked for.
fn tables(language: &'static Language) -> &'static Toolkit {
    static READY: [OnceLock<Toolkit>; SPECS.len()] = [const { OnceLock::new() }; SPECS.len()];
    let of = |name: &str| SPECS.iter().position(|spec| spec.name == name);
    let index = of(language.name()).or_else(|| of(Language::plain().name())).unwrap_or(0);
    READY[index].get_or_init(|| Toolkit::build(SPECS[index], language))
}

impl<'a> Code<'a> {
    /// A text with the tree it was read into.
    pub fn of(source: &'a Source, tree: &'a Tree) -> Code<'a> {
        Code { source, tree, tables }
    }
}

/// What a language says about settings.
pub fn style_of(language: &'static Language) -> &'static LanguageStyle {
    tables(language).style
}

/// The style of a language where nothing is set.
pub fn default_style(language: &'static Language) -> Style {
    Style::defaults(style_of(language))
}

/// What a language says about imports.
pub(crate) fn import_spec(language: &'static Language) -> Option<&'static ImportSpec> {
    tables(language).imports
}

/// What a file at a place of its project declares for others to import; `None` where its language asks for no such thing.
pub fn declared(code: Code<'_>, place: &str) -> Option<Declared> {
    let declares = code.toolkit().imports?.declares?;
    Some(declares(code, place))
}

/// The name of a file, and what finds a name in its text.
pub type ProjectFile = (&'static str, fn(&str) -> Option<String>);

/// The name of the file that tells a project of a language, and what finds in it what the project calls itself; `None` where files of the
/// language do not ask for their project.
pub fn project_file(language: &'static Language) -> Option<ProjectFile> {
    let spec = tables(language).imports?;
    spec.declares.map(|_| spec.project)
}

/// How compiled libraries of a language are told; `None` where nothing asks for them.
pub fn library_spec(language: &'static Language) -> Option<&'static LibrarySpec> {
    tables(language).imports?.library
}

/// The languages whose files can import from those of a language, and it from them: itself, in most.
pub fn index_languages(language: &'static Language) -> Vec<&'static Language> {
    let kin = tables(language).imports.map_or(&[][..], |spec| spec.kin);
    let kin: Vec<&'static Language> = kin.iter().filter_map(|name| Language::named(name)).collect();
    if kin.is_empty() { vec![language] } else { kin }
}

/// What can be done with files of a language, beside the looks that all have.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct Capabilities {
    /// Whether its files can be laid out.
    pub layout: bool,
    /// Whether the lines of its files can be set by structure, or by levels where indentation is meaning.
    pub indentation: bool,
    /// Whether indentation is meaning, so that it can only be scaled.
    pub levels: bool,
    /// Whether its imports can be put in order.
    pub imports: bool,
    /// What opens and what closes a region of that name; `None` where there is no comment for it.
    pub region: Option<(String, String)>,
    /// Whether comments that begin with `%%`, or headings of its own, part its files into sections.
    pub sections: bool,
}

/// What can be done with files of a language.
pub fn capabilities(language: &'static Language) -> Capabilities {
    let toolkit = tables(language);
    let cells = (0..language.kind_count() as u16).any(|kind| language.role(Kind(kind)) == vknot_syntax::Role::Cell);
    Capabilities {
        layout: toolkit.layout.is_some(),
        indentation: toolkit.indent.spec.lines != LinesBy::Author || language.reading().embeds.is_some(),
        levels: toolkit.indent.spec.lines == LinesBy::Levels,
        imports: toolkit.imports.is_some() || language.reading().embeds.is_some(),
        region: crate::regions::markers(language, toolkit.looks, "Tides").ok(),
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
