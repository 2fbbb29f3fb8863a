//! What an import of Go says.

use vknot_syntax::NodeId;

use crate::imports::words::has_comment;
use crate::spec::Code;
use crate::spec::imports::{Import, Name};
use super::facts::standard;

/// One in a list, or a declaration that has none.
pub(super) fn is_import(code: Code<'_>, id: NodeId) -> bool {
    let tree = code.tree;
    match tree.kind_name(id) {
        "import_spec" => tree.kind_name(tree.node(id).parent) == "import_spec_list",
        "import_declaration" => !tree.children(id).any(|child| tree.kind_name(child) == "import_spec_list"),
        _ => false,
    }
}

pub(super) fn read(code: Code<'_>, id: NodeId) -> Option<Import> {
    let Code { source, tree, .. } = code;
    let alone = tree.kind_name(id) == "import_declaration";
    let spec = if alone { tree.parts(id).find(|part| tree.kind_name(*part) == "import_spec")? } else { id };
    let text = |id: NodeId| tree.text_of(source.text(), id);
    let quoted = text(tree.child_named(spec, "path")?);
    let path = quoted.trim_matches(['"', '`']).to_owned();
    let alias = tree.child_named(spec, "name").map(|name| text(name).to_owned());
    let only_runs = matches!(alias.as_deref(), Some("_" | "."));
    let bound = match alias.as_deref() {
        Some("_" | ".") => None,
        Some(alias) => Some(alias.to_owned()),
        None => standard(&path).map(str::to_owned),
    };
    Some(Import {
        head: if alone { "import " } else { "" }.to_owned(),
        names: vec![Name { path: path.clone(), alias, bound }],
        barrier: only_runs || path == "C",
        manner: quoted.get(..1).unwrap_or("\"").to_owned(),
        source: path,
        fixed: has_comment(code, id),
        ..Import::default()
    })
}
