//! Settles which brackets count where the branches of a conditional cut through them: those of the first branch.

use super::brackets::Side;

/// A line that parts code for the compiler.
#[derive(Clone, Copy, PartialEq, Eq)]
pub(super) enum Directive {
    /// Begins a conditional; whether its first branch is never compiled.
    If { never: bool },
    /// Begins another branch.
    Else,
    /// Ends a conditional.
    End,
}

/// What one lexeme is to conditionals.
pub(super) enum Part {
    Directive(Directive),
    Bracket(u8, Side),
    /// Begins something whose body may stand behind the conditional.
    Header,
    /// Begins that body.
    Body(u8),
    Other,
}

/// A branch that is being gone through: brackets opened and not closed in it, and closing ones that close nothing in it.
#[derive(Default)]
struct Branch {
    open: Vec<(usize, u8)>,
    closing: Vec<(usize, u8)>,
    start: usize,
    header: bool,
}

impl Branch {
    fn take(&mut self, index: usize, shape: u8, side: Side) {
        match side {
            Side::Opens | Side::OpensValue => self.open.push((index, shape)),
            Side::Closes if self.open.last().is_some_and(|(_, other)| *other == shape) => drop(self.open.pop()),
            Side::Closes => self.closing.push((index, shape)),
        }
    }

    fn is_balanced(&self) -> bool {
        self.open.is_empty() && self.closing.is_empty() && !self.header
    }
}

/// A conditional that is open.
struct Conditional {
    /// The branch that counts, once it has been gone through.
    chosen: Option<Branch>,
    /// Whether the branch that is being gone through is never compiled.
    never: bool,
    around: Branch,
}

/// What does not count.
#[derive(Default)]
pub(super) struct Settled {
    /// Lexemes that look like brackets and are none.
    pub inert: Vec<usize>,
    /// Runs of lexemes that are to be read flat: branches with inert brackets, from their directive to the next, in order.
    pub runs: Vec<(u32, u32)>,
}

/// Goes over `count` lexemes.
pub(super) fn settle(count: usize, part: impl Fn(usize) -> Part) -> Settled {
    let mut open: Vec<Conditional> = Vec::new();
    let mut branch = Branch::default();
    let mut settled = Settled::default();
    for index in 0..count {
        match part(index) {
            Part::Other => {}
            Part::Bracket(kind, side) => branch.take(index, kind, side),
            Part::Header => branch.header = true,
            Part::Body(kind) => {
                branch.header = false;
                branch.take(index, kind, Side::Opens);
            }
            Part::Directive(Directive::If { never }) => {
                let around = std::mem::replace(&mut branch, Branch { start: index + 1, ..Branch::default() });
                open.push(Conditional { chosen: None, never, around });
            }
            Part::Directive(Directive::Else) => {
                if let Some(conditional) = open.last_mut() {
                    let done = std::mem::replace(&mut branch, Branch { start: index + 1, ..Branch::default() });
                    finish(conditional, done, index, &mut settled);
                    conditional.never = false;
                }
            }
            Part::Directive(Directive::End) => {
                if let Some(mut conditional) = open.pop() {
                    let done = std::mem::take(&mut branch);
                    finish(&mut conditional, done, index, &mut settled);
                    branch = conditional.around;
                    let chosen = conditional.chosen.unwrap_or_default();
                    for (index, kind) in chosen.closing {
                        branch.take(index, kind, Side::Closes);
                    }
                    branch.open.extend(chosen.open);
                    branch.header |= chosen.header;
                }
            }
        }
    }
    settled.runs.sort_unstable();
    settled.runs = outermost(std::mem::take(&mut settled.runs));
    settled
}

/// Chooses a branch that has been gone through, or makes inert what is unbalanced in it. What is so beside a balanced branch is
/// damaged, since no code fits behind both, and is left as it is.
fn finish(conditional: &mut Conditional, done: Branch, end: usize, settled: &mut Settled) {
    match &conditional.chosen {
        None if !conditional.never => {
            conditional.chosen = Some(done);
            return;
        }
        Some(chosen) if chosen.is_balanced() => return,
        _ => {}
    }
    if !done.is_balanced() {
        settled.inert.extend(done.open.iter().chain(&done.closing).map(|(index, _)| *index));
        settled.runs.push((done.start as u32, end as u32));
    }
}

/// Leaves out runs inside others.
fn outermost(runs: Vec<(u32, u32)>) -> Vec<(u32, u32)> {
    let mut kept: Vec<(u32, u32)> = Vec::with_capacity(runs.len());
    for run in runs {
        if kept.last().is_none_or(|last| run.0 >= last.1) {
            kept.push(run);
        }
    }
    kept
}
