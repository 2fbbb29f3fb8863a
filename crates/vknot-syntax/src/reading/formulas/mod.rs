//! DAX: queries, and files of measures.
//!
//! A definition begins with `MEASURE` and its like, or with a name and `=` at the margin or behind a blank line; it goes on to the next
//! one. `VAR` and `RETURN` part what is inside, at any depth.

mod expressions;
mod lexer;
mod reader;

use crate::language::{Field, Kind};
use crate::tree::TreeBuilder;
use super::{kinds, Lexeme, partners};
use super::brackets::Side;

kinds! {
    FORMULAS = "formulas" as File,
    MEASURE = "measure" as Callable,
    QUERY = "query" as Branch,
    DEFINE = "define" as Statement,
    VARIABLE = "variable" as Assignment,
    RESULT = "result" as Statement,
    CALL = "call" as Call,
    ARGUMENTS = "arguments" as Arguments,
    GROUP = "group" as Parenthesized,
    OPERATION = "operation" as Operator,
    UNARY = "unary_operation" as Operator,
    TABLE = "table" as Collection,
    REFERENCE = "reference" as Name,
    KEYWORD = "keyword",
    WORD = "word" as Name,
    QUOTED = "quoted_name" as Name,
    COLUMN = "column" as Name,
    NUMBER = "number" as Literal,
    STRING = "string" as String,
    COMMENT = "comment" as Comment,
    MARK = "+",
    COMMA = ",",
    OPEN_ROUND = "(",
    CLOSE_ROUND = ")",
    OPEN_CURLY = "{",
    CLOSE_CURLY = "}",
}

/// Reads a text.
pub(crate) fn read(text: &str, builder: &mut TreeBuilder<'_>) {
    let lexemes = lexer::lexemes(text);
    let partner = partners(text, &lexemes, shape);
    builder.open(FORMULAS, Field(0));
    reader::Reader::new(text, &lexemes, &partner, builder).run();
}

fn shape(kind: Kind) -> Option<(u8, Side)> {
    match kind {
        OPEN_ROUND => Some((0, Side::Opens)),
        CLOSE_ROUND => Some((0, Side::Closes)),
        OPEN_CURLY => Some((1, Side::Opens)),
        CLOSE_CURLY => Some((1, Side::Closes)),
        _ => None,
    }
}
