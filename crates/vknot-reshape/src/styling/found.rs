//! The settings in force for a file, those that nothing sets included.

use vknot_style::{Key, Setting, Style};
use vknot_style::choices::{Charset, Choice, IndentStyle, LineEnds};
use vknot_syntax::LineEnd;

use crate::frames::found::decided_indentation;
use crate::indent;
use crate::layout;
use crate::receipt::Decided;
use crate::spec::Code;
use crate::steps::Document;

/// A setting's value, and whether the file shows it, as against its being usual.
type Shown = (Key, String, bool);

/// The style of a document in which what it leaves open is as the file shows it, or as is usual in the language.
pub fn in_force(document: &Document) -> Style {
    let (code, style) = (document.code(), document.style());
    let mut own = style.clone();
    for (key, value, found) in
        of_text(code).into_iter().chain(of_levels(code, style)).chain(layout::shown(code, style).settings)
    {
        if style.language().covers(key) && matches!(style.word(key), "as-found" | "indent") {
            own = match own.with_shown_beside(key) {
                _ if found => own.with_found(key, value),
                Some(beside) => beside,
                None => own.with_usual(key, value),
            };
        }
    }
    for (key, value) in indent::set(code, style, None).receipt.manner {
        if let Some(setting) = Setting::named(key) {
            own = own.with_found(setting.id, value);
        }
    }
    own
}

/// What the text as a whole shows.
fn of_text(code: Code<'_>) -> [Shown; 2] {
    let facts = code.source.facts();
    let end = match facts.line_end() {
        LineEnd::CrLf => LineEnds::CrLf,
        LineEnd::Lf => LineEnds::Lf,
    };
    let charset = if facts.bom { Charset::Utf8Bom } else { Charset::Utf8 };
    [
        (Key::EndOfLine, end.word().to_owned(), code.source.text().contains('\n')),
        (Key::Charset, charset.word().to_owned(), true),
    ]
}

/// What levels are made of.
fn of_levels(code: Code<'_>, style: &Style) -> [Shown; 3] {
    let (indentation, decided) = decided_indentation(code, style);
    let found = decided == Decided::ByFile;
    let made_of = if indentation.tabs { IndentStyle::Tab } else { IndentStyle::Space };
    [
        (Key::IndentStyle, made_of.word().to_owned(), found),
        (Key::IndentSize, indentation.size.to_string(), found),
        (Key::TabWidth, indentation.tab_width.to_string(), found),
    ]
}
