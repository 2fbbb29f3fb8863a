//! What an interpreter runs so that it takes one piece of code after the other and keeps what they leave.
//!
//! A driver reads a line for each piece: the path of a file with the code, a tab, and the name by which the code is to be known in
//! messages. Behind what the code wrote it ends its output and its errors each with a mark: the character U+001E, what the environment
//! variable `VKNOT_MARK` holds, a blank, the status (0 where all went well), and a line end.

/// How the interpreters of a language are made to do that.
pub struct Driver {
    /// What the code is called: as a language, or behind a fence.
    languages: &'static [&'static str],
    /// The option behind which an interpreter takes a program.
    pub option: &'static str,
    /// The program.
    pub program: &'static str,
}

const DRIVERS: &[Driver] = &[
    Driver { languages: &["python", "python3", "py"], option: "-c", program: include_str!("python.py") },
    Driver { languages: &["javascript", "js", "node"], option: "-e", program: include_str!("javascript.js") },
    Driver { languages: &["octave", "matlab"], option: "--eval", program: include_str!("octave.m") },
    Driver { languages: &["racket"], option: "-e", program: include_str!("racket.rkt") },
    Driver { languages: &["scheme", "guile"], option: "-c", program: include_str!("scheme.scm") },
    Driver { languages: &["sh", "bash", "zsh", "shell"], option: "-c", program: include_str!("shell.sh") },
];

/// The driver for a language.
pub fn driver(language: &str) -> Option<&'static Driver> {
    DRIVERS.iter().find(|driver| driver.languages.contains(&language))
}

/// The languages that there is a driver for.
pub fn languages() -> impl Iterator<Item = &'static str> {
    DRIVERS.iter().filter_map(|driver| driver.languages.first()).copied()
}
