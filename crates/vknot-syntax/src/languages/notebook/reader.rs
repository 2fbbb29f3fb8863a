//! Reads the JSON of a notebook; objects in the array `cells` are cells.

use crate::language::{Field, Kind};
use crate::reading::brackets::Side;
use crate::reading::{char_len, Escape, kinds, Lexeme, NO_PARTNER, partners, quoted_end, word_end};
use crate::tree::TreeBuilder;

kinds! {
    NOTEBOOK = "notebook" as File,
    CELL = "cell" as Cell,
    OBJECT = "object" as Collection,
    ARRAY = "array" as Collection,
    MEMBER = "member" as Assignment,
    STRING = "string" as String,
    LITERAL = "literal" as Literal,
    MARK = "?",
    OPEN_CURLY = "{",
    CLOSE_CURLY = "}",
    OPEN_SQUARE = "[",
    CLOSE_SQUARE = "]",
    COLON = ":",
    COMMA = ",",
}

/// Something that is open.
struct Frame {
    end: usize,
    /// Whether it is the array of cells.
    cells: bool,
    /// Whether a member is open in it.
    member: bool,
}

/// Reads a text.
pub(super) fn read(text: &str, builder: &mut TreeBuilder<'_>) {
    let lexemes = lexemes(text);
    let partner = partners(text, &lexemes, shape);
    builder.open(NOTEBOOK, Field(0));
    let mut frames: Vec<Frame> = Vec::new();
    let mut key_is_cells = false;
    for (at, lexeme) in lexemes.iter().enumerate() {
        let closes = frames.last().is_some_and(|frame| frame.end == at);
        if closes && let Some(frame) = frames.pop() {
            if frame.member {
                builder.close();
            }
            builder.leaf(lexeme.kind, Field(0), lexeme.start, lexeme.end);
            builder.close();
            continue;
        }
        let field = if frames.last().is_some_and(|frame| frame.member) { Field::VALUE } else { Field(0) };
        let begins_member = lexeme.kind == STRING && lexemes.get(at + 1).is_some_and(|next| next.kind == COLON);
        match (lexeme.kind, partner[at]) {
            (COMMA, _) => {
                if let Some(frame) = frames.last_mut() && std::mem::take(&mut frame.member) {
                    builder.close();
                }
                builder.leaf(COMMA, Field(0), lexeme.start, lexeme.end);
            }
            (OPEN_CURLY | OPEN_SQUARE, end) if end != NO_PARTNER => {
                let in_cells = frames.last().is_some_and(|frame| frame.cells);
                let cells = lexeme.kind == OPEN_SQUARE && key_is_cells && frames.len() == 1;
                let kind = match lexeme.kind {
                    OPEN_CURLY if in_cells => CELL,
                    OPEN_CURLY => OBJECT,
                    _ => ARRAY,
                };
                builder.open(kind, field);
                builder.leaf(lexeme.kind, Field(0), lexeme.start, lexeme.end);
                frames.push(Frame { end: end as usize, cells, member: false });
            }
            (kind, _) if shape(kind).is_some() => builder.error(lexeme.start as usize, lexeme.end as usize),
            (_, _) if begins_member && let Some(frame) = frames.last_mut() => {
                if std::mem::replace(&mut frame.member, true) {
                    builder.close();
                }
                key_is_cells = lexeme.of(text) == "\"cells\"";
                builder.open(MEMBER, Field(0));
                builder.leaf(STRING, Field::NAME, lexeme.start, lexeme.end);
            }
            (kind, _) => {
                let field = if kind == COLON { Field(0) } else { field };
                builder.leaf(kind, field, lexeme.start, lexeme.end);
            }
        }
    }
}

fn shape(kind: Kind) -> Option<(u8, Side)> {
    match kind {
        OPEN_CURLY => Some((0, Side::Opens)),
        CLOSE_CURLY => Some((0, Side::Closes)),
        OPEN_SQUARE => Some((1, Side::Opens)),
        CLOSE_SQUARE => Some((1, Side::Closes)),
        _ => None,
    }
}

fn lexemes(text: &str) -> Vec<Lexeme> {
    let bytes = text.as_bytes();
    let mut found = Vec::new();
    let mut at = 0;
    while let Some(&byte) = bytes.get(at) {
        if byte.is_ascii_whitespace() {
            at += 1;
            continue;
        }
        let (kind, end) = match byte {
            b'"' => quoted_end(bytes, at, Escape::Backslash, true).map_or((MARK, at + 1), |end| (STRING, end)),
            b'{' => (OPEN_CURLY, at + 1),
            b'}' => (CLOSE_CURLY, at + 1),
            b'[' => (OPEN_SQUARE, at + 1),
            b']' => (CLOSE_SQUARE, at + 1),
            b':' => (COLON, at + 1),
            b',' => (COMMA, at + 1),
            byte if byte.is_ascii_alphanumeric() || matches!(byte, b'-' | b'+') => {
                (
                    LITERAL,
                    word_end(bytes, at + 1, |byte| byte.is_ascii_alphanumeric() || matches!(byte, b'.' | b'-' | b'+')),
                )
            }
            byte => (MARK, at + char_len(byte)),
        };
        found.push(Lexeme { kind, start: at as u32, end: end as u32 });
        at = end;
    }
    found
}
