//! What a file's own indentation is, told from its structure, so that the answer is the same after a layout as before.

use std::collections::BTreeMap;

use vknot_style::{Indentation, Key, Style};
use vknot_style::choices::{IndentStyle, WrapLiteral};
use vknot_syntax::{NodeId, Role, Source, Span};

use super::marks::opener;
use super::lines::{self, Margin};
use crate::receipt::Decided;
use super::standings::{Standing, standings};
use super::options::Options;
use super::place::blank_columns;
use super::tables::Tables;
use crate::spec::Code;
use crate::spec::indent::LinesBy;

/// Columns of a level when only levels are asked for: far more than anything that is wrapped takes.
const LEVEL: u32 = 16;

/// The indentation most items have against the line that opened what holds them; `None` when no line tells.
pub fn indentation(code: Code<'_>) -> Option<Indentation> {
    told(code, true)
}

/// The same of code whose first line begins elsewhere.
pub(crate) fn below_first_line(code: Code<'_>) -> Option<Indentation> {
    by_brackets(code, true, code.source.lines().start(1))
}

/// The same; literals tell only where they stand one level in.
fn told(code: Code<'_>, by_literals: bool) -> Option<Indentation> {
    let toolkit = code.toolkit();
    match toolkit.indent.spec.lines {
        LinesBy::Levels => by_levels(code),
        _ if toolkit.indent.spec.forms.is_some() => by_tabs(code, 1),
        // What a layout goes by must be there after it, too, and lines may be joined.
        _ if toolkit.layout.is_some() => by_brackets(code, by_literals, 0).map(|found| filled(code, found)),
        _ => by_brackets(code, by_literals, 0).or_else(|| by_lines(code)).map(|found| filled(code, found)),
    }
}

/// The same with tabs in place of eight spaces, where no line that opens a level stands so far in that it could tell, and the others that
/// stand so far in have them.
fn filled(code: Code<'_>, found: Indentation) -> Indentation {
    let untold = !found.tabs && found.size < MIXED_TAB && found.tab_width == found.size;
    let text = code.source.text();
    if !untold || !text.contains('\t') {
        return found;
    }
    match by_tabs(code, ENOUGH as usize) {
        Some(by_tabs) if by_tabs.tabs => Indentation { size: found.size, ..by_tabs },
        // What only lines up with something holds tabs as wide as on a terminal.
        _ if lines_up_with_tabs(text) => Indentation { tab_width: MIXED_TAB, ..found },
        _ => found,
    }
}

/// Whether no more lines begin with tabs alone than with tabs and, behind them, spaces.
fn lines_up_with_tabs(text: &str) -> bool {
    let led = || text.lines().filter(|line| line.starts_with('\t'));
    let spaced = led().filter(|line| line.trim_start_matches('\t').starts_with(' ')).count();
    2 * spaced >= led().count()
}

