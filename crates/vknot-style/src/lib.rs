//! What the user wants: one table of settings, and where their values come from.
//!
//! A [`Style`] is the effective settings of one file. It is made from `.editorconfig` texts and from overrides; this
//! crate reads no files itself.
//!
//! ```
//! use std::path::Path;
//! use vknot_style::{EditorConfig, Style};
//!
//! let (config, problems) = EditorConfig::parse(Path::new("/tide"), "[*.java]\nindent_size = 2\n");
//! assert!(problems.is_empty());
//! let style = Style::resolve(&[config], &[], Path::new("/tide/Gauge.java"), "java");
//! assert_eq!(style.number("indent_size"), Some(2));
//! ```
#![deny(missing_docs)]

mod editorconfig;
mod project;
mod schema;
mod style;

pub use editorconfig::{EditorConfig, Problem};
pub use project::{Project, ProjectError, RegionMarks, SectionMarks, TodoTags};
pub use schema::{Setting, SETTINGS, ValueError, Values};
pub use style::{Indentation, Origin, Override, Style};
