//! Names that nothing declares or imports: what could be imported for them, and what is certain enough to be.

use std::collections::{BTreeMap, BTreeSet};

use vknot_style::choices::ImportMerge;
use vknot_syntax::{NodeId, Role, Source, Span};

use crate::edits::Edits;
use crate::receipt::{Act, Fate, Note, Receipt, TokenChange};
use crate::spec::Code;
use crate::spec::imports::{Home, Import, Origin, Room, Surroundings, Unbound};
use crate::spec::MissingSpec;
use super::block::{Block, Entry, Group, Line};
use super::order::{self, Standing};
use super::organizing::Organizing;
use super::words::imports_of;

/// How many candidates are named.
const NAMED_AT_MOST: usize = 6;

/// What is imported anew: each with where its name is used first.
pub(super) fn found(organizing: &Organizing<'_>, spec: &MissingSpec, receipt: &mut Receipt) -> Vec<Import> {
    let Organizing { code, around, wanted, .. } = organizing;
    let mut imports = Vec::new();
    let names = (spec.names)(*code, *around);
    if names.is_empty() && code.tree.has_error() {
        let text = "the file has syntax errors: names that are missing may not have been found".to_owned();
        receipt.notes.push(Note { span: Span::new(0, 0), text });
    }
    let names: Vec<_> = names.iter().map(|unbound| (unbound, origins(organizing, spec, unbound))).collect();
    // Where a file takes something from a library that is not known, so it may what has a known name.
    let strange = names.iter().any(|(_, origins)| origins.is_empty());
    let mut taken = BTreeSet::new();
    for (Unbound { name, offset, doubt, .. }, origins) in &names {
        let chosen = wanted.chosen.iter().find(|(chosen, _)| chosen == name).map(|(_, from)| from.as_str());
        if let Some(origin) = pick(origins, chosen, (strange, *doubt), spec, *around) {
            let import = (spec.import)(origin, *around, *code);
            // Several names may come with one import.
            if taken.insert((organizing.spec.write)(&import, Room::ENDLESS)) {
                imports.push(import);
            }
            continue;
        }
        let choices = choices(origins, spec);
        let listed = || listed(&choices, name);
        let why = match chosen {
            Some(chosen) => format!("{chosen} is not known; {}", listed()),
            None if origins.is_empty() => "nothing that is known here has this name".to_owned(),
            None => listed(),
        };
        let span = Span::new(*offset, *offset + name.len() as u32);
        receipt.imports.push(Fate { import: (*name).to_owned(), span, act: Act::Missing, why, choices });
    }
    // What comes as a whole brings in what was not certain, too.
    let whole = |import: &&Import| import.names.iter().all(|name| name.bound.is_none());
    let whole: BTreeSet<&str> = imports.iter().filter(whole).map(|import| import.source.as_str()).collect();
    let comes = |fate: &Fate| fate.choices.iter().any(|choice| whole.contains(choice.as_str()));
    receipt.imports.retain(|fate| fate.act != Act::Missing || !comes(fate));
    imports
}

/// From where a name could come, and in how many files of the project it does.
fn origins(organizing: &Organizing<'_>, spec: &MissingSpec, unbound: &Unbound<'_>) -> BTreeMap<Origin, usize> {
    let around = organizing.around;
    let mut origins: BTreeMap<Origin, usize> = BTreeMap::new();
    for origin in (spec.known)(unbound.name, around) {
        origins.entry(origin).or_default();
    }
    if let Some(index) = around.index() {
        for (origin, count) in index.usual(unbound.name) {
            *origins.entry(origin.clone()).or_default() += count;
        }
    }
    origins.retain(|origin, _| (spec.fits)(origin, unbound, around));
    origins
}

/// The one that is chosen, or the only one, if no library that is not known may have another, and nothing that is there already.
fn pick<'o>(
    origins: &'o BTreeMap<Origin, usize>,
    chosen: Option<&str>,
    (strange, doubt): (bool, bool),
    spec: &MissingSpec,
    around: &dyn Surroundings,
) -> Option<&'o Origin> {
    let certain = |origin: &Origin, count: usize| {
        !doubt && ((spec.is_sure)(origin) || !strange && (count > 0 || (spec.is_own)(origin, around)))
    };
    if let Some(chosen) = chosen {
        let named = |origin: &&Origin| (spec.shown)(origin) == chosen || origin.source == chosen;
        return origins.keys().find(named);
    }
    let mut all = origins.iter();
    match (all.next(), all.next()) {
        (Some((only, count)), None) if certain(only, *count) => Some(only),
        _ => None,
    }
}

