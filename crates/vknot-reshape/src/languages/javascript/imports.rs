//! The imports of JavaScript, and of TypeScript that has more of them: default, named, of a whole namespace, of types alone, and those that
//! only run a module, which nothing passes.

use std::collections::HashSet;
use std::sync::OnceLock;

use vknot_syntax::{NodeId, Role};

use crate::imports::imports_of;
use crate::imports::words::{documented, facts, is_name, outside_imports, words, words_inside};
use crate::spec::Code;
use crate::spec::imports::{Home, Import, Name, Room, Surroundings, Uses, Verdict, Wants};
use crate::spec::{Evidence, IMPORTS_OF_MOST, ImportSpec};
use super::{exports, loading, missing};
use super::reading::{is_import, read};

pub(crate) const IMPORTS: ImportSpec = ImportSpec {
    is_import,
    read,
    write,
    leaf,
    cased: false,
    name_key: |name| plain(&name.path).to_owned(),
    merges,
    home,
    orders:
        &[&["standard", "other", "own", "near"], &["written"], &["written", "other", "near"], &[], &["other", "near"]],
    uses: Some(uses),
    judge,
    declares: Some(exports::declares),
    loads: Some(&loading::LOADS),
    project: ("package.json", |_| None),
    missing: Some(&missing::MISSING),
    kin: &["javascript", "tsx", "typescript"],
    ..IMPORTS_OF_MOST
};

/// The name of a path without the words that belong to it.
fn plain(path: &str) -> &str {
    path.rsplit(' ').next().unwrap_or(path)
}

fn item(name: &Name, between: &str) -> String {
    match &name.alias {
        Some(alias) => format!("{}{between}{alias}", name.path),
        None => name.path.clone(),
    }
}

fn write(import: &Import, room: Room<'_>) -> String {
    let quote = import.manner.get(..1).unwrap_or("'");
    let behind = import.manner.get(1..).unwrap_or("").trim_start_matches('=');
    let behind = if behind.is_empty() || behind == ";" { behind.to_owned() } else { format!(" {behind}") };
    let module = format!("{quote}{}{quote}{behind}", import.source);
    if import.names.is_empty() {
        return format!("{} {module}", import.head);
    }
    if let Some(word) = import.head.strip_suffix(" =") {
        return written_require(import, word, quote, &behind, room);
    }
    let mut parts = Vec::new();
    let mut named = Vec::new();
    for name in &import.names {
        match (name.path.as_str(), &name.alias) {
            ("default", Some(alias)) if parts.is_empty() => parts.push(alias.clone()),
            ("*", Some(alias)) => parts.push(format!("* as {alias}")),
            _ => named.push(item(name, " as ")),
        }
    }
    parts.extend((!named.is_empty()).then(|| braced(&named, import.broken, room)));
    format!("{} {} from {module}", import.head, parts.join(", "))
}

fn written_require(import: &Import, word: &str, quote: &str, behind: &str, room: Room<'_>) -> String {
    let named = match import.names.first() {
        Some(name) if name.path == "*" => name.alias.clone().unwrap_or_default(),
        _ => {
            let named: Vec<String> = import.names.iter().map(|name| item(name, ": ")).collect();
            braced(&named, import.broken, room)
        }
    };
    format!("{word} {named} = require({quote}{}{quote}){behind}", import.source)
}

fn braced(names: &[String], broken: bool, room: Room<'_>) -> String {
    if !broken || room.level.is_empty() {
        return format!("{{ {} }}", names.join(", "));
    }
    let Room { level, indent, line_end, .. } = room;
    let lines: Vec<String> = names.iter().map(|name| format!("{line_end}{indent}{level}{name}")).collect();
    let (lines, comma) = (lines.join(","), if room.comma { "," } else { "" });
    format!("{{{lines}{comma}{line_end}{indent}}}")
}

