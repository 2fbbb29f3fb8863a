//! Which uses of a name are of one thing, by the binding rules of a language.

use vknot_syntax::Span;

use crate::spec::Code;

/// Where the name at a place is declared, and all its uses, that place among them; `None` where that is not known.
pub(crate) fn uses(_code: Code<'_>, _named: Span) -> Option<(Span, Vec<Span>)> {
    None
}

/// A name that would be taken for another one if some uses were called otherwise.
pub(crate) fn clash(_code: Code<'_>, _declared: Span, _uses: &[Span], _new: &str) -> Option<Span> {
    None
}
