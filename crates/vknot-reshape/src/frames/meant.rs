//! What a line may stand for, though the rule says another column for it.

use vknot_style::Key;
use vknot_syntax::{Node, Role};

use super::marks::{closer, leads_clause};
use super::offsets::Mark;
use super::place::{By, margin_behind_first, Place, Spot};
use super::stack::{Frame, Frames};
use super::written::{between, DEEP, is_sequence};
use crate::spec::indent::{Hold, TemplatePart};

impl Frames<'_> {
    /// Whether a line may stand in a column though the rule says another one.
    pub(super) fn explains(&self, node: &Node, spot: &Spot, candidate: u32) -> bool {
        let Some(ways) = &self.ways else { return false };
        let (top, size) = (self.top(), self.options.size);
        let further = |from: Place| candidate.checked_sub(from.columns());
        let step = |from: Place| further(from).is_some_and(|further| [0, size.div_ceil(2), size].contains(&further));
        let sized = !ways.is_open(Key::IndentSize);
        let in_conditional = !matches!(spot.by, By::Wrap | By::Close) && !self.conditionals.is_empty() && !sized;
        let in_conditional = in_conditional && further(spot.place).is_some_and(|further| further <= size);
        if ways.is_set(spot.by) {
            return false;
        }
        if candidate == 0 && self.begins_preserved()
            || self.begins_piece(node)
            || self.stands_by_mark(spot, candidate)
            || in_conditional
            || further(spot.place) == Some(size) && self.goes_on_unread()
            || self.stands_with_others(spot, candidate)
            || self.stands_before_comma(node)
            || self.is_outermost(node, candidate)
            || self.stands_in_template(node, spot, candidate)
        {
            return true;
        }
        match spot.by {
            By::Author => false,
            By::Structure => self.statement_around().is_some_and(|place| further(place) == Some(size)),
            By::Setting(Key::IndentCase | Key::IndentAccess, _) if top.written.labels.is_some() => false,
            _ if top.written.settled && spot.by == top.by && self.begins_alike(spot) => false,
            By::Step(from) => step(from) || self.opens_with_statement(node, candidate),
            By::Setting(Key::IndentAccess, from) => further(from).is_some_and(|further| further <= size),
            By::Setting(Key::IndentCase, from) => step(from) || self.stands_as_cases(from, candidate),
            By::Setting(Key::IndentLabel, base) => candidate <= base.columns(),
            By::Setting(_, from) => step(from),
            By::Close => self.closes_at(node, candidate),
            By::Wrap => {
                self.wraps_at(candidate)
                    || self.opens_with_statement(node, candidate)
                    || self.begins_anew(node, candidate)
                    || self.goes_on_with_operation(node, candidate)
                    || self.leads_alike(node, candidate)
                    || self.gets_the_same(node) && self.statement() == Some(candidate)
                    || self.stands_with_holder(candidate)
                    || self.chooses_again() && candidate == top.anchor.columns()
                    || self.goes_on_declaring(node) && candidate == top.anchor.columns()
                    || self.is_number_of_table(node, candidate)
                    || self.is_text_at_margin(node, candidate)
                    || self.is_near_bracket(candidate)
                    || self.first_text(node) == ";" && self.statement() == Some(candidate)
                    || self.first_text(node) == "," && self.leads_item(node, candidate)
            }
        }
    }

    /// Whether the line at hand begins with an element in which white space is shown: all of it may stand at the margin.
    pub(super) fn begins_preserved(&self) -> bool {
        let first = self.tree.tokens().get(self.line_token as usize);
        let holders = first.into_iter().flat_map(|first| self.tree.ancestors(first.node).take(3));
        let mut begun = holders.take_while(|id| self.tree.node(*id).first_token == self.line_token);
        !self.table.spec.preserved.is_empty()
            && begun.any(|id| self.is_preserved(id, self.table.kind(self.tree.node(id).kind).hold))
    }

    /// Whether a line begins with code of another language, none of which stands further out: its author may have put it anywhere.
    fn begins_piece(&self, node: &Node) -> bool {
        let first = self.tree.tokens().get(node.first_token as usize);
        let piece =
            first.and_then(|first| self.tree.piece_in(first.node)).filter(|piece| piece.span().start == node.start);
        piece.is_some_and(|piece| {
            let margin = margin_behind_first(piece.source.text(), self.options.indentation.tab_width);
            margin.is_none_or(|(_, least)| least >= self.written_column(node.start))
        })
    }

    /// Whether a comma that leads a line stands with the line of its bracket, or what is behind it with the items of that.
    fn leads_item(&self, node: &Node, candidate: u32) -> bool {
        let top = self.top();
        let behind = self.tree.tokens().get(node.first_token as usize + 1).map_or(0, |next| next.start - node.start);
        let columns = [top.close, top.base].map(Place::columns);
        top.bracket.is_some() && (columns.contains(&candidate) || candidate + behind == top.base.columns())
    }

    /// Whether a line stands further in than its place by as many levels as there are blocks open around it, or fewer.
    pub(super) fn stands_in_template(&self, node: &Node, spot: &Spot, candidate: u32) -> bool {
        let size = self.options.size.max(1);
        let further = |from: Place, levels: u32| {
            let further = candidate.checked_sub(from.columns());
            further.is_some_and(|further| further <= levels * size && further % size == 0)
        };
        // What parts or ends a block may stand in an element that nothing ends.
        let parts = self.templates.part(node.first_token).is_some_and(|part| part != TemplatePart::Begin);
        let mut holders = self.stack.iter().rev().take(DEEP);
        match parts {
            true => holders.any(|frame| {
                let open = frame.written.templates;
                open > 0 && further(frame.anchor, open)
            }),
            false => !spot.closes && further(spot.place, self.top().written.templates),
        }
    }

    /// Whether a label of a case stands as far in as most others.
    fn stands_as_cases(&self, from: Place, candidate: u32) -> bool {
        let offsets = self.ways.as_ref().and_then(|ways| ways.offsets);
        offsets.is_some_and(|offsets| offsets.accepts_mark(Mark::Case, between(from.columns(), candidate)))
    }

    /// Whether a line inside brackets goes by the mark that leads the line of the opening one, not by what is behind the mark.
    fn stands_by_mark(&self, spot: &Spot, candidate: u32) -> bool {
        let top = self.top();
        top.written.mark.is_some_and(|mark| match spot.by {
            By::Close => candidate == mark,
            By::Structure => spot.place == top.base && candidate == mark + self.options.size,
            _ => false,
        })
    }

    /// Whether the line at hand stands right by brackets alone, in a text that could not be read as a whole.
    pub(super) fn stands_by_brackets(&self) -> bool {
        let bracketed = self.ways.as_ref().and_then(|ways| ways.bracketed);
        bracketed.is_some_and(|bracketed| bracketed.contains(&self.line_token))
    }

    /// Whether a line in what the reader could not put together follows one that nothing ends, such as a condition.
    fn goes_on_unread(&self) -> bool {
        let unread = |frame: &Frame| self.tree.role(frame.node) == Role::Error;
        self.tree.has_error()
            && !self.table.spec.ends.contains(&self.before())
            && self.stack.iter().rev().take(DEEP).any(unread)
    }

    /// Where the statement begins in whose brackets the body at hand is, which may stand against it.
    fn statement_around(&self) -> Option<Place> {
        // The body has a frame, and its brackets have one.
        let body = self.stack.iter().rev().take(2).take_while(|frame| is_sequence(frame)).count();
        let around = self.stack.iter().rev().skip(body).take_while(|frame| !is_sequence(frame)).take(DEEP);
        let list = around.clone().any(|frame| frame.bracket.is_some());
        around.last().filter(|_| list).map(|frame| frame.anchor)
    }

    /// Whether a brace stands with the statement in whose brackets its body is.
    fn opens_with_statement(&self, node: &Node, candidate: u32) -> bool {
        let block = self.table.kind(node.kind).role == Role::Block && self.opens(node) == Some(b'{');
        block && self.statement_around().is_some_and(|place| place.columns() == candidate)
    }

    /// Whether a line begins something like what others in its frame begin, which stand where the first of them does.
    pub(super) fn begins_alike(&self, spot: &Spot) -> bool {
        let item = || matches!(self.before(), "," | ";") || self.table.spec.forms.is_some();
        spot.by != By::Wrap || self.top().bracket.is_some() && spot.place == self.top().base && item()
    }

    /// Whether what wraps in a tag stands with the text around it, or what wraps in a selector with its rule.
    fn stands_with_holder(&self, candidate: u32) -> bool {
        let top = self.top();
        let selects = || {
            let mut open = self.stack.iter().rev().take(DEEP);
            open.any(|frame| frame.hold == Hold::Head && self.tree.role(frame.node) == Role::Rule)
        };
        candidate == top.anchor.columns() && (top.hold == Hold::Tag || top.hold == Hold::List && selects())
    }

    /// Whether a line holds the next choice of a run of them, behind the colon of the one before.
    fn chooses_again(&self) -> bool {
        self.before() == ":" && self.top().bracket.is_none() && matches!(self.top().hold, Hold::Head | Hold::Operands)
    }

    /// Whether a line begins with another assignment of a value that what is above it gets, too.
    fn gets_the_same(&self, node: &Node) -> bool {
        let first = self.tree.tokens().get(node.first_token as usize).filter(|_| self.before() == "=");
        let mut begun = first.into_iter().flat_map(|first| self.tree.ancestors(first.node).take(DEEP));
        begun.any(|id| self.tree.role(id) == Role::Assignment && self.tree.node(id).first_token == node.first_token)
    }

    /// Whether a mark leads what a declaration says of itself behind its head: initializers, or what it derives from.
    fn goes_on_declaring(&self, node: &Node) -> bool {
        let top = self.top();
        let declares = matches!(self.tree.role(top.node), Role::Type | Role::Callable);
        declares && top.bracket.is_none() && node.parent == top.node && leads_clause(self.first_text(node))
    }

    /// Whether a line holds numbers of a table, which may line up at their ends.
    fn is_number_of_table(&self, node: &Node, candidate: u32) -> bool {
        let number = self.first_text(node).starts_with(|c: char| c.is_ascii_digit() || matches!(c, '-' | '+' | '.'));
        number && self.top().hold == Hold::Literal && candidate >= self.top().anchor.columns()
    }

    /// Whether a line begins with a text that stands at the margin, so that it can be read as it is printed.
    fn is_text_at_margin(&self, node: &Node, candidate: u32) -> bool {
        let handed = !matches!(self.top().bracket, Some(b'{' | b'['));
        candidate == 0 && handed && self.tree.token_role(node.first_token) == Role::String
    }

    /// Whether an element of a form stands a few columns further in than its bracket, as bodies do in one way or another.
    fn is_near_bracket(&self, candidate: u32) -> bool {
        let top = self.top();
        let near = || candidate.checked_sub(top.written.bracket).is_some_and(|further| NEAR.contains(&further));
        self.table.spec.forms.is_some() && top.bracket.is_some() && near()
    }

    /// Whether a form stands at the margin since it is one of the file where a bracket is missing, is set off by an empty line, or holds
    /// so much that it was to stand there, whatever it is in.
    fn is_outermost(&self, node: &Node, candidate: u32) -> bool {
        let set_off = || self.tree.gap(self.source.text(), node.first_token).newlines > 1;
        let long = || self.source.line(node.end).saturating_sub(self.source.line(node.start)) >= LONG;
        candidate == 0 && self.table.spec.forms.is_some() && (self.tree.has_error() || set_off() || long())
    }

    /// Whether a line seems to begin something, though what was in front of it has no end that the reader knows of, such as a macro.
    fn begins_anew(&self, node: &Node, candidate: u32) -> bool {
        let top = self.top();
        let word = |text: &str| text.starts_with(|c: char| c.is_alphabetic() || c == '_');
        let ended = self.before() == ")" || word(self.before());
        // A type may stand on a line of its own in front of what is declared.
        let next =
            self.tree.tokens().get(node.first_token as usize + 1).map_or("", |next| self.source.slice(next.span()));
        let declares = || self.first_text(node) == "(" && next == "*" && word(self.before());
        top.bracket.is_none()
            && candidate == top.anchor.columns()
            && ended
            && (word(self.first_text(node)) || declares())
    }

    fn first_text(&self, node: &Node) -> &str {
        self.tree.tokens().get(node.first_token as usize).map_or("", |first| self.source.slice(first.span()))
    }

    /// Whether a line that a closing bracket leads may stand in a column: that of what else it closes, that of its bracket, or of
    /// the items.
    fn closes_at(&self, node: &Node, candidate: u32) -> bool {
        let top = self.top();
        let size = self.options.size;
        let round = top.hold != Hold::Body;
        // One step out from lines that stand in a way of their own.
        let apart = top.base.columns() != top.anchor.columns() + size && candidate + size == top.base.columns();
        if apart && self.ways.as_ref().is_some_and(|ways| !round || ways.is_open(Key::IndentBracket)) {
            return true;
        }
        let offsets = self.ways.as_ref().and_then(|ways| ways.offsets).filter(|_| !round);
        let (offset, class) = (between(top.anchor.columns(), candidate), (top.hold, self.tree.role(top.node)));
        if offsets.is_some_and(|offsets| offsets.accepts_mark(Mark::closing(class), offset)) {
            return true;
        }
        // The body stood against the statement that its brackets are in.
        let above = self.ways.as_ref().map_or(0, |ways| ways.line_above.0);
        let around = || self.statement_around().is_some_and(|place| place.columns() == candidate);
        if !round && above == candidate + size && around() {
            return true;
        }
        if round && self.ways.as_ref().is_some_and(|ways| ways.is_open(Key::IndentBracket)) {
            return top.written.columns.contains(candidate)
                || [top.anchor, top.base].iter().any(|place| place.columns() == candidate);
        }
        // Where braces stand a level in, what is inside stands with them.
        let indented = !round && self.options.brace > 0 && candidate == top.base.columns();
        if indented && self.ways.as_ref().is_some_and(|ways| ways.is_open(Key::IndentBrace)) {
            return true;
        }
        let closers = self.tree.tokens().iter().skip(node.first_token as usize + 1);
        let more = closers.take_while(|token| {
            let closes = closer(self.source.slice(token.span()), self.tree.role(token.node)).is_some();
            closes && self.source.line(token.start) == self.source.line(node.start)
        });
        let outer = self.stack.iter().rev().filter(|frame| frame.bracket.is_some()).skip(1);
        outer.zip(more).any(|(frame, _)| frame.anchor.columns() == candidate)
    }

    /// Whether what wraps may stand in a column: lined up with something in front of it that it belongs to, or whole steps
    /// further in than a line that is gone on with.
    fn wraps_at(&self, candidate: u32) -> bool {
        let size = self.options.size.max(1);
        let Some(ways) = &self.ways else { return false };
        let sized = !ways.is_open(Key::IndentSize);
        let by_steps = self.table.spec.forms.is_none();
        let open = self.stack.iter().rev().take_while(|frame| !is_sequence(frame));
        let Some(statement) = self.statement() else { return false };
        let explained = |frame: &Frame| {
            let further = candidate.saturating_sub(frame.anchor.columns());
            let whole = size > 1 && further.is_multiple_of(size) && further <= FAR * size;
            let usual = USUAL.contains(&further) && !sized;
            let steps = further > 0 && by_steps && (whole || further == size.div_ceil(2) || usual);
            let behind_first = frame.written.first.and_then(|first| candidate.checked_sub(first));
            let below_first =
                behind_first.is_some_and(|behind| behind == size || behind == self.options.wrap && !sized);
            steps || by_steps && below_first || frame.written.columns.contains(candidate)
        };
        let above = ways.above.contains(candidate);
        candidate > statement && (above || open.take(DEEP).any(explained))
    }
}

/// How far from the bracket of its form a body may stand.
const NEAR: [u32; 3] = [1, 2, 4];

/// How many lines a form has at least that stands at the margin though it is in another.
const LONG: u32 = 40;

/// How far wrapped lines stand in that go by nothing else.
const USUAL: [u32; 2] = [4, 8];

/// How many steps further in a wrapped line may stand.
const FAR: u32 = 6;
