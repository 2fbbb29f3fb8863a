//! What the lexemes of C and C++ are in an expression, and which lexemes are one.
//!
//! Without types, some code can be read in two ways: `a * b;`, `(a)(b)`, `x < y > (z)`. It is read by the likeliest, and its node is
//! [`UNCERTAIN`].

use crate::reading::expressions::{self, Item, Items, Shape};
use super::heads::Heads;
use super::operators::*;
use super::*;

/// What a run of lexemes may hold.
#[derive(Clone, Copy, PartialEq, Eq)]
pub(super) enum Run {
    /// Words and groups, but no operators: the head of a declaration.
    Words,
    /// What is declared behind a name: values behind `=` and `:`, parted by commas.
    Declared,
    /// Parameters.
    Parameters,
    /// Parameters of a template.
    Template,
    /// What a template requires.
    Constraint,
    /// A statement.
    Statement,
    /// Values, or declarations, between brackets.
    Values,
}

/// Within how many lexemes a conditional in a value must end.
const BRANCHES_AT_MOST: usize = 400;
/// The lexemes of a text as an expression has them.
#[derive(Clone, Copy)]
pub(super) struct Values<'h> {
    pub heads: Heads<'h>,
    /// Runs that are not read, from where the reader is on.
    pub inactive: &'h [(u32, u32)],
    /// Whether they are parameters of a template or what it requires, where angle brackets are no comparisons.
    pub template: bool,
}