/// Told from the first items between brackets, each against the line of its bracket. Literals tell where no body does, since they may
/// stand like wrapped lines, and elements in code where neither does. What begins in front of an offset tells nothing.
fn by_brackets(code: Code<'_>, by_literals: bool, from: u32) -> Option<Indentation> {
    let Code { source, tree, .. } = code;
    let (mut bodies, mut literals, mut elements) = (Votes::default(), Votes::default(), Votes::default());
    for (index, node) in tree.nodes().iter().enumerate() {
        let role = tree.language().role(node.kind);
        let votes = match role {
            Role::Block | Role::Body => &mut bodies,
            Role::Collection => &mut literals,
            Role::Element if code.toolkit().layout.is_some() => &mut elements,
            _ => continue,
        };
        if node.is_empty() || node.has_error() || node.start < from {
            continue;
        }
        let mut parts = tree.parts(NodeId(index as u32));
        let begins = |first: NodeId| role == Role::Element || opener(tree.text_of(source.text(), first)).is_some();
        let opens = parts.next().is_some_and(begins);
        // Labels may stand half a level in.
        let label = |item: &NodeId| matches!(tree.role(*item), Role::Label | Role::Arm);
        let first = parts.find(|item| !label(item)).filter(|item| opens && begins_line(source, tree.node(*item).start));
        if let Some(first) = first {
            let blank = |offset| source.slice(source.line_blank(offset));
            let (mut outer, inner) = (blank(node.start), blank(tree.node(first).start));
            // A body that is no further in than its bracket's line stands in from where what it is of begins.
            if matches!(tree.role(node.parent), Role::Callable | Role::Type) && outer.starts_with(inner) {
                outer = blank(tree.node(node.parent).start);
            }
            // What stands with a bracket that leads its line stands in from what holds both.
            if outer == inner && begins_line(source, node.start) {
                let holder = tree.ancestors(node.parent).take(4).find(|id| tree.node(*id).start < node.start);
                outer = holder.map_or(outer, |holder| blank(tree.node(holder).start));
            }
            let led = behind_mark(source, node.span());
            votes.count(led.as_deref().unwrap_or(outer), inner);
        }
    }
    bodies.result().or_else(|| literals.result().filter(|_| by_literals)).or_else(|| elements.result())
}

/// The white space up to what is behind a mark that leads the line of a bracket (`? {`), where the closing one stands as far in.
fn behind_mark(source: &Source, bracketed: Span) -> Option<String> {
    let blank = |offset| source.slice(source.line_blank(offset));
    let line = Span::new(source.line_blank(bracketed.start).end, bracketed.start).of(source.text());
    let mark = ["? ", ": ", "| ", "& ", ", "].iter().find(|mark| line.starts_with(**mark))?;
    let closer = bracketed.end.saturating_sub(1);
    let is_lead = begins_line(source, closer);
    let column = format!("{}{}", blank(bracketed.start), " ".repeat(mark.len()));
    (is_lead && blank(closer) == column).then_some(column)
}

/// Whether a token begins a line that is not the first.
fn begins_line(source: &Source, offset: u32) -> bool {
    source.line_start(offset) > 0 && source.line_blank(offset).end == offset
}

/// Told from lines that stand one level further in than the line above.
pub(crate) fn by_lines(code: Code<'_>) -> Option<Indentation> {
    let Code { source, tree, .. } = code;
    let plain = Indentation { tabs: false, size: LEVEL, tab_width: LEVEL };
    let options = Options { wrap: 1, operand: 0, ..Options::of(&Style::defaults(code.toolkit().style), plain) };
    let lines = lines::lines(code, plain, None);
    let places = lines::placed(code, &options, Margin::default(), &lines, None).places;
    // Labels may stand half a level in, so what follows them tells where many such lines agree, and they do where nothing else does.
    let (mut votes, mut labelled, mut labels) = (Votes::default(), Votes::default(), Votes::default());
    let (mut above, mut level_above, mut label) = ("", 0, false);
    let is_label = |line: &lines::Line| {
        let token = tree.tokens().get(line.token as usize);
        let holders = token.into_iter().flat_map(|token| tree.ancestors(token.node).take(4));
        let begins = |id: &NodeId| tree.node(*id).first_token == line.token;
        holders.take_while(begins).any(|id| matches!(tree.role(id), Role::Label | Role::Arm))
    };
    let mut tables = Tables::new(code.toolkit().indent.spec.prefixed_names);
    for (line, place) in lines.iter().zip(places) {
        tables.offset(source, line.end, plain.tab_width);
        if place.columns() % LEVEL != 0 || tree.is_comment(line.token) || tables.ragged {
            continue;
        }
        let level = place.columns() / LEVEL;
        let blank = Span::new(line.start, line.end).of(source.text());
        let is_label = is_label(line);
        if level == level_above + 1 {
            let told = match (label, is_label) {
                (true, _) => &mut labelled,
                (false, true) => &mut labels,
                (false, false) => &mut votes,
            };
            told.count(above, blank);
        }
        (above, level_above, label) = (blank, level, is_label);
    }
    let labelled = || labelled.result().filter(|_| labelled.all() >= ENOUGH);
    votes.result().or_else(labelled).or_else(|| labels.result())
}

