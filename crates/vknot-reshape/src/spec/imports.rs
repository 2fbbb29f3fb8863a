//! What a language says about imports.

use vknot_syntax::NodeId;
use vknot_style::Style;

use crate::reshape::Reshape;
use super::Code;

/// What a language's folder gives for imports.
pub(crate) struct ImportSpec {
    /// Puts the imports of a file in order.
    pub organize: fn(Code<'_>, &Style) -> Reshape,
    /// Everything that one import node brings in, each in a form that does not depend on layout, order or merging.
    pub leaves: fn(Code<'_>, NodeId) -> Vec<String>,
}
