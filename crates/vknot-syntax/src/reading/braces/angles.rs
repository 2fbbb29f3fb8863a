//! Names of C and C++ with arguments in angle brackets, which without types may also be comparisons.

use crate::reading::expressions::Shape;
use super::expressions::Values;
use super::heads::is_macro;
use super::*;

/// Within how many lexemes angle brackets must close.
const ANGLES_AT_MOST: usize = 48;
/// The same among the parameters of a template.
const TEMPLATE_AT_MOST: usize = 200;

impl Values<'_> {
    /// Where a name ends, with what qualifies it and its arguments in angle brackets.
    pub fn path_end(&self, start: usize, end: usize) -> usize {
        let mut at = start + 1;
        while at < end {
            match self.heads.word(at) {
                "<" => match self.angles_end(at, end) {
                    Some(next) => at = next,
                    None => return at,
                },
                "::" if self.heads.kind(at + 1) == Some(WORD) && at + 1 < end => at += 2,
                "::" if self.heads.word(at + 1) == "~" && at + 2 < end => at += 3,
                _ => return at,
            }
        }
        at
    }

    /// Where arguments in angle brackets end that begin at `start`; `None` when the mark is more likely an operator.
    pub fn angles_end(&self, start: usize, end: usize) -> Option<usize> {
        if self.heads.kind(start.checked_sub(1)?) != Some(WORD) {
            return None;
        }
        let (mut at, mut depth) = (start, 0u32);
        let limit = end.min(start + if self.template { TEMPLATE_AT_MOST } else { ANGLES_AT_MOST });
        while at < limit {
            match (self.heads.kind(at)?, self.heads.word(at)) {
                (MARK, "<") => depth += 1,
                (MARK, ">") => {
                    depth -= 1;
                    if depth == 0 {
                        break;
                    }
                }
                (MARK, _) if self.template => {}
                // What joins conditions is no argument, unlike the mark of a type at its end.
                (MARK, "&&")
                    if !matches!(self.heads.word(at + 1), ">" | "...") && self.heads.kind(at + 1) != Some(COMMA) =>
                {
                    return None;
                }
                (MARK, "::" | "*" | "&" | "&&" | "|" | "..." | "-")
                | (WORD | NUMBER | COMMA | CHARACTER | COMMENT, _) => {}
                (OPEN_ROUND | OPEN_SQUARE, _) => at = self.heads.close_of(at)?,
                // A value of a type that is named.
                (OPEN_CURLY, _) if self.heads.kind(at - 1) == Some(WORD) => at = self.heads.close_of(at)?,
                _ => return None,
            }
            at += 1;
        }
        let behind = at + 1;
        let ends = match self.heads.kind(behind) {
            _ if at >= limit => false,
            _ if behind >= end => true,
            Some(OPEN_ROUND | OPEN_CURLY | COMMA | SEMICOLON | CLOSE_ROUND | CLOSE_SQUARE | CLOSE_CURLY) => true,
            Some(WORD) => !self.is_macro_value(behind),
            Some(MARK) => matches!(self.heads.word(behind), "::" | ">" | "*" | "&" | "&&" | "..." | "="),
            _ => false,
        };
        ends.then_some(behind)
    }

    /// A word that is a value rather than what a type declares: `a < b > MAX`.
    fn is_macro_value(&self, at: usize) -> bool {
        is_macro(self.heads.word(at))
    }

    /// The arguments in angle brackets of a name, and of names in these.
    pub fn template_arguments(&self, name: usize, shapes: &mut Vec<Shape>) {
        let Some(Shape { start, end, .. }) = shapes.get(name).copied().filter(|shape| shape.kind == QUALIFIED) else {
            return;
        };
        let (mut at, mut open) = (start as usize, Vec::new());
        while at < end as usize {
            match self.heads.word(at) {
                "<" => open.push(at as u32),
                ">" => shapes.extend(open.pop().map(|start| Shape {
                    kind: TEMPLATE_ARGUMENTS,
                    start,
                    end: at as u32 + 1,
                })),
                _ => {}
            }
            at = self.heads.behind(at);
        }
    }
}
