//! Standard output and standard error, as a person or another program reads them.
//!
//! A terminal shows control characters of files, names and messages as visible marks, so that what is in a file cannot pass for what we
//! say of it; anything else gets every byte. Whoever stops reading is no error: what is left to do is done without a word.

use std::collections::hash_map::RandomState;
use std::fmt::{Display, Formatter};
use std::hash::{BuildHasher, Hasher};
use std::io::{ErrorKind, IsTerminal, Write};
use std::sync::LazyLock;

use anstream::{AutoStream, ColorChoice};
use anstyle::Style;

/// A style in printed text: `{NAME}text{NAME:#}`.
#[derive(Clone, Copy)]
pub struct Paint(pub Style);

/// What stands around our own escape sequences until they are printed; no file can know it.
static MARK: LazyLock<String> = LazyLock::new(|| format!("\u{1b}{:016x}", RandomState::new().build_hasher().finish()));

impl Display for Paint {
    fn fmt(&self, f: &mut Formatter<'_>) -> std::fmt::Result {
        let codes = if f.alternate() { self.0.render_reset().to_string() } else { self.0.render().to_string() };
        if codes.is_empty() { Ok(()) } else { f.write_str(&format!("{}{codes}{}", *MARK, *MARK)) }
    }
}

/// A standard stream.
pub struct Stream<W: Write> {
    inner: W,
    color: bool,
    terminal: bool,
    /// Nobody reads on.
    broken: bool,
}

/// Standard output.
pub fn stdout() -> Stream<std::io::StdoutLock<'static>> {
    let stream = std::io::stdout();
    let color = AutoStream::choice(&stream) != ColorChoice::Never;
    Stream { color, terminal: stream.is_terminal(), inner: stream.lock(), broken: false }
}

/// Standard error.
pub fn stderr() -> Stream<std::io::StderrLock<'static>> {
    let stream = std::io::stderr();
    let color = AutoStream::choice(&stream) != ColorChoice::Never;
    Stream { color, terminal: stream.is_terminal(), inner: stream.lock(), broken: false }
}

/// Writes out what standard output still holds.
///
/// # Errors
/// When it cannot be written for another reason than that nobody reads on.
pub fn flush() -> std::io::Result<()> {
    stdout().flush()
}

/// Whether standard output is a terminal.
pub fn is_terminal() -> bool {
    std::io::stdout().is_terminal()
}

impl<W: Write> Write for Stream<W> {
    fn write(&mut self, bytes: &[u8]) -> std::io::Result<usize> {
        let rendered = match std::str::from_utf8(bytes) {
            Ok(text) if self.terminal || text.contains('\u{1b}') => Some(rendered(text, self.color, self.terminal)),
            _ => None,
        };
        let result = match rendered {
            Some(text) => self.inner.write_all(text.as_bytes()),
            None => self.inner.write_all(bytes),
        };
        self.quietly(result)?;
        Ok(bytes.len())
    }

    fn flush(&mut self) -> std::io::Result<()> {
        let result = self.inner.flush();
        self.quietly(result)
    }
}

impl<W: Write> Stream<W> {
    fn quietly(&mut self, result: std::io::Result<()>) -> std::io::Result<()> {
        match result {
            Err(error) if self.broken || error.kind() == ErrorKind::BrokenPipe => {
                self.broken = true;
                Ok(())
            }
            result => result,
        }
    }
}

/// Text with our own escape sequences or without, and on a terminal with marks for control characters.
fn rendered(text: &str, color: bool, terminal: bool) -> String {
    let mut out = String::with_capacity(text.len());
    for (index, part) in text.split(MARK.as_str()).enumerate() {
        match index % 2 {
            1 if color => out.push_str(part),
            0 if terminal => visible(part, &mut out),
            0 => out.push_str(part),
            _ => {}
        }
    }
    out
}

/// Adds text with marks for control characters and for those that turn the direction of writing.
fn visible(text: &str, out: &mut String) {
    let mut characters = text.chars().peekable();
    while let Some(character) = characters.next() {
        match character {
            '\n' | '\t' => out.push(character),
            '\r' if characters.peek() == Some(&'\n') => out.push(character),
            '\u{7f}' => out.push('␡'),
            // The pictures of control characters stand in their order.
            '\0'..='\u{1f}' => out.extend(char::from_u32(0x2400 + u32::from(character))),
            '\u{80}'..='\u{9f}' | '\u{200e}' | '\u{200f}' | '\u{202a}'..='\u{202e}' | '\u{2066}'..='\u{2069}' => {
                out.extend(character.escape_unicode());
            }
            _ => out.push(character),
        }
    }
}

/// Text without our own escape sequences.
#[cfg(test)]
pub fn plain(text: &str) -> String {
    rendered(text, false, false)
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn a_terminal_shows_what_others_get_as_it_is() {
        let bold = Paint(Style::new().bold());
        let text = format!("{bold}a{bold:#}\u{1b}[31mb\u{9b}\u{202e}\r\nc\rd\u{7f}\te\n");
        assert_eq!(rendered(&text, true, true), "\u{1b}[1ma\u{1b}[0m␛[31mb\\u{9b}\\u{202e}\r\nc␍d␡\te\n");
        assert_eq!(rendered(&text, false, false), "a\u{1b}[31mb\u{9b}\u{202e}\r\nc\rd\u{7f}\te\n");
    }

    #[test]
    fn whoever_stops_reading_is_no_error() {
        struct Closed;
        impl Write for Closed {
            fn write(&mut self, _: &[u8]) -> std::io::Result<usize> {
                Err(ErrorKind::BrokenPipe.into())
            }

            fn flush(&mut self) -> std::io::Result<()> {
                Err(ErrorKind::StorageFull.into())
            }
        }
        let mut stream = Stream { inner: Closed, color: false, terminal: false, broken: false };
        assert!(stream.flush().is_err());
        assert!(writeln!(stream, "tide").is_ok());
        assert!(stream.flush().is_ok());
    }
}