impl Values<'_> {
    /// Adds the nodes of the lexemes from `start` to `end`.
    pub fn shapes(&self, start: usize, end: usize, run: Run, shapes: &mut Vec<Shape>) {
        let (mut from, mark) = (start, shapes.len());
        while from < end {
            let stop = self.part_end(from, end);
            self.part(from, stop, run, shapes);
            from = stop + 1;
        }
        for index in mark..shapes.len() {
            self.template_arguments(index, shapes);
        }
    }

    /// The `,` or `;` behind a part, or the end.
    fn part_end(&self, start: usize, end: usize) -> usize {
        let mut at = start;
        while at < end {
            match self.heads.kind(at) {
                Some(COMMA | SEMICOLON) => return at,
                // `pair<a, b>`
                Some(MARK) if self.heads.word(at) == "<" => at = self.angles_end(at, end).unwrap_or(at + 1),
                _ => at = self.heads.close_of(at).filter(|close| *close < end).unwrap_or(at) + 1,
            }
        }
        end
    }

    /// One part between commas.
    fn part(&self, start: usize, end: usize, run: Run, shapes: &mut Vec<Shape>) {
        let Some((start, end)) = self.trimmed(start, end) else { return };
        let declares = match run {
            Run::Words => return self.words(start, end, shapes),
            Run::Constraint => {
                expressions::read(self, start, end, shapes);
                return;
            }
            Run::Declared | Run::Parameters | Run::Template => true,
            Run::Statement | Run::Values => self.declares(start, end, run == Run::Statement),
        };
        let mark = shapes.len();
        let whole = if declares {
            self.declared(start, end, shapes);
            false
        } else {
            let from = if self.is_one_of(start, LOOSE_WORDS) { start + 1 } else { start };
            expressions::read(self, from, end, shapes)
        };
        let several = end - start > 1 && !(end - start == 2 && self.heads.kind(start) == Some(COMMENT));
        let (start, end) = (start as u32, end as u32);
        let covered = shapes[mark..].iter().any(|shape| shape.start == start && shape.end == end);
        match run {
            Run::Parameters | Run::Template | Run::Values if several && !whole && !covered =>
                shapes.push(Shape { kind: PARAMETER, start, end }),
            Run::Statement if declares && self.may_be_product(start as usize, end as usize) =>
                shapes.push(Shape { kind: UNCERTAIN, start, end }),
            _ => {}
        }
    }

    /// Words of a head, and the result behind `->`, which is no link there.
    fn words(&self, start: usize, end: usize, shapes: &mut Vec<Shape>) {
        let mut arrow = start;
        while arrow < end && self.heads.word(arrow) != "->" {
            arrow = self.heads.behind(arrow);
        }
        expressions::read_values(self, start, arrow.min(end), shapes);
        expressions::read_values(self, arrow + 1, end, shapes);
    }

    /// A declaration: words, and a value behind `=` or `:`.
    fn declared(&self, start: usize, end: usize, shapes: &mut Vec<Shape>) {
        let mut at = start;
        while at < end && !matches!(self.heads.word(at), "=" | ":") {
            at = self.heads.close_of(at).filter(|close| *close < end).unwrap_or(at) + 1;
        }
        expressions::read_values(self, start, at.min(end), shapes);
        if let Some((from, end)) = self.trimmed(at + 1, end) {
            expressions::read(self, from, end, shapes);
        }
    }

    /// Without comments at its edges; `None` when nothing is left.
    fn trimmed(&self, start: usize, end: usize) -> Option<(usize, usize)> {
        let (mut start, mut end) = (start, end);
        // Another branch that begins where an item does has items of its own.
        while start < end && let Some(next) = self.lone_note_end(start) {
            start = next;
        }
        while start < end && matches!(self.heads.kind(end - 1), Some(COMMENT | DIRECTIVE | REGION_MARK | INERT)) {
            end -= 1;
        }
        (start < end).then_some((start, end))
    }

    /// Where a comment, directive or unread run ends that begins here.
    fn note_end(&self, at: usize) -> Option<usize> {
        if self.heads.kind(at)? == DIRECTIVE && self.is_other_branch(at) {
            return Some(self.other_branches_end(at));
        }
        self.lone_note_end(at)
    }

    /// The same, of a directive by itself.
    fn lone_note_end(&self, at: usize) -> Option<usize> {
        let kind = self.heads.kind(at)?;
        if matches!(kind, COMMENT | DIRECTIVE | REGION_MARK | INERT) {
            // An unread run begins behind its directive.
            return Some(self.unread_end(at + 1).unwrap_or(at + 1));
        }
        self.unread_end(at)
    }

    /// Whether a directive ends the first branch of a conditional.
    fn is_other_branch(&self, at: usize) -> bool {
        let text = self.heads.lexemes.get(at).map_or("", |lexeme| lexeme.of(self.heads.text));
        text.trim_start_matches(['#', ' ', '\t']).starts_with("el")
    }

    /// Behind the end of a conditional whose first branch has been read: of values the first counts.
    fn other_branches_end(&self, start: usize) -> usize {
        let mut depth = 0;
        for at in start + 1..self.heads.lexemes.len().min(start + BRANCHES_AT_MOST) {
            if self.heads.kind(at) != Some(DIRECTIVE) {
                continue;
            }
            let text = self.heads.lexemes[at].of(self.heads.text).trim_start_matches(['#', ' ', '\t']);
            match (text, depth) {
                (text, 0) if text.starts_with("endif") => return at + 1,
                (text, _) if text.starts_with("endif") => depth -= 1,
                (text, _) if text.starts_with("if") => depth += 1,
                _ => {}
            }
        }
        start + 1
    }

    fn unread_end(&self, at: usize) -> Option<usize> {
        let index = self.inactive.partition_point(|run| run.1 as usize <= at);
        let run = self.inactive.get(index)?;
        (run.0 as usize <= at).then_some(run.1 as usize)
    }

    fn is_one_of(&self, at: usize, words: &[&str]) -> bool {
        self.heads.kind(at) == Some(WORD) && words.contains(&self.heads.word(at))
    }

    /// Whether a part declares something, told by its shape: a type, and a name behind it.
    fn declares(&self, start: usize, end: usize, statement: bool) -> bool {
        let mut at = start;
        while self.heads.kind(at) == Some(OPEN_SQUARE) && self.heads.word(at + 1).is_empty() && at < end {
            at = self.heads.behind(at);
        }
        if self.heads.kind(at) != Some(WORD) || self.is_one_of(at, PREFIX_WORDS) || self.is_one_of(at, LOOSE_WORDS) {
            return false;
        }
        if self.is_one_of(at, TYPE_WORDS) {
            return true;
        }
        let mut next = self.path_end(at, end);
        let named = next;
        while next < end
            && (matches!(self.heads.word(next), "*" | "&" | "&&") || self.is_one_of(next, &["const", "volatile"]))
        {
            next += 1;
        }
        if self.heads.kind(next) != Some(WORD) || next >= end || infix(self.heads.word(next)).is_some() {
            return false;
        }
        match (next > named, self.heads.kind(next + 1)) {
            (false, _) => true,
            (true, _) if next + 1 >= end => statement,
            (true, Some(MARK)) => self.heads.word(next + 1) == "=",
            (true, Some(OPEN_SQUARE | OPEN_ROUND | OPEN_CURLY)) => statement,
            _ => false,
        }
    }

    /// `a * b`, which may also be a product.
    fn may_be_product(&self, start: usize, end: usize) -> bool {
        let plain = end - start == 3 && self.heads.word(start + 1) == "*";
        plain && !self.is_one_of(start, TYPE_WORDS)
    }

    /// Strings that follow each other, macros among them, are one.
    fn strings_end(&self, start: usize, end: usize) -> usize {
        let mut at = start;
        let mut last = start + 1;
        while at < end {
            match self.heads.kind(at) {
                Some(STRING) => last = at + 1,
                Some(COMMENT) => {}
                Some(WORD)
                    if self.heads.word(at).starts_with(|first: char| first.is_ascii_uppercase()) || at == start =>
                {
                    last = at + 1;
                    if self.heads.kind(last) == Some(OPEN_ROUND) && last < end && at > start
                        && let Some(close) = self.heads.close_of(last).filter(|close| *close < end)
                    {
                        at = close;
                        last = close + 1;
                    }
                }
                _ => break,
            }
            at += 1;
        }
        last
    }

    /// What a group in front of a value is.
    fn round(&self, open: usize, close: usize, end: usize) -> Item {
        let group = Item::Operand { end: close + 1, node: Some(GROUP) };
        let cast = |kind| Item::Prefix { end: close + 1, kind, binding: PREFIX_BINDS, node: Some(GROUP) };
        let (holds_type, certain) = self.is_type(open + 1, close);
        let behind = close + 1;
        // `sizeof(type) + 1`
        let measured = open.checked_sub(1).is_some_and(|before| self.is_one_of(before, MEASURING_WORDS));
        if !holds_type || measured || behind >= end {
            return group;
        }
        match (self.heads.kind(behind), self.heads.word(behind)) {
            (Some(WORD), word) if infix(word).is_none() => cast(CAST),
            (Some(NUMBER | STRING | CHARACTER), _) => cast(CAST),
            (Some(OPEN_CURLY), _) => cast(CAST),
            (Some(OPEN_ROUND), _) if certain => cast(CAST),
            (Some(OPEN_ROUND), _) => cast(UNCERTAIN),
            (Some(MARK), "!" | "~") => cast(CAST),
            (Some(MARK), "-" | "+" | "*" | "&" | "&&" | "++" | "--" | "::") if certain => cast(CAST),
            _ => group,
        }
    }

    /// Whether lexemes can be a type, and whether they must be.
    fn is_type(&self, start: usize, end: usize) -> (bool, bool) {
        let mut certain = false;
        let mut words = 0;
        let mut at = start;
        while at < end {
            match (self.heads.kind(at), self.heads.word(at)) {
                (Some(WORD), word) => {
                    certain |= TYPE_WORDS.contains(&word) || word.ends_with("_t");
                    words += 1;
                }
                (Some(MARK), "*" | "&" | "&&") => certain |= at + 1 == end,
                (Some(MARK), "::" | "<" | ">") | (Some(COMMENT | COMMA), _) => {}
                (Some(OPEN_SQUARE | OPEN_ROUND), _) if words > 0 => match self.heads.close_of(at) {
                    Some(close) => {
                        certain |= self.heads.word(at + 1) == "*";
                        at = close;
                    }
                    None => return (false, false),
                },
                _ => return (false, false),
            }
            at += 1;
        }
        // Words with stars between them are a product, and with commas or brackets among them anything.
        let one = words == 1 && self.path_end(start, end) == end;
        let path = self.heads.kind(start) == Some(WORD) && self.path_end(start, end) == end;
        (words > 0 && (certain || one || path), certain)
    }

    /// The `{` of a lambda whose captures are between these lexemes.
    pub fn lambda_body(&self, close: usize, end: usize) -> Option<usize> {
        let mut at = close + 1;
        for _ in 0..LAMBDA_HEAD_AT_MOST {
            match self.heads.kind(at).filter(|_| at < end)? {
                OPEN_CURLY => return self.heads.close_of(at).is_some().then_some(at),
                OPEN_ROUND | OPEN_SQUARE => at = self.heads.close_of(at)? + 1,
                // `-> pair<a, b>`
                WORD => at = self.path_end(at, end),
                MARK | COMMENT => at += 1,
                _ => return None,
            }
        }
        None
    }

    /// Whether braces in a value hold statements, as a macro's argument or a statement in brackets does.
    pub fn holds_statements(&self, open: usize, close: usize) -> bool {
        let mut at = open + 1;
        for _ in 0..STATEMENT_AT_MOST {
            if at >= close {
                return false;
            }
            match self.heads.kind(at) {
                Some(SEMICOLON) => return true,
                _ => at = self.heads.behind(at),
            }
        }
        false
    }

    /// What stands in square brackets: in two of them what is said about the rest, such as `[[nodiscard]]`.
    fn bracketed(&self, open: usize, close: usize) -> Kind {
        let twice = self.heads.kind(open + 1) == Some(OPEN_SQUARE) && self.heads.close_of(open + 1) == Some(close - 1);
        if twice && self.touches(open) { ATTRIBUTE } else { SUBSCRIPT }
    }

    /// The bracket's partner, if it is in front of `end`.
    fn closed(&self, at: usize, end: usize) -> Option<usize> {
        self.heads.close_of(at).filter(|close| *close < end)
    }

    fn touches(&self, at: usize) -> bool {
        let pair = (self.heads.lexemes.get(at), self.heads.lexemes.get(at + 1));
        matches!(pair, (Some(one), Some(next)) if one.end == next.start)
    }
}

