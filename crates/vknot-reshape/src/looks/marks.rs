//! What a project adds to the marks that looks go by: its own tags, markers and pins.

use vknot_syntax::Span;

/// A name for a span of a file.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct NamedSpan {
    /// The name, as used in `FILE@NAME`.
    pub name: String,
    /// Its bytes.
    pub span: Span,
}

/// The marks of one file and its project.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct Marks {
    /// Words in comments that open a region, with those that close it.
    pub regions: Vec<(String, String)>,
    /// Comments that begin like this head a section; the more often the last character stands there, the lower the level.
    pub sections: Vec<String>,
    /// Words that tag a note in a comment.
    pub tags: Vec<String>,
    /// The file's pins.
    pub pins: Vec<NamedSpan>,
    /// The names of its pins that are nowhere to be found.
    pub lost_pins: Vec<String>,
}

impl Default for Marks {
    fn default() -> Self {
        let words = |list: &[&str]| list.iter().map(|word| (*word).to_owned()).collect();
        Marks {
            regions: Vec::new(),
            sections: words(&["%%"]),
            tags: words(&["TODO", "FIXME", "XXX", "HACK", "BUG", "NOTE"]),
            pins: Vec::new(),
            lost_pins: Vec::new(),
        }
    }
}
