//! The layout engine: rules give each gap a policy, one linear pass decides what fits.
//!
//! [`format()`] changes gaps and touches no token, apart from braces that the style requires and the white space at the edges of
//! comment lines.

mod blanks;
mod columns;
mod comments;
mod damage;
mod leading;
mod manner;
mod meant;
mod measure;
mod named;
mod options;
mod paper;
mod plan;
mod planner;
mod print;
mod reflow;
mod rounds;
mod shapes;
mod ways;
mod width;

use vknot_style::{Key, SETTINGS, Style, Values};
use vknot_syntax::{LineEnd, NodeId, Span};

use vknot_style::choices::{AlignColumn, AlignComment, Charset, KeepBreaks, LineEnds, TrimBlanks};

use meant::Meant;
use options::Options;
use paper::Paper;
use plan::GapPlan;
use planner::Planner;
use rounds::{ROUNDS, settled};
use width::Witness;
use crate::spec::layout::LayoutTable;
use crate::edits::Edits;
use crate::indent::{kept, Kept};
use crate::keeps::kept_spans;
use crate::lines::Lines;
use crate::spec::Code;
use crate::frames::found::{aligns_with_tabs, effective_indentation};
use crate::frames::options::Options as FrameOptions;
use crate::receipt::{LeftAlone, Reason, Receipt, TokenChange};
use crate::reshape::Reshape;

/// Lays out a file, or the lines of some spans of it, in a style.
pub fn format(code: Code<'_>, style: &Style, only: Option<&[Span]>) -> Reshape {
    rest(code, style, only, once(code, style, only))
}

/// One round, in which a file is not laid out again as it is read then.
pub(crate) fn once(code: Code<'_>, style: &Style, only: Option<&[Span]>) -> Reshape {
    format_once(code, style, only, true)
}

/// The rounds behind the first.
pub(crate) fn rest(code: Code<'_>, style: &Style, only: Option<&[Span]>, once: Reshape) -> Reshape {
    if only.is_some() || once.edits.is_empty() {
        return once;
    }
    // What a file shows depends on how it is laid out, and where it is broken even how it is read.
    let again = |code: Code<'_>| format_once(code, style, None, true);
    let by_rules = || settled(code, format_once(code, style, None, false), &again);
    settled(code, once, &again).or_else(by_rules).unwrap_or_else(|| unsettled(code))
}

