//! The frames of what is open, driven token by token: they tell where a line begins, whoever makes it.
//!
//! What is open is a stack of frames: nodes whose wrapped lines stand further in, and brackets. A line stands where the innermost
//! frame it does not itself begin says, so that frames opened on one line add one level, not several. Brackets make frames wherever
//! they stand, inside errors too.
//!
//! For each token in order, whoever drives asks for the place of a line that would begin with it ([`Frames::spot`]), says that a line
//! does ([`Frames::begin_line`]), and passes the token, with the column it stands in ([`Frames::pass`]).

use vknot_style::Key;
use vknot_syntax::{Node, NodeId, Role, Source, TokenId, Tree};

use crate::partners::{bracket_of, is_stray, missing_closer, OpenBrackets};
use crate::spec::Code;
use crate::spec::forms::HeadRule;
use crate::spec::indent::{Hold, IndentTable, TemplatePart};
use super::blocks::Block;
use super::waiting::Waiting;
use super::options::Options;
use super::place::{By, Place, Spot};
use super::tables::Tables;
use super::templates::Templates;
use super::marks::{ends_item, leads_clause};
use super::ways::{Ways, Written};

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
    /// Where its name begins; 0 where that does not count.
    pub name: u32,
    /// Whether lines line up with the first item.
    pub lined_up: bool,
    /// In a form: its rule, the elements passed.
    pub rule: HeadRule,
    pub passed: u32,
    /// Where arguments of the head of a form begin, or what wraps in the condition of a branch.
    pub argument: Place,
    /// Whether white space means something inside.
    pub kept: bool,
    /// Inside a macro: the column in which its first line was written, and whether the item at hand began on a line of its own.
    pub first_column: Option<u32>,
    pub item_has_line: bool,
    /// Inside a macro: where the last line stands that was written in the column of the first.
    pub item: Place,
    /// How many brackets are open, its own included.
    pub depth: usize,
    /// How many braces are open that belong to the same node.
    pub braces: usize,
    /// What decides where lines inside begin.
    pub by: By,
    /// What is known of how its lines were written.
    pub written: Written,
    /// Its number among all that were opened.
    pub serial: u32,
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

/// How many frames are looked past for one that holds a later token.
const NEAR: usize = 16;

/// What lines up with the next token, if that is on the same line.
#[derive(Clone, Copy, Debug)]
pub(crate) enum LinesUp {
    /// The lines inside a frame.
    Base,
    /// The items of a list.
    Items,
    /// What wraps in a condition.
    Argument,
}

/// What is known where a bracket opened.
#[derive(Clone, Copy, Debug)]
struct Opened {
    place: Place,
    line: usize,
}

/// A conditional that is open.
pub(crate) struct Branches {
    /// The line its first directive stands on.
    pub line: usize,
    /// Where the first line of code in it stands.
    pub code: Option<Place>,
}

pub(crate) struct Frames<'a> {
    pub(super) code: Code<'a>,
    pub(super) source: &'a Source,
    pub(super) tree: &'a Tree,
    pub(super) table: &'a IndentTable,
    pub(super) options: &'a Options,
    pub(super) stack: Vec<Frame>,
    /// The next node to enter.
    next: u32,
    /// The token that begins the line at hand.
    pub(super) line_token: TokenId,
    /// Where the line at hand begins.
    pub(super) current: Place,
    /// The same, or where it would begin if it stood for something.
    pub(super) stood: Place,
    /// The same, or what stands behind the mark that leads it.
    pub(super) behind_mark: Place,
    /// Whether the line at hand begins with a closing bracket.
    pub(super) led_by_closing: bool,
    /// Whether it begins with a link that follows one.
    pub(super) led_by_link: bool,
    /// The frame that waits for the next token to line up with it.
    pub(super) lines_up: Option<(usize, NodeId, LinesUp)>,
    waiting: Waiting,
    /// Where each line that was begun stands.
    pub places: Vec<Place>,
    /// Comments and prose of several lines.
    pub blocks: Vec<Block>,
    /// Conditionals of a preprocessor that are open.
    pub(super) conditionals: Vec<Branches>,
    /// The last token passed that is no comment.
    pub(super) behind: Option<TokenId>,
    /// The brackets that are open whatever the tree says; only counted where the tree has errors.
    nesting: Option<OpenBrackets<Opened>>,
    /// The ways of the author, where lines may keep to them.
    pub ways: Option<Ways<'a>>,
    /// Whether the line at hand stands for something.
    pub(super) told: bool,
    /// The frame that waits to be told where the next token stands.
    pub(super) first_of: Option<(usize, NodeId)>,
    /// Whether the white space of each line that was begun may be left as it is, if it takes as many columns as it should.
    pub stays: Vec<bool>,
    /// The tables of the file, and whether the line at hand may line up with others of one.
    pub(super) tables: Tables,
    pub in_table: bool,
    /// What marks of templates are to their blocks.
    pub(super) templates: Templates,
    /// The body of a function that holds the whole file.
    pub(super) wrapper: Option<NodeId>,
}

