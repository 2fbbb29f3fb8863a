//! What marks and words are to the lines around them.

use vknot_syntax::{Bracket, Role};

/// What stands for a word that opens or closes.
pub(super) const WORD: u8 = b'w';

/// The bracket that a token opens, without the mark in front of it.
pub(super) fn opener(text: &str) -> Option<u8> {
    let bracket = Bracket::of(text).filter(|bracket| bracket.opens).or_else(|| Bracket::marked(text));
    bracket.map(|bracket| bracket.shape)
}

/// The bracket that a token closes.
pub(super) fn closer(text: &str, role: Role) -> Option<u8> {
    match text {
        ")" => Some(b'('),
        "]" => Some(b'['),
        "}" => Some(b'{'),
        ">" | "/>" => Some(b'<'),
        _ => (role == Role::Close).then_some(WORD),
    }
}

/// Whether a word is one of some, in whatever case.
pub(super) fn is_one_of(words: &[&str], word: &str) -> bool {
    words.iter().any(|other| other.eq_ignore_ascii_case(word))
}

/// Whether a token joins what is on both sides of it.
pub(super) fn is_operator(text: &str) -> bool {
    const OPERATORS: [&str; 24] = [
        ".", "&&", "||", "+", "-", "*", "/", "%", "=", "==", "!=", "<", ">", "<=", ">=", "+=", "?", "?.", "??", "&",
        "|", "^", "<<", ">>",
    ];
    OPERATORS.contains(&text)
}

/// Whether a text begins with a mark behind which a declaration says more of itself: what it initializes, or what it derives from.
pub(crate) fn leads_clause(text: &str) -> bool {
    text.starts_with(',') || text.strip_prefix(':').is_some_and(|rest| !rest.starts_with([':', '=']))
}

/// Whether a token ends an item, or stands in front of the first.
pub(super) fn ends_item(text: &str) -> bool {
    matches!(text, "," | ";" | "(" | "[" | "{" | "=>" | "")
}
