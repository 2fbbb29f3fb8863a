//! Which token of the result is which of the original.

use vknot_syntax::{Loose, Role};

use crate::receipt::{Moved, Receipt, Respelled, TokenChange};
use crate::spec::Code;
use super::contract::Contract;
use super::imported::Extents;
use super::refusal::{Difference, Refusal, shortened};
use super::spelled::says_the_same;

/// No partner.
pub(super) const NONE: u32 = u32::MAX;

/// For each token of one text its partner in the other.
pub(super) struct Matching {
    /// For each old token the new one.
    pub old: Vec<u32>,
    /// For each new token the old one.
    pub new: Vec<u32>,
    /// Whether every token has one.
    pub complete: bool,
}

/// A text that is compared, and the tokens of it that need no partner.
pub(super) struct Side<'a> {
    pub code: Code<'a>,
    /// Tokens that belong to imports, where those may change.
    pub free: Extents,
    /// Tokens that hold pieces of other languages, which are compared on their own.
    pub hosts: Extents,
}

impl<'a> Side<'a> {
    fn text(&self, token: u32) -> &'a str {
        self.code.tree.tokens().get(token as usize).map_or("", |token| self.code.source.slice(token.span()))
    }

    fn count(&self) -> u32 {
        self.code.tree.tokens().len() as u32
    }

    fn offset(&self, token: u32) -> u32 {
        self.code.tree.tokens().get(token as usize).map_or(self.code.source.span().end, |token| token.start)
    }
}

impl Side<'_> {
    /// The white space in front of a token.
    fn white(&self, token: u32) -> &str {
        self.code.source.slice(self.code.tree.gap_span(token))
    }

    /// Whether a token begins a line.
    fn leads_line(&self, token: u32) -> bool {
        token == 0 || self.white(token).contains('\n')
    }

    fn is_prose(&self, token: u32) -> bool {
        let tree = self.code.tree;
        let kind = tree.tokens().get(token as usize).map(|token| tree.node(token.node).kind);
        kind.is_some_and(|kind| tree.language().is_prose(kind))
    }

    /// Whether white space may come and go between two tokens, where that is meaning otherwise.
    fn is_loose(&self, left: u32, right: u32) -> bool {
        let tree = self.code.tree;
        let within = |token: u32| {
            let node = tree.tokens().get(token as usize).map(|token| tree.node(token.node).parent);
            node.map_or("", |node| tree.kind_name(node))
        };
        let rows = |token: u32| {
            let (text, within) = (self.text(token), within(token));
            let is = move |row: &&Loose| row.token == text && (row.within.is_empty() || row.within == within);
            tree.language().spec().loose.iter().filter(is)
        };
        // A comment among items is one of them.
        let stands_alone = |token: u32| {
            let node = tree.tokens().get(token as usize).map(|token| tree.node(token.node).parent);
            tree.is_comment(token) && node.is_some_and(|node| matches!(tree.role(node), Role::Body | Role::File))
        };
        let comment = stands_alone(left) || stands_alone(right);
        comment || rows(left).any(|row| row.behind) || rows(right).any(|row| row.before)
    }

    /// One past the tokens, from the one given on, that a text is made of as a whole; `None` when they are not that text.
    fn behind(&self, token: u32, text: &str) -> Option<u32> {
        let start = self.offset(token);
        let end = start + text.len() as u32;
        let behind = self.code.tree.token_from(end);
        let last = self.code.tree.tokens().get(behind.checked_sub(1)? as usize)?;
        let found = self.code.source.text().get(start as usize..end as usize);
        (behind > token && last.end == end && found == Some(text)).then_some(behind)
    }
}

