//! What a language's folder says about tokens that may be written in more than one way, or left out.

/// What may be written otherwise.
pub(crate) struct SpellingSpec {
    /// Kinds of token that are strings, between single quotes or double ones alike.
    pub strings: &'static [&'static str],
    /// Kinds of node in which strings stay as they are.
    pub strings_stay_in: &'static [&'static str],
    /// What a string does not hold that is written otherwise, beside line breaks.
    pub strings_without: &'static [&'static str],
    /// `None` where each semicolon is needed, or none.
    pub semicolons: Option<SemicolonSpec>,
    /// Kinds of list in which a comma behind a single item is meaning.
    pub lone_commas: &'static [&'static str],
    /// How comments begin, behind their marker, that programs read.
    pub directives: &'static [&'static str],
}

/// Where semicolons may be left out.
pub(crate) struct SemicolonSpec {
    /// Kinds of statement that hold the semicolon at their end.
    pub statements: &'static [&'static str],
    /// Kinds of member behind which it stands, being none of their own, in each kind of body.
    pub members: &'static [(&'static str, &'static [&'static str])],
    /// Kinds in which semicolons always stay, and none come in, but for those that end them.
    pub not_in: &'static [&'static str],
    /// Kinds of statement with the kinds of part that end them without one.
    pub not_behind: &'static [(&'static str, &'static [&'static str])],
    /// What a line may begin with that goes on with the line above where that does not end in one.
    pub goes_on: &'static [&'static str],
    /// Names of members that would be read with what is behind them.
    pub modifiers: &'static [&'static str],
}

/// What holds where each token has one form.
pub(crate) const SPELLING_OF_MOST: SpellingSpec = SpellingSpec {
    strings: &[],
    strings_stay_in: &[],
    strings_without: &["\\"],
    semicolons: None,
    lone_commas: &[],
    directives: &["region", "endregion"],
};
