//! The registry: one folder and one line for each language.

pub(crate) mod csharp;
pub(crate) mod gdscript;
pub(crate) mod go;
pub(crate) mod java;
pub(crate) mod javascript;
pub(crate) mod json;
pub(crate) mod plain;
pub(crate) mod python;
pub(crate) mod rust;
pub(crate) mod tsx;
pub(crate) mod typescript;

use crate::language::LanguageSpec;

/// Every language that is recognised by file name, sorted by name.
pub(crate) const SPECS: &[&LanguageSpec] = &[
    &csharp::SPEC,
    &gdscript::SPEC,
    &go::SPEC,
    &java::SPEC,
    &javascript::SPEC,
    &json::SPEC,
    &python::SPEC,
    &rust::SPEC,
    &tsx::SPEC,
    &typescript::SPEC,
];
