//! Reading with a tree-sitter grammar: parse within a budget, then flatten the result once.

use std::cell::RefCell;
use std::ops::ControlFlow;
use std::time::{Duration, Instant};

use tree_sitter::{ParseOptions, Parser, ParseState, TreeCursor};

use crate::language::{Field, Kind, Language};
use crate::limits::Limits;
use crate::reader::{Mask, Repair, Unseen};
use crate::role::Role;
use super::closers::{closers, Closers};
use super::regroup::regrouped;
use crate::text::Span;
use crate::tree::{Hidden, HiddenSide, NodeId, Tree, TreeBuilder};

/// The parser reports once in this many steps (its own constant is 100); a well-formed text needs from one step for every two bytes to
/// seven for a byte. A text may take several times that before it is given up.
const REPORTS_AT_LEAST: u64 = 4_000;
const BYTES_PER_REPORT: u64 = 8;

/// How long a text may take at most, some twenty times what one takes that is well formed: at an error a single step may go over all that
/// was read.
const PATIENCE: Duration = Duration::from_secs(3);
const PATIENCE_PER_BYTE: Duration = Duration::from_micros(8);

thread_local! {
    /// One parser per thread, reused from file to file.
    static PARSER: RefCell<Parser> = RefCell::new(Parser::new());
}

/// A text as a grammar is to see it.
#[derive(Clone)]
struct Seen {
    bytes: Vec<u8>,
    /// What is blanked out, in order, and what each becomes.
    hidden: Vec<Hidden>,
    /// What stands for something else.
    stand_ins: StandIns,
    /// Marks put in in front of offsets, in order.
    inserted: Vec<(u32, u8)>,
}

/// What a grammar sees that stands for something else, each in order.
#[derive(Clone, Default)]
struct StandIns {
    /// Marks, and what they are.
    marks: Vec<(u32, Kind)>,
    /// Words and where nodes begin that do, and what each is where that is a token of its own.
    words: Vec<(Span, Option<Kind>)>,
    /// The kinds that words and nodes make, and what they are.
    kinds: Vec<(Kind, Kind)>,
    /// Marks that are not in the text.
    put_in: Vec<u32>,
}

impl StandIns {
    /// The kind of what begins at an offset and is of that kind for the grammar.
    fn kind(&self, kind: Kind, start: u32) -> Kind {
        let meant = self.kinds.iter().find(|(seen, _)| *seen == kind).map(|(_, meant)| *meant);
        meant.filter(|_| self.word(start).is_some()).unwrap_or(kind)
    }

    /// The word that begins at an offset.
    fn word(&self, start: u32) -> Option<(Span, Option<Kind>)> {
        let behind = self.words.partition_point(|(word, _)| word.start <= start);
        self.words.get(..behind)?.last().copied().filter(|(word, _)| word.start == start)
    }

    /// Where a token ends, which may be longer than the word that stands for it.
    fn end(&self, start: u32, end: u32) -> u32 {
        self.word(start).map_or(end, |(word, _)| word.end.max(end))
    }

    /// The kind of a token.
    fn token(&self, kind: Kind, start: u32, end: u32) -> Kind {
        let mark = self.marks.binary_search_by_key(&start, |(at, _)| *at).ok().filter(|_| end == start + 1);
        let mark = mark.and_then(|index| self.marks.get(index)).map(|(_, meant)| *meant);
        mark.or_else(|| self.word(start)?.1).unwrap_or_else(|| self.kind(kind, start))
    }

    fn is_put_in(&self, start: u32, end: u32) -> bool {
        end == start + 1 && self.put_in.binary_search(&start).is_ok()
    }
}

impl Seen {
    fn plain(text: &str) -> Self {
        let stand_ins = StandIns::default();
        Self { bytes: text.as_bytes().to_vec(), hidden: Vec::new(), stand_ins, inserted: Vec::new() }
    }

