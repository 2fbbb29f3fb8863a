//! Where lines begin: frames of what is open, driven token by token, and what they go by.

mod beginnings;
pub(crate) mod blocks;
pub(crate) mod bracketed;
mod brackets;
pub(crate) mod broken;
pub(crate) mod comments;
mod directives;
mod elements;
mod enter;
pub(crate) mod forms;
pub(crate) mod found;
pub(crate) mod lines;
pub(crate) mod marks;
mod meant;
pub(crate) mod offsets;
pub(crate) mod options;
pub(crate) mod place;
mod spots;
pub(crate) mod stack;
pub(crate) mod standings;
pub(crate) mod tables;
mod templates;
mod waiting;
pub(crate) mod ways;
mod written;
