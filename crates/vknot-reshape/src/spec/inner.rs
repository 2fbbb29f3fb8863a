//! Code inside a token: what a string puts in, the body of a macro, the condition of a directive. To everything that reshapes the
//! token stays whole; looks and names go into it.

use vknot_syntax::{Embedded, NodeId, Source, Span, Tree};

/// How deep strings within the code of strings are read.
pub(crate) const NESTED_AT_MOST: usize = 4;

/// A piece of code inside a token.
#[derive(Clone, Debug, PartialEq, Eq)]
pub(crate) struct InnerCode {
    /// What opens it; empty where nothing does.
    pub open: Span,
    /// What closes it.
    pub close: Span,
    /// The code.
    pub span: Span,
    /// What is put in front of it and behind it to be read, so that it reads as it does in its place.
    pub around: (&'static str, &'static str),
    /// What it is called.
    pub word: &'static str,
}

impl InnerCode {
    /// With what opens and closes it.
    pub fn whole(&self) -> Span {
        Span::new(self.open.start, self.close.end)
    }

    /// Reads it.
    pub fn read(&self, source: &Source, tree: &Tree, host: NodeId) -> Embedded {
        Embedded::inside(source, tree.language(), host, self.span, self.around)
    }
}

/// What a token holds, in order.
pub(crate) fn nothing_inside(_: &Source, _: &Tree, _: NodeId) -> Vec<InnerCode> {
    Vec::new()
}

/// How a language puts values into strings.
#[derive(Clone, Copy, Debug)]
pub(crate) struct Interpolation {
    /// What opens a value; a brace closes it. Where it is nothing but braces, twice as many stand for themselves, and else a backslash
    /// in front makes them text.
    pub open: &'static str,
    /// Marks behind which it is said how to show the value.
    pub shown: &'static [char],
    /// What is put around a value to read it.
    pub around: (&'static str, &'static str),
}

impl Interpolation {
    /// The values in the text of a string that begins at an offset, those in what is said about them included. What is not closed holds none.
    pub fn values(self, text: &str, start: u32) -> Vec<InnerCode> {
        let mut found = Vec::new();
        self.collect(text, start, true, &mut found);
        found
    }

    fn collect(self, text: &str, start: u32, outermost: bool, found: &mut Vec<InnerCode>) {
        let offset = |at: usize| start + at as u32;
        let braces = self.open.trim_start_matches('{').is_empty();
        let closing = "}".repeat(if braces { self.open.len() } else { 1 });
        let mut at = 0;
        while let Some(opened) = text.get(at..).and_then(|rest| rest.find(self.open)).map(|found| at + found) {
            let inside = opened + self.open.len();
            if braces && text.get(inside..).is_some_and(|rest| rest.starts_with('{')) && self.open.len() == 1 {
                at = inside + 1;
                continue;
            }
            if !braces && is_escaped(text, opened) {
                at = inside;
                continue;
            }
            let Some(end) = self.end(text, inside) else { return };
            // What says how to show it goes up to a brace that is not one of a value of its own.
            let Some(closed) = closed(text, end) else { return };
            let code = text.get(inside..end).unwrap_or("").trim_end_matches(char::is_whitespace);
            let code =
                code.strip_suffix('=').filter(|code| braces && !code.ends_with(['=', '!', '<', '>'])).unwrap_or(code);
            let close = closed + closing.len();
            if !code.trim().is_empty() && text.get(closed..close) == Some(closing.as_str()) {
                found.push(InnerCode {
                    open: Span::new(offset(opened), offset(inside)),
                    span: Span::new(offset(inside), offset(inside + code.len())),
                    close: Span::new(offset(closed), offset(close)),
                    around: self.around,
                    word: "interpolated value",
                });
            }
            if outermost && end < closed {
                self.collect(text.get(end..closed).unwrap_or(""), offset(end), false, found);
            }
            at = close;
        }
    }

