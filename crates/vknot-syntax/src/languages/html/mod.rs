//! HTML, with the code in its scripts and styles.

mod reader;

use crate::language::{LANGUAGE, Language, LanguageSpec, Reader};
use crate::role::Role;
use crate::text::Source;
use crate::tree::{NodeId, Piece, Tree};

pub(crate) const SPEC: LanguageSpec = LanguageSpec {
    name: "html",
    title: "HTML",
    aliases: &["htm"],
    extensions: &["html", "htm", "xhtml"],
    reader: Reader::Own { kinds: reader::KINDS, read: reader::read },
    roles: &[reader::ROLES],
    block_comment: ("<!--", "-->"),
    prose: &["text"],
    embeds: Some(scripts),
    ..LANGUAGE
};

/// The texts of scripts and styles whose language is known.
fn scripts(source: &Source, tree: &Tree) -> Vec<Piece> {
    let raw = tree.language().kind("raw");
    let nodes = (0..tree.nodes().len() as u32).map(NodeId);
    let pieces = nodes.filter(|id| Some(tree.node(*id).kind) == raw).filter_map(|id| {
        let element = tree.node(id).parent;
        let opening = tree.children(element).find(|child| tree.role(*child) == Role::Open)?;
        let language = language_of(tree.text_of(source.text(), opening))?;
        Some(Piece::of(source, language, id, tree.node(id).span()))
    });
    pieces.collect()
}

/// The language an opening tag announces: by its `lang` or `type`, else as is usual.
fn language_of(tag: &str) -> Option<&'static Language> {
    let tag = tag.to_ascii_lowercase();
    let value = |name: &str| {
        let rest = tag.split_once(name)?.1.trim_start().strip_prefix('=')?.trim_start();
        Some(rest.trim_start_matches(['"', '\'']).split(['"', '\'', ' ', '>']).next()?.to_owned())
    };
    let usual = if tag.starts_with("<script") { "javascript" } else { "css" };
    let named = value(" lang").or_else(|| value(" type")).unwrap_or_default();
    match named.as_str() {
        "" | "module" | "text/css" | "text/javascript" | "application/javascript" | "application/x-javascript" =>
            Language::named(usual),
        "importmap" | "speculationrules" => Language::named("json"),
        named if named.ends_with("json") => Language::named("json"),
        named => Language::called(named.rsplit(['/', '-']).next().unwrap_or(named)),
    }
}
