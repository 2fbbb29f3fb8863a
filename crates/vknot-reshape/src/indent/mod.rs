//! Indentation: where lines begin, told from the structure of the code. Only white space at the start of lines changes.
//!
//! [`set`] goes by structure, [`shift`] moves lines by levels, [`convert`] turns tabs into spaces and back, [`show`] says what there is.
//! [`prove`] is the proof of all three.

mod completed;
mod convert;
mod frozen;
mod kept;
mod learn;
mod levels;
mod manner;
mod set;
mod shift;
mod show;
mod shown;
mod strip;

pub use crate::frames::found::{decided_indentation, effective_indentation, indentation as found_indentation};
pub(crate) use convert::convert;
pub use convert::Target;
pub(crate) use kept::{kept, Kept};
pub use learn::HeadVotes;
pub use manner::own_style;
pub(crate) use manner::told;
pub(crate) use set::{once, rest, set};
pub(crate) use shift::shift;
pub use shift::{Shift, ShiftError};
pub use show::{show, ShownLine};
pub use strip::stripped;
