//! A file is laid out until nothing changes: what it shows depends on where its lines stand and break, and where it is broken even how it
//! is read.

use vknot_syntax::{Source, Tree};

use crate::receipt::{Receipt, TokenChange};
use crate::reshape::Reshape;
use crate::spec::Code;

/// How often a file is laid out at most, until nothing changes.
pub(super) const ROUNDS: usize = 4;

/// Lays out a file `again` and again as it is read behind the first round, until that changes nothing. `None` where that does not end.
pub(super) fn settled(code: Code<'_>, once: Reshape, again: &dyn Fn(Code<'_>) -> Reshape) -> Option<Reshape> {
    let source = code.source;
    if once.edits.is_empty() {
        return Some(once);
    }
    let mut read = Source::from_text(source.path(), once.edits.apply(source.text()));
    let mut tree = code.tree_after(&once, &read);
    let mut whole = once;
    for _ in 0..ROUNDS {
        let next = again(code.other(&read, &tree));
        if next.edits.is_empty() {
            return Some(whole);
        }
        whole.edits = whole.edits.then(source.text(), &next.edits);
        let new = Source::from_text(source.path(), next.edits.apply(read.text()));
        tree = code.other(&read, &tree).tree_after(&next, &new);
        read = new;
        let added = joined(whole.receipt.added, next.receipt.added, code.tree);
        whole.receipt = Receipt { added, ..whole.receipt };
    }
    None
}

/// The tokens that one round put into a text and those that the next put into what came of it, as put into the text at once.
fn joined(first: Vec<TokenChange>, next: Vec<TokenChange>, tree: &Tree) -> Vec<TokenChange> {
    let mut first = first.into_iter().peekable();
    let (mut all, mut before) = (Vec::new(), 0);
    for change in next {
        while let Some(own) = first.next_if(|own| own.token + before < change.token) {
            all.push(own);
            before += 1;
        }
        let token = change.token - before;
        all.push(TokenChange { token, offset: tree.gap_span(token).start, text: change.text });
    }
    all.extend(first);
    all
}

#[cfg(test)]
mod tests {
    use vknot_syntax::Language;

    use super::*;

    #[test]
    fn what_two_rounds_put_in_comes_in_the_order_of_the_text() {
        let source = Source::from_text("Gauge.java", "a b c");
        let tree = Tree::read(&source, Language::named("java").expect("there is a language"));
        let put = |changes: &[(u32, &str)]| -> Vec<TokenChange> {
            changes
                .iter()
                .map(|(token, text)| TokenChange { token: *token, offset: 0, text: (*text).to_owned() })
                .collect()
        };
        // `a { b } c`, then `a { ( b ) } , c`.
        let all = joined(put(&[(1, "{"), (2, "}")]), put(&[(2, "("), (3, ")"), (4, ",")]), &tree);
        let shown: Vec<(u32, u32, &str)> =
            all.iter().map(|change| (change.token, change.offset, change.text.as_str())).collect();
        assert_eq!(shown, [(1, 0, "{"), (1, 1, "("), (2, 3, ")"), (2, 0, "}"), (2, 3, ",")]);
    }
}
