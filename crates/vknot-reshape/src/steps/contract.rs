//! What a step may do to a file. The proof holds every result against it.

/// Which white space may change.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum Gaps {
    /// Blanks at the start of lines.
    LineStarts,
    /// All white space between tokens.
    All,
}

/// Which tokens may come, go or move. Whatever does is on the receipt, by its index.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum Tokens {
    /// None.
    Same,
    /// Those on the receipt may come and go.
    Receipt,
    /// Those on the receipt may come, go and move, as far as what was asked for allows.
    Edit,
    /// Imports may be written otherwise and change places among themselves, as long as they bring in the same, less what is on the
    /// receipt, and do not pass anything that is no import.
    Imports,
}

/// What may become of comments.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub struct Comments {
    /// Their lines may be indented otherwise.
    pub reindented: bool,
    /// Those that belong to an item go where it goes; all others stay.
    pub travel: bool,
}

/// What the tree must be.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum Shape {
    /// The same, node for node.
    Same,
    /// The same, but for nodes made of tokens that came or went.
    Receipt,
    /// What did not lose a token at its ends is there; what moved is there as a whole.
    Pieces,
}

/// What a step may do.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub struct Contract {
    /// Which white space may change.
    pub gaps: Gaps,
    /// Which tokens may come, go or move.
    pub tokens: Tokens,
    /// What may become of comments.
    pub comments: Comments,
    /// What the tree must be.
    pub shape: Shape,
    /// Whether every statement must stay as deep as it is where depth is meaning.
    pub levels: bool,
    /// Whether what its author keeps by comments stays as it is.
    pub keeps: bool,
}

impl Contract {
    /// White space changes, and what is on the receipt.
    pub const LAYOUT: Contract = Contract {
        gaps: Gaps::All,
        tokens: Tokens::Receipt,
        comments: Comments { reindented: true, travel: false },
        shape: Shape::Receipt,
        levels: true,
        keeps: true,
    };

    /// Only the start of lines changes.
    pub const INDENTATION: Contract = Contract {
        gaps: Gaps::LineStarts,
        tokens: Tokens::Same,
        comments: Comments { reindented: true, travel: false },
        shape: Shape::Same,
        levels: true,
        keeps: true,
    };

    /// Lines that are named move, whatever keeps them.
    pub const SHIFT: Contract = Contract { keeps: false, ..Contract::INDENTATION };

    /// Imports change places, merge and go.
    pub const IMPORTS: Contract = Contract {
        gaps: Gaps::All,
        tokens: Tokens::Imports,
        comments: Comments { reindented: false, travel: true },
        shape: Shape::Receipt,
        // Imports change lines; what they are in is told by the tree.
        levels: false,
        keeps: true,
    };

    /// Comments on the receipt come and go.
    pub const MARKERS: Contract = Contract {
        gaps: Gaps::All,
        tokens: Tokens::Receipt,
        comments: Comments { reindented: false, travel: false },
        shape: Shape::Receipt,
        levels: true,
        keeps: false,
    };

    /// Items move, come and go.
    pub const EDIT: Contract = Contract {
        gaps: Gaps::All,
        tokens: Tokens::Edit,
        comments: Comments { reindented: true, travel: true },
        shape: Shape::Pieces,
        // What is moved may come to stand in another block.
        levels: false,
        keeps: true,
    };

    /// What two steps one after the other may do.
    pub fn and(self, next: Contract) -> Contract {
        Contract {
            gaps: if self.gaps == next.gaps { self.gaps } else { Gaps::All },
            tokens: match (self.tokens, next.tokens) {
                (Tokens::Same, other) | (other, Tokens::Same) => other,
                (Tokens::Imports, _) | (_, Tokens::Imports) => Tokens::Imports,
                (Tokens::Edit, _) | (_, Tokens::Edit) => Tokens::Edit,
                _ => Tokens::Receipt,
            },
            comments: Comments {
                reindented: self.comments.reindented || next.comments.reindented,
                travel: self.comments.travel || next.comments.travel,
            },
            shape: match (self.shape, next.shape) {
                (own, other) if own == other => own,
                (Shape::Pieces, _) | (_, Shape::Pieces) => Shape::Pieces,
                _ => Shape::Receipt,
            },
            levels: self.levels && next.levels,
            keeps: self.keeps && next.keeps,
        }
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    const ALL: [Contract; 6] = [
        Contract::EDIT, Contract::IMPORTS, Contract::INDENTATION, Contract::LAYOUT, Contract::MARKERS, Contract::SHIFT,
    ];

    /// What a contract allows, each as a number that grows with what it does.
    fn allows(contract: Contract) -> [u8; 7] {
        [
            u8::from(contract.gaps == Gaps::All),
            match contract.tokens {
                Tokens::Same => 0,
                Tokens::Receipt => 1,
                Tokens::Edit => 2,
                Tokens::Imports => 3,
            },
            u8::from(contract.comments.reindented),
            u8::from(contract.comments.travel),
            match contract.shape {
                Shape::Same => 0,
                Shape::Receipt => 1,
                Shape::Pieces => 2,
            },
            u8::from(!contract.levels),
            u8::from(!contract.keeps),
        ]
    }

    #[test]
    fn two_steps_may_do_what_either_may_and_no_more() {
        for first in ALL {
            for next in ALL {
                let (own, other) = (allows(first), allows(next));
                let wanted: Vec<u8> = own.iter().zip(other).map(|(own, other)| (*own).max(other)).collect();
                assert_eq!(allows(first.and(next)).to_vec(), wanted, "{first:?} and {next:?}");
            }
        }
    }
}
