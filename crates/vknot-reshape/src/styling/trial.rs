//! What a style makes of code, counted in lines, and the values that are worth trying on it.

use vknot_style::{Key, Style, Values};
use vknot_style::choices::CommentWrap;
use vknot_syntax::{Language, Source, Tree};

use crate::edits::Edits;
use crate::imports::{self, Acts, Wanted};
use crate::indent::{self, HeadVotes};
use crate::keeps;
use crate::layout;
use crate::registry::{capabilities, import_spec, style_of};
use crate::spec::Code;
use crate::spec::imports::Surroundings;
use crate::spelling;
use crate::steps::Document;

/// What shows the effect of a setting.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum Trial {
    /// The layout with its tokens; where a language has none, its indentation.
    Layout,
    /// The order of imports. None is taken out: that goes by what a file uses, not by its style.
    Imports,
}

/// The settings that say how imports are ordered and written. The others say what counts as one, or as used.
const ORDER: [Key; 7] = [
    Key::ImportBlank,
    Key::ImportCase,
    Key::ImportForm,
    Key::ImportGroups,
    Key::ImportMerge,
    Key::ImportNames,
    Key::ImportStatic,
];

impl Trial {
    /// Each of them.
    pub const ALL: [Trial; 2] = [Trial::Layout, Trial::Imports];

    /// What shows the effect of a setting; `None` where trying it on the code itself does not tell.
    pub fn of(key: Key) -> Option<Trial> {
        match key.setting().family() {
            "import" => ORDER.contains(&key).then_some(Trial::Imports),
            _ => Some(Trial::Layout),
        }
    }

    /// Whether it tells anything in a language.
    pub fn covers(self, language: &'static Language) -> bool {
        let can = capabilities(language);
        match self {
            Trial::Layout => can.layout || can.indentation,
            Trial::Imports => import_spec(language).is_some(),
        }
    }

    /// The settings that it shows, with the values worth trying on some documents of one language.
    pub fn questions(self, language: &'static Language, documents: &[Document]) -> Vec<(Key, Vec<String>)> {
        let keys = vknot_style::SETTINGS.iter().map(|setting| setting.id).filter(|key| Trial::of(*key) == Some(self));
        let asked = keys.map(|key| match key {
            Key::IndentHeads => (key, heads(documents).into_iter().collect()),
            _ => (key, values(key, language)),
        });
        asked.filter(|(_, values)| !values.is_empty()).collect()
    }

    /// What a style makes of a document. It is for counting and showing, and has not passed a proof.
    pub fn edits(self, document: &Document, style: &Style, around: &dyn Surroundings) -> Edits {
        let code = document.code();
        match self {
            Trial::Imports => {
                let acts = Acts { prune: false, ..Acts::default() };
                imports::organize(code, style, None, &Wanted { acts, ..Wanted::default() }, around).edits
            }
            Trial::Layout if code.toolkit().layout.is_none() => indent::once(code, style, None).edits,
            Trial::Layout if spelling::is_asked(style) => spelled(code, style),
            Trial::Layout => layout::once(code, style, None).edits,
        }
    }

    /// How many lines of a document a style changes.
    pub fn cost(self, document: &Document, style: &Style, around: &dyn Surroundings) -> u32 {
        let edits = self.edits(document, style, around);
        match self {
            Trial::Layout => touched_lines(document.source(), &edits),
            Trial::Imports => moved_lines(document.source(), &edits),
        }
    }
}

