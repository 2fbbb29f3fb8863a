//! The proof: a reshape's result is read again and held against the original before anything is written.

use vknot_syntax::{Node, Source, Tree};

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
    let proven = read_again(source, tree, edits)?;
    let (new, new_tree) = (&proven.source, &proven.tree);
    if new_tree.has_error() || new_tree.gave_up() {
        let (was, is) = (tree.errors().count(), new_tree.errors().count());
        if is > was || new_tree.gave_up() != tree.gave_up() {
            let first = new_tree.errors().next().map_or(0, |id| new_tree.node(id).start);
            let reason = Difference::SyntaxError { line: new.line(first) };
            let offset = tree.tokens().get(new_tree.token_from(first) as usize).map_or(0, |token| token.start);
            return Err(Refusal { offset, reason });
        }
    }
    Ok(proven)
}

/// Reads the result afresh, whatever errors it has.
pub(crate) fn read_again(source: &Source, tree: &Tree, edits: &Edits) -> Result<Proven, Refusal> {
    if !edits.are_sound(source.span().end) {
        return Err(Refusal { offset: 0, reason: Difference::UnsoundEdits });
    }
    let source = Source::from_text(source.path(), edits.apply(source.text()));
    let tree = Tree::read(&source, tree.language());
    Ok(Proven { source, tree })
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

/// Compares all nodes in preorder: their kinds, what holds them, and the tokens they begin and end with. Nodes that a
/// put-in pair of brackets makes are passed over.
fn same_structure(source: &Source, tree: &Tree, new: &Proven, inserted: &[u32]) -> Result<(), Refusal> {
    if inserted.is_empty() {
        return same_nodes(source, tree, &new.tree);
    }
    let made = |node: &Node| {
        let put_in = |token: u32| inserted.binary_search(&token).is_ok();
        !node.is_empty() && put_in(node.first_token) && put_in(node.token_end - 1)
    };
    let old_nodes = tree.nodes();
    // For each new node the old one it stands for; for a made one the one that its holder stands for.
    let mut stands_for: Vec<u32> = Vec::with_capacity(new.tree.nodes().len());
    let mut at = 0u32;
    for node in new.tree.nodes() {
        let holder = stands_for.get(node.parent.0 as usize).copied().unwrap_or(0);
        if made(node) {
            stands_for.push(holder);
            continue;
        }
        let same = old_nodes.get(at as usize).is_some_and(|old| {
            old.kind == node.kind && (at == 0 || old.parent.0 == holder)
        });
        if !same {
            let name = new.tree.language().kind_name(node.kind).to_owned();
            return Err(structure_differs(source, tree, at, name));
        }
        stands_for.push(at);
        at += 1;
    }
    match (at as usize) < old_nodes.len() {
        true => Err(structure_differs(source, tree, at, String::new())),
        false => Ok(()),
    }
}

/// The same, where nothing was put in: node for node.
pub(crate) fn same_nodes(source: &Source, tree: &Tree, new_tree: &Tree) -> Result<(), Refusal> {
    let (old_nodes, new_nodes) = (tree.nodes(), new_tree.nodes());
    let same = |old: &Node, new: &Node| {
        (old.kind, old.parent, old.first_token, old.token_end) == (new.kind, new.parent, new.first_token, new.token_end)
    };
    let differs = old_nodes.iter().zip(new_nodes).position(|(old, new)| !same(old, new));
    let at = match differs {
        Some(at) => at,
        None if old_nodes.len() == new_nodes.len() => return Ok(()),
        None => old_nodes.len().min(new_nodes.len()),
    };
    let name = new_nodes.get(at).map_or("", |node| new_tree.language().kind_name(node.kind)).to_owned();
    Err(structure_differs(source, tree, at as u32, name))
}

fn structure_differs(source: &Source, tree: &Tree, at: u32, new: String) -> Refusal {
    let node = tree.nodes().get(at as usize);
    let token = node.map_or(tree.tokens().len() as u32, |node| node.first_token);
    let offset = tree.tokens().get(token as usize).map_or(source.span().end, |token| token.start);
    let old = node.map_or(String::new(), |node| tree.language().kind_name(node.kind).to_owned());
    Refusal { offset, reason: Difference::Structure { token: shortened(token_text(source, tree, token)), old, new } }
}

#[cfg(test)]
mod tests {
    use vknot_syntax::{Language, Span};

    use super::*;

    /// Proves edits given as what to find, and what to put there instead.
    fn prove(language: &str, text: &str, changes: &[(&str, &str)], added: &[(&str, u32)]) -> Result<String, Refusal> {
        let source = Source::from_text("gauge", text);
        let tree = Tree::read(&source, Language::named(language).unwrap());
        let mut reshape = Reshape::default();
        for (old, new) in changes {
            let start = text.find(old).unwrap() as u32;
            reshape.edits.push(Span::new(start, start + old.len() as u32), new);
        }
        let change = |(text, token): &(&str, u32)| TokenChange { text: (*text).to_owned(), offset: 0, token: *token };
        reshape.receipt.added = added.iter().map(change).collect();
        prove_layout(&source, &tree, &reshape).map(|proven| proven.source.text().to_owned())
    }

    fn refused(language: &str, text: &str, changes: &[(&str, &str)]) -> String {
        let refusal = prove(language, text, changes, &[]).unwrap_err();
        format!("{}: {}", refusal.offset, refusal.reason)
    }

    #[test]
    fn white_space_may_change() {
        assert_eq!(prove("json", "[1,2]", &[(",", ", ")], &[]).as_deref(), Ok("[1, 2]"));
    }

    #[test]
    fn a_dropped_token_is_caught() {
        assert_eq!(refused("java", "class A { int a, b; }", &[(", b", "")]), "15: `,` became `;`");
    }

    #[test]
    fn a_token_that_came_from_nowhere_is_caught() {
        assert_eq!(refused("json", "[1]", &[("1", "1, 2")]), "2: `]` became `,`");
    }

    #[test]
    fn a_comment_that_swallows_code_is_caught() {
        let text = "int a; // low\nint b;";
        assert_eq!(refused("java", text, &[("low\n", "low ")]), "7: `// low` became `// low int b;`");
    }

    #[test]
    fn a_changed_comment_is_caught_and_a_moved_one_is_not() {
        let text = "/* low\n   tide */\nint a;";
        assert!(refused("java", text, &[("tide", "ebb")]).starts_with("0: `/* low` became"));
        assert!(prove("java", text, &[("   tide", " tide")], &[]).is_ok());
    }

    #[test]
    fn changed_white_space_in_a_string_is_caught() {
        assert_eq!(refused("json", "[\"a b\"]", &[("a b", "a  b")]), "1: `\"a b\"` became `\"a  b\"`");
    }

    #[test]
    fn parted_operators_are_caught() {
        assert_eq!(refused("rust", "fn a() { for i in ..=3 {} }", &[("..=", ".. =")]), "20: `..=` was parted");
    }

    #[test]
    fn a_new_syntax_error_is_caught() {
        let reason = refused("java", "class A { void b() { c(); } }", &[("c();", "c(;")]);
        assert!(reason.ends_with("a syntax error would come up at line 1 of the result"), "{reason}");
    }

    #[test]
    fn a_changed_structure_is_caught() {
        // The same tokens, with one of them on the receipt that binds an `else` to another `if`.
        let text = "class A { void b() { if (c) if (d) e(); else f(); } }";
        let changes = [("if (d)", "{ if (d)"), (" else", " } else")];
        let count = Tree::read(&Source::from_text("a", text), Language::named("java").unwrap());
        let token = |at: usize| count.token_from(at as u32);
        let added = [("{", token(text.find("if (d)").unwrap())), ("}", token(text.find("else").unwrap()))];
        let refusal = prove("java", text, &changes, &added).unwrap_err();
        assert!(matches!(refusal.reason, Difference::Structure { .. }), "{refusal}");
    }

    #[test]
    fn tokens_on_the_receipt_may_come_in() {
        let text = "class A { void b() { if (c) d(); } }";
        let tree = Tree::read(&Source::from_text("a", text), Language::named("java").unwrap());
        let token = |needle: &str| tree.token_from(text.find(needle).unwrap() as u32);
        let added = [("{", token("d()")), ("}", token("d()") + 4)];
        assert!(prove("java", text, &[("d();", "{ d(); }")], &added).is_ok());
    }

    #[test]
    fn overlapping_edits_are_caught() {
        let source = Source::from_text("gauge", "[1]");
        let tree = Tree::read(&source, Language::named("json").unwrap());
        let mut reshape = Reshape::default();
        reshape.edits.push(Span::new(1, 2), "2");
        reshape.edits.push(Span::new(0, 1), "[");
        assert_eq!(prove_layout(&source, &tree, &reshape).unwrap_err().reason, Difference::UnsoundEdits);
    }
}
