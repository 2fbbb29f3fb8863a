//! Imports: pruned, merged, grouped and sorted, by what is known. What a language says of them is in its folder; here is what all share.

mod block;
mod missing;
mod names;
mod order;
mod prune;
mod row;
pub(crate) mod words;

use vknot_style::{Key, Style};
use vknot_style::choices::{ImportMerge, ImportNames};
use vknot_syntax::{NodeId, Source, Span, Tree};

use crate::edits::Edits;
use crate::frames::found::effective_indentation;
use crate::layout;
use crate::lines::Lines;
use crate::receipt::{Act, Fate, LeftAlone, Note, Reason, Receipt};
use crate::reshape::Reshape;
use crate::spec::Code;
use crate::spec::imports::{Import, ImportSpec, Surroundings, Wants};

use block::{Block, blocks};
use names::NameOrder;
use order::Standing;
use prune::Pruner;
use row::{Entry, Rower};

/// What is done to imports.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub struct Acts {
    /// They are sorted.
    pub sort: bool,
    /// They are put in groups.
    pub group: bool,
    /// Those from one place become one.
    pub merge: bool,
    /// Those that nothing needs go.
    pub prune: bool,
}

impl Default for Acts {
    fn default() -> Self {
        Acts { sort: true, group: true, merge: true, prune: true }
    }
}

/// What is wanted of imports.
#[derive(Clone, Debug, Default, PartialEq, Eq)]
pub struct Wanted {
    /// What is done.
    pub acts: Acts,
    /// Whether what is used and not imported is imported, where it is certain from where.
    pub missing: bool,
    /// Names, each with from where it is to be imported.
    pub chosen: Vec<(String, String)>,
}

/// What there is to go by.
pub(crate) struct Organizing<'a> {
    pub code: Code<'a>,
    pub spec: &'static ImportSpec,
    pub style: &'a Style,
    pub wanted: &'a Wanted,
    pub wants: Wants,
    pub around: &'a dyn Surroundings,
}

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
    let Some(spec) = code.toolkit().imports else {
        let text = format!("there are no rules for the imports of {} here", tree.language().spec().title);
        receipt.notes.push(Note { span: Span::new(0, 0), text });
        return Reshape { receipt, ..Reshape::default() };
    };
    let organizing = Organizing { code, spec, style, wanted, wants: wants(style), around };
    let mut reshape = organizing.run();
    if only.is_none() {
        settle(&organizing, &mut reshape);
    }
    if let Some(only) = only {
        narrow(source, only, &mut reshape);
    }
    reshape.edits = reshape.edits.by_lines(source.text());
    reshape
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
        required: style.flag(Key::ImportRequire),
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

