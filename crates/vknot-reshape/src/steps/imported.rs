//! What a file imports, and what belongs to its imports.

use std::collections::{BTreeMap, HashMap, HashSet};

use vknot_syntax::{NodeId, Role};

use crate::imports::words::{list_of, tokens_of};
use crate::items::{Item, Sequence};
use crate::receipt::Receipt;
use crate::spec::Code;
use super::refusal::{Difference, Refusal, shortened};

/// Runs of tokens, in order and apart.
#[derive(Default)]
pub(super) struct Extents {
    runs: Vec<(u32, u32)>,
    /// For each run how many tokens the runs in front of it hold.
    before: Vec<u32>,
}

impl Extents {
    /// Sorts runs, and makes one of those that overlap or touch.
    pub fn of(mut runs: Vec<(u32, u32)>) -> Extents {
        runs.sort_unstable();
        let mut joined: Vec<(u32, u32)> = Vec::with_capacity(runs.len());
        for (start, end) in runs {
            match joined.last_mut().filter(|last| start <= last.1) {
                Some(last) => last.1 = last.1.max(end),
                None => joined.push((start, end)),
            }
        }
        let mut before = Vec::with_capacity(joined.len());
        joined.iter().fold(0, |held, (start, end)| {
            before.push(held);
            held + end - start
        });
        Extents { runs: joined, before }
    }

    fn run(&self, token: u32) -> Option<(u32, u32)> {
        let behind = self.runs.partition_point(|(start, _)| *start <= token);
        self.runs.get(behind.checked_sub(1)?).copied().filter(|(_, end)| token < *end)
    }

    /// Whether a token is in one.
    pub fn holds(&self, token: u32) -> bool {
        !self.runs.is_empty() && self.run(token).is_some()
    }

    /// The token itself, or the one behind the run it is in.
    pub fn behind(&self, token: u32) -> u32 {
        if self.runs.is_empty() { token } else { self.run(token).map_or(token, |(_, end)| end) }
    }

    /// How many tokens stand in front of a token, those in runs aside.
    fn outside_before(&self, token: u32) -> u32 {
        let Some(last) = self.runs.partition_point(|(start, _)| *start < token).checked_sub(1) else { return token };
        let (start, end) = self.runs[last];
        token - self.before[last] - (end.min(token) - start)
    }
}

/// The imports of a text.
pub(super) struct Imports<'a> {
    code: Code<'a>,
    items: Vec<Imported>,
}

/// One import of a text.
struct Imported {
    item: Item,
    /// How many that nothing may pass stand in front of it.
    barriers: u32,
    /// Whether it is one of those.
    barrier: bool,
    leaves: Vec<String>,
}

impl<'a> Imports<'a> {
    /// All imports, each with what belongs to it.
    pub fn of(code: Code<'a>) -> Imports<'a> {
        let tree = code.tree;
        let Some(spec) = code.toolkit().imports else { return Imports { code, items: Vec::new() } };
        let is_import = |id: NodeId| (spec.is_import)(code, id);
        let ids = (0..tree.nodes().len() as u32).map(NodeId).filter(|id| is_import(*id));
        let mut holders: Vec<NodeId> = ids.map(|id| tree.node(id).parent).collect();
        holders.sort_unstable();
        holders.dedup();
        let items = holders.into_iter().flat_map(|holder| Sequence::of(code, holder).items);
        let mut items: Vec<Item> = items.filter(|item| is_import(item.node)).collect();
        items.sort_by_key(|item| tree.node(item.node).first_token);
        let mut barriers = 0;
        let imported = |item: Item| {
            let import = (spec.read)(code, item.node);
            let before = barriers;
            let barrier = import.as_ref().is_none_or(|import| import.barrier);
            barriers += u32::from(barrier);
            let written = || vec![tokens_of(code, item.node).collect::<Vec<_>>().join(" ")];
            let leaves = import.filter(|import| !import.names.is_empty()).map_or_else(written, |import| {
                import.names.iter().map(|name| (spec.leaf)(&import, name)).collect()
            });
            Imported { item, barriers: before, barrier, leaves }
        };
        Imports { code, items: items.into_iter().map(imported).collect() }
    }

    /// The tokens of the imports and of what goes with them.
    pub fn extents(&self) -> Extents {
        let node = |id: NodeId| self.code.tree.node(id);
        let source = self.code.source;
        let last = |item: &Item| {
            // A mark between statements is not needed where a line ends; any other is no part of an import.
            let own = item.separator.filter(|mark| source.slice(node(*mark).span()) == ";");
            [item.trails.last().copied(), own].into_iter().flatten().max().map_or(item.node, |last| last.max(item.node))
        };
        let run = |import: &Imported| (node(import.item.first()).first_token, node(last(&import.item)).token_end);
        let lists = (0..self.code.tree.nodes().len() as u32).filter_map(|id| list_of(self.code, NodeId(id)));
        let marks = lists.flat_map(|(list, body)| {
            let (list, body) = (node(list), node(body));
            [(list.first_token, body.first_token + 1), (body.token_end - 1, list.token_end)]
        });
        Extents::of(self.items.iter().map(run).chain(marks).collect())
    }

    fn first_token(&self, import: &Imported) -> u32 {
        self.code.tree.node(import.item.node).first_token
    }

    /// The names and texts in an import; its keywords and marks come and go with how it is written.
    fn words(&self, import: &Imported) -> impl Iterator<Item = &'a str> {
        let Code { source, tree, .. } = self.code;
        let node = tree.node(import.item.node);
        let tokens = tree.tokens().get(node.first_token as usize..node.token_end as usize).unwrap_or_default();
        let named = tokens.iter().filter(move |token| {
            let keyword = || tree.language().token_kind(source.slice(token.span())).is_some();
            tree.role(token.node) != Role::Comment && !keyword()
        });
        let words = named.map(|token| source.slice(token.span()));
        words.filter(|word| word.starts_with(|first: char| first.is_alphanumeric() || first == '_'))
    }

