//! MATLAB and Octave in one reader.
//!
//! Lines matter: a statement ends with its line unless a bracket is open or `...` joins the next. Whether a quote begins a string or
//! transposes what is in front of it depends on the lexeme before. Functions may go without `end`; whether those of a file do is
//! told by counting.

mod expressions;
mod lexer;
mod reader;

use crate::language::{Field, Kind};
use crate::tree::TreeBuilder;
use super::{kinds, Lexeme, NO_PARTNER, partners};
use super::brackets::Side;

kinds! {
    SCRIPT = "script" as File,
    FUNCTION = "function" as Callable,
    CLASS = "class" as Type,
    MEMBERS = "members" as Branch,
    CONDITIONAL = "conditional" as Branch,
    LOOP = "loop" as Branch,
    GUARD = "guard" as Branch,
    ARM = "arm" as Arm,
    BLOCK = "block" as Block,
    PROPERTY = "property" as Member,
    STATEMENT = "statement" as Statement,
    CALL = "call" as Call,
    ARGUMENTS = "arguments" as Arguments,
    GROUP = "group" as Parenthesized,
    ACCESS = "access" as Link,
    OPERATION = "operation" as Operator,
    UNARY = "unary_operation" as Operator,
    ASSIGNMENT = "assignment" as Assignment,
    LAMBDA = "lambda" as Lambda,
    MATRIX = "matrix" as Collection,
    CELL_ARRAY = "cell_array" as Collection,
    OPENING = "opening_word" as Open,
    MIDDLE = "middle_word",
    CLOSING = "closing_word" as Close,
    WORD = "word" as Name,
    NUMBER = "number" as Literal,
    STRING = "string" as String,
    COMMENT = "comment" as Comment,
    COMMAND = "command_word" as String,
    MARK = "+",
    TRANSPOSE = "'",
    OPEN_ROUND = "(",
    CLOSE_ROUND = ")",
    OPEN_SQUARE = "[",
    CLOSE_SQUARE = "]",
    OPEN_CURLY = "{",
    CLOSE_CURLY = "}",
    SEMICOLON = ";",
    COMMA = ",",
    NEWLINE = "\n",
}

/// Reads a text; `octave` says whether a backslash escapes in double quotes, and `#` begins comments.
pub(crate) fn read(text: &str, octave: bool, builder: &mut TreeBuilder<'_>) {
    let lexemes = lexer::lexemes(text, octave);
    let partner = partners(text, &lexemes, shape);
    builder.open(SCRIPT, Field(0));
    let endless = functions_have_no_end(text, &lexemes, &partner);
    reader::Reader::new(text, &lexemes, &partner, builder, endless).run();
}

fn shape(kind: Kind) -> Option<(u8, Side)> {
    match kind {
        OPEN_ROUND => Some((0, Side::Opens)),
        CLOSE_ROUND => Some((0, Side::Closes)),
        OPEN_SQUARE => Some((1, Side::Opens)),
        CLOSE_SQUARE => Some((1, Side::Closes)),
        OPEN_CURLY => Some((2, Side::Opens)),
        CLOSE_CURLY => Some((2, Side::Closes)),
        _ => None,
    }
}

/// What a word does at the beginning of a statement.
#[derive(Clone, Copy, PartialEq, Eq)]
enum Keyword {
    Opens(Kind),
    Middle,
    Closes,
}

fn keyword(word: &str) -> Option<Keyword> {
    Some(match word {
        "function" => Keyword::Opens(FUNCTION),
        "classdef" => Keyword::Opens(CLASS),
        "if" | "switch" => Keyword::Opens(CONDITIONAL),
        "for" | "parfor" | "while" | "do" => Keyword::Opens(LOOP),
        "try" | "unwind_protect" | "spmd" => Keyword::Opens(GUARD),
        "else" | "elseif" | "case" | "otherwise" | "catch" | "unwind_protect_cleanup" => Keyword::Middle,
        "end"
        | "endif"
        | "endfor"
        | "endwhile"
        | "endfunction"
        | "endswitch"
        | "end_try_catch"
        | "end_unwind_protect"
        | "endparfor"
        | "endclassdef"
        | "endmethods"
        | "endproperties"
        | "endevents"
        | "endenumeration"
        | "until"
        | "endspmd"
        | "endarguments" => Keyword::Closes,
        _ => return None,
    })
}

/// Words that open a group of members inside a class, or of declarations inside a function.
const MEMBER_WORDS: [&str; 5] = ["properties", "methods", "events", "enumeration", "arguments"];

/// Whether the functions of a file go without a word that ends them: there are no ends left over for them.
fn functions_have_no_end(text: &str, lexemes: &[Lexeme], partner: &[u32]) -> bool {
    let (mut functions, mut others, mut ends) = (0i64, 0i64, 0i64);
    let mut class = false;
    let mut statement = true;
    let mut at = 0;
    while at < lexemes.len() {
        let lexeme = lexemes[at];
        if shape(lexeme.kind).is_some() && partner[at] != NO_PARTNER && partner[at] as usize > at {
            (at, statement) = (partner[at] as usize + 1, false);
            continue;
        }
        if statement && lexeme.kind == WORD {
            match keyword(lexeme.of(text)) {
                Some(Keyword::Opens(FUNCTION)) => functions += 1,
                Some(Keyword::Opens(kind)) => {
                    class |= kind == CLASS;
                    others += 1;
                }
                Some(Keyword::Closes) if lexeme.of(text) == "endfunction" => return false,
                Some(Keyword::Closes) => ends += 1,
                None if class && MEMBER_WORDS.contains(&lexeme.of(text)) => others += 1,
                _ => {}
            }
        }
        statement = matches!(lexeme.kind, NEWLINE | SEMICOLON | COMMA | COMMENT);
        at += 1;
    }
    functions > 0 && !class && (ends - others) * 2 < functions
}
