//! Steps: the only way to reshape. Each is one entry in one table, and everything it yields is proven by its contract.

mod chain;
mod conflicts;
mod contract;
mod document;
mod imported;
mod inside;
mod matching;
mod prove;
mod rearranged;
mod refusal;
mod spelled;
mod step;
mod structure;

pub use chain::Chain;
pub use contract::{Comments, Contract, Gaps, Shape, Tokens};
pub use document::Document;
pub use prove::{Proven, prove, prove_by_tree};
pub use refusal::{Difference, Refusal};
pub use step::{Beside, Request, Step, StepError, STEPS, Wish};
