//! Lines that stay where they were written, as they stand for something there.

use vknot_style::Key;
use vknot_syntax::{Node, NodeId, Role, TokenId};

use super::offsets::{Counted, Mark};
use super::place::{By, Place, Spot};
use super::stack::{Frame, Frames};
use super::ways::{Columns, Written};
use crate::spec::indent::Hold;

impl Frames<'_> {
    /// What is known where a frame opens.
    pub(super) fn written_here(&self) -> Written {
        Written { shift: self.ways.as_ref().map_or(0, |ways| ways.shift), ..Written::default() }
    }

    /// How much further in a line stands for lining up with the other lines of its table; what is told of it from here on is told of
    /// where these begin.
    pub(super) fn further_in_table(&mut self, node: &Node, kept: Option<Place>) -> u32 {
        self.tables.ragged = false;
        if kept.is_some() || !self.in_table {
            return 0;
        }
        let further = self.tables.offset(self.source, node.start, self.options.indentation.tab_width);
        self.ways.as_mut().into_iter().for_each(|ways| ways.column = ways.column.saturating_sub(further));
        further
    }

    /// Where a line stays that stands for something; `None` where it goes by the rule.
    pub(super) fn as_written(&mut self, node: &Node, spot: &Spot, comment: bool) -> Option<Place> {
        let ways = self.ways.as_mut()?;
        (ways.above, ways.line) = (ways.line, Columns::default());
        let column = ways.column;
        let candidate = (i64::from(column) + self.top().written.shift).max(0) as u32;
        if comment {
            let stays =
                self.lines_up_comment(candidate) || self.stands_by_brackets() || self.heads_directive(node, column);
            if let Some(ways) = &mut self.ways {
                ways.line_above = (candidate, stays);
                ways.beside &= stays;
            }
            return stays.then(|| spot.place.with_columns(candidate));
        }
        if !self.tables.ragged {
            self.count_offset(node, spot, candidate);
        }
        // What is in a macro gets the size that is set.
        let in_macro = self.tree.role(self.top().node) == Role::Macro;
        if spot.by == By::Author && in_macro && !self.ways.as_ref()?.is_open(Key::IndentSize) {
            return None;
        }
        if spot.by == By::Author {
            return Some(spot.place.with_columns(if column == 0 { 0 } else { candidate }));
        }
        // What was lined up with something goes with it.
        let candidate = self.goes_with_first(spot, candidate).unwrap_or(candidate);
        let alone = candidate != spot.place.columns() && self.forget_shift(column, spot);
        let candidate = if alone { spot.place.columns() } else { candidate };
        let stands =
            candidate == spot.place.columns() || self.explains(node, spot, candidate) || self.stands_by_brackets();
        let shown = &mut self.ways.as_mut()?.shown;
        let wraps = spot.by == By::Wrap && self.table.spec.forms.is_none();
        let (standing, all) = if wraps { &mut shown.wrapped } else { &mut shown.begun };
        *all += 1;
        *standing += u32::from(stands);
        if !stands {
            // What is only looked at stays.
            let counts = self.ways.as_ref().is_some_and(|ways| ways.counted.is_some());
            return counts.then(|| spot.place.with_columns(candidate));
        }
        self.told = true;
        if !self.tables.ragged {
            self.vote(spot, candidate);
        }
        if candidate == spot.place.columns() {
            return Some(spot.place);
        }
        let anchor = match spot.by {
            By::Setting(_, from) | By::Step(from) => from,
            _ => self.top().anchor,
        };
        Some(match candidate.checked_sub(anchor.columns()) {
            Some(further) if further % self.options.size.max(1) == 0 => anchor.deeper(further),
            _ => spot.place.with_columns(candidate),
        })
    }

    /// Whether a line stands right if what it is in was off in its first line alone; then that says nothing of the lines behind it
    /// either.
    fn forget_shift(&mut self, column: u32, spot: &Spot) -> bool {
        let shift = self.top().written.shift;
        let outer = self.stack.iter().rev().take(DEEP).map(|frame| frame.written.shift).find(|outer| *outer != shift);
        let outer = outer.filter(|outer| i64::from(column) + outer == i64::from(spot.place.columns()));
        let Some(outer) = outer else { return false };
        let open = self.stack.iter_mut().rev().take_while(|frame| frame.written.shift == shift);
        open.for_each(|frame| frame.written.shift = outer);
        true
    }

    /// Counts how far in a line stands in the frame it is in, if that is to be found out.
    fn count_offset(&mut self, node: &Node, spot: &Spot, candidate: u32) {
        let (form, origin) = (self.table.spec.forms.is_some(), self.origin(candidate));
        let Some(top) = self.stack.last() else { return };
        let Some(counted) = self.ways.as_mut().and_then(|ways| ways.counted.as_mut()) else { return };
        let (offset, class) = (between(origin, candidate), (top.hold, self.tree.role(top.node)));
        if let By::Setting(Key::IndentCase, from) = spot.by {
            counted.count_mark(Mark::Case, between(from.columns(), candidate));
        }
        let steps = matches!(top.by, By::Step(_)).then(|| between(origin, top.close.columns()));
        if offset < 0 && candidate > 0 && top.hold != Hold::Element {
            return;
        }
        if spot.by == By::Close {
            counted.count_mark(Mark::closing(class), offset);
        }
        let closes = spot.by == By::Close && steps.is_some();
        if spot.place == top.base && spot.by != By::Author && !closes {
            let from = |column: u32| between(origin, column).max(0);
            let (usual, first) = (from(top.written.usual.columns()), top.written.first.map(from));
            let namespace = matches!(spot.by, By::Setting(Key::IndentNamespace, _));
            let begins_tag = || self.source.text().get(node.start as usize..).is_some_and(|rest| rest.starts_with('<'));
            let (tag, margin) = (top.hold == Hold::Element && begins_tag(), candidate == 0);
            counted.count(top.serial, class, Counted { offset, usual, first, form, steps, namespace, tag, margin });
        }
    }

    /// The column from which it is told how far in a line stands: that of the bracket of a form, or that of the line that is gone on
    /// with.
    fn origin(&self, candidate: u32) -> u32 {
        let top = self.top();
        match self.table.spec.forms {
            Some(_) if candidate > 0 => top.written.bracket,
            Some(_) => 0,
            None => top.anchor.columns(),
        }
    }

    /// The number of the frame that a bracket opens, whatever else is open.
    pub(super) fn bracket_serial(token: TokenId) -> u32 {
        token * 2 + 1
    }

    /// The number of the frame of a node.
    pub(super) fn node_serial(node: NodeId) -> u32 {
        node.0 * 2
    }

    /// Where lines inside a frame begin, if most of them stand elsewhere than they should.
    pub(super) fn own_base(&self, serial: u32, by: By, anchor: Place) -> Option<Place> {
        let ways = self.ways.as_ref().filter(|ways| !ways.is_set(by))?;
        let offsets = ways.offsets?;
        Some(match offsets.most(serial)? {
            out if out < 0 => anchor.with_columns(anchor.columns().saturating_sub(out.unsigned_abs())),
            further => anchor.deeper(further.unsigned_abs()),
        })
    }

    /// Whether a line stands as far in as others that are with it.
    pub(super) fn stands_with_others(&self, spot: &Spot, candidate: u32) -> bool {
        let top = self.top();
        let offsets = self.ways.as_ref().and_then(|ways| ways.offsets).filter(|_| spot.place == top.base);
        let offset = between(self.origin(candidate), candidate);
        offsets.is_some_and(|offsets| offsets.accepts(top.serial, offset))
    }

    /// Remembers what a line that begins with a node tells those beside it.
    pub(super) fn note_written(&mut self, spot: &Spot, wanted: Place) {
        let told = std::mem::take(&mut self.told);
        let Some(ways) = &mut self.ways else { return };
        ways.shift = i64::from(wanted.columns()) - i64::from(ways.column);
        ways.line_above = (wanted.columns(), false);
        ways.beside = false;
        // What is at the margin for itself says nothing of others.
        let counts = told || ways.counted.is_none();
        let for_itself = wanted.columns() == 0 && spot.place.columns() > 0;
        if for_itself && (self.tree.token_role(self.line_token) == Role::String || self.begins_preserved()) {
            return;
        }
        let goes_on = self.top().bracket.is_some() && !self.begins_alike(spot);
        let Some(top) = self.stack.last_mut().filter(|_| counts) else { return };
        let branch = top.bracket.is_none() && matches!(top.hold, Hold::Branch | Hold::Arm | Hold::Operands);
        match spot.by {
            By::Setting(Key::IndentCase | Key::IndentAccess, _) => top.written.labels = Some(wanted),
            By::Setting(..) | By::Step(_) if spot.by == top.by && spot.place == top.base => {
                (top.base, top.written.settled) = (wanted, true);
            }
            // What goes on with an item says nothing of the items behind it.
            By::Wrap if goes_on && top.written.settled => {}
            By::Wrap if !branch && spot.place == top.base => {
                if spot.place == top.argument && top.hold == Hold::Header {
                    top.argument = wanted;
                }
                (top.base, top.written.settled) = (wanted, true);
            }
            By::Wrap if !branch && spot.place == top.argument => top.argument = wanted,
            _ => {}
        }
    }

    /// The column of the line on which the statement at hand begins.
    pub(super) fn statement(&self) -> Option<u32> {
        let open = self.stack.iter().rev().take_while(|frame| !is_sequence(frame));
        open.take(DEEP).last().map(|frame| frame.anchor.columns())
    }

    /// Whether a comment stands with something that is open.
    fn lines_up_comment(&self, candidate: u32) -> bool {
        let Some(ways) = &self.ways else { return false };
        let open = self.stack.iter().rev().take(DEEP);
        let mut places = open.flat_map(|frame| [frame.base, frame.anchor]);
        let (above, comment) = ways.line_above;
        let further = i64::from(candidate) - i64::from(self.top().base.columns());
        if ways.beside && further > 0 || further >= i64::from(FAR_OFF) {
            return true;
        }
        // Some stand below what they are about, one step further in.
        candidate == above + if comment { 0 } else { self.options.size }
            || candidate == self.top().base.columns() + self.options.size
            || places.any(|place| place.columns() == candidate)
            || ways.above.contains(candidate)
    }

    /// Counts what a line shows of a setting.
    fn vote(&mut self, spot: &Spot, candidate: u32) {
        let size = self.options.size;
        let top = self.top();
        let (key, word) = match spot.by {
            By::Setting(key, from) => (key, word_of(key, candidate, from.columns(), size)),
            By::Close if top.bracket == Some(b'(') => {
                (Key::IndentBracket, word_of(Key::IndentBracket, candidate, top.anchor.columns(), size))
            }
            By::Wrap => match top.written.first {
                _ if spot.place != top.base || candidate <= top.anchor.columns() => return,
                Some(first) if top.bracket.is_some() => (Key::AlignList, self.list_word(first, candidate)),
                Some(first) => {
                    (Key::AlignOperand, Some(if candidate == first { "true" } else { "false" }))
                }
                None if top.hold == Hold::Literal => (
                    Key::WrapLiteral,
                    match candidate.checked_sub(top.anchor.columns()) {
                        Some(further) if further == size => Some("level"),
                        Some(further) if further == self.options.wrap => Some("wrap"),
                        _ => None,
                    },
                ),
                None => (Key::WrapIndent, word_of(Key::WrapIndent, candidate, top.anchor.columns(), size)),
            },
            _ => return,
        };
        if let (Some(word), Some(ways)) = (word, &mut self.ways) {
            *ways.shown.votes.entry((key, word)).or_default() += 1;
        }
    }

    fn list_word(&self, first: u32, candidate: u32) -> Option<&'static str> {
        let literal = self.top().hold == Hold::Literal;
        match (candidate == first, literal) {
            (true, true) => Some("all"),
            (true, false) => Some("arguments"),
            (false, true) => None,
            (false, false) => Some("none"),
        }
    }

    /// Notes in which column a token stands for the frames it belongs to: those it opened, of which there were `open` before, and the one they are in.
    pub(super) fn note_column(
        &mut self,
        token: TokenId,
        open: usize,
        first_of: Option<(usize, NodeId)>,
        column: &mut dyn FnMut() -> u32,
    ) {
        let Some(ways) = &mut self.ways else { return };
        if self.tree.is_comment(token) {
            ways.beside |= self.line_token != token;
            return;
        }
        let text = self.tree.tokens().get(token as usize).map_or("", |token| self.source.slice(token.span()));
        if matches!(text, "," | ";") {
            return;
        }
        let column = column();
        self.ways.as_mut().into_iter().for_each(|ways| ways.line.insert(column));
        let start = self.tree.tokens().get(token as usize).map_or(0, |token| token.start);
        let was = first_of.and_then(|_| self.begins_in(start));
        let first = first_of.and_then(|(at, node)| self.stack.get_mut(at).filter(|frame| frame.node == node));
        first.into_iter().for_each(|frame| {
            (frame.written.first, frame.written.first_was) = (Some(column), was);
        });
        let from = open.min(self.stack.len()).saturating_sub(1);
        for frame in &mut self.stack[from..] {
            frame.written.columns.insert(column);
        }
    }
}