    /// The text without what the grammar lacks; `None` when there is none of it.
    fn repaired(text: &str, language: &Language, repair: Option<Repair>) -> Option<Self> {
        let Repair { mask, kind, name, groups, words: kinds } = repair?;
        let Mask { text: bytes, hidden, stand_ins, words, mut put_in, inserted } = mask(text)?;
        let (kind, name) = (kind_of(language, kind), kind_of(language, name));
        let known = |unseen: Unseen| {
            let (span, word) = (unseen.span, unseen.span.of(text));
            if !unseen.is_code {
                return Hidden { span, kind, side: HiddenSide::None };
            }
            let side = groups.iter().find_map(|(begins, ends, group)| match word {
                _ if word == *begins => Some(HiddenSide::Opens(kind_of(language, group))),
                _ => (word == *ends).then_some(HiddenSide::Closes),
            });
            let side = side.unwrap_or(HiddenSide::None);
            Hidden { span, kind: language.token_kind(word).unwrap_or(name), side }
        };
        let mark = |at: u32| text.get(at as usize..at as usize + 1).and_then(|mark| language.token_kind(mark));
        let mut hidden: Vec<Hidden> = hidden.into_iter().map(known).collect();
        let mut marks: Vec<(u32, Kind)> = stand_ins.into_iter().filter_map(|at| Some((at, mark(at)?))).collect();
        // What stands in something else is found behind it.
        hidden.sort_by_key(|hidden| hidden.span.start);
        marks.sort_by_key(|(at, _)| *at);
        let mut words: Vec<(Span, Option<Kind>)> =
            words.into_iter().map(|word| (word, language.token_kind(word.of(text)))).collect();
        words.sort_unstable_by_key(|(word, _)| (word.start, word.end));
        put_in.sort_unstable();
        let both = |(seen, meant): &(&str, &str)| (kind_of(language, seen), kind_of(language, meant));
        let kinds = kinds.iter().map(both).collect();
        Some(Self { bytes, hidden, stand_ins: StandIns { marks, words, kinds, put_in }, inserted })
    }

    /// Without some marks, too.
    fn without(&self, text: &str, language: &Language, marks: &[Span]) -> Self {
        let mut seen = self.clone();
        for mark in marks {
            seen.hide(*mark, kind_of(language, mark.of(text)));
        }
        seen.hidden.sort_by_key(|hidden| hidden.span.start);
        seen
    }

    fn hide(&mut self, span: Span, kind: Kind) {
        let bytes = self.bytes.get_mut(span.start as usize..span.end as usize).unwrap_or_default();
        bytes.iter_mut().filter(|byte| !matches!(byte, b'\n' | b'\r')).for_each(|byte| *byte = b' ');
        self.hidden.push(Hidden { span, kind, side: HiddenSide::None });
    }

    fn read(&self, text: &str, language: &'static Language, limits: &Limits) -> Option<Tree> {
        self.read_with(text, language, &[], limits)
    }

    /// Reads the text with closing brackets put in, each in front of an offset, in order.
    fn read_with(
        &self,
        text: &str,
        language: &'static Language,
        missing: &[(u32, u8)],
        limits: &Limits,
    ) -> Option<Tree> {
        let mut builder = TreeBuilder::new(text, language);
        builder.expect_hidden(self.hidden.clone());
        if missing.is_empty() && self.inserted.is_empty() {
            let parsed = parsed(&self.bytes, language, limits)?;
            flatten(&mut parsed.walk(), language, &mut builder, &|at| at as u32, &self.stand_ins, &[]);
            return Some(builder.finish());
        }
        let mut all: Vec<(u32, u8, bool)> = self.inserted.iter().map(|(at, mark)| (*at, *mark, true)).collect();
        all.extend(missing.iter().map(|(at, bracket)| (*at, *bracket, false)));
        all.sort_by_key(|(at, ..)| *at);
        let parsed = parsed(&with_marks(&self.bytes, &all), language, limits)?;
        // Where each stands in what is parsed, and so how many bytes were put in in front of an offset of the whole text.
        let places = || all.iter().enumerate().map(|(index, (at, _, no_node))| (*at as usize + index, *no_node));
        let put_in: Vec<usize> = places().map(|(at, _)| at).collect();
        let no_nodes: Vec<usize> = places().filter(|(_, no_node)| *no_node).map(|(at, _)| at).collect();
        let own = |at: usize| (at - put_in.partition_point(|place| *place < at)) as u32;
        flatten(&mut parsed.walk(), language, &mut builder, &own, &self.stand_ins, &no_nodes);
        Some(builder.finish())
    }

