//! The lines of a file that begin with a token, and the white space in front of it.

use vknot_style::Indentation;
use vknot_syntax::{Span, TokenId};

use crate::spec::Code;

use super::blocks::Block;
use super::comments::Beside;
use super::offsets::Offsets;
use super::options::Options;
use super::place::{blank_columns, Pen, Place};
use super::stack::Frames;
use super::ways::{Shown, Ways};

/// A line that begins with a token.
#[derive(Clone, Copy, Debug)]
pub(crate) struct Line {
    pub token: TokenId,
    /// First byte of the line.
    pub start: u32,
    /// First byte of the token.
    pub end: u32,
    /// Where it begins now.
    pub found: Place,
    /// Whether it stays there.
    pub kept: bool,
    /// Whether it holds a comment that goes on with the one behind the code of the line above.
    pub goes_on: bool,
}

/// A mark of the byte order is one at the very start of a file only.
fn begins_with_mark(text: &str) -> bool {
    text.starts_with('\u{feff}')
}

/// The lines of a file that begin with a token. Those outside of `only` are kept, and those where something else than blanks is in front
/// of the token.
pub(crate) fn lines(code: Code<'_>, indentation: Indentation, only: Option<&[Span]>) -> Vec<Line> {
    let Code { source, tree, .. } = code;
    let text = source.text();
    let mut lines: Vec<Line> = Vec::new();
    let mut beside = Beside::default();
    for token in 0..tree.tokens().len() as u32 {
        let gap = tree.gap_span(token);
        let white = gap.of(text);
        let start = match white.rfind('\n') {
            Some(at) => gap.start + at as u32 + 1,
            None if token == 0 => gap.start,
            None => {
                beside.pass(code, token, indentation.tab_width);
                continue;
            }
        };
        let blank_span = Span::new(start, gap.end);
        let blank = blank_span.of(text);
        let plain = blank.bytes().all(|byte| matches!(byte, b' ' | b'\t'));
        let wanted = only.is_none_or(|only| only.iter().any(|only| touches_blank(*only, blank_span)));
        lines.push(Line {
            token,
            start,
            end: gap.end,
            found: Place::of(blank, indentation),
            goes_on: beside.begins_line(code, token, white, blank_columns(blank, indentation.tab_width)),
            kept: !plain || !wanted || start == 0 && text.get(gap.end as usize..).is_some_and(begins_with_mark),
        });
    }
    lines
}

/// Whether a span touches a line whose white space is that.
pub(crate) fn touches_blank(only: Span, blank: Span) -> bool {
    only.start <= blank.end && blank.start < only.end.max(only.start + 1)
}

/// Where lines begin, what there is of several lines, and what the lines show.
pub(crate) struct Placed {
    pub places: Vec<Place>,
    pub blocks: Vec<Block>,
    pub shown: Option<Shown>,
    /// How far in they stand inside each frame, if that was to be found out.
    pub offsets: Option<Offsets>,
    /// Whether the white space of each line may be left as it is, if it takes as many columns as it should.
    pub stays: Vec<bool>,
}

/// Where a text begins.
#[derive(Clone, Copy)]
pub(crate) struct Margin {
    pub place: Place,
    /// By how many columns its first line was moved to get there, if that is known.
    pub moved: Option<i64>,
}

impl Default for Margin {
    /// That of a file.
    fn default() -> Self {
        Self { place: Place::default(), moved: Some(0) }
    }
}

/// Tells where each of `lines` begins. Lines that are not wanted stay where they are; where there are `ways`, so do those that stand for
/// something.
pub(crate) fn placed(
    code: Code<'_>,
    options: &Options,
    margin: Margin,
    lines: &[Line],
    ways: Option<Ways<'_>>,
) -> Placed {
    let shift = margin.moved.unwrap_or_else(|| {
        let first = lines.iter().find(|line| line.start > 0 && !code.tree.is_comment(line.token));
        first.map_or(0, |line| i64::from(margin.place.columns()) - i64::from(line.found.columns()))
    });
    driven(Frames::new(code, &code.toolkit().indent, options, margin.place).with_ways(ways, shift), lines)
}

fn driven(mut frames: Frames<'_>, lines: &[Line]) -> Placed {
    let (tree, source) = (frames.tree(), frames.source());
    let mut pen = Pen::new(source.text(), frames.tab_width());
    let mut lines = lines.iter().peekable();
    // The column of the last comment behind code.
    let mut beside = 0;
    for (token, facts) in tree.tokens().iter().enumerate() {
        let token = token as u32;
        if let Some(line) = lines.next_if(|line| line.token == token) {
            let kept = match line.goes_on {
                true => Some(frames.line_place().lined_up(beside)),
                false => Some(line.found),
            };
            frames.ways.iter_mut().for_each(|ways| ways.column = line.found.columns());
            let kept = kept.filter(|_| line.kept || line.goes_on || frames.is_kept(token));
            let place = frames.begin_line(token, kept.map(|kept| if line.kept { line.found } else { kept }));
            pen.set(line.end, place.columns());
        }
        if lines.peek().is_some_and(|next| next.goes_on && next.token == token + 1) {
            beside = pen.column_of(facts.start);
        }
        frames.pass(token, &mut || pen.column_of(facts.start));
    }
    frames.finish();
    let (shown, offsets) = frames.ways.map(|ways| (ways.shown, ways.counted)).unzip();
    Placed {
        places: frames.places,
        blocks: frames.blocks,
        shown,
        offsets: offsets.flatten(),
        stays: frames.stays,
    }
}

/// Whether a line holds a comment that stays at the margin: as a rule it is code that is not to run. `indented` tells whether any code of
/// the file is indented.
pub(crate) fn stays_at_margin(code: Code<'_>, line: &Line, indented: bool) -> bool {
    let text = || code.tree.tokens().get(line.token as usize).map_or("", |token| code.source.slice(token.span()));
    indented && line.found.columns() == 0 && code.tree.is_comment(line.token) && !text().contains('\n')
}

/// Whether any line that holds code is indented.
pub(crate) fn any_indented(code: Code<'_>) -> bool {
    let Code { source, tree, .. } = code;
    let indented = |token: u32| {
        let white = source.slice(tree.gap_span(token));
        white.ends_with([' ', '\t']) && (token == 0 || white.contains('\n')) && !tree.is_comment(token)
    };
    (0..tree.tokens().len() as u32).any(indented)
}