/// The settings of two ways that nothing sets, each with its two values.
fn two_ways(style: &Style) -> impl Iterator<Item = (Key, [&'static str; 2])> {
    // The standard's are told from the text and its levels.
    let own = SETTINGS.iter().filter(|setting| setting.key.starts_with("vknot_"));
    let open = own.filter(|setting| style.word(setting.id) == "as-found");
    open.filter_map(|setting| match setting.values {
        Values::Words([first, second, "as-found"]) => Some((setting.id, [*first, *second])),
        _ => None,
    })
}

/// What a file shows of its layout.
#[derive(Default)]
pub(crate) struct Shown {
    /// The settings that nothing sets, each with its value and whether the file shows it: those of two ways, and some numbers.
    pub settings: Vec<(Key, String, bool)>,
    /// Those that it has too few places to show, all of them the same way, with that and how many there are.
    pub few: Vec<(Key, &'static str, u32)>,
    /// The width it keeps to, if that is more than what is usual.
    pub width: Option<u32>,
}

/// What a file shows of its layout.
pub(crate) fn shown(code: Code<'_>, style: &Style) -> Shown {
    let Some(table) = code.toolkit().layout.as_ref().filter(|_| !code.tree.gave_up()) else { return Shown::default() };
    let paper = paper(code, style);
    let mut planner = Planner::planned(code, table, style, Options::of(code, style, paper.indentation), None);
    let witnesses = width::witnesses(code);
    let written = width::written(code, paper.indentation.tab_width, table.spec.width, &witnesses);
    let wider = || kept(code, style, paper.indentation).and_then(|_| written.most());
    let found = written.usual().or_else(wider);
    planner.options.control_next = planner.is_second(Key::BraceControl);
    let ways = two_ways(style).map(|(key, ways)| {
        let value = ways[usize::from(planner.follows(key))];
        (key, value.to_owned(), planner.manner.shows(key))
    });
    let width = (
        Key::MaxLineLength,
        found.unwrap_or(table.spec.width).to_string(),
        found.is_some(),
    );
    let shown = blanks::shown(code);
    let blank = (Key::BlankMost, shown.unwrap_or(1).to_string(), shown.is_some());
    let few = two_ways(style).filter(|(key, _)| !planner.manner.shows(*key));
    let few = few.filter_map(|(key, ways)| {
        let second = planner.manner.lone(key)?;
        Some((key, ways[usize::from(second)], planner.manner.shown(key).iter().sum()))
    });
    let limited = style.word(Key::MaxLineLength) == "as-found";
    let wide = found.filter(|found| limited && *found > table.spec.width);
    Shown { few: few.collect(), settings: ways.chain([width, blank]).collect(), width: wide }
}

/// A file that is left as it is, since laying it out would never end.
fn unsettled(code: Code<'_>) -> Reshape {
    let left = LeftAlone { span: code.source.span(), reason: Reason::Unsettled };
    Reshape { receipt: Receipt { left_alone: vec![left], ..Receipt::default() }, ..Reshape::default() }
}

fn format_once(code: Code<'_>, style: &Style, only: Option<&[Span]>, by_ways: bool) -> Reshape {
    let Code { source, tree, .. } = code;
    let mut receipt = Receipt::default();
    if tree.gave_up() {
        receipt.left_alone.push(LeftAlone { span: source.span(), reason: Reason::GaveUp });
        return Reshape { receipt, ..Reshape::default() };
    }
    let Some(table) = &code.toolkit().layout else {
        receipt.left_alone.push(LeftAlone { span: source.span(), reason: Reason::NoLayout });
        return Reshape { receipt, ..Reshape::default() };
    };
    let paper = paper(code, style);
    let mut options = Options::of(code, style, paper.indentation);
    // A comma comes with line breaks that may be elsewhere.
    options.commas &= only.is_none();
    let lines = only.map(|only| Lines::of(source, only));
    let kept = by_ways.then(|| kept(code, style, paper.indentation)).flatten();
    let widths = widths(code, style, &paper, table.spec.width);
    let meant = kept.as_ref().filter(|_| options.keep == KeepBreaks::Meant).map(|_| {
        let usual = usual_width(style, table);
        let found = widths.as_ref().map(|(written, _)| written.usual().or(written.most()).unwrap_or(usual));
        Meant::of(code, paper.indentation, found.unwrap_or(options.width))
    });
    let mut planner = plan(code, table, style, options, meant);
    if let Some(lines) = &lines {
        keep_braces_within(&mut planner, lines);
    }
    let print::Printed { mut edits, mut added, .. } = printed(&mut planner, &paper, widths, kept.as_ref());
    if let Some(lines) = &lines {
        edits = edits.rewritten(|span, new| lines.held(source, span, new));
        added.retain(|added| edits.touch(tree.gap_span(added.gap)));
    }
    let change = |added: print::Added| TokenChange {
        text: added.text.to_owned(),
        offset: tree.gap_span(added.gap).start,
        token: added.gap,
    };
    receipt.added = added.into_iter().map(change).collect();
    let left = planner.left_alone.iter().map(|id: &NodeId| tree.node(*id).span());
    // What could not be read keeps its lines; where they begin is told by brackets, as far as it can be.
    let reason = |span: Span| if planner.is_lost(span.start) { Reason::SyntaxError } else { Reason::Brackets };
    receipt.left_alone = left.map(|span| LeftAlone { span, reason: reason(span) }).collect();
    receipt.left_alone.extend(kept_spans(code).into_iter().map(|span| LeftAlone { span, reason: Reason::Kept }));
    receipt.left_alone.sort_by_key(|left| left.span.start);
    let bom = match style.choice() {
        Charset::Utf8 => Some(false),
        Charset::Utf8Bom => Some(true),
        Charset::AsFound => None,
    };
    Reshape { edits, receipt, bom: bom.filter(|bom| *bom != source.facts().bom) }
}

/// Leaves of the braces that are to come in those whose lines may change: both, or not at all.
fn keep_braces_within(planner: &mut Planner<'_>, lines: &Lines) {
    let (tree, source) = (planner.tree, planner.code.source);
    let within = |from: u32, to: u32| lines.within(source.line(from), source.line(to));
    let gaps = &planner.plan.gaps;
    let opens = |gap: u32| within(tree.gap_span(gap).start, tree.gap_span(gap).end);
    let closes = |gap: u32| {
        let (span, joins) = (tree.gap_span(gap), gaps.get(gap as usize).is_some_and(|plan| plan.joins));
        // What joins the line of a closing brace changes, too.
        within(span.start, if joins { span.end } else { span.start })
    };
    planner.plan.added.retain(|braces| opens(braces.open) && closes(braces.close));
}

/// The width that a file keeps to which shows none: what the files beside it show, else what is usual in its language.
fn usual_width(style: &Style, table: &LayoutTable) -> u32 {
    let beside = style.beside(Key::MaxLineLength).and_then(|width| width.parse().ok());
    beside.unwrap_or(table.spec.width)
}

/// How wide the lines of a file are, and which of its tokens tell; `None` where it is set.
fn widths(code: Code<'_>, style: &Style, paper: &Paper, habit: u32) -> Option<(width::Longest, Vec<Witness>)> {
    let found = style.word(Key::MaxLineLength) == "as-found";
    found.then(|| {
        let witnesses = width::witnesses(code);
        (width::written(code, paper.indentation.tab_width, habit, &witnesses), witnesses)
    })
}

/// Prints a plan, where nothing sets the width in the one that the file keeps to, and that what comes out keeps to as well.
fn printed(
    planner: &mut Planner<'_>,
    paper: &Paper,
    widths: Option<(width::Longest, Vec<Witness>)>,
    kept: Option<&Kept>,
) -> print::Printed {
    let Some((written, witnesses)) = widths else { return print::print(planner, paper, &[], kept) };
    let usual = usual_width(planner.style, planner.table);
    if let Some(printed) = printed_wide(planner, paper, kept, (written, &witnesses)) {
        return printed;
    }
    planner.options.width = written.usual().unwrap_or(usual);
    let mut widened = false;
    for _ in 0..ROUNDS {
        let printed = print::print(planner, paper, &witnesses, kept);
        let width = printed.longest.usual().unwrap_or(usual);
        // Lines that begin further out may all fit a narrower one, which a second run would find.
        if width == planner.options.width || widened && width < planner.options.width {
            return printed;
        }
        widened |= width > planner.options.width;
        planner.options.width = width;
    }
    print::print(planner, paper, &witnesses, kept)
}

/// Prints a plan of a well-kept file in which no usual width holds all lines, in one that holds most of them. `None` if there is none, or
/// what comes out would keep to another one.
fn printed_wide(
    planner: &mut Planner<'_>,
    paper: &Paper,
    kept: Option<&Kept>,
    (written, witnesses): (width::Longest, &[Witness]),
) -> Option<print::Printed> {
    let kept = kept.filter(|_| written.usual().is_none())?;
    planner.options.width = written.most()?;
    for _ in 0..ROUNDS {
        let printed = print::print(planner, paper, witnesses, Some(kept));
        let found = printed.longest.usual().or_else(|| printed.longest.most())?;
        // Where all lines fit, a narrower width says the same of them.
        if found == planner.options.width || printed.longest.usual().is_some_and(|all| all < planner.options.width) {
            return Some(printed);
        }
        planner.options.width = found;
    }
    None
}

/// Columns that comments may take: what is set for lines, else what the file keeps to, else what is usual, as where lines have no limit.
pub(crate) fn width_of_comments(code: Code<'_>, style: &Style) -> u32 {
    let indentation = effective_indentation(code, style);
    let habit = code.toolkit().layout.as_ref().map(|table| table.spec.width);
    let found = || {
        let witnesses = width::witnesses(code);
        width::written(code, indentation.tab_width, habit.unwrap_or(u32::MAX), &witnesses).usual()
    };
    let set = match style.word(Key::MaxLineLength) {
        "as-found" => found(),
        _ => style.number(Key::MaxLineLength),
    };
    set.or(habit).unwrap_or(u32::MAX)
}

/// Plans the layout of a whole file.
fn plan<'a>(
    code: Code<'a>,
    table: &'static LayoutTable,
    style: &'a Style,
    options: Options,
    meant: Option<Meant>,
) -> Planner<'a> {
    let mut planner = Planner::planned(code, table, style, options, meant);
    planner.settle_ways();
    comments::settle(&mut planner);
    leading::settle(&mut planner);
    planner.keep_parts();
    planner.plan.set(0, GapPlan::fixed(false));
    planner
}