/// How far in a column is from another one.
pub(super) fn between(from: u32, column: u32) -> i32 {
    let columns = i64::from(column) - i64::from(from);
    columns.clamp(i64::from(i32::MIN), i64::from(i32::MAX)) as i32
}

/// Whether a frame holds items that begin lines.
pub(super) fn is_sequence(frame: &Frame) -> bool {
    matches!(frame.hold, Hold::Flat | Hold::Parts | Hold::Inactive | Hold::Body | Hold::Element)
}

/// How many frames are looked at.
pub(super) const DEEP: usize = 16;

/// How far from the code around it a comment stands that was put where it is.
const FAR_OFF: u32 = 8;

/// The value of a setting that would have a line in a column.
fn word_of(key: Key, candidate: u32, from: u32, size: u32) -> Option<&'static str> {
    let further = candidate.checked_sub(from);
    match key {
        Key::IndentLabel => match from.checked_sub(candidate)? {
            0 => Some("in"),
            out if out == size => Some("out"),
            _ => (candidate == 0).then_some("margin"),
        },
        Key::IndentAccess => match further? {
            0 => Some("type"),
            further if further == size => Some("member"),
            _ => Some("half"),
        },
        Key::IndentPage => match further? {
            0 => Some("flat"),
            _ => Some("nested"),
        },
        _ => match further? {
            0 => Some("0"),
            further if further == size => Some("1"),
            further if further == 2 * size => Some("2"),
            further if further == size.div_ceil(2) => Some("half"),
            _ => None,
        },
    }
}
