//! Patterns of `.editorconfig` sections, after the EditorConfig specification 0.17: `*`, `**`, `?`, `[...]`, `{a,b}`, `{1..9}`.
//!
//! A pattern becomes states that are followed all at once, so that matching takes no more than the length of the pattern times that of
//! the path, whatever the pattern says.

use std::collections::BTreeMap;

/// Characters a pattern may have.
pub(crate) const LONGEST: usize = 4096;

/// Digits of a number that a range is asked about.
const DIGITS: usize = 10;

/// What a state takes.
#[derive(Clone, Debug)]
enum State {
    Character(char),
    /// Any character but `/`.
    InPart,
    Any,
    /// One of these ranges, or none of them.
    Class(Vec<(char, char)>, bool),
    Number(i64, i64),
    /// Nothing; goes on at either.
    Fork(usize),
    /// Nothing; goes on there.
    Jump(usize),
}

/// A pattern made ready.
#[derive(Clone, Debug)]
pub(crate) struct Glob {
    steps: Vec<State>,
}

impl Glob {
    /// Reads a pattern.
    ///
    /// # Errors
    /// When it is too long.
    pub fn new(pattern: &str) -> Result<Glob, String> {
        let pattern: Vec<char> = pattern.chars().collect();
        if pattern.len() > LONGEST {
            return Err(format!("it has {} characters, and {LONGEST} are the most", pattern.len()));
        }
        let rooted = match pattern.contains(&'/') {
            true if pattern.first() == Some(&'/') => pattern,
            true => [vec!['/'], pattern].concat(),
            false => [vec!['/', '*', '*', '/'], pattern].concat(),
        };
        Ok(Compiler::compile(&rooted))
    }

    /// Whether it fits a path below the file's folder, with `/` between its parts.
    pub fn is_match(&self, path: &str) -> bool {
        let path: Vec<char> = std::iter::once('/').chain(path.chars()).collect();
        // States that go on behind a number, by where that ends.
        let mut behind: BTreeMap<usize, Vec<usize>> = BTreeMap::new();
        let mut now = Front::new(self.steps.len());
        self.reach(0, &mut now);
        for at in 0..=path.len() {
            for state in behind.remove(&at).unwrap_or_default() {
                self.reach(state, &mut now);
            }
            let Some(character) = path.get(at) else { break };
            let mut next = Front::new(self.steps.len());
            for state in now.list {
                let Some(step) = self.steps.get(state) else { continue };
                match step {
                    State::Number(low, high) => {
                        for end in numbers(&path[at..], *low, *high) {
                            behind.entry(at + end).or_default().push(state + 1);
                        }
                    }
                    step if step.takes(*character) => self.reach(state + 1, &mut next),
                    _ => {}
                }
            }
            now = next;
        }
        now.list.contains(&self.steps.len())
    }

    /// Adds a state and those it goes on to without a character.
    fn reach(&self, state: usize, front: &mut Front) {
        let mut open = vec![state];
        while let Some(state) = open.pop() {
            if !front.add(state) {
                continue;
            }
            match self.steps.get(state) {
                Some(State::Fork(other)) => open.extend([state + 1, *other]),
                Some(State::Jump(other)) => open.push(*other),
                _ => {}
            }
        }
    }
}

impl State {
    fn takes(&self, character: char) -> bool {
        match self {
            State::Character(own) => *own == character,
            State::InPart => character != '/',
            State::Any => true,
            State::Class(ranges, negated) => {
                character != '/' && ranges.iter().any(|(low, high)| (*low..=*high).contains(&character)) != *negated
            }
            State::Number(..) | State::Fork(_) | State::Jump(_) => false,
        }
    }
}

/// The states one may be in.
struct Front {
    list: Vec<usize>,
    is_in: Vec<bool>,
}

impl Front {
    fn new(states: usize) -> Self {
        Self { list: Vec::new(), is_in: vec![false; states + 1] }
    }

    fn add(&mut self, state: usize) -> bool {
        let new = !std::mem::replace(&mut self.is_in[state], true);
        if new {
            self.list.push(state);
        }
        new
    }
}

