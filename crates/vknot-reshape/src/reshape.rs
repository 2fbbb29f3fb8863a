//! The one value every reshape yields.

use crate::edits::Edits;
use crate::receipt::Receipt;

/// Edits with their receipt. Nothing is to be written before [`crate::steps::prove`] has passed them.
#[derive(Clone, Debug, Default, PartialEq, Eq)]
pub struct Reshape {
    /// What changes in the text.
    pub edits: Edits,
    /// What was done and what was not.
    pub receipt: Receipt,
    /// Whether a byte-order mark is to be put in front (`true`) or taken off.
    pub bom: Option<bool>,
}

impl Reshape {
    /// Whether anything changes.
    pub fn is_empty(&self) -> bool {
        self.edits.is_empty() && self.bom.is_none()
    }
}
