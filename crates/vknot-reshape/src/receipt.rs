//! What a reshape did and what it left alone.

use vknot_style::Indentation;
use vknot_syntax::Span;

use crate::allowance::Allowance;

/// What decides the indentation of a file.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum Decided {
    /// A setting.
    BySetting,
    /// What the file itself has.
    ByFile,
    /// What the files beside it have.
    ByNeighbours,
    /// What is usual in the language.
    ByHabit,
}

/// A token that was added or removed.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct TokenChange {
    /// Its text.
    pub text: String,
    /// Where in the old text it was, or went.
    pub offset: u32,
    /// Its place among the old text's tokens: an added one goes in front of that token.
    pub token: u32,
}

/// A token, or a run of comments, that is written otherwise and says the same.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct Respelled {
    /// Its place among the old text's tokens.
    pub first: u32,
    /// One past the last of them.
    pub end: u32,
    /// Where in the old text it was.
    pub offset: u32,
    /// Its text.
    pub old: String,
    /// What stands there now, as far as it is not indented otherwise.
    pub new: String,
    /// How many tokens that is.
    pub count: u32,
}

/// Why a piece was left as it was.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum Reason {
    /// It could not be read.
    SyntaxError,
    /// It could not be read; its lines were indented by its brackets alone.
    Brackets,
    /// The whole file is too far from its language to be read in reasonable time.
    GaveUp,
    /// Where its lines stand says how it is read, and that says where they should stand: it would never be done.
    Unsettled,
    /// Version control left two sides of it.
    Conflict,
    /// A comment of its author keeps it.
    Kept,
    /// The whole file says that a program wrote it.
    Generated,
    /// The layout of its language is not known.
    NoLayout,
}

/// A piece that was left as it was.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub struct LeftAlone {
    /// Where.
    pub span: Span,
    /// Why.
    pub reason: Reason,
}

/// Something worth saying that is neither an error nor a change.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct Note {
    /// Where.
    pub span: Span,
    /// What.
    pub text: String,
}

/// What became of something that is imported.
#[derive(Clone, Copy, Debug, PartialEq, Eq, PartialOrd, Ord)]
pub enum Act {
    /// It was put in.
    Added,
    /// It was taken out.
    Removed,
    /// Nothing is known to need it, and still it stays.
    Kept,
    /// It was put together with another one from the same place.
    Merged,
    /// It stands elsewhere.
    Moved,
    /// It keeps its place among others though they are not in order.
    Held,
    /// It is not one that can be put in order.
    Passed,
    /// It is used, and nothing declares or imports it.
    Missing,
}

/// What became of something that is imported, and why.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct Fate {
    /// What is imported.
    pub import: String,
    /// Where it was, or went.
    pub span: Span,
    /// What became of it.
    pub act: Act,
    /// Why: `is not used`.
    pub why: String,
    /// From where it could be imported, the likeliest first, where that is not certain.
    pub choices: Vec<String>,
}

impl Fate {
    /// What became of an import for which there is nothing to choose.
    pub fn new(import: String, span: Span, act: Act, why: impl Into<String>) -> Fate {
        Fate { import, span, act, why: why.into(), choices: Vec::new() }
    }
}

/// A run of tokens that stands elsewhere in the new text.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct Moved {
    /// Its first token in the old text.
    pub first: u32,
    /// One past its last token.
    pub end: u32,
    /// The token of the old text in front of which it stands now.
    pub to: u32,
    /// How many texts that came in at the same place stand in front of it.
    pub rank: usize,
}

impl Receipt {
    /// Where in the new text what an edit was about stands, from its first part to its last.
    pub fn place(&self) -> Option<Span> {
        let start = self.placed.iter().map(|span| span.start).min()?;
        Some(Span::new(start, self.placed.iter().map(|span| span.end).max()?))
    }
}

/// What a reshape did.
#[derive(Clone, Debug, Default, PartialEq, Eq)]
pub struct Receipt {
    /// Tokens put in.
    pub added: Vec<TokenChange>,
    /// Tokens, or whole imports, taken out.
    pub removed: Vec<TokenChange>,
    /// Tokens that are written otherwise and say the same.
    pub respelled: Vec<Respelled>,
    /// Pieces left alone.
    pub left_alone: Vec<LeftAlone>,
    /// What was imported anew, each in front of a token of the old text, among the imports there.
    pub imported: Vec<TokenChange>,
    /// What stands elsewhere, in the order of the new text.
    pub moved: Vec<Moved>,
    /// Where in the new text what an edit was about stands now.
    pub placed: Vec<Span>,
    /// What an edit may do to tokens.
    pub allowance: Option<Allowance>,
    /// Remarks.
    pub notes: Vec<Note>,
    /// What became of imports.
    pub imports: Vec<Fate>,
    /// What levels of indentation are made of, and what decided it, where that mattered.
    pub indentation: Option<(Indentation, Decided)>,
    /// What was done to imports in pieces of other languages, by their places among those of the old text.
    pub pieces: Vec<(usize, Receipt)>,
    /// Settings that nothing sets and the file shows by its lines, with their values.
    pub manner: Vec<(&'static str, String)>,
}
