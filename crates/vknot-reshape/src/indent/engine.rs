//! Goes over the tree once, top down, and tells for each line where it begins.
//!
//! What is open at a line is a stack of frames: nodes whose wrapped lines stand further in, and brackets. A line stands where the
//! innermost frame it does not itself begin says, so that frames opened on one line add one level, not several. Brackets make frames
//! wherever they stand, inside errors too.

use vknot_syntax::{Node, NodeId, Role, Source, TokenId, Tree};

use super::blocks::Block;
use super::comments::Waiting;
use super::forms::{self, HeadRule};
use super::lines::Line;
use super::options::{AccessPlace, AlignList, LabelPlace, Options};
use super::place::{Pen, Place};
use super::rules::{Hold, IndentTable};

/// What is open.
#[derive(Clone, Copy, Debug)]
pub(super) struct Frame {
    node: NodeId,
    /// One past the last node inside.
    end: u32,
    hold: Hold,
    /// The bracket that opened it, if one did.
    bracket: Option<u8>,
    /// The line that what is open began on.
    anchor: Place,
    /// Where lines inside begin.
    base: Place,
    /// Where the line of its closing bracket begins.
    close: Place,
    /// One past the annotations it begins with.
    prefix_end: TokenId,
    /// Whether the name of what it declares is passed.
    named: bool,
    /// In a form: its rule, the elements passed, where arguments of the head begin.
    rule: HeadRule,
    passed: u32,
    argument: Place,
    /// Whether white space means something inside.
    kept: bool,
}

impl Frame {
    /// Whether a line that begins with the partner of such a bracket closes it.
    fn is_closed_by(&self, bracket: u8) -> bool {
        match self.bracket {
            Some(own) => own == bracket,
            // Words, and what has its bracket inside.
            None => bracket != b'<' || matches!(self.hold, Hold::Tag | Hold::Element),
        }
    }
}

/// Where a line goes.
#[derive(Clone, Copy, Debug)]
pub(super) struct Spot {
    pub place: Place,
    /// Whether what begins there closes what was open, so that comments in front of it stand inside.
    pub closes: bool,
}

impl From<Place> for Spot {
    fn from(place: Place) -> Spot {
        Spot { place, closes: false }
    }
}

pub(super) struct Engine<'a> {
    source: &'a Source,
    tree: &'a Tree,
    table: &'a IndentTable,
    options: &'a Options,
    frames: Vec<Frame>,
    pen: Pen<'a>,
    /// Where the line at hand begins.
    current: Place,
    /// The same, or what stands behind the mark that leads it.
    behind_mark: Place,
    /// Whether the line at hand begins with a closing bracket.
    led_by_closing: bool,
    waiting: Waiting,
    blocks: Vec<Block>,
}

/// Where lines begin, and what there is of several lines.
pub(super) struct Placed {
    pub places: Vec<Place>,
    pub blocks: Vec<Block>,
}

/// Tells where each of `lines` begins. Lines that are not wanted stay where they are.
pub(super) fn places(
    source: &Source,
    tree: &Tree,
    table: &IndentTable,
    options: &Options,
    margin: Place,
    lines: &[Line],
) -> Placed {
    let pen = Pen::new(source.text(), options.indentation.tab_width);
    let waiting = Waiting::default();
    let mut engine = Engine { source, tree, table, options, frames: Vec::new(), pen, current: margin, behind_mark: margin, led_by_closing: false, waiting, blocks: Vec::new() };
    let places = engine.run(margin, lines);
    Placed { places, blocks: engine.blocks }
}

