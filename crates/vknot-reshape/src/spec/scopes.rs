//! How a language's folder tells what a name is bound to.

use std::collections::HashMap;

use vknot_syntax::{NodeId, Span};

use super::Code;

pub(crate) use super::bindings::Binding;
pub(crate) use super::toolkit::ScopeSpec;

/// The one namespace of most languages.
pub(crate) fn one_space(_: Code<'_>, _: NodeId) -> u8 {
    1
}

/// No types whose keys may be members or values.
pub(crate) fn no_keys(_: Code<'_>) -> HashMap<&str, bool> {
    HashMap::new()
}

/// What code inside a token says by itself.
pub(crate) fn as_it_says(_: Code<'_>, _: NodeId, _: Span, binding: Binding) -> Binding {
    binding
}

/// Another name as it is.
pub(crate) fn as_it_is(_: Code<'_>, _: NodeId, new: &str) -> String {
    new.to_owned()
}
