//! The proof: a reshape's result is read again and held against the original before anything is written.

use vknot_syntax::{NodeId, Source, Tree};

use crate::edits::Edits;
use crate::receipt::TokenChange;
use crate::reshape::Reshape;

/// A result that passed.
#[derive(Debug)]
pub struct Proven {
    /// The new text, without byte-order mark.
    pub source: Source,
    /// Its tree.
    pub tree: Tree,
}

/// Why a result did not pass. The file must stay as it is.
#[derive(Clone, Debug, PartialEq, Eq, thiserror::Error)]
#[error("the result would not mean the same: {reason}; nothing was changed, please report this")]
pub struct Refusal {
    /// Where in the old text, in bytes.
    pub offset: u32,
    /// What differs there.
    pub reason: Difference,
}

/// The first difference between a text and its reshaped self.
#[derive(Clone, Debug, PartialEq, Eq, thiserror::Error)]
pub enum Difference {
    /// A token is not what it was.
    #[error("`{old}` became `{new}`")]
    Token {
        /// As it was; empty for the end of the file.
        old: String,
        /// As it would be; empty for the end of the file.
        new: String,
    },
    /// The pieces are the same and the structure is not.
    #[error("`{token}` is part of `{old}` and would become part of `{new}`")]
    Structure {
        /// The token at which the structures part.
        token: String,
        /// The kind of node there.
        old: String,
        /// The kind it would be.
        new: String,
    },
    /// There is more that cannot be read.
    #[error("a syntax error would come up at line {line} of the result")]
    SyntaxError {
        /// Line of the result, from 1.
        line: u32,
    },
    /// Two tokens that a compiler reads as one were parted.
    #[error("`{joined}` was parted")]
    Parted {
        /// The two, as they were.
        joined: String,
    },
    /// The edits overlap or leave the text.
    #[error("the edits overlap")]
    UnsoundEdits,
    /// An import was lost or came in without being on the receipt.
    #[error("the import `{import}` was lost or added")]
    Import {
        /// The import.
        import: String,
    },
}

/// Proves a layout: the same tokens in the same order apart from those on the receipt, in the same structure.
///
/// # Errors
/// With the first place at which the result differs.
pub fn prove_layout(source: &Source, tree: &Tree, reshape: &Reshape) -> Result<Proven, Refusal> {
    let proven = read_result(source, tree, &reshape.edits)?;
    let added = &reshape.receipt.added;
    let inserted = same_tokens(source, tree, &proven, added)?;
    same_structure(source, tree, &proven, &inserted)?;
    Ok(proven)
}

/// Applies edits and reads the result.
///
/// # Errors
/// When the edits are unsound or the result has more errors than the original.
pub(crate) fn read_result(source: &Source, tree: &Tree, edits: &Edits) -> Result<Proven, Refusal> {
    if !edits.are_sound(source.span().end) {
        return Err(Refusal { offset: 0, reason: Difference::UnsoundEdits });
    }
    let new = Source::from_text(source.path(), edits.apply(source.text()));
    let new_tree = Tree::read(&new, tree.language());
    if new_tree.has_error() || new_tree.gave_up() {
        let (was, is) = (tree.errors().count(), new_tree.errors().count());
        if is > was || new_tree.gave_up() != tree.gave_up() {
            let first = new_tree.errors().next().map_or(0, |id| new_tree.node(id).start);
            let reason = Difference::SyntaxError { line: new.line(first) };
            let offset = tree.tokens().get(new_tree.token_from(first) as usize).map_or(0, |token| token.start);
            return Err(Refusal { offset, reason });
        }
    }
    Ok(Proven { source: new, tree: new_tree })
}

