//! Indentation: where lines begin, told from the structure of the code. Only white space at the start of lines changes.

mod comments;
mod completed;
mod engine;
pub(crate) mod forms;
mod found;
mod lines;
mod options;
mod place;
pub(crate) mod rules;

pub use found::indentation as found_indentation;

use vknot_style::{Indentation, Style};
use vknot_syntax::{Source, Span, Tree};

use crate::edits::Edits;
use crate::languages::Toolkit;
use crate::reshape::Reshape;
use options::Options;
pub(crate) use options::wrap_columns;
use place::Place;

/// Sets the indentation of a file's lines, or of those that some spans touch, by structure.
pub fn set(source: &Source, tree: &Tree, style: &Style, only: Option<&[Span]>) -> Reshape {
    let table = &Toolkit::of(tree.language()).indent;
    let options = Options::of(style, effective_indentation(source, tree, style));
    let completed = completed::completed(source, tree);
    let (read, tree) = completed.as_ref().map_or((source, tree), |(source, tree)| (source, tree));
    let lines = lines::lines(read, tree, options.indentation, only);
    let places = engine::places(read, tree, table, &options, Place::default(), &lines);
    let mut edits = Edits::default();
    let mut blank = String::new();
    for (line, place) in lines.iter().zip(places) {
        let span = Span::new(line.start, line.end);
        blank.clear();
        place.write(options.indentation, options.align_with_tabs, &mut blank);
        if !line.kept && span.end < source.span().end && span.of(source.text()) != blank {
            edits.push(span, &blank);
        }
    }
    Reshape { edits, ..Reshape::default() }
}

/// The text with the indentation of its lines taken away, those inside tokens of several lines aside. A block comment moves as a block.
pub fn stripped(source: &Source, tree: &Tree) -> String {
    let indentation = Indentation { tabs: false, size: 4, tab_width: 4 };
    let mut edits = Edits::default();
    for line in lines::lines(source, tree, indentation, None).iter().filter(|line| !line.kept) {
        edits.push(Span::new(line.start, line.end), "");
    }
    edits.apply(source.text())
}

/// The indentation a file gets: as its style says, else as found in it, else as is usual in its language.
pub fn effective_indentation(source: &Source, tree: &Tree, style: &Style) -> Indentation {
    let spec = Toolkit::of(tree.language()).indent.spec;
    let habit = Indentation { tabs: spec.tabs, size: spec.habit, tab_width: spec.habit };
    style.indentation(found::indentation(source, tree), habit)
}
