//! The one table of settings. Parsing, errors, `style` output and docs all derive from it. What a language makes of them, its own defaults
//! and which of them have an effect in it, stands with the language.

/// What values a setting takes.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum Values {
    /// One of these words.
    Words(&'static [&'static str]),
    /// A whole number from the first to the second, or one of the words.
    Number(u32, u32, &'static [&'static str]),
    /// Names, each with a number up to the first or one of the words: `name=1, other=word`.
    Pairs(u32, &'static [&'static str]),
    /// A list of names, or one of the words.
    Names(&'static [&'static str]),
}

/// One setting.
#[derive(Clone, Copy, Debug)]
pub struct Setting {
    /// What code calls it.
    pub id: Key,
    /// Its key in `.editorconfig` files and `--set`.
    pub key: &'static str,
    /// What it may be set to.
    pub values: Values,
    /// What holds when nothing sets it and the language has no default of its own.
    pub default: &'static str,
    /// One line of help.
    pub help: &'static str,
}

impl Setting {
    /// The setting of that key.
    pub fn named(key: &str) -> Option<&'static Setting> {
        Self::index(key).map(|index| &SETTINGS[index])
    }

    pub(crate) fn index(key: &str) -> Option<usize> {
        SETTINGS.binary_search_by(|setting| setting.key.cmp(key)).ok()
    }

    /// The family it belongs to: what stands behind `vknot_`; of the standard keys those on indentation, and those on the file as a whole.
    pub fn family(&self) -> &'static str {
        match self.key.strip_prefix("vknot_") {
            Some(own) => own.split('_').next().unwrap_or(own),
            None if self.key.starts_with("indent_") || self.key == "tab_width" => "indent",
            None => "file",
        }
    }

    /// The known key most like `key`, if any is close.
    pub fn nearest(key: &str) -> Option<&'static str> {
        let (distance, nearest) =
            SETTINGS.iter().map(|setting| (distance(key, setting.key), setting.key)).min_by_key(|pair| pair.0)?;
        (distance <= 2 + key.len() / 4).then_some(nearest)
    }

    /// Every value it may be set to; none where there is no end of them.
    pub fn choices(&self) -> Vec<String> {
        let words = |words: &[&str]| words.iter().map(|word| (*word).to_owned()).collect::<Vec<String>>();
        match self.values {
            Values::Words(choices) => words(choices),
            Values::Number(least, most, choices) =>
                (least..=most).map(|number| number.to_string()).chain(words(choices)).collect(),
            Values::Pairs(..) => Vec::new(),
            Values::Names(choices) => words(choices),
        }
    }

    /// Checks a value and gives it back in its plain form.
    ///
    /// # Errors
    /// When the setting does not take the value; the error says what it takes.
    pub fn check(&self, value: &str) -> Result<String, ValueError> {
        let value = match self.values {
            // Names are in the case they are in.
            Values::Pairs(..) | Values::Names(_) => value.trim().to_owned(),
            _ => value.trim().to_ascii_lowercase(),
        };
        let fits = match self.values {
            Values::Words(words) => words.contains(&value.as_str()),
            Values::Number(least, most, words) => {
                words.contains(&value.as_str())
                    || value.parse::<u32>().is_ok_and(|number| (least..=most).contains(&number))
            }
            Values::Pairs(most, words) => value.split([',', ' ']).filter(|pair| !pair.is_empty()).all(|pair| {
                let fits = |word: &str| words.contains(&word) || word.parse::<u32>().is_ok_and(|number| number <= most);
                pair.rsplit_once('=').is_some_and(|(name, word)| !name.is_empty() && fits(word))
            }),
            Values::Names(_) => value.split([',', ' ']).all(|name| {
                name.chars().all(|c| c.is_alphanumeric() || matches!(c, '.' | '_' | '-' | '/' | '@' | ':' | '#' | '+'))
            }),
        };
        if fits { Ok(value) } else { Err(ValueError { key: self.key, value, takes: self.takes() }) }
    }

    /// The values it takes, for people.
    pub fn takes(&self) -> String {
        match self.values {
            Values::Words(words) => words.join(" | "),
            Values::Number(least, most, []) => format!("{least} to {most}"),
            Values::Number(least, most, words) => format!("{least} to {most} | {}", words.join(" | ")),
            Values::Pairs(most, words) =>
                format!("NAME=0 to {most} | NAME={}, any number of them", words.join(" | NAME=")),
            Values::Names([]) => "names, any number of them, with commas".to_owned(),
            Values::Names(words) => format!("names, any number of them, with commas | {}", words.join(" | ")),
        }
    }
}

