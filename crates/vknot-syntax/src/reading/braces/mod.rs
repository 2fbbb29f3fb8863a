//! C and C++ in one reader, made for code before the preprocessor has run.
//!
//! Declarations and statements are told by their shape, not by looking names up: what ends with `;`, what has a body, which words lead.
//! Macros may stand for statements, qualifiers and whole functions. Where the branches of a conditional cut through brackets, the first
//! branch counts, and the brackets of the others are inert.

mod angles;
mod constraints;
mod expressions;
mod heads;
mod lexer;
mod operators;
mod reader;

use crate::language::{Field, Kind};
use crate::tree::TreeBuilder;
use super::brackets::Side;
use super::{completed, conditionals, kinds, Lexeme, partners};
use super::conditionals::{Directive, Part};

kinds! {
    UNIT = "unit" as File,
    INCLUDE = "include" as Import,
    DIRECTIVE = "directive",
    MACRO_DEFINITION = "macro" as Macro,
    MACRO_BODY = "macro_body" as String,
    REGION_MARK = "region_mark" as Comment,
    NAMESPACE = "namespace" as Type,
    LINKAGE = "linkage" as Type,
    CLASS = "class" as Type,
    STRUCT = "struct" as Type,
    UNION = "union" as Type,
    ENUM = "enum" as Type,
    CONSTANT = "constant" as Member,
    FUNCTION = "function" as Callable,
    PROTOTYPE = "function_declaration" as Callable,
    DECLARATION = "declaration" as Member,
    ALIAS = "alias" as Member,
    STATEMENT = "statement" as Statement,
    CONDITIONAL = "conditional" as Branch,
    LOOP = "loop" as Branch,
    GUARD = "guard" as Branch,
    MACRO_BLOCK = "macro_block" as Branch,
    ARM = "arm" as Arm,
    LABEL = "label" as Label,
    BLOCK = "block" as Block,
    BODY = "body" as Body,
    LAMBDA = "lambda" as Lambda,
    CALL = "call" as Call,
    ARGUMENTS = "arguments" as Arguments,
    PARAMETERS = "parameters" as List,
    GROUP = "group" as Parenthesized,
    SUBSCRIPT = "subscript",
    ATTRIBUTE = "attribute" as Annotation,
    CONSTRAINT = "constraint",
    TEMPLATE_PARAMETERS = "template_parameters",
    TEMPLATE_ARGUMENTS = "template_arguments",
    ACCESS = "access" as Link,
    OPERATION = "operation" as Operator,
    UNARY = "unary_operation" as Operator,
    CHOICE = "choice" as Operator,
    ASSIGNMENT = "assignment" as Assignment,
    CAST = "cast" as Operator,
    UNCERTAIN = "uncertain" as Operator,
    STRINGS = "strings" as Operator,
    PARAMETER = "parameter",
    INITIALIZER = "initializer" as Collection,
    INACTIVE = "inactive",
    QUALIFIED = "qualified_name" as Name,
    WORD = "word" as Name,
    NUMBER = "number" as Literal,
    STRING = "string" as String,
    CHARACTER = "character" as String,
    COMMENT = "comment" as Comment,
    INERT = "inert_bracket" as Inert,
    MARK = "+",
    SEMICOLON = ";",
    COMMA = ",",
    OPEN_ROUND = "(",
    CLOSE_ROUND = ")",
    OPEN_SQUARE = "[",
    CLOSE_SQUARE = "]",
    OPEN_CURLY = "{",
    CLOSE_CURLY = "}",
}

/// Reads a text.
pub(crate) fn read(text: &str, builder: &mut TreeBuilder<'_>) {
    let mut lexemes = lexer::lexemes(text);
    let settled = conditionals::settle(lexemes.len(), |index| part(text, lexemes[index]));
    for index in settled.inert {
        lexemes[index].kind = INERT;
    }
    let partner = partners(text, &lexemes, shape);
    let is_note = |kind| matches!(kind, COMMENT | DIRECTIVE | REGION_MARK);
    let closing = [CLOSE_CURLY, CLOSE_ROUND, CLOSE_SQUARE];
    let whole = completed(text, lexemes, partner, (&shape, &is_note), &closing);
    let inactive: Vec<(u32, u32)> = settled.runs.iter().map(|run| whole.run(*run)).collect();
    builder.open(UNIT, Field(0));
    reader::Reader::new(text, &whole.lexemes, &whole.partner, &inactive, builder).run();
}

/// What a lexeme is to conditionals.
fn part(text: &str, lexeme: Lexeme) -> Part {
    if lexeme.kind != DIRECTIVE {
        return shape(lexeme.kind).map_or(Part::Other, |(kind, side)| Part::Bracket(kind, side));
    }
    let line = lexeme.of(text).trim_start_matches('#').trim_start();
    match line.split(|c: char| !c.is_ascii_alphabetic()).next() {
        Some("if" | "ifdef" | "ifndef") => {
            Part::Directive(Directive::If { never: line.strip_prefix("if").is_some_and(|rest| rest.trim() == "0") })
        }
        Some("else" | "elif" | "elifdef" | "elifndef") => Part::Directive(Directive::Else),
        Some("endif") => Part::Directive(Directive::End),
        _ => Part::Other,
    }
}

/// Which brackets pair up.
fn shape(kind: Kind) -> Option<(u8, Side)> {
    match kind {
        OPEN_CURLY => Some((0, Side::Opens)),
        CLOSE_CURLY => Some((0, Side::Closes)),
        OPEN_ROUND => Some((1, Side::Opens)),
        CLOSE_ROUND => Some((1, Side::Closes)),
        OPEN_SQUARE => Some((2, Side::Opens)),
        CLOSE_SQUARE => Some((2, Side::Closes)),
        _ => None,
    }
}
