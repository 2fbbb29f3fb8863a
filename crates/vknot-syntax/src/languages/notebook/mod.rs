//! Notebooks (nbformat 4): JSON whose cells hold code and text.

mod reader;

use crate::language::{LANGUAGE, Language, LanguageSpec};
use crate::reader::{Lookup, Reader, Reading, READING as READING_OF_MOST};
use crate::role::Role;
use crate::text::Source;
use crate::tree::{NodeId, Piece, Tree};

pub(crate) const SPEC: LanguageSpec = LanguageSpec {
    name: "notebook",
    title: "Notebook",
    extensions: &["ipynb"],
    roles: &[reader::ROLES],
    ..LANGUAGE
};

pub(crate) const READING: Reading = Reading {
    reader: Reader::Own { kinds: reader::KINDS, read: reader::read },
    embeds: Some(cells),
    ..READING_OF_MOST
};

/// The text of each cell: code in the notebook's language, and Markdown.
fn cells(source: &Source, tree: &Tree, lookup: Lookup) -> Vec<Piece> {
    let default = code_language(source, tree, lookup).or_else(|| lookup("python"));
    let nodes = (0..tree.nodes().len() as u32).map(NodeId);
    let cells = nodes.filter(|id| tree.role(*id) == Role::Cell);
    cells
        .filter_map(|cell| {
            let language = match string_of(source, tree, member(source, tree, cell, "cell_type")?)? {
                "code" => default?,
                "markdown" => lookup("markdown")?,
                _ => return None,
            };
            let (mut text, map) = decoded(source, tree, member(source, tree, cell, "source")?);
            if language.name() == "python" {
                hide_commands(&mut text)?;
            }
            (!text.is_empty()).then_some(Piece { language, host: cell, text, map, quoted: true })
        })
        .collect()
}

/// The language the notebook's metadata names.
fn code_language(source: &Source, tree: &Tree, lookup: Lookup) -> Option<&'static Language> {
    let root = tree.children(tree.root()).find(|child| tree.role(*child) == Role::Collection)?;
    let metadata = member(source, tree, root, "metadata")?;
    let named = |holder: &str, key: &str| {
        let holder = member(source, tree, metadata, holder)?;
        string_of(source, tree, member(source, tree, holder, key)?)
    };
    let name = named("language_info", "name").or_else(|| named("kernelspec", "language"))?;
    lookup(name)
}

/// The value of a member of an object.
fn member(source: &Source, tree: &Tree, object: NodeId, key: &str) -> Option<NodeId> {
    let member = tree.children(object).find(|child| {
        tree.role(*child) == Role::Assignment
            && tree.name_span(*child).is_some_and(|name| source.slice(name).trim_matches('"') == key)
    })?;
    tree.child_named(member, "value")
}

fn string_of<'s>(source: &'s Source, tree: &Tree, id: NodeId) -> Option<&'s str> {
    tree.text_of(source.text(), id).strip_prefix('"')?.strip_suffix('"')
}

/// The text of a string, or of an array of strings, with a map of where its bytes stand.
fn decoded(source: &Source, tree: &Tree, value: NodeId) -> (String, Vec<(u32, u32)>) {
    let (mut text, mut map) = (String::new(), Vec::new());
    for id in tree.subtree(value).filter(|id| tree.role(*id) == Role::String) {
        let span = tree.node(id).span();
        let Some(inside) = string_of(source, tree, id) else { continue };
        decode(inside, span.start + 1, &mut text, &mut map);
    }
    (text, map)
}

/// Undoes the escapes of a JSON string (RFC 8259, section 7).
fn decode(inside: &str, start: u32, text: &mut String, map: &mut Vec<(u32, u32)>) {
    let mut at = 0;
    while at < inside.len() {
        map.push((text.len() as u32, start + at as u32));
        let plain = inside[at..].find('\\').unwrap_or(inside.len() - at);
        text.push_str(&inside[at..at + plain]);
        at += plain;
        let Some(escape) = inside[at..].chars().nth(1) else { return };
        map.push((text.len() as u32, start + at as u32));
        let (character, length) = match escape {
            'n' => ('\n', 2),
            't' => ('\t', 2),
            'r' => ('\r', 2),
            'b' => ('\u{8}', 2),
            'f' => ('\u{c}', 2),
            'u' => unicode(&inside[at..]),
            other => (other, 1 + other.len_utf8()),
        };
        text.push(character);
        at += length;
    }
}

/// `\uXXXX`, or two of them that make one character, with their length.
fn unicode(text: &str) -> (char, usize) {
    let unit = |at: usize| u32::from_str_radix(text.get(at..at + 4)?, 16).ok();
    let first = unit(2).unwrap_or(0xfffd);
    let second = text.get(6..8).filter(|mark| *mark == "\\u").and_then(|_| unit(8));
    match (first, second) {
        (0xd800..=0xdbff, Some(low @ 0xdc00..=0xdfff)) => {
            (char::from_u32(0x10000 + ((first - 0xd800) << 10) + (low - 0xdc00)).unwrap_or('\u{fffd}'), 12)
        }
        _ => (char::from_u32(first).unwrap_or('\u{fffd}'), 6.min(text.len())),
    }
}

/// Lines that are commands to the notebook and no code become comments, byte for byte. `None` when all of the cell is
/// for something else.
fn hide_commands(text: &mut String) -> Option<()> {
    if text.trim_start().starts_with("%%") {
        return None;
    }
    let lines: Vec<String> = text.split_inclusive('\n')
        .map(|line| match line.trim_start().as_bytes().first() {
            Some(b'%' | b'!' | b'?') => line.replacen(['%', '!', '?'], "#", 1),
            _ => line.to_owned(),
        })
        .collect();
    *text = lines.concat();
    Some(())
}
