//! Gives lexemes their place in the tree. Definitions, parts and brackets that are open are on a stack of frames.

use crate::language::{Field, Kind};
use crate::reading::{begins_line, Lexeme, line_end, NO_PARTNER};
use crate::reading::expressions::{Plan, Shape};
use crate::tree::TreeBuilder;
use super::expressions::{is_keyword, Values};
use super::*;

/// Something that is open.
enum Frame {
    /// A definition or query.
    Definition,
    /// `VAR` or `RETURN` with what follows.
    Part,
    /// Brackets up to the lexeme `end`.
    Group { end: usize },
}

pub(super) struct Reader<'r, 't> {
    text: &'r str,
    lexemes: &'r [Lexeme],
    partner: &'r [u32],
    builder: &'r mut TreeBuilder<'t>,
    frames: Vec<Frame>,
    /// How many brackets are open.
    groups: u32,
    /// The nodes of the expressions that are open.
    plan: Plan,
    shapes: Vec<Shape>,
    at: usize,
}

impl<'r, 't> Reader<'r, 't> {
    pub fn new(text: &'r str, lexemes: &'r [Lexeme], partner: &'r [u32], builder: &'r mut TreeBuilder<'t>) -> Self {
        let (plan, shapes) = (Plan::default(), Vec::new());
        Self { text, lexemes, partner, builder, frames: Vec::new(), groups: 0, plan, shapes, at: 0 }
    }

    pub fn run(mut self) {
        while self.at < self.lexemes.len() {
            self.plan.apply(self.at, self.builder);
            self.step();
        }
        self.plan.apply(self.at, self.builder);
    }

    fn step(&mut self) {
        let lexeme = self.lexemes[self.at];
        let word = if lexeme.kind == WORD { lexeme.of(self.text).to_ascii_uppercase() } else { String::new() };
        let grouped = self.groups > 0;
        match word.as_str() {
            "DEFINE" if !grouped => self.definition(DEFINE, false),
            "EVALUATE" if !grouped => self.definition(QUERY, false),
            "MEASURE" | "COLUMN" | "TABLE" | "FUNCTION" if !grouped && self.begins_line(self.at) =>
                self.definition(MEASURE, true),
            "VAR" => self.part(VARIABLE),
            "RETURN" => self.part(RESULT),
            "ORDER" | "START" | "ASC" | "DESC" | "BY" | "AT" | "IN" | "NOT" if lexeme.kind == WORD =>
                self.token_as(Some(KEYWORD)),
            _ if !grouped && self.begins_measure(self.at) => self.definition(MEASURE, false),
            _ => self.value(),
        }
    }

    fn begins_line(&self, at: usize) -> bool {
        begins_line(self.text.as_bytes(), self.lexemes[at].start as usize)
    }

    /// A name and `=` at the margin, or where nothing can go on: at the beginning and behind a blank line.
    fn begins_measure(&self, at: usize) -> bool {
        let start = self.lexemes[at].start as usize;
        let named = matches!(self.lexemes[at].kind, WORD | QUOTED | COLUMN);
        if !named || !self.begins_line(at) {
            return false;
        }
        let margin = start == 0 || self.text.as_bytes()[start - 1] == b'\n';
        let before = self.lexemes[..at].iter().rev().find(|lexeme| lexeme.kind != COMMENT);
        let gap = before.map_or("", |before| &self.text[before.end as usize..start]);
        let lines = gap.split('\n').count();
        let blank = |(index, line): (usize, &str)| index > 0 && index + 1 < lines && line.trim().is_empty();
        let apart = before.is_none() || gap.split('\n').enumerate().any(blank);
        if !margin && !apart {
            return false;
        }
        let line = line_end(self.text.as_bytes(), start) as u32;
        let on_line = self.lexemes[at..].iter().take_while(|lexeme| lexeme.start < line);
        let mut rest = on_line.skip_while(
            |lexeme| matches!(lexeme.kind, WORD | QUOTED | COLUMN | NUMBER)
                || matches!(lexeme.of(self.text), "%" | "-" | "_" | "&" | "/"),
        );
        rest.next().is_some_and(|next| matches!(next.of(self.text), "=" | ":="))
    }

    /// Finds the nodes of what is read next: up to what begins another definition or part, or the bracket `end`.
    fn expect(&mut self, end: Option<usize>) {
        let values = Values { text: self.text, lexemes: self.lexemes, partner: self.partner };
        let stop = end.unwrap_or_else(|| {
            let mut at = self.at;
            while at < self.lexemes.len() && !(self.is_keyword(at) || at > self.at && self.begins_measure(at)) {
                at = values.closed(at, self.lexemes.len()).unwrap_or(at) + 1;
            }
            at.min(self.lexemes.len())
        });
        values.shapes(self.at, stop, &mut self.shapes);
        self.plan.add(&mut self.shapes);
    }

