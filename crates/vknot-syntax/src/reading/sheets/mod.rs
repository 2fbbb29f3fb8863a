//! Style sheets: CSS, SCSS and Less in one reader.
//!
//! Source: CSS Syntax Module Level 3 for tokens and blocks; the other two add line comments, variables, nesting, interpolation
//! and maps. A statement is what ends with `;` or with a block, so a reader need not know properties or at-rules by name.

mod expressions;
mod lexer;
mod reader;

use crate::language::{Field, Kind, Loose};
use crate::tree::TreeBuilder;
use super::{completed, kinds, Lexeme, partners};
use super::brackets::Side;

kinds! {
    SHEET = "sheet" as File,
    RULE = "rule" as Rule,
    AT_RULE = "at_rule" as Rule,
    MIXIN = "mixin" as Callable,
    IMPORT = "import" as Import,
    CONDITIONAL = "conditional" as Branch,
    LOOP = "loop" as Branch,
    STATEMENT = "statement" as Statement,
    DECLARATION = "declaration" as Statement,
    VARIABLE_DECLARATION = "variable" as Member,
    BODY = "body" as Body,
    SELECTORS = "selectors",
    SELECTOR = "selector",
    HEAD = "head",
    ACCESS = "access" as Link,
    VALUE = "value",
    PART = "value_part",
    OPERATION = "operation" as Operator,
    UNARY = "unary_operation" as Operator,
    CALL = "call" as Call,
    ARGUMENTS = "arguments" as Arguments,
    GROUP = "group" as Collection,
    INTERPOLATION = "interpolation",
    WORD = "word" as Name,
    AT_WORD = "at_word" as Name,
    VARIABLE = "variable_name" as Name,
    NUMBER = "number" as Literal,
    COLOR = "hash" as Literal,
    STRING = "string" as String,
    COMMENT = "comment" as Comment,
    MARK = "+",
    OPEN_CURLY = "{",
    CLOSE_CURLY = "}",
    OPEN_ROUND = "(",
    CLOSE_ROUND = ")",
    OPEN_SQUARE = "[",
    CLOSE_SQUARE = "]",
    OPEN_INTERPOLATION = "#{",
    SEMICOLON = ";",
    COLON = ":",
    COMMA = ",",
}

/// What one language of the family has of its own.
#[derive(Clone, Copy)]
pub(crate) struct Dialect {
    /// Whether `//` begins a comment.
    pub line_comments: bool,
    /// Whether `@name:` declares a variable.
    pub at_variables: bool,
}

/// Reads a text.
pub(crate) fn read(text: &str, dialect: Dialect, builder: &mut TreeBuilder<'_>) {
    let lexemes = lexer::lexemes(text, dialect);
    let partner = partners(text, &lexemes, shape);
    let closing = [CLOSE_CURLY, CLOSE_ROUND, CLOSE_SQUARE];
    let whole = completed(text, lexemes, partner, (&shape, &|kind| kind == COMMENT), &closing);
    builder.open(SHEET, Field(0));
    reader::Reader::new(text, dialect, &whole.lexemes, &whole.partner, builder).run();
}

fn shape(kind: Kind) -> Option<(u8, Side)> {
    match kind {
        OPEN_CURLY => Some((0, Side::Opens)),
        OPEN_INTERPOLATION => Some((0, Side::OpensValue)),
        CLOSE_CURLY => Some((0, Side::Closes)),
        OPEN_ROUND => Some((1, Side::Opens)),
        CLOSE_ROUND => Some((1, Side::Closes)),
        OPEN_SQUARE => Some((2, Side::Opens)),
        CLOSE_SQUARE => Some((2, Side::Closes)),
        _ => None,
    }
}

/// The tokens beside which white space is no meaning.
pub(crate) const LOOSE: &[Loose] = &[
    Loose { token: "{", within: "body", before: true, behind: true },
    Loose { token: "}", within: "body", before: true, behind: true },
    Loose { token: ";", within: "", before: true, behind: true },
    Loose { token: ",", within: "", before: true, behind: true },
    Loose { token: "(", within: "", before: false, behind: true },
    Loose { token: ")", within: "", before: true, behind: false },
    Loose { token: ":", within: "declaration", before: true, behind: true },
    Loose { token: ":", within: "variable", before: true, behind: true },
];
