//! The settings indentation needs, read off the style once. Lengths are in columns.

use vknot_style::{Indentation, Style};

use super::forms::HeadRules;

/// What the lines of a list that begins behind its bracket line up with.
#[derive(Clone, Copy, Debug, PartialEq, Eq, PartialOrd, Ord)]
pub(super) enum AlignList {
    None,
    Arguments,
    All,
}

/// Where a label stands.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub(super) enum LabelPlace {
    Margin,
    Out,
    In,
}

/// Where `public:` and its like stand.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub(super) enum AccessPlace {
    Type,
    Half,
    Member,
}

#[derive(Clone, Debug)]
pub(super) struct Options {
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
    columns(style, "vknot_wrap_indent", size)
}

/// The columns of a setting that tells a number of levels, or `half`.
fn columns(style: &Style, key: &str, size: u32) -> u32 {
    style.number(key).map_or(size.div_ceil(2), |levels| levels * size)
}

impl Options {
    pub fn of(style: &Style, indentation: Indentation) -> Self {
        let size = indentation.size;
        let case = columns(style, "vknot_indent_case", size);
        let levels = |key: &str| style.number(key).unwrap_or(1) * size;
        Self {
            indentation,
            size,
            wrap: wrap_columns(style, size),
            literal: if style.word("vknot_wrap_literal") == "wrap" { wrap_columns(style, size) } else { size },
            operand: levels("vknot_indent_operand"),
            align: match style.word("vknot_align_list") {
                "none" => AlignList::None,
                "all" => AlignList::All,
                _ => AlignList::Arguments,
            },
            align_operands: style.word("vknot_align_operand") == "true",
            else_if: levels("vknot_indent_else_if"),
            case,
            arm: if style.word("vknot_indent_case") == "half" { size - case } else { size },
            condition: style.number("vknot_indent_condition").map_or(wrap_columns(style, size), |levels| levels * size),
            bracket: levels("vknot_indent_bracket"),
            case_else: levels("vknot_indent_case_else"),
            case_brace: levels("vknot_indent_case_brace"),
            function: levels("vknot_indent_function"),
            namespace: levels("vknot_indent_namespace"),
            brace: levels("vknot_indent_brace"),
            access: match style.word("vknot_indent_access") {
                "half" => AccessPlace::Half,
                "member" => AccessPlace::Member,
                _ => AccessPlace::Type,
            },
            label: match style.word("vknot_indent_label") {
                "margin" => LabelPlace::Margin,
                "in" => LabelPlace::In,
                _ => LabelPlace::Out,
            },
            directive_margin: style.word("vknot_indent_directive") != "code",
            flush_elements: match style.word("vknot_indent_page") {
                "nested" => 0,
                "flush" => 1,
                _ => 2,
            },
            heads: super::forms::heads(style.word("vknot_indent_heads")),
        }
    }
}
