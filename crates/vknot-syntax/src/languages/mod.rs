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
use crate::reader::Reading;

/// What a language's folder gives.
pub(crate) struct Entry {
    pub spec: &'static LanguageSpec,
    pub reading: &'static Reading,
}

/// The entry of a language's folder.
macro_rules! entry {
    ($language:ident) => {
        Entry { spec: &$language::SPEC, reading: &$language::READING }
    };
}

/// Every language that is recognised by file name, sorted by name.
pub(crate) const LANGUAGES: &[Entry] = &[
    entry!(c),
    entry!(clojure),
    entry!(cpp),
    entry!(csharp),
    entry!(css),
    entry!(dax),
    entry!(gdscript),
    entry!(go),
    entry!(html),
    entry!(java),
    entry!(javascript),
    entry!(json),
    entry!(less),
    entry!(markdown),
    entry!(matlab),
    entry!(notebook),
    entry!(octave),
    entry!(pascal),
    entry!(python),
    entry!(racket),
    entry!(rust),
    entry!(scheme),
    entry!(scss),
    entry!(tsx),
    entry!(typescript),
];
