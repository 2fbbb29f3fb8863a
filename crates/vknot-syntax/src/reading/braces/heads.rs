//! What a declaration or statement is, told by its head: the lexemes up to its `;` or its body.

use crate::language::Kind;
use crate::reading::{Lexeme, NO_PARTNER};
use super::*;

/// Where a sequence of declarations or statements stands.
#[derive(Clone, Copy, PartialEq, Eq)]
pub(super) enum Context {
    /// In a file or namespace.
    Outside,
    /// In a type.
    Members,
    /// In an enumeration.
    Constants,
    /// In a function.
    Code,
}

/// A head that has been gone through.
pub(super) struct Head {
    pub kind: Kind,
    /// The lexeme behind it: the body's `{`, the `;`, or whatever comes where one is missing.
    pub end: usize,
    /// Whether `end` opens a body.
    pub has_body: bool,
    /// The lexemes of the name.
    pub name: Option<(usize, usize)>,
    /// The bracket that opens the parameters.
    pub parameters: Option<usize>,
}

/// Looks over lexemes without giving them to a tree.
#[derive(Clone, Copy)]
pub(super) struct Heads<'h> {
    pub text: &'h str,
    pub lexemes: &'h [Lexeme],
    pub partner: &'h [u32],
}

impl<'h> Heads<'h> {
    pub fn word(&self, at: usize) -> &'h str {
        self.lexemes
            .get(at)
            .filter(|lexeme| lexeme.kind == WORD || lexeme.kind == MARK)
            .map_or("", |lexeme| lexeme.of(self.text))
    }

    pub fn kind(&self, at: usize) -> Option<Kind> {
        self.lexemes.get(at).map(|lexeme| lexeme.kind)
    }

    /// The partner of the opening bracket at `at`.
    pub fn close_of(&self, at: usize) -> Option<usize> {
        let partner = *self.partner.get(at)?;
        (partner != NO_PARTNER && partner as usize > at).then_some(partner as usize)
    }

    /// What follows the lexeme at `at`, or the bracket that opens there.
    pub fn behind(&self, at: usize) -> usize {
        self.close_of(at).unwrap_or(at) + 1
    }

    /// The next lexeme that is neither comment nor directive.
    pub fn skip_notes(&self, at: usize, limit: usize) -> usize {
        let note = |kind: Kind| matches!(kind, COMMENT | DIRECTIVE | REGION_MARK);
        (at..limit).find(|at| !self.kind(*at).is_some_and(note)).unwrap_or(limit)
    }

    /// What follows `[[likely]]`, if that is at `at`.
    pub fn behind_attribute(&self, at: usize) -> Option<usize> {
        let close = self.close_of(at).filter(|_| self.kind(at) == Some(OPEN_SQUARE))?;
        let twice = self.kind(at + 1) == Some(OPEN_SQUARE) && self.close_of(at + 1) == Some(close - 1);
        twice.then_some(close + 1)
    }

    fn line_breaks_before(&self, at: usize) -> bool {
        let (Some(lexeme), Some(before)) = (
            self.lexemes.get(at),
            at.checked_sub(1).and_then(|at| self.lexemes.get(at)),
        ) else {
            return true;
        };
        self.text.as_bytes()[before.end as usize..lexeme.start as usize].contains(&b'\n')
    }

    fn blank_line_before(&self, at: usize) -> bool {
        let pair = at.checked_sub(1).and_then(|before| Some((self.lexemes.get(before)?, self.lexemes.get(at)?)));
        pair.is_some_and(|(before, next)| {
            let between = self.text.as_bytes().get(before.end as usize..next.start as usize).unwrap_or_default();
            between.iter().filter(|byte| **byte == b'\n').count() > 1
        })
    }

    /// Goes over the head that begins at `start`, up to `limit` at most.
    pub fn head(&self, start: usize, limit: usize, context: Context) -> Head {
        let mut scan = Scan::default();
        let mut at = start;
        while at < limit {
            let Some(kind) = self.kind(at) else { break };
            match kind {
                SEMICOLON => {
                    if let Some(body) = self.old_style_body(&scan, at, limit, context) {
                        return self.finished(start, body, true, &scan, context);
                    }
                    break;
                }
                CLOSE_CURLY | INCLUDE | MACRO_DEFINITION => break,
                OPEN_CURLY => match self.is_body(at, start, &scan, context) {
                    true => return self.finished(start, at, true, &scan, context),
                    false => {
                        at = self.behind(at);
                        continue;
                    }
                },
                OPEN_ROUND => {
                    self.note_group(at, start, &mut scan);
                    at = self.behind(at);
                    if self.macro_ends_at(start, at, limit, context) {
                        break;
                    }
                    continue;
                }
                OPEN_SQUARE => {
                    at = self.behind(at);
                    continue;
                }
                WORD => {
                    // What stands between the angle brackets of a template declares nothing.
                    let first = || scan.first.unwrap_or(start + usize::from(self.word(start) == "export"));
                    if self.word(at) == "template"
                        && at == first()
                        && let Some(behind) = self.behind_angles(at + 1, limit)
                    {
                        at = self.behind_constraint(behind, limit).unwrap_or(behind);
                        scan.first = Some(at);
                        continue;
                    }
                    if scan.group.is_some()
                        && scan.assigned.is_none()
                        && let Some(behind) = self.behind_constraint(at, limit)
                    {
                        at = behind;
                        continue;
                    }
                    if at > start && (self.begins_access(at, context) || self.begins_arm(at, context)) {
                        break;
                    }
                    self.note_word(at, &mut scan);
                }
                MARK => match self.word(at) {
                    // What a type is made for: `class Function<Return(Parameters...)> {`.
                    "<" if scan.type_word.is_some() && scan.group.is_none() && scan.assigned.is_none() => {
                        at = self.behind_angles(at, limit).unwrap_or(at + 1);
                        continue;
                    }
                    "=" if !scan.operator => scan.assigned = scan.assigned.or(Some(at)),
                    ":" if scan.group.is_some() && scan.assigned.is_none() => scan.initializers = true,
                    ":" if scan.colon.is_none() => scan.colon = Some(at),
                    _ => {}
                },
                _ => {}
            }
            at += 1;
            if at == start + 1 && self.bare_macro(start, limit, context) {
                break;
            }
        }
        self.finished(start, at.min(limit), false, &scan, context)
    }

    /// The lexeme behind `<...>` that begins at `open`.
    pub fn behind_angles(&self, open: usize, limit: usize) -> Option<usize> {
        let mut at = open;
        let mut depth = 0i32;
        for _ in 0..ANGLES_AT_MOST {
            match self.word(at) {
                "<" => depth += 1,
                ">" => depth -= 1,
                ">>" => depth -= 2,
                _ if matches!(self.kind(at), Some(SEMICOLON | CLOSE_CURLY) | None) => return None,
                _ => {}
            }
            at = self.behind(at);
            if depth <= 0 || at >= limit {
                break;
            }
        }
        (depth == 0 && at > open + 1 && at < limit).then_some(at)
    }

    fn note_word(&self, at: usize, scan: &mut Scan) {
        match self.word(at) {
            "operator" => scan.operator = true,
            "class" | "struct" | "union" | "enum" | "namespace" | "__interface"
                if scan.type_word.is_none() && scan.group.is_none() =>
            {
                scan.type_word = Some(at);
            }
            _ => {}
        }
    }

    /// Remembers a group that may be a function's parameters.
    fn note_group(&self, at: usize, start: usize, scan: &mut Scan) {
        let Some(before) = at.checked_sub(1).filter(|before| *before >= start) else { return };
        let word = self.word(before);
        let called = self.kind(before) == Some(WORD) && !NOT_NAMES.contains(&word);
        let operator = scan.operator && scan.group.is_none();
        // `operator()(...)`: the first brackets are its name.
        if operator && word == "operator" && self.kind(at + 2) == Some(OPEN_ROUND) {
            return;
        }
        let specialized = word == ">" && scan.group.is_none();
        let pointer = scan.group.is_none() && (self.pointer_name(at).is_some() || self.gives_pointer(at).is_some());
        if !(called || operator || specialized) || pointer || scan.initializers || scan.assigned.is_some() {
            return;
        }
        // A macro behind the parameters, or one in front of the name, is not the name.
        let macro_behind = scan.group.is_some_and(|group| !is_macro(self.word(group - 1))) && is_macro(word);
        if !macro_behind {
            scan.group = Some(at);
        }
    }

    /// Whether a brace begins a body, as against a value in braces.
    fn is_body(&self, at: usize, start: usize, scan: &Scan, context: Context) -> bool {
        if self.close_of(at).is_none() {
            return false;
        }
        let before = at.checked_sub(1).filter(|before| *before >= start);
        let Some(before) = before else { return true };
        if scan.assigned.is_some() {
            return false;
        }
        if scan.initializers {
            // `: level{0}, name{n} {`: a brace behind a name begins a value.
            return !(self.kind(before) == Some(WORD)
                && !matches!(self.word(before), "const" | "noexcept" | "override" | "try")
                || self.word(before) == ">");
        }
        if scan.type_word.is_some() && scan.group.is_none() {
            return true;
        }
        match context {
            Context::Code => {
                let call = scan.group.is_some_and(
                    |group| self.kind(start) == Some(WORD) && self.close_of(group) == Some(before),
                );
                let hands_over = matches!(self.word(start), "return" | "co_return" | "co_yield" | "throw");
                call && !hands_over && scan.group.is_some_and(|group| group == start + 1)
            }
            _ => scan.group.is_some()
                || self.kind(before) == Some(STRING)
                || self.kind(before) == Some(CLOSE_ROUND)
                || self.kind(start) == Some(WORD) && before == start && is_macro(self.word(start)),
        }
    }

    /// `int f(a, b) int a; char *b; {`: declarations between the parameters and the body.
    fn old_style_body(&self, scan: &Scan, at: usize, limit: usize, context: Context) -> Option<usize> {
        let group = scan.group.filter(|_| context == Context::Outside && scan.assigned.is_none())?;
        let close = self.close_of(group)?;
        let names = (group + 1..close).all(|at| matches!(self.kind(at), Some(WORD | COMMA | COMMENT)));
        let typed = self.kind(close + 1) == Some(WORD) && close + 2 < at && !is_macro(self.word(close + 1));
        if !names || !typed || group + 1 == close {
            return None;
        }
        (at..limit.min(at + OLD_STYLE_AT_MOST))
            .find(|at| {
                !matches!(self.kind(*at), Some(WORD | MARK | COMMA | SEMICOLON | COMMENT | OPEN_SQUARE | CLOSE_SQUARE | NUMBER | OPEN_ROUND | CLOSE_ROUND | DIRECTIVE))
            })
            .filter(
                |at| self.kind(*at) == Some(OPEN_CURLY)
                    && self.close_of(*at).is_some()
                    && matches!(self.kind(at - 1), Some(SEMICOLON | COMMENT)),
            )
    }

    /// `public:`, `signals:`, `public slots:` in a type.
    pub fn begins_access(&self, at: usize, context: Context) -> bool {
        let access = matches!(self.word(at), "public" | "private" | "protected" | "signals" | "slots" | "Q_SIGNALS");
        context == Context::Members
            && access
            && (self.word(at + 1) == ":" || self.word(at + 2) == ":" && self.kind(at + 1) == Some(WORD))
    }

    /// `case x:`, `default:` in code, which end what has no `;` in front of them, such as a macro that says that an arm falls through.
    fn begins_arm(&self, at: usize, context: Context) -> bool {
        let labels = || self.word(at) == "case" || self.word(at) == "default" && self.word(at + 1) == ":";
        context == Context::Code && labels()
    }

    /// Whether a macro that stands for an access label begins here, as against a part of a word's width.
    pub fn is_access_macro(&self, at: usize, context: Context) -> bool {
        let labels = self.word(at + 1) == ":" && self.kind(at + 2) != Some(NUMBER);
        context == Context::Members && labels && is_macro(self.word(at))
    }

    /// A macro that stands for a declaration or statement, with brackets and without `;`.
    fn macro_ends_at(&self, start: usize, end: usize, limit: usize, context: Context) -> bool {
        let alone =
            self.kind(start + 1) == Some(OPEN_ROUND) && self.close_of(start + 1).is_some_and(|close| close + 1 == end);
        if !alone || !self.line_breaks_before(end) || !is_macro(self.word(start)) {
            return false;
        }
        let next = self.skip_notes(end, limit);
        match self.kind(next) {
            _ if next >= limit => true,
            Some(WORD) => context != Context::Code || !matches!(self.word(next), "and" | "or"),
            Some(CLOSE_CURLY | STRING) => true,
            Some(OPEN_SQUARE) => self.kind(next + 1) == Some(OPEN_SQUARE),
            Some(MARK) => matches!(self.word(next), "~" | "::" | "++" | "--")
                || context == Context::Code
                && self.word(next) == "*",
            Some(INCLUDE | MACRO_DEFINITION) => true,
            _ => false,
        }
    }

    /// A macro that stands for a declaration or statement, alone on its line.
    fn bare_macro(&self, start: usize, limit: usize, context: Context) -> bool {
        if !is_macro(self.word(start)) || !self.line_breaks_before(start + 1) || context == Context::Constants {
            return false;
        }
        let next = self.skip_notes(start + 1, limit);
        let code_word = |word: &str| matches!(word, "return" | "if" | "for" | "while" | "switch" | "break" | "goto" | "do");
        match (context, self.kind(next)) {
            _ if next >= limit => true,
            (_, Some(CLOSE_CURLY | INCLUDE | MACRO_DEFINITION)) => true,
            (Context::Members, Some(WORD)) => true,
            (Context::Code, Some(WORD)) => code_word(self.word(next)) || is_macro(self.word(next)),
            // What is declared has no blank line in it.
            (Context::Outside, Some(WORD)) => self.blank_line_before(next)
                || matches!(self.word(next), "namespace" | "class" | "struct" | "typedef" | "extern" | "using" | "template" | "static"),
            _ => false,
        }
    }

    fn finished(&self, start: usize, end: usize, has_body: bool, scan: &Scan, context: Context) -> Head {
        let start = scan.first.unwrap_or(start);
        let first = self.word(start);
        let typed = scan.type_word.filter(|_| has_body && scan.group.is_none());
        let (kind, name) = match (typed, context) {
            (Some(at), _) => (type_kind(self.word(at)), self.type_name(at + 1, end)),
            _ if has_body && first == "extern" && self.kind(end - 1) == Some(STRING) => (LINKAGE, None),
            (None, Context::Code) if has_body => (MACRO_BLOCK, None),
            (None, Context::Code) => (STATEMENT, None),
            _ if has_body => (
                FUNCTION,
                scan.group
                    .and_then(|group| self.callable_name(start, group))
                    .or_else(|| self.declared_pointer(start, end).map(|name| (name, name + 1)))
                    .or((end > start).then_some((start, start + 1))),
            ),
            _ => self.declared(start, end, scan, context),
        };
        // Those of a function that gives a pointer stand behind its name, within the brackets of the pointer.
        let inside =
            name.map(|(_, behind)| behind).filter(|behind| kind == FUNCTION && self.kind(*behind) == Some(OPEN_ROUND));
        let parameters = scan.group.or(inside).filter(|_| matches!(kind, FUNCTION | PROTOTYPE));
        Head { kind, end, has_body, name, parameters }
    }

    /// What a declaration without a body declares.
    fn declared(&self, start: usize, end: usize, scan: &Scan, context: Context) -> (Kind, Option<(usize, usize)>) {
        let first = self.word(start);
        if first == "using" {
            let alias = scan.assigned
                .map(|assigned| (assigned - 1, assigned))
                .filter(|(name, _)| self.kind(*name) == Some(WORD));
            return (if alias.is_some() { ALIAS } else { STATEMENT }, alias);
        }
        if matches!(first, "friend" | "static_assert" | "_Static_assert" | "asm" | "goto" | "return") {
            return (STATEMENT, None);
        }
        if first == "typedef" {
            return (ALIAS, self.last_word(start + 1, end));
        }
        if let Some(group) = scan.group.filter(|group| scan.assigned.is_none_or(|assigned| assigned > *group)) {
            // A name and arguments alone are a macro or a call.
            let name = self.callable_name(start, group);
            let constructs = context == Context::Members && self.word(start) != "Q_PROPERTY";
            let declares = name.is_some_and(|(from, to)| from > start || to - from > 1) || scan.operator || constructs;
            return if declares { (PROTOTYPE, name) } else { (STATEMENT, None) };
        }
        let stop = (start..end).find(
            |at| self.word(*at) == "="
                || matches!(self.kind(*at), Some(COMMA | OPEN_SQUARE | OPEN_CURLY))
                || Some(*at) == scan.colon,
        );
        let stop = stop.filter(|stop| *stop > start).unwrap_or(end);
        let name = self.declared_pointer(start, stop)
            .or_else(|| (start..stop).rfind(|at| self.kind(*at) == Some(WORD)));
        match name.filter(|name| *name > start) {
            Some(name) => (DECLARATION, Some((name, name + 1))),
            None => (STATEMENT, None),
        }
    }

    /// The name of the first pointer among lexemes that is declared with brackets.
    fn declared_pointer(&self, start: usize, end: usize) -> Option<usize> {
        let name = |at: usize| self.pointer_name(at).or_else(|| self.gives_pointer(at));
        let named = |at: usize| if self.kind(at) == Some(OPEN_ROUND) { name(at) } else { None };
        (start..end).find_map(named).filter(|name| self.kind(*name) == Some(WORD))
    }

    fn last_word(&self, start: usize, end: usize) -> Option<(usize, usize)> {
        // `typedef int (*name)(...)`: the name is behind the star.
        let name = self.declared_pointer(start, end)
            .or_else(|| (start..end).rfind(|at| self.kind(*at) == Some(WORD)))?;
        Some((name, name + 1))
    }

    /// The name in front of a function's parameters, with what qualifies it.
    fn callable_name(&self, start: usize, group: usize) -> Option<(usize, usize)> {
        // `int name MACRO((parameters));`
        let wrapped = is_macro(self.word(group - 1))
            && self.kind(group + 1) == Some(OPEN_ROUND)
            && self.close_of(group + 1).map(|close| close + 1) == self.close_of(group);
        if wrapped && group >= start + 3 && self.kind(group - 2) == Some(WORD) {
            return Some((group - 2, group - 1));
        }
        let operator = (start..group).rev().take(OPERATOR_AT_MOST).find(|at| self.word(*at) == "operator");
        let mut from = operator.unwrap_or(group - 1);
        if self.word(from) == ">" {
            from = self.before_angles(start, from)?;
        }
        if from > start && self.word(from - 1) == "~" {
            from -= 1;
        }
        while from >= start + 2 && self.word(from - 1) == "::" {
            from -= 2;
            if self.word(from) == ">" {
                from = self.before_angles(start, from)?;
            }
        }
        (self.kind(from).is_some()).then_some((from, group))
    }

    /// The word in front of `<...>` that ends at `close`.
    fn before_angles(&self, start: usize, close: usize) -> Option<usize> {
        let mut depth = 0;
        for at in (start..=close).rev().take(ANGLES_AT_MOST) {
            depth += i32::from(self.word(at) == ">") - i32::from(self.word(at) == "<");
            if depth == 0 {
                return at.checked_sub(1).filter(|at| *at >= start);
            }
        }
        None
    }

    /// What a pointer is called whose star and name are in the brackets at `open`, if parameters or sizes follow: `int (*of)(int)`,
    /// `int (Gauge::*of)(int)`, or, without types, a call of what a call gives. Where it has no name, its star.
    pub fn pointer_name(&self, open: usize) -> Option<usize> {
        let is_word = |at: usize| self.kind(at) == Some(WORD);
        let mut star = open + 1;
        while is_word(star) && self.word(star + 1) == "::" {
            star += 2;
        }
        // How it is called stands in front of the star: `int (WINAPI *of)(int)`.
        if is_macro(self.word(star)) && self.word(star + 1) == "*" && is_word(star + 2) {
            star += 1;
        }
        // A caret is the star of a block.
        let is_star = |at: usize| matches!(self.word(at), "*" | "^");
        let close = self.close_of(open).filter(|_| is_star(star))?;
        let name_end = (star..close).find(|at| !is_star(*at) && !is_word(*at)).unwrap_or(close);
        let ends = name_end == close || self.kind(name_end) == Some(OPEN_SQUARE);
        let called = matches!(self.kind(close + 1), Some(OPEN_ROUND | OPEN_SQUARE));
        (ends && called).then_some(name_end - 1)
    }

    /// What a function is called that gives a pointer to another, whose star, name and parameters are in the brackets at `open`:
    /// `int (*of(int zone))(int)`.
    fn gives_pointer(&self, open: usize) -> Option<usize> {
        let close = self.close_of(open).filter(|_| self.word(open + 1) == "*")?;
        let name = (open + 2..close).find(|at| self.word(*at) != "*")?;
        let parameters = self.close_of(name + 1).filter(|_| self.kind(name + 1) == Some(OPEN_ROUND))?;
        let called = self.kind(name) == Some(WORD) && matches!(self.kind(close + 1), Some(OPEN_ROUND | OPEN_SQUARE));
        (called && parameters + 1 == close).then_some(name)
    }

    /// Whether the brackets at `open` hold a reference to an array or a function: `const int (&levels)[3]`.
    pub fn is_reference(&self, open: usize) -> bool {
        let marks = matches!(self.word(open + 1), "&" | "&&") && self.kind(open + 2) == Some(WORD);
        let close = self.close_of(open).filter(|close| marks && *close == open + 3);
        close.is_some_and(|close| matches!(self.kind(close + 1), Some(OPEN_ROUND | OPEN_SQUARE)))
    }

    /// The name of a type: the last word in front of its bases, arguments and body.
    fn type_name(&self, start: usize, end: usize) -> Option<(usize, usize)> {
        let stop = (start..end).find(|at| matches!(self.word(*at), ":" | "<" | "final")).unwrap_or(end);
        let words =
            (start..stop).rfind(|at| self.kind(*at) == Some(WORD) && !matches!(self.word(*at), "class" | "struct"));
        // `namespace a::b` is named by all of it.
        words.map(|last| {
            let mut from = last;
            while from >= start + 2 && self.word(from - 1) == "::" {
                from -= 2;
            }
            (from, last + 1)
        })
    }
}