/// The lengths of the numbers between two that a text begins with. A number has no zeros in front.
fn numbers(text: &[char], low: i64, high: i64) -> impl Iterator<Item = usize> {
    let signs = usize::from(matches!(text.first(), Some('-' | '+')));
    let negative = text.first() == Some(&'-');
    let digits: Vec<i64> = text[signs..].iter().take(DIGITS).map_while(|c| c.to_digit(10)).map(i64::from).collect();
    let mut value = 0;
    let first = digits.first().copied();
    digits.into_iter().enumerate().filter_map(move |(at, digit)| {
        value = value * 10 + digit;
        let signed = if negative { -value } else { value };
        let plain = at == 0 || first != Some(0);
        (plain && (low..=high).contains(&signed)).then_some(signs + at + 1)
    })
}

/// An open brace.
struct Brace {
    /// The fork in front of the alternative at hand.
    fork: usize,
    /// The jumps behind the alternatives before it.
    jumps: Vec<usize>,
}

struct Compiler<'p> {
    pattern: &'p [char],
    at: usize,
    steps: Vec<State>,
    open: Vec<Brace>,
    /// For each opening brace that holds alternatives where it is closed.
    closers: BTreeMap<usize, usize>,
}

impl Compiler<'_> {
    fn compile(pattern: &[char]) -> Glob {
        let mut compiler = Compiler { pattern, at: 0, steps: Vec::new(), open: Vec::new(), closers: closers(pattern) };
        while let Some(character) = compiler.pattern.get(compiler.at).copied() {
            compiler.take(character);
        }
        Glob { steps: compiler.steps }
    }

    fn take(&mut self, character: char) {
        let rest = &self.pattern[self.at..];
        match character {
            '\\' if rest.len() > 1 => {
                self.steps.push(State::Character(rest[1]));
                self.at += 2;
            }
            '/' if rest.starts_with(&['/', '*', '*', '/']) => {
                // No step at all, or any number of them.
                self.steps.push(State::Character('/'));
                let behind = self.steps.len() + 5;
                self.steps.extend([State::Fork(behind), State::Fork(behind - 1), State::Any, State::Jump(behind - 4)]);
                self.steps.push(State::Character('/'));
                self.at += 4;
            }
            '*' => {
                let deep = rest.get(1) == Some(&'*');
                let start = self.steps.len();
                let step = if deep { State::Any } else { State::InPart };
                self.steps.extend([State::Fork(start + 3), step, State::Jump(start)]);
                self.at += rest.iter().take_while(|star| **star == '*').count();
            }
            '?' => self.single(State::InPart),
            '[' => self.take_class(),
            '{' if self.closers.contains_key(&self.at) => self.take_brace(),
            ',' if !self.open.is_empty() => self.take_comma(),
            '}' if self.closers.values().any(|close| *close == self.at) && !self.open.is_empty() => self.close_brace(),
            other => self.single(State::Character(other)),
        }
    }

    fn single(&mut self, step: State) {
        self.steps.push(step);
        self.at += 1;
    }

    fn take_class(&mut self) {
        let inside = &self.pattern[self.at + 1..];
        let negated = inside.first() == Some(&'!');
        let mut ranges = Vec::new();
        let mut at = usize::from(negated);
        loop {
            match inside.get(at).copied() {
                // What cannot be a class is plain text.
                None | Some('/') => return self.single(State::Character('[')),
                Some(']') if at > usize::from(negated) => break,
                Some(first) => {
                    let escaped = usize::from(first == '\\' && inside.len() > at + 1);
                    let low = inside[at + escaped];
                    at += escaped + 1;
                    let high = match (inside.get(at), inside.get(at + 1)) {
                        (Some('-'), Some(high)) if !matches!(high, ']' | '/') => {
                            at += 2;
                            *high
                        }
                        _ => low,
                    };
                    ranges.push((low, high));
                }
            }
        }
        self.steps.push(State::Class(ranges, negated));
        self.at += at + 2;
    }

    fn take_brace(&mut self) {
        let close = self.closers.get(&self.at).copied().unwrap_or(self.at);
        let inside: String = self.pattern[self.at + 1..close].iter().collect();
        let number = |text: &str| text.strip_prefix('+').unwrap_or(text).parse::<i64>().ok();
        if let Some((low, high)) = inside.split_once("..").and_then(|(low, high)| number(low).zip(number(high))) {
            self.steps.push(State::Number(low.min(high), low.max(high)));
            self.at = close + 1;
            return;
        }
        self.open.push(Brace { fork: self.steps.len(), jumps: Vec::new() });
        self.single(State::Fork(0));
    }

    fn take_comma(&mut self) {
        let jump = self.steps.len();
        self.steps.push(State::Jump(0));
        if let Some(brace) = self.open.last_mut() {
            brace.jumps.push(jump);
            self.steps[brace.fork] = State::Fork(jump + 1);
            brace.fork = jump + 1;
        }
        self.single(State::Fork(0));
    }

    fn close_brace(&mut self) {
        let end = self.steps.len();
        if let Some(brace) = self.open.pop() {
            // The last alternative has no other beside it.
            self.steps[brace.fork] = State::Jump(brace.fork + 1);
            for jump in brace.jumps {
                self.steps[jump] = State::Jump(end);
            }
        }
        self.at += 1;
    }
}

