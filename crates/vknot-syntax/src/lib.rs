//! What the code is: source text and its facts, languages, and one flat syntax tree.
//!
//! A [`Source`] is a file's text. [`Tree::read`] turns it into an arena of nodes in preorder with the list of
//! tokens beside it, whichever reader the [`Language`] uses. After that nothing calls back into a parser.
//!
//! ```
//! use vknot_syntax::{Language, Source, Tree};
//!
//! let source = Source::from_text("gauge.json", "{\"level\": 3}");
//! let language = Language::for_path(source.path()).ok_or("no language")?;
//! let tree = Tree::read(&source, language);
//! assert_eq!(tree.tokens().len(), 5);
//! # Ok::<(), &str>(())
//! ```
#![deny(missing_docs)]

mod detect;
mod language;
mod languages;
mod lexis;
mod limits;
mod overload;
mod read;
mod reader;
mod reading;
mod registry;
mod role;
mod text;
mod tree;

pub use language::{Bracket, Field, Kind, Language, LanguageSpec, Loose, RoleRow};
pub use lexis::{Lexis, same_lexemes};
pub use limits::Limits;
pub use reader::{FindPieces, Lookup, Mask, Reader, Reading, Repair};
pub use role::Role;
pub use text::{
    contents_span, Facts, first_difference, is_plain_blank, is_word_character, LineColumn, LineEnd, Lines, MAX_BYTES,
    Position16, ReadError, Source, Span, word_span_at,
};
pub use tree::{Children, Embedded, Gap, Node, NodeId, Piece, Token, TokenId, Tree};
