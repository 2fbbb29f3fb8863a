//! What a file's text is like as a whole: its line ends, final newline, tabs.

/// How a line ends.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq, Hash)]
pub enum LineEnd {
    /// `\n`
    #[default]
    Lf,
    /// `\r\n`
    CrLf,
}

impl LineEnd {
    /// The characters of the line end.
    pub fn text(self) -> &'static str {
        match self {
            LineEnd::Lf => "\n",
            LineEnd::CrLf => "\r\n",
        }
    }
}

/// Counted once when a file is read.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq)]
pub struct Facts {
    /// Lines that end in `\n` alone.
    pub lf: u32,
    /// Lines that end in `\r\n`.
    pub crlf: u32,
    /// Carriage returns that end no line; they are kept as they are.
    pub lone_cr: u32,
    /// Whether the file began with a byte-order mark.
    pub bom: bool,
    /// Whether the last line has a line end. True for an empty file.
    pub final_newline: bool,
    /// Lines whose first character is a tab.
    pub tab_lines: u32,
    /// Lines whose first character is a space.
    pub space_lines: u32,
}

impl Facts {
    /// Counts the facts of `text`, which is without its byte-order mark.
    pub fn of(text: &str, bom: bool) -> Self {
        let bytes = text.as_bytes();
        let mut facts = Facts { bom, final_newline: bytes.last().is_none_or(|b| *b == b'\n'), ..Facts::default() };
        facts.count_line_start(bytes, 0);
        for at in memchr::memchr2_iter(b'\n', b'\r', bytes) {
            match (bytes[at], bytes.get(at + 1)) {
                (b'\r', Some(b'\n')) => facts.crlf += 1,
                (b'\r', _) => facts.lone_cr += 1,
                _ => {
                    if at == 0 || bytes[at - 1] != b'\r' {
                        facts.lf += 1;
                    }
                    facts.count_line_start(bytes, at + 1);
                }
            }
        }
        facts
    }

    fn count_line_start(&mut self, bytes: &[u8], at: usize) {
        match bytes.get(at) {
            Some(b'\t') => self.tab_lines += 1,
            Some(b' ') => self.space_lines += 1,
            _ => {}
        }
    }

    /// The line end most lines have; `\n` when there is none or as many of each.
    pub fn line_end(&self) -> LineEnd {
        if self.crlf > self.lf { LineEnd::CrLf } else { LineEnd::Lf }
    }

    /// Whether both line ends occur.
    pub fn mixed_line_ends(&self) -> bool {
        self.lf > 0 && self.crlf > 0
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn line_ends_are_told_apart() {
        let facts = Facts::of("a\r\n\tb\nc\rd\r\n  e", false);
        assert_eq!((facts.crlf, facts.lf, facts.lone_cr), (2, 1, 1));
        assert_eq!((facts.tab_lines, facts.space_lines, facts.final_newline), (1, 1, false));
        assert_eq!(facts.line_end(), LineEnd::CrLf);
        assert!(facts.mixed_line_ends());
    }
}
