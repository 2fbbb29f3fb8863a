//! Whether what an edit did to a file is what was asked for: the tokens that came and went are those it may put in and take out, what moved
//! is whole where it stands now, and everything else is what it was.

use std::collections::HashMap;

use vknot_syntax::{Kind, Node, NodeId, Role, Span};

use crate::receipt::{Moved, Receipt};
use crate::spec::Code;
use crate::spec::laws::breaches;
use super::matching::{Matching, NONE};
use super::refusal::{Difference, Refusal, shortened};

/// Whether no token came or went that what was asked for does not allow.
pub(super) fn allowed(old: Code<'_>, receipt: &Receipt) -> Result<(), Refusal> {
    let Some(allowance) = &receipt.allowance else { return Err(Refusal::at(0, Difference::UnsoundEdits)) };
    if allowance.free {
        return Ok(());
    }
    let gone = |text: &str| Difference::Token { old: shortened(text), new: String::new() };
    let (mut prose, going) = (String::new(), allowance.going());
    for change in &receipt.removed {
        let end = change.offset + change.text.len() as u32;
        let tokens = old.tree.tokens().get(change.token as usize..).unwrap_or_default();
        let lost = tokens.iter().take_while(|token| token.end <= end).find(|token| {
            let text = old.source.slice(token.span());
            let goes = going.covers(token.span()) || allowance.essence(text).is_empty();
            // Text may come together with the text beside it, or part from it.
            let is_prose = old.tree.language().is_prose(old.tree.node(token.node).kind);
            if !goes && is_prose {
                prose.push_str(&allowance.essence(text));
            }
            !goes && !is_prose
        });
        if let Some(lost) = lost {
            return Err(Refusal::at(lost.start, gone(old.source.slice(lost.span()))));
        }
    }
    let Some(texts) = &allowance.texts else { return Ok(()) };
    let came: String = receipt.added.iter().map(|change| allowance.essence(&change.text)).collect();
    let may_come: String = texts.iter().map(|text| allowance.essence(text)).collect();
    let letters = |text: &str| {
        let mut letters: Vec<char> = text.chars().collect();
        letters.sort_unstable();
        letters
    };
    if came == may_come || !prose.is_empty() && letters(&came) == letters(&(may_come + &prose)) {
        return Ok(());
    }
    let differs = receipt.added.iter().find(|change| !allowance.essence(&change.text).is_empty());
    let reason = Difference::Token { old: shortened(&texts.concat()), new: shortened(&came) };
    Err(Refusal::at(differs.map_or(0, |change| change.offset), reason))
}

/// What tells a node: its kind, the moved run that it is in (0 where it is in none), and the first and last of its tokens that did not
/// come, go or move.
type Mark = (Kind, u32, u32, u32);

/// For each token of one text the token of the old text that it is, and the run it moved in.
struct Standing {
    own: Vec<u32>,
    run: Vec<u32>,
    /// The next token that stays, from each on, and the last one before each.
    next: Vec<u32>,
    last: Vec<u32>,
    /// The same of tokens that stay or moved.
    known: Vec<u32>,
    known_before: Vec<u32>,
}

impl Standing {
    fn of(own: Vec<u32>, moved: &[Moved]) -> Standing {
        let count = own.len();
        let mut runs: HashMap<u32, u32> = HashMap::new();
        for (number, run) in moved.iter().enumerate() {
            runs.extend((run.first..run.end).map(|token| (token, number as u32 + 1)));
        }
        let run: Vec<u32> = own.iter().map(|own| runs.get(own).copied().unwrap_or(0)).collect();
        let nearest = |counts: &dyn Fn(usize) -> bool| {
            let (mut next, mut last) = (vec![NONE; count + 1], vec![NONE; count + 1]);
            for at in (0..count).rev() {
                next[at] = if counts(at) { at as u32 } else { next[at + 1] };
            }
            for at in 0..count {
                last[at + 1] = if counts(at) { at as u32 } else { last[at] };
            }
            (next, last)
        };
        let (next, last) = nearest(&|at| own[at] != NONE && run[at] == 0);
        let (known, known_before) = nearest(&|at| own[at] != NONE);
        Standing { own, run, next, last, known, known_before }
    }

    /// What tells a node; `None` where nothing of it stays.
    fn mark(&self, node: &Node) -> Option<Mark> {
        let (first, end) = (node.first_token as usize, node.token_end as usize);
        let own = |at: usize| self.own.get(at).copied().unwrap_or(NONE);
        // Runs are whole in both texts: what begins and ends in one is in it.
        let (head, tail) = (*self.known.get(first)? as usize, *self.known_before.get(end)? as usize);
        let run = self.run.get(head).copied().unwrap_or(0);
        if run != 0 && head < end && self.run.get(tail) == Some(&run) {
            return Some((node.kind, run, own(head), own(tail)));
        }
        let (next, last) = (*self.next.get(first)?, *self.last.get(end)?);
        let inside = next != NONE && (next as usize) < end;
        inside.then(|| (node.kind, 0, own(next as usize), own(last as usize)))
    }

    /// Whether a node has both its ends still, so that it must be there.
    fn is_whole(&self, node: &Node) -> bool {
        let stays = |at: u32| {
            let at = at as usize;
            self.own.get(at).is_some_and(|own| *own != NONE)
        };
        let run = |at: u32| self.run.get(at as usize).copied().unwrap_or(0);
        let last = node.token_end.saturating_sub(1);
        stays(node.first_token) && stays(last) && run(node.first_token) == run(last)
    }
}

