//! The built program, run on files in a temporary folder.
#![allow(clippy::unwrap_used)]

/// A snapshot without the expression it came from, which the test above it shows anyway.
macro_rules! snapshot {
    ($($content:tt)*) => {
        insta::with_settings!({ omit_expression => true }, { insta::assert_snapshot!($($content)*) })
    };
}

mod harness;
mod beside;
mod changed;
mod edits;
mod imports;
mod looks;
mod marks;
mod places;
mod problems;
mod reshapes;
mod safety;
#[cfg(unix)]
mod sittings;
mod style;
mod trials;
mod writing;
