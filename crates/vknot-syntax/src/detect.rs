//! The language of a file, told by its name, its text and its first line.

use std::path::Path;

use crate::language::{Language, LanguageSpec};
use crate::languages::LANGUAGES;

impl Language {
    /// The language a path's file name stands for; where several share the ending, the likeliest.
    pub fn for_path(path: &Path) -> Option<&'static Language> {
        Self::candidates(path).next().and_then(Self::at)
    }

    /// The language of a file: by its name, among several for one ending by its text, else by its first line.
    pub fn of_file(path: &Path, text: &str) -> Option<&'static Language> {
        let mut named = Self::candidates(path).peekable();
        if named.peek().is_none() {
            return by_first_line(text);
        }
        let extension = path.extension().and_then(|e| e.to_str()).unwrap_or("").to_ascii_lowercase();
        named.find(|index| LANGUAGES[*index].reading.sniff.is_none_or(|fits| fits(&extension, text))).and_then(Self::at)
    }

    /// Languages whose files are called like this. Those that look at the text come first.
    fn candidates(path: &Path) -> impl Iterator<Item = usize> + use<> {
        let file_name = path.file_name().and_then(|name| name.to_str()).unwrap_or("").to_owned();
        let extension = path.extension().and_then(|e| e.to_str()).unwrap_or("").to_ascii_lowercase();
        let fits = move |spec: &LanguageSpec| {
            spec.file_names.contains(&&*file_name) || spec.extensions.contains(&&*extension)
        };
        let (asking, sure): (Vec<usize>, Vec<usize>) = (0..LANGUAGES.len())
            .filter(|index| fits(LANGUAGES[*index].spec))
            .partition(|index| LANGUAGES[*index].reading.sniff.is_some());
        asking.into_iter().chain(sure)
    }
}

/// Reads `#!` lines, `#lang` lines, and mode lines such as `-*- scheme -*-` or `filetype=scheme` in a first comment.
fn by_first_line(text: &str) -> Option<&'static Language> {
    let first = text.lines().next().unwrap_or("");
    if let Some(command) = first.strip_prefix("#!") {
        return by_interpreter(command);
    }
    let begun = |language: &&'static Language| language.spec().first_lines.iter().any(|begin| first.starts_with(begin));
    if let Some(language) = Language::all().find(begun) {
        return Some(language);
    }
    text.lines().take(2).find_map(by_mode_line)
}

/// `/usr/bin/env -S name3.11 -x`: the name of the program, less its version.
fn by_interpreter(command: &str) -> Option<&'static Language> {
    let words = command.split_whitespace().map(|word| word.rsplit('/').next().unwrap_or(word));
    let program = words.into_iter().find(|word| *word != "env" && !word.starts_with('-') && !word.contains('='))?;
    let bare = program.trim_end_matches(|c: char| c.is_ascii_digit() || c == '.' || c == '-');
    Language::all().find(|language| language.spec().interpreters.iter().any(|name| *name == program || *name == bare))
}

fn by_mode_line(line: &str) -> Option<&'static Language> {
    let name = match line.split_once("-*-") {
        Some((_, rest)) => {
            let inside = rest.split("-*-").next()?;
            let mode = |part: &str| Some(part.trim().strip_prefix("mode:")?.trim().to_owned());
            inside.split(';').find_map(mode).or_else(|| (!inside.contains(':')).then(|| inside.trim().to_owned()))?
        }
        None => {
            let rest =
                ["filetype=", "ft=", "syntax="].iter().find_map(|key| line.split_once(key).map(|(_, rest)| rest))?;
            rest.chars().take_while(|c| c.is_alphanumeric() || matches!(c, '+' | '#' | '-')).collect()
        }
    };
    Language::called(&name)
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn first_lines_name_languages() {
        for (text, name) in [
            ("#!/usr/bin/env python3\n", Some("python")),
            ("#!/usr/bin/python3.11 -u\n", Some("python")),
            ("#!/usr/bin/env -S FOO=1 node\n", Some("javascript")),
            ("#lang racket/base\n", Some("racket")),
            (";; -*- scheme -*-\n", Some("scheme")),
            ("# -*- mode: octave; coding: utf-8 -*-\n", Some("octave")),
            ("/* ft=cpp */\n", Some("cpp")),
            ("# -*- coding: utf-8 -*-\n", None),
            ("tide tables\n", None),
        ] {
            assert_eq!(by_first_line(text).map(Language::name), name, "{text}");
        }
    }
}
