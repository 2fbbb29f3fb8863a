//! Markdown, with the code in its fences.

mod reader;

use crate::language::{Kind, LANGUAGE, LanguageSpec};
use crate::reader::{Lookup, Reader, Reading, READING as READING_OF_MOST};
use crate::text::{Source, Span};
use crate::tree::{NodeId, Piece, Tree};

pub(crate) const SPEC: LanguageSpec = LanguageSpec {
    name: "markdown",
    title: "Markdown",
    aliases: &["md"],
    extensions: &["md", "markdown", "mkd", "mdown"],
    roles: &[reader::ROLES],
    block_comment: ("<!--", "-->"),
    ..LANGUAGE
};

pub(crate) const READING: Reading = Reading {
    reader: Reader::Own { kinds: reader::KINDS, read: reader::read },
    embeds: Some(fences),
    ..READING_OF_MOST
};

/// The code of fences whose language is known, without what stands in front of each line.
fn fences(source: &Source, tree: &Tree, lookup: Lookup) -> Vec<Piece> {
    let kind = |name: &str| tree.language().kind(name).unwrap_or(tree.language().error_kind());
    let (fence, info, code) = (kind("fence"), kind("info"), kind("code_line"));
    let nodes = (0..tree.nodes().len() as u32).map(NodeId);
    nodes
        .filter(|id| tree.node(*id).kind == fence)
        .filter_map(|id| piece(source, tree, id, (info, code), lookup))
        .collect()
}

fn piece(source: &Source, tree: &Tree, fence: NodeId, (info, code): (Kind, Kind), lookup: Lookup) -> Option<Piece> {
    let info = tree.children(fence).find(|child| tree.node(*child).kind == info)?;
    let word = tree.text_of(source.text(), info)
        .split(|c: char| c.is_whitespace() || matches!(c, ',' | '{' | '}'))
        .find(|word| !word.is_empty())?;
    let language = lookup(word.trim_start_matches('.'))?;
    let (mut text, mut map) = (String::new(), Vec::new());
    let lines: Vec<NodeId> = tree.children(fence).filter(|child| tree.node(*child).kind == code).collect();
    let margin = lines.iter().map(|line| column(source, tree.node(*line).start)).min()?;
    let mut number = source.line(tree.node(*lines.first()?).start);
    for line in lines {
        let node = tree.node(line);
        while number < source.line(node.start) {
            text.push('\n');
            number += 1;
        }
        // The blanks in front of a line belong to its code, less those that all lines have.
        let blanks = column(source, node.start).saturating_sub(margin);
        map.push((text.len() as u32, node.start - blanks));
        text.push_str(source.slice(Span::new(node.start - blanks, node.end)));
    }
    text.push('\n');
    Some(Piece { language, host: fence, text, map, quoted: false })
}

/// How many blanks are directly in front of an offset.
fn column(source: &Source, offset: u32) -> u32 {
    let before = source.text().get(..offset as usize).unwrap_or("");
    (before.len() - before.trim_end_matches([' ', '\t']).len()) as u32
}
