//! Elements of markup and their attributes.

use vknot_syntax::NodeId;

use super::stack::Frames;
use vknot_style::choices::AlignList;
use crate::spec::indent::Hold;
use super::marks::is_one_of;

impl Frames<'_> {
    /// Whether what an element holds stands at its own line.
    pub(super) fn is_flush(&self, id: NodeId) -> bool {
        let page = self.table.spec.page;
        self.is_element(id, &page[..self.options.flush_elements.min(page.len())])
    }

    /// Whether white space inside a node is shown as it is.
    pub(super) fn is_preserved(&self, id: NodeId, hold: Hold) -> bool {
        hold == Hold::Element && self.is_element(id, self.table.spec.preserved)
    }

    /// Whether an element has one of some names.
    pub(super) fn is_element(&self, id: NodeId, names: &[&str]) -> bool {
        if names.is_empty() {
            return false;
        }
        // What names an element to its readers may be its `id`.
        let tag = self.tree.child_named(id, "parameters").and_then(|tag| self.tree.children(tag).nth(1));
        tag.is_some_and(|tag| is_one_of(names, self.text(tag)))
    }

    /// Attributes line up with the first one, which stands in that column, if that is behind the name of the tag.
    pub(super) fn enter_attributes(&mut self, column: u32) {
        let lined_up = self.current.lined_up(column);
        let aligns = self.options.align == AlignList::All && column > self.current.columns();
        if let Some(last) = self.stack.last_mut() {
            last.named = true;
            last.base = if aligns { lined_up } else { last.base };
        }
    }
}