/// Pairs the tokens in order: those of the old text less what the receipt removes, with those of the new one less what it adds.
pub(super) fn matched(
    old: &Side<'_>,
    new: &Side<'_>,
    receipt: &Receipt,
    contract: Contract,
) -> Result<Matching, Refusal> {
    let mut matcher = Matcher {
        old,
        new,
        contract,
        matching: Matching {
            old: vec![NONE; old.count() as usize],
            new: vec![NONE; new.count() as usize],
            complete: true,
        },
        at: 0,
        in_directive: false,
    };
    let mut added = receipt.added.iter().peekable();
    let mut removed = receipt.removed.iter().filter(|change| !old.free.holds(change.token)).peekable();
    let mut respelled = receipt.respelled.iter().filter(|change| !old.free.holds(change.first)).peekable();
    let mut moved = receipt.moved.iter().peekable();
    let left = Extents::of(receipt.moved.iter().map(|run| (run.first, run.end)).collect());
    let mut index = 0;
    loop {
        let mut rank = 0;
        loop {
            if let Some(run) = moved.next_if(|run| run.to <= index && run.rank <= rank) {
                matcher.arrive(run)?;
            } else if let Some(change) = added.next_if(|change| change.token <= index) {
                matcher.add(change, index)?;
                rank += 1;
            } else {
                break;
            }
        }
        let behind = new.free.behind(matcher.at);
        matcher.matching.complete &= behind == matcher.at;
        matcher.at = behind;
        if index >= old.count() {
            break;
        }
        if old.free.holds(index) {
            index = old.free.behind(index);
            matcher.matching.complete = false;
        } else if left.holds(index) {
            index += 1;
        } else if let Some(change) = removed.next_if(|change| change.token == index) {
            index = matcher.remove(change)?;
        } else if let Some(change) = respelled.next_if(|change| change.first == index) {
            index = matcher.respell(change)?;
        } else {
            matcher.pair(index)?;
            index += 1;
        }
    }
    if let Some(run) = moved.next() {
        return Err(Refusal::at(old.offset(run.first), Difference::Receipt { text: shortened(old.text(run.first)) }));
    }
    if let Some(change) = respelled.next() {
        return Err(Refusal::at(change.offset, Difference::Receipt { text: shortened(&change.old) }));
    }
    if let Some(change) = removed.next().or(added.next()) {
        return Err(Refusal::at(change.offset, Difference::Receipt { text: shortened(&change.text) }));
    }
    if matcher.at < new.count() {
        let reason = Difference::Token { old: String::new(), new: shortened(new.text(matcher.at)) };
        return Err(Refusal::at(old.code.source.span().end, reason));
    }
    Ok(matcher.matching)
}

struct Matcher<'s, 'a> {
    old: &'s Side<'a>,
    new: &'s Side<'a>,
    contract: Contract,
    matching: Matching,
    /// The next token of the new text.
    at: u32,
    /// Whether the line of the last token of the old text that found its partner is that of a directive.
    in_directive: bool,
}

impl Matcher<'_, '_> {
    /// Passes over what the receipt says was put in, which may be read as several tokens.
    fn add(&mut self, change: &TokenChange, index: u32) -> Result<(), Refusal> {
        let Some(behind) = self.new.behind(self.at, &change.text) else {
            let new = shortened(self.new.text(self.at));
            let reason = Difference::Token { old: shortened(&change.text), new };
            return Err(Refusal::at(self.old.offset(index), reason));
        };
        self.at = behind;
        self.matching.complete = false;
        Ok(())
    }

    /// Pairs what the receipt says stands elsewhere.
    fn arrive(&mut self, run: &Moved) -> Result<(), Refusal> {
        self.matching.complete = false;
        (run.first..run.end).try_for_each(|token| self.pair(token))
    }

    /// Passes over what the receipt says was taken out; gives the token behind it.
    fn remove(&mut self, change: &TokenChange) -> Result<u32, Refusal> {
        let Some(behind) = self.old.behind(change.token, &change.text) else {
            return Err(Refusal::at(change.offset, Difference::Receipt { text: shortened(&change.text) }));
        };
        self.matching.complete = false;
        Ok(behind)
    }

    /// Passes over what the receipt says is written otherwise, if it says the same; gives the token behind it.
    fn respell(&mut self, change: &Respelled) -> Result<u32, Refusal> {
        let new_end = self.at + change.count;
        if change.end <= change.first || change.end > self.old.count() || new_end > self.new.count() {
            return Err(Refusal::at(change.offset, Difference::Receipt { text: shortened(&change.old) }));
        }
        if !says_the_same((self.old.code, change.first..change.end), (self.new.code, self.at..new_end)) {
            let (old, new) = (shortened(self.old.text(change.first)), shortened(self.new.text(self.at)));
            return Err(Refusal::at(change.offset, Difference::Spelling { old, new }));
        }
        if (change.end - change.first, change.count) == (1, 1) {
            self.pair_as(change.first, true)?;
        } else {
            (self.at, self.matching.complete) = (new_end, false);
        }
        Ok(change.end)
    }

