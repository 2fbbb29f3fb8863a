//! The words in which a language of S-expressions says how its forms stand.

/// How a form's lines stand.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub(crate) enum HeadRule {
    /// So many arguments make the head of it; what follows is a body, a little further in.
    Body(u32),
    /// The same, the arguments of the head under the first of them.
    Aligned(u32),
    /// Arguments stand under the first one; where that is not on the first line, under the head.
    Call,
    /// Like a call; where no argument is on the first line, they stand as a body does.
    Clauses,
    /// Everything stands under the first element.
    Data,
    /// What follows the first element is a body of that.
    Inner,
}

/// What a language of forms says about them.
#[derive(Debug)]
pub(crate) struct FormSpec {
    /// Heads with a rule of their own.
    pub heads: &'static [(HeadRule, &'static [&'static str])],
    /// Beginnings of heads with a rule of their own, tried in order where no head fits.
    pub prefixes: &'static [(&'static str, HeadRule)],
    /// Brackets around data.
    pub data: &'static [&'static str],
    /// Marks in front of data.
    pub quotes: &'static [&'static str],
    /// Heads that hold clauses behind so many arguments: a form there is data.
    pub clauses: &'static [(&'static str, u32)],
    /// Heads that may have a name in front of what belongs to them.
    pub named_loops: &'static [&'static str],
    /// What heads that are no names begin with: keywords, and what is put in from outside.
    pub called: &'static [&'static str],
    /// Whether names may be qualified, as in `tide/level`; the rule goes by the last part.
    pub qualified: bool,
    /// Columns of a body against the bracket that opens its form.
    pub body: u32,
    /// Columns of an argument that belongs to the head against that bracket.
    pub argument: u32,
}
