//! How the files of a language are told from others and read: what a language's folder gives beside plain data.

use crate::language::Language;
use crate::lexis::Lexis;
use crate::overload::{Overload, OVERLOAD};
use crate::text::{Source, Span};
use crate::tree::{Piece, Tree, TreeBuilder};

/// How the text of a language becomes a tree.
#[derive(Clone, Copy)]
pub enum Reader {
    /// A tree-sitter grammar.
    Grammar(fn() -> tree_sitter::Language),
    /// A hand-made reader with its own list of kinds; a kind in quotes-free lower case counts as named.
    Own {
        /// Names of the kinds, in the order of their numbers.
        kinds: &'static [&'static str],
        /// Reads a text into the builder.
        read: fn(&str, &mut TreeBuilder),
    },
}

/// A text made readable for a grammar that lacks something of its language: of the same length, with what the grammar
/// does not know blanked out or replaced.
pub struct Mask {
    /// The text to parse.
    pub text: Vec<u8>,
    /// What was blanked out; each becomes a token.
    pub hidden: Vec<Unseen>,
    /// Where a mark stands for another one.
    pub stand_ins: Vec<u32>,
    /// Words and marks that a word of no more bytes stands for, and the empty beginnings of nodes that stand for others.
    pub words: Vec<Span>,
    /// Where a mark was put in place of white space.
    pub put_in: Vec<u32>,
    /// Marks put in in front of offsets, in order, which are not in the text; a node that one begins is no node, and gives its children to
    /// the one around it.
    pub inserted: Vec<(u32, u8)>,
}

/// What was blanked out of a text.
#[derive(Clone, Copy)]
pub struct Unseen {
    /// Where it stands.
    pub span: Span,
    /// Whether it is a name or mark of the language, and not what a repair is for.
    pub is_code: bool,
}

impl Mask {
    /// A mask that changes nothing yet.
    pub fn new(text: &str) -> Mask {
        Mask {
            text: text.as_bytes().to_vec(),
            hidden: Vec::new(),
            stand_ins: Vec::new(),
            words: Vec::new(),
            put_in: Vec::new(),
            inserted: Vec::new(),
        }
    }

    /// Blanks a span out, line ends aside.
    pub fn hide(&mut self, start: usize, end: usize) {
        self.unseen(start, end, false);
    }

    /// Blanks a name or mark of the language out.
    pub fn hide_code(&mut self, start: usize, end: usize) {
        self.unseen(start, end, true);
    }

    fn unseen(&mut self, start: usize, end: usize, is_code: bool) {
        self.replace(start, end, b' ');
        self.hidden.push(Unseen { span: Span::new(start as u32, end as u32), is_code });
    }

    /// Puts a byte in place of every byte of a span, line ends aside.
    pub fn replace(&mut self, start: usize, end: usize, with: u8) {
        let piece = self.text.get_mut(start..end).unwrap_or_default();
        piece.iter_mut().filter(|byte| !matches!(byte, b'\n' | b'\r')).for_each(|byte| *byte = with);
    }

    /// Puts a mark in place of one, which it stands for.
    pub fn stand_in(&mut self, at: usize, with: u8) {
        self.set(at, with);
        self.stand_ins.push(at as u32);
    }

    /// Puts a word in place of a span of at least as many bytes, which it stands for.
    pub fn stand_in_word(&mut self, start: usize, end: usize, with: &str) {
        self.replace(start, end, b' ');
        if let Some(word) = self.text.get_mut(start..start + with.len()) {
            word.copy_from_slice(with.as_bytes());
            self.words.push(Span::new(start as u32, end as u32));
        }
    }

    /// Says that a node that begins at an offset may stand for another.
    pub fn stand_in_node(&mut self, at: usize) {
        self.words.push(Span::new(at as u32, at as u32));
    }

    /// Puts a mark in place of white space, which is not in the text.
    pub fn put_in(&mut self, at: usize, mark: u8) {
        self.set(at, mark);
        self.put_in.push(at as u32);
    }

    /// Puts a byte in place of one.
    pub fn set(&mut self, at: usize, with: u8) {
        if let Some(byte) = self.text.get_mut(at) {
            *byte = with;
        }
    }
}

/// Another try at a text: one that the grammar did not read without errors, or would take too long over.
#[derive(Clone, Copy)]
pub struct Repair {
    /// Makes the mask; `None` when there is nothing to mask.
    pub mask: fn(&str) -> Option<Mask>,
    /// The kind of what was blanked out.
    pub kind: &'static str,
    /// The kind of names that were.
    pub name: &'static str,
    /// The nodes that code makes which was, with the marks that begin and end them.
    pub groups: &'static [(&'static str, &'static str, &'static str)],
    /// The kinds that words make which stand for others, with what these make.
    pub words: &'static [(&'static str, &'static str)],
}

/// A kind of node that a grammar makes too wide in one case.
#[derive(Clone, Copy)]
pub struct TooWide {
    /// The kind.
    pub kind: &'static str,
    /// The kind of what it holds then.
    pub with: &'static str,
    /// The kinds of what it begins with then; it belongs to the last part of that alone.
    pub first: &'static [&'static str],
    /// The kinds of what may begin with it, and belongs where it does.
    pub links: &'static [&'static str],
}

/// What most repairs do not have; for the end of a language's own.
pub(crate) const REPAIR: Repair = Repair { mask: |_| None, kind: "", name: "", groups: &[], words: &[] };

/// Finds a language by a name it goes by.
pub type Lookup = fn(&str) -> Option<&'static Language>;

/// Finds the pieces of other languages in a text.
pub type FindPieces = fn(&Source, &Tree, Lookup) -> Vec<Piece>;

/// How a language is recognised and read.
pub struct Reading {
    /// How to read it.
    pub reader: Reader,
    /// What is masked before the first try, as the grammar takes too long over it.
    pub relief: Option<Repair>,
    /// A second try where the grammar fails.
    pub repair: Option<Repair>,
    /// A mark that may stand behind a type's closer, where the grammar has no place for it.
    pub closes_types: Option<&'static str>,
    /// What the grammar makes too wide.
    pub too_wide: Option<TooWide>,
    /// Kinds whose nodes have marks that the grammar leaves out of its tree.
    pub unshown: &'static [&'static str],
    /// Tells the files of this language from others with the same ending, by ending and text. Of several languages for one ending the first
    /// that says yes wins, then the first that does not say anything.
    pub sniff: Option<fn(&str, &str) -> bool>,
    /// Finds the pieces that are code of another language.
    pub embeds: Option<FindPieces>,
    /// What its parser cannot read in any number.
    pub overload: Overload,
    /// What its lexemes are like, where it does not read the white space between them.
    pub lexis: Option<&'static Lexis>,
}

/// What most languages do not have; for the end of a language's own.
pub(crate) const READING: Reading = Reading {
    reader: Reader::Own { kinds: &[], read: |_, _| {} },
    relief: None,
    repair: None,
    closes_types: None,
    too_wide: None,
    unshown: &[],
    overload: OVERLOAD,
    sniff: None,
    embeds: None,
    lexis: None,
};
