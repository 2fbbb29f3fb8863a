//! What every edit gets, and where it leaves what it makes.

use vknot_style::Style;
use vknot_syntax::Span;

use crate::allowance::Allowance;
use crate::spec::Code;
use super::draft::Draft;

/// What an edit works on.
pub(crate) struct Work<'a> {
    pub code: Code<'a>,
    pub style: &'a Style,
    /// The place that is meant.
    pub at: Span,
    /// Whether operands get brackets where they move.
    pub bracketed: bool,
    /// How many things that hold it are passed over by what takes the place of one.
    pub further: u32,
    pub draft: Draft,
    pub allowance: Allowance,
}