/// The same however its names stand and whatever its quotes.
fn leaf(import: &Import, name: &Name) -> String {
    let behind = import.manner.get(1..).unwrap_or("").trim_start_matches('=').trim_end_matches(';').trim();
    let attributes = if behind.is_empty() { String::new() } else { format!(" {behind}") };
    let head = import.head.trim_end_matches(" =");
    let named = match (name.path.as_str(), &name.alias) {
        ("default", Some(alias)) => alias.clone(),
        ("*", Some(alias)) => format!("* as {alias}"),
        _ => format!("{{ {} }}", item(name, " as ")),
    };
    format!("{head} {named} from '{}'{attributes}", import.source)
}

fn merges(import: &Import) -> Option<String> {
    let has = |path: &str| import.names.iter().any(|name| name.path == path);
    let alone = has("*") || import.head.ends_with('=') || import.head.ends_with("type") && has("default");
    let behind = import.manner.get(1..).unwrap_or("").trim_end_matches(';');
    (!alone && !import.names.is_empty()).then(|| format!("{} {} {behind}", import.head, import.source))
}

fn home(import: &Import, _: &dyn Surroundings) -> Home {
    let source = import.source.as_str();
    match source {
        _ if source.starts_with('.') => Home::Near,
        _ if source.starts_with("@/") || source.starts_with("~/") || source.starts_with(['#', '/']) => Home::Own,
        _ if source.starts_with("node:") || is_built_in(source) => Home::Standard,
        _ => Home::Other,
    }
}

/// The modules that Node.js has built in; made by `cargo xtask facts`.
static MODULES: &str = include_str!("facts/modules.txt");

fn is_built_in(module: &str) -> bool {
    static READY: OnceLock<HashSet<&str>> = OnceLock::new();
    let modules = READY.get_or_init(|| {
        facts(MODULES).flat_map(str::split_whitespace).collect()
    });
    modules.contains(module)
}

fn uses<'a>(code: Code<'a>, wants: &Wants) -> Uses<'a> {
    let tree = code.tree;
    let mut uses = Uses::default();
    let mut elements = false;
    // Another name for a part of something uses that.
    let binds = |code: Code<'_>, id: NodeId| is_import(code, id) && code.tree.kind_name(id) != "import_alias";
    for (token, before, text) in outside_imports(code, binds) {
        let kind = tree.kind_name(token.node);
        match tree.role(token.node) {
            Role::Comment if text.contains("@jsx") => uses.names.extend(words(text)),
            Role::Comment if text.starts_with("/**") && wants.documented => uses.names.extend(documented(text)),
            Role::Comment => {}
            Role::String if text.contains("${") => uses.names.extend(words_inside(text)),
            _ if matches!(kind, "property_identifier" | "statement_identifier" | "private_property_identifier") => {}
            _ if is_name(text) && !matches!(before, "." | "?.") => {
                uses.names.insert(text);
            }
            _ => elements |= text == "</" || text == "/>",
        }
    }
    if elements {
        uses.names.insert("React");
    }
    uses.doubt = doubt(code, &uses);
    uses
}

/// Why nothing can be taken for unused. A file is a module by its imports and exports alone: where all would go, it would become a script.
fn doubt(code: Code<'_>, uses: &Uses<'_>) -> Option<&'static str> {
    let tree = code.tree;
    if tree.has_error() {
        return Some("the file has syntax errors");
    }
    let exports = tree.children(tree.root()).any(|child| tree.kind_name(child) == "export_statement");
    let imports = imports_of(code, is_import).into_iter().filter(|id| tree.kind_name(*id) == "import_statement");
    let imports: Vec<NodeId> = imports.collect();
    let needed = |import: Import| {
        import.barrier || import.names.iter().any(|name| name.bound.as_deref().is_none_or(|name| uses.has(name)))
    };
    let stays = exports || imports.is_empty() || imports.into_iter().filter_map(|id| read(code, id)).any(needed);
    (!stays).then_some("nothing but its imports makes this file a module")
}

fn judge(evidence: &Evidence<'_>, import: &Import, name: &Name, _: &Wants) -> Verdict {
    let bound = name.bound.as_deref().unwrap_or("");
    if import.barrier || evidence.uses.has(bound) {
        return Verdict::Needed;
    }
    Verdict::Dead("is not used")
}
