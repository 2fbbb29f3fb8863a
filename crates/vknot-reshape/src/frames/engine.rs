//! Goes over the tree once, top down, and tells for each line where it begins.
//!
//! What is open at a line is a stack of frames: nodes whose wrapped lines stand further in, and brackets. A line stands where the
//! innermost frame it does not itself begin says, so that frames opened on one line add one level, not several. Brackets make frames
//! wherever they stand, inside errors too.

use vknot_syntax::{Node, NodeId, Role, Source, Span, TokenId, Tree};

use super::blocks::Block;
use super::comments::Waiting;
use super::directives::Conditional;
use crate::spec::forms::HeadRule;
use super::lines::Line;
use super::nesting::{Nested, nesting};
use vknot_style::choices::AlignList;
use super::options::Options;
use super::place::{Pen, Place};
use crate::spec::Code;
use crate::spec::indent::{Hold, IndentTable};
use super::spots::is_operator;

/// What is open.
#[derive(Clone, Copy, Debug)]
pub(crate) struct Frame {
    pub node: NodeId,
    /// One past the last node inside.
    pub end: u32,
    pub hold: Hold,
    /// The bracket that opened it, if one did.
    pub bracket: Option<u8>,
    /// The line that what is open began on.
    pub anchor: Place,
    /// Where lines inside begin.
    pub base: Place,
    /// Where the line of its closing bracket begins.
    pub close: Place,
    /// One past the annotations it begins with.
    pub prefix_end: TokenId,
    /// Whether the parameters of what it declares, or the first attribute of a tag, are passed.
    pub named: bool,
    /// Whether lines line up with the first item.
    pub lined_up: bool,
    /// In a form: its rule, the elements passed.
    pub rule: HeadRule,
    pub passed: u32,
    /// Where arguments of the head of a form begin, or what wraps in the condition of a branch.
    pub argument: Place,
    /// Whether white space means something inside.
    pub kept: bool,
    /// How many brackets are open, its own included.
    pub depth: usize,
    /// How many braces are open that belong to the same node.
    pub braces: usize,
}

impl Frame {
    /// Whether a line that begins with the partner of such a bracket closes it.
    pub fn is_closed_by(&self, bracket: u8) -> bool {
        match self.bracket {
            Some(own) => own == bracket,
            // Words, and what has its bracket inside.
            None => bracket != b'<' || matches!(self.hold, Hold::Tag | Hold::Element),
        }
    }
}

/// Where a line goes.
#[derive(Clone, Copy, Debug)]
pub(crate) struct Spot {
    pub place: Place,
    /// Whether what begins there closes what was open, so that comments in front of it stand inside.
    pub closes: bool,
}

impl From<Place> for Spot {
    fn from(place: Place) -> Spot {
        Spot { place, closes: false }
    }
}

pub(crate) struct Engine<'a> {
    pub code: Code<'a>,
    pub source: &'a Source,
    pub tree: &'a Tree,
    pub table: &'a IndentTable,
    pub options: &'a Options,
    pub frames: Vec<Frame>,
    pub pen: Pen<'a>,
    /// Where the line at hand begins.
    pub current: Place,
    /// The same, or what stands behind the mark that leads it.
    pub behind_mark: Place,
    /// Whether the line at hand begins with a closing bracket.
    pub led_by_closing: bool,
    pub waiting: Waiting,
    pub blocks: Vec<Block>,
    /// Conditionals of a preprocessor that are open.
    pub conditionals: Vec<Conditional>,
    /// The last token passed that is no comment.
    pub behind: Option<TokenId>,
    /// Whether what stands behind the beginning of the last line matters.
    to_the_end: bool,
    /// What lines stand in by brackets; empty where the tree has no errors.
    nesting: Vec<Nested>,
}

/// Where lines begin, and what there is of several lines.
pub(crate) struct Placed {
    pub places: Vec<Place>,
    pub blocks: Vec<Block>,
}

/// Tells where each of `lines` begins. Lines that are not wanted stay where they are.
pub(crate) fn places(
    code: Code<'_>,
    table: &IndentTable,
    options: &Options,
    margin: Place,
    lines: &[Line],
) -> Placed {
    let mut engine = engine(code, table, options, margin, lines);
    let places = engine.run(margin, lines);
    Placed { places, blocks: engine.blocks }
}

/// Tells where each of the first lines of a file begins, and looks no further.
pub(crate) fn first_places(code: Code<'_>, options: &Options, lines: &[Line]) -> Vec<Place> {
    let _tree = code.tree;
    let table = &code.toolkit().indent;
    let mut engine = engine(code, table, options, Place::default(), lines);
    engine.to_the_end = false;
    engine.run(Place::default(), lines)
}

