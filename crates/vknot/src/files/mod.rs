//! Files: finding, reading, styling, writing and taking back.

pub mod input;
pub mod journal;
pub mod styles;
pub mod targets;
pub mod write;
