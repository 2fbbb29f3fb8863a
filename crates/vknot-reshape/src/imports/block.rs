//! Runs of imports with what belongs to each.

use vknot_syntax::{NodeId, Role, Span};

use crate::items::Item;
use crate::spec::Code;
use crate::spec::imports::Import;

/// One import with what moves along with it.
#[derive(Clone, Debug)]
pub(crate) struct Line {
    pub node: NodeId,
    /// Comments and attributes on the lines above, as written.
    pub above: Vec<String>,
    /// Whether those are comments alone, which in front of the first import of a group would head the group.
    pub commented: bool,
    /// The comments behind it on its line, with the white space in front.
    pub behind: Option<String>,
    /// How many blank lines were in front of it.
    pub blank: u32,
}

impl Line {
    pub fn of(code: Code<'_>, item: &Item, blank: u32) -> Line {
        let text = |id: &NodeId| code.tree.text_of(code.source.text(), *id).to_owned();
        let is_comment = |id: &NodeId| code.tree.role(*id) == Role::Comment;
        let last =
            item.separator.filter(|mark| item.trails.first().is_none_or(|trail| mark < trail)).unwrap_or(item.node);
        let behind = item.trails.last().map(|trail| {
            Span::new(code.tree.node(last).end, code.tree.node(*trail).end)
        });
        Line {
            node: item.node,
            above: item.leads.iter().map(text).collect(),
            commented: !item.leads.is_empty() && item.leads.iter().all(is_comment),
            behind: behind.map(|span| code.source.slice(span).to_owned()),
            blank,
        }
    }

    /// Whether something moves along with it, so that it can be neither merged nor dropped.
    pub fn is_dressed(&self) -> bool {
        !self.above.is_empty() || self.behind.is_some()
    }

    /// What moves along and stands in front of it.
    pub fn in_front(&self, indent: &str, line_end: &str) -> String {
        self.above.iter().map(|above| format!("{indent}{above}{line_end}")).collect()
    }
}

/// An import with what goes along with it.
#[derive(Clone, Debug)]
pub(crate) struct Entry {
    pub line: Line,
    /// `None` where it is not known what it says.
    pub import: Option<Import>,
    /// As its author wrote it.
    pub written: String,
    pub group: Group,
}

/// Which of its author's groups an import is in.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq)]
pub(crate) enum Group {
    /// That of the line where it stands.
    #[default]
    Own,
    /// One in front of all others.
    First,
    /// One behind all others.
    Last,
}

impl Group {
    /// Its place among the groups of a block, that of the line being the one given.
    pub fn place(self, line: usize) -> usize {
        match self {
            Group::First => 0,
            Group::Own => line + 1,
            Group::Last => usize::MAX,
        }
    }
}

impl Entry {
    pub fn is_barrier(&self) -> bool {
        self.import.as_ref().is_none_or(|import| import.barrier)
    }

    /// Whether it can be put together with others.
    pub fn is_plain(&self) -> bool {
        !self.line.is_dressed() && self.import.as_ref().is_some_and(|import| !import.fixed && !import.barrier)
    }
}

/// Imports that follow one another with nothing between them but what belongs to each.
#[derive(Clone, Debug)]
pub(crate) struct Block {
    /// What holds them.
    pub holder: NodeId,
    /// From the start of the first line's first piece to the end of the last.
    pub span: Span,
    /// The white space in front of the first.
    pub indent: String,
    /// How its first line ends.
    pub line_end: &'static str,
    pub lines: Vec<Line>,
    /// Where each stands with what belongs to it, if they are items of a form; else nothing.
    pub places: Vec<Span>,
}
