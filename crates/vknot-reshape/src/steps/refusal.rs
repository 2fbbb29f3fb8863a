//! Why a result did not pass the proof.

/// Why a result did not pass. The file must stay as it is.
#[derive(Clone, Debug, PartialEq, Eq, thiserror::Error)]
#[error("the result would not mean the same: {reason}; nothing was changed")]
pub struct Refusal {
    /// Where in the old text, in bytes.
    pub offset: u32,
    /// What differs there.
    pub reason: Difference,
    /// Where the first syntax error of the old text is, if it has one: then that is the likeliest reason, and no fault of ours.
    pub error: Option<u32>,
}

impl Refusal {
    pub(super) fn at(offset: u32, reason: Difference) -> Refusal {
        Refusal { offset, reason, error: None }
    }
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
    /// What moved or came in is not a piece of its own where it stands.
    #[error("`{text}` would not be a piece of its own there")]
    Cut {
        /// Its first line.
        text: String,
    },
    /// What came to stand in a place is not taken there by compilers, though the grammar takes it.
    #[error("`{text}` cannot stand like that at line {line} of the result")]
    Law {
        /// The first line of what does not keep to it.
        text: String,
        /// Line of the result, from 1.
        line: u32,
    },
    /// White space came, or went, or has another kind where that is meaning.
    #[error("the white space between `{left}` and `{right}` would mean something else")]
    White {
        /// What is in front of it.
        left: String,
        /// What is behind it.
        right: String,
    },
    /// The edits overlap or leave the text.
    #[error("the edits overlap")]
    UnsoundEdits,
    /// Something else than white space at the start of a line would change.
    #[error("more than the start of the line would change")]
    Gap,
    /// A token or a comment is written otherwise and does not say the same.
    #[error("`{old}` does not say the same as `{new}`")]
    Spelling {
        /// Its first line.
        old: String,
        /// That of what would come in its place.
        new: String,
    },
    /// What its author keeps by a comment would change.
    #[error("what a comment keeps would change")]
    Kept,
    /// A statement would be in another block.
    #[error("`{statement}` would be in another block")]
    Level {
        /// Its line.
        statement: String,
    },
    /// What is on the receipt is not what happened.
    #[error("the receipt names `{text}`, which is not there")]
    Receipt {
        /// What the receipt says.
        text: String,
    },
    /// An import was lost, came in, or passed something that is none, without being on the receipt.
    #[error("the import `{import}` was lost, added or moved too far")]
    Import {
        /// The import.
        import: String,
    },
    /// A comment left the item it belongs to.
    #[error("the comment `{comment}` left what it belongs to")]
    Comment {
        /// Its first line.
        comment: String,
    },
    /// Code of another language inside the file was lost or came in.
    #[error("code of another language was lost or added")]
    Embedded,
}

/// The first line of a text, cut to what a message can hold.
pub(super) fn shortened(text: &str) -> String {
    let line = text.lines().next().unwrap_or("");
    match line.char_indices().nth(60) {
        Some((end, _)) => format!("{}…", &line[..end]),
        None => line.to_owned(),
    }
}
