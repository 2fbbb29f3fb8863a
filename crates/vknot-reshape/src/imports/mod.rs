//! Imports: pruned, merged, grouped and sorted, by what is known. What a language says of them is in its folder; here is what all share.

mod block;
mod found;
mod held;
mod keys;
mod missing;
mod names;
mod order;
mod organizing;
mod pieces;
mod places;
mod prune;
mod row;
mod wildcards;
pub(crate) mod words;

use vknot_style::{Key, Style};
use vknot_syntax::{Source, Span, Tree};

use crate::edits::Edits;
use crate::layout;
use crate::lines::Lines;
use crate::receipt::{Act, Fate, LeftAlone, Note, Reason, Receipt};
use crate::reshape::Reshape;
use crate::spec::Code;
use crate::spec::imports::{Alone, Surroundings, Wants};

use block::{Block, Entry};
use found::blocks;
use organizing::Organizing;
use prune::Pruner;
use row::Rower;
use wildcards::Wildcards;
use words::{list_of, one_line};

pub(crate) use words::imports_of;
pub use organizing::{Acts, Wanted};

/// Puts the imports of a file in order. With `only`, those that the spans touch.
pub fn organize(
    code: Code<'_>,
    style: &Style,
    only: Option<&[Span]>,
    wanted: &Wanted,
    around: &dyn Surroundings,
) -> Reshape {
    let Code { source, tree, .. } = code;
    let mut receipt = Receipt::default();
    if tree.gave_up() {
        receipt.left_alone.push(LeftAlone { span: source.span(), reason: Reason::GaveUp });
        return Reshape { receipt, ..Reshape::default() };
    }
    match code.toolkit().imports {
        Some(spec) => {
            Organizing { code, spec, style, wanted, wants: wants(style), around, beside: None, margin: "" }
                .organized(only)
        }
        None if tree.language().reading().embeds.is_some() => pieces::organize(code, style, only, wanted),
        None => {
            let text = format!("there are no rules for the imports of {} here", tree.language().spec().title);
            receipt.notes.push(Note { span: Span::new(0, 0), text });
            Reshape { receipt, ..Reshape::default() }
        }
    }
}

/// The settings of which the imports of a file show the value.
pub(crate) fn shown(code: Code<'_>, style: &Style) -> Vec<(Key, String)> {
    let Some(spec) = code.toolkit().imports else { return Vec::new() };
    let (wants, wanted) = (wants(style), Wanted::default());
    let organizing =
        Organizing { code, spec, style, wanted: &wanted, wants, around: &Alone, beside: None, margin: "" };
    let rows: Vec<(Block, Vec<Entry>)> =
        blocks(code, spec).0.into_iter().map(|block| organizing.entries(organizing.set_in(block))).collect();
    organizing.told(&rows)
}

/// How often imports are put in order at most, until nothing changes.
const ROUNDS: usize = 3;

/// What a file shows of its order may depend on what was done to it: it is done again until that changes nothing.
fn settle(organizing: &Organizing<'_>, reshape: &mut Reshape) {
    let code = organizing.code;
    let text = code.source.text();
    for _ in 0..ROUNDS {
        if reshape.edits.is_empty() {
            return;
        }
        let source = Source::from_text(code.source.path(), reshape.edits.apply(text));
        let tree = Tree::read(&source, code.tree.language());
        let acts = Acts { prune: false, ..organizing.wanted.acts };
        let wanted = Wanted { acts, ..Wanted::default() };
        let again = Organizing {
            code: code.other(&source, &tree),
            wanted: &wanted,
            wants: organizing.wants.clone(),
            ..*organizing
        };
        let more = again.run().edits.by_lines(source.text());
        if more.is_empty() {
            return;
        }
        reshape.edits = reshape.edits.then(text, &more);
    }
}

fn wants(style: &Style) -> Wants {
    let names = style.word(Key::ImportOwn).split([',', ' ']).filter(|name| !name.is_empty());
    Wants {
        own: names.map(str::to_owned).collect(),
        documented: style.flag(Key::ImportDoc),
        required: style.flag(Key::ImportRequire) || style.word(Key::ImportInclude) == "sort",
        offered: style.word(Key::ImportOffer) == "prune",
    }
}

/// Leaves only the edits that stay within the lines that are meant.
fn narrow(source: &Source, only: &[Span], reshape: &mut Reshape) {
    let before = reshape.edits.len();
    let lines = Lines::of(source, only);
    reshape.edits = reshape.edits.filtered(|span, new| may_change(source, &lines, span, new));
    if reshape.edits.len() == before {
        return;
    }
    let touched: Vec<Span> = reshape.edits.iter().map(|(span, _)| span).collect();
    let is_touched = |offset: u32| touched.iter().any(|span| span.covers(Span::new(offset, offset)));
    reshape.receipt.removed.retain(|removed| is_touched(removed.offset));
    reshape.receipt.imports.retain(|fate| fate.act == Act::Kept || is_touched(fate.span.start));
}

/// Whether an edit takes out none but some lines.
fn may_change(source: &Source, lines: &Lines, span: Span, new: &str) -> bool {
    let mut edit = Edits::default();
    edit.push(span, new);
    let by_lines = edit.by_lines(source.text());
    by_lines.iter().all(|(span, _)| {
        let (first, last) = source.line_range(span);
        span.is_empty() || lines.within(first, last)
    })
}

