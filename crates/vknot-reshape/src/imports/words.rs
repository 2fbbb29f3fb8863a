//! What languages' folders share to read imports and the names in a file.

use std::collections::HashSet;

use vknot_syntax::{NodeId, Role, Token};

use crate::spec::Code;
use crate::spec::imports::{Import, Origin, Surroundings};

/// The words of a text: runs of letters, digits, `_` and `$`.
pub(crate) fn words(text: &str) -> impl Iterator<Item = &str> {
    text.split(|c: char| !(c.is_alphanumeric() || matches!(c, '_' | '$'))).filter(|word| !word.is_empty())
}

/// Whether a text begins as a name does.
pub(crate) fn is_name(text: &str) -> bool {
    text.starts_with(|c: char| c.is_alphabetic() || matches!(c, '_' | '$' | '@'))
}

/// The tokens of a node, comments aside.
pub(crate) fn tokens_of<'a>(code: Code<'a>, id: NodeId) -> impl Iterator<Item = &'a str> + 'a {
    let Code { source, tree, .. } = code;
    let node = tree.node(id);
    let tokens = tree.tokens().get(node.first_token as usize..node.token_end as usize).unwrap_or_default();
    tokens
        .iter()
        .filter(move |token| tree.role(token.node) != Role::Comment)
        .map(move |token| source.slice(token.span()))
}

/// Whether a node holds a comment.
pub(crate) fn has_comment(code: Code<'_>, id: NodeId) -> bool {
    let node = code.tree.node(id);
    (node.first_token..node.token_end).any(|token| code.tree.is_comment(token))
}

/// The tokens of a file outside its imports, each with the one before it.
pub(crate) fn outside_imports<'a>(
    code: Code<'a>,
    is_import: fn(Code<'_>, NodeId) -> bool,
) -> impl Iterator<Item = (&'a Token, &'a str, &'a str)> + 'a {
    let Code { source, tree, .. } = code;
    let imports = (0..tree.nodes().len() as u32).map(NodeId).filter(move |id| is_import(code, *id));
    let mut runs = imports
        .map(|id| (tree.node(id).first_token, tree.node(id).token_end))
        .collect::<Vec<_>>()
        .into_iter()
        .peekable();
    let mut before = "";
    tree.tokens().iter().enumerate().filter_map(move |(index, token)| {
        let index = index as u32;
        while runs.next_if(|(_, end)| *end <= index).is_some() {}
        if runs.peek().is_some_and(|(start, _)| *start <= index) {
            return None;
        }
        let text = source.slice(token.span());
        let found = (token, before, text);
        if tree.role(token.node) != Role::Comment {
            before = text;
        }
        Some(found)
    })
}

/// The words of the pieces of a string in which code stands: between `{` and `}`.
pub(crate) fn words_inside(text: &str) -> impl Iterator<Item = &str> {
    let inside = text.find('{').zip(text.rfind('}')).and_then(|(start, end)| text.get(start..end));
    words(inside.unwrap_or(""))
}

/// The names that imports of a file bring in.
pub(crate) fn imported(
    code: Code<'_>,
    is_import: fn(Code<'_>, NodeId) -> bool,
    read: fn(Code<'_>, NodeId) -> Option<Import>,
) -> HashSet<String> {
    let imports = imports_of(code, is_import).into_iter().filter_map(|id| read(code, id));
    imports.flat_map(|import| import.names).filter_map(|name| name.bound).collect()
}

/// The list of imports whose part between brackets is given, with that, where the language has lists that mean no more than what is in them.
pub(crate) fn list_of(code: Code<'_>, body: NodeId) -> Option<(NodeId, NodeId)> {
    let tree = code.tree;
    code.toolkit().imports.filter(|spec| spec.listed.is_some())?;
    let list = tree.node(body).parent;
    let bracketed = tree.node(body).token_end >= tree.node(body).first_token + 2;
    (bracketed && tree.role(body) == Role::Body && tree.role(list) == Role::Import).then_some((list, body))
}

/// Whether the project declares a name in a package that goes by the name of its source.
pub(crate) fn is_declared(origin: &Origin, around: &dyn Surroundings) -> bool {
    let index = around.index();
    index.is_some_and(|index| index.names_in(&origin.source).is_some_and(|names| names.contains(&origin.path)))
}

/// The names that a doc comment refers to: between curly brackets, and behind the tags that take one.
pub(crate) fn documented(text: &str) -> impl Iterator<Item = &str> {
    const TAGS: [&str; 8] = ["@see", "@throws", "@exception", "@uses", "@provides", "@link", "@extends", "@implements"];
    let tagged = text.lines().filter_map(|line| {
        let at = TAGS.iter().filter_map(|tag| line.find(tag)).min()?;
        line.get(at + 1..)
    });
    let bracketed = text.split('{').skip(1).map(|part| part.split('}').next().unwrap_or(""));
    tagged.chain(bracketed).flat_map(words)
}

/// The lines of a text of facts, without what says where they are from.
pub(crate) fn facts(text: &str) -> impl Iterator<Item = &str> {
    text.lines().filter(|line| !line.starts_with('#'))
}

/// The nodes of a file that are imports, in order.
pub(crate) fn imports_of(code: Code<'_>, is_import: fn(Code<'_>, NodeId) -> bool) -> Vec<NodeId> {
    (0..code.tree.nodes().len() as u32).map(NodeId).filter(|id| is_import(code, *id)).collect()
}

/// A text with every run of white space as one space.
pub(crate) fn one_line(text: &str) -> String {
    text.split_whitespace().collect::<Vec<_>>().join(" ")
}