/// How the gaps inside some spans are laid out, whole items all of them, in the width that the file kept to as it was before. Nothing
/// outside changes.
pub(crate) fn inside(code: Code<'_>, style: &Style, spans: &[Span], before: Code<'_>) -> Edits {
    let Some(table) = code.toolkit().layout.as_ref().filter(|_| !code.tree.gave_up()) else { return Edits::default() };
    let paper = paper(code, style);
    let mut planner = plan(code, table, style, Options::of(code, style, paper.indentation), None);
    if let Some((written, _)) = widths(before, style, &paper, table.spec.width) {
        planner.options.width = written.usual().unwrap_or_else(|| usual_width(style, table));
    }
    let edits = print::print(&planner, &paper, &[], None).edits;
    let mut spans = spans.iter().peekable();
    edits.filtered(|edit, _| {
        while spans.next_if(|span| span.end <= edit.start).is_some() {}
        spans.peek().is_some_and(|span| span.start < edit.start && edit.end < span.end)
    })
}

fn paper(code: Code<'_>, style: &Style) -> Paper {
    let source = code.source;
    let line_end = match style.choice() {
        LineEnds::Lf => LineEnd::Lf,
        LineEnds::CrLf => LineEnd::CrLf,
        LineEnds::AsFound => source.facts().line_end(),
    };
    let indentation = effective_indentation(code, style);
    Paper {
        indentation,
        frames: FrameOptions::of(style, indentation),
        align_with_tabs: aligns_with_tabs(code, style, indentation),
        line_end: line_end.text(),
        final_newline: style.flag(Key::InsertFinalNewline),
        columns: style.choice::<AlignColumn>(),
        comments: comments(style),
        comment_gap: style.number(Key::CommentGap),
        trim: style.choice::<TrimBlanks>() == TrimBlanks::Always,
    }
}

