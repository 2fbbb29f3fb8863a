//! Source text: bytes with their facts, lines and positions. Nothing here knows about syntax.

mod facts;
mod lines;
mod source;
mod span;

pub use facts::{Facts, LineEnd};
pub use lines::{LineColumn, Lines, Position16};
pub use source::{MAX_BYTES, ReadError, Source};
pub use span::{contents_span, first_difference, is_plain_blank, is_word_character, Span, word_span_at};
