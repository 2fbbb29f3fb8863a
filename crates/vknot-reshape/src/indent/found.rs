//! What a file's own indentation is, told from its structure, so that the answer is the same after a layout as before.

use std::collections::BTreeMap;

use vknot_style::{Indentation, Style};
use vknot_syntax::{NodeId, Role, Source, Span, Tree};

use crate::languages::Toolkit;
use super::brackets::opener;
use super::{engine, lines};
use super::levels::{Standing, standings};
use super::options::Options;
use super::place::Place;
use super::rules::LinesBy;

/// Columns of a level when only levels are asked for: far more than anything that is wrapped takes.
const LEVEL: u32 = 16;

/// The indentation most items have against the line that opened what holds them; `None` when no line tells.
pub fn indentation(source: &Source, tree: &Tree) -> Option<Indentation> {
    let toolkit = Toolkit::of(tree.language());
    match toolkit.indent.spec.lines {
        LinesBy::Levels => by_levels(source, tree),
        // What a layout goes by must be there after it, too, and lines may be joined.
        _ if toolkit.layout.is_some() => by_brackets(source, tree),
        _ => by_brackets(source, tree).or_else(|| by_lines(source, tree)),
    }
}

/// Told from the first items between brackets, each against the line of its bracket.
fn by_brackets(source: &Source, tree: &Tree) -> Option<Indentation> {
    let mut votes = Votes::default();
    for (index, node) in tree.nodes().iter().enumerate() {
        let role = tree.language().role(node.kind);
        if !matches!(role, Role::Block | Role::Body | Role::Collection) || node.is_empty() || node.has_error() {
            continue;
        }
        let mut parts = tree.parts(NodeId(index as u32));
        let opens = parts.next().is_some_and(|first| opener(tree.text_of(source.text(), first)).is_some());
        let first = parts.next().filter(|item| opens && begins_line(source, tree.node(*item).start));
        if let Some(first) = first {
            let (outer, inner) = (blank_before(source, node.start), blank_before(source, tree.node(first).start));
            votes.count(inner.strip_prefix(outer).unwrap_or(""));
        }
    }
    votes.result()
}

/// The white space at the start of the line that holds a byte.
fn blank_before(source: &Source, offset: u32) -> &str {
    let line = source.lines().start(source.lines().index_at(offset));
    let rest = source.text().get(line as usize..).unwrap_or("");
    &rest[..rest.len() - rest.trim_start_matches([' ', '\t']).len()]
}

fn begins_line(source: &Source, offset: u32) -> bool {
    let line = source.lines().index_at(offset);
    line > 0 && source.lines().start(line) + blank_before(source, offset).len() as u32 == offset
}

/// Told from lines that stand one level further in than the line above.
fn by_lines(source: &Source, tree: &Tree) -> Option<Indentation> {
    let table = &Toolkit::of(tree.language()).indent;
    let plain = Indentation { tabs: false, size: LEVEL, tab_width: LEVEL };
    let options = Options { wrap: 1, operand: 0, ..Options::of(&Style::defaults(tree.language().name()), plain) };
    let lines = lines::lines(source, tree, plain, None);
    let places = engine::places(source, tree, table, &options, Place::default(), &lines).places;
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
fn by_levels(source: &Source, tree: &Tree) -> Option<Indentation> {
    let plain = Indentation { tabs: false, size: 1, tab_width: 8 };
    let lines = lines::lines(source, tree, plain, None);
    let mut votes = Votes::default();
    let (mut above, mut level_above) = ("", 0);
    for (line, (standing, ..)) in lines.iter().zip(standings(source, tree, &lines, plain.tab_width)) {
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
