//! C#'s imports: of namespaces, of the members of types, other names, those that hold for the whole project. A namespace goes only where
//! all that it offers is known.

use vknot_syntax::{NodeId, Role};

use crate::imports::words::{documented, is_name, outside_imports, tokens_of, words, words_inside};
use crate::spec::Code;
use crate::spec::imports::{Form, Home, Import, Name, Room, Surroundings, Uses, Verdict, Wants};
use crate::spec::{Evidence, IMPORTS_OF_MOST, ImportSpec};
use super::declared::declares;
use super::reading::{is_import, read};
use super::{facts, missing};

pub(super) const IMPORTS: ImportSpec = ImportSpec {
    is_import,
    read,
    write,
    leaf: |import, _| write(import, Room::ENDLESS),
    key: |import| match import.names.first().and_then(|name| name.alias.as_ref()) {
        Some(alias) => alias.clone(),
        None => import.source.clone(),
    },
    cased: false,
    blank: false,
    home,
    orders: &[&["System", "other"], &["written", "System", "other"], &["written"], &[]],
    uses: Some(uses),
    judge,
    declares: Some(declares),
    project: ("Directory.Build.props", |_| None),
    opening: &["extern_alias_directive", "preproc_define", "preproc_undef"],
    missing: Some(&missing::MISSING),
    ..IMPORTS_OF_MOST
};

/// Members that the language calls without their being named, with the word that tells or the kind of node.
const CALLED: [(&str, &str); 8] = [
    ("Add", "initializer_expression"),
    ("Deconstruct", "parenthesized_variable_designation"),
    ("Deconstruct", "recursive_pattern"),
    ("Deconstruct", "tuple_expression"),
    ("Deconstruct", "tuple_pattern"),
    ("GetAsyncEnumerator", "foreach"),
    ("GetAwaiter", "await"),
    ("GetEnumerator", "foreach"),
];

fn write(import: &Import, _: Room<'_>) -> String {
    let alias = import.names.first().and_then(|name| name.alias.as_ref());
    let alias = alias.map(|alias| format!("{alias} = ")).unwrap_or_default();
    format!("{} {alias}{};", import.head, import.source)
}

fn home(import: &Import, around: &dyn Surroundings) -> Home {
    let root = import.source.split('.').next().unwrap_or("");
    match root {
        "System" => Home::Standard,
        _ if around.index().is_some_and(|index| index.has_package(&import.source)) => Home::Own,
        _ => Home::Other,
    }
}

fn uses<'a>(code: Code<'a>, wants: &Wants) -> Uses<'a> {
    let tree = code.tree;
    let mut uses = Uses::default();
    for (token, before, text) in outside_imports(code, is_import) {
        match tree.role(token.node) {
            Role::Comment if text.starts_with("///") && wants.documented => {
                uses.names.extend(words(text).filter(|word| word.starts_with(char::is_uppercase)));
                uses.names.extend(documented(text));
            }
            Role::Comment => {}
            Role::String => uses.names.extend(words_inside(text)),
            _ if !is_name(text) => {}
            _ if matches!(before, "." | "->") => {
                uses.members.insert(text);
            }
            _ => {
                uses.names.insert(text.trim_start_matches('@'));
                // A conditional access and a name on its own may call a member, too.
                uses.members.insert(text);
            }
        }
    }
    // Another name is made of names, too, and those of an inner namespace see what the outer ones use.
    for id in (0..tree.nodes().len() as u32).map(NodeId).filter(|id| is_import(code, *id)) {
        let mut before = "";
        for word in tokens_of(code, id).skip_while(|word| *word != "=").skip(1) {
            match before {
                "." => drop(uses.members.insert(word)),
                _ if is_name(word) => drop(uses.names.insert(word)),
                _ => {}
            }
            before = word;
        }
    }
    uses.kinds = (0..tree.nodes().len() as u32).map(|id| tree.kind_name(NodeId(id))).collect();
    uses.packages = declares(code, "").places.into_iter().map(|(namespace, _)| namespace).collect();
    if tree.has_error() {
        uses.doubt = Some("the file has syntax errors");
    }
    uses
}

fn judge(evidence: &Evidence<'_>, import: &Import, name: &Name, _: &Wants) -> Verdict {
    let uses = evidence.uses;
    if import.head.starts_with("global") {
        return Verdict::Needed;
    }
    if let Some(alias) = &name.bound {
        return if uses.has(alias) { Verdict::Needed } else { Verdict::Dead("is not used") };
    }
    if import.form == Form::Static {
        return Verdict::Unknown(format!("what {} has for members is not known here", import.source));
    }
    let index = evidence.around.index();
    let own = index.as_ref().and_then(|index| index.names_in(&import.source));
    let standard = facts::offered(&import.source);
    if own.is_none() && standard.is_none() {
        return Verdict::Unknown(format!("what {} offers is not known here", import.source));
    }
    let root = |name: &str| name.split('.').next().unwrap_or("").to_owned();
    let is_near = uses.packages.iter().any(|package| root(package) == root(&import.source));
    let offered = || own.into_iter().flatten().map(String::as_str);
    if offered().any(|offer| is_used(evidence, offer))
        || standard.clone().into_iter().flatten().any(|offer| is_used(evidence, offer))
    {
        return Verdict::Needed;
    }
    // A project may add to a namespace of somebody else's.
    if standard.is_none() && !is_near {
        return Verdict::Unknown(format!("a library might have more of {} than the project", import.source));
    }
    Verdict::Dead("is not used")
}

/// Whether something that a namespace offers may be used: a type by its name, one that ends in `Attribute` also without that, an extension
/// method (`.Where`) as a member.
fn is_used(evidence: &Evidence<'_>, offer: &str) -> bool {
    let uses = evidence.uses;
    match offer.strip_prefix('.') {
        Some(method) => uses.members.contains(method) || is_called(evidence, method),
        None => uses.has(offer) || offer.strip_suffix("Attribute").is_some_and(|short| uses.has(short)),
    }
}

fn is_called(evidence: &Evidence<'_>, method: &str) -> bool {
    let has = |kind: &str| evidence.uses.has(kind) || evidence.uses.kinds.contains(kind);
    // `from a in b select a` calls methods by its words.
    CALLED.iter().any(|(called, kind)| *called == method && has(kind)) || method == "Select" && has("query_expression")
}
