//! HTML, with the code in its scripts and styles.

mod reader;

use crate::language::{LANGUAGE, Language, LanguageSpec};
use crate::reader::{Lookup, Reader, Reading, READING as READING_OF_MOST};
use crate::role::Role;
use crate::text::Source;
use crate::tree::{NodeId, Piece, Tree};

pub(crate) const SPEC: LanguageSpec = LanguageSpec {
    name: "html",
    title: "HTML",
    aliases: &["htm"],
    extensions: &["html", "htm", "xhtml"],
    roles: &[reader::ROLES],
    block_comment: ("<!--", "-->"),
    prose: &["text"],
    ..LANGUAGE
};

pub(crate) const READING: Reading = Reading {
    reader: Reader::Own { kinds: reader::KINDS, read: reader::read },
    embeds: Some(scripts),
    ..READING_OF_MOST
};

/// The texts of scripts and styles whose language is known.
fn scripts(source: &Source, tree: &Tree, lookup: Lookup) -> Vec<Piece> {
    let raw = tree.language().kind("raw");
    let nodes = (0..tree.nodes().len() as u32).map(NodeId);
    let pieces = nodes.filter(|id| Some(tree.node(*id).kind) == raw).filter_map(|id| {
        let element = tree.node(id).parent;
        let opening = tree.children(element).find(|child| tree.role(*child) == Role::Open)?;
        let language = language_of(tree.text_of(source.text(), opening), lookup)?;
        Some(Piece::of(source, language, id, tree.node(id).span()))
    });
    pieces.collect()
}

/// The language an opening tag announces: by its `lang` or `type`, else as is usual.
fn language_of(tag: &str, lookup: Lookup) -> Option<&'static Language> {
    let tag = tag.to_ascii_lowercase();
    let value = |name: &str| {
        let rest = tag.split_once(name)?.1.trim_start().strip_prefix('=')?.trim_start();
        Some(rest.trim_start_matches(['"', '\'']).split(['"', '\'', ' ', '>']).next()?.to_owned())
    };
    let usual = if tag.starts_with("<script") { "javascript" } else { "css" };
    let named = value(" lang").or_else(|| value(" type")).unwrap_or_default();
    match named.as_str() {
        "" | "module" | "text/css" | "text/javascript" | "application/javascript" | "application/x-javascript" =>
            lookup(usual),
        "importmap" | "speculationrules" => lookup("json"),
        named if named.ends_with("json") => lookup("json"),
        named => lookup(named.rsplit(['/', '-']).next().unwrap_or(named)),
    }
}