/// What could be chosen, what the project has most often first.
fn choices(origins: &BTreeMap<Origin, usize>, spec: &MissingSpec) -> Vec<String> {
    let mut shown: Vec<(usize, String)> =
        origins.iter().map(|(origin, count)| (*count, (spec.shown)(origin))).collect();
    shown.sort_by(|a, b| b.0.cmp(&a.0).then_with(|| a.1.cmp(&b.1)));
    shown.into_iter().map(|(_, shown)| shown).collect()
}

fn listed(choices: &[String], name: &str) -> String {
    let more = match choices.len().checked_sub(NAMED_AT_MOST) {
        None | Some(0) => String::new(),
        Some(more) => format!(" or {more} more"),
    };
    let first = choices.first().map_or("", String::as_str);
    let names = choices.get(..NAMED_AT_MOST).unwrap_or(choices).join(", ");
    format!("could be {names}{more}; choose with --choose {name}={first}")
}

/// Puts what is imported anew into the first block at the top of a file, behind what is there; gives what found no block.
pub(super) fn into_block(
    organizing: &Organizing<'_>,
    blocks: &mut [(Block, Vec<Entry>)],
    new: Vec<Import>,
    receipt: &mut Receipt,
) -> Vec<Import> {
    let tree = organizing.code.tree;
    let top = |(block, entries): &&mut (Block, Vec<Entry>)| {
        tree.role(block.holder) == Role::File && entries.iter().any(|entry| !entry.is_barrier())
            || tree.parent(block.holder).is_some_and(|holder| tree.role(holder) == Role::Import)
    };
    let Some((_, entries)) = blocks.iter_mut().find(top) else { return new };
    let home = |import: &Import| (organizing.spec.home)(import, organizing.around);
    let homes: Vec<Option<Home>> =
        entries.iter().map(|entry| entry.import.as_ref().filter(|_| !entry.is_barrier()).map(home)).collect();
    let free = homes.iter().rposition(Option::is_some).unwrap_or(entries.len().saturating_sub(1));
    let mut places = Vec::new();
    for import in new {
        let here = home(&import);
        let beside = homes.iter().rposition(|home| *home == Some(here));
        // In a list whose groups are by home one of another home has a group of its own.
        let group = organizing.spec.listed.filter(|_| beside.is_none()).map(|_| match here {
            Home::Standard => Group::First,
            _ => Group::Last,
        });
        places.push((beside.unwrap_or(free), import, group.unwrap_or_default()));
    }
    places.sort_by_key(|(at, ..)| *at);
    for (at, import, group) in places.into_iter().rev() {
        let Some(node) = entries.get(at).map(|entry| entry.line.node) else { continue };
        let (start, first) = (tree.node(node).start, tree.node(node).first_token);
        tell(organizing, &import, Span::new(start, start), first, receipt);
        let line = Line { node, above: Vec::new(), commented: false, behind: None, blank: 0 };
        entries.insert(at + 1, Entry { line, import: Some(import), written: String::new(), group });
    }
    Vec::new()
}

/// Says what was put in, on the receipt, too.
fn tell(organizing: &Organizing<'_>, import: &Import, span: Span, token: u32, receipt: &mut Receipt) {
    for name in &import.names {
        let text = (organizing.spec.leaf)(import, name);
        let why = "is used and was not imported".to_owned();
        receipt.imports.push(Fate::new(text.clone(), span, Act::Added, why));
        receipt.imported.push(TokenChange { text, offset: span.start, token });
    }
}

/// A block of its own, where a file has none.
pub(super) fn new_block(organizing: &Organizing<'_>, new: &[Import], receipt: &mut Receipt) -> Edits {
    let Code { source, tree, .. } = organizing.code;
    let mut edits = Edits::default();
    if new.is_empty() {
        return edits;
    }
    let line_end = source.facts().line_end().text();
    let width = organizing.width(&[]);
    let level = organizing.level();
    let room = Room { width, column: 0, level: &level, indent: "", line_end, comma: true };
    // Nothing shows an order yet, so that it is the usual one.
    let order = order::order(organizing.spec, organizing.style, &[]);
    let new_ones = together(organizing, new);
    let list = organizing.spec.listed.filter(|_| new_ones.len() > 1);
    let inner = list.map_or("", |_| level.as_str());
    let line = |import: &Import| {
        let group = list.map_or(0, |_| (organizing.spec.home)(import, organizing.around) as usize);
        let standing = organizing.standing(import, group, false);
        match list {
            Some(_) => (standing, (organizing.spec.write)(&Import { head: String::new(), ..import.clone() }, room)),
            None => (standing, (organizing.spec.write)(import, room)),
        }
    };
    let mut lines: Vec<(Standing, String)> = new_ones.iter().map(line).collect();
    lines.sort_by(|a, b| order.rank(&a.0).cmp(&order.rank(&b.0)));
    let mut text = String::new();
    for (index, (standing, line)) in lines.iter().enumerate() {
        let before = index.checked_sub(1).and_then(|before| lines.get(before));
        let ends = before.map_or(0, |(before, _)| 1 + usize::from(order.parts(before, standing)));
        text.push_str(&line_end.repeat(ends));
        text.push_str(inner);
        text.push_str(line);
    }
    if let Some((open, close)) = list {
        text = format!("{open}{line_end}{text}{line_end}{close}");
    }
    let (offset, text) = apart(source, place(organizing), &text, line_end);
    edits.push(Span::new(offset, offset), &text);
    let token = tree.token_from(offset);
    new.iter().for_each(|import| tell(organizing, import, Span::new(offset, offset), token, receipt));
    edits
}

