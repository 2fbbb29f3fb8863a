//! Steps one after the other: a proven result is the next one's document, and the whole is proven once more against the original.

use crate::editing;
use crate::receipt::{Receipt, TokenChange};
use crate::reshape::Reshape;
use super::contract::Contract;
use super::document::Document;
use super::prove::{prove, Proven};
use super::step::{Request, Step, StepError};

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

    /// Adds a step. Parts that are meant are those of the document as it is by now.
    ///
    /// # Errors
    /// When the step cannot be done; the chain is then as it was.
    pub fn step(&mut self, step: &Step, request: &Request<'_>) -> Result<(), StepError> {
        let proven = step.run(&self.current, request)?;
        self.accept(proven);
        Ok(())
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
            receipt: joined(std::mem::take(&mut self.reshape.receipt), receipt),
            bom: next.bom.or(self.reshape.bom),
        };
        let contract = proven.contract();
        self.contract = Some(self.contract.map_or(contract, |before| before.and(contract)));
    }

    /// A receipt in terms of the original: each token at the place where it, or what stands behind it, stood there.
    fn receipt_of(&self, receipt: &Receipt) -> Receipt {
        let text = self.original.source().text().len() as u32;
        let back = |offset: u32| self.reshape.edits.origin(offset).min(text);
        let tree = self.original.tree();
        let change = |change: &TokenChange| {
            let offset = back(change.offset);
            let token = self.current.tree().tokens().get(change.token as usize).map_or(text, |token| back(token.start));
            TokenChange { text: change.text.clone(), offset, token: tree.token_from(token) }
        };
        Receipt {
            added: receipt.added.iter().map(change).collect(),
            removed: receipt.removed.iter().map(change).collect(),
            imported: receipt.imported.iter().map(change).collect(),
            ..receipt.clone()
        }
    }

    /// Proves edits by structure against the original: each has passed by its own contract, together they must not leave it less valid.
    ///
    /// # Errors
    /// When they do.
    pub fn finish_edits(self) -> Result<Proven, StepError> {
        let placed = self.reshape.receipt.placed;
        let mut reshape = editing::accounted(self.original.code(), self.reshape.edits);
        reshape.receipt.placed = placed;
        Ok(prove(&self.original, reshape, Contract::EDIT)?)
    }

    /// Proves the whole against the original.
    ///
    /// # Errors
    /// When the steps together did what none of them may do.
    pub fn finish(self) -> Result<Proven, StepError> {
        let contract = self.contract.unwrap_or(Contract::INDENTATION);
        Ok(prove(&self.original, self.reshape, contract)?)
    }
}

/// Two receipts of one original as one; what one step put in and another took out again is in neither.
fn joined(mut first: Receipt, next: Receipt) -> Receipt {
    for removed in next.removed {
        let own = first.added.iter().position(|added| added.token == removed.token && added.text == removed.text);
        match own {
            Some(own) => drop(first.added.remove(own)),
            None => first.removed.push(removed),
        }
    }
    first.added.extend(next.added);
    first.added.sort_by_key(|change| change.token);
    first.removed.sort_by_key(|change| change.token);
    first.imported.extend(next.imported);
    first.imports.extend(next.imports);
    first.left_alone.extend(next.left_alone);
    first.notes.extend(next.notes);
    first.indentation = next.indentation.or(first.indentation);
    first.placed = next.placed;
    first.manner.extend(next.manner);
    first
}
