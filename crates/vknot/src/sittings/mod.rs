//! Sittings: interpreters that stay between runs of sections, each with a process of its own that keeps it (`keeper`) and hears of what
//! is to run over a Unix socket in the user's runtime folder (`visit`).

mod drivers;
mod keeper;
mod records;
mod visit;
mod wire;

pub use drivers::{driver, languages};
pub use keeper::keep;
pub use records::{Record, all};
pub use visit::{Asked, end, Ended, run, state};
pub use wire::{Piece, State};