    /// Reads the text once more with the brackets put in that its order and indentation say are missing; they become nodes without
    /// text. What stands behind `end` is not read.
    fn read_closed(&self, text: &str, tree: &Tree, end: u32, limits: &Limits) -> Option<Tree> {
        let language = tree.language();
        let Closers { missing, stray } = match closers(text, tree, end) {
            Some(closers) => closers,
            None if (end as usize) < text.len() => Closers::default(),
            None => return None,
        };
        let mut seen = self.clone();
        seen.hidden.retain(|hidden| hidden.span.start < end);
        for span in stray {
            seen.hide(span, language.error_kind());
        }
        // What is not read keeps its tokens, and its comments.
        for token in tree.tokens().iter().filter(|token| token.start >= end) {
            let comment = tree.role(token.node) == Role::Comment;
            seen.hide(token.span(), if comment { tree.node(token.node).kind } else { language.error_kind() });
        }
        seen.hidden.sort_by_key(|hidden| hidden.span.start);
        seen.inserted.retain(|(at, _)| *at < end);
        seen.read_with(text, language, &missing, limits)
    }
}

fn kind_of(language: &Language, name: &str) -> Kind {
    language.kind(name).or(language.token_kind(name)).unwrap_or(language.error_kind())
}

/// A text with marks put in, each in front of an offset, in order.
fn with_marks(bytes: &[u8], marks: &[(u32, u8, bool)]) -> Vec<u8> {
    let mut done = Vec::with_capacity(bytes.len() + marks.len());
    let mut from = 0;
    for (at, mark, _) in marks {
        let at = *at as usize;
        done.extend_from_slice(bytes.get(from..at).unwrap_or_default());
        done.push(*mark);
        from = at;
    }
    done.extend_from_slice(bytes.get(from..).unwrap_or_default());
    done
}

/// Reads `text`; `None` when the budget ran out or the work was stopped.
pub(crate) fn read(text: &str, language: &'static Language, repair: Option<Repair>, limits: &Limits) -> Option<Tree> {
    let tree = read_best(text, language, repair, limits)?;
    let regrouped = language.reading().too_wide.as_ref().and_then(|rule| regrouped(text, &tree, rule));
    Some(regrouped.unwrap_or(tree))
}

/// The reading with the fewest errors.
fn read_best(text: &str, language: &'static Language, repair: Option<Repair>, limits: &Limits) -> Option<Tree> {
    if language.reading().overload.is_met_by(text) {
        return None;
    }
    let relieved = Seen::repaired(text, language, language.reading().relief);
    let mut seen = relieved.unwrap_or_else(|| Seen::plain(text));
    let mut best = seen.read(text, language, limits)?;
    if !best.has_error() {
        return Some(best);
    }
    let is_better = |new: &Tree, old: &Tree| unreadable(new) < unreadable(old);
    // Where marks are to be put in is told by lexemes alone, which may err.
    if !seen.inserted.is_empty() {
        let plain = Seen::plain(text);
        if let Some(tree) = plain.read(text, language, limits).filter(|tree| is_better(tree, &best)) {
            (best, seen) = (tree, plain);
        }
    }
    let mut other = Seen::repaired(text, language, repair);
    let repaired = other.as_ref().and_then(|other| other.read(text, language, limits));
    if let Some((repaired, other)) = repaired.filter(|repaired| is_better(repaired, &best)).zip(other.as_mut()) {
        best = repaired;
        std::mem::swap(&mut seen, other);
    }
    let marks = closing_marks(text, &best);
    if !marks.is_empty() {
        let marked = seen.without(text, language, &marks);
        let without = marked.read(text, language, limits).filter(|without| is_better(without, &best));
        if let Some(without) = without {
            (best, seen) = (without, marked);
        }
    }
    Some(closed(text, best, (&seen, other.as_ref()), limits))
}

