//! Which brackets a damaged text lacks, or has too many of, for grammars and hand-made readers alike.
//!
//! Which ones stay alone is told by their order and, where that leaves some over, by indentation. Where a missing closing
//! bracket would have stood is told by what follows: in front of what closes something around it, of the line that stands no
//! further in than its own, of the end of its statement.

use std::collections::BTreeMap;

use crate::language::Kind;
use crate::role::Role;
use crate::text::Span;
use crate::tree::Tree;
use super::brackets::{NO_PARTNER, partners, Side};
use super::lexeme::Lexeme;
use super::margins::Margins;

/// With more than this wrong nothing is put in.
const ALONE_AT_MOST: usize = 48;

/// What makes a text readable.
#[derive(Default)]
pub(crate) struct Closers {
    /// The closing brackets that are missing, and the bytes in front of which each belongs; in order.
    pub missing: Vec<(u32, u8)>,
    /// Closing brackets that close nothing; in order.
    pub stray: Vec<Span>,
}

/// What a text lacks and has too much of, up to the byte `end`; `None` when its brackets are in order or beyond help.
pub(crate) fn closers(text: &str, tree: &Tree, end: u32) -> Option<Closers> {
    let lexemes = lexemes(text, tree, end);
    let partner = partners(text, &lexemes, shape);
    let note = |kind: Kind| kind.0 == NOTE;
    let places = Places {
        margins: Margins::new(text, &lexemes),
        lexemes: &lexemes,
        partner: &partner,
        shape: &shape,
        is_note: &note,
    };
    let (alone, ends) = places.ends()?;
    let mut found = Closers::default();
    for at in alone {
        match (shape(lexemes[at].kind), ends.get(&at)) {
            (Some((shape, _)), Some(before)) => found.missing.push((lexemes[before - 1].end, CLOSING[shape as usize])),
            _ => found.stray.push(Span::new(lexemes[at].start, lexemes[at].end)),
        }
    }
    // Those that end at one place come innermost first.
    found.missing.sort_by_key(|(at, _)| *at);
    found.stray.sort_by_key(|span| span.start);
    Some(found)
}

/// Tells the shape and side of a bracket by its kind.
pub(crate) type ShapeOf<'s> = dyn Fn(Kind) -> Option<(u8, Side)> + 's;

/// Lexemes with those put in that close what nothing closes. They have no text.
pub(crate) struct Completed {
    pub lexemes: Vec<Lexeme>,
    pub partner: Vec<u32>,
    /// In front of which lexemes of old one was put in, in order.
    put_in: Vec<u32>,
}

impl Completed {
    /// A run of lexemes by its new numbers.
    pub fn run(&self, (start, end): (u32, u32)) -> (u32, u32) {
        let moved = |limit: u32| self.put_in.partition_point(|place| *place < limit) as u32;
        (start + moved(start + 1), end + moved(end))
    }
}

