//! What a file shows of how its lines stand: the ways of its author, and how most forms with a head stand.

use vknot_style::{Indentation, Style};

use super::learn::HeadVotes;
use crate::frames::forms::HeadRules;
use crate::frames::lines::{lines, Margin, placed};
use crate::frames::options::Options;
use crate::frames::ways::{Shown, Ways};
use crate::spec::Code;
use crate::spec::indent::LinesBy;

/// What the lines of a file show of the ways of its author; `None` where structure does not say how they stand.
pub(super) fn shown_by(code: Code<'_>, style: &Style, indentation: Indentation) -> Option<Shown> {
    let options = options(code, style, indentation);
    let structure = code.toolkit().indent.spec.lines == LinesBy::Structure;
    let lines = lines(code, indentation, None);
    let placed = || placed(code, &options, Margin::default(), &lines, Some(Ways::new(style)));
    structure.then(placed)?.shown
}

/// What decides where lines stand: the style, and how most forms with a head stand in the file.
pub(super) fn options(code: Code<'_>, style: &Style, indentation: Indentation) -> Options {
    let mut options = Options::of(style, indentation);
    if code.toolkit().indent.spec.forms.is_some() && options.heads.is_empty() {
        options.heads = found_heads(code);
    }
    options
}

/// How the file itself indents forms, by their heads.
fn found_heads(code: Code<'_>) -> HeadRules {
    let _tree = code.tree;
    let mut votes = HeadVotes::default();
    votes.count(code);
    votes.rules(code.toolkit().indent.spec.forms).map(|(head, rule)| (head.to_owned(), rule.0)).collect()
}
