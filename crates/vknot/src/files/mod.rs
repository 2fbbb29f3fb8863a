//! Files: finding, reading, styling, writing and taking back.

pub mod around;
pub mod beside;
pub mod cache;
pub mod changed;
pub mod git;
pub mod input;
pub mod journal;
pub mod libraries;
pub mod neighbours;
pub mod pins;
pub mod plain;
pub mod project;
pub mod styles;
pub mod targets;
pub mod workspace;
pub mod write;