    /// Where the code of a value ends: at its closing brace, or at what says how to show it.
    fn end(self, text: &str, start: usize) -> Option<usize> {
        let mut open: Vec<char> = Vec::new();
        let mut characters = text.get(start..)?.char_indices().peekable();
        while let Some((at, c)) = characters.next() {
            let next = characters.peek().map(|(_, next)| *next);
            match (open.last().copied(), c) {
                (Some('"' | '\'' | '`'), '\\') => drop(characters.next()),
                (Some('`'), '$') if next == Some('{') => {
                    characters.next();
                    open.push('{');
                }
                (Some(quote @ ('"' | '\'' | '`')), c) if c == quote => drop(open.pop()),
                (Some('"' | '\'' | '`'), _) => {}
                (_, '"' | '\'' | '`' | '{' | '(' | '[') => open.push(c),
                (None, '}') => return Some(start + at),
                (Some(_), '}' | ')' | ']') => drop(open.pop()),
                (None, ':') if self.shown.contains(&':') && next == Some(':') => drop(characters.next()),
                (None, '!') if next == Some('=') => drop(characters.next()),
                (None, c) if self.shown.contains(&c) => return Some(start + at),
                _ => {}
            }
        }
        None
    }
}

/// Where the brace stands that closes what braces within do not.
fn closed(text: &str, from: usize) -> Option<usize> {
    let mut depth = 0;
    for (at, c) in text.get(from..)?.char_indices() {
        match c {
            '{' => depth += 1,
            '}' if depth == 0 => return Some(from + at),
            '}' => depth -= 1,
            _ => {}
        }
    }
    None
}

/// Whether an odd number of backslashes stands in front of an offset.
fn is_escaped(text: &str, at: usize) -> bool {
    let before = text.get(..at).unwrap_or("");
    (before.len() - before.trim_end_matches('\\').len()) % 2 == 1
}

#[cfg(test)]
mod tests {
    use super::*;

    const DOLLAR: Interpolation = Interpolation { open: "${", shown: &[], around: ("(", ")") };
    const BRACE: Interpolation = Interpolation { open: "{", shown: &[':', '!'], around: ("(", ")") };
    const BRACES: Interpolation = Interpolation { open: "{{", shown: &[':', ','], around: ("", "") };

    /// A way to put values in, a text, and the values with what opens and closes them.
    type Case = (Interpolation, &'static str, &'static [(&'static str, &'static str)]);

    const CASES: &[Case] = &[
        (DOLLAR, "`a ${b} c ${d.e(f)}`", &[("b", "${b}"), ("d.e(f)", "${d.e(f)}")]),
        (DOLLAR, "`\\${a} \\\\${b}`", &[("b", "${b}")]),
        (DOLLAR, "`${ {a: 1}.a }`", &[(" {a: 1}.a", "${ {a: 1}.a }")]),
        (DOLLAR, "`${`${a}`}`", &[("`${a}`", "${`${a}`}")]),
        (DOLLAR, "`${a['}']} ${'\\'}'}`", &[("a['}']", "${a['}']}"), ("'\\'}'", "${'\\'}'}")]),
        (DOLLAR, "`${} ${ } ${a`", &[]),
        (DOLLAR, "`${a} ${b", &[("a", "${a}")]),
        (BRACE, "f'{{a}} {b}'", &[("b", "{b}")]),
        (BRACE, "f'{a!r:>{b}.{c}}'", &[("a", "{a!r:>{b}.{c}}"), ("b", "{b}"), ("c", "{c}")]),
        (BRACE, "f'{a != b} {a::b} {c[1:2]}'", &[("a != b", "{a != b}"), ("a::b", "{a::b}"), ("c[1:2]", "{c[1:2]}")]),
        (BRACE, "f'{a=} {b == c} {d = }'", &[("a", "{a=}"), ("b == c", "{b == c}"), ("d ", "{d = }")]),
        (BRACE, "f'{a:%H:%M}'", &[("a", "{a:%H:%M}")]),
        (BRACES, "$$\"\"\"{a} {{b,5:F2}}\"\"\"", &[("b", "{{b,5:F2}}")]),
    ];

    #[test]
    fn values_in_strings_are_found() {
        for (way, text, expected) in CASES {
            let found = way.values(text, 100);
            let of = |span: Span| &text[span.start as usize - 100..span.end as usize - 100];
            let found: Vec<(&str, &str)> = found.iter().map(|inner| (of(inner.span), of(inner.whole()))).collect();
            assert_eq!(found, *expected, "{text}");
        }
    }
}
