//! How a language's folder tells what a name is bound to.

use vknot_syntax::{NodeId, Span};

use super::Code;

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
    /// It is a member, a key, a label, or the like: nothing in the file tells what it is bound to.
    Other,
    /// It declares something whose uses are not known.
    Unknown,
}

/// How a language binds names.
pub(crate) struct ScopeSpec {
    /// Kinds of token that are names.
    pub names: &'static [&'static str],
    /// What a name does.
    pub binding: fn(Code<'_>, NodeId) -> Binding,
    /// Which of its namespaces a name is of, as bits: a use is of what declares it in one of them.
    pub spaces: fn(Code<'_>, NodeId) -> u8,
    /// What is written where another name comes in: `key: name` where the name is a key, too.
    pub written: fn(Code<'_>, NodeId, &str) -> String,
    /// Whether a string token holds code between braces, and what opens it: `{`, `${`.
    pub code_in: fn(Code<'_>, NodeId) -> Option<&'static str>,
    /// What the language means by itself: no name can be called so.
    pub reserved: &'static [&'static str],
}

impl std::fmt::Debug for ScopeSpec {
    fn fmt(&self, f: &mut std::fmt::Formatter<'_>) -> std::fmt::Result {
        write!(f, "ScopeSpec({:?})", self.names)
    }
}

/// The one namespace of most languages.
pub(crate) fn one_space(_: Code<'_>, _: NodeId) -> u8 {
    1
}

/// Another name as it is.
pub(crate) fn as_it_is(_: Code<'_>, _: NodeId, new: &str) -> String {
    new.to_owned()
}
