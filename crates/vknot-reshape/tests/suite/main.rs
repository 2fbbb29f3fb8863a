//! The library's tests: cases per language, promises held against generated damage, looks on broken code.
#![allow(clippy::unwrap_used)]

/// A snapshot without the expression it came from, which the test above it shows anyway.
macro_rules! snapshot {
    ($($content:tt)*) => {
        insta::with_settings!({ omit_expression => true }, { insta::assert_snapshot!($($content)*) })
    };
}

mod chains;
mod conflicts;
mod damage;
mod edits;
mod expressions;
mod imports;
mod indent;
mod java;
mod json;
mod keeps;
mod languages;
mod laws;
mod layouts;
mod looks;
mod outline;
mod marks;
mod missing;
mod pieces;
mod pins;
mod promises;
mod proofs;
mod rust;
mod settings;
mod spelling;
mod stays;
mod support;
mod tables;
mod ways;
mod wildcards;
