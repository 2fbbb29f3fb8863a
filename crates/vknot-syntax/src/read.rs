//! From a text to its tree, whichever reader its language has.

use crate::language::Language;
use crate::limits::Limits;
use crate::reader::Reader;
use crate::reading::grammar;
use crate::text::Source;
use crate::tree::{Embedded, Tree, TreeBuilder};

/// How deep pieces within pieces are read.
const DEPTH_AT_MOST: u32 = 4;

impl Tree {
    /// Reads a text. There is always a tree: what cannot be read is in nodes with [`crate::Role::Error`].
    ///
    /// A text on which the grammar takes far more steps than its size explains is read by brackets and lines
    /// instead; [`Tree::gave_up`] tells. The budget counts steps, not time, so it is the same on every machine.
    ///
    /// Pieces of other languages are read along; see [`Tree::embedded`].
    pub fn read(source: &Source, language: &'static Language) -> Tree {
        Self::read_within(source, language, &Limits::default())
    }

    /// The same, within limits: work that is stopped ends as one that takes too many steps does.
    pub fn read_within(source: &Source, language: &'static Language, limits: &Limits) -> Tree {
        read_at_depth(source, language, 0, limits)
    }
}

fn read_at_depth(source: &Source, language: &'static Language, depth: u32, limits: &Limits) -> Tree {
    let mut tree = read_alone(source, language, limits);
    tree.embedded = pieces(source, &tree, depth, limits);
    tree
}

fn read_alone(source: &Source, language: &'static Language, limits: &Limits) -> Tree {
    let reading = language.reading();
    match reading.reader {
        Reader::Grammar(_) => grammar::read(source.text(), language, reading.repair, limits).unwrap_or_else(|| {
            let mut tree = read_alone(source, Language::plain(), limits);
            tree.gave_up = true;
            tree
        }),
        Reader::Own { read, .. } => {
            let mut builder = TreeBuilder::new(source.text(), language);
            read(source.text(), &mut builder);
            builder.finish()
        }
    }
}

/// Reads the pieces of other languages in a tree.
fn pieces(source: &Source, tree: &Tree, depth: u32, limits: &Limits) -> Vec<Embedded> {
    let embeds = tree.language().reading().embeds.filter(|_| depth < DEPTH_AT_MOST);
    let found = embeds.map_or_else(Vec::new, |find| find(source, tree, Language::called));
    let read = |piece: crate::tree::Piece| {
        let inner = Source::from_text(source.path(), piece.text);
        let inner_tree = read_at_depth(&inner, piece.language, depth + 1, limits);
        Embedded::new(tree, piece.host, (piece.map, piece.quoted), (inner, inner_tree))
    };
    found.into_iter().map(read).collect()
}
