//! The registry: one folder and one line for each language.

pub(crate) mod java;
pub(crate) mod json;
pub(crate) mod plain;
pub(crate) mod rust;

use crate::language::LanguageSpec;

/// Every language that is recognised by file name, sorted by name.
pub(crate) const SPECS: [&LanguageSpec; 3] = [&java::SPEC, &json::SPEC, &rust::SPEC];
