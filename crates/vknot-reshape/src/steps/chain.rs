//! Steps one after the other: a proven result is the next one's document, and the whole is proven once more against the original.

use std::collections::HashMap;

use vknot_syntax::{Source, Span, Token, Tree};

use crate::editing;
use crate::receipt::{Receipt, Respelled, TokenChange};
use crate::reshape::Reshape;
use super::contract::Contract;
use super::document::Document;
use super::prove::{prove, Proven};
use super::refusal::Refusal;

/// A run of steps over one document.
#[derive(Debug)]
pub struct Chain {
    original: Document,
    current: Document,
    reshape: Reshape,
    contract: Option<Contract>,
}

impl Chain {
    /// A chain without steps.
    pub fn new(document: Document) -> Chain {
        Chain { current: document.clone(), original: document, reshape: Reshape::default(), contract: None }
    }

    /// The document as the steps so far left it.
    pub fn document(&self) -> &Document {
        &self.current
    }

    /// Adds what was proven from the document as it is by now.
    pub fn accept(&mut self, proven: Proven) {
        self.add(&proven);
        self.current = proven.into_document();
    }

    fn add(&mut self, proven: &Proven) {
        let next = proven.reshape();
        let receipt = self.receipt_of(&next.receipt);
        self.reshape = Reshape {
            edits: self.reshape.edits.then(self.original.source().text(), &next.edits),
            receipt: joined(std::mem::take(&mut self.reshape.receipt), receipt, &next.receipt.added),
            bom: next.bom.or(self.reshape.bom),
        };
        let contract = proven.contract();
        self.contract = Some(self.contract.map_or(contract, |before| before.and(contract)));
    }

    /// A receipt in terms of the original: each token at the place where it, or what stands behind it, stood there.
    fn receipt_of(&self, receipt: &Receipt) -> Receipt {
        let (source, tree) = (self.original.source(), self.original.tree());
        let text = source.text().len() as u32;
        let back = |offset: u32| self.reshape.edits.origin(offset).min(text);
        let origins = Origins::of(&self.reshape.receipt, tree.tokens().len(), self.current.tree().tokens().len());
        let places = if origins.is_some() { Vec::new() } else { self.places() };
        let token_of = |token: u32| match &origins {
            Some(origins) => origins.of_token(token),
            None => places.get(token as usize).copied().unwrap_or(tree.tokens().len() as u32),
        };
        let start_of = |token: u32| tree.tokens().get(token as usize).map_or(text, |token| token.start);
        let change = |change: &TokenChange| {
            TokenChange { text: change.text.clone(), offset: back(change.offset), token: token_of(change.token) }
        };
        let respelled = |change: &Respelled| {
            let (first, end) = (token_of(change.first), token_of(change.end));
            let last = tree.tokens().get(end as usize - usize::from(end > first)).map_or(text, |token| token.end);
            let offset = start_of(first);
            let old = source.slice(Span::new(offset, last.max(offset))).to_owned();
            Respelled { first, end, offset, old, ..change.clone() }
        };
        Receipt {
            added: receipt.added.iter().map(change).collect(),
            removed: receipt.removed.iter().map(change).collect(),
            respelled: receipt.respelled.iter().map(respelled).collect(),
            imported: receipt.imported.iter().map(change).collect(),
            ..receipt.clone()
        }
    }

    /// Which token of the original each token of the text by now is, told by the edits: one inside of what was written anew is the one of
    /// its text there that stands in the same place among those, else what stands behind.
    fn places(&self) -> Vec<u32> {
        let (source, tree) = (self.original.source(), self.original.tree());
        let (now, tokens) = (self.current.source(), self.current.tree().tokens());
        let mut edits = self.reshape.edits.iter().map(|(span, _)| span).zip(self.reshape.edits.new_spans()).peekable();
        let (mut grown, mut seen, mut olds) = (0i64, HashMap::new(), None);
        let place = |token: &Token| {
            while let Some((old, new)) = edits.next_if(|(_, new)| new.end <= token.start) {
                grown += i64::from(new.len()) - i64::from(old.len());
                (seen, olds) = (HashMap::new(), None);
            }
            match edits.peek().filter(|(_, new)| new.start <= token.start) {
                None => tree.token_from((i64::from(token.start) - grown) as u32),
                Some((old, _)) => {
                    let text = now.slice(token.span());
                    let olds = olds.get_or_insert_with(|| places_of_texts(source, tree, *old));
                    let count = seen.entry(text).or_insert(0usize);
                    *count += 1;
                    let same = olds.get(text).and_then(|places| places.get(*count - 1));
                    same.copied().unwrap_or_else(|| tree.token_from(old.end))
                }
            }
        };
        tokens.iter().map(place).collect()
    }

    /// What the steps did to the original, not proven as a whole.
    pub(super) fn into_reshape(self) -> Reshape {
        self.reshape
    }

    /// Proves edits by structure against the original: each has passed by its own contract, together they must not leave it less valid.
    ///
    /// # Errors
    /// When they do.
    pub fn finish_edits(self) -> Result<Proven, Refusal> {
        let placed = self.reshape.receipt.placed;
        let mut reshape = editing::accounted(self.original.code(), self.reshape.edits);
        reshape.receipt.placed = placed;
        prove(&self.original, reshape, Contract::EDIT)
    }

