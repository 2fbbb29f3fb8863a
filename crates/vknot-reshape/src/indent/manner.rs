//! The manner of a file: where nothing sets how its lines stand, what most of them show.
//!
//! Settings are tried one after the other, and kept where more lines stand as they ask for. A jumble has no manner, and neither has a
//! file in a language with a layout, as that goes by settings alone.

use vknot_style::{Indentation, Origin, Setting, Style};
use vknot_syntax::{Source, Tree};

use crate::languages::Toolkit;
use super::engine;
use super::completed::completed;
use super::lines::{Line, lines};
use super::options::Options;
use super::rules::LinesBy;

/// The settings that are tried, the most telling first.
const TRIED: [&str; 18] = [
    "vknot_indent_function",
    "vknot_indent_page",
    "vknot_indent_case",
    "vknot_align_list",
    "vknot_indent_brace",
    "vknot_indent_access",
    "vknot_indent_namespace",
    "vknot_wrap_indent",
    "vknot_indent_case_brace",
    "vknot_indent_case_else",
    "vknot_indent_bracket",
    "vknot_indent_condition",
    "vknot_indent_else_if",
    "vknot_wrap_literal",
    "vknot_align_operand",
    "vknot_indent_operand",
    "vknot_indent_label",
    "vknot_indent_directive",
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
pub fn own_style(source: &Source, tree: &Tree, style: &Style) -> Style {
    with_manner(source, tree, style, super::effective_indentation(source, tree, style)).0
}

/// What a style has that the file shows.
pub(super) fn differences(style: &Style) -> Vec<(&'static str, String)> {
    let found = |key: &&&'static str| style.origin(key) == Origin::Found;
    TRIED.iter().filter(found).map(|key| (*key, style.word(key).to_owned())).collect()
}

/// A style with the manner of a file in it, and whether that is another style.
pub(super) fn with_manner(source: &Source, tree: &Tree, style: &Style, indentation: Indentation) -> (Style, bool) {
    let toolkit = Toolkit::of(tree.language());
    let spec = toolkit.indent.spec;
    if toolkit.layout.is_some() || spec.forms.is_some() || spec.lines != LinesBy::Structure {
        return (style.clone(), false);
    }
    let completed = completed(source, tree);
    let (source, tree) = completed.as_ref().map_or((source, tree), |completed| (&completed.source, &completed.tree));
    let mut lines = lines(source, tree, indentation, None);
    lines.truncate(MOST);
    let indented = lines.iter().filter(|line| line.found.columns() > 0).count();
    if indented < TELLING {
        return (style.clone(), false);
    }
    let trial = Trial { source, tree, indentation, lines: &lines };
    let usual = trial.agreeing(style);
    let (found, agreeing) = trial.best(style, usual);
    let kept = agreeing * 100 >= lines.len() * KEPT;
    if agreeing > usual && kept { (found, true) } else { (style.clone(), false) }
}

struct Trial<'a> {
    source: &'a Source,
    tree: &'a Tree,
    indentation: Indentation,
    lines: &'a [Line],
}

impl Trial<'_> {
    /// On how many lines the file is as a style asks for.
    fn agreeing(&self, style: &Style) -> usize {
        let options = Options::of(style, self.indentation);
        let places = engine::first_places(self.source, self.tree, &options, self.lines);
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
            let Some(setting) =
                Setting::named(key).filter(|setting| open && setting.applies(self.tree.language().name())) else {
                continue;
            };
            for value in setting.choices() {
                if most == self.lines.len() {
                    return (style, most);
                }
                if value == style.word(key) {
                    continue;
                }
                let tried = style.with_found(setting, value);
                let agreeing = self.agreeing(&tried);
                if agreeing >= most + LEAST {
                    (style, most) = (tried, agreeing);
                }
            }
        }
        (style, most)
    }
}
