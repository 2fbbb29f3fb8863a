//! Java's imports: one each, with wildcards, static ones, and modules.

use vknot_syntax::Role;

use crate::imports::words::{outside_imports, words};
use crate::spec::Code;
use crate::spec::imports::{Declared, Form, Home, Import, Name, Origin, Room, Surroundings, Uses, Verdict, Wants};
use crate::spec::{Evidence, IMPORTS_OF_MOST, ImportSpec};
use super::{classes, facts};
use super::missing;
use super::wildcards;
use super::reading::{is_import, package, read};

pub(super) const IMPORTS: ImportSpec = ImportSpec {
    is_import,
    read,
    write,
    leaf: |import, _| write(import, Room::ENDLESS),
    key: path,
    home,
    orders: &[
        &["java", "javax", "other"],
        &["other", "javax", "java"],
        &["other", "javax+java"],
        &["other", "java+javax"],
        &["java+javax", "other"],
        &["written"],
        &[],
    ],
    uses: Some(uses),
    judge,
    declares: Some(declares),
    project: ("pom.xml", |_| None),
    missing: Some(&missing::MISSING),
    wildcards: Some(&wildcards::WILDCARDS),
    library: Some(&classes::ARCHIVES),
    ..IMPORTS_OF_MOST
};

/// `java.util.List`.
fn path(import: &Import) -> String {
    let name = import.names.first().map_or("", |name| name.path.as_str());
    if import.source.is_empty() { name.to_owned() } else { format!("{}.{name}", import.source) }
}

fn write(import: &Import, _: Room<'_>) -> String {
    format!("{} {};", import.head, path(import))
}

fn home(import: &Import, around: &dyn Surroundings) -> Home {
    let starts = |start: &str| import.source == start || import.source.starts_with(&format!("{start}."));
    if starts("java") || starts("javax") {
        return Home::Standard;
    }
    match around.index().is_some_and(|index| index.has_package(&import.source)) {
        true => Home::Own,
        false => Home::Other,
    }
}

fn uses<'a>(code: Code<'a>, wants: &Wants) -> Uses<'a> {
    let tree = code.tree;
    let mut uses = Uses { packages: vec![package(code)], ..Uses::default() };
    for (token, before, text) in outside_imports(code, is_import) {
        match tree.role(token.node) {
            Role::Comment if text.starts_with("/**") && wants.documented => uses.names.extend(words(text)),
            Role::Comment | Role::String => {}
            _ if !matches!(before, "." | "::") => uses.names.extend(words(text).take(1)),
            _ => {}
        }
    }
    uses.doubt = tree.has_error().then_some("the file has syntax errors");
    uses
}

fn judge(evidence: &Evidence<'_>, import: &Import, name: &Name, _: &Wants) -> Verdict {
    let uses = evidence.uses;
    let package = uses.packages.first().map_or("", String::as_str);
    let same = !package.is_empty() && import.source == package && import.form == Form::Plain;
    let Some(bound) = &name.bound else { return wildcard(evidence, import, package) };
    if !uses.has(bound) {
        return Verdict::Dead("is not used");
    }
    if same {
        // An import in a file beside a wildcard that has the same name says which one is meant; so does the package itself.
        return Verdict::Dead("is of the same package");
    }
    if import.source == "java.lang" && import.form == Form::Plain {
        return implicit(evidence, bound, package);
    }
    Verdict::Needed
}

/// A type that is there without an import, unless another one of its name is nearer.
fn implicit(evidence: &Evidence<'_>, name: &str, package: &str) -> Verdict {
    // A wildcard that goes brings in none.
    let stays = |import: &Import| {
        import.names.iter().any(|name| name.bound.is_none())
            && !matches!(wildcard(evidence, import, package), Verdict::Dead(_))
    };
    let imports = crate::imports::imports_of(evidence.code, is_import).into_iter();
    if imports.filter_map(|id| read(evidence.code, id)).any(|import| stays(&import)) {
        return Verdict::Unknown("is there without an import, but a wildcard might bring in another one".to_owned());
    }
    match evidence.around.index() {
        None => Verdict::Unknown("is there without an import, unless its package has one of that name".to_owned()),
        Some(index) if index.names_in(package).is_some_and(|names| names.iter().any(|own| own == name)) =>
            Verdict::Needed,
        Some(_) => Verdict::Dead("is there without an import"),
    }
}

fn wildcard(evidence: &Evidence<'_>, import: &Import, package: &str) -> Verdict {
    let path = path(import);
    if import.head.ends_with("module") {
        return Verdict::Unknown("what a module brings in is not known here".to_owned());
    }
    if import.form == Form::Static {
        return Verdict::Unknown(format!("what {} has for members is not known here", import.source));
    }
    if import.source == package && !package.is_empty() {
        return Verdict::Dead("is of the same package");
    }
    if import.source == "java.lang" && evidence.uses.doubt.is_none() {
        return Verdict::Dead("is there without an import");
    }
    let standard = facts::types_in(&import.source);
    let index = evidence.around.index();
    let own = index.as_ref().and_then(|index| index.names_in(&import.source));
    let uses = evidence.uses;
    let used = |name: &str| uses.has(name);
    match (standard, own) {
        (None, None) => Verdict::Unknown(format!("what {path} brings in is not known here")),
        (standard, own) => {
            let needed = standard.is_some_and(|mut types| types.any(used))
                || own.is_some_and(|own| own.iter().any(|name| used(name)));
            match needed {
                true => Verdict::Needed,
                // A newer runtime, or another library, may have more than is known.
                false if !missing::leaves_open(evidence) => Verdict::Dead("is not used"),
                false => Verdict::Unknown(
                    format!("no type that {path} is known to have is used, but a library might have more"),
                ),
            }
        }
    }
}

fn declares(code: Code<'_>, _: &str) -> Declared {
    let Code { source, tree, .. } = code;
    let types = tree.children(tree.root()).filter(|child| tree.role(*child) == Role::Type);
    let names = types.filter_map(|id| tree.name_span(id)).map(|span| source.slice(span).to_owned()).collect();
    let read = crate::imports::imports_of(code, is_import).into_iter().filter_map(|id| read(code, id));
    let types = read.filter(|import| import.form == Form::Plain).filter_map(|import| {
        let bound = import.names.first()?.bound.clone()?;
        Some((bound.clone(), Origin { source: import.source, path: bound, alias: None }))
    });
    Declared { package: package(code), names, imports: types.collect(), ..Declared::default() }
}
