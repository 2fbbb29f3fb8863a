//! What can be asked of an edit.

use vknot_syntax::Span;

/// An edit by structure. Places are spans of the text; an empty one is a position.
#[derive(Clone, Debug, PartialEq, Eq)]
pub enum Edit {
    /// Items go elsewhere.
    Move(To),
    /// Items come in elsewhere, too, so many times.
    Copy(To, u32),
    /// Items go.
    Delete,
    /// A text comes in as an item.
    Insert(To, String),
    /// Items change places with others.
    Swap(To),
    /// The branches of the conditional around the place change places, and its condition is turned.
    Turn,
    /// What is taken hold of comes to stand in the hole `_` of a template, between brackets, or in an element.
    Wrap(String),
    /// The closest pair around goes; what it holds stays.
    Unwrap,
    /// What is taken hold of comes in place of what holds it.
    Lift,
    /// Items from outside come into the closest pair, at its end or at its start.
    Pull(End, Reach),
    /// The outermost items of the closest pair go out of it.
    Push(End, Reach),
    /// A list comes to stand one item a line; a string, or an `if`, becomes two.
    Split(Part),
    /// The reverse.
    Join(Part),
    /// Code becomes a comment, or comments code.
    Comment(Toggle, Form),
    /// Lines, whatever their structure.
    Lines(LineEdit),
    /// A rectangle of columns.
    Columns(Block),
    /// Each of some spans gets a text.
    Replace(Vec<(Span, String)>),
}

impl Edit {
    /// The same with its places moved, as into a piece of another language; `None` where one has no place there.
    pub(crate) fn placed(&self, place: impl Fn(Span) -> Option<Span>) -> Option<Edit> {
        let to = |to: &To| {
            Some(match to {
                To::Before(at) => To::Before(place(*at)?),
                To::After(at) => To::After(place(*at)?),
                To::Into(at) => To::Into(place(*at)?),
                steps => *steps,
            })
        };
        let reach = |reach: &Reach| match reach {
            Reach::Until(at) => place(*at).map(Reach::Until),
            count => Some(*count),
        };
        Some(match self {
            Edit::Move(target) => Edit::Move(to(target)?),
            Edit::Copy(target, times) => Edit::Copy(to(target)?, *times),
            Edit::Insert(target, text) => Edit::Insert(to(target)?, text.clone()),
            Edit::Swap(target) => Edit::Swap(to(target)?),
            Edit::Pull(end, until) => Edit::Pull(*end, reach(until)?),
            Edit::Push(end, until) => Edit::Push(*end, reach(until)?),
            other => other.clone(),
        })
    }

    /// How many ways there are to do it: without and with brackets, and for what takes another's place as many further out.
    pub(crate) fn attempts(&self) -> u32 {
        match self {
            Edit::Lift => 6,
            Edit::Swap(_) | Edit::Wrap(_) | Edit::Unwrap | Edit::Join(_) => 2,
            _ => 1,
        }
    }

    /// Whether it asks for structure, so that a piece of another language is edited by its own.
    pub(crate) fn is_structural(&self) -> bool {
        !matches!(self, Edit::Lines(_) | Edit::Columns(_) | Edit::Replace(_))
    }
}

/// Where to.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum To {
    /// So many items towards the start.
    Up(u32),
    /// So many items towards the end.
    Down(u32),
    /// In front of what is at a place.
    Before(Span),
    /// Behind it.
    After(Span),
    /// Into it, at its end.
    Into(Span),
}

/// An end of a row of items.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum End {
    /// Its start, or what is in front of it.
    First,
    /// Its end, or what is behind it.
    Last,
}

/// How many items.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum Reach {
    /// So many.
    Count(u32),
    /// As far as the one at a place.
    Until(Span),
}

/// What is split or joined.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum Part {
    /// What is closest: a string, a declaration, an `if`, a list.
    Closest,
    /// The pair around the place: an element, a form, a list, a block.
    Pair,
}

/// Which way.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum Toggle {
    /// Code becomes a comment.
    On,
    /// A comment becomes code.
    Off,
    /// Comments become code where nothing else is there, else code becomes a comment.
    Either,
}

/// How code is made a comment.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum Form {
    /// As the language has it: by lines where it can.
    Usual,
    /// A mark in front of each line.
    Line,
    /// Marks around the whole.
    Block,
}

/// What becomes of lines.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum LineEdit {
    /// They pass so many lines above.
    Up(u32),
    /// They pass so many lines below.
    Down(u32),
    /// They come once more, so many times, below themselves.
    Copy(u32),
    /// They go.
    Delete,
    /// A blank line comes in above them.
    BlankAbove,
    /// A blank line comes in below them.
    BlankBelow,
}

/// What becomes of a rectangle. Lines and columns count from 0, columns by what is displayed.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct Block {
    /// Its first line, and its last.
    pub lines: (u32, u32),
    /// Its first column, and one past its last.
    pub columns: (u32, u32),
    /// What comes in its place on each line; `None` for nothing.
    pub text: Option<String>,
    /// Where what is taken out comes in: a line and a column of the text as it was.
    pub to: Option<(u32, u32)>,
    /// Whether lines that are too short are filled with spaces.
    pub fill: bool,
}