/// What a layout makes of a text whose tokens are written as a style says.
fn spelled(code: Code<'_>, style: &Style) -> Edits {
    let text = code.source.text();
    let mut edits = Edits::default();
    let fits = style.choice::<CommentWrap>() == CommentWrap::Fit;
    let parts: [&dyn Fn(Code<'_>) -> Edits; 3] = [
        &|code| spelling::spell(code, style, None).edits,
        &|code| layout::once(code, style, None).edits,
        &|code| if fits { spelling::fitted(code, style, None).edits } else { Edits::default() },
    ];
    for part in parts {
        edits = if edits.is_empty() {
            part(code)
        } else {
            let source = Source::from_text(code.source.path(), edits.apply(text));
            let tree = Tree::read(&source, code.tree.language());
            edits.then(text, &part(code.other(&source, &tree)))
        };
    }
    edits
}

/// Whether a document says that a program wrote it.
pub fn is_generated(document: &Document) -> bool {
    keeps::generated(document.code()).is_some()
}

/// How many lines of a text edits change. A line counts where white space in front of it, in it or behind it does; a break that goes or
/// comes changes the line before it, a blank line more or less none.
pub fn touched_lines(source: &Source, edits: &Edits) -> u32 {
    let (mut changed, mut upto) = (0, 0);
    for (span, new) in edits.iter() {
        let old = source.slice(span);
        let broken = old.contains('\n') && new.contains('\n');
        let same = broken && ends_alike(old, new);
        let (first, last) = (source.line(span.start), source.line(span.end));
        let first = if broken { last } else { first }.max(upto + 1);
        if !same {
            changed += (last + 1).saturating_sub(first);
            upto = upto.max(last);
        }
    }
    changed
}

/// How many lines edits take out or put in, whichever are more.
fn moved_lines(source: &Source, edits: &Edits) -> u32 {
    let lines = |text: &str| text.lines().count() as u32;
    edits.iter().map(|(span, new)| lines(source.slice(span)).max(lines(new))).sum()
}

/// Whether the last of the lines of two texts is the same, and they end lines alike.
fn ends_alike(old: &str, new: &str) -> bool {
    old.rsplit('\n').next() == new.rsplit('\n').next() && old.contains("\r\n") == new.contains("\r\n")
}

/// The values of a setting that are worth trying in a language; none where it has no effect.
pub fn values(key: Key, language: &'static Language) -> Vec<String> {
    if !style_of(language).covers(key) {
        return Vec::new();
    }
    let words = |words: &[&str]| words.iter().map(|word| (*word).to_owned()).collect::<Vec<String>>();
    let numbers: &[&str] = match (key, key.setting().values) {
        (Key::IndentSize, _) => &["2", "3", "4", "8"],
        (Key::TabWidth, _) => &["2", "4", "8"],
        (Key::MaxLineLength, _) => &["72", "80", "90", "100", "110", "120", "140", "off"],
        (Key::BlankMost, _) => &["as-found", "0", "1", "2", "3"],
        (Key::ImportGroups, _) => return usual_groups(language),
        (_, Values::Words(choices)) => return words(choices),
        (_, Values::Pairs(..)) => &[],
        _ => return key.setting().choices(),
    };
    words(numbers)
}

/// The rules of heads that documents show together, as a value of the setting.
fn heads(documents: &[Document]) -> Option<String> {
    let mut votes = HeadVotes::default();
    documents.iter().for_each(|document| votes.count(document.code()));
    documents.first().map(|document| votes.setting(document.code())).filter(|setting| !setting.is_empty())
}

/// The groups of imports that are usual in a language, as values of the setting.
fn usual_groups(language: &'static Language) -> Vec<String> {
    let orders = import_spec(language).map_or(&[][..], |spec| spec.orders);
    // What is in no group is one group of all.
    let value = |groups: &&[&str]| if groups.is_empty() { "other".to_owned() } else { groups.join(", ") };
    std::iter::once("as-found".to_owned()).chain(orders.iter().map(value)).collect()
}

#[cfg(test)]
mod tests {
    use vknot_syntax::Span;

    use super::*;

    #[test]
    fn lines_count_once_and_blank_ones_not() {
        let source = Source::from_text("gauge", "a  b\n\n\nc\n  d\n");
        let count = |list: &[(u32, u32, &str)]| {
            let mut edits = Edits::default();
            list.iter().for_each(|(start, end, new)| edits.push(Span::new(*start, *end), new));
            touched_lines(&source, &edits)
        };
        assert_eq!(count(&[]), 0);
        assert_eq!(count(&[(1, 3, " ")]), 1);
        assert_eq!(count(&[(4, 7, "\n")]), 0);
        assert_eq!(count(&[(1, 3, " "), (8, 11, "\n    ")]), 2);
        assert_eq!(count(&[(8, 11, " ")]), 2);
    }
}
