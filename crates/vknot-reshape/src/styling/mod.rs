//! What a style makes of code: which settings are in force, what other values would change, and with which values least changes.

mod beside;
mod folders;
mod found;
mod learn;
mod piece;
mod sampled;
mod trial;

pub use beside::{Beside, Told};
pub use folders::Folders;
pub use found::in_force;
pub use learn::{Costs, Evaluate, Evidence, Learnt, learn};
pub use piece::Piece;
pub use sampled::{made_of_sample, sampled, Shown};
pub use trial::{is_generated, touched_lines, Trial, values};