/// The best reading of a text that may lack brackets, or break off. What the grammar is to see may show only once the brackets are
/// there, so that the `other` way is tried, too.
fn closed(text: &str, tree: Tree, (seen, other): (&Seen, Option<&Seen>), limits: &Limits) -> Tree {
    let mut best = tree;
    // What breaks off may do so anywhere.
    let ends = [Some(text.len() as u32), open_comment(text), unreadable_end(text, &best)];
    for end in ends.into_iter().flatten() {
        let whole = end as usize == text.len();
        // A whole text reads better with brackets where nothing else tells.
        for (seen, at_par) in [(Some(seen), whole), (other.filter(|_| whole), false)] {
            let closed = seen.and_then(|seen| seen.read_closed(text, &best, end, limits));
            let is_better = |(new, old): (u64, u64)| new < old || at_par && new == old;
            let better = closed.filter(|closed| is_better((unreadable(closed).0, unreadable(&best).0)));
            best = better.unwrap_or(best);
            if unreadable(&best).0 == 0 {
                return best;
            }
        }
    }
    best
}

/// What a text that breaks off may break off from.
const BOUNDARIES: &[&str] = &[";", ",", "{", "}", "(", "[", ")", "]"];

/// Where the last thing begins that a text that breaks off may have left unfinished, if there is one.
fn unreadable_end(text: &str, tree: &Tree) -> Option<u32> {
    let of = |span: Span| text.get(span.start as usize..span.end as usize).unwrap_or("");
    let last = tree.tokens().iter().rev().find(|token| BOUNDARIES.contains(&of(token.span())))?;
    let end = if of(last.span()) == "," { last.start } else { last.end };
    // Nothing may be left unfinished.
    tree.tokens().last().filter(|token| token.start >= end).map(|_| end)
}

/// Where a comment begins that does not end.
fn open_comment(text: &str) -> Option<u32> {
    let comment = text.rfind("/*").filter(|at| *at > 0 && !text[*at..].contains("*/"));
    comment.map(|at| at as u32)
}

/// The marks behind closers of types that the grammar had no place for.
fn closing_marks(text: &str, tree: &Tree) -> Vec<Span> {
    let language = tree.language();
    let Some(mark) = language.reading().closes_types else { return Vec::new() };
    let of = |span: Span| text.get(span.start as usize..span.end as usize).unwrap_or("");
    let behind_type = |id: NodeId| {
        let closer = tree.node(id).first_token.checked_sub(1).and_then(|before| tree.tokens().get(before as usize))?;
        let body = tree.parent(closer.node).filter(|body| tree.role(*body) == Role::Body)?;
        let holds = tree.role(tree.parent(body)?) == Role::Type && tree.node(body).end == closer.end;
        holds.then(|| tree.node(id).span())
    };
    tree.errors().filter(|id| of(tree.node(*id).span()) == mark).filter_map(behind_type).collect()
}

/// How many bytes are inside errors, and how many errors there are.
fn unreadable(tree: &Tree) -> (u64, usize) {
    let spans = tree.errors().map(|id| u64::from(tree.node(id).span().len()));
    spans.fold((0, 0), |(bytes, count), length| (bytes + length, count + 1))
}

/// Bytes of a text that any stack has room for, however deeply it is nested.
const SHALLOW: usize = 8 * 1024;
/// Bytes of stack for each byte of text: the parser gives back what is open one inside the other.
const STACK_PER_BYTE: usize = 256;
/// The largest stack, in bytes. What is not used of it takes no memory.
const STACK_AT_MOST: usize = 1024 * 1024 * 1024;

