//! Calls that name what their functions hold: `test('reads low water', () => { ... })`, `const Chart = memo(() => { ... })`.

use vknot_syntax::{NodeId, Role, Tree};

use crate::spec::Code;

/// A block that a call names.
pub(super) struct NamedBlock<'c> {
    /// What the string says that the call begins with.
    pub name: &'c str,
    /// What is called.
    pub kind: &'c str,
}

/// The block that a call names: it begins with a string, ends with a function that has a block, and nobody uses its value.
pub(super) fn named_block(code: Code<'_>, id: NodeId) -> Option<NamedBlock<'_>> {
    let Code { source, tree, .. } = code;
    if tree.role(id) != Role::Call || !code.toolkit().looks.named_calls || !is_statement(tree, id) {
        return None;
    }
    let (first, last) = tree.children(arguments(tree, id)?).filter(|child| is_argument(tree, *child)).fold(
        (None, None),
        |(first, _), child| (first.or(Some(child)), Some(child)),
    );
    let (first, last) = (first?, last?);
    let has_block = tree.children(last).any(|child| tree.role(child) == Role::Block);
    if tree.role(first) != Role::String || !matches!(tree.role(last), Role::Lambda | Role::Callable) || !has_block {
        return None;
    }
    let name = tree.text_of(source.text(), first).trim_matches(['"', '\'', '`']).trim();
    let called = tree.text_of(source.text(), tree.children(id).next()?);
    // Of `each([1, 2])` what is in front of its arguments.
    let kind = called.split('(').next().unwrap_or(called).trim();
    let is_path = kind.chars().all(|c| c.is_alphanumeric() || matches!(c, '_' | '$' | '.'));
    (is_path && !name.is_empty()).then_some(NamedBlock { name, kind })
}

/// Whether what a name stands for is a function that a call wraps. Calls take functions for many reasons; the name of what is one after
/// that too begins with a capital letter, as those of components do.
pub(super) fn is_wrapped(code: Code<'_>, id: NodeId, call: NodeId) -> bool {
    let Code { source, tree, .. } = code;
    let is_function = |child: NodeId| matches!(tree.role(child), Role::Lambda | Role::Callable);
    let capital = tree.name_span(id).is_some_and(|name| source.slice(name).starts_with(char::is_uppercase));
    capital && arguments(tree, call).is_some_and(|arguments| tree.children(arguments).any(is_function))
}

fn arguments(tree: &Tree, call: NodeId) -> Option<NodeId> {
    tree.children(call).find(|child| tree.role(*child) == Role::Arguments)
}

fn is_argument(tree: &Tree, id: NodeId) -> bool {
    tree.language().is_named(tree.node(id).kind) && tree.role(id) != Role::Comment
}

/// Whether a call is all of its statement.
fn is_statement(tree: &Tree, id: NodeId) -> bool {
    tree.parent(id).is_some_and(|parent| matches!(tree.role(parent), Role::Statement | Role::Block | Role::Body))
}
