//! Packages that a Go file names and does not import.

use std::collections::HashMap;

use vknot_syntax::NodeId;

use crate::imports::imports_of;
use crate::imports::words::{imported, outside_imports};
use crate::spec::Code;
use crate::spec::imports::{Import, Name, Origin, Surroundings, Unbound};
use crate::spec::scopes::Binding;
use crate::spec::MissingSpec;
use super::facts::{offers, standard, standard_named};
use super::packages::{inside, likely};
use super::reading::{is_import, read};
use super::scopes::SCOPES;

pub(super) const MISSING: MissingSpec = MissingSpec {
    names,
    known,
    fits,
    is_own: |origin, around| folder_of(&origin.source, around).is_some(),
    is_sure: |origin| standard(&origin.source).is_some(),
    import,
    shown: |origin| match &origin.alias {
        Some(alias) => format!("{alias} {}", origin.source),
        None => origin.source.clone(),
    },
};

/// The packages of which something is asked and that nothing here declares or imports. Only a package offers types; of a value nothing is
/// asked but what is no name of its own.
fn names<'a>(code: Code<'a>, around: &dyn Surroundings) -> Vec<Unbound<'a>> {
    let Code { source, tree, .. } = code;
    if tree.has_error() {
        return Vec::new();
    }
    let known = imported(code, is_import, read);
    // What an import without a known name may be called.
    let guessed: Vec<String> =
        imports_of(code, is_import).into_iter().filter_map(|id| read(code, id)).map(|import| import.source).collect();
    let index = around.index();
    let own = around.place().map(|place| inside(place.rsplit_once('/').map_or("", |(folder, _)| folder)));
    let own = own.and_then(|own| index.as_ref()?.names_in(&own)).unwrap_or_default();
    let mut scopes = Scopes::of(code);
    let mut places: HashMap<&str, usize> = HashMap::new();
    let mut names: Vec<Unbound<'a>> = Vec::new();
    for (token, _, text) in outside_imports(code, is_import) {
        let bound = scopes.binds(text, token.start);
        let Some(member) = asked(code, token.node) else { continue };
        let member = tree.text_of(source.text(), member);
        let is_type = tree.kind_name(token.node) == "package_identifier";
        if bound && !is_type || text == "C" || known.contains(text) || has(own, text) {
            continue;
        }
        let at = *places.entry(text).or_insert_with(|| {
            names.push(Unbound::at(text, token.start));
            names.len() - 1
        });
        names[at].members.push(member);
    }
    let foreign = |name: &str| guessed.iter().any(|path| likely(path).contains(&name));
    names.retain(|unbound| {
        !foreign(unbound.name) && unbound.members.iter().all(|member| member.starts_with(char::is_uppercase))
    });
    names
}

/// Whether sorted names hold one.
fn has(names: &[String], name: &str) -> bool {
    names.binary_search_by(|own| own.as_str().cmp(name)).is_ok()
}

/// What is asked of a name, if it may be that of a package.
fn asked(code: Code<'_>, name: NodeId) -> Option<NodeId> {
    let tree = code.tree;
    let parent = tree.node(name).parent;
    match (tree.kind_name(name), tree.kind_name(parent)) {
        ("identifier", "selector_expression") => {
            tree.child_named(parent, "operand").filter(|operand| *operand == name)?;
            tree.child_named(parent, "field")
        }
        ("package_identifier", "qualified_type") => tree.child_named(parent, "name"),
        _ => None,
    }
}

/// Where which names are declared, for a text that is gone through from its start.
struct Scopes<'a> {
    /// Where a declaration begins or ends to hold, the last first.
    events: Vec<(u32, bool, &'a str)>,
    holding: HashMap<&'a str, u32>,
}

impl<'a> Scopes<'a> {
    fn of(code: Code<'a>) -> Scopes<'a> {
        let Code { source, tree, .. } = code;
        let mut events = Vec::new();
        for id in (0..tree.nodes().len() as u32).map(NodeId).filter(|id| SCOPES.names.contains(&tree.kind_name(*id))) {
            if let Binding::Declares { seen, .. } | Binding::Redeclares { seen, .. } = (SCOPES.binding)(code, id) {
                let name = tree.text_of(source.text(), id);
                events.push((seen.start, true, name));
                events.push((seen.end, false, name));
            }
        }
        events.sort_unstable_by(|a, b| b.cmp(a));
        Scopes { events, holding: HashMap::new() }
    }

    /// Whether something at an offset is called so; offsets only grow.
    fn binds(&mut self, name: &str, offset: u32) -> bool {
        while let Some((_, begins, name)) = self.events.pop_if(|(at, ..)| *at <= offset) {
            let holding = self.holding.entry(name).or_default();
            *holding = if begins { *holding + 1 } else { holding.saturating_sub(1) };
        }
        self.holding.get(name).is_some_and(|holding| *holding > 0)
    }
}

fn known(name: &str, around: &dyn Surroundings) -> Vec<Origin> {
    let plain = |source: String| Origin { source, path: name.to_owned(), alias: None };
    let mut known: Vec<Origin> = standard_named(name).map(|path| plain(path.to_owned())).collect();
    if let Some((index, module)) = around.index().zip(around.name()).filter(|_| name != "main") {
        let folders = index.homes_of(name).iter().filter(|folder| !folder.ends_with("/."));
        known.extend(folders.map(|folder| plain(match format!("/{folder}").split_once("/vendor/") {
            Some((_, vendored)) => vendored.to_owned(),
            None if folder.is_empty() => module.clone(),
            None => format!("{module}/{folder}"),
        })));
    }
    known
}

/// The folder of the project that an import means.
fn folder_of(source: &str, around: &dyn Surroundings) -> Option<String> {
    let module = around.name().filter(|name| !name.is_empty())?;
    let folder = source.strip_prefix(module.as_str())?;
    (folder.is_empty() || folder.starts_with('/')).then(|| folder.trim_start_matches('/').to_owned())
}

/// Whether a package has all that is asked of it, and the file may import it: not from its own folder, nor what is inside of something
/// else.
fn fits(origin: &Origin, unbound: &Unbound<'_>, around: &dyn Surroundings) -> bool {
    if standard(&origin.source).is_some() {
        return offers(&origin.source, &unbound.members);
    }
    let Some(folder) = folder_of(&origin.source, around) else { return true };
    let place = around.place().unwrap_or_default();
    let here = place.rsplit_once('/').map_or("", |(folder, _)| folder);
    let open = match format!("/{folder}/").rsplit_once("/internal/") {
        Some((outer, _)) => format!("/{here}/").starts_with(&format!("{outer}/")),
        None => true,
    };
    let index = around.index();
    let offered = index.as_ref().and_then(|index| index.names_in(&inside(&folder))).unwrap_or_default();
    // A test may be of a package of its own, beside the one that it tests.
    (folder != here || place.ends_with("_test.go")) && open && unbound.members.iter().all(|member| has(offered, member))
}

/// The import, in a list where the file has one.
fn import(origin: &Origin, _: &dyn Surroundings, code: Code<'_>) -> Import {
    let written = imports_of(code, is_import).into_iter().filter_map(|id| read(code, id));
    let head = written.into_iter().find(|import| !import.barrier).map(|import| import.head);
    let bound = origin.alias.clone().unwrap_or_else(|| origin.path.clone());
    Import {
        head: head.unwrap_or_else(|| "import ".to_owned()),
        names: vec![Name { path: origin.source.clone(), alias: origin.alias.clone(), bound: Some(bound) }],
        manner: "\"".to_owned(),
        source: origin.source.clone(),
        ..Import::default()
    }
}