    fn is_keyword(&self, at: usize) -> bool {
        let word = self.lexemes[at];
        let text = word.of(self.text);
        let defines =
            ["COLUMN", "TABLE", "FUNCTION"].iter().any(|word| text.eq_ignore_ascii_case(word)) && self.begins_line(at);
        word.kind == WORD && (is_keyword(text) || defines)
    }

    fn token_as(&mut self, kind: Option<Kind>) {
        let lexeme = self.lexemes[self.at];
        let lone = shape(lexeme.kind).is_some() && self.partner[self.at] == NO_PARTNER;
        let kind = if lone { self.builder.error_kind() } else { kind.unwrap_or(lexeme.kind) };
        self.builder.leaf(kind, Field(0), lexeme.start, lexeme.end);
        self.at += 1;
    }

    fn definition(&mut self, kind: Kind, keyword: bool) {
        while self.frames.pop().is_some() {
            self.builder.close();
        }
        self.groups = 0;
        self.builder.open(kind, Field(0));
        self.frames.push(Frame::Definition);
        if kind != MEASURE || keyword {
            self.token_as(Some(KEYWORD));
        }
        if kind == MEASURE {
            self.definition_name();
            if matches!(self.text_here(), "=" | ":=") {
                self.token_as(None);
            }
        }
        self.expect(None);
    }

    fn text_here(&self) -> &str {
        self.lexemes.get(self.at).map_or("", |lexeme| lexeme.of(self.text))
    }

    /// The words up to `=`; `Table[Name]` is found by its name.
    fn definition_name(&mut self) {
        let start = self.at;
        let end = (start..self.lexemes.len())
            .find(|at| matches!(self.lexemes[*at].of(self.text), "=" | ":=" | "("))
            .unwrap_or(start);
        let last_is_column = end > start && self.lexemes[end - 1].kind == COLUMN;
        while self.at < end.saturating_sub(usize::from(last_is_column)).min(start + NAME_AT_MOST) && last_is_column {
            self.token_as(None);
        }
        if last_is_column {
            self.token_as(None);
            return self.builder.set_field(self.builder.last(), Field::NAME);
        }
        self.builder.open(REFERENCE, Field::NAME);
        while self.at < end.min(start + NAME_AT_MOST) {
            self.token_as(None);
        }
        self.builder.close();
    }

    fn part(&mut self, kind: Kind) {
        if matches!(self.frames.last(), Some(Frame::Part)) {
            self.frames.pop();
            self.builder.close();
        }
        self.builder.open(kind, Field(0));
        self.frames.push(Frame::Part);
        self.token_as(Some(KEYWORD));
        if kind == VARIABLE && self.lexemes.get(self.at).is_some_and(|next| next.kind == WORD) {
            self.token_as(None);
            self.builder.set_field(self.builder.last(), Field::NAME);
            if self.text_here() == "=" {
                self.token_as(None);
            }
        }
        let group = self.frames.iter().rev().take(2).find_map(|frame| match frame {
            Frame::Group { end } => Some(*end),
            _ => None,
        });
        self.expect(group);
    }

    fn value(&mut self) {
        let partner = |at: usize| self.partner
            .get(at)
            .copied()
            .filter(|close| *close != NO_PARTNER && *close as usize > at)
            .map(|close| close as usize);
        let close = partner(self.at);
        if let Some(end) = close {
            self.token_as(None);
            self.groups += 1;
            self.frames.push(Frame::Group { end });
            return self.expect(Some(end));
        }
        self.close_at_bracket();
    }

    /// A lexeme on its own; what it closes ends with it.
    fn close_at_bracket(&mut self) {
        let at = self.at;
        let ends = |frame: &Frame| matches!(frame, Frame::Group { end, .. } if *end == at);
        if matches!(shape(self.lexemes[at].kind), Some((_, Side::Closes)))
            && self.frames
                .iter()
                .rev()
                .take(2)
                .any(ends)
        {
            while self.frames.pop_if(|frame| !ends(frame)).is_some() {
                self.builder.close();
            }
            self.token_as(None);
            self.frames.pop();
            self.groups = self.groups.saturating_sub(1);
            return;
        }
        self.token_as(None);
    }
}

/// How many lexemes a definition's name may have.
const NAME_AT_MOST: usize = 24;