    /// Some tokens, whatever the white space in them.
    fn lines(&self, first: u32, end: u32) -> String {
        let tokens = self.code.tree.tokens().get(first as usize..end as usize).unwrap_or_default();
        let lines = tokens.iter().flat_map(|token| self.code.source.slice(token.span()).lines().map(str::trim));
        lines.collect::<Vec<_>>().join("\n")
    }

    fn text(&self, id: NodeId) -> String {
        let node = self.code.tree.node(id);
        self.lines(node.first_token, node.token_end)
    }

    /// Comments that are among those that went along with their import elsewhere do here, too, and so do those below them.
    fn go_along(&mut self, went: &HashSet<String>) {
        for index in 0..self.items.len() {
            let Some(import) = self.items.get(index) else { continue };
            let goes = import.item.heads.iter().position(|id| went.contains(&owned(&self.text(*id), import)));
            if let Some((first, import)) = goes.zip(self.items.get_mut(index)) {
                import.item.leads = import.item.heads.split_off(first);
            }
        }
    }

    /// The comments and annotations that go with an import.
    fn dress(&self, import: &Imported) -> Vec<String> {
        let tree = self.code.tree;
        let item = &import.item;
        let node = tree.node(item.node);
        let inside = (node.first_token..node.token_end).filter(|token| tree.is_comment(*token));
        let around = item.leads.iter().chain(&item.trails).map(|id| self.text(*id));
        around.chain(inside.map(|token| self.lines(token, token + 1))).collect()
    }
}

/// Where something is imported: between which tokens that are no imports, and which imports that nothing passes.
type Where = (u32, u32);

/// What is counted: something that is imported, or a comment of an import.
type Counts = BTreeMap<(Where, bool, String), i64>;

/// Compares what two texts import: the same, less what the receipt says was taken out and with what it says was put in, and nothing has
/// passed a token that belongs to no import, or an import that nothing may pass. Comments are with the import they were with.
pub(super) fn same_imports(old: &Imports<'_>, new: &Imports<'_>, receipt: &Receipt) -> Result<(), Refusal> {
    let mut counts = Counts::new();
    let mut places = count(old, 1, &mut counts);
    count(new, -1, &mut counts);
    let extents = old.extents();
    for removed in receipt.removed.iter().filter(|removed| extents.holds(removed.token)) {
        let unknown = || Refusal::at(removed.offset, Difference::Receipt { text: shortened(&removed.text) });
        let (place, left) = places.get_mut(&removed.token).ok_or_else(unknown)?;
        let at = left.iter().position(|leaf| *leaf == removed.text).ok_or_else(unknown)?;
        left.swap_remove(at);
        *counts.entry((*place, false, removed.text.clone())).or_default() -= 1;
    }
    for imported in &receipt.imported {
        let barriers = old.items
            .iter()
            .filter(|import| old.first_token(import) < imported.token)
            .map(|import| import.barriers + u32::from(import.barrier));
        let place = places.get(&imported.token).map(|(place, _)| *place);
        let place = place.unwrap_or_else(|| (extents.outside_before(imported.token), barriers.max().unwrap_or(0)));
        *counts.entry((place, false, imported.text.clone())).or_default() += 1;
    }
    match counts.into_iter().find(|(_, count)| *count != 0) {
        None => match lost_word(old, new, &places, receipt) {
            None => Ok(()),
            Some(word) => Err(Refusal::at(0, Difference::Import { import: word })),
        },
        Some(((_, true, comment), _)) => Err(Refusal::at(0, Difference::Comment { comment: shortened(&comment) })),
        Some(((_, false, import), _)) => Err(Refusal::at(0, Difference::Import { import })),
    }
}