/// What has been seen of a head.
#[derive(Default)]
struct Scan {
    /// The first lexeme behind the angle brackets of templates.
    first: Option<usize>,
    type_word: Option<usize>,
    group: Option<usize>,
    assigned: Option<usize>,
    colon: Option<usize>,
    initializers: bool,
    operator: bool,
}

const OLD_STYLE_AT_MOST: usize = 400;
const OPERATOR_AT_MOST: usize = 12;
const ANGLES_AT_MOST: usize = 200;

/// Words in front of brackets that are not names of functions.
const NOT_NAMES: [&str; 16] = [
    "__attribute__", "__attribute", "__declspec", "alignas", "_Alignas", "decltype", "noexcept", "throw", "requires",
    "explicit", "typeof", "__typeof__",
    "asm", "__asm__", "sizeof", "if",
];

fn type_kind(word: &str) -> Kind {
    match word {
        "class" | "__interface" => CLASS,
        "union" => UNION,
        "enum" => ENUM,
        "namespace" => NAMESPACE,
        _ => STRUCT,
    }
}

/// Whether a word is written as macros are.
pub(super) fn is_macro(word: &str) -> bool {
    word.len() > 1
        && word.bytes().all(|byte| byte.is_ascii_uppercase() || byte.is_ascii_digit() || byte == b'_')
        && word.bytes().any(|byte| byte.is_ascii_uppercase())
}
