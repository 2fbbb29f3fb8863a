//! The registry: one folder and one line for each language.

pub(crate) mod c;
pub(crate) mod clojure;
pub(crate) mod cpp;
pub(crate) mod csharp;
pub(crate) mod css;
pub(crate) mod dax;
pub(crate) mod gdscript;
pub(crate) mod go;
pub(crate) mod html;
pub(crate) mod java;
pub(crate) mod javascript;
pub(crate) mod json;
pub(crate) mod less;
pub(crate) mod markdown;
pub(crate) mod matlab;
pub(crate) mod notebook;
pub(crate) mod octave;
pub(crate) mod pascal;
pub(crate) mod plain;
pub(crate) mod python;
pub(crate) mod racket;
pub(crate) mod rust;
pub(crate) mod scheme;
pub(crate) mod scss;
pub(crate) mod tsx;
pub(crate) mod typescript;

use crate::language::LanguageSpec;

/// Every language that is recognised by file name, sorted by name.
pub(crate) const SPECS: &[&LanguageSpec] = &[
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
    &python::SPEC,
    &racket::SPEC,
    &rust::SPEC,
    &scheme::SPEC,
    &scss::SPEC,
    &tsx::SPEC,
    &typescript::SPEC,
];
