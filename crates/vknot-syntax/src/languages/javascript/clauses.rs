//! Names in the clauses of imports and exports may be any word (`export { catch_ as catch }`), of which the grammar knows none that its
//! language keeps for itself.

use crate::lexis::is_word;
use crate::reader::{Mask, REPAIR as REPAIR_OF_MOST, Repair};

pub(super) const REPAIR: Repair = Repair { mask, kind: "static", ..REPAIR_OF_MOST };

/// Words that the language keeps for itself, but for `default`, which the grammar knows there.
/// <https://tc39.es/ecma262/#prod-ReservedWord>
const RESERVED: &[&str] = &[
    "await", "break", "case", "catch", "class", "const", "continue", "debugger", "delete", "do", "else", "enum",
    "export", "extends", "false", "finally", "for", "function", "if", "import", "in", "instanceof", "new", "null",
    "return", "super", "switch", "this", "throw", "true", "try", "typeof", "var", "void", "while", "with", "yield",
];

fn mask(text: &str) -> Option<Mask> {
    let mut mask = Mask::new(text);
    let changed = names(text, &mut mask) | phases(text, &mut mask) | accessors(text, &mut mask);
    changed.then_some(mask)
}

/// Hides what is said of when a module is run or how it is given (`import defer * as tide`, `import source tide from`); says whether there
/// is any. <https://tc39.es/proposal-defer-import-eval/>
pub(crate) fn phases(text: &str, mask: &mut Mask) -> bool {
    let mut changed = false;
    for (at, _) in text.match_indices("import ") {
        let start = at + "import ".len();
        let rest = text.get(start..).unwrap_or_default();
        let mut words = rest.split_whitespace();
        let is_phase = match (words.next(), words.next()) {
            (Some("defer"), Some(next)) => next.starts_with('*'),
            (Some("source"), Some(next)) => next != "from" && words.next() == Some("from"),
            _ => false,
        };
        if is_phase && text.get(..at).is_some_and(|before| before.is_empty() || before.ends_with(['\n', ';'])) {
            mask.hide(start, start + rest.find(' ').unwrap_or_default());
            changed = true;
        }
    }
    changed
}

/// Shows `static` in place of the word of a member that is read and written by functions; says whether there are any.
fn accessors(text: &str, mask: &mut Mask) -> bool {
    const WORD: &str = "accessor ";
    let mut changed = false;
    for (at, _) in text.match_indices(WORD) {
        let behind = text.get(at + WORD.len()..).unwrap_or_default().bytes().next();
        let named = behind.is_some_and(|byte| is_word(byte) || matches!(byte, b'#' | b'[' | b'\'' | b'"'));
        let before = text.get(..at).unwrap_or_default().trim_end_matches([' ', '\t']);
        let end = at + WORD.len() - 1;
        if named && before.ends_with("static") {
            mask.hide(at, end);
            changed = true;
        } else if named && before.ends_with(['{', '}', ';', ')', '\n']) {
            mask.stand_in_word(at, end, "static");
            changed = true;
        }
    }
    changed
}

/// Shows the grammar other names in place of such words, which makes the nodes they are; says whether there are any.
pub(crate) fn names(text: &str, mask: &mut Mask) -> bool {
    let mut changed = false;
    for keyword in ["export", "import"] {
        for (at, _) in text.match_indices(keyword) {
            let begins =
                text.get(..at).is_some_and(|before| before.bytes().next_back().is_none_or(|byte| !is_word(byte)));
            let Some((start, end)) = clause(text, at + keyword.len()).filter(|_| begins) else { continue };
            for (start, end) in words(text, start, end) {
                if text.get(start..end).is_some_and(|word| RESERVED.contains(&word)) {
                    mask.replace(start, end, b'_');
                    changed = true;
                }
            }
        }
    }
    changed
}

/// Where the inside of a clause in braces begins and ends that stands behind an offset: `type {`, `name, {` or `{`.
fn clause(text: &str, at: usize) -> Option<(usize, usize)> {
    let begins = |rest: &str, word: &str| rest.strip_prefix(word)
        .is_some_and(|behind| behind.bytes().next().is_none_or(|byte| !is_word(byte)));
    let mut rest = text.get(at..)?.trim_start();
    if begins(rest, "type") {
        rest = rest.get("type".len()..)?.trim_start();
    }
    let name = rest.bytes().take_while(|byte| is_word(*byte)).count();
    if name > 0 {
        rest = rest.get(name..)?.trim_start().strip_prefix(',')?.trim_start();
    }
    let start = text.len() - rest.strip_prefix('{')?.len();
    let mut end = start;
    loop {
        let rest = text.get(end..)?;
        end += match rest.bytes().next()? {
            b'}' => return Some((start, end)),
            b'/' if rest.starts_with("/*") => rest.find("*/")? + 2,
            b'/' if rest.starts_with("//") => rest.find('\n')?,
            b'(' | b'{' | b'=' | b';' => return None,
            _ => rest.chars().next()?.len_utf8(),
        };
    }
}

/// The words between two offsets.
fn words(text: &str, start: usize, end: usize) -> impl Iterator<Item = (usize, usize)> {
    let bytes = text.as_bytes();
    let mut at = start;
    std::iter::from_fn(move || {
        at += bytes.get(at..end)?.iter().position(|byte| is_word(*byte))?;
        let begin = at;
        at += bytes.get(at..end)?.iter().take_while(|byte| is_word(**byte)).count();
        Some((begin, at))
    })
}
