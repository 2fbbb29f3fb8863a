//! The manner of a file: where nothing sets how its lines stand, what most of them show.
//!
//! Settings are tried one after the other, and kept where more lines stand as they ask for. A jumble has no manner, and neither has a
//! file in a language with a layout, as that goes by settings alone.

use vknot_style::{Indentation, Key, Origin, Style};

use crate::frames::found::effective_indentation;
use super::completed::completed;
use crate::spec::Code;
use crate::frames::lines::{first_places, Line, lines};
use crate::frames::options::Options;
use crate::spec::indent::LinesBy;

/// The settings that are tried, the most telling first.
const TRIED: [Key; 18] = [
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
    Key::IndentCondition,
    Key::IndentElseIf,
    Key::WrapLiteral,
    Key::AlignOperand,
    Key::IndentOperand,
    Key::IndentLabel,
    Key::IndentDirective,
];

/// On how many lines a value must do better than another to be taken for more than chance.
const LEAST: usize = 2;

/// The share of the lines, in hundredths, that must stand as the manner asks for.
const KEPT: usize = 80;

/// The fewest indented lines that tell anything.
const TELLING: usize = 10;

/// How many lines are looked at, from the first on: more tell no more, and every setting is tried on them.
const MOST: usize = 1_000;

/// A style in which what it leaves open is as the lines of a file show it. The same style where the file has no manner of its own.
pub fn own_style(code: Code<'_>, style: &Style) -> Style {
    with_manner(code, style, effective_indentation(code, style)).0
}

/// What a style has that the file shows.
pub(super) fn differences(style: &Style) -> Vec<(&'static str, String)> {
    let found = |key: &&Key| style.origin(**key) == Origin::Found;
    TRIED.iter().filter(found).map(|key| (key.setting().key, style.word(*key).to_owned())).collect()
}

/// A style with the manner of a file in it, and whether that is another style.
pub(super) fn with_manner(code: Code<'_>, style: &Style, indentation: Indentation) -> (Style, bool) {
    let toolkit = code.toolkit();
    let spec = toolkit.indent.spec;
    if toolkit.layout.is_some() || spec.forms.is_some() || spec.lines != LinesBy::Structure {
        return (style.clone(), false);
    }
    let completed = completed(code);
    let code = completed.as_ref().map_or(code, |completed| code.other(&completed.source, &completed.tree));
    let mut lines = lines(code, indentation, None);
    lines.truncate(MOST);
    let indented = lines.iter().filter(|line| line.found.columns() > 0).count();
    if indented < TELLING {
        return (style.clone(), false);
    }
    let trial = Trial { code, indentation, lines: &lines };
    let usual = trial.agreeing(style);
    let (found, agreeing) = trial.best(style, usual);
    let kept = agreeing * 100 >= lines.len() * KEPT;
    if agreeing > usual && kept { (found, true) } else { (style.clone(), false) }
}

struct Trial<'a> {
    code: Code<'a>,
    indentation: Indentation,
    lines: &'a [Line],
}

impl Trial<'_> {
    /// On how many lines the file is as a style asks for.
    fn agreeing(&self, style: &Style) -> usize {
        let options = Options::of(style, self.indentation);
        let places = first_places(self.code, &options, self.lines);
        self.lines.iter().zip(places).filter(|(line, place)| line.found.columns() == place.columns()).count()
    }

    /// The style that most lines agree with, found by trying one setting after the other.
    fn best(&self, style: &Style, usual: usize) -> (Style, usize) {
        let (mut style, mut most) = (style.clone(), usual);
        for (index, key) in TRIED.iter().chain(&TRIED).copied().enumerate() {
            // Another round, as one setting may only tell once another is found.
            if index == TRIED.len() && most == usual {
                break;
            }
            let open = matches!(style.origin(key), Origin::Default | Origin::Found);
            if !open || !style.language().covers(key) {
                continue;
            }
            for value in key.setting().choices() {
                if most == self.lines.len() {
                    return (style, most);
                }
                if value == style.word(key) {
                    continue;
                }
                let tried = style.with_found(key, value);
                let agreeing = self.agreeing(&tried);
                if agreeing >= most + LEAST {
                    (style, most) = (tried, agreeing);
                }
            }
        }
        (style, most)
    }
}
