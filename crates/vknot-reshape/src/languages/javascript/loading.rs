//! Which modules of its project a module of JavaScript or TypeScript loads, and in what order.
//!
//! A module's imports and what it exports on are evaluated in the order in which they are written (ECMA-262, 16.2.1.5.3 "Evaluate"), calls
//! of `require` as they are come to. TypeScript leaves out an import of which every name is used as a type alone.

use std::collections::HashSet;

use vknot_syntax::NodeId;

use crate::imports::words::{is_name, outside_imports, tokens_of};
use crate::spec::Code;
use crate::spec::imports::{Form, Import};
use crate::spec::LoadSpec;
use super::modules::{module_at, module_from};
use super::reading::{is_import, read};

pub(super) const LOADS: LoadSpec = LoadSpec { module: module_at, loads, values };

/// What is run later than the code around it.
const RUN_LATER: [&str; 6] = [
    "arrow_function", "function_declaration", "function_expression", "generator_function",
    "generator_function_declaration", "method_definition",
];

/// Kinds of names that are no values.
const NO_VALUES: [&str; 3] = ["property_identifier", "statement_identifier", "type_identifier"];

/// How files of declarations end, which nothing runs.
const DECLARATIONS: [&str; 3] = [".d.ts", ".d.mts", ".d.cts"];

fn loads(import: &Import, place: &str) -> Vec<String> {
    let is_run = import.form != Form::Types && !is_declaration(place);
    is_run.then(|| module_named(&import.source, place)).flatten().into_iter().collect()
}

fn is_declaration(place: &str) -> bool {
    DECLARATIONS.iter().any(|ending| place.ends_with(ending))
}

/// The module of the project that a file at a place names, if it names one: by a path from there, or from some root of the project.
fn module_named(source: &str, place: &str) -> Option<String> {
    match source.strip_prefix("@/").or_else(|| source.strip_prefix("~/")) {
        Some(path) => Some(module_at(path)),
        None => source.starts_with('.').then(|| module_from(place, source)),
    }
}

/// The names that a file uses other than as types. Where there are decorators, types of what they stand at may be values, too.
fn values<'a>(code: Code<'a>) -> Option<HashSet<&'a str>> {
    let tree = code.tree;
    let decorated = || (0..tree.nodes().len() as u32).any(|id| tree.kind_name(NodeId(id)) == "decorator");
    if tree.language().name() == "javascript" || decorated() {
        return None;
    }
    let names = outside_imports(code, is_import)
        .filter(|(token, _, text)| is_name(text) && !NO_VALUES.contains(&tree.kind_name(token.node)));
    Some(names.map(|(_, _, text)| text).collect())
}

/// The modules that a file at a place of its project loads when it is loaded.
pub(super) fn loads_of(code: Code<'_>, place: &str) -> Vec<String> {
    let Code { source, tree, .. } = code;
    if is_declaration(place) {
        return Vec::new();
    }
    let values = values(code);
    let text = |id: NodeId| tree.text_of(source.text(), id).trim_matches(['\'', '"', '`']);
    let mut loaded = Vec::new();
    let mut next = 0;
    while (next as usize) < tree.nodes().len() {
        let id = NodeId(next);
        next += 1;
        match tree.kind_name(id) {
            kind if RUN_LATER.contains(&kind) && !is_called_at_once(code, id) => next = tree.node(id).next.max(next),
            "import_statement" => {
                let import = read(code, id).filter(|import| import.is_run(values.as_ref()));
                loaded.extend(import.map(|import| loads(&import, place)).unwrap_or_default());
            }
            "export_statement" if tokens_of(code, id).nth(1) != Some("type") => {
                let module = tree.child_named(id, "source");
                loaded.extend(module.and_then(|module| module_named(text(module), place)));
            }
            "call_expression" => {
                loaded.extend(required(code, id).and_then(|module| module_named(text(module), place)));
            }
            _ => {}
        }
    }
    loaded
}

/// The module of a call of `require`.
fn required(code: Code<'_>, call: NodeId) -> Option<NodeId> {
    let tree = code.tree;
    let function = tree.child_named(call, "function")?;
    let is_require = tree.node(function).is_leaf() && tree.text_of(code.source.text(), function) == "require";
    let arguments = tree.child_named(call, "arguments").filter(|_| is_require)?;
    tree.parts(arguments).find(|part| tree.kind_name(*part) == "string")
}

/// Whether a function is called where it stands: `(function () { ... })()`.
fn is_called_at_once(code: Code<'_>, function: NodeId) -> bool {
    let tree = code.tree;
    let holder = tree.parent(function).filter(|holder| tree.kind_name(*holder) == "parenthesized_expression");
    let called = holder.unwrap_or(function);
    let call = tree.parent(called).filter(|call| tree.kind_name(*call) == "call_expression");
    call.is_some_and(|call| tree.child_named(call, "function") == Some(called))
}