/// Whether every node of the old text that has its ends still is in the new one, around the same tokens.
pub(super) fn same_pieces_of(
    old: Code<'_>,
    new: Code<'_>,
    matching: &Matching,
    receipt: &Receipt,
) -> Result<(), Refusal> {
    let moved = &receipt.moved;
    let remade = |node: &Node| {
        receipt.allowance.as_ref().is_some_and(|allowance| allowance.remade.contains(&node.span()))
    };
    let stays = matching.old.iter().enumerate().map(|(at, partner)| if *partner == NONE { NONE } else { at as u32 });
    let old_standing = Standing::of(stays.collect(), moved);
    let new_standing = Standing::of(matching.new.clone(), moved);
    let mut there: HashMap<Mark, u32> = HashMap::new();
    for node in new.tree.nodes().iter().filter(|node| !node.is_empty()) {
        if let Some(mark) = new_standing.mark(node) {
            *there.entry(mark).or_default() += 1;
        }
    }
    let nodes = old.tree.nodes();
    let counts = |node: &Node| {
        let comment = node.is_leaf() && old.tree.language().role(node.kind) == Role::Comment;
        !comment && !node.is_empty()
    };
    // Those that have both ends still come first: what lost one may be the same by what is left.
    let mut lost = vec![false; nodes.len()];
    for whole in [true, false] {
        for (at, node) in nodes.iter().enumerate().skip(1).filter(|(_, node)| counts(node)) {
            if old_standing.is_whole(node) == whole {
                let mark = old_standing.mark(node);
                let left = mark.and_then(|mark| there.get_mut(&mark)).filter(|left| **left > 0);
                lost[at] = left.is_none();
                left.into_iter().for_each(|left| *left -= 1);
            }
        }
    }
    for (at, node) in nodes.iter().enumerate().skip(1).filter(|(at, node)| lost[*at] && counts(node)) {
        let holder_lost = lost.get(node.parent.0 as usize).copied().unwrap_or(false);
        let bare = !old.tree.children(NodeId(at as u32)).any(|child| {
            let child = old.tree.node(child);
            child.is_leaf() && !old.tree.language().is_named(child.kind)
        });
        let wraps = node.is_leaf() || bare && (holder_lost || covers_run(node, moved));
        if old_standing.is_whole(node) && !wraps && !remade(node) {
            return Err(differ(old, new, node, matching));
        }
    }
    Ok(())
}

/// Whether a node is exactly a run that moved: what it is may depend on what holds it.
fn covers_run(node: &Node, moved: &[Moved]) -> bool {
    moved.iter().any(|run| (run.first, run.end) == (node.first_token, node.token_end))
}

fn differ(old: Code<'_>, new: Code<'_>, node: &Node, matching: &Matching) -> Refusal {
    let token = old.tree.tokens().get(node.first_token as usize);
    let partner = matching.old.get(node.first_token as usize).copied().unwrap_or(NONE);
    let is = new.tree.tokens().get(partner as usize).map(|token| new.tree.kind_name(new.tree.node(token.node).parent));
    let reason = Difference::Structure {
        token: token.map_or(String::new(), |token| shortened(old.source.slice(token.span()))),
        old: old.tree.language().kind_name(node.kind).to_owned(),
        new: is.unwrap_or("").to_owned(),
    };
    Refusal::at(node.start, reason)
}

/// Whether the result breaks none of the laws of its language more often than the original.
pub(super) fn no_new_breach(old: Code<'_>, new: Code<'_>) -> Result<(), Refusal> {
    let found = breaches(new);
    if found.iter().all(Vec::is_empty) {
        return Ok(());
    }
    let before = breaches(old);
    let broken = found.iter().zip(&before).find(|(now, before)| now.len() > before.len());
    let Some(offset) = broken.and_then(|(now, _)| now.first().copied()) else { return Ok(()) };
    let line = new.source.line(offset);
    let text = shortened(new.source.lines().text(new.source.text(), line - 1).trim());
    Err(Refusal::at(0, Difference::Law { text, line }))
}

/// Whether what an edit was about is one node, or whole nodes side by side, where it stands now.
pub(super) fn placed_whole(new: Code<'_>, receipt: &Receipt) -> Result<(), Refusal> {
    let Some(allowance) = &receipt.allowance else { return Ok(()) };
    let tokens = |span: &Span| new.tree.token_from(span.start)..new.tree.token_from(span.end);
    let code = |span: &&Span| tokens(span).any(|token| !new.tree.is_comment(token)) || tokens(span).is_empty();
    if let Some(span) = receipt.placed.iter().filter(|_| allowance.comments).find(code) {
        return Err(Refusal::at(0, Difference::Cut { text: shortened(new.source.slice(*span)) }));
    }
    if !allowance.whole {
        return Ok(());
    }
    let cut = receipt.placed.iter().find(|span| !is_whole(new, **span));
    match cut {
        None => Ok(()),
        Some(span) => {
            let text = shortened(new.source.slice(*span));
            Err(Refusal::at(0, Difference::Cut { text }))
        }
    }
}

fn is_whole(new: Code<'_>, span: Span) -> bool {
    let tree = new.tree;
    let (first, behind) = (tree.token_from(span.start), tree.token_from(span.end));
    let holder = tree.covering(span);
    let node = tree.node(holder);
    if first >= behind || node.span() == span || node.is_leaf() {
        return true;
    }
    tree.children(holder).all(|child| {
        let own = tree.node(child);
        own.is_empty()
            || own.token_end <= first
            || own.first_token >= behind
            || own.first_token >= first && own.token_end <= behind
    })
}
