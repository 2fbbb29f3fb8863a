//! Settings that take words, as types.

use crate::schema::Key;

/// A setting that takes words.
pub trait Choice: Copy + PartialEq + Sized + 'static {
    /// Which setting it is.
    const KEY: Key;
    /// Its words, in the order in which the setting lists them.
    const WORDS: &'static [(&'static str, Self)];

    /// The word for it; empty where no word says it.
    fn word(self) -> &'static str {
        Self::WORDS.iter().find(|(_, own)| *own == self).map_or("", |(word, _)| word)
    }
}

/// Makes a type of each list of words.
macro_rules! choices {
    ($($(#[$doc:meta])* $name:ident for $key:ident { $($(#[$word_doc:meta])* $variant:ident = $word:literal,)* })*) => {
        $(
            $(#[$doc])*
                #[derive(Clone, Copy, Debug, PartialEq, Eq, PartialOrd, Ord)]
                pub enum $name {
                    $($(#[$word_doc])* $variant,)*
                }

                impl Choice for $name {
                    const KEY: Key = Key::$key;
                    const WORDS: &'static [(&'static str, Self)] = &[$(($word, $name::$variant),)*];
                }
        )*

        #[cfg(test)]
        const LISTED: &[(Key, &[&str])] = &[$((Key::$key, &[$($word,)*]),)*];
    };
}

choices! {
    /// What the lines of a list that begins behind its bracket line up with.
    AlignList for AlignList {
        /// None.
        None = "none",
        /// Those in round brackets.
        Arguments = "arguments",
        /// Literals, too.
        All = "all",
    }

    /// Which columns of neighbouring lines are lined up.
    AlignColumn for AlignColumn {
        /// Those that their author lined up.
        Keep = "keep",
        /// All.
        All = "all",
        /// None.
        None = "none",
    }

    /// Which comments behind code on neighbouring lines are lined up.
    AlignComment for AlignComment {
        /// Those that their author lined up.
        Keep = "keep",
        /// All.
        All = "all",
        /// None.
        None = "none",
    }

    /// Whether a comment gets a space behind its marker.
    CommentSpace for CommentSpace {
        /// As written.
        Keep = "keep",
        /// It gets one.
        Add = "add",
    }

    /// Whether comments that are too long are broken.
    CommentWrap for CommentWrap {
        /// They stay.
        Keep = "keep",
        /// They are made to fit.
        Fit = "fit",
    }

    /// Whether capitals count in the order of imports.
    ImportCase for ImportCase {
        /// Capitals first.
        Exact = "exact",
        /// By letters alone.
        Ignore = "ignore",
        /// As the file has it.
        AsFound = "as-found",
    }

    /// Whether imports of single names stand apart from plain ones.
    ImportForm for ImportForm {
        /// Behind them in their group.
        Apart = "apart",
        /// Among them.
        Among = "among",
        /// As the file has it.
        AsFound = "as-found",
    }

    /// What becomes of imports from one place.
    ImportMerge for ImportMerge {
        /// They become one.
        Merge = "merge",
        /// Each name gets an import.
        Split = "split",
        /// They stay as they are.
        Keep = "keep",
        /// As the file has it.
        AsFound = "as-found",
    }

    /// Whether names inside an import are sorted.
    ImportNames for ImportNames {
        /// They are.
        Sort = "sort",
        /// They stay.
        Keep = "keep",
        /// As the file has it.
        AsFound = "as-found",
    }

    /// Where static imports stand.
    ImportStatic for ImportStatic {
        /// In front of all others.
        First = "first",
        /// Behind all others.
        Last = "last",
        /// Among others.
        Among = "among",
        /// As the file has it.
        AsFound = "as-found",
    }

    /// Where `public:` and its like stand.
    AccessPlace for IndentAccess {
        /// With their type.
        Type = "type",
        /// Half a level in.
        Half = "half",
        /// With the members.
        Member = "member",
    }

    /// Where the target of a jump stands.
    LabelPlace for IndentLabel {
        /// At the margin.
        Margin = "margin",
        /// One level out.
        Out = "out",
        /// With the statements.
        In = "in",
    }

    /// Where preprocessor lines stand.
    DirectivePlace for IndentDirective {
        /// At the margin.
        Margin = "margin",
        /// With the code.
        Code = "code",
    }

    /// How a page is indented.
    PageIndent for IndentPage {
        /// All nested.
        Nested = "nested",
        /// `head` and `body` at the margin.
        Flush = "flush",
        /// Also what `body` holds.
        Flat = "flat",
    }

    /// Whether blank lines stay beside the braces of a block.
    BlankEdge for BlankEdge {
        /// They do.
        Keep = "keep",
        /// None stays.
        None = "none",
    }

    /// What becomes of the items of a list of arguments or parameters that takes several lines.
    WrapList for WrapList {
        /// They stay on the lines where their author had them; without any break each gets a line.
        AsFound = "as-found",
        /// Each gets a line.
        Each = "each",
        /// As many on a line as fit.
        Fill = "fill",
    }

    /// What becomes of the operands of a run of operators that takes several lines.
    WrapOperand for WrapOperand {
        /// They stay on the lines where their author had them; without any break each gets a line.
        AsFound = "as-found",
        /// Each gets a line.
        Each = "each",
        /// As many on a line as fit.
        Fill = "fill",
    }

    /// Which blocks get lines of their own.
    BreakBlock for BreakBlock {
        /// Not those of a single statement whose author had them on one line.
        Keep = "keep",
        /// Not those of several, either.
        Several = "several",
        /// All.
        All = "all",
    }

    /// When a single statement gets braces.
    RequiredBraces for BraceRequired {
        /// Never.
        Keep = "keep",
        /// If it is on a line of its own.
        Multiline = "multiline",
        /// Always.
        Always = "always",
    }

    /// Which of the author's line breaks stay.
    KeepBreaks for BreakKeep {
        /// None.
        None = "none",
        /// Those in literals, chains and operators.
        Some = "some",
        /// These, and in a well-kept file all that are meant.
        Meant = "meant",
        /// All.
        All = "all",
    }

    /// Whether each call of a chain gets a line.
    WrapChain for WrapChain {
        /// If it would not fit on one.
        Fit = "fit",
        /// Always from three calls on.
        Always = "always",
        /// Never.
        Never = "never",
    }

    /// Which quotes stand around strings.
    TokenQuote for TokenQuote {
        /// As written.
        Keep = "keep",
        /// `"`.
        Double = "double",
        /// `'`.
        Single = "single",
    }

    /// Whether statements end in a semicolon where a line end would do.
    TokenSemicolon for TokenSemicolon {
        /// As written.
        Keep = "keep",
        /// Always.
        Add = "add",
        /// Only where the next line needs it.
        Remove = "remove",
    }

    /// Whether a list broken into lines gets a comma behind its last item.
    WrapComma for WrapComma {
        /// It gets one.
        Add = "add",
        /// It stays as it is.
        Keep = "keep",
        /// No list has one.
        Remove = "remove",
    }

    /// How far the items of a broken literal stand in.
    WrapLiteral for WrapLiteral {
        /// One level.
        Level = "level",
        /// Like any wrapped line.
        Wrap = "wrap",
    }

    /// How lines end.
    LineEnds for EndOfLine {
        /// With a line feed.
        Lf = "lf",
        /// With a carriage return and a line feed.
        CrLf = "crlf",
        /// As in the file.
        AsFound = "as-found",
    }

    /// Whether the file begins with a byte-order mark.
    Charset for Charset {
        /// Without a byte-order mark.
        Utf8 = "utf-8",
        /// With one.
        Utf8Bom = "utf-8-bom",
        /// As in the file.
        AsFound = "as-found",
    }

    /// What indentation is made of.
    IndentStyle for IndentStyle {
        /// Spaces.
        Space = "space",
        /// Tabs.
        Tab = "tab",
        /// As in the file.
        AsFound = "as-found",
    }

    /// Whether blanks at the end of lines go.
    TrimBlanks for TrimTrailingWhitespace {
        /// In comments, too.
        Always = "true",
        /// Not in comments.
        Never = "false",
        /// Only in code.
        Code = "code",
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::Values;

    #[test]
    fn types_have_the_words_of_their_settings() {
        for (key, listed) in LISTED {
            assert!(matches!(key.setting().values, Values::Words(words) if words == *listed), "{key:?}");
        }
    }
}
