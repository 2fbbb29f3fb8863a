//! What can be done with code: looks that only read, and reshapes that yield edits and a receipt.
//!
//! Everything here is a function of a text, its tree and a style; nothing prints, reads files or knows of arguments. Looks take
//! [`Code`]; [`steps`] are the only way to reshape, and what they yield has passed the one proof.
//!
//! ```
//! use vknot_reshape::default_style;
//! use vknot_reshape::steps::{Document, Request, Step};
//! use vknot_syntax::{Language, Source};
//!
//! let language = Language::named("json").ok_or("no JSON")?;
//! let source = Source::from_text("gauge.json", "{\"level\":3 }");
//! let document = Document::new(source, language, default_style(language));
//! let format = Step::named("format").ok_or("no such step")?;
//! let proven = format.run(&document, &Request::default())?;
//! assert_eq!(proven.text(), "{ \"level\": 3 }\n");
//! # Ok::<(), Box<dyn std::error::Error>>(())
//! ```
#![deny(missing_docs)]

mod allowance;
pub mod editing;
mod edits;
mod frames;
mod imports;
pub mod indent;
mod items;
mod keeps;
mod languages;
mod layout;
mod lines;
pub mod looks;
mod partners;
pub mod pins;
mod receipt;
mod regions;
mod registry;
mod reshape;
mod spec;
mod spelling;
pub mod steps;
pub mod styling;

pub use allowance::Allowance;
pub use edits::Edits;
pub use imports::{Acts, Wanted};
pub use receipt::{Act, Decided, Fate, LeftAlone, Moved, Note, Reason, Receipt, Respelled, TokenChange};
pub use regions::RegionError;
pub use registry::{
    Capabilities, capabilities, declared, default_style, index_languages, library_spec, project_file, style_of,
};
pub use reshape::Reshape;
pub use spec::{Code, LibrarySpec};
pub use spec::laws::laws_kept;
pub use spec::imports::{Alone, Declared, Index, Origin, Surroundings};