/// Puts closing brackets in where opening ones have no partner; `closing` are their kinds by shape.
pub(crate) fn completed(
    text: &str,
    lexemes: Vec<Lexeme>,
    partner: Vec<u32>,
    (shape, is_note): (&ShapeOf<'_>, &dyn Fn(Kind) -> bool),
    closing: &[Kind],
) -> Completed {
    let alone = (0..lexemes.len()).any(|at| partner[at] == NO_PARTNER && shape(lexemes[at].kind).is_some());
    if !alone {
        return Completed { lexemes, partner, put_in: Vec::new() };
    }
    let places = Places { margins: Margins::new(text, &lexemes), lexemes: &lexemes, partner: &partner, shape, is_note };
    let mut order: Vec<(usize, usize)> = match places.ends() {
        Some((_, ends)) => ends.into_iter().map(|(open, before)| (before, open)).collect(),
        None => Vec::new(),
    };
    if order.is_empty() {
        return Completed { lexemes, partner, put_in: Vec::new() };
    }
    order.sort_unstable_by_key(|(before, open)| (*before, usize::MAX - open));
    let put_in: Vec<u32> = order.iter().map(|(before, _)| *before as u32).collect();
    let moved = |at: u32| at + put_in.partition_point(|place| *place <= at) as u32;
    let mut whole = Vec::with_capacity(lexemes.len() + order.len());
    let mut partners = Vec::with_capacity(lexemes.len() + order.len());
    let mut waiting = order.into_iter().peekable();
    for (at, partner) in partner.iter().copied().chain([NO_PARTNER]).enumerate() {
        while let Some((before, open)) = waiting.next_if(|(before, _)| *before == at) {
            let end = lexemes[before - 1].end;
            let kind = shape(lexemes[open].kind).and_then(|(shape, _)| closing.get(shape as usize));
            let opens = moved(open as u32);
            partners[opens as usize] = whole.len() as u32;
            partners.push(opens);
            whole.push(Lexeme { kind: kind.copied().unwrap_or(lexemes[open].kind), start: end, end });
        }
        if let Some(lexeme) = lexemes.get(at) {
            whole.push(*lexeme);
            partners.push(if partner == NO_PARTNER { NO_PARTNER } else { moved(partner) });
        }
    }
    Completed { lexemes: whole, partner: partners, put_in }
}

const CLOSING: [u8; 3] = [b')', b']', b'}'];

/// Kinds of lexemes here: opening brackets, closing ones, and the rest.
const OPENS: u16 = 0;
const CLOSES: u16 = 3;
const NOTE: u16 = 6;
const OTHER: u16 = 7;

fn shape(kind: Kind) -> Option<(u8, Side)> {
    match kind.0 {
        number @ OPENS..CLOSES => Some((number as u8, Side::Opens)),
        number @ CLOSES..NOTE => Some(((number - CLOSES) as u8, Side::Closes)),
        _ => None,
    }
}

/// The tokens of a tree in front of the byte `limit` as lexemes, with the brackets inside unreadable pieces.
fn lexemes(text: &str, tree: &Tree, limit: u32) -> Vec<Lexeme> {
    let mut found = Vec::with_capacity(tree.tokens().len());
    for token in tree.tokens().iter().take_while(|token| token.start < limit) {
        let (start, end) = (token.start, token.end);
        let slice = text.get(start as usize..end as usize).unwrap_or("");
        match tree.role(token.node) {
            Role::Comment => found.push(Lexeme { kind: Kind(NOTE), start, end }),
            Role::String | Role::Inert => found.push(Lexeme { kind: Kind(OTHER), start, end }),
            Role::Error if slice.len() > 1 => broken(slice, start, &mut found),
            _ => found.push(Lexeme { kind: Kind(kind_of(slice)), start, end }),
        }
    }
    found
}

/// What a token is; `${` and the like open, too.
fn kind_of(token: &str) -> u16 {
    match token {
        "(" => OPENS,
        "[" | "#[" => OPENS + 1,
        "{" | "${" | "#{" => OPENS + 2,
        ")" => CLOSES,
        "]" => CLOSES + 1,
        "}" => CLOSES + 2,
        _ => OTHER,
    }
}

/// The words and brackets of an unreadable piece.
fn broken(piece: &str, start: u32, found: &mut Vec<Lexeme>) {
    let mut from = 0;
    for (at, byte) in piece.bytes().enumerate() {
        let bracket = matches!(byte, b'(' | b')' | b'[' | b']' | b'{' | b'}');
        if !bracket && !byte.is_ascii_whitespace() {
            continue;
        }
        let mut push = |from: usize, to: usize| {
            let kind = Kind(kind_of(piece.get(from..to).unwrap_or("")));
            found.push(Lexeme { kind, start: start + from as u32, end: start + to as u32 });
        };
        if from < at {
            push(from, at);
        }
        if bracket {
            push(at, at + 1);
        }
        from = at + 1;
    }
    if from < piece.len() {
        found.push(Lexeme { kind: Kind(OTHER), start: start + from as u32, end: start + piece.len() as u32 });
    }
}

/// Words in front of `(` whose brackets hold semicolons.
const LOOP_WORDS: &[&str] = &["for"];
/// Words in front of `(` with a block behind it.
const HEAD_WORDS: &[&str] =
    &["if", "while", "for", "foreach", "switch", "catch", "try", "lock", "using", "synchronized"];
/// What stands behind a value without brackets of its own.
const VALUE_ENDS: &[&str] = &[";", "{", ":", ","];
/// Within how many lexemes a comma beside an element is looked for.
const ELEMENT_WITHIN: usize = 200;

/// Where brackets without a partner end.
struct Places<'p> {
    margins: Margins<'p>,
    lexemes: &'p [Lexeme],
    partner: &'p [u32],
    shape: &'p ShapeOf<'p>,
    is_note: &'p dyn Fn(Kind) -> bool,
}

/// Which brackets are alone, the last first; and in front of which lexeme each opening one of them ends.
type Ends = (Vec<usize>, BTreeMap<usize, usize>);

