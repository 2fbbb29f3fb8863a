//! Semicolons at the end of statements, and commas behind the last item.

use vknot_syntax::{NodeId, Role};

use crate::items::is_separator;
use crate::spec::layout::Rule;
use crate::spec::spelling::SemicolonSpec;
use super::draft::Draft;

/// Puts a semicolon behind each statement and member that may do without.
pub(super) fn add_semicolons(draft: &mut Draft<'_>) {
    let Some(spec) = &draft.spec.semicolons else { return };
    let (tree, count) = (draft.code.tree, draft.code.tree.tokens().len() as u32);
    for id in ends(draft, spec) {
        let behind = end_of(draft, id);
        let written = draft.text(behind - 1) == ";" || matches!(draft.text(behind), ";" | ",");
        // What ends in the line of something else, but a closing brace, has that end it.
        let ends_line = behind >= count
            || draft.line(behind) > draft.line(behind - 1)
            || draft.text(behind) == "}"
            || tree.is_comment(behind);
        if !written && ends_line {
            draft.put_in(behind, ";");
        }
    }
}

/// Takes out the semicolons that a line end does as well.
pub(super) fn remove_semicolons(draft: &mut Draft<'_>) {
    let Some(spec) = &draft.spec.semicolons else { return };
    let tree = draft.code.tree;
    for id in ends(draft, spec) {
        let node = tree.node(id);
        let behind = end_of(draft, id);
        let own = draft.text(behind - 1) == ";";
        let mark = if own { behind - 1 } else { behind };
        let alone = mark <= node.first_token || draft.text(mark) != ";";
        if !alone && !goes_on_behind(draft, spec, mark) && !is_modifier(draft, spec, id) {
            draft.remove(mark);
        }
    }
}

/// One past the last token of a node, comments aside.
fn end_of(draft: &Draft<'_>, id: NodeId) -> u32 {
    let node = draft.code.tree.node(id);
    let last = (node.first_token..node.token_end).rev().find(|token| !draft.code.tree.is_comment(*token));
    last.unwrap_or(node.first_token) + 1
}

/// What may end in a semicolon, or do without it.
fn ends(draft: &Draft<'_>, spec: &SemicolonSpec) -> Vec<NodeId> {
    let tree = draft.code.tree;
    let is_end = |id: &NodeId| {
        let (node, name) = (tree.node(*id), tree.kind_name(*id));
        let Some(parent) = tree.parent(*id).filter(|_| !node.is_empty() && !node.has_error()) else { return false };
        let holder = tree.kind_name(parent);
        let member = || spec.members.iter().any(|(body, kinds)| *body == holder && kinds.contains(&name));
        let inside = node.token_end < tree.node(parent).token_end;
        if inside && spec.not_in.contains(&holder) || !(spec.statements.contains(&name) || member()) {
            return false;
        }
        let without = spec.not_behind.iter().find(|(kind, _)| *kind == name).map_or(&[][..], |(_, parts)| *parts);
        // Of what is not whole no one knows where it ends.
        !tree.node(parent).has_error() && !tree.children(*id).any(|part| without.contains(&tree.kind_name(part)))
    };
    (0..tree.nodes().len() as u32).map(NodeId).filter(is_end).collect()
}

/// Whether what is behind a semicolon would be read with what is in front of it.
fn goes_on_behind(draft: &Draft<'_>, spec: &SemicolonSpec, mark: u32) -> bool {
    let tree = draft.code.tree;
    let count = tree.tokens().len() as u32;
    let next = (mark + 1..count).find(|token| !tree.is_comment(*token));
    let Some(next) = next else { return false };
    // A block comment with a line end in it would do; that is seldom enough to leave.
    let gap = (mark + 1..=next).map(|token| draft.code.source.slice(tree.gap_span(token)));
    let line_end = gap.into_iter().any(|gap| gap.contains('\n'));
    match draft.text(next) {
        "}" => false,
        text => !line_end || spec.goes_on.iter().any(|mark| begins(text, mark)),
    }
}

/// Whether a token begins with a mark, or is a word.
fn begins(text: &str, mark: &str) -> bool {
    let word = mark.starts_with(|c: char| c.is_alphabetic());
    if word { text == mark } else { text.starts_with(mark) }
}

/// Whether a member without a value has a name that would be read as a word in front of the next.
fn is_modifier(draft: &Draft<'_>, spec: &SemicolonSpec, id: NodeId) -> bool {
    let node = draft.code.tree.node(id);
    spec.members.iter().any(|(_, kinds)| kinds.contains(&draft.code.tree.kind_name(id)))
        && (node.first_token..node.token_end)
            .rev()
            .find(|token| draft.text(*token) != ";")
            .is_some_and(|last| spec.modifiers.contains(&draft.text(last)))
}

/// Takes out the commas behind the last items of lists.
pub(super) fn remove_commas(draft: &mut Draft<'_>) {
    let (code, tree) = (draft.code, draft.code.tree);
    let Some(table) = &code.toolkit().layout else { return };
    for id in (0..tree.nodes().len() as u32).map(NodeId) {
        let node = tree.node(id);
        if node.is_leaf() || node.has_error() {
            continue;
        }
        let takes = match table.rule(tree.node(node.parent).kind, node.kind) {
            Rule::List(list) => list.comma,
            Rule::Braces(braces) => braces.comma,
            _ => false,
        };
        let children = || tree.children(id)
            .filter(|child| tree.role(*child) != Role::Comment && !tree.node(*child).is_empty());
        let Some(comma) = takes.then(|| last_comma(draft, &children().collect::<Vec<_>>())).flatten() else { continue };
        let items = children().filter(|child| !is_separator(code, *child)).count();
        // A single item may be another thing without its comma: a value in brackets, an element.
        let lone = draft.spec.lone_commas.contains(&tree.kind_name(id)) || draft.text(node.first_token) == "<";
        if !lone || items > BRACKETED {
            draft.remove(comma);
        }
    }
}

/// One item and its brackets.
const BRACKETED: usize = 3;

/// The comma between the last item and the closing bracket.
fn last_comma(draft: &Draft<'_>, children: &[NodeId]) -> Option<u32> {
    let [.., before, comma, _] = children else { return None };
    let (code, tree) = (draft.code, draft.code.tree);
    let token = tree.node(*comma).first_token;
    // What no item is in front of stands for one that is left out.
    let hole = is_separator(code, *before)
        || tree.role(*before) == Role::Open
        || tree.language().bracket(tree.node(*before).kind).is_some();
    (is_separator(code, *comma) && draft.text(token) == "," && !hole).then_some(token)
}
