//! How wide the lines of a file are, for when nothing says how wide they may be.

use vknot_syntax::{Bracket, Node, Role, Source};

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

/// What is wider can hardly stand with others on a line, and cannot be broken itself.
const WIDE: u32 = 40;

/// How much further in than its line it would stand on one of its own.
const FURTHER: u32 = 8;

/// What a token, and the line it is on, says of the width that its file keeps to. The least of its tokens counts for a line.
#[derive(Clone, Copy, Debug, PartialEq, Eq, PartialOrd, Ord)]
pub(super) enum Witness {
    /// Nothing.
    No,
    /// It cannot be broken: nothing where it begins the line, else as much as `Narrower`.
    Fixed,
    /// That no narrower width is kept to; how wide lines may be, only as far as others say.
    Narrower,
    /// How wide lines may be.
    Yes,
}

/// The longest line of what passes, comments and what cannot be broken aside, and how many are how long.
#[derive(Clone, Copy, Debug)]
pub(super) struct Longest {
    /// What is kept to where nothing shows otherwise.
    habit: u32,
    longest: u32,
    lines: u32,
    /// Lines that are longer than each of the wider widths.
    over: [u32; WIDER.len()],
    line: u32,
    start: u32,
    end: u32,
    /// The widest token of the line that is not its first.
    widest: u32,
    witness: Witness,
}

impl Longest {
    pub fn of(habit: u32) -> Self {
        let over = [0; WIDER.len()];
        Self { habit, longest: 0, lines: 0, over, line: u32::MAX, start: 0, end: 0, widest: 0, witness: Witness::No }
    }

    /// A token ends at a column of a line. Of one with several lines the first counts.
    pub fn pass(&mut self, line: u32, end: u32, width: u32, witness: Witness) {
        let begins = line != self.line;
        if begins {
            self.finish_line();
            *self = Self { line, start: end.saturating_sub(width), widest: 0, witness: Witness::Yes, ..*self };
        }
        self.end = end;
        let wide = width > WIDE;
        self.widest = self.widest.max(if begins { 0 } else { width });
        let witness = match witness {
            Witness::Fixed => if begins { Witness::No } else { Witness::Narrower },
            Witness::Yes if wide && begins => Witness::No,
            other => other,
        };
        self.witness = self.witness.min(witness);
    }

    fn finish_line(&mut self) {
        // Where the widest token would fit a line of its own, its author did without.
        let stuck = self.widest > WIDE && self.start + FURTHER + self.widest > self.habit;
        self.witness = if stuck { self.witness.min(Witness::Narrower) } else { self.witness };
        if self.witness == Witness::Yes {
            self.lines += 1;
            for (width, over) in WIDER.into_iter().zip(&mut self.over) {
                *over += u32::from(self.end > width);
            }
        }
        if self.witness == Witness::Yes || self.witness == Witness::Narrower && self.end <= self.habit {
            self.longest = self.longest.max(self.end);
        }
    }

    /// The narrowest usual width that holds all lines.
    pub fn usual(mut self) -> Option<u32> {
        self.finish_line();
        USUAL.into_iter().find(|width| self.longest <= *width)
    }

    /// The narrowest width from the habit on that holds all but a few of many lines.
    pub fn most(mut self) -> Option<u32> {
        self.finish_line();
        // In a shorter file one line may be an exception to a usual width.
        let one = |width: u32, over: u32| self.lines >= SOME && over <= 1 && USUAL.contains(&width);
        let few = |width: u32, over: u32| self.lines >= MANY && over * MANY <= self.lines || one(width, over);
        let mut widths = WIDER.into_iter().zip(self.over);
        let most = widths.find(|(width, over)| *width >= self.habit && few(*width, *over)).map(|(width, _)| width);
        let [over, wider, wide, widest] = self.over;
        let falls = over - wider >= 10 && over - wider >= wider - wide && wider - wide >= wide - widest;
        most.or(falls.then_some(WIDER[3]))
    }
}

/// What each token says about how wide lines may be.
pub(super) fn witnesses(code: Code<'_>) -> Vec<Witness> {
    let tree = code.tree;
    let mut witnesses = vec![Witness::Yes; tree.tokens().len()];
    // What is told of a node holds for all that is in it.
    let mut told = 0;
    for node in tree.nodes() {
        if node.first_token < told {
            continue;
        }
        let witness = match tree.language().role(node.kind) {
            Role::Import if has_list(code, node) => Witness::Narrower,
            Role::Macro => Witness::Fixed,
            Role::Import | Role::Package | Role::Comment => Witness::No,
            _ => continue,
        };
        if let Some(tokens) = witnesses.get_mut(node.first_token as usize..node.token_end as usize) {
            tokens.fill(witness);
            told = node.token_end;
        }
    }
    witnesses
}

/// Whether an import names things in brackets, between which it can be broken.
fn has_list(code: Code<'_>, import: &Node) -> bool {
    let tokens = code.tree.tokens().get(import.first_token as usize..import.token_end as usize).unwrap_or_default();
    let opens = |text: &str| Bracket::of(text).is_some_and(|bracket| bracket.opens);
    tokens.iter().any(|token| opens(code.source.slice(token.span())))
}

/// The lines of a file as written.
pub(super) fn written(code: Code<'_>, tab_width: u32, habit: u32, witnesses: &[Witness]) -> Longest {
    let Code { source, tree, .. } = code;
    let text: &Source = source;
    let mut longest = Longest::of(habit);
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
            let witness = witnesses.get(index).copied().unwrap_or(Witness::Yes);
            longest.pass(line, column + width, width, witness);
        }
        column += width;
        if first.len() < content.len() {
            (line, column) = (line + 1, width_of(content.rsplit('\n').next().unwrap_or("")));
        }
        at = span.end;
    }
    longest
}
