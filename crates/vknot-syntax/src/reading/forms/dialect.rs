//! The kinds of S-expressions, and what one language of the family has of its own.

use crate::language::Kind;
use crate::reading::kinds;

kinds! {
    FILE = "file" as File,
    FORM = "form" as Form,
    FUNCTION = "function" as Callable,
    DEFINITION = "definition" as Callable,
    TYPE = "type" as Type,
    VALUE = "value" as Member,
    MODULE = "module" as Type,
    NAMESPACE = "namespace" as Package,
    IMPORT = "import" as Import,
    CONDITIONAL = "conditional" as Branch,
    LOOP = "loop" as Branch,
    VECTOR = "vector" as Collection,
    MAP = "map" as Collection,
    SET = "set" as Collection,
    QUOTED = "quoted",
    SKIPPED = "skipped",
    SYMBOL = "symbol" as Name,
    KEYWORD = "keyword" as Literal,
    NUMBER = "number" as Literal,
    CHARACTER = "character" as String,
    STRING = "string" as String,
    REGEX = "regex" as String,
    COMMENT = "comment" as Comment,
    DIRECTIVE = "directive" as Package,
    PREFIX = "'",
    OPEN_ROUND = "(",
    CLOSE_ROUND = ")",
    OPEN_SQUARE = "[",
    CLOSE_SQUARE = "]",
    OPEN_CURLY = "{",
    CLOSE_CURLY = "}",
    COMMA = ",",
}

/// What one language of the family has of its own.
pub(crate) struct Dialect {
    /// Whether it is Clojure, whose commas are blank and whose prefixes differ.
    pub clojure: bool,
    /// Whether it is Scheme, with escapes between bars, symbols in `#{}#` and code of other languages.
    pub scheme: bool,
    /// Whether a file may hold text among its code, as its first line says.
    pub texts: bool,
    /// Heads of forms, with the kind of form they make; sorted by head.
    pub heads: &'static [(&'static str, Kind)],
    /// Beginnings of heads, for whole families of definitions, with their kind.
    pub head_beginnings: &'static [(&'static str, Kind)],
}
