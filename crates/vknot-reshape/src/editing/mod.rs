//! Edits by structure: an item is taken hold of at a place, and moved, copied, taken out, put in, wrapped, opened, split and joined, with all
//! that belongs to it; separators and indentation come right by themselves.
//!
//! What is taken hold of is told by `taken.rs`, the items beside it by `row.rs`; each family of edits has a file. All of them write a `Draft`
//! of pieces; what the edit may do to tokens is told apart from that, so that the proof can hold one against the other.

mod arrange;
mod carried;
mod comments;
mod conditions;
mod constructs;
mod crossing;
mod draft;
mod enclose;
mod error;
mod lists;
mod occurrences;
mod placing;
mod plain;
mod row;
mod scopes;
mod standing;
mod taken;
mod transfer;
mod wish;
mod words;
mod work;

use vknot_style::Style;
use vknot_syntax::Span;

use crate::allowance::Allowance;
use crate::reshape::Reshape;
use crate::spec::Code;
use draft::Draft;
use work::Work;

pub(crate) use draft::accounted;

pub use carried::{carried, is_carried};
pub use error::EditError;
pub use occurrences::{By, Occurrences, Sought, occurrences, renamed, replacement};
pub use taken::{About, about, item};
pub use wish::{Block, Edit, End, Form, LineEdit, Part, Reach, To, Toggle};

/// What an edit makes of a text. Attempts go on where the proof does not pass what came before: with brackets around operands, and further out.
///
/// # Errors
/// When there is nothing at the place that it could be done to.
pub(crate) fn edit(
    code: Code<'_>,
    style: &Style,
    at: Span,
    edit: &Edit,
    attempt: u32,
) -> Result<Reshape, EditError> {
    let allowance = Allowance { texts: Some(Vec::new()), ..Allowance::default() };
    let mut work = Work {
        code,
        style,
        at,
        bracketed: attempt % 2 == 1,
        further: attempt / 2,
        draft: Draft::default(),
        allowance,
    };
    match edit {
        Edit::Move(to) => arrange::moved(&mut work, to)?,
        Edit::Turn => conditions::turned(&mut work)?,
        Edit::Swap(with) => arrange::swapped(&mut work, with)?,
        Edit::Copy(to, times) => transfer::copied(&mut work, to, *times)?,
        Edit::Delete => transfer::deleted(&mut work)?,
        Edit::Insert(to, text) => transfer::inserted(&mut work, to, text)?,
        Edit::Pull(end, reach) => crossing::pulled(&mut work, *end, reach)?,
        Edit::Push(end, reach) => crossing::pushed(&mut work, *end, reach)?,
        Edit::Wrap(template) => enclose::wrapped(&mut work, template)?,
        Edit::Unwrap => enclose::unwrapped(&mut work)?,
        Edit::Lift => enclose::lifted(&mut work)?,
        Edit::Split(part) => lists::split(&mut work, *part)?,
        Edit::Join(part) => lists::joined(&mut work, *part)?,
        Edit::Comment(toggle, form) => comments::toggled(&mut work, *toggle, *form)?,
        Edit::Lines(lines) => plain::lines(&mut work, lines)?,
        Edit::Columns(block) => plain::columns(&mut work, block)?,
        Edit::Replace(texts) => plain::replaced(&mut work, texts),
    }
    Ok(work.draft.finish(code, work.allowance))
}
