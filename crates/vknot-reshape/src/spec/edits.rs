//! What a language's folder says for edits by structure.

use vknot_syntax::{NodeId, Role};

use super::Code;
use super::laws::Law;
use super::scopes::ScopeSpec;

/// What edits go by, where roles do not tell.
pub(crate) struct EditSpec {
    /// The mark that must stand between statements, where the last one may do without; empty where there is none.
    pub between: &'static str,
    /// What parts items of lists; empty for white space.
    pub listed: &'static str,
    /// The operator that puts two strings together, empty where they need only stand side by side; `None` where nothing does.
    pub strings: Option<&'static str>,
    /// What turns a condition, in front of it; empty where branches cannot be swapped.
    pub negation: &'static str,
    /// The operator by which both conditions must hold; empty where an `if` cannot be split.
    pub both: &'static str,
    /// Kinds of conditional statement with fields `condition`, `consequence` and `alternative`.
    pub conditionals: &'static [&'static str],
    /// Kinds of statement that declare several names behind one head.
    pub declarations: &'static [&'static str],
    /// Whether a list that is broken into lines has a mark behind its last item.
    pub trailing: bool,
    /// What its names are bound to; `None` where that is told by word.
    pub scopes: Option<&'static ScopeSpec>,
    /// What compilers do not take though the grammar does.
    pub laws: &'static [Law],
}

/// What holds for most languages.
pub(crate) const EDITS_OF_MOST: EditSpec = EditSpec {
    between: "",
    listed: ",",
    strings: None,
    negation: "",
    both: "",
    conditionals: &[],
    declarations: &[],
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
