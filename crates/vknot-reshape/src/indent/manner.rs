//! The manner of a file: where nothing sets how its lines stand, what most of them show.

use vknot_style::{Key, Origin, Style};

use super::shown::shown_by;
use crate::frames::found::{effective_indentation, lines_up_by_tabs};
use crate::frames::ways::Shown;
use crate::spec::Code;

/// The settings that lines can show.
const SHOWN: [Key; 16] = [
    Key::IndentFunction,
    Key::IndentPage,
    Key::IndentCase,
    Key::AlignList,
    Key::IndentBrace,
    Key::IndentAccess,
    Key::IndentNamespace,
    Key::IndentWrapper,
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
    match shown_by(code, style, effective_indentation(code, style)) {
        Some(shown) if shown.is_kept() => of_lines(&shown, style, |_, _| true),
        _ => style.clone(),
    }
}

/// What the lines of a file show, where enough of them agree, whatever is usual.
pub(crate) fn told(code: Code<'_>, style: &Style) -> Vec<(Key, String)> {
    let indentation = effective_indentation(code, style);
    let Some(shown) = shown_by(code, style, indentation).filter(|shown| shown.is_kept()) else {
        return Vec::new();
    };
    let tabs = indentation.tabs && style.language().covers(Key::AlignTabs);
    let tabs = tabs.then(|| lines_up_by_tabs(code, indentation)).flatten();
    let tabs = tabs.map(|tabs| (Key::AlignTabs, tabs.to_string()));
    let told = |key: Key| {
        let votes: Vec<(&str, u32)> =
            shown.votes.iter().filter(|((of, _), _)| *of == key).map(|((_, word), votes)| (*word, *votes)).collect();
        let all: u32 = votes.iter().map(|(_, votes)| votes).sum();
        let (word, most) = votes.into_iter().max_by_key(|(_, votes)| *votes)?;
        (most >= LEAST && 5 * most >= 4 * all).then(|| (key, word.to_owned()))
    };
    SHOWN.into_iter().filter(|key| style.language().covers(*key)).filter_map(told).chain(tabs).collect()
}

/// What a style has that the file shows, and nothing else said.
pub(super) fn differences(style: &Style) -> Vec<(&'static str, String)> {
    let found = |key: &&Key| style.origin(**key) == Origin::Found;
    SHOWN.iter().filter(found).map(|key| (key.setting().key, style.word(*key).to_owned())).collect()
}

/// A style with what the lines of a file show, where that is another value.
pub(super) fn own(shown: &Shown, style: &Style) -> Style {
    of_lines(shown, style, |most, usual| most >= usual + LEAST)
}

/// A style with the values that most lines show, if they are `enough` against those that show the value the style has.
fn of_lines(shown: &Shown, style: &Style, enough: impl Fn(u32, u32) -> bool) -> Style {
    let mut own = style.clone();
    for key in SHOWN {
        let open = style.is_open(key) && style.language().covers(key);
        let of_key = || shown.votes.iter().filter(move |((of, _), _)| *of == key);
        let usual = of_key().find(|((_, word), _)| *word == style.word(key)).map_or(0, |(_, votes)| *votes);
        let most = of_key().max_by_key(|(_, votes)| **votes).filter(|(_, votes)| open && enough(**votes, usual));
        // What the files beside show is the file's own where its lines show it, too.
        let same = style.origin(key) == Origin::Beside && usual >= LEAST;
        if let Some(((_, word), _)) = most {
            own = own.with_found(key, (*word).to_owned());
        } else if open && same {
            own = own.with_found(key, style.word(key).to_owned());
        }
    }
    own
}
