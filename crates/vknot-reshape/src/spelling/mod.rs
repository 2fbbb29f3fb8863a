//! Tokens that may be written in more than one way, or left out: quotes, semicolons, commas behind the last item, the white space
//! behind a comment's marker. Nothing changes unless a setting says so, and whatever changes is on the receipt.
//!
//! It comes before the layout, which must know how wide tokens are; long comments are broken behind it, by [`fitted`].

mod comments;
mod draft;
mod marks;
mod quotes;
mod wrapped;

use vknot_style::Style;
use vknot_style::choices::{CommentSpace, CommentWrap, TokenQuote, TokenSemicolon, WrapComma};
use vknot_syntax::Span;

use crate::frames::found::effective_indentation;
use crate::layout::width_of_comments;
use crate::reshape::Reshape;
use crate::spec::Code;
use draft::Draft;
use wrapped::Room;

/// Whether a style says how any of this is written.
pub(crate) fn is_asked(style: &Style) -> bool {
    style.choice::<TokenQuote>() != TokenQuote::Keep
        || style.choice::<TokenSemicolon>() != TokenSemicolon::Keep
        || style.choice::<WrapComma>() == WrapComma::Remove
        || style.choice::<CommentSpace>() != CommentSpace::Keep
        || style.choice::<CommentWrap>() != CommentWrap::Keep
}

/// Writes tokens as a style says, in a file or in the lines of some spans of it.
pub(crate) fn spell(code: Code<'_>, style: &Style, only: Option<&[Span]>) -> Reshape {
    let Some(mut draft) = Draft::of(code, only) else { return Reshape::default() };
    match style.choice() {
        TokenQuote::Keep => {}
        TokenQuote::Double => quotes::write(&mut draft, '"'),
        TokenQuote::Single => quotes::write(&mut draft, '\''),
    }
    match style.choice() {
        TokenSemicolon::Keep => {}
        TokenSemicolon::Add => marks::add_semicolons(&mut draft),
        TokenSemicolon::Remove => marks::remove_semicolons(&mut draft),
    }
    if style.choice::<WrapComma>() == WrapComma::Remove {
        marks::remove_commas(&mut draft);
    }
    if style.choice::<CommentSpace>() == CommentSpace::Add {
        comments::space(&mut draft);
    }
    draft.finish()
}

/// Breaks the comments of a file that is laid out where they are wider than lines may be.
pub(crate) fn fitted(code: Code<'_>, style: &Style, only: Option<&[Span]>) -> Reshape {
    match Draft::of(code, only) {
        Some(mut draft) if style.choice::<CommentWrap>() == CommentWrap::Fit => {
            let room = Room {
                width: width_of_comments(code, style),
                tab_width: effective_indentation(code, style).tab_width,
            };
            wrapped::fit(&mut draft, room);
            draft.finish()
        }
        _ => Reshape::default(),
    }
}
