//! How wide the lines of a file are, for when nothing says how wide they may be.

use vknot_syntax::{Role, Source, Tree};

use crate::spec::Code;
use crate::frames::place::{blank_columns, width_of};

/// Widths that people keep to.
const USUAL: [u32; 3] = [80, 100, 120];

/// Widths that a file may keep to where no usual one holds all of its lines.
const WIDER: [u32; 4] = [100, 120, 140, 160];

/// How many lines a file has at least that keeps to a usual width but for one.
const SOME: u32 = 20;

/// How many lines a file has at least that keeps to a width but for some, and one in how many these are at most.
const MANY: u32 = 100;

/// What stands on no line of its own and cannot be broken is no witness: a token wider than this.
const WIDE: u32 = 40;

/// The longest line of what passes, comments, imports and lines with wide tokens aside, and how many are how long.
#[derive(Clone, Copy, Debug)]
pub(super) struct Longest {
    longest: u32,
    lines: u32,
    /// Lines that are longer than each of the wider widths.
    over: [u32; WIDER.len()],
    line: u32,
    end: u32,
    counts: bool,
}

impl Default for Longest {
    fn default() -> Self {
        Self { longest: 0, lines: 0, over: [0; WIDER.len()], line: 0, end: 0, counts: true }
    }
}

impl Longest {
    /// A token ends at a column of a line. Of one with several lines the first counts.
    pub fn pass(&mut self, line: u32, end: u32, width: u32, counts: bool) {
        if line != self.line {
            self.finish_line();
            *self = Self { line, counts: true, ..*self };
        }
        self.end = end;
        self.counts &= width <= WIDE && counts;
    }

    fn finish_line(&mut self) {
        if self.counts {
            self.longest = self.longest.max(self.end);
            self.lines += 1;
            for (width, over) in WIDER.into_iter().zip(&mut self.over) {
                *over += u32::from(self.end > width);
            }
        }
    }

    /// The narrowest usual width that holds all lines.
    pub fn usual(mut self) -> Option<u32> {
        self.finish_line();
        USUAL.into_iter().find(|width| self.longest <= *width)
    }

    /// The narrowest width from `least` on that holds all but a few of many lines.
    pub fn most(mut self, least: u32) -> Option<u32> {
        self.finish_line();
        // In a shorter file one line may be an exception to a usual width.
        let one = |width: u32, over: u32| self.lines >= SOME && over <= 1 && USUAL.contains(&width);
        let few = |width: u32, over: u32| self.lines >= MANY && over * MANY <= self.lines || one(width, over);
        let mut widths = WIDER.into_iter().zip(self.over);
        let most = widths.find(|(width, over)| *width >= least && few(*width, *over)).map(|(width, _)| width);
        let [over, wider, wide, widest] = self.over;
        let falls = over - wider >= 10 && over - wider >= wider - wide && wider - wide >= wide - widest;
        most.or(falls.then_some(WIDER[3]))
    }
}

/// For each token whether it says something about how wide lines may be.
pub(super) fn witnesses(tree: &Tree) -> Vec<bool> {
    let mut witnesses = vec![true; tree.tokens().len()];
    for node in tree.nodes() {
        if matches!(tree.language().role(node.kind), Role::Import | Role::Package | Role::Comment) {
            witnesses[node.first_token as usize..node.token_end as usize].fill(false);
        }
    }
    witnesses
}

/// The lines of a file as written.
pub(super) fn written(code: Code<'_>, tab_width: u32, witnesses: &[bool]) -> Longest {
    let Code { source, tree, .. } = code;
    let text: &Source = source;
    let mut longest = Longest::default();
    let (mut line, mut column, mut at) = (0, 0, 0);
    for (index, token) in tree.tokens().iter().enumerate() {
        let span = token.span();
        let gap = text.text().get(at as usize..span.start as usize).unwrap_or("");
        let last = gap.rsplit('\n').next().unwrap_or(gap);
        if last.len() < gap.len() {
            (line, column) = (line + 1, blank_columns(last, tab_width));
        } else {
            column += width_of(gap);
        }
        let content = text.slice(span);
        let first = content.split('\n').next().unwrap_or(content);
        let width = width_of(first);
        if tree.role(token.node) != Role::Comment {
            let counts = witnesses.get(index).copied().unwrap_or(true);
            longest.pass(line, column + width, width, counts);
        }
        column += width;
        if first.len() < content.len() {
            (line, column) = (line + 1, width_of(content.rsplit('\n').next().unwrap_or("")));
        }
        at = span.end;
    }
    longest
}
