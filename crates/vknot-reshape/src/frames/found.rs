//! What a file's own indentation is, told from its structure, so that the answer is the same after a layout as before.

use std::collections::BTreeMap;

use vknot_style::{Indentation, Key, Style};
use vknot_style::choices::{IndentStyle, WrapLiteral};
use vknot_syntax::{NodeId, Role, Source, Span};

use super::marks::opener;
use super::lines;
use crate::receipt::Decided;
use super::standings::{Standing, standings};
use super::options::Options;
use super::place::Place;
use crate::spec::Code;
use crate::spec::indent::LinesBy;

/// Columns of a level when only levels are asked for: far more than anything that is wrapped takes.
const LEVEL: u32 = 16;

/// The indentation most items have against the line that opened what holds them; `None` when no line tells.
pub fn indentation(code: Code<'_>) -> Option<Indentation> {
    told(code, true)
}

/// The same; literals tell only where they stand one level in.
fn told(code: Code<'_>, by_literals: bool) -> Option<Indentation> {
    let _tree = code.tree;
    let toolkit = code.toolkit();
    match toolkit.indent.spec.lines {
        LinesBy::Levels => by_levels(code),
        // What a layout goes by must be there after it, too, and lines may be joined.
        _ if toolkit.layout.is_some() => by_brackets(code, by_literals),
        _ => by_brackets(code, by_literals).or_else(|| by_lines(code)),
    }
}

/// Told from the first items between brackets, each against the line of its bracket. Literals tell where no body does, since they may
/// stand like wrapped lines.
fn by_brackets(code: Code<'_>, by_literals: bool) -> Option<Indentation> {
    let Code { source, tree, .. } = code;
    let (mut bodies, mut literals) = (Votes::default(), Votes::default());
    for (index, node) in tree.nodes().iter().enumerate() {
        let role = tree.language().role(node.kind);
        let votes = match role {
            Role::Block | Role::Body => &mut bodies,
            Role::Collection => &mut literals,
            _ => continue,
        };
        if node.is_empty() || node.has_error() {
            continue;
        }
        let mut parts = tree.parts(NodeId(index as u32));
        let opens = parts.next().is_some_and(|first| opener(tree.text_of(source.text(), first)).is_some());
        let first = parts.next().filter(|item| opens && begins_line(source, tree.node(*item).start));
        if let Some(first) = first {
            let blank = |offset| source.slice(source.line_blank(offset));
            let (outer, inner) = (blank(node.start), blank(tree.node(first).start));
            votes.count(inner.strip_prefix(outer).unwrap_or(""));
        }
    }
    bodies.result().or_else(|| literals.result().filter(|_| by_literals))
}

/// Whether a token begins a line that is not the first.
fn begins_line(source: &Source, offset: u32) -> bool {
    source.line_start(offset) > 0 && source.line_blank(offset).end == offset
}

/// Told from lines that stand one level further in than the line above.
fn by_lines(code: Code<'_>) -> Option<Indentation> {
    let Code { source, tree, .. } = code;
    let table = &code.toolkit().indent;
    let plain = Indentation { tabs: false, size: LEVEL, tab_width: LEVEL };
    let options = Options { wrap: 1, operand: 0, ..Options::of(&Style::defaults(code.toolkit().style), plain) };
    let lines = lines::lines(code, plain, None);
    let places = lines::places(code, table, &options, Place::default(), &lines).places;
    let mut votes = Votes::default();
    let (mut above, mut level_above) = ("", 0);
    for (line, place) in lines.iter().zip(places) {
        if place.columns() % LEVEL != 0 || tree.is_comment(line.token) {
            continue;
        }
        let level = place.columns() / LEVEL;
        let blank = Span::new(line.start, line.end).of(source.text());
        let added = blank.strip_prefix(above).filter(|_| level == level_above + 1);
        (above, level_above) = (blank, level);
        votes.count(added.unwrap_or(""));
    }
    votes.result()
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
        votes.count(blank.strip_prefix(above).filter(|_| level == level_above + 1).unwrap_or(""));
        (above, level_above) = (blank, level);
    }
    votes.result()
}

/// What was added for one level, how often.
#[derive(Default)]
struct Votes {
    tabs: u32,
    sizes: BTreeMap<usize, u32>,
}

impl Votes {
    fn count(&mut self, added: &str) {
        match added {
            "" => {}
            added if added.starts_with('\t') => self.tabs += 1,
            added => *self.sizes.entry(added.len()).or_default() += 1,
        }
    }

    fn result(self) -> Option<Indentation> {
        let most = self.sizes.into_iter().max_by_key(|(size, votes)| (*votes, std::cmp::Reverse(*size)));
        let (size, votes) = most.or((self.tabs > 0).then_some((0, 0)))?;
        let tabs = self.tabs > votes;
        let size = if tabs { 4 } else { size.min(16) as u32 };
        Some(Indentation { tabs, size, tab_width: size })
    }
}

/// The indentation a file gets: as its style says, else as found in it, else as is usual in its language.
pub fn effective_indentation(code: Code<'_>, style: &Style) -> Indentation {
    decided_indentation(code, style).0
}

/// The same, and what decided it.
pub fn decided_indentation(code: Code<'_>, style: &Style) -> (Indentation, Decided) {
    let spec = code.toolkit().indent.spec;
    let habit = Indentation { tabs: spec.tabs, size: spec.habit, tab_width: spec.habit };
    let found = told(code, style.choice::<WrapLiteral>() == WrapLiteral::Level);
    let effective = style.indentation(found, habit);
    let sized = style.word(Key::IndentSize) != "as-found" || style.choice::<IndentStyle>() == IndentStyle::Tab;
    let decided = match found {
        _ if sized => Decided::BySetting,
        Some(found) if found.tabs == effective.tabs => Decided::ByFile,
        _ => Decided::ByHabit,
    };
    (effective, decided)
}
