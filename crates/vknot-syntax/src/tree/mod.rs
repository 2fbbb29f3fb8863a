//! The one syntax tree, whichever reader made it.

mod arena;
mod build;
mod embed;
mod moved;
mod walk;

pub use arena::{Embedded, Gap, Node, NodeId, Token, TokenId, Tree};
pub(crate) use build::{Hidden, HiddenSide};
pub use build::TreeBuilder;
pub use embed::Piece;
pub use walk::Children;
