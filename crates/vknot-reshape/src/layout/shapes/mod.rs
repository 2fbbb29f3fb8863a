//! The shapes that rules give to nodes; one file each, the same for all languages.

mod arms;
mod chain;
mod heads;
mod lists;
mod markup;
mod operators;
mod sequences;
mod words;
mod written;
