//! What a Racket module requires: sorted within each `require`. Nothing is dropped: macros may use what nothing names.

use vknot_syntax::NodeId;

use crate::spec::Code;
use crate::spec::imports::{Home, Import};
use crate::spec::{IMPORTS_OF_MOST, ImportSpec};

pub(super) const IMPORTS: ImportSpec = ImportSpec {
    is_import,
    in_forms: true,
    read,
    home: |import, _| home(import),
    orders: &[
        &["written", "other", "near"],
        &["written", "standard", "other", "near"],
        &["written", "near", "other"],
        &["written"],
    ],
    ..IMPORTS_OF_MOST
};

/// Forms that say what of a module is brought in, with the module behind the word.
const PARTS: [&str; 3] = ["only-in", "except-in", "rename-in"];

/// What stands behind the word in `(require ...)`.
fn is_import(code: Code<'_>, id: NodeId) -> bool {
    let tree = code.tree;
    let parent = tree.node(id).parent;
    tree.kind_name(parent) == "import"
        && matches!(tree.kind_name(id), "symbol" | "string" | "form")
        && tree.parts(parent).take(2).all(|part| part != id)
        && tree.parts(parent).nth(1).is_some_and(|word| tree.text_of(code.source.text(), word) == "require")
}

/// `racket/list`, `"gauge.rkt"`, `(only-in racket/list first)`; nothing passes what is meant for another phase.
fn read(code: Code<'_>, id: NodeId) -> Option<Import> {
    let tree = code.tree;
    let text = |id: NodeId| tree.text_of(code.source.text(), id);
    let module = match tree.kind_name(id) {
        "form" => {
            let parts: Vec<NodeId> = tree.parts(id).collect();
            let word = text(*parts.get(1)?);
            let at = if word == "prefix-in" {
                3
            } else if PARTS.contains(&word) {
                2
            } else {
                return None
            };
            *parts.get(at).filter(|part| matches!(tree.kind_name(**part), "symbol" | "string"))?
        }
        _ => id,
    };
    Some(Import {
        head: tree.kind_name(module).to_owned(),
        source: text(module).trim_matches('"').to_owned(),
        manner: text(id).to_owned(),
        fixed: true,
        ..Import::default()
    })
}

fn home(import: &Import) -> Home {
    match () {
        () if import.head == "string" => Home::Near,
        () if import.source == "racket" || import.source.starts_with("racket/") => Home::Standard,
        () => Home::Other,
    }
}
