//! Items on their way to another file: what belongs to them, as a text that can be put in there.

use vknot_syntax::Span;

use crate::spec::Code;
use super::error::EditError;
use super::standing::base;
use super::taken::{Taken, whole};

/// The items at a place with what leads and trails them, as a text of their own, and the span they are taken from.
///
/// # Errors
/// When there are none, or a comment behind one in a list would be lost.
pub fn carried(code: Code<'_>, at: Span) -> Result<(String, Span), EditError> {
    let (row, range) = Taken::items(code, at)?;
    let (first, last) = (&row.entries[range.start], &row.entries[range.end - 1]);
    let mut text =
        format!("{}{}", base(code, first.body.start), code.source.slice(Span::new(first.body.start, last.body.end)));
    if let Some(trail) = last.trail {
        let comment = code.source.slice(trail);
        if row.separator.is_some() {
            return Err(EditError::LosesComment { comment: comment.to_owned() });
        }
        text.push_str(&format!(" {comment}"));
    }
    Ok((text, whole(&row, &range)))
}

/// Whether what stands in one text stands in another token for token; marks that part items, and how comments are indented, aside.
pub fn is_carried(from: Code<'_>, span: Span, to: Code<'_>, place: Span) -> bool {
    let words = |code: Code<'_>, span: Span| -> Vec<String> {
        let tokens = code.tree.tokens();
        let own = code.tree.token_from(span.start) as usize..code.tree.token_from(span.end) as usize;
        let texts = tokens.get(own.clone()).unwrap_or_default().iter().zip(own);
        let text = |(token, at): (&vknot_syntax::Token, usize)| {
            let text = code.source.slice(token.span());
            match code.tree.is_comment(at as u32) {
                true => text.split_whitespace().collect::<Vec<_>>().join(" "),
                false => text.to_owned(),
            }
        };
        texts.map(text).filter(|text| !matches!(text.as_str(), "," | ";" | "")).collect()
    };
    words(from, span) == words(to, place)
}