impl<'a> Organizing<'a> {
    fn run(&self) -> Reshape {
        let Code { source, tree, .. } = self.code;
        let mut receipt = Receipt::default();
        let (blocks, aside) = blocks(self.code, self.spec);
        for node in aside {
            let import = one_line(tree.text_of(source.text(), node));
            let why = "stays as it is: it cannot be read, or shares its line with something else".to_owned();
            receipt.imports.push(Fate { import, span: tree.node(node).span(), act: Act::Passed, why });
        }
        let mut rows: Vec<(Block, Vec<Entry>)> = blocks.into_iter().map(|block| self.entries(block)).collect();
        let order = self.order(&rows);
        let missing = self.spec.missing.filter(|_| self.wanted.missing);
        let new = missing.map(|spec| missing::found(self, spec, &mut receipt)).unwrap_or_default();
        let names = self.names(&rows);
        let mut pruner = Pruner::new(self, &rows);
        let mut rower = Rower::new(self, order, names, self.merge(&rows), self.width(&rows));
        let mut edits = Edits::default();
        let mut rewritten = Vec::new();
        let left = missing::into_block(self, &mut rows, new, &mut receipt);
        for (block, entries) in &mut rows {
            let entries = pruner.kept(block, std::mem::take(entries), &mut receipt);
            match rower.text(block, entries, &mut receipt) {
                Some(text) if text.text != source.slice(block.span) => {
                    edits.push(block.span, &text.text);
                    rewritten.push(text.rewritten);
                }
                Some(_) => {}
                None => {
                    edits.push(with_blank_lines(source, block.span), "");
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

    /// A block with its imports taken apart.
    fn entries(&self, block: Block) -> (Block, Vec<Entry>) {
        let text = self.code.source.text();
        let entry = |line: &block::Line| Entry {
            import: (self.spec.read)(self.code, line.node).map(|import| self.held(import)),
            written: self.code.tree.text_of(text, line.node).to_owned(),
            line: line.clone(),
        };
        let entries = block.lines.iter().map(entry).collect();
        (block, entries)
    }

    /// An import that nothing passes where it does not count as one.
    fn held(&self, import: Import) -> Import {
        let counts = !import.head.ends_with(" =") || import.head.starts_with("import") || self.wants.required;
        Import { barrier: import.barrier || !counts, ..import }
    }

    /// What stands between two imports that nothing passes, one row each; for the order that the file shows.
    fn order(&self, blocks: &[(Block, Vec<Entry>)]) -> order::Order {
        let mut rows: Vec<Vec<Standing>> = Vec::new();
        for (_, entries) in blocks {
            let mut row = Vec::new();
            let mut group = 0;
            for entry in entries {
                group += usize::from(entry.line.blank > 0);
                match &entry.import {
                    Some(import) if !import.barrier => row.push(self.standing(import, group, entry.line.blank > 0)),
                    _ => rows.push(std::mem::take(&mut row)),
                }
            }
            rows.push(row);
        }
        rows.retain(|row| !row.is_empty());
        order::order(self.spec, self.style, &rows)
    }

    fn standing(&self, import: &Import, group: usize, apart: bool) -> Standing {
        Standing::of(self.spec, import, self.around, &self.wants.own, group, apart)
    }

    /// How names inside imports are sorted, if they are.
    fn names(&self, blocks: &[(Block, Vec<Entry>)]) -> Option<NameOrder> {
        let imports = || blocks.iter().flat_map(|(_, entries)| entries).filter_map(|entry| entry.import.as_ref());
        let pairs: usize = imports().map(|import| import.names.len().saturating_sub(1)).sum();
        let orders = NameOrder::all(self.spec.cased).into_iter();
        let faults = |order: NameOrder| imports().map(|import| order.faults(&import.names, self.spec)).sum::<usize>();
        let (faults, best) = orders.map(|order| (faults(order), order)).min_by_key(|(faults, _)| *faults)?;
        match self.style.choice() {
            ImportNames::Keep => None,
            ImportNames::Sort => Some(best),
            ImportNames::AsFound => (faults * 5 <= pairs).then_some(best),
        }
    }

    /// Whether imports are merged or split. Where nothing sets it and a file has more imports that could be one than it has imports of
    /// several names, its author wants them so.
    fn merge(&self, blocks: &[(Block, Vec<Entry>)]) -> ImportMerge {
        match self.style.choice() {
            _ if !self.wanted.acts.merge => ImportMerge::Keep,
            ImportMerge::AsFound => {
                let mut seen = std::collections::HashSet::new();
                let imports = blocks.iter().flat_map(|(_, entries)| entries).filter_map(|entry| entry.import.as_ref());
                let (mut lists, mut again) = (0, 0);
                for import in imports {
                    lists += usize::from(import.names.len() > 1);
                    again += usize::from((self.spec.merges)(import).is_some_and(|key| !seen.insert(key)));
                }
                if lists >= again { ImportMerge::Merge } else { ImportMerge::Keep }
            }
            set => set,
        }
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
        edits.then(text, &layout::inside(code.other(&source, &tree), self.style, &spans))
    }

    /// Columns of a line, for what is written without a layout: as set, else as many as all imports of the file keep to.
    fn width(&self, blocks: &[(Block, Vec<Entry>)]) -> usize {
        const USUAL: [usize; 4] = [79, 88, 100, 120];
        if let Some(width) = self.style.number(Key::MaxLineLength) {
            return width as usize;
        }
        if self.style.word(Key::MaxLineLength) == "off" {
            return usize::MAX;
        }
        let lines = blocks.iter().flat_map(|(block, _)| self.code.source.slice(block.span).lines());
        let longest = lines.map(|line| line.chars().count()).max().unwrap_or(0);
        USUAL.into_iter().find(|width| longest <= *width).unwrap_or(100)
    }

    /// One level of indentation.
    fn level(&self) -> String {
        let indentation = effective_indentation(self.code, self.style);
        if indentation.tabs { "\t".to_owned() } else { " ".repeat(indentation.size as usize) }
    }
}

/// The span with the rest of its last line and the blank lines behind it.
fn with_blank_lines(source: &Source, span: Span) -> Span {
    let behind = Span::new(span.end, source.span().end);
    let text = source.slice(behind);
    let blank = text.len() - text.trim_start().len();
    let end = text[..blank].rfind('\n').map_or(span.end, |at| span.end + at as u32 + 1);
    Span::new(span.start, end)
}

/// A text with every run of white space as one space.
fn one_line(text: &str) -> String {
    text.split_whitespace().collect::<Vec<_>>().join(" ")
}

/// The nodes of a file that are imports, in order.
pub(crate) fn imports_of(code: Code<'_>, spec: &ImportSpec) -> Vec<NodeId> {
    (0..code.tree.nodes().len() as u32).map(NodeId).filter(|id| (spec.is_import)(code, *id)).collect()
}