fn engine<'a>(
    code: Code<'a>,
    table: &'a IndentTable,
    options: &'a Options,
    margin: Place,
    lines: &[Line],
) -> Engine<'a> {
    let Code { source, tree, .. } = code;
    let pen = Pen::new(source.text(), options.indentation.tab_width);
    let waiting = Waiting::default();
    let nesting = if tree.has_error() { nesting(code, lines) } else { Vec::new() };
    Engine {
        code,
        source,
        tree,
        table,
        options,
        frames: Vec::new(),
        pen,
        current: margin,
        behind_mark: margin,
        led_by_closing: false,
        waiting,
        blocks: Vec::new(),
        conditionals: Vec::new(),
        behind: None,
        to_the_end: true,
        nesting,
    }
}

impl<'a> Engine<'a> {
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
            if at == lines.len() && !self.to_the_end {
                break;
            }
            self.frames.truncate(self.open_at(index));
            if let Some(line) = lines.get(at).filter(|line| line.token == node.first_token) {
                self.begin_line(id, node, line, at, &mut places);
                at += 1;
            }
            self.enter(id, node, at);
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
        let spot = self.by_brackets(at, places).unwrap_or_else(|| self.spot(id, node, places));
        let wanted = if line.kept || self.top().kept { line.found } else { spot.place };
        // A comment right behind a label has nothing else to belong to.
        let comment = self.tree.is_comment(node.first_token);
        let waits = comment && !line.kept && self.before() != ":" && !self.falls_through(id);
        if waits {
            self.waiting.push(at, spot.place);
        } else if self.is_directive(node) {
            self.wait_as_directive(node, Some(at).filter(|_| !line.kept), spot.place, places);
        } else {
            self.waiting.settle(Some(Spot { place: wanted, ..spot }), places);
        }
        places[at] = wanted;
        if !comment && !self.is_directive(node) {
            self.note_code(wanted);
        }
        self.current = wanted;
        // Links behind one that follows a block follow it, too.
        let follows = self.led_by_closing && self.top().hold == Hold::Chain && wanted == self.top().anchor;
        self.led_by_closing = spot.closes || follows;
        self.pen.set(line.end, wanted.columns());
        self.pass_mark(node.first_token, line.end);
    }

    /// Where a line stands by its brackets alone, if the tree has another idea of which are open.
    fn by_brackets(&self, at: usize, places: &[Place]) -> Option<Spot> {
        let nested = self.nesting.get(at)?;
        if self.top().depth == nested.depth {
            return None;
        }
        let place = nested.opened_on.and_then(|line| places.get(line)).copied();
        let deeper = if nested.closes || place.is_none() { 0 } else { self.options.size };
        Some(Spot { place: place.unwrap_or_default().deeper(deeper), closes: nested.closes })
    }

    /// Whether a comment says that the group it ends goes on with the next one.
    fn falls_through(&self, id: NodeId) -> bool {
        let text = self.text(id);
        let begins = |word: &str| text.trim_start_matches(['/', '*', ' '])
            .get(..word.len())
            .is_some_and(|text| text.eq_ignore_ascii_case(word));
        begins("fall")
    }

    /// What is opened behind a mark that leads a line stands against what is behind the mark.
    fn pass_mark(&mut self, token: TokenId, start: u32) {
        self.behind_mark = self.current;
        let Some(mark) = self.tree.tokens().get(token as usize).map(|token| self.source.slice(token.span())) else {
            return
        };
        let next = self.tree.tokens().get(token as usize + 1).filter(|next| next.start > start + mark.len() as u32);
        match next.filter(|_| self.table.spec.marks.contains(&mark)) {
            Some(_) if self.options.indentation.tabs => self.behind_mark.level += self.options.size,
            Some(next) => self.behind_mark.align += next.start - start,
            None => {}
        }
    }

    pub(crate) fn top(&self) -> Frame {
        // The root's frame is never closed.
        self.frames[self.frames.len() - 1]
    }

    pub(crate) fn text(&self, id: NodeId) -> &'a str {
        self.tree.text_of(self.source.text(), id)
    }

    /// Opens what a node opens. `line` is the number of the next line.
    fn enter(&mut self, id: NodeId, node: &Node, line: usize) {
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
        } else if let Some(last) = self.frames.last_mut()
            && matches!(kind.role, Role::Annotation | Role::Comment)
            && node.first_token == last.prefix_end
        {
            last.prefix_end = node.token_end;
        }
        if node.is_leaf() {
            self.enter_leaf(id, node, kind.role);
            self.enter_block(node, kind.role);
            if kind.role != Role::Comment {
                self.behind = Some(node.first_token);
            }
        }
        if frame.hold == Hold::Tag && !frame.named && kind.role == Role::Attribute {
            self.enter_attributes(node);
        }
        match kind.hold {
            Hold::Head | Hold::Header => self.push(id, kind.hold, self.current, self.current.deeper(self.options.wrap)),
            Hold::Chain if !self.is_inside_like(node) => {
                self.push(id, kind.hold, self.current, self.current.deeper(self.options.wrap));
            }
            Hold::Operands if self.pen_is_at_line_start(node) && self.begins_operands(node) => {
                self.push(id, kind.hold, self.current, self.current.deeper(self.options.wrap));
            }
            Hold::Arm | Hold::Branch if self.is_middle(id) => {
                // It goes with its head, also where it ends the line of the statement in front of it.
                let with_head = frame.hold == Hold::Branch && frame.bracket.is_none() && node.parent == frame.node;
                let anchor = if with_head && !self.pen_is_at_line_start(node) { frame.anchor } else { self.current };
                self.push(id, Hold::Branch, anchor, anchor.deeper(self.options.size));
            }
            Hold::Element => {
                let deeper = if self.is_flush(id) { 0 } else { self.options.size };
                self.push(id, kind.hold, self.current, self.current.deeper(deeper));
            }
            Hold::Section if self.options.align != AlignList::None && self.has_item_behind(id) => {
                let item = self.tree.children(id).nth(1).map_or(node.start, |item| self.tree.node(item).start);
                let column = self.pen.column_of(node.start) + item - node.start;
                self.push(id, kind.hold, self.current, self.current.lined_up(column));
            }
            Hold::Arm => self.push(id, kind.hold, self.current, self.current.deeper(self.options.arm)),
            Hold::Branch | Hold::Section => {
                self.push(id, kind.hold, self.current, self.current.deeper(self.options.size));
            }
            Hold::Tag => self.push(id, kind.hold, self.current, self.current.deeper(self.options.wrap)),
            Hold::Margin => self.enter_directive(node, line.saturating_sub(1)),
            Hold::Inactive => self.enter_inactive(id),
            Hold::Flat | Hold::Parts => self.push(id, kind.hold, self.current, self.current),
            // A body without brackets, such as that of a keyword language.
            Hold::Body if !self.begins_with_bracket(id) => {
                let base = if self.pen.column_of(node.start) == self.current.columns() {
                    self.current
                } else {
                    self.inside()
                };
                self.push(id, kind.hold, self.current, base);
            }
            _ => {}
        }
    }

    /// Whether the first item of a section stands on the line of its word, and more items follow.
    fn has_item_behind(&self, id: NodeId) -> bool {
        let mut parts = self.tree.parts(id).map(|part| self.tree.node(part));
        let (word, item) = (parts.next(), parts.next());
        let gap = word.zip(item).map(|(word, item)| self.source.slice(Span::new(word.end, item.start)));
        gap.is_some_and(|gap| !gap.contains('\n'))
    }

    /// Where the lines of a body stand that begins behind its head.
    fn inside(&self) -> Place {
        let top = self.top();
        match top.hold {
            Hold::Branch | Hold::Arm => top.base,
            Hold::Head => top.anchor.deeper(self.function_body(top.node)),
            _ => self.current,
        }
    }

    /// How far a body stands in that no bracket opens.
    pub(crate) fn function_body(&self, id: NodeId) -> u32 {
        let holder = self.tree.node(id).parent;
        let in_function = self.tree.role(self.tree.node(holder).parent) == Role::Callable;
        let of_file = self.tree.role(holder) == Role::File || in_function;
        if of_file && self.tree.role(id) == Role::Callable { self.options.function } else { self.options.size }
    }

    /// Whether a node begins with an operand, and no longer one like it does so.
    fn begins_operands(&self, node: &Node) -> bool {
        let first = self.tree.tokens().get(node.first_token as usize);
        !self.is_inside_like(node) && first.is_some_and(|first| !is_operator(self.source.slice(first.span())))
    }

    /// Whether a node is the beginning of a longer one that holds the same, as a chain is of a longer chain.
    fn is_inside_like(&self, node: &Node) -> bool {
        let parent = self.tree.node(node.parent);
        let hold = |node: &Node| self.table.kind(node.kind).hold;
        parent.first_token == node.first_token && hold(parent) == hold(node)
    }

    pub(crate) fn push(&mut self, id: NodeId, hold: Hold, anchor: Place, base: Place) {
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
            lined_up: false,
            rule: HeadRule::Call,
            passed: 0,
            argument: anchor.deeper(self.options.wrap),
            braces: 0,
            depth: self.frames.last().map_or(0, |top| top.depth),
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
}
