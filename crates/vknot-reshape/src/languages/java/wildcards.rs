//! Which types a wildcard stands for in a Java file, and when single imports may become one.
//!
//! What a name means is told in this order (The Java Language Specification, 6.4.1): what the file declares or imports by name, what its
//! package has, and then, all alike, what wildcards and `java.lang` bring in.

use std::collections::HashSet;

use crate::imports::imports_of;
use crate::spec::imports::{Import, Name};
use crate::spec::{Evidence, WildcardSpec};
use super::facts;
use super::missing::{declared_in, leaves_open};
use super::reading::{is_import, package, read};

pub(super) const WILDCARDS: WildcardSpec = WildcardSpec { expands, collapses };

/// The imports that a wildcard stands for, or why that is not certain.
fn expands(evidence: &Evidence<'_>, import: &Import) -> Result<Vec<Import>, String> {
    if import.head != "import" {
        return Err("what it brings in is not known here".to_owned());
    }
    let types = types_of(evidence, &import.source)?;
    if leaves_open(evidence) {
        return Err("the file names types that are not known here".to_owned());
    }
    let nearer = nearer(evidence);
    let others = brought_by_wildcards(evidence, Some(&import.source))?;
    let mut names: Vec<String> =
        types.into_iter().filter(|name| evidence.uses.has(name) && !nearer.contains(name)).collect();
    names.sort_unstable();
    match names.iter().find(|name| others.contains(*name)) {
        Some(name) => Err(format!("{name} could come from another one")),
        None => Ok(names.into_iter().map(|name| single(import, &name)).collect()),
    }
}

/// The wildcard that brings in what some imports from a package do, or why the file might not mean the same with it.
fn collapses(evidence: &Evidence<'_>, before: &[Import], imports: &[Import]) -> Result<Import, String> {
    let Some(first) = imports.first() else { return Err("there is none".to_owned()) };
    let types = types_of(evidence, &first.source)?;
    let taken: HashSet<&str> =
        imports.iter().flat_map(|import| &import.names).filter_map(|name| name.bound.as_deref()).collect();
    let declared = declared_in(evidence.code);
    let own = own_types(evidence);
    let mut others = brought_by_wildcards(evidence, Some(&first.source))?;
    let mut nearer = nearer(evidence);
    for import in before {
        others.extend(types_of(evidence, &import.source)?);
        let gone: HashSet<&str> = import.names.iter().filter_map(|name| name.bound.as_deref()).collect();
        nearer.retain(|name| !gone.contains(name.as_str()));
    }
    for name in &taken {
        if own.contains(*name) || declared.contains(*name) {
            return Err(format!("its own package has a {name}, too"));
        }
        if others.contains(*name) {
            return Err(format!("{name} could come from another wildcard, or from java.lang"));
        }
    }
    let meant = |name: &&String| {
        evidence.uses.has(name) && !taken.contains(name.as_str()) && !nearer.contains(*name) && others.contains(*name)
    };
    match types.iter().find(meant) {
        Some(name) => Err(format!("{name} would come from there, too")),
        None => Ok(single(first, "*")),
    }
}

fn single(like: &Import, name: &str) -> Import {
    let bound = (name != "*").then(|| name.to_owned());
    Import { names: vec![Name { path: name.to_owned(), alias: None, bound }], ..like.clone() }
}

/// All types of a package.
fn types_of(evidence: &Evidence<'_>, source: &str) -> Result<HashSet<String>, String> {
    let index = evidence.around.index().ok_or("what its own package has is not known here")?;
    if let Some(doubt) = evidence.uses.doubt {
        return Err(doubt.to_owned());
    }
    let mut types: HashSet<String> = facts::types_in(source).into_iter().flatten().map(str::to_owned).collect();
    types.extend(index.names_in(source).into_iter().flatten().cloned());
    if types.is_empty() { Err(format!("what {source} has is not known here")) } else { Ok(types) }
}

fn own_types(evidence: &Evidence<'_>) -> HashSet<String> {
    let index = evidence.around.index();
    let own = index.as_ref().and_then(|index| index.names_in(&package(evidence.code)));
    own.into_iter().flatten().cloned().collect()
}

/// What a file declares, imports by name, or has in its package.
fn nearer(evidence: &Evidence<'_>) -> HashSet<String> {
    let imports = imports_of(evidence.code, is_import).into_iter().filter_map(|id| read(evidence.code, id));
    let named = imports.flat_map(|import| import.names).filter_map(|name| name.bound);
    let mut nearer = declared_in(evidence.code);
    nearer.extend(named);
    nearer.extend(own_types(evidence));
    nearer
}

/// What `java.lang` and wildcards bring in, but for those on one package.
fn brought_by_wildcards(evidence: &Evidence<'_>, but: Option<&str>) -> Result<HashSet<String>, String> {
    let mut brought: HashSet<String> = facts::types_in("java.lang").into_iter().flatten().map(str::to_owned).collect();
    for import in imports_of(evidence.code, is_import).into_iter().filter_map(|id| read(evidence.code, id)) {
        let wildcard = import.names.iter().any(|name| name.bound.is_none());
        // Static ones bring in types as well, members of a type.
        if wildcard && Some(import.source.as_str()) != but && import.head == "import" {
            brought.extend(types_of(evidence, &import.source)?);
        } else if wildcard && import.head != "import" {
            return Err(format!("what {} brings in is not known here", import.source));
        }
    }
    Ok(brought)
}
