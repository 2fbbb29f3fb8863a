//! Settles which brackets count where the branches of a conditional cut through them.

use crate::reading::brackets::Side;
use crate::reading::Lexeme;
use super::{DIRECTIVE, INERT, shape};

/// A branch that is being gone through: brackets opened and not closed in it, and closing ones that close nothing in it.
#[derive(Default)]
struct Branch {
    open: Vec<(usize, u8)>,
    closing: Vec<(usize, u8)>,
    start: usize,
}

impl Branch {
    fn take(&mut self, index: usize, shape: u8, side: Side) {
        match side {
            Side::Opens => self.open.push((index, shape)),
            Side::Closes if self.open.last().is_some_and(|(_, other)| *other == shape) => drop(self.open.pop()),
            Side::Closes => self.closing.push((index, shape)),
        }
    }

    fn is_balanced(&self) -> bool {
        self.open.is_empty() && self.closing.is_empty()
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

/// Makes inert what does not count. Gives the runs of lexemes that are to be read flat: branches with inert brackets, from their
/// directive to the next, in order.
pub(super) fn settle(text: &str, lexemes: &mut [Lexeme]) -> Vec<(u32, u32)> {
    let mut open: Vec<Conditional> = Vec::new();
    let mut branch = Branch::default();
    let mut inactive = Vec::new();
    for index in 0..lexemes.len() {
        let lexeme = lexemes[index];
        if lexeme.kind != DIRECTIVE {
            if let Some((kind, side)) = shape(lexeme.kind) {
                branch.take(index, kind, side);
            }
            continue;
        }
        let line = lexeme.of(text).trim_start_matches('#').trim_start();
        match line.split(|c: char| !c.is_ascii_alphabetic()).next() {
            Some("if" | "ifdef" | "ifndef") => {
                let around = std::mem::replace(&mut branch, Branch { start: index + 1, ..Branch::default() });
                let never = line.strip_prefix("if").is_some_and(|rest| rest.trim() == "0");
                open.push(Conditional { chosen: None, never, around });
            }
            Some("else" | "elif" | "elifdef" | "elifndef") => {
                if let Some(conditional) = open.last_mut() {
                    let done = std::mem::replace(&mut branch, Branch { start: index + 1, ..Branch::default() });
                    finish(conditional, done, index, lexemes, &mut inactive);
                    conditional.never = false;
                }
            }
            Some("endif") => {
                if let Some(mut conditional) = open.pop() {
                    let done = std::mem::take(&mut branch);
                    finish(&mut conditional, done, index, lexemes, &mut inactive);
                    branch = conditional.around;
                    let chosen = conditional.chosen.unwrap_or_default();
                    for (index, kind) in chosen.closing {
                        branch.take(index, kind, Side::Closes);
                    }
                    branch.open.extend(chosen.open);
                }
            }
            _ => {}
        }
    }
    inactive.sort_unstable();
    outermost(inactive)
}

/// Chooses a branch that has been gone through, or makes inert what is unbalanced in it.
fn finish(conditional: &mut Conditional, done: Branch, end: usize, lexemes: &mut [Lexeme], inactive: &mut Vec<(u32, u32)>) {
    if conditional.chosen.is_none() && !conditional.never {
        conditional.chosen = Some(done);
        return;
    }
    if done.is_balanced() {
        return;
    }
    for (index, _) in done.open.iter().chain(&done.closing) {
        if let Some(lexeme) = lexemes.get_mut(*index) {
            lexeme.kind = INERT;
        }
    }
    inactive.push((done.start as u32, end as u32));
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
