//! The operators of C and C++, and words that stand in front of values and types.

/// How tightly operators bind; those with two operands by [`infix`].
pub(super) const ASSIGNMENT_BINDS: u8 = 2;
pub(super) const CHOICE_BINDS: u8 = 3;
pub(super) const PREFIX_BINDS: u8 = 16;

/// How tightly an operator with two operands binds. <https://en.cppreference.com/w/cpp/language/operator_precedence>
pub(super) fn infix(word: &str) -> Option<u8> {
    Some(match word {
        "=" | "+=" | "-=" | "*=" | "/=" | "%=" | "&=" | "|=" | "^=" | "<<=" | "and_eq" | "or_eq" | "xor_eq" =>
            ASSIGNMENT_BINDS,
        "||" | "or" => 4,
        "&&" | "and" => 5,
        "|" | "bitor" => 6,
        "^" | "xor" => 7,
        "&" | "bitand" => 8,
        "==" | "!=" | "not_eq" => 9,
        "<" | ">" | "<=" | ">=" => 10,
        "<=>" => 11,
        "<<" => 12,
        "+" | "-" => 13,
        "*" | "/" | "%" => 14,
        _ => return None,
    })
}

pub(super) const SHIFT_BINDS: u8 = 12;
pub(super) const MEMBER_POINTER_BINDS: u8 = 15;

/// Words that are operators in front of a value.
pub(super) const PREFIX_WORDS: &[&str] = &[
    "sizeof", "alignof", "_Alignof", "__alignof__", "new", "delete", "not", "compl", "co_await", "__extension__",
    "typeid", "__real__", "__imag__",
];
/// Those behind which brackets may hold a type and nothing more.
pub(super) const MEASURING_WORDS: &[&str] = &["sizeof", "alignof", "_Alignof", "__alignof__", "typeid"];
/// Words in front of a value that bind looser than any operator.
pub(super) const LOOSE_WORDS: &[&str] = &["throw", "co_yield", "return", "co_return", "goto", "case"];
/// Words that are part of a type, and begin a declaration.
pub(super) const TYPE_WORDS: &[&str] = &[
    "const", "volatile", "struct", "union", "enum", "class", "unsigned", "signed", "int", "char", "short", "long",
    "float", "double", "void", "bool", "_Bool", "auto", "static", "extern", "register", "inline", "typedef", "using",
    "constexpr", "typename", "wchar_t", "size_t", "constinit", "thread_local", "mutable", "decltype", "__typeof__",
    "typeof",
    "template", "explicit", "virtual", "friend", "goto", "asm", "__asm__",
];