/// The braces that hold alternatives or a range of numbers, each with its partner. Where braces do not match all of them are plain text.
fn closers(pattern: &[char]) -> BTreeMap<usize, usize> {
    let mut open: Vec<(usize, bool)> = Vec::new();
    let mut closers = BTreeMap::new();
    let mut at = 0;
    while let Some(character) = pattern.get(at) {
        match character {
            '\\' => at += 1,
            '{' => open.push((at, false)),
            ',' => open.last_mut().into_iter().for_each(|(_, commas)| *commas = true),
            '}' => {
                let Some((start, commas)) = open.pop() else { return BTreeMap::new() };
                let inside: String = pattern[start + 1..at].iter().collect();
                if commas || inside.split_once("..").is_some_and(|(low, high)| is_number(low) && is_number(high)) {
                    closers.insert(start, at);
                }
            }
            _ => {}
        }
        at += 1;
    }
    if open.is_empty() { closers } else { BTreeMap::new() }
}

fn is_number(text: &str) -> bool {
    let digits = text.strip_prefix(['-', '+']).unwrap_or(text);
    !digits.is_empty() && digits.len() <= DIGITS && digits.bytes().all(|byte| byte.is_ascii_digit())
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn patterns_follow_the_standard() {
        for (glob, path, expected) in [
            ("*", "a/b.rs", true),
            ("*.java", "src/Gauge.java", true),
            ("*.{java,rs}", "x.rs", true),
            ("/x.rs", "x.rs", true),
            ("/x.rs", "a/x.rs", false),
            ("src/*.rs", "src/a.rs", true),
            ("src/*.rs", "src/a/b.rs", false),
            ("src/**.rs", "src/a/b.rs", true),
            ("src/**/b.rs", "src/b.rs", true),
            ("src/**/b.rs", "src/a/c/b.rs", true),
            ("src/**/b.rs", "srcb.rs", false),
            ("**/b.rs", "b.rs", true),
            ("a?c", "abc", true),
            ("a?c", "a/c", false),
            ("log{1..3}.json", "log2.json", true),
            ("log{1..3}.json", "log4.json", false),
            ("log{-3..3}", "log-2", true),
            ("log{3..120}", "log060", false),
            ("log{3..120}", "log60", true),
            ("log{1..3}4", "log24", true),
            ("[!x].rs", "y.rs", true),
            ("[a-c]x", "bx", true),
            ("[a/b]x", "[a/b]x", true),
            ("[]x]", "]", true),
            ("{a,b{c,d}}e", "bde", true),
            ("{a,b{c,d}}e", "be", false),
            ("{,x}e", "e", true),
            ("{single}", "{single}", true),
            ("{a,b", "{a,b", true),
            ("a\\*", "a*", true),
            ("a\\*", "ab", false),
            ("\\{a,b\\}", "{a,b}", true),
            ("北/*", "北/a", true),
        ] {
            assert_eq!(Glob::new(glob).unwrap().is_match(path), expected, "[{glob}] {path}");
        }
    }

    #[test]
    fn hostile_patterns_take_no_longer_than_others() {
        let long = "a/".repeat(1500);
        for glob in [
            "{a,".repeat(800) + &"}".repeat(800),
            "*a".repeat(2000),
            "{1..999}".repeat(500),
            "**/".repeat(1000),
        ] {
            Glob::new(&glob).unwrap().is_match(&long);
        }
        assert!(Glob::new(&"*".repeat(LONGEST + 1)).is_err());
    }
}
