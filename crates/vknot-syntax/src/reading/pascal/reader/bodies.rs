//! Which routines have a body. A file that others include may hold headers alone, or headers in front of routines with bodies, and only
//! the bodies tell which headers they belong to.

use super::*;

impl Reader<'_, '_> {
    /// Where routines begin that have a body, in order. A body belongs to the last header in front of it that has none yet, as a
    /// closing bracket does to the last open one.
    pub(super) fn routines_with_body(&self) -> Vec<usize> {
        let (mut headers, mut found) = (Vec::new(), Vec::new());
        // Where every routine has one.
        let mut implements = false;
        // What `end` closes: whether each holds members.
        let mut open: Vec<bool> = Vec::new();
        let mut at = 0;
        while at < self.lexemes.list.len() {
            let among_members = open.last() == Some(&true);
            match self.lexemes.word(at) {
                Some(Word::Begin | Word::Asm) => {
                    if open.is_empty() {
                        found.extend(headers.pop());
                    }
                    open.push(false);
                    at = if self.lexemes.word(at) == Some(Word::Asm) { self.end_of_assembler(at) } else { at };
                }
                Some(Word::Case) if !among_members => open.push(false),
                Some(Word::Try) => open.push(false),
                Some(Word::Record) => open.push(true),
                Some(Word::Class | Word::Part) if self.lexemes.begins_members(at) => open.push(true),
                Some(Word::Part) => {
                    headers.clear();
                    open.clear();
                    implements = self.lexemes.is(at, "implementation");
                }
                Some(Word::Package) if at == self.lexemes.next_code(0) => implements = !self.lexemes.is(at, "unit"),
                Some(Word::End) => {
                    implements &= !self.lexemes.is(at + 1, ".");
                    open.pop();
                }
                Some(Word::Routine)
                    if self.begins_declaration(at) && (open.is_empty() || !among_members && self.at_margin(at)) =>
                {
                    // One at the margin shows that an `end` is missing.
                    open.clear();
                    if !self.is_forward(at) {
                        headers.push(at);
                    }
                    // To the end of its header.
                    at = self.semicolon(at).max(at + 1) - 1;
                }
                _ => {}
            }
            at = self.lexemes.close_of(at).unwrap_or(at) + 1;
        }
        // The body of one that breaks off is still to come.
        if implements {
            found.append(&mut headers);
        }
        found.sort_unstable();
        found
    }

    /// In front of the `end` of the assembler code that begins at `at`.
    fn end_of_assembler(&self, at: usize) -> usize {
        let ends = |at: &usize| self.lexemes.word(*at) == Some(Word::End);
        (at..self.lexemes.list.len()).find(ends).unwrap_or(self.lexemes.list.len()) - 1
    }

    /// Whether the word of a routine stands where a declaration may begin, not where a type or a value does.
    fn begins_declaration(&self, at: usize) -> bool {
        let before = self.lexemes.code_before(at).map_or("", |before| self.lexemes.text(before));
        !matches!(before, "=" | ":" | ":=" | "," | "(")
            && !["of", "to"]
                .iter()
                .any(|word| before.eq_ignore_ascii_case(word))
    }
}
