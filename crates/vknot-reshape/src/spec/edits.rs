//! What a language's folder says for edits by structure.

use vknot_syntax::{NodeId, Role};

use super::{Code, EditSpec};

/// What holds for most languages.
pub(crate) const EDITS_OF_MOST: EditSpec = EditSpec {
    between: "",
    listed: ",",
    strings: None,
    negation: "",
    both: "",
    conditionals: &[],
    declarations: &[],
    lines_end: false,
    fixed: &[],
    trailing: false,
    scopes: None,
    laws: &[],
};

impl EditSpec {
    /// What parts the items of a node that shows none.
    pub fn separator(&self, code: Code<'_>, holder: NodeId) -> Option<&'static str> {
        let listed = matches!(code.tree.role(holder), Role::List | Role::Arguments | Role::Collection);
        Some(self.listed).filter(|mark| listed && !mark.is_empty())
    }

    /// The mark that an item gets that had none, being the last.
    pub fn between_or(&self, separator: Option<&'static str>) -> &'static str {
        match separator {
            Some(mark) => mark,
            None if self.between.is_empty() => ",",
            None => self.between,
        }
    }
}
