//! Why an edit cannot be done, and what would work.

/// Why an edit cannot be done.
#[derive(Clone, Debug, PartialEq, Eq, thiserror::Error)]
pub enum EditError {
    /// Nothing that could be taken hold of is at the place.
    #[error("nothing at this place can be taken hold of; name a place on an item, such as a statement, an argument or an element")]
    Nothing,
    /// What is there is no item.
    #[error("this is {what}, which stands in no row of items; `vknot select` shows the rungs that do")]
    NoItem {
        /// What is there.
        what: String,
    },
    /// There are not so many items.
    #[error("there {} {there} {way} it, not {wanted}", if *there == 1 { "is" } else { "are" })]
    TooFar {
        /// How many there are.
        there: usize,
        /// How many are wanted.
        wanted: usize,
        /// `above`, `below`, `inside`.
        way: &'static str,
    },
    /// A piece of another language is not written as it stands.
    #[error("{language} in this file is written with escapes; how this edit would be written there is not known")]
    Escaped {
        /// The language inside.
        language: &'static str,
    },
    /// The edit names places inside and outside of a piece of another language.
    #[error("one place is inside a piece of {language} and the other is not; name two on one side")]
    Across {
        /// The language inside.
        language: &'static str,
    },
    /// The target is in what is to go there.
    #[error("the target is part of what would go there; name a place outside of it")]
    Inside,
    /// The two overlap.
    #[error("the two places overlap; name two that stand apart")]
    Overlap,
    /// Nothing there holds items.
    #[error("nothing at the target holds items; name a block, a list, a type or an element")]
    NoRow,
    /// What stands at the target is of another sort.
    #[error("{what} cannot stand among {others}; name a place among others of its sort")]
    Sort {
        /// What would go there.
        what: &'static str,
        /// What stands there.
        others: &'static str,
    },
    /// Something that must stay is in between.
    #[error("`{what}` would come to stand elsewhere among them; it stays where it is, and nothing moves past it")]
    Fixed {
        /// What stays.
        what: String,
    },
    /// Brackets that hold one thing.
    #[error("these brackets hold one thing, no more and no less; `vknot edit swap` puts another in its place")]
    Single,
    /// Brackets hold several things that stand in no list without them.
    #[error("these brackets hold {count} items that would stand in no list without them; name one of them for `vknot edit lift`")]
    Several {
        /// How many.
        count: usize,
    },
    /// A list cannot be broken into lines.
    #[error("a line end ends a statement of {language} even between brackets; the list stays on one line")]
    Unbroken {
        /// The language.
        language: &'static str,
    },
    /// A value is not wrapped in what only statements can be.
    #[error("a comment cannot be wrapped; name what it is about")]
    Remark,
    /// No bracket, block or element is around the place.
    #[error("no {what} is around this place")]
    NoPair {
        /// What is missing.
        what: &'static str,
    },
    /// More than a head would go.
    #[error("`{what}` would go, too; `vknot edit lift` takes it away")]
    Loses {
        /// Its first line.
        what: String,
    },
    /// A member would leave its type.
    #[error("`{what}` would go from around it; a member stays in a type: move it with --into")]
    Member {
        /// The first line of the type.
        what: String,
    },
    /// A comment that runs to the end of its line would come to stand in front of code.
    #[error("the comment at the end of its line would swallow what is behind it; move it onto a line of its own first")]
    Swallows,
    /// A comment would be lost.
    #[error("the comment `{comment}` would be lost; move it first")]
    LosesComment {
        /// Its first line.
        comment: String,
    },
    /// The template has no hole, or several.
    #[error("`{template}` is no template: it needs one hole `_`, as in `log(_)`, or is a bracket, or a tag as in `<b>`")]
    Template {
        /// The template.
        template: String,
    },
    /// The language has no such comments.
    #[error("{language} has no {form} comments")]
    NoComments {
        /// The language.
        language: &'static str,
        /// Which.
        form: &'static str,
    },
    /// The text holds what would end the comment.
    #[error("`{mark}` stands inside and would end the comment; comment it by lines")]
    Nests {
        /// The mark.
        mark: &'static str,
    },
    /// It is commented, or not, already.
    #[error("{0}")]
    Already(&'static str),
    /// What is there is not the kind of thing.
    #[error("this is {what}; {fits}")]
    Unfit {
        /// What is there.
        what: String,
        /// What would do.
        fits: &'static str,
    },
    /// A line is too short.
    #[error("line {line} ends in front of column {column}; --fill fills it with spaces")]
    Short {
        /// The line, from 1.
        line: u32,
        /// The column, from 1.
        column: u32,
    },
    /// A column is inside a character, or a tab.
    #[error("column {column} is inside a wide character or a tab on line {line}")]
    Within {
        /// The line, from 1.
        line: u32,
        /// The column, from 1.
        column: u32,
    },
    /// A name cannot be given.
    #[error("{0}")]
    Name(String),
}
