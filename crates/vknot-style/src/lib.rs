//! What the user wants: one table of settings, and where their values come from.
//!
//! A [`Style`] is the effective settings of one file. It is made from `.editorconfig` texts and from overrides; this
//! crate reads no files itself.
//!
//! ```
//! use std::path::Path;
//! use vknot_style::{EditorConfig, Key, LanguageStyle, Style};
//!
//! let (config, problems) = EditorConfig::parse(Path::new("/tide"), "[*.java]\nindent_size = 2\n");
//! assert!(problems.is_empty());
//! static LANGUAGE: LanguageStyle = LanguageStyle { defaults: &[], settings: &[] };
//! let style = Style::resolve(&[config], &[], Path::new("/tide/Gauge.java"), &LANGUAGE);
//! assert_eq!(style.number(Key::IndentSize), Some(2));
//! ```
#![deny(missing_docs)]

pub mod choices;
mod editorconfig;
mod glob;
mod project;
mod samples;
mod schema;
mod style;

pub use editorconfig::{EditorConfig, Entry, Problem, Section};
pub use project::{Project, ProjectError, RegionMarks, SectionMarks, TodoTags};
pub use choices::Choice;
pub use samples::{Sample, SAMPLES};
pub use schema::{Key, Setting, SETTINGS, ValueError, Values};
pub use style::{Indentation, LanguageStyle, Origin, Override, Style};
