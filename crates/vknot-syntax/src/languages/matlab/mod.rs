//! MATLAB.

use crate::language::{LANGUAGE, LanguageSpec};
use crate::reader::{Reader, Reading, READING as READING_OF_MOST};
use crate::reading::matrices;

pub(crate) const SPEC: LanguageSpec = LanguageSpec {
    name: "matlab",
    title: "MATLAB",
    extensions: &["m"],
    roles: &[matrices::ROLES],
    line_comment: "%",
    ..LANGUAGE
};

pub(crate) const READING: Reading = Reading {
    sniff: Some(is_matlab),
    reader: Reader::Own { kinds: matrices::KINDS, read: |text, builder| matrices::read(text, false, builder) },
    ..READING_OF_MOST
};

/// Other languages share the ending: those with `#import` and `@interface` are none of the family, and `#` comments or
/// long closing words are its other member's.
fn is_matlab(_: &str, text: &str) -> bool {
    !super::octave::is_octave("m", text)
        && !text.lines().take(LINES).any(|line| {
            let line = line.trim_start();
            ["#import", "#include", "/*", "//", "(*"].iter().any(|start| line.starts_with(start))
        })
        && !super::cpp::is_objective(text)
}

/// How many lines are looked at.
const LINES: usize = 100;
