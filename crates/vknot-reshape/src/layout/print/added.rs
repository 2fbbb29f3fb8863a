//! Tokens that come in: braces that the style requires, and commas behind the last item of a broken list.

use super::{Added, Printer};
use crate::layout::plan::{Form, GapPlan};

impl Printer<'_, '_> {
    /// Puts in `,` behind the last item of a broken list.
    pub(super) fn adds_comma(&mut self, gap: u32) {
        while let Some(comma) = self.commas.last().copied().filter(|comma| comma.gap <= gap) {
            self.commas.pop();
            if self.broken.get(comma.group as usize).copied().unwrap_or(false) && self.written_is_plain(gap) {
                self.buffer.push(',');
                self.column += 1;
                self.added.push(Added { text: ",", gap });
            }
        }
    }

    fn written_is_plain(&self, gap: u32) -> bool {
        let form = self.planner.plan.gaps[gap as usize].form;
        self.planner.written[gap as usize].plain && form != Form::Verbatim
    }

    /// Puts in `{` where a statement gets braces in this gap.
    pub(super) fn opens_braces(&mut self, gap: u32) -> bool {
        let mut any = false;
        while let Some(braces) = self.opening.last().copied().filter(|braces| braces.open == gap) {
            self.opening.pop();
            any = true;
            let inside = self.frames.spot_of(gap).place;
            let mut outside = inside.shallower(self.paper.indentation.size);
            let mut deeper = 0;
            if self.planner.options.control_next {
                deeper = self.paper.frames.brace;
                outside = outside.deeper(deeper);
                self.write_line(gap, Some(1), outside);
            } else {
                self.buffer.push(' ');
            }
            self.buffer.push('{');
            self.added.push(Added { text: "{", gap });
            self.line_place = self.frames.begin_line(gap, Some(inside.deeper(deeper)));
            self.column = self.line_place.columns();
            self.settle();
            self.write_line(gap, Some(1), self.line_place);
            self.closing.push((braces, outside));
        }
        any
    }

    /// Puts in `}` where statements that got braces end in this gap.
    pub(super) fn closes_braces(&mut self, gap: u32, plan: &GapPlan) -> bool {
        let mut any = false;
        while let Some((_, place)) = self.closing.last().copied().filter(|(braces, _)| braces.close == gap) {
            self.closing.pop();
            any = true;
            self.write_line(gap, Some(1), place);
            self.buffer.push('}');
            (self.line_place, self.column) = (place, place.columns() + 1);
            self.frames.begin_made_line(place);
            self.added.push(Added { text: "}", gap });
        }
        if any && gap < self.planner.tree.tokens().len() as u32 {
            match plan.joins {
                true => self.same_line(true),
                false => self.format_gap(gap, plan),
            }
        }
        any
    }
}
