//! Go's imports: one each, in a list or alone. Those that only run a package, that bring in all its names, and `C` are never passed.

use std::collections::HashMap;
use std::sync::OnceLock;

use vknot_syntax::{NodeId, Role};

use crate::imports::words::{facts, has_comment, is_name, outside_imports};
use crate::spec::Code;
use crate::spec::imports::{Declared, Home, Import, Name, Surroundings, Uses, Verdict, Wants};
use crate::spec::{Evidence, IMPORTS_OF_MOST, ImportSpec};

pub(super) const IMPORTS: ImportSpec = ImportSpec {
    is_import,
    read,
    write: |import, _| write(import),
    leaf: |import, _| leaf(import),
    home,
    orders: &[&["written"]],
    uses: Some(uses),
    judge,
    declares: Some(declares),
    project: ("go.mod", module),
    ..IMPORTS_OF_MOST
};

/// One in a list, or a declaration that has none.
fn is_import(code: Code<'_>, id: NodeId) -> bool {
    let tree = code.tree;
    match tree.kind_name(id) {
        "import_spec" => tree.kind_name(tree.node(id).parent) == "import_spec_list",
        "import_declaration" => !tree.children(id).any(|child| tree.kind_name(child) == "import_spec_list"),
        _ => false,
    }
}

fn read(code: Code<'_>, id: NodeId) -> Option<Import> {
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

fn write(import: &Import) -> String {
    let alias = import.names.first().and_then(|name| name.alias.as_ref()).map(|alias| format!("{alias} "));
    format!("{}{}{}{}{}", import.head, alias.unwrap_or_default(), import.manner, import.source, import.manner)
}

fn leaf(import: &Import) -> String {
    write(&Import { head: String::new(), manner: "\"".to_owned(), ..import.clone() })
}

/// The packages of the standard library; made by `cargo xtask facts`.
static PACKAGES: &str = include_str!("facts/packages.txt");

/// The name of a package of the standard library; `None` where it has none of that path.
fn standard(path: &str) -> Option<&'static str> {
    static READY: OnceLock<HashMap<&str, &str>> = OnceLock::new();
    let packages = READY.get_or_init(|| {
        let lines = facts(PACKAGES);
        lines.filter_map(|line| line.split_once(' ')).collect()
    });
    packages.get(path).copied()
}

fn home(import: &Import, around: &dyn Surroundings) -> Home {
    let module = || around.name().filter(|name| !name.is_empty());
    let first = import.source.split('/').next().unwrap_or("");
    match () {
        () if standard(&import.source).is_some() || !first.contains('.') && module().is_none() => Home::Standard,
        ()
            if module()
                .is_some_and(|module| import.source == module || import.source.starts_with(&format!("{module}/"))) =>
            Home::Own,
        () if !first.contains('.') => Home::Standard,
        () => Home::Other,
    }
}

fn uses<'a>(code: Code<'a>, _: &Wants) -> Uses<'a> {
    let tree = code.tree;
    let mut uses = Uses::default();
    for (token, before, text) in outside_imports(code, is_import) {
        let role = tree.role(token.node);
        if !matches!(role, Role::Comment | Role::String) && before != "." && is_name(text) {
            uses.names.insert(text);
        }
    }
    uses.doubt = tree.has_error().then_some("the file has syntax errors");
    uses
}

/// What a package is likely called that is imported by this path.
fn likely(path: &str) -> Vec<&str> {
    let mut parts = path.rsplit('/');
    let last = parts.next().unwrap_or("");
    let is_version = last.strip_prefix('v').is_some_and(|number| number.parse::<u32>().is_ok());
    let last = if is_version { parts.next().unwrap_or("") } else { last };
    let bare = last.split_once(".v").map_or(last, |(name, _)| name);
    let mut likely =
        vec![last, bare, bare.trim_start_matches("go-"), bare.trim_end_matches("-go"), bare.trim_end_matches(".go")];
    likely.extend(bare.split(['-', '.', '_']));
    likely
}

fn judge(evidence: &Evidence<'_>, import: &Import, name: &Name, _: &Wants) -> Verdict {
    let uses = evidence.uses;
    if import.barrier {
        return Verdict::Needed;
    }
    if let Some(bound) = &name.bound {
        return if uses.has(bound) { Verdict::Needed } else { Verdict::Dead("is not used") };
    }
    let index = evidence.around.index();
    let module = evidence.around.name();
    let inside = module.as_ref().and_then(|module| import.source.strip_prefix(module.as_str()));
    let folder = inside.map(|rest| rest.trim_start_matches('/'));
    let own = folder.zip(index.as_ref()).and_then(|(folder, index)| index.names_in(folder));
    if let Some(own) = own {
        let used = own.is_empty() || own.iter().any(|name| uses.has(name));
        return if used { Verdict::Needed } else { Verdict::Dead("is not used") };
    }
    if likely(&import.source).iter().any(|name| uses.has(name)) {
        return Verdict::Needed;
    }
    Verdict::Unknown("what its package is called is not known here".to_owned())
}

/// The module that a `go.mod` names.
fn module(text: &str) -> Option<String> {
    text.lines()
        .find_map(|line| line.trim().strip_prefix("module "))
        .map(|name| name.trim().trim_matches('"').to_owned())
}

/// A folder, and what its files say their package is called.
fn declares(code: Code<'_>, place: &str) -> Declared {
    let Code { source, tree, .. } = code;
    let folder = place.rsplit_once('/').map_or("", |(folder, _)| folder).to_owned();
    let clause = tree.children(tree.root()).find(|child| tree.role(*child) == Role::Package);
    let name =
        clause.and_then(|clause| tree.parts(clause).nth(1)).map(|name| tree.text_of(source.text(), name).to_owned());
    Declared { package: folder, names: name.into_iter().collect(), ..Declared::default() }
}
