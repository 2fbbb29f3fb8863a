//! S-expressions: Racket, Scheme and Clojure in one reader, told apart by a [`Dialect`].
//!
//! Sources: the Racket Reference, section "The Reader"; R7RS, section 7.1; the Clojure reference, "The Reader".

mod closes;
mod dialect;
mod lexer;

pub(crate) use dialect::*;
use closes::{Close, closes};
use lexer::{Lexeme, lexemes, What};
use crate::language::{Field, Kind};
use crate::tree::{NodeId, TreeBuilder};

/// How many prefixes in front of a name are looked through.
const PREFIXES_AT_MOST: usize = 16;

/// What is open while reading.
enum Frame {
    /// Brackets, and how many data are inside so far.
    Brackets { node: NodeId, count: u32 },
    /// A prefix that waits for this many data.
    Prefix(u32),
}

/// Reads a text.
pub(crate) fn read(text: &str, dialect: &Dialect, builder: &mut TreeBuilder<'_>) {
    let bytes = text.as_bytes();
    builder.open(FILE, Field(0));
    let lexemes = lexemes(text, dialect);
    let closes = closes(bytes, &lexemes);
    let mut reader = Reader {
        bytes,
        text,
        dialect,
        builder,
        frames: Vec::new(),
        open: Vec::new(),
        closes,
        next_open: 0,
    };
    for lexeme in lexemes {
        reader.close_open_ended(lexeme.start);
        reader.take(lexeme);
    }
}

struct Reader<'r, 't> {
    bytes: &'r [u8],
    text: &'r str,
    dialect: &'r Dialect,
    builder: &'r mut TreeBuilder<'t>,
    frames: Vec<Frame>,
    /// Where the brackets among them close.
    open: Vec<Close>,
    /// For each opening bracket in order: where its partner is, or where it ends for want of one.
    closes: Vec<Close>,
    next_open: usize,
}

impl Reader<'_, '_> {
    /// Ends the forms that have no closing bracket and go no further.
    fn close_open_ended(&mut self, at: usize) {
        loop {
            match self.open.last().copied() {
                Some(close) if !close.matched && close.at <= at => self.end_form(),
                _ => return,
            }
        }
    }

    fn end_form(&mut self) {
        self.drop_prefixes();
        if self.frames.pop().is_some() {
            self.open.pop();
            self.builder.close();
            self.finished_datum();
        }
    }

    fn take(&mut self, Lexeme { what, start, end }: Lexeme) {
        match what {
            What::Blank => {}
            What::Comment => self.builder.token(COMMENT, start, end),
            What::Comma => self.builder.token(COMMA, start, end),
            What::Error => self.builder.error(start, end),
            What::Prefix(kind, count) => {
                self.builder.open(kind, Field(0));
                self.builder.token(PREFIX, start, end);
                self.frames.push(Frame::Prefix(count));
            }
            What::Open(kind) => self.open(kind, start, end),
            What::Close => self.close(start),
            What::Datum(kind) => self.datum(kind, start, end),
        }
    }

    fn open(&mut self, kind: Kind, start: usize, end: usize) {
        let close = self.closes.get(self.next_open).copied().unwrap_or(Close { at: self.bytes.len(), matched: false });
        self.next_open += 1;
        // `(define (name ...) ...)`: the form in the place of the name holds it.
        let field = if self.is_name_position() { Field::PARAMETERS } else { Field(0) };
        let node = self.builder.open(kind, field);
        self.frames.push(Frame::Brackets { node, count: 0 });
        self.open.push(close);
        match close.matched {
            true => self.builder.token(bracket(self.bytes[end - 1]), start, end),
            false => self.builder.error(start, end),
        }
    }

    fn close(&mut self, at: usize) {
        self.drop_prefixes();
        let mut above = self.open.iter().rev().take(UNMATCHED_AT_MOST);
        if above.find(|close| close.matched).is_none_or(|close| close.at != at) {
            return self.builder.error(at, at + 1);
        }
        while self.open.last().is_some_and(|close| !close.matched) {
            self.end_form();
            self.drop_prefixes();
        }
        self.builder.token(bracket(self.bytes[at]), at, at + 1);
        self.end_form();
    }

    fn datum(&mut self, kind: Kind, at: usize, end: usize) {
        self.builder.token(kind, at, end);
        let leaf = self.builder.last();
        let symbol = kind == SYMBOL;
        let position = match self.frames.last() {
            Some(Frame::Brackets { node, count, .. }) => Some((*node, *count)),
            _ => None,
        };
        match position {
            Some((node, 0)) if symbol => {
                let text = &self.text[at..end];
                if self.is_name_holder() {
                    self.builder.set_field(leaf, Field::NAME);
                    self.defines(FUNCTION);
                } else if LAMBDAS.contains(&text) {
                    self.defines_by_value();
                } else if let Some(kind) = self.kind_of_head(text) {
                    self.builder.retag(node, kind);
                }
            }
            Some((node, 1)) if symbol && NAMED.contains(&self.builder.kind_of(node)) => {
                self.builder.set_field(leaf, Field::NAME);
                if self.builder.kind_of(node) == DEFINITION {
                    self.builder.retag(node, VALUE);
                }
            }
            _ if symbol || kind == STRING => self.name_behind_prefix(leaf),
            _ => {}
        }
        self.finished_datum();
    }

