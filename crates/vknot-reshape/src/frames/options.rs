//! The settings indentation needs, read off the style once. Lengths are in columns.

use vknot_style::{Indentation, Key, Style};
use vknot_style::choices::{AccessPlace, AlignList, DirectivePlace, LabelPlace, PageIndent, WrapLiteral};

use super::forms::HeadRules;

#[derive(Clone, Debug)]
pub(crate) struct Options {
    pub indentation: Indentation,
    /// One level.
    pub size: u32,
    /// A wrapped line against the line it wraps.
    pub wrap: u32,
    /// An item of a literal against it.
    pub literal: u32,
    /// A wrapped item of a list against its first line.
    pub operand: u32,
    pub align: AlignList,
    pub align_operands: bool,
    /// An `if` on the line behind its `else` against that.
    pub else_if: u32,
    /// A `case` against its `switch`.
    pub case: u32,
    /// What a `case` holds against that: one level, or what is left of one.
    pub arm: u32,
    /// A wrapped line of a condition that begins with an operator against what the condition belongs to.
    pub condition: u32,
    /// A closing round bracket that begins a line against the line that opened it.
    pub bracket: u32,
    /// The `else` of a `case` against that.
    pub case_else: u32,
    /// An opening brace on a line of its own against its `case`.
    pub case_brace: u32,
    /// The body of a function that no bracket opens, against it.
    pub function: u32,
    /// The members of a namespace against it.
    pub namespace: u32,
    /// The code of a file against a function that holds all of it.
    pub wrapper: u32,
    /// An opening brace on a line of its own against its conditional or loop.
    pub brace: u32,
    pub access: AccessPlace,
    pub label: LabelPlace,
    /// Whether directives stand at the margin.
    pub directive_margin: bool,
    /// How many of the outermost elements of a page, its root and its body, hold what they hold at their own line.
    pub flush_elements: usize,
    /// How forms with these heads are indented, over what the language says.
    pub heads: HeadRules,
}

/// How many columns a wrapped line stands further in than the line it wraps.
pub(crate) fn wrap_columns(style: &Style, size: u32) -> u32 {
    columns(style, Key::WrapIndent, size)
}

/// The columns of a setting that tells a number of levels, or `half`.
fn columns(style: &Style, key: Key, size: u32) -> u32 {
    style.number(key).map_or(size.div_ceil(2), |levels| levels * size)
}

impl Options {
    pub fn of(style: &Style, indentation: Indentation) -> Self {
        let size = indentation.size;
        let case = columns(style, Key::IndentCase, size);
        let levels = |key: Key| style.number(key).unwrap_or(1) * size;
        Self {
            indentation,
            size,
            wrap: wrap_columns(style, size),
            literal: if style.choice::<WrapLiteral>() == WrapLiteral::Wrap { wrap_columns(style, size) } else { size },
            operand: levels(Key::IndentOperand),
            align: style.choice(),
            align_operands: style.flag(Key::AlignOperand),
            else_if: levels(Key::IndentElseIf),
            case,
            arm: if style.word(Key::IndentCase) == "half" { size - case } else { size },
            condition: style.number(Key::IndentCondition).map_or(wrap_columns(style, size), |levels| levels * size),
            bracket: levels(Key::IndentBracket),
            case_else: levels(Key::IndentCaseElse),
            case_brace: levels(Key::IndentCaseBrace),
            function: levels(Key::IndentFunction),
            namespace: levels(Key::IndentNamespace),
            wrapper: levels(Key::IndentWrapper),
            brace: levels(Key::IndentBrace),
            access: style.choice(),
            label: style.choice(),
            directive_margin: style.choice::<DirectivePlace>() == DirectivePlace::Margin,
            flush_elements: match style.choice() {
                PageIndent::Nested => 0,
                PageIndent::Flush => 1,
                PageIndent::Flat => 2,
            },
            heads: super::forms::heads(style.word(Key::IndentHeads)),
        }
    }
}