/// The body of a function without a name that holds a file: at least half of all tokens.
fn wrapper(tree: &Tree) -> Option<NodeId> {
    // What imports is a module without it.
    if tree.children(NodeId(0)).any(|id| tree.role(id) == Role::Import) {
        return None;
    }
    let length = |id: NodeId| tree.node(id).token_end - tree.node(id).first_token;
    let items = tree.children(NodeId(0)).filter(|id| tree.role(*id) != Role::Comment);
    let whole: u32 = items.map(length).sum();
    let mut at = NodeId(0);
    loop {
        at = tree.children(at).find(|id| length(*id) * 2 >= whole)?;
        if tree.role(at) == Role::Block {
            return tree.parent(at).filter(|parent| tree.role(*parent) == Role::Lambda).map(|_| at);
        }
    }
}

impl<'a> Frames<'a> {
    /// Nothing but the file is open.
    pub fn new(code: Code<'a>, table: &'a IndentTable, options: &'a Options, margin: Place) -> Self {
        let Code { source, tree, .. } = code;
        let mut frames = Frames {
            code,
            source,
            tree,
            table,
            options,
            stack: Vec::new(),
            next: 1,
            line_token: TokenId::MAX,
            current: margin,
            stood: margin,
            behind_mark: margin,
            led_by_closing: false,
            led_by_link: false,
            lines_up: None,
            waiting: Waiting::default(),
            places: Vec::new(),
            blocks: Vec::new(),
            conditionals: Vec::new(),
            behind: None,
            nesting: tree.has_error().then(OpenBrackets::new),
            ways: None,
            told: false,
            first_of: None,
            stays: Vec::new(),
            tables: Tables::new(table.spec.prefixed_names),
            in_table: true,
            templates: Templates::of(code, table.spec.templates),
            wrapper: table.spec.module_function.then(|| wrapper(tree)).flatten(),
        };
        frames.push(NodeId(0), Hold::Flat, margin, margin);
        frames
    }

    /// Lets lines stand in other ways that their author keeps to, the outermost moved by so many columns.
    pub fn with_ways(mut self, ways: Option<Ways<'a>>, shift: i64) -> Self {
        self.ways = ways;
        self.stack.iter_mut().for_each(|root| root.written.shift = shift);
        self
    }

    /// The outermost node that begins with the next token, and what it is in.
    fn reached(&mut self, token: TokenId) -> Option<NodeId> {
        let nodes = self.tree.nodes();
        // Nodes without a token have no line.
        while let Some(node) =
            nodes.get(self.next as usize).filter(|node| node.is_empty() || node.first_token < token)
        {
            self.next += 1;
            self.count_missing(node);
        }
        self.close_ended(self.next);
        nodes.get(self.next as usize).filter(|node| node.first_token == token).map(|_| NodeId(self.next))
    }

    fn close_ended(&mut self, node: u32) {
        while self.stack.len() > 1 && self.stack.last().is_some_and(|frame| frame.end <= node) {
            self.stack.pop();
        }
    }

    /// Where a line would stand that begins with the next token.
    pub fn spot_of(&mut self, token: TokenId) -> Spot {
        let by_brackets = self.by_brackets(token);
        let Some(id) = self.reached(token) else { return self.top().base.into() };
        by_brackets.unwrap_or_else(|| self.spot(id, self.tree.node(id)))
    }