impl Organizing<'_> {
    fn organized(&self, only: Option<&[Span]>) -> Reshape {
        let source = self.code.source;
        let mut reshape = self.run();
        match only {
            None => settle(self, &mut reshape),
            Some(only) => narrow(source, only, &mut reshape),
        }
        reshape.edits = reshape.edits.by_lines(source.text());
        reshape
    }

    fn run(&self) -> Reshape {
        let Code { source, tree, .. } = self.code;
        let mut receipt = Receipt::default();
        let (blocks, aside) = blocks(self.code, self.spec);
        for node in aside {
            let import = one_line(tree.text_of(source.text(), node));
            let why = "stays as it is: it cannot be read, or shares its line with something else".to_owned();
            receipt.imports.push(Fate::new(import, tree.node(node).span(), Act::Passed, why));
        }
        let mut rows: Vec<(Block, Vec<Entry>)> =
            blocks.into_iter().map(|block| self.entries(self.set_in(block))).collect();
        let order = self.order(&rows);
        let missing = self.spec.missing.filter(|_| self.wanted.missing);
        let new = missing.map(|spec| missing::found(self, spec, &mut receipt)).unwrap_or_default();
        let names = self.names(&rows);
        let mut pruner = Pruner::new(self, &rows);
        let mut wildcards = Wildcards::of(self);
        let mut rower = Rower::new(self, order, names, self.merge(&rows), self.width(&rows));
        let mut edits = Edits::default();
        let mut rewritten = Vec::new();
        let left = missing::into_block(self, &mut rows, new, &mut receipt);
        for (block, entries) in &mut rows {
            let mut entries = pruner.kept(block, std::mem::take(entries), &mut receipt);
            if let Some(wildcards) = &mut wildcards {
                entries = wildcards.applied(entries, &mut receipt);
            }
            match rower.text(block, entries, &mut receipt) {
                Some(text) if text.text != source.slice(block.span) => {
                    edits.push(block.span, &text.text);
                    rewritten.push(text.rewritten);
                }
                Some(_) => {}
                None => {
                    edits.push(with_blank_lines(source, self.with_list(block)), "");
                    rewritten.push(Vec::new());
                }
            }
        }
        pruner.finish(&mut receipt, !edits.is_empty());
        if !left.is_empty() {
            let new = missing::new_block(self, &left, &mut receipt);
            edits = edits.merged(new.iter());
            // Which edit is which is not told apart any more.
            rewritten.clear();
        }
        Reshape { edits: self.laid_out(edits, &rewritten), receipt, bom: None }
    }

    /// What a block takes up, with the list around it if there is nothing else in that.
    fn with_list(&self, block: &Block) -> Span {
        let Code { source, tree, .. } = self.code;
        let list = block.lines.first().and_then(|line| list_of(self.code, tree.node(line.node).parent));
        let whole = list.map(|(list, body)| (tree.node(list).span(), tree.node(body).span())).filter(|(list, body)| {
            let around = [Span::new(body.start + 1, block.span.start), Span::new(block.span.end, body.end - 1)];
            let blank = |span: &Span| span.start <= span.end && source.slice(*span).trim_matches(';').trim().is_empty();
            around.iter().all(blank) && source.begins_line(list.start)
        });
        whole.map_or(block.span, |(list, _)| Span::new(source.line_start(list.start), list.end))
    }

    /// A block that begins with the text is as far in as that is.
    fn set_in(&self, block: Block) -> Block {
        let indent = if block.span.start == 0 { self.margin.to_owned() + &block.indent } else { block.indent };
        Block { indent, ..block }
    }

    /// The edits with the imports that were rewritten laid out as a layout would. Those are given by edit, inside its text.
    fn laid_out(&self, edits: Edits, rewritten: &[Vec<Span>]) -> Edits {
        let code = self.code;
        let starts: Vec<u32> = edits.new_spans().map(|span| span.start).collect();
        let moved = starts.iter().zip(rewritten).flat_map(|(start, spans)| {
            spans.iter().map(move |span| Span::new(span.start + start, span.end + start))
        });
        let spans: Vec<Span> = moved.collect();
        if spans.is_empty() || code.toolkit().layout.is_none() {
            return edits;
        }
        let text = code.source.text();
        let source = Source::from_text(code.source.path(), edits.apply(text));
        let tree = Tree::read(&source, code.tree.language());
        edits.then(text, &layout::inside(code.other(&source, &tree), self.style, &spans, code))
    }

}

/// The span with the rest of its last line and the blank lines behind it; those in front of it instead where there are fewer between two
/// pieces of code.
fn with_blank_lines(source: &Source, span: Span) -> Span {
    let (front, behind) = (
        source.slice(Span::new(0, span.start)),
        source.slice(Span::new(span.end, source.span().end)),
    );
    let blank = &behind[..behind.len() - behind.trim_start().len()];
    let above = front.trim_end();
    let lines = |blank: &str| blank.bytes().filter(|byte| *byte == b'\n').count();
    let parts = !above.is_empty() && !above.ends_with(['{', '(', ':']) && blank.len() < behind.len();
    if parts && lines(&front[above.len()..]) < lines(blank) && source.line_start(span.start) == span.start {
        let first = |text: &str| text.find('\n').map_or(0, |at| at as u32 + 1);
        return Span::new(above.len() as u32 + first(&front[above.len()..]), span.end + first(blank));
    }
    let end = blank.rfind('\n').map_or(span.end, |at| span.end + at as u32 + 1);
    Span::new(span.start, end)
}