impl Engine<'_> {
    fn run(&mut self, margin: Place, lines: &[Line]) -> Vec<Place> {
        let mut places: Vec<Place> = lines.iter().map(|line| line.found).collect();
        self.push(NodeId(0), Hold::Flat, margin, margin);
        let mut at = 0;
        for index in 1..self.tree.nodes().len() as u32 {
            let id = NodeId(index);
            let node = self.tree.node(id);
            if node.is_empty() {
                continue;
            }
            self.frames.truncate(self.open_at(index));
            if let Some(line) = lines.get(at).filter(|line| line.token == node.first_token) {
                self.begin_line(id, node, line, at, &mut places);
                at += 1;
            }
            self.enter(id, node);
        }
        self.waiting.settle(None, &mut places);
        places
    }

    /// How many frames are still open at a node.
    fn open_at(&self, index: u32) -> usize {
        let closed = self.frames.iter().rev().take_while(|frame| frame.end <= index).count();
        (self.frames.len() - closed).max(1)
    }

    fn begin_line(&mut self, id: NodeId, node: &Node, line: &Line, at: usize, places: &mut [Place]) {
        let spot = self.spot(id, node);
        let wanted = if line.kept || self.top().kept { line.found } else { spot.place };
        // A comment right behind a label has nothing else to belong to.
        let waits = self.tree.is_comment(node.first_token) && !line.kept && self.before(node) != ":" && !self.falls_through(id);
        if waits {
            self.waiting.push(at, spot.place, line, self.source);
        } else {
            self.waiting.settle(Some(Spot { place: wanted, ..spot }), places);
        }
        places[at] = wanted;
        self.current = wanted;
        self.led_by_closing = spot.closes;
        self.pen.set(line.end, wanted.columns());
        self.pass_mark(node.first_token, line.end);
    }

    /// Whether a comment says that the group it ends goes on with the next one.
    fn falls_through(&self, id: NodeId) -> bool {
        let text = self.text(id);
        let begins = |word: &str| text.trim_start_matches(['/', '*', ' ']).get(..word.len()).is_some_and(|text| text.eq_ignore_ascii_case(word));
        begins("fall")
    }

    /// What is opened behind a mark that leads a line stands against what is behind the mark.
    fn pass_mark(&mut self, token: TokenId, start: u32) {
        self.behind_mark = self.current;
        let Some(mark) = self.tree.tokens().get(token as usize).map(|token| self.source.slice(token.span())) else { return };
        if self.table.spec.marks.contains(&mark) {
            if let Some(next) = self.tree.tokens().get(token as usize + 1).filter(|next| next.start > start + mark.len() as u32) {
                match self.options.indentation.tabs {
                    true => self.behind_mark.level += self.options.size,
                    false => self.behind_mark.align += next.start - start,
                }
            }
        }
    }

    fn top(&self) -> Frame {
        // The root's frame is never closed.
        self.frames[self.frames.len() - 1]
    }

    fn text(&self, id: NodeId) -> &str {
        self.tree.text_of(self.source.text(), id)
    }

    /// Where a line that begins with a node stands.
    fn spot(&self, id: NodeId, node: &Node) -> Spot {
        let frame = self.top();
        let kind = self.table.kind(node.kind);
        let direct = node.parent == frame.node;
        if kind.hold == Hold::Margin {
            return if self.options.directive_margin { Place::default().into() } else { frame.base.into() };
        }
        let closes = || node.is_leaf() && closer(self.text(id), kind.role).is_some_and(|bracket| frame.is_closed_by(bracket));
        if direct && (kind.hold == Hold::Closing || closes()) {
            return Spot { place: frame.close, closes: true };
        }
        if kind.hold == Hold::Labelled {
            return self.jump_target(&frame).into();
        }
        if let Some(place) = self.label_spot(id, &frame, kind.role) {
            return place.into();
        }
        match (frame.hold, frame.bracket) {
            (Hold::Flat | Hold::Parts, None) => self.in_sequence(id, node, &frame).into(),
            (Hold::Body, _) => self.in_body(id, node, &frame).into(),
            (_, Some(_)) => self.in_list(id, node, &frame).into(),
            (Hold::Branch | Hold::Arm, None) => self.in_branch(id, node, &frame),
            (Hold::Element | Hold::Section | Hold::Tag, None) => frame.base.into(),
            _ => self.in_head(id, node, &frame).into(),
        }
    }

    /// Labels and labelled groups.
    fn label_spot(&self, id: NodeId, frame: &Frame, role: Role) -> Option<Place> {
        let options = self.options;
        let holder = self.tree.role(frame.node);
        match role {
            Role::Arm if self.is_middle(id) => None,
            Role::Arm if matches!(frame.hold, Hold::Body | Hold::Branch) => Some(frame.anchor.deeper(options.case)),
            Role::Label if frame.hold == Hold::Arm => Some(frame.anchor),
            Role::Label if holder == Role::Body => Some(match options.access {
                AccessPlace::Type => frame.anchor,
                AccessPlace::Half => frame.anchor.deeper(options.size / 2),
                AccessPlace::Member => frame.base,
            }),
            Role::Label if holder == Role::Block => Some(self.jump_target(frame)),
            _ => None,
        }
    }

    fn jump_target(&self, frame: &Frame) -> Place {
        match self.options.label {
            LabelPlace::Margin => Place::default(),
            LabelPlace::Out => frame.base.shallower(self.options.size),
            LabelPlace::In => frame.base,
        }
    }

    /// Whether a node begins with a word that stands with the head of its branch.
    fn is_middle(&self, id: NodeId) -> bool {
        let first = self.tree.node(id).first_token;
        let word = self.tree.tokens().get(first as usize).map_or("", |token| self.source.slice(token.span()));
        self.table.spec.middle.iter().any(|middle| middle.eq_ignore_ascii_case(word))
    }

    /// Among items that need no bracket around them. Pieces that could not be read are told apart by marks.
    fn in_sequence(&self, _: NodeId, node: &Node, frame: &Frame) -> Place {
        let role = self.table.kind(node.kind).role;
        if frame.hold == Hold::Parts && matches!(role, Role::Statement | Role::Branch) {
            return frame.base.deeper(self.options.size);
        }
        if self.tree.role(frame.node) != Role::Error || self.begins_item(node) {
            return frame.base;
        }
        frame.base.deeper(self.options.wrap)
    }

    /// Whether the token in front of a node ends a statement.
    fn begins_item(&self, node: &Node) -> bool {
        let before = self.before(node);
        let is_item = self.table.kind(node.kind).role.is_item();
        is_item || before.is_empty() || self.table.spec.ends.contains(&before)
    }

    /// The text of the token in front of a node.
    fn before(&self, node: &Node) -> &str {
        let mut tokens = (0..node.first_token).rev().filter(|token| !self.tree.is_comment(*token));
        let token = tokens.next().and_then(|token| self.tree.tokens().get(token as usize));
        token.map_or("", |token| self.source.slice(token.span()))
    }

    fn in_body(&self, id: NodeId, node: &Node, frame: &Frame) -> Place {
        let wraps = match self.tree.role(frame.node) {
            Role::Error => !self.begins_item(node),
            // What is inside a macro is no code for certain.
            Role::Macro => is_operator(self.text(id)) || is_operator(self.before(node)),
            _ => false,
        };
        frame.base.deeper(if wraps { self.options.wrap } else { 0 })
    }

    /// Inside brackets: an item, or more of one.
    fn in_list(&self, _: NodeId, node: &Node, frame: &Frame) -> Place {
        if self.table.spec.forms.is_some() {
            return match frame.rule {
                HeadRule::Body(count) if frame.passed <= count + 1 => frame.argument,
                _ => frame.base,
            };
        }
        let parenthesized = self.tree.role(frame.node) == Role::Parenthesized;
        let continued = || !matches!(self.before(node), "," | ";" | "(" | "[" | "{" | "<" | "");
        if self.options.operand > 0 && !parenthesized && frame.named && continued() {
            return frame.base.deeper(self.options.operand);
        }
        frame.base
    }

    fn in_branch(&self, id: NodeId, node: &Node, frame: &Frame) -> Spot {
        let kind = self.table.kind(node.kind);
        // What a directive parts from its `else` must do without it, too.
        let before = (0..node.first_token).rev().find(|token| !self.tree.is_comment(*token));
        let before = before.and_then(|before| self.tree.tokens().get(before as usize));
        if before.is_some_and(|before| self.table.kind(self.tree.node(before.node).kind).hold == Hold::Margin) {
            return frame.anchor.into();
        }
        let text = if node.is_leaf() { self.text(id) } else { "" };
        if self.is_middle(id) && (node.is_leaf() || kind.role == Role::Arm || kind.hold == Hold::Branch) {
            return Spot { place: frame.anchor, closes: false };
        }
        if text == "{" || kind.hold == Hold::Body && self.opens_body(id, node) {
            let deeper = if frame.hold == Hold::Arm { self.options.case_brace } else { self.options.brace };
            return frame.anchor.deeper(deeper).into();
        }
        if node.first_token == frame.prefix_end || text == "|" && frame.hold == Hold::Arm {
            return frame.anchor.into();
        }
        let inside = matches!(kind.hold, Hold::Head | Hold::Header | Hold::Branch | Hold::Body | Hold::Section | Hold::Flat);
        if inside || frame.hold == Hold::Arm {
            return frame.base.into();
        }
        frame.anchor.deeper(self.options.wrap).into()
    }

    fn in_head(&self, id: NodeId, node: &Node, frame: &Frame) -> Place {
        let kind = self.table.kind(node.kind);
        if node.first_token == frame.prefix_end || self.follows_block(node, frame) {
            return frame.anchor;
        }
        if self.before(node) == ">" && self.begins_prefix(frame) {
            return frame.anchor;
        }
        if self.opens_body(id, node) || kind.hold == Hold::Section && node.parent == frame.node {
            return frame.anchor;
        }
        if kind.hold == Hold::Body {
            return frame.anchor.deeper(self.options.function);
        }
        let selects = self.table.kind(self.tree.node(frame.node).kind).role == Role::Rule;
        if selects && self.before(node) == "," {
            return frame.anchor;
        }
        if frame.hold == Hold::Header && !frame.named && !matches!(self.before(node), "," | "=" | "+") {
            return frame.anchor;
        }
        frame.base
    }

    /// Whether a link of a chain follows a closing bracket that stands at the beginning of the chain.
    fn follows_block(&self, node: &Node, frame: &Frame) -> bool {
        self.table.spec.links_follow_blocks
            && frame.hold == Hold::Chain
            && self.led_by_closing
            && self.current == frame.anchor
            && matches!(self.before(node), "}" | ")" | "]" | "?")
    }

    /// Whether what is open begins with something in angle brackets that is said about the rest.
    fn begins_prefix(&self, frame: &Frame) -> bool {
        let first = self.tree.tokens().get(self.tree.node(frame.node).first_token as usize);
        first.is_some_and(|first| self.table.spec.prefixes.contains(&self.source.slice(first.span())))
    }

    /// Whether a node begins with the brace, or the word, that opens a body.
    fn opens_body(&self, id: NodeId, node: &Node) -> bool {
        self.opens(node) == Some(b'{') || self.begins_with_bracket(id)
    }

    /// The bracket a node begins with.
    fn opens(&self, node: &Node) -> Option<u8> {
        let token = self.tree.tokens().get(node.first_token as usize)?;
        opener(self.source.slice(token.span()))
    }

    /// Opens what a node opens.
    fn enter(&mut self, id: NodeId, node: &Node) {
        let kind = self.table.kind(node.kind);
        let mut frame = self.top();
        if node.parent == frame.node {
            frame.passed += u32::from(kind.role != Role::Comment);
            if matches!(kind.role, Role::Annotation | Role::Comment) && node.first_token == frame.prefix_end {
                frame.prefix_end = node.token_end;
            }
            frame.named |= matches!(kind.hold, Hold::List);
            if let Some(last) = self.frames.last_mut() {
                *last = frame;
            }
        } else if matches!(kind.role, Role::Annotation | Role::Comment) && node.first_token == frame.prefix_end {
            if let Some(last) = self.frames.last_mut() {
                last.prefix_end = node.token_end;
            }
        }
        if node.is_leaf() {
            self.enter_leaf(id, node, kind.role);
            self.enter_block(node, kind.role);
        }
        if frame.hold == Hold::Tag && !frame.named && kind.role == Role::Attribute {
            self.enter_attributes(node);
        }
        match kind.hold {
            Hold::Head | Hold::Header => self.push(id, kind.hold, self.current, self.current.deeper(self.options.wrap)),
            Hold::Chain if !self.is_inside_chain(node) => {
                self.push(id, kind.hold, self.current, self.current.deeper(self.options.wrap));
            }
            Hold::Arm if self.is_middle(id) => {
                self.push(id, Hold::Branch, self.current, self.current.deeper(self.options.size));
            }
            Hold::Element => {
                let deeper = if self.is_flush(id) { 0 } else { self.options.size };
                self.push(id, kind.hold, self.current, self.current.deeper(deeper));
            }
            Hold::Branch | Hold::Arm | Hold::Section => {
                self.push(id, kind.hold, self.current, self.current.deeper(self.options.size));
            }
            Hold::Tag => self.push(id, kind.hold, self.current, self.current.deeper(self.options.wrap)),
            Hold::Flat | Hold::Parts => self.push(id, kind.hold, self.current, self.current),
            // A body without brackets, such as that of a keyword language.
            Hold::Body if !self.begins_with_bracket(id) => {
                let base = if self.pen.column_of(node.start) == self.current.columns() { self.current } else { self.inside() };
                self.push(id, kind.hold, self.current, base);
            }
            _ => {}
        }
    }

    /// Whether what an element holds stands at its own line.
    fn is_flush(&self, id: NodeId) -> bool {
        let page = self.table.spec.page;
        self.is_element(id, &page[..self.options.flush_elements.min(page.len())])
    }

    /// Whether white space inside a node is shown as it is.
    fn is_preserved(&self, id: NodeId, hold: Hold) -> bool {
        hold == Hold::Element && self.is_element(id, self.table.spec.preserved)
    }

    /// Whether an element has one of some names.
    fn is_element(&self, id: NodeId, names: &[&str]) -> bool {
        if names.is_empty() {
            return false;
        }
        let name = self.tree.name_span(id).map_or("", |span| self.source.slice(span));
        let tag = || self.tree.child_named(id, "parameters").and_then(|tag| self.tree.children(tag).nth(1));
        let name = if name.is_empty() { tag().map_or("", |tag| self.text(tag)) } else { name };
        names.iter().any(|wanted| wanted.eq_ignore_ascii_case(name))
    }

    /// Where the lines of a body stand that begins behind its head.
    fn inside(&self) -> Place {
        let top = self.top();
        match top.hold {
            Hold::Branch | Hold::Arm => top.base,
            Hold::Head => top.anchor.deeper(self.options.function),
            _ => self.current,
        }
    }

    /// Whether the first child of a node is a bracket, or a word that opens it.
    fn begins_with_bracket(&self, id: NodeId) -> bool {
        let opens = |first: NodeId| self.tree.role(first) == Role::Open || opener(self.text(first)).is_some();
        self.tree.children(id).next().is_some_and(opens)
    }

    /// Whether a node is the beginning of a longer chain.
    fn is_inside_chain(&self, node: &Node) -> bool {
        let parent = self.tree.node(node.parent);
        parent.first_token == node.first_token && self.table.kind(parent.kind).hold == Hold::Chain
    }

    fn push(&mut self, id: NodeId, hold: Hold, anchor: Place, base: Place) {
        let node = self.tree.node(id);
        self.frames.push(Frame {
            node: id,
            end: node.next,
            hold,
            bracket: None,
            anchor,
            base,
            close: anchor,
            prefix_end: node.first_token,
            named: false,
            rule: HeadRule::Call,
            passed: 0,
            argument: base,
            kept: self.frames.last().is_some_and(|top| top.kept) || self.is_preserved(id, hold),
        });
    }

    /// A comment or prose of several lines.
    fn enter_block(&mut self, node: &Node, role: Role) {
        let prose = self.tree.language().is_prose(node.kind);
        let span = node.span();
        if (prose || role == Role::Comment) && !self.top().kept && self.source.slice(span).contains('\n') {
            let column = self.pen.column_of(node.start);
            let prose = prose.then_some(self.top().base);
            self.blocks.push(Block { token: node.first_token, column, prose, moved: 0 });
        }
    }

    /// Brackets and words that open and close.
    fn enter_leaf(&mut self, id: NodeId, node: &Node, role: Role) {
        let parent = self.tree.node(node.parent);
        let hold = self.table.kind(parent.kind).hold;
        let text = self.text(id);
        let bracket = match opener(text) {
            Some(bracket) if !matches!(role, Role::String | Role::Comment | Role::Inert) => Some(bracket),
            _ if role == Role::Open && hold == Hold::Body && parent.first_token == node.first_token => Some(b'{'),
            _ if text == "<" && hold == Hold::List && parent.first_token == node.first_token => Some(b'<'),
            _ => None,
        };
        if let Some(bracket) = bracket {
            self.open_bracket(node, hold, bracket);
        } else if let Some(bracket) = closer(text, role) {
            self.close_bracket(node, bracket);
        } else if text == ":" {
            self.enter_initializers(node);
        }
    }

    /// What stands behind the colon of a constructor lines up.
    fn enter_initializers(&mut self, node: &Node) {
        let top = self.top();
        if top.hold == Hold::Header && top.named && top.node == node.parent && self.is_filled(node) {
            let next = self.tree.tokens().get(node.token_end as usize).map_or(node.end, |token| token.start);
            let base = self.current.lined_up(self.pen.column_of(next));
            if let Some(last) = self.frames.last_mut() {
                last.base = base;
            }
        }
    }

    /// Attributes line up with the first one if it stands behind the name of the tag.
    fn enter_attributes(&mut self, node: &Node) {
        let column = self.pen.column_of(node.start);
        let lined_up = self.current.lined_up(column);
        let aligns = self.options.align == AlignList::All && column > self.current.columns();
        if let Some(last) = self.frames.last_mut() {
            last.named = true;
            last.base = if aligns { lined_up } else { last.base };
        }
    }

    fn close_bracket(&mut self, node: &Node, bracket: u8) {
        let open = self.frames.iter().rposition(|frame| frame.bracket == Some(bracket) && frame.node == node.parent);
        if let Some(open) = open.filter(|open| *open > 0) {
            self.frames.truncate(open);
        }
    }

    fn open_bracket(&mut self, node: &Node, hold: Hold, bracket: u8) {
        let (top, options) = (self.top(), self.options);
        let holder = node.parent;
        let body = bracket == b'{' && !matches!(hold, Hold::List | Hold::Literal) || hold == Hold::Body;
        // A body stands against the beginning of what it is the body of, however far that wrapped.
        let owned = top.bracket.is_none() && (top.node == holder || top.node == self.tree.node(holder).parent);
        let branch = matches!(top.hold, Hold::Branch | Hold::Arm);
        let leads = self.pen_is_at_line_start(node);
        let anchor = match body && owned && top.hold != Hold::Flat {
            true if leads && branch => self.current,
            true => top.anchor,
            false => self.behind_mark,
        };
        let of = self.table.kind(self.tree.node(top.node).kind);
        let deeper = match (body, hold) {
            (true, _) if owned && of.flush => 0,
            (true, _) if owned && of.namespace => options.namespace,
            (_, Hold::Literal) => options.literal,
            (true, _) => options.size,
            _ => options.wrap,
        };
        let mut frame = Frame {
            node: holder,
            end: self.tree.node(holder).next,
            hold: if body { Hold::Body } else { hold },
            bracket: Some(bracket),
            anchor,
            base: anchor.deeper(deeper),
            close: anchor,
            prefix_end: node.first_token,
            named: false,
            rule: HeadRule::Call,
            passed: 1,
            argument: anchor,
            kept: top.kept,
        };
        let filled = self.is_filled(node);
        if let Some(spec) = self.table.spec.forms {
            self.open_form(node, &mut frame, spec);
        } else if !body && filled {
            let round = bracket == b'(' || bracket == b'[' && hold != Hold::Literal;
            if options.align == AlignList::All || options.align == AlignList::Arguments && round {
                let next = self.tree.tokens().get(node.token_end as usize).map_or(node.end, |token| token.start);
                let column = self.pen.column_of(node.start);
                frame.base = self.current.lined_up(column + next - node.start);
            }
        }
        frame.named = !filled || frame.base == anchor.deeper(deeper);
        self.frames.push(frame);
    }

    fn pen_is_at_line_start(&mut self, node: &Node) -> bool {
        self.pen.column_of(node.start) == self.current.columns()
    }

    /// Whether something stands behind an opening bracket on its line.
    fn is_filled(&self, node: &Node) -> bool {
        let gap = self.tree.gap(self.source.text(), node.token_end);
        gap.newlines == 0 && (node.token_end as usize) < self.tree.tokens().len() && !self.tree.is_comment(node.token_end)
    }

    fn open_form(&mut self, node: &Node, frame: &mut Frame, spec: &forms::FormSpec) {
        let column = self.pen.column_of(node.start);
        let at = |column: u32| Place { level: column, align: 0 };
        let position = self.top().passed;
        frame.rule = forms::rule_of(self.source, self.tree, node.parent, spec, position, &self.options.heads);
        let mut parts = self.tree.parts(node.parent).skip(1);
        let width = |to: &Node| self.source.text().get(node.start as usize..to.start as usize).map_or(1, |text| text.chars().count() as u32);
        let same_line = |to: &&Node| self.source.text().get(node.start as usize..to.start as usize).is_some_and(|text| !text.contains('\n'));
        let head = parts.next().map(|head| self.tree.node(head)).filter(same_line).map_or(column + 1, |head| column + width(head));
        let first = parts.next().map(|first| self.tree.node(first)).filter(same_line).map(|first| column + width(first));
        frame.base = at(match frame.rule {
            HeadRule::Body(_) => column + spec.body,
            HeadRule::Call => first.unwrap_or(head),
            HeadRule::Clauses => first.unwrap_or(column + spec.body),
            HeadRule::Data => head,
        });
        frame.argument = at(column + spec.argument);
        frame.close = at(head);
    }
}

/// Whether a token joins what is on both sides of it.
fn is_operator(text: &str) -> bool {
    matches!(text, "." | "&&" | "||" | "+" | "-" | "*" | "/" | "=" | "?" | "==" | "+=" | "?.")
}

fn opener(text: &str) -> Option<u8> {
    match text {
        "(" | "[" | "{" => text.bytes().next(),
        _ if text.len() == 2 && text.starts_with('#') => text.bytes().nth(1).filter(|byte| b"([{".contains(byte)),
        _ => None,
    }
}

/// The bracket that a token closes; words that close count as braces.
fn closer(text: &str, role: Role) -> Option<u8> {
    match text {
        ")" => Some(b'('),
        "]" => Some(b'['),
        "}" => Some(b'{'),
        ">" | "/>" => Some(b'<'),
        _ => (role == Role::Close).then_some(b'{'),
    }
}
