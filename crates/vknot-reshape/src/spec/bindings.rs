//! What a name does where it stands.

use vknot_syntax::{NodeId, Span};

/// What a name does where it stands.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub(crate) enum Binding {
    /// It declares something that is seen in a part of the file; of several the one with the innermost holder is meant, then the last one.
    Declares {
        /// What it is declared in.
        holder: NodeId,
        /// Where it is seen.
        seen: Span,
    },
    /// It stands for what is declared somewhere, but not by this node itself.
    Uses { but: Option<NodeId> },
    /// It declares a member that what its body uses by name alone may be, but nothing in other functions.
    Member { of: NodeId },
    /// It is used by name alone in a body: what that has no member for is told as for [`Binding::Uses`].
    InBody { of: NodeId, but: Option<NodeId> },
    /// It is a member, a key, a label, or the like: nothing in the file tells what it is bound to.
    Other,
    /// It declares something whose uses are not known.
    Unknown,
}
