//! The settings a layout needs, read off the style once.

use vknot_style::{Indentation, Style};

use crate::indent::wrap_columns;

/// Which of the author's line breaks stay.
#[derive(Clone, Copy, Debug, PartialEq, Eq, PartialOrd, Ord)]
pub(super) enum KeepBreaks {
    None,
    Some,
    All,
}

/// When a statement gets braces.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub(super) enum RequiredBraces {
    Keep,
    Multiline,
    Always,
}

/// How chains break.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub(super) enum WrapChain {
    Fit,
    Always,
    Never,
}

#[derive(Clone, Copy, Debug)]
pub(super) struct Options {
    /// Columns of a line.
    pub width: u32,
    /// Columns of a level of indentation.
    pub level: u32,
    /// Columns that a wrapped line is indented by.
    pub wrap: u32,
    pub blank_most: u8,
    /// Columns a tab stands for.
    pub tab_width: u32,
    pub keep: KeepBreaks,
    pub chain: WrapChain,
    pub control_next: bool,
    pub declaration_next: bool,
    pub required: RequiredBraces,
    /// Whether broken lists get a comma behind their last item.
    pub commas: bool,
}

impl Options {
    pub fn of(style: &Style, indentation: Indentation) -> Self {
        Self {
            width: style.number("max_line_length").unwrap_or(u32::MAX / 4),
            level: indentation.size,
            wrap: wrap_columns(style, indentation.size),
            blank_most: style.number("vknot_blank_most").unwrap_or(1) as u8,
            tab_width: indentation.tab_width,
            keep: match style.word("vknot_break_keep") {
                "none" => KeepBreaks::None,
                "all" => KeepBreaks::All,
                _ => KeepBreaks::Some,
            },
            chain: match style.word("vknot_wrap_chain") {
                "always" => WrapChain::Always,
                "never" => WrapChain::Never,
                _ => WrapChain::Fit,
            },
            control_next: style.word("vknot_brace_control") == "next",
            declaration_next: style.word("vknot_brace_declaration") == "next",
            required: match style.word("vknot_brace_required") {
                "always" => RequiredBraces::Always,
                "multiline" => RequiredBraces::Multiline,
                _ => RequiredBraces::Keep,
            },
            commas: style.word("vknot_wrap_comma") == "add",
        }
    }
}
