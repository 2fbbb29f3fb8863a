//! What a Clojure namespace requires, uses and imports: sorted within each of these forms. Nothing is dropped: what is loaded may be needed
//! for what loading does.

use vknot_syntax::{NodeId, Role};

use crate::spec::Code;
use crate::spec::imports::{Home, Import};
use crate::spec::{IMPORTS_OF_MOST, ImportSpec};

pub(super) const IMPORTS: ImportSpec = ImportSpec {
    is_import,
    in_forms: true,
    read,
    home: |import, _| home(import),
    orders: &[&["written"], &["written", "standard", "other"]],
    ..IMPORTS_OF_MOST
};

/// The forms of a namespace that bring something in.
const WORDS: [&str; 4] = [":require", ":use", ":import", ":require-macros"];

/// What stands behind the word in `(:require ...)`, in the form of a namespace.
fn is_import(code: Code<'_>, id: NodeId) -> bool {
    let tree = code.tree;
    let parent = tree.node(id).parent;
    let word = || tree.parts(parent).nth(1).map(|word| tree.text_of(code.source.text(), word));
    tree.kind_name(parent) == "form"
        && tree.role(tree.node(parent).parent) == Role::Package
        && !matches!(tree.role(id), Role::Comment | Role::Close)
        && !matches!(tree.kind_name(id), ")" | "keyword")
        && tree.parts(parent).take(2).all(|part| part != id)
        && word().is_some_and(|word| WORDS.contains(&word))
}

/// `[clojure.string :as str]`, `(java.util Date)`, `tide.level`. Nothing passes what is chosen by a reader conditional.
fn read(code: Code<'_>, id: NodeId) -> Option<Import> {
    let tree = code.tree;
    let text = |id: NodeId| tree.text_of(code.source.text(), id);
    let name = match tree.kind_name(id) {
        "vector" | "form" => tree.parts(id).nth(1)?,
        _ => id,
    };
    let named = matches!(tree.kind_name(name), "symbol" | "string");
    named.then(|| Import {
        source: text(name).trim_matches('"').to_owned(),
        manner: text(id).to_owned(),
        fixed: true,
        ..Import::default()
    })
}

fn home(import: &Import) -> Home {
    let own = ["clojure.", "cljs.", "java.", "javax."];
    if own.iter().any(|start| import.source.starts_with(start)) { Home::Standard } else { Home::Other }
}