    /// The tree.
    pub fn tree(&self) -> &'a Tree {
        self.tree
    }

    /// The text.
    pub fn source(&self) -> &'a Source {
        self.source
    }

    /// Whether rows may line up behind the prefixes of the names that they begin with.
    pub fn has_prefixed_names(&self) -> bool {
        self.table.spec.prefixed_names
    }

    /// Columns of a tab.
    pub fn tab_width(&self) -> u32 {
        self.options.indentation.tab_width
    }

    /// Where the line at hand begins.
    pub fn line_place(&self) -> Place {
        self.current
    }

    /// Whether the line at hand begins with a closing bracket.
    pub fn is_led_by_closing(&self) -> bool {
        self.led_by_closing
    }

    /// Whether the line at hand goes on with what a later token is part of, further in than that begins.
    pub fn is_wrapped_up_to(&self, token: TokenId) -> bool {
        let Some(token) = self.tree.tokens().get(token as usize) else { return false };
        let holder = self.stack.iter().rev().take(NEAR).find(|frame| frame.end > token.node.0);
        holder.is_some_and(|holder| self.current.columns() > holder.anchor.columns())
    }

    /// Whether the line at hand begins with a mark behind which a header goes on.
    pub fn is_led_by_clause(&self) -> bool {
        let led_by = self.tree.tokens().get(self.line_token as usize);
        let led_by = led_by.map_or("", |token| self.source.slice(token.span()));
        let top = self.top();
        let of_pattern = || top.hold == Hold::Branch && self.line_token > self.tree.node(top.node).first_token;
        leads_clause(led_by) || led_by == "|" && of_pattern()
    }

    /// Whether the line at hand begins with the word of a clause that has items of its own.
    pub fn is_led_by_section(&self) -> bool {
        let led_by = self.tree.tokens().get(self.line_token as usize);
        let holder = led_by.map(|token| self.tree.node(token.node).parent);
        holder.is_some_and(|holder| {
            let node = self.tree.node(holder);
            self.table.kind(node.kind).hold == Hold::Section && node.first_token == self.line_token
        })
    }

    /// Begins a line with the next token, where it must stand if it is `kept`. Gives where it stands; a comment may stand elsewhere once
    /// the line behind it is known, see [`Frames::is_waiting`].
    pub fn begin_line(&mut self, token: TokenId, kept: Option<Place>) -> Place {
        let line = self.places.len();
        self.line_token = token;
        (self.lines_up, self.first_of) = (None, None);
        let by_brackets = self.by_brackets(token);
        let Some(id) = self.reached(token) else {
            self.places.push(self.current);
            self.stays.push(false);
            return self.current;
        };
        let node = self.tree.node(id);
        let spot = by_brackets.unwrap_or_else(|| self.spot(id, node));
        let comment = self.tree.is_comment(token);
        let directive = self.is_directive(node);
        let further = self.further_in_table(node, kept);
        let own = self.as_written(node, &spot, comment);
        let wanted = kept.or(own).unwrap_or(spot.place);
        self.places.push(wanted);
        self.stays.push(own.is_some() && (comment || matches!(spot.by, By::Wrap | By::Author)));
        self.stood = if self.told || own.is_none() { wanted } else { spot.place };
        if !comment && !directive {
            self.note_written(&spot, wanted);
        }
        let wanted = wanted.aligned(further);
        self.places.last_mut().into_iter().for_each(|place| *place = wanted);
        // A comment right behind a label has nothing else to belong to.
        let waits = comment && kept.or(own).is_none() && self.before() != ":" && !self.falls_through(id);
        if waits {
            self.waiting.push(line, spot.place);
        } else if comment {
            // It stays whatever is around it, and says nothing of that.
        } else if directive {
            self.wait_as_directive(node, Some(line).filter(|_| kept.or(own).is_none()), spot.place);
        } else {
            self.waiting.settle(Some(Spot { place: wanted, ..spot }), &mut self.places);
        }
        if !comment && !directive {
            self.note_code(wanted);
        }
        // What a label leads stands with the statements beside it, not with the label.
        self.current = match spot.by {
            By::Setting(Key::IndentLabel, among) => among,
            _ => wanted,
        };
        self.note_in_macro(node, spot.closes);
        // Links behind one that follows a block follow it, too.
        let top = self.top();
        let follows = self.led_by_closing
            && match top.hold {
                Hold::Chain => wanted == top.anchor,
                _ => self.tree.role(top.node) == Role::Macro && wanted == top.base && self.text(id) == ".",
            };
        (self.led_by_closing, self.led_by_link) = (spot.closes || follows, follows);
        self.pass_mark(token);
        wanted
    }

    /// The line at hand began with a comment, and the next token goes on with it: then it stands where that would.
    fn settle_with(&mut self, token: TokenId) {
        let spot = self.spot_of(token);
        self.waiting.settle(Some(spot), &mut self.places);
        self.current = self.places.last().copied().unwrap_or(self.current);
    }

    /// Settles the line at hand, if it began with a comment and the next token goes on with it. Gives where it stands then.
    pub fn go_on(&mut self, token: TokenId) -> Option<Place> {
        let begun = self.waiting.last() == self.places.len().checked_sub(1) && self.tree.is_comment(self.line_token);
        let goes_on =
            begun && self.waiting.last().is_some() && self.line_token != token && !self.tree.is_comment(token);
        goes_on.then(|| self.settle_with(token))?;
        Some(self.current)
    }

    /// Begins a line with something that no token of the tree is, such as a bracket that is put in.
    pub fn begin_made_line(&mut self, place: Place) {
        (self.line_token, self.current, self.behind_mark) = (TokenId::MAX, place, place);
    }

    /// Remembers how the lines inside a macro were written.
    fn note_in_macro(&mut self, node: &Node, closes: bool) {
        if closes || self.tree.role(self.top().node) != Role::Macro || self.tree.is_comment(node.first_token) {
            return;
        }
        let (column, begins) = (self.written_column(node.start), ends_item(self.before()));
        let place = self.current;
        if let Some(top) = self.stack.last_mut() {
            if *top.first_column.get_or_insert(column) == column {
                top.item = place;
            }
            top.item_has_line |= begins;
        }
    }

    /// Whether the place of some line is not known yet.
    pub fn is_waiting(&self) -> bool {
        !self.waiting.is_empty()
    }

    /// Settles what waits at the end of the file.
    pub fn finish(&mut self) {
        self.waiting.settle(None, &mut self.places);
    }

    pub(super) fn settle_waiting(&mut self) {
        self.waiting.settle(None, &mut self.places);
    }

    pub(super) fn wait(&mut self, line: usize, inside: Place) {
        self.waiting.push(line, inside);
    }

    /// Goes past the next token, which stands in a column that is only asked for where something lines up with it.
    pub fn pass(&mut self, token: TokenId, column: &mut dyn FnMut() -> u32) {
        self.go_on(token);
        self.line_up(token, column);
        let (open, first_of) = (self.stack.len(), self.first_of.take());
        let nodes = self.tree.nodes();
        while let Some(node) = nodes.get(self.next as usize).filter(|node| node.first_token <= token) {
            let id = NodeId(self.next);
            self.next += 1;
            self.count_missing(node);
            if !node.is_empty() && node.first_token == token {
                self.close_ended(id.0);
                self.enter(id, node, column);
            }
        }
        self.count_bracket(token);
        self.count_template(token);
        self.note_column(token, open, first_of, column);
    }

    /// Lines up with the token what waits for it, if it is no comment and begins no line.
    fn line_up(&mut self, token: TokenId, column: &mut dyn FnMut() -> u32) {
        let Some((at, node, what)) = self.lines_up.take() else { return };
        if self.tree.is_comment(token) {
            return;
        }
        let lined_up = self.current.lined_up(column());
        if let Some(frame) = self.stack.get_mut(at).filter(|frame| frame.node == node) {
            match what {
                LinesUp::Argument => frame.argument = lined_up,
                LinesUp::Base => frame.base = lined_up,
                LinesUp::Items => (frame.base, frame.lined_up) = (lined_up, true),
            }
        }
    }

    /// Lets the innermost frame line up with the token behind the one at hand.
    pub(super) fn line_up_with_next(&mut self, what: LinesUp) {
        let at = self.stack.len() - 1;
        self.lines_up = Some((at, self.top().node, what));
    }

    /// Counts the blocks that are open in what the innermost frame holds.
    pub(super) fn count_template(&mut self, token: TokenId) {
        let Some(part) = self.templates.part(token) else { return };
        let mark = self.tree.tokens().get(token as usize).map(|token| token.node);
        let holds = |frame: &&mut Frame| Some(frame.node) != mark
            && (part != TemplatePart::End || frame.written.templates > 0);
        if let Some(holder) = self.stack.iter_mut().rev().take(NEAR).find(holds) {
            let open = &mut holder.written.templates;
            *open = match part {
                TemplatePart::Begin => open.saturating_add(1),
                TemplatePart::Middle => *open,
                TemplatePart::End => open.saturating_sub(1),
            };
        }
    }

    fn count_bracket(&mut self, token: TokenId) {
        let (place, line) = (self.current, self.places.len());
        let Some(open) = &mut self.nesting else { return };
        let Some(bracket) = bracket_of(self.code, token) else { return };
        if bracket.opens {
            return open.open(bracket.shape, Opened { place, line });
        }
        if is_stray(self.tree, token) {
            return;
        }
        if let Some((closed, _)) = open.close(bracket.shape) {
            // A bracket in front of a brace that is closed again was left open if a word follows.
            let next = self.tree.tokens().get(token as usize + 1);
            if next.is_some_and(|next| self.source.slice(next.span()).starts_with(char::is_alphanumeric)) {
                open.forget_while(|opened| opened.line == closed.line);
            }
        }
    }

    /// Closes the bracket whose partner the text lacks, where the reader says it would have stood.
    fn count_missing(&mut self, node: &Node) {
        if let Some(open) = &mut self.nesting && let Some(shape) = missing_closer(self.tree, node) {
            open.close(shape);
        }
    }

    /// Where a line stands by its brackets alone, if the tree has another idea of which are open.
    fn by_brackets(&mut self, token: TokenId) -> Option<Spot> {
        self.reached(token);
        let open = self.nesting.as_ref()?;
        if self.top().depth == open.depth() {
            return None;
        }
        let closes = bracket_of(self.code, token).filter(|bracket| !bracket.opens);
        let opened = match closes {
            Some(bracket) => open.partner(bracket.shape),
            None => open.last(),
        };
        let deeper = if closes.is_some() || opened.is_none() { 0 } else { self.options.size };
        let place = opened.map_or(Place::default(), |opened| opened.place);
        Some(Spot { place: place.deeper(deeper), closes: closes.is_some(), by: By::Structure })
    }

    /// Whether a comment says that the group it ends goes on with the next one.
    fn falls_through(&self, id: NodeId) -> bool {
        let text = self.text(id).trim_start_matches(['/', '*', ' ']);
        let begins = |word: &&str| text.get(..word.len()).is_some_and(|text| text.eq_ignore_ascii_case(word));
        self.table.spec.falls_through.iter().any(begins)
    }

    /// What is opened behind a mark that leads a line stands against what is behind the mark.
    fn pass_mark(&mut self, token: TokenId) {
        self.behind_mark = self.current;
        if self.table.spec.marks.is_empty() {
            return;
        }
        let Some(first) = self.tree.tokens().get(token as usize) else { return };
        let mark = self.source.slice(first.span());
        let next = self.tree.tokens().get(token as usize + 1).filter(|next| next.start > first.end);
        match next.filter(|_| self.table.spec.marks.contains(&mark)) {
            Some(_) if self.options.indentation.tabs => self.behind_mark.level += self.options.size,
            Some(next) => self.behind_mark.align += next.start - first.start,
            None => {}
        }
    }

    pub(super) fn top(&self) -> &Frame {
        // The root's frame is never closed.
        &self.stack[self.stack.len() - 1]
    }

    /// Whether white space means something where the next token stands.
    pub fn is_kept(&mut self, token: TokenId) -> bool {
        self.reached(token);
        self.top().kept
    }

    pub(super) fn text(&self, id: NodeId) -> &'a str {
        self.tree.text_of(self.source.text(), id)
    }

    /// Whether a node is the first thing on its line.
    pub(super) fn is_at_line_start(&self, node: &Node) -> bool {
        node.first_token == self.line_token
    }
}
