//! How style sheets are laid out. Whether two tokens touch is meaning in selectors and values, so it stays; lines, the spaces beside
//! brackets, commas, colons and combinators are set.

use vknot_style::Key;

use crate::spec::layout::{
    BraceOf, BRACES, Braces, CellsOf, Items, LAYOUT_OF_MOST, LayoutSpec, Rule, SpaceRow, WORDS, Words,
};
use crate::spec::spelling::{SPELLING_OF_MOST, SpellingSpec};
use crate::spec::layout::Side::{Author, By, Open, Tight};

pub(crate) static LAYOUT: LayoutSpec = LayoutSpec {
    rules: RULES,
    spacing: SPACING,
    follows: &["@else"],
    // A custom property that is a blank is set; without the blank some readers take it for an error.
    nothing_between: &[(":", ";"), (":", "}")],
    as_written: true,
    habits: &[Key::SpaceBlock, Key::SpaceColon, Key::SpaceComma, Key::WrapSelector],
    spelling: SpellingSpec {
        strings: &["string"],
        // It names an encoding only between double quotes.
        strings_stay_in: &["@charset"],
        strings_without: &["\\", "#{", "@{"],
        ..SPELLING_OF_MOST
    },
    ..LAYOUT_OF_MOST
};

/// What has a blank line around it, where a setting says so.
const APART: &[&str] = &["rule", "at_rule", "mixin"];

const HEADED: Rule = Rule::Words(Words { brace: BraceOf::Declaration, ..WORDS });
const VALUED: Rule =
    Rule::Words(Words { brace: BraceOf::Declaration, cells: &["value"], cells_of: CellsOf::Long, ..WORDS });
const PLAIN: Rule = Rule::Words(WORDS);

const RULES: &[(&str, Rule)] = &[
    ("sheet", Rule::Items(Items { apart: APART, imports_apart: false })),
    ("body", Rule::Braces(Braces { apart: APART, leading_blank: true, single: true, ..BRACES })),
    ("rule", HEADED),
    ("at_rule", HEADED),
    ("mixin", HEADED),
    ("conditional", HEADED),
    ("loop", HEADED),
    ("declaration", VALUED),
    ("variable", VALUED),
    ("statement", PLAIN),
    ("import", PLAIN),
    ("selectors", Rule::Lines(Some(Key::WrapSelector))),
    ("selector", Rule::Lines(None)),
    ("head", Rule::Lines(None)),
    ("value", Rule::Lines(None)),
    ("value_part", Rule::Lines(None)),
    ("arguments", Rule::Lines(None)),
    ("group", Rule::Lines(None)),
    ("call", Rule::Lines(None)),
    ("operation", Rule::Lines(None)),
    ("unary_operation", Rule::Lines(None)),
];

const SPACING: &[SpaceRow] = &[
    ("", ",", Tight, By(Key::SpaceComma)),
    ("selectors", ",", Tight, Open),
    ("", ";", Tight, Author),
    ("arguments", ";", Tight, Open),
    ("", "(", Author, By(Key::SpaceParenthesis)),
    ("", ")", By(Key::SpaceParenthesis), Author),
    ("", "body", Open, Open),
    ("declaration", ":", Tight, By(Key::SpaceColon)),
    ("variable", ":", Tight, By(Key::SpaceColon)),
];