/// A name or a text of an import that stays which no import has any more, whatever the readers of imports make of it. `left` is what each
/// import of the old text still brings in.
fn lost_word(
    old: &Imports<'_>,
    new: &Imports<'_>,
    left: &HashMap<u32, (Where, Vec<String>)>,
    receipt: &Receipt,
) -> Option<String> {
    let kept: HashSet<&str> = new.items.iter().flat_map(|import| new.words(import)).collect();
    let stays = |import: &&Imported| left.get(&old.first_token(import)).is_some_and(|(_, left)| !left.is_empty());
    let mut words = old.items.iter().filter(stays).flat_map(|import| old.words(import));
    let gone: HashSet<&str> = receipt.removed.iter().flat_map(|removed| parts(&removed.text)).collect();
    let goes = |word: &str| parts(word).all(|part| gone.contains(part));
    words.find(|word| !kept.contains(word) && !goes(word)).map(shortened)
}

/// The words in a text.
fn parts(text: &str) -> impl Iterator<Item = &str> {
    text.split(|c: char| !c.is_alphanumeric() && c != '_')
}

/// Takes comments that head imports in one text and go along with their import in the other as going along in both: which they do, is told
/// by the lines around.
pub(super) fn reconcile(old: &mut Imports<'_>, new: &mut Imports<'_>) {
    let went = |imports: &Imports<'_>| -> HashSet<String> {
        let leads = |import: &Imported| import.item.leads
            .iter()
            .map(|id| owned(&imports.text(*id), import))
            .collect::<Vec<_>>();
        imports.items.iter().flat_map(leads).collect()
    };
    let (old_went, new_went) = (went(old), went(new));
    old.go_along(&new_went);
    new.go_along(&old_went);
}

/// What stands for a comment of an import.
fn owned(comment: &str, import: &Imported) -> String {
    let mut owner = import.leaves.clone();
    owner.sort_unstable();
    owner.dedup();
    format!("{comment}\n{}", owner.join("\n"))
}

/// Counts what is imported; gives for the first token of each import where it is, and what it brings in.
fn count(imports: &Imports<'_>, by: i64, counts: &mut Counts) -> HashMap<u32, (Where, Vec<String>)> {
    let extents = imports.extents();
    let mut places = HashMap::new();
    for import in &imports.items {
        let token = imports.first_token(import);
        let place = (extents.outside_before(token), import.barriers);
        for comment in imports.dress(import) {
            *counts.entry((place, true, owned(&comment, import))).or_default() += by;
        }
        for leaf in &import.leaves {
            *counts.entry((place, false, leaf.clone())).or_default() += by;
        }
        places.insert(token, (place, import.leaves.clone()));
    }
    places
}

#[cfg(test)]
mod tests {
    use vknot_syntax::{Language, Source};

    use super::*;
    use crate::steps::Document;

    fn document(text: &str) -> Document {
        let language = Language::called("java").expect("a language");
        let style = crate::default_style(language);
        Document::new(Source::from_text("Gauge.java", text.to_owned()), language, style)
    }

    #[test]
    fn words_are_lost_only_with_the_import_they_are_of() {
        let (old, new) = (document("import a.A;\nimport b.B;\n"), document("import a.A;\n"));
        let (old, new) = (Imports::of(old.code()), Imports::of(new.code()));
        let mut left = count(&old, 1, &mut Counts::new());
        let lost = |left: &HashMap<u32, (Where, Vec<String>)>| lost_word(&old, &new, left, &Receipt::default());
        assert_eq!(lost(&left), Some("b".to_owned()));
        assert_eq!(lost_word(&new, &old, &left, &Receipt::default()), None);
        left.values_mut().for_each(|(_, leaves)| leaves.retain(|leaf| !leaf.contains('b')));
        assert_eq!(lost(&left), None);
    }
}
