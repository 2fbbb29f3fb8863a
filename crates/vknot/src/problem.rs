//! What could not be done, where and why; and what that makes of the exit code.

use std::process::ExitCode;

/// One thing that could not be done.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct Problem {
    /// The file as the user named it.
    pub file: String,
    /// Line and column, from 1.
    pub at: Option<(u32, u32)>,
    /// What is wrong, and what to do.
    pub message: String,
}

impl Problem {
    pub fn new(file: impl Into<String>, message: impl Into<String>) -> Self {
        Self { file: file.into(), at: None, message: message.into() }
    }

    /// The file, with line and column where they are known.
    pub fn place(&self) -> String {
        match self.at {
            Some((line, column)) => format!("{}:{line}:{column}", self.file),
            None => self.file.clone(),
        }
    }

    pub fn at(mut self, line: u32, column: u32) -> Self {
        self.at = Some((line, column));
        self
    }
}

impl std::fmt::Display for Problem {
    fn fmt(&self, f: &mut std::fmt::Formatter<'_>) -> std::fmt::Result {
        write!(f, "{}: {}", self.place(), self.message)
    }
}

impl std::error::Error for Problem {}

/// How a run ended.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum Outcome {
    /// Done, or nothing to do.
    Done,
    /// `--check` found something.
    Found,
    /// Something could not be done.
    Failed,
    /// A program that was run ended with this code.
    Exit(u8),
}

impl Outcome {
    /// The same, where something could not be done beside it.
    pub fn with_problems(self) -> Outcome {
        if matches!(self, Outcome::Exit(_)) { self } else { Outcome::Failed }
    }

    pub fn exit_code(self) -> ExitCode {
        ExitCode::from(match self {
            Outcome::Done => 0,
            Outcome::Found => 1,
            Outcome::Failed => 2,
            Outcome::Exit(code) => code,
        })
    }
}