/// Imports with those from one place as one, unless each name is to have its own.
fn together(organizing: &Organizing<'_>, new: &[Import]) -> Vec<Import> {
    let mut merged: Vec<Import> = Vec::new();
    let mut hosts: BTreeMap<String, usize> = BTreeMap::new();
    let merges = matches!(organizing.style.choice(), ImportMerge::AsFound | ImportMerge::Merge);
    for import in new {
        let key = (organizing.spec.merges)(import).filter(|_| merges);
        match key.as_ref().and_then(|key| hosts.get(key)).and_then(|host| merged.get_mut(*host)) {
            Some(host) => host.names.extend(import.names.iter().cloned()),
            None => {
                hosts.extend(key.map(|key| (key, merged.len())));
                merged.push(import.clone());
            }
        }
    }
    if let Some(names) = organizing.names(&[]) {
        merged.iter_mut().for_each(|import| names.sort(&mut import.names, organizing.spec));
    }
    merged
}

/// Where a file's first import belongs, and whether that is behind something: what opens the file, imports that nothing passes, texts that
/// say what the file is; else in front of its first item with what belongs to it.
fn place(organizing: &Organizing<'_>) -> (u32, bool) {
    let Code { source, tree, .. } = organizing.code;
    let last_import = imports_of(organizing.code, organizing.spec.is_import).into_iter().rfind(|id| {
        tree.role(tree.node(*id).parent) == Role::File
    });
    let items = crate::items::Sequence::of(organizing.code, tree.root()).items;
    let opens = |node: NodeId| {
        let text = tree.text_of(source.text(), node);
        tree.role(node) == Role::Package || text.starts_with(['"', '\'']) || text.starts_with("r\"\"\"")
    };
    let opening = items.iter().take_while(|item| opens(item.node)).last();
    let opening = opening.map(|item| tree.node(item.last()).end);
    let imported = last_import.map(|id| tree.node(id).end);
    let top = |is_meant: &dyn Fn(NodeId) -> bool| tree.children(tree.root())
        .filter(|child| is_meant(*child))
        .collect::<Vec<_>>();
    let fixed = top(&|child| organizing.spec.opening.contains(&tree.kind_name(child)));
    let fixed = fixed.last().map(|last| tree.node(*last).end);
    if let Some(end) = opening.max(imported).max(fixed) {
        return (end_of_line(source, end), true);
    }
    // What is said of the whole file is no item.
    let said = top(&|child| tree.role(child) == Role::Annotation).first().map(|first| tree.node(*first).start);
    let first = items.first().map(|item| tree.node(item.first()).start);
    let first = [said, first].into_iter().flatten().min().unwrap_or(0);
    (source.line_start(first), false)
}

/// What is to be put in, and where, so that blank lines part a text from what is around it.
fn apart(source: &Source, (offset, behind): (u32, bool), text: &str, line_end: &str) -> (u32, String) {
    let rest = source.text().get(offset as usize..).unwrap_or("");
    match (behind, rest.find('\n')) {
        (false, _) => (offset, format!("{text}{line_end}{line_end}")),
        (true, None) => (offset, format!("{line_end}{line_end}{text}")),
        (true, Some(end)) => {
            let below = rest.get(end + 1..).unwrap_or("");
            let blank = below.lines().next().is_none_or(|line| line.trim().is_empty());
            let after = if blank { "" } else { line_end };
            (offset + end as u32 + 1, format!("{line_end}{text}{line_end}{after}"))
        }
    }
}

fn end_of_line(source: &Source, offset: u32) -> u32 {
    let rest = source.text().get(offset as usize..).unwrap_or("");
    let line = rest.split('\n').next().unwrap_or("").trim_end_matches('\r');
    offset + line.len() as u32
}
