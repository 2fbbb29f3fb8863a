//! What can be done with code: looks that only read, and reshapes that yield edits and a receipt.
//!
//! Everything here is a function of a [`vknot_syntax::Source`], its tree and a [`vknot_style::Style`]; nothing prints, reads files or
//! knows of arguments. A reshape's edits are to be written only once [`proof`] has passed them.
//!
//! ```
//! use vknot_reshape::{layout, proof};
//! use vknot_style::Style;
//! use vknot_syntax::{Language, Source, Tree};
//!
//! let source = Source::from_text("gauge.json", "{\"level\":3 }");
//! let language = Language::named("json").ok_or("no JSON")?;
//! let tree = Tree::read(&source, language);
//! let reshape = layout::format(&source, &tree, &Style::defaults("json"), None);
//! let proven = proof::prove_layout(&source, &tree, &reshape)?;
//! assert_eq!(proven.source.text(), "{ \"level\": 3 }\n");
//! # Ok::<(), Box<dyn std::error::Error>>(())
//! ```
#![deny(missing_docs)]

mod edits;
pub mod imports;
pub mod indent;
mod languages;
pub mod layout;
pub mod looks;
pub mod pins;
pub mod proof;
mod receipt;
pub mod regions;
mod reshape;

pub use edits::Edits;
pub use languages::{Capabilities, capabilities};
pub use receipt::{LeftAlone, Note, Reason, Receipt, TokenChange};
pub use reshape::Reshape;