    /// Proves the whole against the original.
    ///
    /// # Errors
    /// When the steps together did what none of them may do.
    pub fn finish(self) -> Result<Proven, Refusal> {
        let contract = self.contract.unwrap_or(Contract::INDENTATION);
        prove(&self.original, self.reshape, contract)
    }
}

/// The tokens of a part of a text, by what they say.
fn places_of_texts<'t>(source: &'t Source, tree: &Tree, part: Span) -> HashMap<&'t str, Vec<u32>> {
    let (first, end) = (tree.token_from(part.start), tree.token_from(part.end));
    let mut places: HashMap<&str, Vec<u32>> = HashMap::new();
    for (at, token) in (first..end).zip(tree.tokens().iter().skip(first as usize)) {
        places.entry(source.slice(token.span())).or_default().push(at);
    }
    places
}

/// A place in the original where tokens came in, went or are written otherwise.
struct Event<'r> {
    at: u32,
    /// How many tokens went there, and how many came.
    gone: u32,
    came: u32,
    /// What came in, where that is one token and nothing else.
    added: Option<&'r TokenChange>,
}

/// What happened to tokens, in the order of the original; what came in front of a token before what became of it.
fn events(receipt: &Receipt) -> Vec<Event<'_>> {
    let added =
        receipt.added.iter().map(|change| Event { at: change.token, gone: 0, came: 1, added: Some(change) });
    let removed = receipt.removed.iter().map(|change| Event { at: change.token, gone: 1, came: 0, added: None });
    let respelled = receipt.respelled.iter().map(|change| Event {
        at: change.first,
        gone: change.end - change.first,
        came: change.count,
        added: None,
    });
    let mut events: Vec<Event<'_>> = added.chain(removed).chain(respelled).collect();
    events.sort_by_key(|event| (event.at, event.gone, event.came));
    events
}

/// The tokens that came in, each with its place in the text that it came into.
fn places_of_added(receipt: &Receipt) -> Vec<(TokenChange, u32)> {
    let mut grown = 0i64;
    let mut places = Vec::with_capacity(receipt.added.len());
    for Event { at, gone, came, added } in events(receipt) {
        let place = (i64::from(at) + grown) as u32;
        places.extend(added.cloned().map(|change| (change, place)));
        grown += i64::from(came) - i64::from(gone);
    }
    places
}

/// Which token of the original each token of a later text is, told by what is on the receipt.
struct Origins {
    /// From which token of the later text on which token of the original goes with it, and those behind both with each other.
    runs: Vec<(u32, u32)>,
}

impl Origins {
    /// `None` where the receipt does not tell: items moved, or several tokens came in or went at once.
    fn of(receipt: &Receipt, original: usize, later: usize) -> Option<Origins> {
        let mut runs = vec![(0, 0)];
        let mut grown = 0i64;
        for Event { at, gone, came, .. } in events(receipt) {
            let start = (i64::from(at) + grown) as u32;
            grown += i64::from(came) - i64::from(gone);
            if gone != came {
                runs.push((start, at));
                runs.push((start + came, at + gone));
            }
        }
        (original as i64 + grown == later as i64 && receipt.moved.is_empty()).then_some(Origins { runs })
    }

    fn of_token(&self, token: u32) -> u32 {
        let behind = self.runs.partition_point(|(start, _)| *start <= token);
        let (start, at) = self.runs.get(behind.saturating_sub(1)).copied().unwrap_or_default();
        at + (token - start)
    }
}

/// Two receipts of one original as one; what one step put in and another took out again is in neither. What the second put in is given by
/// its places in the text in between, too.
fn joined(mut first: Receipt, next: Receipt, places: &[TokenChange]) -> Receipt {
    let mut own = places_of_added(&first);
    for removed in next.removed {
        let from = own.partition_point(|(added, _)| added.token < removed.token);
        let near = own.iter().skip(from).take_while(|(added, _)| added.token == removed.token);
        match near.zip(from..).find(|((added, _), _)| added.text == removed.text) {
            Some((_, at)) => drop(own.remove(at)),
            None => first.removed.push(removed),
        }
    }
    // In front of one token of the original they go in the order in which they stand by now.
    let own = own.into_iter().map(|(change, at)| (at, 1, change));
    let new = next.added.into_iter().zip(places).map(|(change, place)| (place.token, 0, change));
    let mut added: Vec<(u32, u32, TokenChange)> = own.chain(new).collect();
    added.sort_by_key(|(at, rank, change)| (change.token, *at, *rank));
    first.added = added.into_iter().map(|(.., change)| change).collect();
    first.removed.sort_by_key(|change| change.token);
    // What is written otherwise once more is so as a whole.
    let again = |own: &Respelled| {
        let behind = next.respelled.partition_point(|next| next.first <= own.first);
        behind.checked_sub(1).and_then(|at| next.respelled.get(at)).is_some_and(|next| own.end <= next.end)
    };
    first.respelled.retain(|own| !again(own));
    first.respelled.extend(next.respelled);
    first.respelled.sort_by_key(|change| change.first);
    first.imported.extend(next.imported);
    first.imports.extend(next.imports);
    first.pieces.extend(next.pieces);
    first.left_alone.extend(next.left_alone);
    first.notes.extend(next.notes);
    first.indentation = next.indentation.or(first.indentation);
    first.placed = next.placed;
    first.manner.extend(next.manner);
    first
}