/// A value that a setting does not take.
#[derive(Clone, Debug, PartialEq, Eq, thiserror::Error)]
#[error("{key} does not take `{value}`; it takes {takes}")]
pub struct ValueError {
    /// The setting's key.
    pub key: &'static str,
    /// The value as given.
    pub value: String,
    /// What would have been taken.
    pub takes: String,
}

/// How many single-character edits apart two words are.
fn distance(left: &str, right: &str) -> usize {
    let right: Vec<char> = right.chars().collect();
    let mut row: Vec<usize> = (0..=right.len()).collect();
    for (i, a) in left.chars().enumerate() {
        let mut diagonal = row[0];
        row[0] = i + 1;
        for (j, b) in right.iter().enumerate() {
            let cost = diagonal + usize::from(a != *b);
            diagonal = row[j + 1];
            row[j + 1] = cost.min(row[j] + 1).min(diagonal + 1);
        }
    }
    row[right.len()]
}

/// Makes the keys and the table of one list, which is sorted by key.
macro_rules! settings {
    ($($id:ident: $key:literal, $values:expr, $default:literal, $help:literal;)*) => {
        /// What code calls a setting.
        #[derive(Clone, Copy, Debug, PartialEq, Eq, PartialOrd, Ord, Hash)]
        pub enum Key {
            $(#[doc = $help] $id),*
        }

        /// Every setting, sorted by key.
        pub static SETTINGS: &[Setting] =
            &[$(Setting { id: Key::$id, key: $key, values: $values, default: $default, help: $help }),*];
    };
}

settings! {
    Charset: "charset", Values::Words(&["utf-8", "utf-8-bom", "as-found"]), "as-found",
        "Whether the file begins with a byte-order mark";
    EndOfLine: "end_of_line", Values::Words(&["lf", "crlf", "as-found"]), "as-found",
        "How lines end";
    IndentSize: "indent_size", Values::Number(1, 16, &["tab", "as-found"]), "as-found",
        "Columns of one level of indentation; as found in the file, else as usual in its language";
    IndentStyle: "indent_style", Values::Words(&["space", "tab", "as-found"]), "as-found",
        "What indentation is made of; as found in the file, else spaces (Go and GDScript: tabs)";
    InsertFinalNewline: "insert_final_newline", Values::Words(&["true", "false"]), "true",
        "Whether the last line has a line end";
    MaxLineLength: "max_line_length", Values::Number(20, 1000, &["off", "as-found"]), "as-found",
        "Columns a line may take before it is wrapped; as found: 80, 100 or 120, whatever holds all lines of the file, up to 160 what holds most of them in a well-kept one, else 100";
    TabWidth: "tab_width", Values::Number(1, 16, &["indent"]), "indent",
        "Columns a tab stands for";
    TrimTrailingWhitespace: "trim_trailing_whitespace", Values::Words(&["true", "false", "code"]), "code",
        "Whether blanks at the end of lines go: in comments too, or only in code, where a layout leaves none in any case";
    AlignColumn: "vknot_align_column", Values::Words(&["keep", "all", "none"]), "keep",
        "Which columns of neighbouring lines are lined up, such as the types of fields: those that their author lined up, all, none";
    AlignComment: "vknot_align_comment", Values::Words(&["keep", "all", "none"]), "keep",
        "Which comments behind code on neighbouring lines are lined up: those that their author lined up, all, none";
    AlignList: "vknot_align_list", Values::Words(&["none", "arguments", "all"]), "none",
        "Which lists line up with their first item if that stands behind the bracket: none, those in round brackets, literals too";
    AlignOperand: "vknot_align_operand", Values::Words(&["true", "false"]), "false",
        "Whether what wraps lines up with the first operand behind `=` or `return`";
    AlignTabs: "vknot_align_tabs", Values::Words(&["true", "false"]), "false",
        "Where levels are tabs: whether what lines up gets tabs, too, as far as they fit, or spaces only";
    BlankEdge: "vknot_blank_edge", Values::Words(&["keep", "none"]), "keep",
        "Whether blank lines behind an opening brace and in front of a closing one stay";
    BlankItem: "vknot_blank_item", Values::Number(0, 1, &[]), "0",
        "Fewest blank lines around a type or callable that has a body";
    BlankKind: "vknot_blank_kind", Values::Number(0, 1, &[]), "0",
        "Fewest blank lines between members of different kinds: values, callables, types";
    BlankMember: "vknot_blank_member", Values::Number(0, 1, &["as-found"]), "as-found",
        "Blank lines between neighbouring members without a body, if no comment parts them";
    BlankMost: "vknot_blank_most", Values::Number(0, 9, &["as-found"]), "as-found",
        "Blank lines in a row that are kept; as found: so many as a third of all places between items have, one where nothing shows more";
    BraceAccessor: "vknot_brace_accessor", Values::Words(&["same", "next", "as-found"]), "as-found",
        "Where the brace of a property, an event and what reads or sets them opens: on the same line or on the next; usually as that of a callable";
    BraceControl: "vknot_brace_control", Values::Words(&["same", "next", "as-found"]), "as-found",
        "Where the brace of a conditional or loop opens: on the same line or on the next";
    BraceDeclaration: "vknot_brace_declaration", Values::Words(&["same", "next", "as-found"]), "as-found",
        "Where the brace of a callable opens: on the same line or on the next";
    BraceEmpty: "vknot_brace_empty", Values::Words(&["same", "next", "as-found"]), "as-found",
        "Where the closing brace of a type or a callable with a name stands that holds nothing, if the opening one does not begin a line: behind that, or on the next line; those of a well-kept file stay";
    BraceFollow: "vknot_brace_follow", Values::Words(&["same", "next", "as-found"]), "as-found",
        "Where `else` and the like stand behind a closing brace: on the same line or on the next; usually as the brace of a conditional";
    BraceLambda: "vknot_brace_lambda", Values::Words(&["same", "next", "as-found"]), "as-found",
        "Where the brace of a callable, or of a class in Java, without a name opens: on the same line or on the next";
    BraceRequired: "vknot_brace_required", Values::Words(&["keep", "multiline", "always"]), "keep",
        "Whether a single statement under a conditional or loop gets braces: never, if it is on a line of its own, always";
    BraceType: "vknot_brace_type", Values::Words(&["same", "next", "as-found"]), "as-found",
        "Where the brace of a type opens: on the same line or on the next; usually as that of a callable";
    BraceWrapped: "vknot_brace_wrapped", Values::Words(&["same", "next", "as-found"]), "as-found",
        "Where a brace that opens on the same line does so if its head wraps and ends further in: there, or on the next line";
    BreakBlock: "vknot_break_block", Values::Words(&["keep", "several", "all"]), "keep",
        "Which blocks stay on their line where their author had it so: those with a single statement, as a `case` with one does, those with several, too, or none; in Java the first stay in a well-kept file if nothing says otherwise";
    BreakKeep: "vknot_break_keep", Values::Words(&["none", "some", "meant", "all"]), "meant",
        "Which line breaks of the author's stay though the line would fit: none, those in literals, chains and operators, in a well-kept file all between parts that begin lines further in and in one column, all";
    CommentGap: "vknot_comment_gap", Values::Number(1, 8, &["as-found"]), "as-found",
        "Spaces between code and the comment behind it, if nothing lines it up; between the longest line and what is lined up behind it";
    CommentSpace: "vknot_comment_space", Values::Words(&["keep", "add"]), "keep",
        "Whether a comment that ends with its line gets a space behind its marker, if a letter or a digit stands there";
    CommentWrap: "vknot_comment_wrap", Values::Words(&["keep", "fit"]), "keep",
        "Whether comments on lines of their own that are too long go on with the next line: as their author had them, so that they fit, into 100 columns where lines have no limit";
    ImportBlank: "vknot_import_blank", Values::Number(0, 1, &["as-found"]), "as-found",
        "Blank lines between groups of imports";
    ImportCase: "vknot_import_case", Values::Words(&["exact", "ignore", "as-found"]), "as-found",
        "Whether imports are sorted with capitals first, or by letters alone";
    ImportDoc: "vknot_import_doc", Values::Words(&["true", "false"]), "true",
        "Whether a name in a doc comment counts as used";
    ImportForm: "vknot_import_form", Values::Words(&["apart", "among", "as-found"]), "as-found",
        "Whether `import a` stands before `from a import b` in its group, or both stand among each other";
    ImportGroups: "vknot_import_groups", Values::Names(&["as-found"]), "as-found",
        "Groups of imports in order: `standard`, `other`, `own`, `near`, `types`, or how what is imported begins; `java+javax` puts no blank line between the two; with `written` first inside the groups that their author set apart";
    ImportInclude: "vknot_import_include", Values::Words(&["keep", "sort"]), "keep",
        "Whether includes are sorted, each in the group that its author set apart and the file's own header first; what a header says may depend on those in front of it";
    ImportMerge: "vknot_import_merge", Values::Words(&["merge", "split", "keep", "as-found"]), "as-found",
        "Whether imports from one place become one, get a line for each name, or stay as they are; as found: they become one, unless the file has more of them than imports of several names";
    ImportNames: "vknot_import_names", Values::Words(&["sort", "keep", "as-found"]), "as-found",
        "Whether the names inside an import are sorted";
    ImportOffer: "vknot_import_offer", Values::Words(&["keep", "prune"]), "keep",
        "What becomes of imports that the file of a package itself does not use, and others may take from it";
    ImportOwn: "vknot_import_own", Values::Names(&[]), "",
        "How what is imported from the project itself begins, beside what is known to be";
    ImportRequire: "vknot_import_require", Values::Words(&["true", "false"]), "false",
        "Whether `require` at the top of a file counts as an import";
    ImportStatic: "vknot_import_static", Values::Words(&["first", "last", "among", "as-found"]), "as-found",
        "Where static imports stand";
    ImportWildcard: "vknot_import_wildcard", Values::Number(2, 99, &["keep", "expand"]), "keep",
        "Whether an import of all names becomes one for each name that is used, or so many from one place become an import of all; only where all names there are known";
    IndentAccess: "vknot_indent_access", Values::Words(&["type", "half", "member"]), "type",
        "Where `public:` and its like stand: with their type, half a level in, with the members";
    IndentBrace: "vknot_indent_brace", Values::Number(0, 1, &[]), "0",
        "Levels of indentation of a conditional's or loop's brace on a line of its own";
    IndentBracket: "vknot_indent_bracket", Values::Number(0, 1, &[]), "0",
        "Levels of indentation of a closing round bracket on a line of its own";
    IndentCase: "vknot_indent_case", Values::Number(0, 1, &["half"]), "1",
        "Levels of indentation of a `case` in its `switch`, or half a one";
    IndentCaseBrace: "vknot_indent_case_brace", Values::Number(0, 1, &[]), "1",
        "Levels of indentation of a brace on a line of its own behind a `case`";
    IndentCaseElse: "vknot_indent_case_else", Values::Number(0, 1, &[]), "0",
        "Levels of indentation of the `else` of a `case`";
    IndentCondition: "vknot_indent_condition", Values::Number(0, 2, &["wrap"]), "wrap",
        "Levels of indentation of a line that begins with an operator, in a condition that no bracket encloses, or as any wrapped line";
    IndentDirective: "vknot_indent_directive", Values::Words(&["margin", "code"]), "margin",
        "Where preprocessor lines stand: at the margin, or with the code";
    IndentElseIf: "vknot_indent_else_if", Values::Number(0, 1, &[]), "1",
        "Levels of indentation of an `if` on the line behind its `else`";
    IndentFunction: "vknot_indent_function", Values::Number(0, 1, &[]), "1",
        "Levels of indentation of the body of a function that no type holds";
    IndentHeads: "vknot_indent_heads", Values::Pairs(9, &["call", "data", "clauses", "inner", "aligned-2", "aligned-3"]), "",
        "How forms with these heads are indented: how many arguments belong to the head, the rest being a body; or as calls, data, clauses, or with a body inside their first element; `[` stands for all that begin with a bracket";
    IndentLabel: "vknot_indent_label", Values::Words(&["margin", "out", "in"]), "out",
        "Where the target of a jump stands: at the margin, one level out, or with the statements";
    IndentNamespace: "vknot_indent_namespace", Values::Number(0, 1, &[]), "1",
        "Levels of indentation of what a namespace holds";
    IndentOperand: "vknot_indent_operand", Values::Number(0, 2, &[]), "0",
        "Levels of indentation of the wrapped lines of an item of a list against its first line";
    IndentPage: "vknot_indent_page", Values::Words(&["nested", "flush", "flat"]), "nested",
        "How a page is indented: all nested, `head` and `body` at the margin, also what `body` holds";
    IndentWrapper: "vknot_indent_wrapper", Values::Number(0, 1, &[]), "1",
        "Levels by which the code of a file stands in from a function that holds all of it, such as a module's";
    SpaceArguments: "vknot_space_arguments", Values::Words(&["false", "true", "as-found"]), "as-found",
        "Whether a space stands between what is called and the arguments handed over";
    SpaceAssignment: "vknot_space_assignment", Values::Words(&["false", "true", "as-found"]), "as-found",
        "Whether spaces stand round an operator that assigns";
    SpaceBlock: "vknot_space_block", Values::Words(&["false", "true", "as-found"]), "as-found",
        "Whether spaces stand between the curly brackets of a block and what is on their line in front of the first and behind the last";
    SpaceBrace: "vknot_space_brace", Values::Words(&["false", "true", "as-found"]), "as-found",
        "Whether literals and the like on one line have spaces inside their curly brackets";
    SpaceBracket: "vknot_space_bracket", Values::Words(&["false", "true", "as-found"]), "as-found",
        "Whether literals on one line have spaces inside their square brackets";
    SpaceCast: "vknot_space_cast", Values::Words(&["false", "true", "as-found"]), "as-found",
        "Whether a space stands behind the bracket of a cast";
    SpaceColon: "vknot_space_colon", Values::Words(&["false", "true", "as-found"]), "as-found",
        "Whether a space stands behind the colon of a declaration";
    SpaceComma: "vknot_space_comma", Values::Words(&["false", "true", "as-found"]), "as-found",
        "Whether a space stands behind the commas of values";
    SpaceComparison: "vknot_space_comparison", Values::Words(&["false", "true", "as-found"]), "as-found",
        "Whether spaces stand round an operator that compares";
    SpaceControl: "vknot_space_control", Values::Words(&["false", "true", "as-found"]), "as-found",
        "Whether a space stands between `if` and the like and the round bracket behind it";
    SpaceEmbedded: "vknot_space_embedded", Values::Words(&["false", "true", "as-found"]), "as-found",
        "Whether code inside elements has spaces inside its brackets";
    SpaceEmpty: "vknot_space_empty", Values::Words(&["false", "true", "as-found"]), "as-found",
        "Whether the brackets of a block, or of a literal in C#, that holds nothing hold a space";
    SpaceIndex: "vknot_space_index", Values::Words(&["false", "true", "as-found"]), "as-found",
        "Whether the brackets of an index have spaces inside";
    SpaceLambda: "vknot_space_lambda", Values::Words(&["false", "true", "as-found"]), "as-found",
        "Whether a space stands between the keyword of a callable without a name and its parameters";
    SpaceLogical: "vknot_space_logical", Values::Words(&["false", "true", "as-found"]), "as-found",
        "Whether spaces stand round an operator that joins conditions";
    SpaceOperator: "vknot_space_operator", Values::Words(&["false", "true", "as-found"]), "as-found",
        "Whether spaces stand round any other operator between two operands";
    SpacePair: "vknot_space_pair", Values::Words(&["false", "true", "as-found"]), "as-found",
        "Whether a space stands in front of the colon of a pair";
    SpaceParameters: "vknot_space_parameters", Values::Words(&["false", "true", "as-found"]), "as-found",
        "Whether a space stands between the name of a callable and its parameters";
    SpaceParenthesis: "vknot_space_parenthesis", Values::Words(&["false", "true", "as-found"]), "as-found",
        "Whether round brackets on one line have spaces inside";
    SpaceUnary: "vknot_space_unary", Values::Words(&["false", "true", "as-found"]), "as-found",
        "Whether a space stands between an operator and its only operand";
    TokenQuote: "vknot_token_quote", Values::Words(&["keep", "double", "single"]), "keep",
        "Which quotes stand around strings, where both mean the same and neither needs more backslashes";
    TokenSemicolon: "vknot_token_semicolon", Values::Words(&["keep", "add", "remove"]), "keep",
        "Whether statements and members end in a semicolon where a line end would do: as written, always, only where the next line needs it";
    WrapAnnotation: "vknot_wrap_annotation", Values::Words(&["keep", "next", "as-found"]), "as-found",
        "Whether what an annotation of a callable or type is on goes to the next line, or stays on its line where its author has it there";
    WrapChain: "vknot_wrap_chain", Values::Words(&["fit", "always", "never"]), "fit",
        "Whether each call of a chain gets a line: if it would not fit on one, always from three calls on, never";
    WrapComma: "vknot_wrap_comma", Values::Words(&["add", "keep", "remove"]), "keep",
        "Whether a list broken into lines gets a comma behind its last item, where the language takes one, or no list has one";
    WrapConditional: "vknot_wrap_conditional", Values::Words(&["before", "after", "as-found"]), "as-found",
        "Whether the line of a conditional expression breaks before its `?` and `:` or after them";
    WrapIndent: "vknot_wrap_indent", Values::Number(0, 4, &["half"]), "1",
        "Levels of indentation of a wrapped line, or half a one";
    WrapList: "vknot_wrap_list", Values::Words(&["as-found", "each", "fill"]), "as-found",
        "What becomes of the items of a list of arguments or parameters that takes several lines: as its author had them, each on a line, filled";
    WrapLiteral: "vknot_wrap_literal", Values::Words(&["level", "wrap"]), "level",
        "How far the items of a broken literal stand in: one level, or like any wrapped line";
    WrapOperand: "vknot_wrap_operand", Values::Words(&["as-found", "each", "fill"]), "as-found",
        "What becomes of the operands of a run of operators that takes several lines: as its author had them, each on a line, filled";
    WrapOperator: "vknot_wrap_operator", Values::Words(&["before", "after", "as-found"]), "as-found",
        "Whether a line breaks before an operator or after it";
    WrapSelector: "vknot_wrap_selector", Values::Words(&["fit", "each", "as-found"]), "as-found",
        "Whether each selector of a rule gets a line, or as many share one as fit";
    WrapTag: "vknot_wrap_tag", Values::Words(&["before", "after", "as-found"]), "as-found",
        "Whether the bracket that ends a tag of several lines stands on a line of its own, before which the line breaks, or behind the last attribute";
}

impl Key {
    /// The setting.
    pub fn setting(self) -> &'static Setting {
        &SETTINGS[self as usize]
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn the_table_is_sorted_and_its_defaults_are_taken() {
        assert!(SETTINGS.is_sorted_by_key(|setting| setting.key));
        for setting in SETTINGS {
            assert_eq!(setting.check(setting.default).as_deref(), Ok(setting.default), "{}", setting.key);
            assert_eq!(setting.id.setting().key, setting.key);
            assert!(!setting.help.is_empty() && !setting.help.ends_with('.'), "{}", setting.key);
        }
    }

    #[test]
    fn a_wrong_value_is_told_what_would_do() {
        let setting = Setting::named("max_line_length").unwrap();
        assert_eq!(setting.check("OFF").as_deref(), Ok("off"));
        let error = setting.check("wide").unwrap_err();
        assert_eq!(error.to_string(), "max_line_length does not take `wide`; it takes 20 to 1000 | off | as-found");
    }

    #[test]
    fn a_mistyped_key_finds_its_neighbour() {
        assert_eq!(Setting::nearest("vknot_brace_controls"), Some("vknot_brace_control"));
        assert_eq!(Setting::nearest("colour"), None);
    }
}
