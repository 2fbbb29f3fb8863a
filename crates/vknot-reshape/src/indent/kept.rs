//! How the lines of a well-kept file stand: by the settings, by what the file shows of them, and in the ways of its author.

use std::collections::HashSet;

use vknot_style::{Indentation, Key, Style};
use vknot_syntax::{Role, Span, TokenId};

use super::manner;
use super::shown::options;
use crate::frames::bracketed::bracketed;
use crate::frames::found::indentation as found_indentation;
use crate::frames::lines::{Line, Margin, Placed, placed};
use crate::frames::offsets::Offsets;
use crate::frames::options::Options;
use crate::frames::ways::{Shown, Ways};
use crate::spec::Code;
use crate::spec::indent::LinesBy;

/// What lets the lines of a well-kept file stand as they do.
pub(crate) struct Kept {
    /// What decides where lines stand.
    pub options: Options,
    pub(super) style: Style,
    offsets: Option<Offsets>,
    bracketed: HashSet<TokenId>,
    /// Whether nothing says what indentation is made of, so that what a line begins with may stay.
    pub open: bool,
    /// Whether lines are indented with tabs and with spaces, which stays then.
    pub mixed: bool,
}

impl Kept {
    /// The ways that lines may stand in.
    pub fn ways(&self) -> Ways<'_> {
        Ways::new(&self.style).with_offsets(self.offsets.as_ref()).with_bracketed(&self.bracketed)
    }
}

/// Where the lines of a file stand.
pub(super) enum Stand {
    /// In a jumble, or flat: by the rules alone.
    ByRules(Box<Options>),
    /// All where they were written.
    AsWritten(Box<Placed>, Box<Kept>),
    /// Well kept, but for some.
    Kept(Box<Kept>),
}

/// How many lines a page has at least that nests nothing on purpose.
const PAGE: usize = 10;

/// Tells how the lines of a file stand.
pub(super) fn stand(code: Code<'_>, style: &Style, indentation: Indentation, margin: Margin, lines: &[Line]) -> Stand {
    // What the size of levels is in the file, where one is set.
    let size = style.word(Key::IndentSize);
    let found = if size == "as-found" { None } else { found_indentation(code) };
    let in_size = found.is_none_or(|found| found.size == indentation.size);
    // To set what the file shows anyway leaves it open.
    let same = found.is_some_and(|found| in_size && found.tabs == indentation.tabs);
    let opened = same.then(|| style.with_found(Key::IndentSize, size.to_owned()));
    let style = opened.as_ref().unwrap_or(style);
    let usual = options(code, style, indentation);
    let placed = |ways| placed(code, &usual, margin, lines, ways);
    // Lines may stand in ways of their own if those that are together agree, unless the size of a level is set.
    let sized = !style.is_open(Key::IndentSize);
    let bracketed = if in_size { bracketed(code, lines, indentation.tab_width) } else { HashSet::new() };
    let mut first = placed(Some(Ways::new(style).with_bracketed(&bracketed).counting()));
    // What stands at the margin from end to end was not indented by anyone; a page may be meant so, and lists of data.
    let flat = lines.iter().all(|line| line.found.columns() == 0 || !is_code(code, line));
    let short = !code.toolkit().indent.spec.page.is_empty() && lines.len() < PAGE;
    let whole = first.shown.as_ref().is_some_and(Shown::is_whole) && !(flat && short);
    let offsets = first.offsets.take().filter(|_| !sized);
    let open = is_open(style);
    let mixed = open && is_mixed(code, lines);
    if whole {
        let kept = Kept { options: usual, style: style.clone(), offsets, bracketed, open, mixed };
        return Stand::AsWritten(Box::new(first), Box::new(kept));
    }
    if flat && !offsets.as_ref().is_some_and(Offsets::are_tables) {
        return Stand::ByRules(Box::new(usual));
    }
    let second = placed(Some(Ways::new(style).with_offsets(offsets.as_ref()).with_bracketed(&bracketed)));
    let Some(all) = second.shown.as_ref().filter(|shown| shown.is_kept()) else {
        return Stand::ByRules(Box::new(usual))
    };
    let own = if all.is_whole() { style.clone() } else { manner::own(all, style) };
    let options = options(code, &own, indentation);
    Stand::Kept(Box::new(Kept { options, style: own, offsets, bracketed, open, mixed }))
}

/// What lets lines of a file stay as they are; `None` where they go by the rules alone.
pub(crate) fn kept(code: Code<'_>, style: &Style, indentation: Indentation) -> Option<Kept> {
    let structure = code.toolkit().indent.spec.lines == LinesBy::Structure;
    if !structure || code.tree.gave_up() {
        return None;
    }
    let lines = crate::frames::lines::lines(code, indentation, None);
    // What stands at the margin from end to end was laid out by nobody.
    if lines.iter().all(|line| line.found.columns() == 0) {
        return None;
    }
    match stand(code, style, indentation, Margin::default(), &lines) {
        Stand::ByRules(_) => None,
        Stand::AsWritten(_, kept) | Stand::Kept(kept) => Some(*kept),
    }
}

/// Whether a line begins with something else than a comment or text.
fn is_code(code: Code<'_>, line: &Line) -> bool {
    let role = code.tree.tokens().get(line.token as usize).map(|token| code.tree.role(token.node));
    !matches!(role, Some(Role::Comment | Role::Inert))
}

/// Whether nobody set what indentation is made of.
pub(super) fn is_open(style: &Style) -> bool {
    style.is_open(Key::IndentStyle)
}

/// Whether one in ten of the indented lines and more begin with tabs, and as many with spaces only.
pub(super) fn is_mixed(code: Code<'_>, lines: &[Line]) -> bool {
    let blanks = lines.iter().map(|line| Span::new(line.start, line.end).of(code.source.text()));
    let indented = blanks.filter(|blank| !blank.is_empty());
    let (tabs, all) = indented.fold((0, 0), |(tabs, all), blank| (tabs + usize::from(blank.contains('\t')), all + 1));
    tabs >= MIXED && tabs + MIXED <= all && tabs * 10 >= all && tabs * 10 <= all * 9
}

/// How many lines of either kind a file has at least that mixes them.
const MIXED: usize = 5;
