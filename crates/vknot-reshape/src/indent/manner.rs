//! The manner of a file: where nothing sets how its lines stand, what most of them show.

use vknot_style::{Key, Origin, Style};

use super::set;
use crate::frames::found::effective_indentation;
use crate::frames::ways::Shown;
use crate::spec::Code;

/// The settings that lines can show.
const SHOWN: [Key; 15] = [
    Key::IndentFunction,
    Key::IndentPage,
    Key::IndentCase,
    Key::AlignList,
    Key::IndentBrace,
    Key::IndentAccess,
    Key::IndentNamespace,
    Key::WrapIndent,
    Key::IndentCaseBrace,
    Key::IndentCaseElse,
    Key::IndentBracket,
    Key::IndentElseIf,
    Key::WrapLiteral,
    Key::AlignOperand,
    Key::IndentLabel,
];

/// By how many lines a value must do better than another to be taken for more than chance.
const LEAST: u32 = 2;

/// A style in which what it leaves open is as the lines of a file show it.
pub fn own_style(code: Code<'_>, style: &Style) -> Style {
    match set::shown_by(code, style, effective_indentation(code, style)) {
        Some(shown) if shown.is_kept() => own(&shown, style),
        _ => style.clone(),
    }
}

/// What a style has that the file shows, and nothing else said.
pub(super) fn differences(style: &Style) -> Vec<(&'static str, String)> {
    let found = |key: &&Key| style.origin(**key) == Origin::Found;
    SHOWN.iter().filter(found).map(|key| (key.setting().key, style.word(*key).to_owned())).collect()
}

/// A style with what the lines of a file show.
pub(super) fn own(shown: &Shown, style: &Style) -> Style {
    let mut own = style.clone();
    for key in SHOWN {
        let open = matches!(style.origin(key), Origin::Default | Origin::Found) && style.language().covers(key);
        let votes = |word: &str| shown.votes.iter().find(|((of, value), _)| *of == key && *value == word).map_or(0, |(_, votes)| *votes);
        let values = shown.votes.iter().filter(|((of, _), _)| *of == key).map(|((_, word), _)| *word);
        let Some(most) = values.max_by_key(|word| votes(word)).filter(|_| open) else { continue };
        if votes(most) >= votes(style.word(key)) + LEAST {
            own = own.with_found(key, most.to_owned());
        }
    }
    own
}
