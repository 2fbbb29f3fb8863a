//! Go's imports: one each, in a list or alone. Those that only run a package, that bring in all its names, and `C` are never passed.

use vknot_syntax::Role;

use crate::imports::words::{is_name, outside_imports};
use crate::spec::Code;
use crate::spec::imports::{Home, Import, Name, Surroundings, Uses, Verdict, Wants};
use crate::spec::{Evidence, IMPORTS_OF_MOST, ImportSpec};
use super::facts::standard;
use super::missing;
use super::packages::{self, likely};
use super::reading::{is_import, read};

pub(super) const IMPORTS: ImportSpec = ImportSpec {
    is_import,
    read,
    write: |import, _| write(import),
    leaf: |import, _| leaf(import),
    home,
    orders: &[&["written"]],
    uses: Some(uses),
    judge,
    declares: Some(packages::declares),
    project: ("go.mod", module),
    listed: Some(("import (", ")")),
    missing: Some(&missing::MISSING),
    ..IMPORTS_OF_MOST
};

fn write(import: &Import) -> String {
    let alias = import.names.first().and_then(|name| name.alias.as_ref()).map(|alias| format!("{alias} "));
    format!("{}{}{}{}{}", import.head, alias.unwrap_or_default(), import.manner, import.source, import.manner)
}

fn leaf(import: &Import) -> String {
    write(&Import { head: String::new(), manner: "\"".to_owned(), ..import.clone() })
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