impl Places<'_> {
    fn ends(&self) -> Option<Ends> {
        let lone = |at: &usize| self.partner[*at] == NO_PARTNER && (self.shape)(self.lexemes[*at].kind).is_some();
        let alone: Vec<usize> = (0..self.lexemes.len()).rev().filter(lone).collect();
        if alone.is_empty() || alone.len() > ALONE_AT_MOST || self.margins.are_flat() {
            return None;
        }
        let mut ends = BTreeMap::new();
        for at in &alone {
            if let Some((shape, side)) = (self.shape)(self.lexemes[*at].kind)
                && side.opens()
            {
                let end = self.end_of(*at, (shape, side), &ends);
                ends.insert(*at, end);
            }
        }
        Some((alone, ends))
    }

    fn word(&self, at: usize) -> &str {
        self.margins.word(at)
    }

    fn is_note(&self, at: usize) -> bool {
        self.lexemes.get(at).is_some_and(|lexeme| (self.is_note)(lexeme.kind))
    }

    /// The lexeme in front of which the bracket that `open` lacks belongs. `ends` are those of brackets behind it.
    fn end_of(&self, open: usize, (shape, side): (u8, Side), ends: &BTreeMap<usize, usize>) -> usize {
        let head = self.margins.head(open);
        let holds_value = side == Side::OpensValue;
        let curly = self.word(open).ends_with('{');
        let looped = open > 0 && LOOP_WORDS.contains(&self.word(open - 1));
        let mut at = open + 1;
        if self.margins.holds_nothing(open) {
            return at;
        }
        while at < self.lexemes.len() {
            let lexeme = self.lexemes[at];
            let partner = self.partner[at];
            let side = (self.shape)(lexeme.kind);
            if matches!(side, Some((_, Side::Closes))) && partner != NO_PARTNER && (partner as usize) < open {
                break;
            }
            let ends_statement =
                !curly && (self.word(at) == ";" && !looped || self.begins_block(at, open) || self.begins_suite(at));
            let ends_type = curly && self.ends_type(at);
            let ends_value = holds_value && VALUE_ENDS.contains(&self.word(at));
            if self.margins.is_behind(at, (open, head)) || ends_statement || ends_type || ends_value {
                break;
            }
            at = match (side, ends.get(&at)) {
                (_, Some(end)) => *end,
                (Some((_, side)), _) if side.opens() && partner != NO_PARTNER => partner as usize + 1,
                // A bracket of the same shape that closes nothing closes this one.
                (Some((other, Side::Closes)), _) if other == shape && curly => break,
                _ => at + 1,
            };
        }
        // Comments in front of what follows belong to that, and a comma to the list that an element is in.
        while at > open + 1 && self.is_note(at - 1) {
            at -= 1;
        }
        if at > open + 1 && self.word(at - 1) == "," && self.is_element(open) { at - 1 } else { at }
    }

    /// Whether an opening bracket stands in a list, with a comma or another bracket in front.
    fn is_element(&self, open: usize) -> bool {
        let mut at = open;
        for _ in 0..ELEMENT_WITHIN {
            let Some(before) = at.checked_sub(1) else { return false };
            match (self.shape)(self.lexemes[before].kind) {
                Some((_, side)) if side.opens() => return !self.word(before).ends_with('{') || before + 1 == open,
                Some(_) if self.partner[before] == NO_PARTNER => return false,
                Some(_) => at = self.partner[before] as usize,
                None if self.word(before) == "," => return true,
                None if self.word(before) == ";" => return false,
                None => at = before,
            }
        }
        false
    }

    /// Whether a semicolon is alone on its line behind something that no semicolon ends.
    fn ends_type(&self, at: usize) -> bool {
        let alone = self.margins.column(at).is_some() && self.margins.column(at + 1).is_some();
        self.word(at) == ";" && alone && !matches!(self.word(at - 1), ";" | ")" | "{" | "}")
    }

    /// Whether a colon ends its line, as in front of statements.
    fn begins_suite(&self, at: usize) -> bool {
        self.word(at) == ":" && self.margins.column(at + 1).is_some()
    }

    /// Whether nothing but a comment stands behind a lexeme on its line.
    fn ends_line(&self, at: usize) -> bool {
        let begins = |at: usize| at >= self.lexemes.len() || self.margins.column(at).is_some();
        begins(at + 1) || self.is_note(at + 1) && begins(at + 2)
    }

    /// Whether a curly bracket has a partner that ends what it is part of: nothing goes on behind it.
    fn ends_all(&self, at: usize) -> bool {
        let close = self.partner[at] as usize;
        close < self.lexemes.len()
            && self.ends_line(close)
            && !matches!(self.word(close + 1), ")" | "]" | "," | "." | ";")
    }

    /// Whether a curly bracket holds nothing, or a statement, and its partner ends the line.
    fn is_short_block(&self, at: usize) -> bool {
        let close = self.partner[at] as usize;
        close < self.lexemes.len()
            && (close == at + 1 || self.word(close - 1) == ";")
            && self.ends_line(close)
            && (at + 1..=close).all(|inside| self.margins.column(inside).is_none())
    }

    /// Whether a curly bracket ends its line, or its partner does, and opens a block, not a value.
    fn begins_block(&self, at: usize, open: usize) -> bool {
        let headed = open > 0 && HEAD_WORDS.contains(&self.word(open - 1));
        self.word(at) == "{"
            && (at > open + 1 || self.lexemes[open].end < self.lexemes[at].start)
            && (self.ends_line(at) || self.is_short_block(at))
            && !matches!(self.word(at - 1), "," | "=>" | "[" | "=" | ":" | "->" | "return" | "{")
            && (headed || self.word(at - 1) != ")" || self.ends_all(at))
    }
}