    /// The definition around the innermost brackets, which hold its name, is one of that kind.
    fn defines(&mut self, kind: Kind) {
        for frame in self.frames.iter().rev().take(CURRIED_AT_MOST) {
            if let Frame::Brackets { node, .. } = frame && self.builder.kind_of(*node) == DEFINITION {
                return self.builder.retag(*node, kind);
            }
        }
    }

    /// `(define name (lambda ...))`: what is defined by a function is one.
    fn defines_by_value(&mut self) {
        let around = self.frames.iter().rev().nth(1);
        if let Some(Frame::Brackets { node, count: 2, .. }) = around && self.builder.kind_of(*node) == VALUE {
            self.builder.retag(*node, FUNCTION);
        }
    }

    /// `(def ^:private name ...)`: what stands behind a prefix in the place of the name is the name.
    fn name_behind_prefix(&mut self, leaf: NodeId) {
        let above = self.frames.iter().rev().take(PREFIXES_AT_MOST);
        let waiting = above.take_while(|frame| matches!(frame, Frame::Prefix(_))).count();
        let last_of_each = self.frames.iter().rev().take(waiting).all(|frame| matches!(frame, Frame::Prefix(1)));
        let holder = self.frames.iter().rev().nth(waiting);
        if let Some(Frame::Brackets { node, count: 1, .. }) = holder
            && waiting > 0
            && last_of_each
            && NAMED.contains(&self.builder.kind_of(*node))
        {
            let prefixed = self.builder.parent_of(leaf);
            self.builder.set_field(prefixed, Field::PARAMETERS);
            self.builder.set_field(leaf, Field::NAME);
        }
    }

    /// Whether the next datum stands where a definition has its name.
    fn is_name_position(&self) -> bool {
        match self.frames.last() {
            Some(Frame::Brackets { node, count, .. }) => {
                *count == 1 && NAMED.contains(&self.builder.kind_of(*node))
                    || *count == 0 && self.builder.field_of(*node) == Field::PARAMETERS
            }
            _ => false,
        }
    }

    /// Whether the innermost brackets stand in the place of a name.
    fn is_name_holder(&self) -> bool {
        matches!(self.frames.last(), Some(Frame::Brackets { node, .. }) if self.builder.field_of(*node) == Field::PARAMETERS)
    }

    fn kind_of_head(&self, head: &str) -> Option<Kind> {
        let found = self.dialect.heads.binary_search_by(|(other, _)| (*other).cmp(head)).ok();
        let exact = found.and_then(|index| self.dialect.heads.get(index)).map(|(_, kind)| *kind);
        let beginning = || self.dialect.head_beginnings.iter().find(|(start, _)| head.starts_with(start));
        exact.or_else(|| beginning().map(|(_, kind)| *kind))
    }

    /// Takes what waits for data off the stack when it has them.
    fn finished_datum(&mut self) {
        while let Some(frame) = self.frames.last_mut() {
            match frame {
                Frame::Brackets { count, .. } => {
                    *count += 1;
                    return;
                }
                Frame::Prefix(waits) => {
                    *waits -= 1;
                    if *waits > 0 {
                        return;
                    }
                    self.frames.pop();
                    self.builder.close();
                }
            }
        }
    }

    /// Ends prefixes that nothing follows.
    fn drop_prefixes(&mut self) {
        while matches!(self.frames.last(), Some(Frame::Prefix(_))) {
            self.frames.pop();
            self.builder.close();
        }
    }
}

/// Through how many brackets without a partner a closing one is held against.
const UNMATCHED_AT_MOST: usize = 256;

/// Kinds of forms that have a name behind their head.
const NAMED: &[Kind] = &[DEFINITION, FUNCTION, TYPE, VALUE, MODULE, NAMESPACE];

/// Heads of functions without a name.
const LAMBDAS: [&str; 6] = ["lambda", "\u{3bb}", "case-lambda", "named-lambda", "lambda*", "fn"];

/// How deep brackets around a curried function's name nest.
const CURRIED_AT_MOST: usize = 4;

fn bracket(byte: u8) -> Kind {
    match byte {
        b'(' => OPEN_ROUND,
        b')' => CLOSE_ROUND,
        b'[' => OPEN_SQUARE,
        b']' => CLOSE_SQUARE,
        b'{' => OPEN_CURLY,
        _ => CLOSE_CURLY,
    }
}
