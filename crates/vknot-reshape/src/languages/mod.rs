//! What is each language's own among the reshapes: one folder and one line of the table for each.

mod c;
mod clojure;
mod cpp;
mod csharp;
mod css;
mod dax;
mod gdscript;
mod go;
mod html;
mod java;
mod javascript;
mod json;
mod less;
mod markdown;
mod matlab;
mod notebook;
mod octave;
mod pascal;
mod plain;
mod python;
mod racket;
mod rust;
mod scheme;
mod scss;
mod tsx;
mod typescript;
mod usual;

use crate::spec::ToolSpec;

/// Sorted by name.
pub(crate) static SPECS: &[&ToolSpec] = &[
    &c::SPEC,
    &clojure::SPEC,
    &cpp::SPEC,
    &csharp::SPEC,
    &css::SPEC,
    &dax::SPEC,
    &gdscript::SPEC,
    &go::SPEC,
    &html::SPEC,
    &java::SPEC,
    &javascript::SPEC,
    &json::SPEC,
    &less::SPEC,
    &markdown::SPEC,
    &matlab::SPEC,
    &notebook::SPEC,
    &octave::SPEC,
    &pascal::SPEC,
    &plain::SPEC,
    &python::SPEC,
    &racket::SPEC,
    &rust::SPEC,
    &scheme::SPEC,
    &scss::SPEC,
    &tsx::SPEC,
    &typescript::SPEC,
];