/// Whether comments behind code are lined up.
fn comments(style: &Style) -> AlignColumn {
    match style.choice() {
        AlignComment::Keep => AlignColumn::Keep,
        AlignComment::All => AlignColumn::All,
        AlignComment::None => AlignColumn::None,
    }
}

#[cfg(test)]
mod tests {
    //! Rules that are wrong on purpose: the proof must catch what they do.

    use std::sync::LazyLock;

    use vknot_syntax::{Language, Source};

    use crate::registry::default_style;
    use crate::steps::{Contract, Difference, Document, prove};
    use crate::spec::layout::{Items, LAYOUT_OF_MOST, LayoutSpec, LayoutTable, Rule, Side, WORDS};
    use super::*;

    /// Java with words glued together behind `return`.
    static GLUING: LayoutSpec = LayoutSpec {
        rules: &[
            ("program", Rule::Items(Items { apart: &[], imports_apart: false })),
            ("return_statement", Rule::Words(WORDS)),
            ("binary_expression", Rule::Words(WORDS)),
            ("unary_expression", Rule::Words(WORDS)),
        ],
        spacing: &[("return_statement", "return", Side::Open, Side::Tight), ("", "-", Side::Tight, Side::Tight)],
        ..LAYOUT_OF_MOST
    };

    fn broken(text: &str) -> Difference {
        let language = Language::named("java").unwrap();
        let table: &'static LazyLock<LayoutTable> = {
            static TABLE: LazyLock<LayoutTable> =
                LazyLock::new(|| LayoutTable::new(&GLUING, Language::named("java").unwrap()));
            &TABLE
        };
        let document = Document::new(Source::from_text("Gauge.java", text), language, default_style(language));
        let paper = paper(document.code(), document.style());
        let style = document.style();
        let planner = plan(document.code(), table, style, Options::of(document.code(), style, paper.indentation), None);
        let edits = print::print(&planner, &paper, &[], None).edits;
        prove(&document, Reshape { edits, ..Reshape::default() }, Contract::LAYOUT).unwrap_err().reason
    }

    #[test]
    fn a_rule_that_glues_words_is_caught() {
        let difference = broken("return level;");
        assert_eq!(difference, Difference::Token { old: "return".into(), new: "returnlevel".into() });
    }

    #[test]
    fn a_rule_that_glues_operators_is_caught() {
        let difference = broken("return b - -c;");
        assert!(matches!(difference, Difference::Token { .. } | Difference::SyntaxError { .. }), "{difference}");
    }
}
