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
    /// It does so where the same holder declares no such name before it; else it is a use.
    Redeclares { holder: NodeId, seen: Span },
    /// It does so, but some of its uses may be in other files or not by name: nothing else is taken for it.
    Open { holder: NodeId, seen: Span },
    /// It does so, and it is open where the name is [`Binding::Asked`] for in the same space.
    Private { holder: NodeId, seen: Span },
    /// It is a member of something, or a parameter of what is called: of what, is not known.
    Asked,
    /// It stands for what is declared somewhere, but not by this node itself.
    Uses { but: Option<NodeId> },
    /// It declares a member that what its body uses by name alone may be, but nothing in other functions.
    Member { of: NodeId },
    /// It is used by name alone in a body: what that has no member for is told as for [`Binding::Uses`].
    InBody { of: NodeId, but: Option<NodeId> },
    /// It is a member, a key, a label, or the like: nothing in the file tells what it is bound to.
    Other,
    /// It is a key of something of a type: a use, or a member, as the type says.
    Key {
        /// The name of the type.
        of: NodeId,
    },
    /// It is a use, or a member: which of them, nothing in the file tells.
    Perhaps,
    /// It declares something whose uses are not known.
    Unknown,
}