/// Where forms tell how far lines stand in: whether tabs are put in place of spaces wherever they fit, as four in five of the lines that
/// stand so far in have it, and as many as `least`. In any case a tab stands for eight columns.
fn by_tabs(code: Code<'_>, least: usize) -> Option<Indentation> {
    let plain = Indentation { tabs: false, size: 1, tab_width: MIXED_TAB };
    let blanks = lines::lines(code, plain, None).into_iter();
    let blanks = blanks.map(|line| Span::new(line.start, line.end).of(code.source.text()));
    let far: Vec<&str> = blanks.filter(|blank| blank_columns(blank, MIXED_TAB) >= MIXED_TAB).collect();
    let filled = |blank: &&&str| {
        let spaces = blank.trim_start_matches('\t');
        spaces.len() < MIXED_TAB as usize && !spaces.contains('\t')
    };
    let tabs = far.iter().filter(filled).count();
    let tabs = tabs >= least && tabs * 5 >= far.len() * 4;
    let told = tabs || far.iter().any(|blank| blank.contains('\t'));
    told.then(|| Indentation { tabs, size: code.toolkit().indent.spec.habit, tab_width: MIXED_TAB })
}

/// Whether columns that line something up are made of tabs, too: as the style says, else as the file shows, else as the files beside do.
pub(crate) fn aligns_with_tabs(code: Code<'_>, style: &Style, indentation: Indentation) -> bool {
    let open = indentation.tabs && style.is_open(Key::AlignTabs);
    let shown = if open { lines_up_by_tabs(code, indentation) } else { None };
    indentation.tabs && shown.unwrap_or_else(|| style.flag(Key::AlignTabs))
}

/// The same as lines show it that begin with tabs and spaces behind them: those that have more tabs than the line they go on with, against
/// those with spaces where a tab would fit. `None` where few do.
pub(crate) fn lines_up_by_tabs(code: Code<'_>, indentation: Indentation) -> Option<bool> {
    let lines = lines::lines(code, indentation, None).into_iter();
    let blanks = lines.map(|line| Span::new(line.start, line.end).of(code.source.text()));
    let (mut filled, mut spaced, mut level) = (0, 0, 0);
    for blank in blanks {
        let spaces = blank.trim_start_matches('\t').len();
        let tabs = blank.len() - spaces;
        match spaces {
            0 => level = tabs,
            _ if spaces >= indentation.tab_width as usize => spaced += 1,
            _ => filled += u32::from(tabs > level),
        }
    }
    (filled + spaced >= TABS_SHOWN).then_some(filled >= 4 * spaced)
}

/// The same where indentation is meaning: the widths by which statements begin blocks.
fn by_levels(code: Code<'_>) -> Option<Indentation> {
    let source = code.source;
    let plain = Indentation { tabs: false, size: 1, tab_width: 8 };
    let lines = lines::lines(code, plain, None);
    let mut votes = Votes::default();
    let (mut above, mut level_above) = ("", 0);
    for (line, (standing, ..)) in lines.iter().zip(standings(code, &lines, plain.tab_width)) {
        let Standing::Statement(level, _) = standing else { continue };
        let blank = Span::new(line.start, line.end).of(source.text());
        if level == level_above + 1 {
            votes.count(above, blank);
        }
        (above, level_above) = (blank, level);
    }
    votes.result()
}

/// Columns of a tab in files that put tabs in place of spaces wherever they fit.
const MIXED_TAB: u32 = 8;

/// Widths of a level that one line can tell.
const USUAL: [usize; 4] = [2, 3, 4, 8];

/// What stands further in than that was lined up with something.
const WIDEST: usize = 8;

/// How many lines must tell any other width, and that four in five of all do.
const ENOUGH: u32 = 5;

