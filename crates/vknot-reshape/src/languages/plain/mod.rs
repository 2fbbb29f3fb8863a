//! Text of no known language: nothing is laid out, looks go by brackets.

use crate::languages::ToolSpec;
use crate::layout::rules::LayoutSpec;

pub(super) const SPEC: ToolSpec = ToolSpec {
    name: "plain",
    layout: &LAYOUT,
    looks: &crate::looks::LOOKS,
    imports: None,
};

const LAYOUT: LayoutSpec = LayoutSpec {
    rules: &[],
    within: &[],
    spacing: &[],
    hugs: &[],
    chain: &[],
    precedence: &[],
    names_hold_first_call: false,
    brace_after_wrap: false,
    no_comma: &[],
    habit: 4,
};
