//! What is read through by itself: heads with their names and parameters, values, groups and lambdas.

use crate::language::Field;
use crate::reading::braces::*;
use crate::reading::braces::expressions::{Run, Values};
use crate::reading::braces::heads::{Context, Head};
use super::{Frame, Reader};

/// How many heads may be read through within one another.
const HEADS_WITHIN_AT_MOST: u32 = 40;

impl<'r> Reader<'r, '_> {
    /// Reads until no more than `depth` frames are open. Heads within heads within heads are read flat at last, so that their depth
    /// is not ours.
    pub(super) fn run_down(&mut self, depth: usize) {
        if self.heads_within >= HEADS_WITHIN_AT_MOST {
            while self.frames.len() > depth {
                let (end, closes) = match self.frames.pop() {
                    Some(Frame::Values { end }) => (end, 0),
                    Some(Frame::Group { end, closes }) => (end + 1, closes),
                    _ => continue,
                };
                while self.at < end {
                    self.plan.apply(self.at, self.builder);
                    self.token();
                }
                self.plan.apply(end, self.builder);
                (0..closes).for_each(|_| self.builder.close());
            }
            return;
        }
        self.heads_within += 1;
        while self.frames.len() > depth && self.step() {}
        self.heads_within -= 1;
    }

    /// A head in front of a body, read through before the body is opened.
    pub(super) fn head_values(&mut self, head: &Head) {
        let depth = self.frames.len();
        self.named_values(head);
        self.run_down(depth);
    }

    /// `template <...>` in front of a declaration, with its parameters as a list.
    fn template_heads(&mut self, end: usize) {
        if self.heads.word(self.at) == "export" && self.heads.word(self.at + 1) == "template" {
            self.token();
        }
        while self.heads.word(self.at) == "template" && let Some(behind) = self.heads.behind_angles(self.at + 1, end) {
            self.token();
            self.builder.open(TEMPLATE_PARAMETERS, Field(0));
            self.token();
            let depth = self.frames.len();
            self.values(behind - 1, Run::Template);
            self.run_down(depth);
            self.token();
            self.builder.close();
            self.constraint(end);
        }
    }

    /// `requires Number<T>`, if it is next.
    fn constraint(&mut self, limit: usize) {
        let Some(end) = self.heads.behind_constraint(self.at, limit) else { return };
        self.builder.open(CONSTRAINT, Field(0));
        self.token();
        let depth = self.frames.len();
        self.values(end, Run::Constraint);
        self.run_down(depth);
        self.builder.close();
    }

    /// What stands behind the parameters of a function, what it requires among it.
    fn words_and_constraint(&mut self, end: usize, run: Run) {
        let mut at = self.at;
        while at < end && self.heads.word(at) != "requires" {
            at = self.heads.behind(at);
        }
        if at < end {
            let depth = self.frames.len();
            self.values(at, run);
            self.run_down(depth);
            self.constraint(end);
        }
        self.values(end, run);
    }

    /// A head's lexemes, with its name and its parameters marked; what cannot be given at once is left in frames.
    pub(super) fn named_values(&mut self, head: &Head) {
        self.template_heads(head.end);
        let Some((from, to)) = head.name else {
            let run = if head.kind == STATEMENT { Run::Statement } else { Run::Words };
            return self.values(head.end, run);
        };
        let depth = self.frames.len();
        self.values(from, Run::Words);
        self.run_down(depth);
        if to - from == 1 {
            self.token();
            self.builder.set_field(self.builder.last(), Field::NAME);
        } else {
            self.builder.open(QUALIFIED, Field::NAME);
            while self.at < to {
                self.token();
            }
            self.builder.close();
        }
        let run = if head.has_body || head.parameters.is_some() { Run::Words } else { Run::Declared };
        let Some(close) = head.parameters.filter(|open| *open == self.at).and_then(|open| self.heads.close_of(open))
        else {
            return self.values(head.end, run);
        };
        let depth = self.frames.len();
        self.builder.open(PARAMETERS, Field::PARAMETERS);
        self.token();
        self.group(close, 1, Run::Parameters);
        self.run_down(depth);
        self.words_and_constraint(head.end, run);
    }

    /// `NAME = value` in an enumeration.
    pub(super) fn constant(&mut self) {
        let limit = self.limit();
        let mut end = self.at;
        while end < limit
            && !matches!(self.heads.kind(end), Some(COMMA | SEMICOLON | DIRECTIVE | INCLUDE | MACRO_DEFINITION))
        {
            end = self.heads.behind(end);
        }
        self.builder.open(CONSTANT, Field(0));
        let named = self.heads.kind(self.at) == Some(WORD);
        self.token();
        if named {
            self.builder.set_field(self.builder.last(), Field::NAME);
        }
        let depth = self.frames.len();
        self.values(end.min(limit), Run::Declared);
        self.run_down(depth);
        self.builder.close();
    }

    /// One lexeme of a value, or the beginning of a group.
    pub(super) fn value(&mut self, end: usize) {
        let close = self.heads.close_of(self.at).filter(|close| *close < end);
        let Some(close) = close else { return self.token() };
        let values = self.values_of();
        match self.lexemes[self.at].kind {
            OPEN_SQUARE if let Some(body) = self.lambda_body(close, end) => return self.lambda(body),
            OPEN_CURLY if values.holds_statements(self.at, close) => return self.block(BLOCK, Context::Code, 1),
            _ => {}
        }
        self.token();
        self.group(close, 0, Run::Values);
    }

    fn values_of(&self) -> Values<'r> {
        Values { heads: self.heads, inactive: self.inactive, template: false }
    }

    /// What is inside a bracket that has been given.
    pub(super) fn group(&mut self, close: usize, closes: u32, run: Run) {
        self.frames.push(Frame::Group { end: close, closes });
        self.expect(close, run);
    }

    /// Words and groups up to `end`.
    pub(super) fn values(&mut self, end: usize, run: Run) {
        self.frames.push(Frame::Values { end });
        self.expect(end, run);
    }

    /// Finds the nodes of what is read next.
    fn expect(&mut self, end: usize, run: Run) {
        let values = Values { template: matches!(run, Run::Template | Run::Constraint), ..self.values_of() };
        values.shapes(self.at, end, run, &mut self.shapes);
        self.plan.add(&mut self.shapes);
    }

    /// The `{` of a lambda whose captures end at `close`.
    fn lambda_body(&self, close: usize, end: usize) -> Option<usize> {
        let before = self.at.checked_sub(1).and_then(|before| self.heads.kind(before));
        let behind_value = matches!(before, Some(WORD | CLOSE_ROUND | CLOSE_SQUARE | STRING))
            && self.heads.word(self.at - 1) != "return";
        if behind_value { None } else { self.values_of().lambda_body(close, end) }
    }

    fn lambda(&mut self, body: usize) {
        self.builder.open(LAMBDA, Field(0));
        self.lambda_list(None, Run::Values);
        self.lambda_list(Some(PARAMETERS), Run::Parameters);
        let depth = self.frames.len();
        self.values(body, Run::Words);
        self.run_down(depth);
        self.block(BLOCK, Context::Code, 2);
    }

    /// The captures of a lambda, or its parameters, if they are next.
    fn lambda_list(&mut self, kind: Option<Kind>, run: Run) {
        let wanted = if kind.is_some() { OPEN_ROUND } else { OPEN_SQUARE };
        let close = self.heads.close_of(self.at).filter(|_| self.heads.kind(self.at) == Some(wanted));
        let Some(close) = close else { return };
        let depth = self.frames.len();
        if let Some(kind) = kind {
            self.builder.open(kind, Field::PARAMETERS);
        }
        self.token();
        self.group(close, kind.is_some().into(), run);
        self.run_down(depth);
    }
}