/// How many lexemes may stand between a lambda's captures and its body.
const LAMBDA_HEAD_AT_MOST: usize = 24;
/// Within how many lexemes the first `;` tells that braces hold statements.
const STATEMENT_AT_MOST: usize = 200;

fn token(at: usize) -> Item {
    Item::Operand { end: at + 1, node: None }
}

fn prefix(end: usize) -> Item {
    Item::Prefix { end, kind: UNARY, binding: PREFIX_BINDS, node: None }
}

impl Items for Values<'_> {
    fn leading(&self, at: usize, end: usize) -> Item {
        if let Some(end) = self.note_end(at) {
            return Item::Note { end };
        }
        let word = self.heads.word(at);
        match self.heads.kind(at) {
            Some(WORD | STRING) if self.heads.kind(at) == Some(STRING) || self.heads.kind(at + 1) == Some(STRING) => {
                let end = self.strings_end(at, end);
                Item::Operand { end, node: (end > at + 1).then_some(STRINGS) }
            }
            Some(WORD) if PREFIX_WORDS.contains(&word) => {
                // `delete[] p`
                let bare = self.heads.kind(at + 1) == Some(OPEN_SQUARE) && self.heads.close_of(at + 1) == Some(at + 2);
                prefix(if bare && at + 3 <= end { at + 3 } else { at + 1 })
            }
            Some(WORD) if LOOSE_WORDS.contains(&word) =>
                Item::Prefix { end: at + 1, kind: UNARY, binding: 1, node: None },
            Some(WORD) if word == "operator" => Item::Unknown,
            Some(WORD) => {
                let end = self.path_end(at, end);
                Item::Operand { end, node: (end > at + 1).then_some(QUALIFIED) }
            }
            Some(NUMBER | CHARACTER) => token(at),
            Some(OPEN_ROUND) => match self.closed(at, end) {
                Some(close) => self.round(at, close, end),
                None => Item::Unknown,
            },
            Some(OPEN_SQUARE) => match self.closed(at, end) {
                Some(close) => match self.lambda_body(close, end).and_then(|body| self.closed(body, end)) {
                    Some(close) => Item::Operand { end: close + 1, node: None },
                    None => Item::Operand { end: close + 1, node: Some(self.bracketed(at, close)) },
                },
                None => Item::Unknown,
            },
            Some(OPEN_CURLY) => match self.closed(at, end) {
                Some(close) => {
                    let block = self.holds_statements(at, close);
                    Item::Operand { end: close + 1, node: (!block).then_some(INITIALIZER) }
                }
                None => Item::Unknown,
            },
            Some(MARK) => match word {
                "+" | "-" | "!" | "~" | "*" | "&" | "&&" | "++" | "--" => prefix(at + 1),
                "::" if self.heads.kind(at + 1) == Some(WORD) && at + 1 < end =>
                    Item::Operand { end: self.path_end(at + 1, end), node: Some(QUALIFIED) },
                "." if self.heads.kind(at + 1) == Some(WORD) && at + 1 < end =>
                    Item::Operand { end: at + 2, node: Some(ACCESS) },
                "..." => token(at),
                ":" => Item::Answer { kind: CHOICE },
                _ => Item::Unknown,
            },
            _ => Item::Unknown,
        }
    }

    fn following(&self, at: usize, end: usize) -> Item {
        if let Some(end) = self.note_end(at) {
            return Item::Note { end };
        }
        let word = self.heads.word(at);
        let group = |kind, node| match self.closed(at, end) {
            Some(close) => Item::Postfix { end: close + 1, kind, node: Some(node) },
            None => Item::Unknown,
        };
        let infix_of = |end, binding, to_right| {
            let kind = if binding == ASSIGNMENT_BINDS { ASSIGNMENT } else { OPERATION };
            Item::Infix { end, kind, binding, to_right }
        };
        match (self.heads.kind(at), word) {
            (Some(OPEN_ROUND), _) if self.heads.pointer_name(at).is_some() || self.heads.is_reference(at) =>
                group(UNCERTAIN, GROUP),
            (Some(OPEN_ROUND), _) => group(CALL, ARGUMENTS),
            (Some(OPEN_SQUARE), _) => group(ACCESS, SUBSCRIPT),
            (Some(OPEN_CURLY), _) if self.closed(at, end).is_some_and(|close| !self.holds_statements(at, close)) =>
                group(CALL, INITIALIZER),
            (Some(MARK), "++" | "--" | "...") => Item::Postfix { end: at + 1, kind: UNARY, node: None },
            (Some(MARK), "->" | ".") if self.heads.word(at + 1) == "*" && self.touches(at) =>
                infix_of(at + 2, MEMBER_POINTER_BINDS, false),
            (Some(MARK), "->" | ".") => {
                let name = match self.heads.word(at + 1) {
                    "template" | "~" => at + 2,
                    _ => at + 1,
                };
                match self.heads.kind(name) {
                    Some(WORD) if name < end => Item::Postfix {
                        end: self.path_end(name, end),
                        kind: ACCESS,
                        node: None,
                    },
                    _ => Item::Unknown,
                }
            }
            (Some(MARK), "?") => Item::Ask { binding: CHOICE_BINDS },
            (Some(MARK), ":") => Item::Answer { kind: CHOICE },
            (Some(MARK), ">") if self.heads.word(at + 1) == ">" && self.touches(at) =>
                infix_of(at + 2, SHIFT_BINDS, false),
            (Some(MARK), ">") if self.heads.word(at + 1) == ">=" && self.touches(at) =>
                infix_of(at + 2, ASSIGNMENT_BINDS, true),
            (Some(MARK | WORD), _) => match infix(word) {
                Some(binding) => infix_of(at + 1, binding, binding == ASSIGNMENT_BINDS),
                None => Item::Unknown,
            },
            _ => Item::Unknown,
        }
    }
}
