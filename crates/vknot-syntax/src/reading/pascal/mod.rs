//! Object Pascal, by its words: what opens, parts and closes blocks, types and routines.
//!
//! Comments and directives may stand anywhere. Where the branches of a conditional cut through blocks, the first branch counts.

mod expressions;
mod lexemes;
mod lexer;
mod reader;

use crate::language::{Field, Kind};
use crate::tree::TreeBuilder;
use super::brackets::Side;
use super::conditionals::{Directive, Part, settle};
use super::{kinds, Lexeme, partners};

kinds! {
    UNIT = "unit" as File,
    PACKAGE = "unit_name" as Package,
    USES = "uses" as Import,
    PART = "part" as Body,
    DECLARATIONS = "declarations" as Body,
    CLASS = "class" as Type,
    RECORD = "record" as Type,
    INTERFACE = "interface" as Type,
    ALIAS = "type" as Member,
    VALUE = "value" as Member,
    FIELD = "field" as Member,
    PROPERTY = "property" as Member,
    ROUTINE = "routine" as Callable,
    HEADER = "routine_header" as Callable,
    MEMBERS = "members" as Body,
    VISIBILITY = "visibility" as Label,
    STATEMENT = "statement" as Statement,
    CONDITIONAL = "conditional" as Branch,
    LOOP = "loop" as Branch,
    GUARD = "guard" as Branch,
    SCOPE = "scope" as Branch,
    VARIANTS = "variants" as Branch,
    ARM = "arm" as Arm,
    LABEL = "label" as Label,
    BLOCK = "block" as Block,
    ASSEMBLER = "assembler" as Block,
    LAMBDA = "lambda" as Lambda,
    CALL = "call" as Call,
    ARGUMENTS = "arguments" as Arguments,
    PARAMETERS = "parameters" as List,
    GROUP = "group" as Collection,
    PARENTHESIZED = "parenthesized" as Parenthesized,
    SUBSCRIPT = "subscript" as Arguments,
    ACCESS = "access" as Link,
    OPERATION = "operation" as Operator,
    UNARY = "unary_operation" as Operator,
    ASSIGNMENT = "assignment" as Assignment,
    INACTIVE = "inactive",
    QUALIFIED = "qualified_name",
    OPENING = "opening_word" as Open,
    CLOSING = "closing_word" as Close,
    KEYWORD = "keyword",
    WORD = "word" as Name,
    NUMBER = "number" as Literal,
    STRING = "string" as String,
    COMMENT = "comment" as Comment,
    DIRECTIVE = "directive",
    REGION_MARK = "region_mark" as Comment,
    INERT = "inert" as Inert,
    MARK = "+",
    SEMICOLON = ";",
    COMMA = ",",
    OPEN_ROUND = "(",
    CLOSE_ROUND = ")",
    OPEN_SQUARE = "[",
    CLOSE_SQUARE = "]",
}

/// Reads a text.
pub(crate) fn read(text: &str, builder: &mut TreeBuilder<'_>) {
    let mut lexemes = lexer::lexemes(text);
    let settled = settle(lexemes.len(), |index| part(text, &lexemes, index));
    for index in settled.inert {
        lexemes[index].kind = INERT;
    }
    let partner = partners(text, &lexemes, shape);
    builder.open(UNIT, Field(0));
    let lexemes = lexemes::Lexemes { source: text, list: &lexemes, partner: &partner };
    reader::Reader::new(lexemes, &settled.runs, builder).run();
}

/// Which brackets pair up.
fn shape(kind: Kind) -> Option<(u8, Side)> {
    match kind {
        OPEN_ROUND => Some((0, Side::Opens)),
        CLOSE_ROUND => Some((0, Side::Closes)),
        OPEN_SQUARE => Some((1, Side::Opens)),
        CLOSE_SQUARE => Some((1, Side::Closes)),
        _ => None,
    }
}

/// The shape of blocks that `end` closes, and of those that `until` closes.
const ENDED: u8 = 2;
const REPEATED: u8 = 3;

/// What a lexeme is to conditionals.
fn part(text: &str, lexemes: &[Lexeme], index: usize) -> Part {
    let lexeme = lexemes[index];
    if lexeme.kind == DIRECTIVE {
        return match directive_name(lexeme.of(text)).as_str() {
            "ifdef" | "ifndef" | "if" | "ifopt" => Part::Directive(Directive::If { never: false }),
            "else" | "elseif" | "elseifdef" => Part::Directive(Directive::Else),
            "endif" | "ifend" => Part::Directive(Directive::End),
            _ => Part::Other,
        };
    }
    if lexeme.kind != WORD {
        return shape(lexeme.kind).map_or(Part::Other, |(kind, side)| Part::Bracket(kind, side));
    }
    match Word::of(lexeme.of(text)) {
        Some(Word::Begin | Word::Asm) => Part::Body(ENDED),
        Some(Word::Case | Word::Try | Word::Record) => Part::Bracket(ENDED, Side::Opens),
        Some(Word::Repeat) => Part::Bracket(REPEATED, Side::Opens),
        Some(Word::End) => Part::Bracket(ENDED, Side::Closes),
        Some(Word::Until) => Part::Bracket(REPEATED, Side::Closes),
        Some(Word::Routine) => Part::Header,
        _ => Part::Other,
    }
}

/// The name of a directive, in lower case.
fn directive_name(text: &str) -> String {
    let inside = text.trim_start_matches(['{', '(', '*', '$']);
    inside.chars().take_while(char::is_ascii_alphanumeric).collect::<String>().to_ascii_lowercase()
}

/// Words that give a file its structure.
#[derive(Clone, Copy, PartialEq, Eq, Debug)]
enum Word {
    Begin,
    Asm,
    Case,
    Try,
    Record,
    Repeat,
    End,
    Until,
    Routine,
    Class,
    If,
    Then,
    Else,
    Of,
    Do,
    Loop,
    With,
    Guarded,
    On,
    Declarations,
    Part,
    Uses,
    Package,
    Visibility,
    Property,
    Operator,
}

impl Word {
    fn of(text: &str) -> Option<Word> {
        // Every word of the table is short.
        if text.len() > 14 || text.len() < 2 {
            return None;
        }
        let lower = text.to_ascii_lowercase();
        Some(match lower.as_str() {
            "begin" => Word::Begin,
            "asm" => Word::Asm,
            "case" => Word::Case,
            "try" => Word::Try,
            "record" => Word::Record,
            "repeat" => Word::Repeat,
            "end" => Word::End,
            "until" => Word::Until,
            "procedure" | "function" | "constructor" | "destructor" | "operator" => Word::Routine,
            "class" | "object" | "dispinterface" | "objcclass" | "objcprotocol" | "objccategory" => Word::Class,
            "if" => Word::If,
            "then" => Word::Then,
            "else" | "otherwise" => Word::Else,
            "of" => Word::Of,
            "do" => Word::Do,
            "for" | "while" => Word::Loop,
            "with" => Word::With,
            "except" | "finally" => Word::Guarded,
            "on" => Word::On,
            "const" | "var" | "type" | "threadvar" | "resourcestring" | "label" | "exports" => Word::Declarations,
            "interface" | "implementation" | "initialization" | "finalization" => Word::Part,
            "uses" | "requires" | "contains" => Word::Uses,
            "unit" | "program" | "library" | "package" => Word::Package,
            "private" | "protected" | "public" | "published" | "strict" | "automated" => Word::Visibility,
            "property" => Word::Property,
            "and" | "or" | "xor" | "not" | "div" | "mod" | "shl" | "shr" | "in" | "is" | "as" => Word::Operator,
            _ => return None,
        })
    }
}