    fn pair(&mut self, index: u32) -> Result<(), Refusal> {
        self.pair_as(index, false)
    }

    /// Pairs a token that is the same, or is known to say the same.
    fn pair_as(&mut self, index: u32, respelled: bool) -> Result<(), Refusal> {
        let (old, new) = (self.old.text(index), self.new.text(self.at));
        let tree = self.old.code.tree;
        let same = respelled
            || old == new
            || self.moves(index) && lines_alike(old, new)
            || self.old.hosts.holds(index) && self.new.hosts.holds(self.at);
        if !same {
            let reason = Difference::Token { old: shortened(old), new: shortened(new) };
            return Err(Refusal::at(self.old.offset(index), reason));
        }
        let taken = self.matching.old.get(index as usize).is_none_or(|partner| *partner != NONE);
        if taken || self.at >= self.new.count() {
            let reason = Difference::Token { old: shortened(old), new: shortened(new) };
            return Err(Refusal::at(self.old.offset(index), reason));
        }
        let neighbours = index > 0 && self.at > 0 && self.matching.old[index as usize - 1] == self.at - 1;
        if neighbours
            && tree.is_joined(self.old.code.source.text(), index)
            && !self.new.code.tree.gap_span(self.at).is_empty()
        {
            let joined = self.old.text(index - 1).to_owned() + old;
            return Err(Refusal::at(tree.gap_span(index).end, Difference::Parted { joined }));
        }
        self.same_line(index, neighbours)?;
        if neighbours {
            self.same_touch(index)?;
        }
        self.matching.old[index as usize] = self.at;
        self.matching.new[self.at as usize] = index;
        self.at += 1;
        Ok(())
    }

    /// A directive begins a line, and the line that it begins ends where it did.
    fn same_line(&mut self, index: u32, neighbours: bool) -> Result<(), Refusal> {
        let mark = self.old.code.tree.language().spec().line_directive;
        if mark.is_empty() {
            return Ok(());
        }
        let directive = self.old.text(index).starts_with(mark);
        let [was, is] = [self.old.leads_line(index), self.new.leads_line(self.at)];
        let parted = self.in_directive && neighbours && was != is;
        if parted || directive && was && !is {
            let [left, right] = [index.saturating_sub(1), index].map(|token| shortened(self.old.text(token)));
            let at = self.old.code.tree.gap_span(index).end;
            return Err(Refusal::at(at, Difference::White { left, right }));
        }
        self.in_directive = directive || self.in_directive && !was;
        Ok(())
    }

    /// Where white space between two tokens is meaning, it is there if it was. Beside text, whether it holds a line break is meaning, too.
    fn same_touch(&self, index: u32) -> Result<(), Refusal> {
        let tree = self.old.code.tree;
        let (was, is) = (self.old.white(index), self.new.white(self.at));
        let prose = [index - 1, index].iter().any(|token| self.old.is_prose(*token));
        let same = match prose {
            true => (was.is_empty(), was.contains('\n')) == (is.is_empty(), is.contains('\n')),
            false => was.is_empty() == is.is_empty() || self.old.is_loose(index - 1, index),
        };
        if same || !prose && tree.language().spec().loose.is_empty() {
            return Ok(());
        }
        let [left, right] = [index - 1, index].map(|token| shortened(self.old.text(token)));
        Err(Refusal::at(tree.gap_span(index).end, Difference::White { left, right }))
    }

    /// Whether the lines of a token may begin elsewhere.
    fn moves(&self, index: u32) -> bool {
        let tree = self.old.code.tree;
        let prose = || tree.tokens()
            .get(index as usize)
            .is_some_and(|token| tree.language().is_prose(tree.node(token.node).kind));
        self.contract.comments.reindented && (tree.is_comment(index) || prose())
    }
}

/// Whether two texts have the same lines, but for the white space around them and their ends.
pub(super) fn lines_alike(old: &str, new: &str) -> bool {
    old.lines().map(str::trim).eq(new.lines().map(str::trim))
}