/// How many lines must tell whether tabs line something up.
const TABS_SHOWN: u32 = 2;

/// What was added for one level, how often.
#[derive(Default)]
struct Votes {
    tabs: u32,
    sizes: BTreeMap<usize, u32>,
    /// Lines that stand less than a tab further in than the one that holds them, and have a tab where that has spaces.
    mixed: BTreeMap<usize, u32>,
    /// Lines that have spaces where a tab would fit.
    spaced: u32,
}

impl Votes {
    /// Counts the white space of a line against that of the line that holds it.
    fn count(&mut self, outer: &str, inner: &str) {
        self.spaced += u32::from(inner.starts_with("        "));
        match inner.strip_prefix(outer) {
            Some("") => {}
            Some(added) if added.starts_with('\t') => self.tabs += 1,
            Some(added) if added.len() > WIDEST => {}
            Some(added) => *self.sizes.entry(added.len()).or_default() += 1,
            None => {
                let columns = |blank| blank_columns(blank, MIXED_TAB);
                let deeper = columns(inner).saturating_sub(columns(outer));
                if inner.starts_with('\t') && (1..MIXED_TAB).contains(&deeper) {
                    *self.mixed.entry(deeper as usize).or_default() += 1;
                }
            }
        }
    }

    /// How many lines have been counted.
    fn all(&self) -> u32 {
        self.tabs + self.sizes.values().sum::<u32>()
    }

    fn result(&self) -> Option<Indentation> {
        let all: u32 = self.sizes.values().sum();
        let sizes = self.sizes.iter().map(|(size, votes)| (*size, *votes));
        let most = sizes.max_by_key(|(size, votes)| (*votes, std::cmp::Reverse(*size)));
        let told = |(size, votes): &(usize, u32)| USUAL.contains(size) || *votes >= ENOUGH && votes * 5 >= all * 4;
        let (size, votes) = most.filter(told).or((self.tabs > 0).then_some((0, 0)))?;
        if self.mixed.get(&size).is_some_and(|mixed| mixed + votes > self.tabs && *mixed > self.spaced) {
            return Some(Indentation { tabs: true, size: size as u32, tab_width: MIXED_TAB });
        }
        let tabs = self.tabs > votes;
        // A tab stands for what spaces show a level to be.
        let size = if tabs && votes < ENOUGH { 4 } else { size as u32 };
        let wide = !tabs && self.mixed.values().sum::<u32>() > self.tabs;
        Some(Indentation { tabs, size, tab_width: if wide { MIXED_TAB.max(size) } else { size } })
    }
}

/// The indentation a file gets: as its style says, else as found in it, else as is usual in its language.
pub fn effective_indentation(code: Code<'_>, style: &Style) -> Indentation {
    decided_indentation(code, style).0
}

/// The same, and what decided it.
pub fn decided_indentation(code: Code<'_>, style: &Style) -> (Indentation, Decided) {
    let spec = code.toolkit().indent.spec;
    let beside = beside(style);
    let habit = beside.unwrap_or(Indentation { tabs: spec.tabs, size: spec.habit, tab_width: spec.habit });
    let found = told(code, style.choice::<WrapLiteral>() == WrapLiteral::Level);
    let effective = style.indentation(found, habit);
    let sized = style.word(Key::IndentSize) != "as-found" || style.choice::<IndentStyle>() == IndentStyle::Tab;
    let decided = match found {
        _ if sized => Decided::BySetting,
        Some(found) if found.tabs == effective.tabs => Decided::ByFile,
        _ if beside.is_some() => Decided::ByNeighbours,
        _ => Decided::ByHabit,
    };
    (effective, decided)
}

/// What the files beside have.
fn beside(style: &Style) -> Option<Indentation> {
    let columns = |key| style.beside(key)?.parse().ok();
    let tabs = style.beside(Key::IndentStyle)? == "tab";
    Some(Indentation { tabs, size: columns(Key::IndentSize)?, tab_width: columns(Key::TabWidth)? })
}