/// Compares the tokens; gives those of the new tree that were put in, in order.
fn same_tokens(source: &Source, tree: &Tree, new: &Proven, added: &[TokenChange]) -> Result<Vec<u32>, Refusal> {
    let mut wanted = added.iter().peekable();
    let mut inserted = Vec::with_capacity(added.len());
    let (old_count, new_count) = (tree.tokens().len() as u32, new.tree.tokens().len() as u32);
    let mut at = 0u32;
    for index in 0..=old_count {
        while let Some(change) = wanted.next_if(|change| change.token == index) {
            expect(source, tree, new, (index, &change.text), at, false)?;
            inserted.push(at);
            at += 1;
        }
        if index < old_count {
            let text = token_text(source, tree, index);
            expect(source, tree, new, (index, text), at, tree.is_comment(index))?;
            if tree.is_joined(source.text(), index) && !new.tree.gap_span(at).is_empty() {
                let pair = [index - 1, index].map(|token| token_text(source, tree, token));
                let reason = Difference::Parted { joined: pair.concat() };
                return Err(Refusal { offset: tree.gap_span(index).end, reason });
            }
            at += 1;
        }
    }
    if at < new_count {
        let reason = Difference::Token { old: String::new(), new: token_text(&new.source, &new.tree, at).to_owned() };
        return Err(Refusal { offset: source.span().end, reason });
    }
    Ok(inserted)
}

fn expect(
    source: &Source,
    tree: &Tree,
    new: &Proven,
    (index, text): (u32, &str),
    at: u32,
    comment: bool,
) -> Result<(), Refusal> {
    let found = token_text(&new.source, &new.tree, at);
    if found == text || comment && same_comment(text, found) {
        return Ok(());
    }
    let offset = tree.tokens().get(index as usize).map_or(source.span().end, |token| token.start);
    Err(Refusal { offset, reason: Difference::Token { old: shortened(text), new: shortened(found) } })
}

fn token_text<'s>(source: &'s Source, tree: &Tree, index: u32) -> &'s str {
    tree.tokens().get(index as usize).map_or("", |token| source.slice(token.span()))
}

fn shortened(text: &str) -> String {
    let line = text.lines().next().unwrap_or("");
    match line.char_indices().nth(60) {
        Some((end, _)) => format!("{}…", &line[..end]),
        None => line.to_owned(),
    }
}

/// Comments may have their lines moved and their line ends changed.
fn same_comment(old: &str, new: &str) -> bool {
    let lines = |text| str::lines(text).map(str::trim);
    lines(old).eq(lines(new))
}

/// Compares the kinds of all nodes in preorder, and the tokens each covers. Nodes that a put-in pair of brackets makes
/// are passed over.
fn same_structure(source: &Source, tree: &Tree, new: &Proven, inserted: &[u32]) -> Result<(), Refusal> {
    let put_in = |token: u32| inserted.binary_search(&token).is_ok();
    let made = |id: &u32| {
        let node = new.tree.node(NodeId(*id));
        !node.is_empty() && put_in(node.first_token) && put_in(node.token_end - 1)
    };
    // How many tokens were put in before one, so that both trees count alike.
    let shift = |token: u32| token - inserted.partition_point(|at| *at < token) as u32;
    let mut left = 0u32..tree.nodes().len() as u32;
    let mut right = (0..new.tree.nodes().len() as u32).filter(|id| inserted.is_empty() || !made(id));
    loop {
        let (a, b) = (left.next(), right.next());
        let same = match (a, b) {
            (None, None) => return Ok(()),
            (Some(a), Some(b)) => {
                let (a, b) = (tree.node(NodeId(a)), new.tree.node(NodeId(b)));
                // What is put in at the edge of a node may count as inside it, so only the beginning is compared then.
                a.kind == b.kind
                    && match inserted.is_empty() {
                        true => a.first_token == b.first_token && a.token_end == b.token_end,
                        false => a.first_token <= shift(b.first_token) + 1,
                    }
            }
            _ => false,
        };
        if !same {
            let name = |tree: &Tree, id: Option<u32>| id.map_or("", |id| tree.kind_name(NodeId(id))).to_owned();
            let at = a.map_or(tree.tokens().len() as u32, |id| tree.node(NodeId(id)).first_token);
            let offset = tree.tokens().get(at as usize).map_or(source.span().end, |token| token.start);
            let reason = Difference::Structure {
                token: shortened(token_text(source, tree, at)),
                old: name(tree, a),
                new: name(&new.tree, b),
            };
            return Err(Refusal { offset, reason });
        }
    }
}
