//! The vocabulary in which a language's folder speaks, and its tables made ready for use.

pub(crate) mod bindings;
pub(crate) mod edits;
pub(crate) mod forms;
pub(crate) mod imports;
pub(crate) mod indent;
pub(crate) mod inner;
pub(crate) mod laws;
pub(crate) mod layout;
pub(crate) mod loading;
pub(crate) mod looks;
pub(crate) mod scopes;
pub(crate) mod spelling;
mod toolkit;

pub use toolkit::Code;
pub use toolkit::LibrarySpec;
pub(crate) use toolkit::{
    IMPORTS_OF_MOST, EditSpec, Evidence, ImportSpec, LoadSpec, MissingSpec, WildcardSpec, Toolkit, ToolSpec,
};