/// Parses a text where there is room for it: every token may be one level of nesting.
fn parsed(bytes: &[u8], language: &'static Language, limits: &Limits) -> Option<tree_sitter::Tree> {
    let here = || PARSER.with_borrow_mut(|parser| parse(parser, bytes, language, limits));
    if bytes.len() <= SHALLOW {
        return here();
    }
    std::thread::scope(|scope| {
        let room = bytes.len().saturating_mul(STACK_PER_BYTE).min(STACK_AT_MOST);
        let apart = || parse(&mut Parser::new(), bytes, language, limits);
        match std::thread::Builder::new().stack_size(room).spawn_scoped(scope, apart) {
            Ok(worker) => worker.join().ok()?,
            Err(_) => here(),
        }
    })
}

fn parse(
    parser: &mut Parser,
    bytes: &[u8],
    language: &'static Language,
    limits: &Limits,
) -> Option<tree_sitter::Tree> {
    parser.set_language(language.grammar()?).ok()?;
    let mut left = REPORTS_AT_LEAST + bytes.len() as u64 / BYTES_PER_REPORT;
    let begun = Instant::now();
    let patience = PATIENCE + PATIENCE_PER_BYTE.saturating_mul(u32::try_from(bytes.len()).unwrap_or(u32::MAX));
    let mut within_budget = |_: &ParseState| {
        left = left.saturating_sub(1);
        let spent = left == 0 || limits.is_stopped() || begun.elapsed() > patience;
        if spent { ControlFlow::Break(()) } else { ControlFlow::Continue(()) }
    };
    let options = ParseOptions::new().progress_callback(&mut within_budget);
    let mut chunk = |offset: usize, _| bytes.get(offset..).unwrap_or(b"");
    let parsed = parser.parse_with_options(&mut chunk, None, Some(options));
    if parsed.is_none() {
        parser.reset();
    }
    parsed
}

/// Walks the parser's tree once, in preorder, without recursion. `own` gives the offset in the text of one in what was parsed; what begins
/// at one of `no_nodes` becomes no node.
fn flatten(
    cursor: &mut TreeCursor<'_>,
    language: &'static Language,
    builder: &mut TreeBuilder<'_>,
    own: &impl Fn(usize) -> u32,
    stand_ins: &StandIns,
    no_nodes: &[usize],
) {
    let is_no_node = |node: tree_sitter::Node<'_>| no_nodes.binary_search(&node.start_byte()).is_ok();
    // The field of a node that is none, for what it holds.
    let mut handed = None;
    let error = language.error_kind();
    let atoms: Vec<bool> = (0..language.kind_count() as u16).map(|id| language.is_atom(Kind(id))).collect();
    loop {
        let node = cursor.node();
        let kind = match node.kind_id() {
            u16::MAX => error,
            id => Kind(id),
        };
        let no_node = is_no_node(node);
        let field = handed.take_if(|_| !no_node).unwrap_or(Field(cursor.field_id().map_or(0, |id| id.get())));
        let opaque = atoms.get(kind.0 as usize).copied().unwrap_or(false);
        let (start, end) = (own(node.start_byte()), own(node.end_byte()));
        let put_in = stand_ins.is_put_in(start, end);
        // Asking for the number is cheaper than trying to go down.
        if !opaque && !put_in && node.child_count() > 0 && cursor.goto_first_child() {
            builder.place_hidden(start);
            if no_node {
                handed = Some(field);
            } else {
                builder.open(stand_ins.kind(kind, start), field);
            }
            continue;
        }
        // The end of a text, which may end a statement, is nothing in it.
        let nothing = start == end && !node.is_missing() && matches!(node.kind(), "" | "\0");
        // So are the line ends among elements, which are none where a carriage return is in front.
        let nothing = nothing || language.is_prose(kind) && builder.is_line_ends(start, end);
        // What is missing may be a part of it that the grammar does not show.
        let lacks = node.is_missing() || start == end && (node.start_byte() < node.end_byte() || node.has_error());
        if nothing || put_in || no_node {} else if lacks {
            builder.missing(kind, field);
        } else {
            builder.leaf(stand_ins.token(kind, start, end), field, start, stand_ins.end(start, end));
        }
        while !cursor.goto_next_sibling() {
            if !cursor.goto_parent() {
                return;
            }
            if !is_no_node(cursor.node()) {
                builder.close();
            }
        }
    }
}
