//! Python's imports: those at the top of a file; what stands in a `try`, an `if` or a function is left to its author.

use std::collections::HashSet;
use std::sync::OnceLock;

use vknot_syntax::{NodeId, Role, Token};

use crate::imports::words::{facts, has_comment, is_name, outside_imports, tokens_of, words, words_inside};
use crate::spec::Code;
use crate::spec::loading::INSIDE;
use crate::spec::imports::{Declared, Form, Home, Import, Name, Origin, Room, Surroundings, Uses, Verdict, Wants};
use crate::spec::{Evidence, IMPORTS_OF_MOST, ImportSpec, LoadSpec};

pub(super) const IMPORTS: ImportSpec = ImportSpec {
    is_import,
    read,
    write,
    leaf,
    key: |import| if import.form == Form::From { import.source.clone() } else { first(import).to_owned() },
    merges: |import| {
        let whole = import.names.iter().any(|name| name.path == "*");
        (import.form == Form::From && !whole).then(|| import.source.clone())
    },
    left_apart: |import| import.names.iter().any(|name| name.alias.is_some()),
    home,
    orders: &[&["standard", "other", "own", "near"], &["standard", "other", "own"], &["written"], &[]],
    uses: Some(uses),
    judge,
    declares: Some(declares),
    loads: Some(&LoadSpec {
        module: module_of,
        loads: |import, place| loads(import, &module_of(place), is_package(place)),
        values: |_| None,
    }),
    project: ("pyproject.toml", |_| None),
    ..IMPORTS_OF_MOST
};

/// How many nodes around a string are looked at for a type that it may be.
const AROUND: usize = 8;

/// How many packages around a module are looked at.
const PACKAGES_AT_MOST: usize = 32;

/// What takes the names of types as text.
const TAKES_TYPES: [&str; 5] = ["cast", "TypeVar", "NewType", "ForwardRef", "Annotated"];

pub(super) fn is_import(code: Code<'_>, id: NodeId) -> bool {
    code.tree.role(id) == Role::Import && code.tree.role(code.tree.node(id).parent) == Role::File
}

fn first(import: &Import) -> &str {
    import.names.first().map_or("", |name| name.path.as_str())
}

fn read(code: Code<'_>, id: NodeId) -> Option<Import> {
    let Code { source, tree, .. } = code;
    let text = |id: NodeId| tokens_of(code, id).collect::<String>();
    let from = tree.kind_name(id) != "import_statement";
    let module = tree.child_named(id, "module_name").map(text);
    let future = tree.kind_name(id) == "future_import_statement";
    let mut names = Vec::new();
    for part in tree.parts(id).filter(|part| Some(*part) != tree.child_named(id, "module_name")) {
        match tree.kind_name(part) {
            "dotted_name" => names.push(named(text(part), None, from)),
            "aliased_import" => {
                let path = tree.child_named(part, "name").map(text)?;
                names.push(named(path, tree.child_named(part, "alias").map(text), from));
            }
            "wildcard_import" => names.push(Name { path: "*".to_owned(), ..Name::default() }),
            _ => {}
        }
    }
    let written = tree.text_of(source.text(), id);
    Some(Import {
        head: if from { "from" } else { "import" }.to_owned(),
        source: module.unwrap_or_else(|| if future { "__future__".to_owned() } else { String::new() }),
        form: if from { Form::From } else { Form::Plain },
        manner: manner(written),
        // What comes with all names may take the place of any other name.
        barrier: future || names.iter().any(|name| name.path == "*"),
        required: false,
        fixed: has_comment(code, id) || names.is_empty(),
        broken: written.contains('\n'),
        names,
    })
}

/// What is in front of the wrapped lines of an import that has several names on one of them; nothing where each has a line.
fn manner(written: &str) -> String {
    let mut lines = written.lines().skip(1);
    let fills = written
        .lines()
        .any(|line| line.trim_end_matches([',', ')', ' ', '\\']).rsplit("import").next().unwrap_or("").contains(','));
    let below = lines.next().filter(|_| fills).unwrap_or("");
    below[..below.len() - below.trim_start().len()].to_owned()
}

fn named(path: String, alias: Option<String>, from: bool) -> Name {
    let own = if from { path.as_str() } else { path.split('.').next().unwrap_or("") };
    let bound = alias.clone().unwrap_or_else(|| own.to_owned());
    Name { bound: Some(bound), path, alias }
}

fn item(name: &Name) -> String {
    match &name.alias {
        Some(alias) => format!("{} as {alias}", name.path),
        None => name.path.clone(),
    }
}

fn write(import: &Import, room: Room<'_>) -> String {
    let items: Vec<String> = import.names.iter().map(item).collect();
    if import.form != Form::From {
        return format!("import {}", items.join(", "));
    }
    let start = format!("from {} import ", import.source);
    let line = format!("{start}{}", items.join(", "));
    let fits = room.column + line.chars().count() <= room.width;
    let one_line = fits && (room.level.is_empty() || !import.broken || !import.manner.is_empty() || items.len() == 1);
    if one_line || items.len() == 1 {
        return line;
    }
    if import.manner.is_empty() {
        let Room { level, indent, line_end, .. } = room;
        let lines: String = items.iter().map(|item| format!("{indent}{level}{item},{line_end}")).collect();
        return format!("{start}({line_end}{lines}{indent})");
    }
    filled(&start, &items, import, room)
}

/// As many names on each line as fit.
fn filled(start: &str, items: &[String], import: &Import, room: Room<'_>) -> String {
    let mut text = format!("{start}(");
    let mut column = room.column + text.chars().count();
    for (index, item) in items.iter().enumerate() {
        let last = index + 1 == items.len();
        let item = format!("{item}{}", if last { ")" } else { "," });
        let length = item.chars().count() + usize::from(index > 0);
        if index > 0 && column + length > room.width {
            text.push_str(room.line_end);
            text.push_str(&import.manner);
            column = import.manner.chars().count();
        } else if index > 0 {
            text.push(' ');
        }
        text.push_str(&item);
        column += length;
    }
    text
}

fn leaf(import: &Import, name: &Name) -> String {
    match import.form {
        Form::From => format!("from {} import {}", import.source, item(name)),
        _ => format!("import {}", item(name)),
    }
}

/// The modules of the standard library; made by `cargo xtask facts`.
static MODULES: &str = include_str!("facts/modules.txt");

pub(super) fn is_standard(module: &str) -> bool {
    static READY: OnceLock<HashSet<&str>> = OnceLock::new();
    let modules = READY.get_or_init(|| {
        facts(MODULES).flat_map(str::split_whitespace).collect()
    });
    modules.contains(module)
}

fn home(import: &Import, around: &dyn Surroundings) -> Home {
    let path = if import.form == Form::From { import.source.as_str() } else { first(import) };
    let top = path.split('.').next().unwrap_or("");
    match top {
        "" => Home::Near,
        _ if is_standard(top) => Home::Standard,
        _ if around.index().is_some_and(|index| index.has_package(top)) => Home::Own,
        _ => Home::Other,
    }
}

fn uses<'a>(code: Code<'a>, _: &Wants) -> Uses<'a> {
    let Code { source, tree, .. } = code;
    let mut uses = Uses::default();
    // Names may be looked up by text: then those in strings count.
    let mut by_text = false;
    let mut strings = Vec::new();
    for (token, before, text) in outside_imports(code, is_import) {
        match tree.role(token.node) {
            Role::Comment if text.contains("type:") => uses.names.extend(words(text)),
            Role::Comment => {}
            Role::String => {
                strings.push(text);
                let formatted =
                    text.chars()
                        .take(3)
                        .take_while(char::is_ascii_alphabetic)
                        .any(|c| matches!(c, 'f' | 'F' | 't' | 'T'));
                if formatted {
                    uses.names.extend(words_inside(text));
                }
                if may_be_type(code, token) || is_offered(code, token) {
                    uses.names.extend(words(text));
                }
            }
            _ if !is_name(text) || before == "." && !text.is_empty() => {}
            _ if is_keyword(code, token) => {}
            _ => {
                uses.names.insert(text);
                by_text |= matches!(text, "globals" | "exec" | "eval" | "vars" | "locals")
                    && source.text()[token.end as usize..].starts_with('(');
            }
        }
    }
    if by_text {
        uses.names.extend(strings.into_iter().flat_map(words));
    }
    uses.nothing_else = tree.children(tree.root()).all(|child| match tree.kind_name(child) {
        "expression_statement" => {
            let own = tree.children(child).next();
            own.is_none_or(
                |own| tree.role(own) == Role::String || tree.kind_name(own) == "assignment" && is_list(code, own),
            )
        }
        _ => matches!(tree.role(child), Role::Import | Role::Comment),
    });
    if tree.has_error() {
        uses.doubt = Some("the file has syntax errors");
    }
    uses
}

/// Whether a token is the name of an argument that is handed over by name.
pub(super) fn is_keyword(code: Code<'_>, token: &Token) -> bool {
    let tree = code.tree;
    let parent = tree.node(token.node).parent;
    tree.kind_name(parent) == "keyword_argument" && tree.child_named(parent, "name") == Some(token.node)
}

/// Whether a string stands where a type may be written as text.
fn may_be_type(code: Code<'_>, token: &Token) -> bool {
    let Code { source, tree, .. } = code;
    tree.ancestors(token.node).take(AROUND).any(|id| match tree.kind_name(id) {
        "type" => true,
        "call" => {
            let function =
                tree.child_named(id, "function").map_or("", |function| tree.text_of(source.text(), function));
            TAKES_TYPES.contains(&function.rsplit('.').next().unwrap_or(""))
        }
        _ => false,
    })
}

/// Whether what a module offers is listed by this.
fn is_list(code: Code<'_>, id: NodeId) -> bool {
    code.tree.text_of(code.source.text(), id).starts_with("__all__")
}

/// Whether a string is in the list of what a module offers.
fn is_offered(code: Code<'_>, token: &Token) -> bool {
    let tree = code.tree;
    let statement = tree.ancestors(token.node).find(|id| tree.role(tree.node(*id).parent) == Role::File);
    statement.is_some_and(|id| is_list(code, id))
}

fn judge(evidence: &Evidence<'_>, import: &Import, name: &Name, wants: &Wants) -> Verdict {
    let Some(bound) = name.bound.as_deref() else {
        return Verdict::Unknown("what it brings in is not known here".to_owned());
    };
    // `import a as a` says that others may take it from here.
    let offers = name.alias.as_deref() == Some(name.path.as_str());
    if import.barrier || evidence.uses.has(bound) || offers {
        return Verdict::Needed;
    }
    let Some(place) = evidence.around.place() else { return Verdict::Dead("is not used") };
    if is_package(&place) && !wants.offered {
        return Verdict::Unknown("is not used here, but others may take it from the package".to_owned());
    }
    let module = module_of(&place);
    let own = module.rsplit('.').next().unwrap_or("");
    if evidence.uses.nothing_else {
        return Verdict::Unknown("is not used here, but the file has nothing else to offer".to_owned());
    }
    let index = evidence.around.index();
    let taken = |name: &str| index.as_ref().is_some_and(|index| index.takes(&format!("{own}.{name}")));
    match taken(bound) || taken("*") {
        true => Verdict::Unknown("is not used here, but another file takes it from here".to_owned()),
        false => Verdict::Dead("is not used"),
    }
}

/// Whether the file at a place of a project stands for a package, as itself or as its stub.
pub(super) fn is_package(place: &str) -> bool {
    matches!(place.rsplit('/').next(), Some("__init__.py" | "__init__.pyi"))
}

/// The dotted name of the module at a place of a project.
pub(super) fn module_of(place: &str) -> String {
    let path = place.trim_end_matches(".pyi").trim_end_matches(".py");
    let path = path.strip_suffix("/__init__").unwrap_or(path);
    path.strip_prefix("src/").unwrap_or(path).replace('/', ".")
}

/// Said, with a name behind it, of a package some file of which imports from where it is itself.
pub(super) const RELATIVE: &str = "from .";

/// From where a module imports what, by full names.
fn usual(imports: &[Import], module: &str, is_package: bool) -> Vec<(String, Origin)> {
    let origin = |import: &Import, name: &Name| Origin {
        source: absolute(&import.source, module, is_package),
        path: name.path.clone(),
        alias: name.alias.clone(),
    };
    let names = imports.iter().flat_map(|import| import.names.iter().map(move |name| (import, name)));
    names.filter_map(|(import, name)| Some((name.bound.clone()?, origin(import, name)))).collect()
}

/// The full name of a module that another one imports from.
fn absolute(source: &str, module: &str, is_package: bool) -> String {
    let dots = source.chars().take_while(|c| *c == '.').count();
    if dots == 0 {
        return source.to_owned();
    }
    let mut parts: Vec<&str> = module.split('.').collect();
    let up = dots - usize::from(is_package);
    parts.truncate(parts.len().saturating_sub(up));
    let rest = &source[dots..];
    parts.extend((!rest.is_empty()).then_some(rest));
    parts.join(".")
}

/// What an import loads: packages from the outermost inwards, then the module. Those that hold the importing module are loaded already,
/// and count only where names are taken from them.
fn loads(import: &Import, module: &str, is_package: bool) -> Vec<String> {
    let mut loads = Vec::new();
    let mut load = |path: &str, name: Option<&str>| {
        for (at, _) in path.match_indices('.').take(PACKAGES_AT_MOST) {
            loads.extend((!is_inside(module, &path[..at])).then(|| path[..at].to_owned()));
        }
        let own = is_inside(module, path);
        match name {
            Some(name) => {
                loads.extend((!own).then(|| path.to_owned()));
                loads.push(format!("{path}{INSIDE}{name}"));
            }
            None if !own => loads.push(path.to_owned()),
            None => {}
        }
    };
    let source = absolute(&import.source, module, is_package);
    for name in &import.names {
        match import.form {
            Form::From if name.path == "*" => load(&source, Some("")),
            Form::From => load(&source, Some(&name.path)),
            _ => load(&name.path, None),
        }
    }
    loads.dedup();
    loads
}

/// Whether a module is a package's or stands in it, the package being named as from anywhere in the project.
fn is_inside(module: &str, package: &str) -> bool {
    !package.is_empty() && format!(".{module}.").contains(&format!(".{package}."))
}

/// Whether an import is run when its module is loaded.
fn is_run(code: Code<'_>, id: NodeId) -> bool {
    let tree = code.tree;
    tree.ancestors(id).all(|holder| match tree.kind_name(holder) {
        "function_definition" | "lambda" => false,
        "if_statement" => {
            let condition = tree.child_named(holder, "condition");
            !condition.is_some_and(|condition| tree.text_of(code.source.text(), condition).contains("TYPE_CHECKING"))
        }
        _ => true,
    })
}

/// A module with what stands at its top, and what it takes from others: names it imports, and those it asks of modules.
fn declares(code: Code<'_>, place: &str) -> Declared {
    let Code { source, tree, .. } = code;
    let mut declared = Declared { package: module_of(place), ..Declared::default() };
    let text = |id: NodeId| tree.text_of(source.text(), id);
    for child in tree.children(tree.root()).filter(|child| tree.role(*child) != Role::Import) {
        let named = match tree.kind_name(child) {
            "decorated_definition" => tree.child_named(child, "definition"),
            _ => Some(child),
        };
        let name = named.and_then(|id| tree.name_span(id));
        declared.names.extend(name.map(|span| source.slice(span).to_owned()).filter(|name| is_name(name)));
    }
    let mut taken: HashSet<String> = HashSet::new();
    for id in (0..tree.nodes().len() as u32).map(NodeId) {
        if tree.role(id) == Role::Import && is_run(code, id) {
            let import = read(code, id);
            let own = |import: &Import| loads(import, &declared.package, is_package(place));
            declared.loads.extend(import.as_ref().map(own).unwrap_or_default());
        }
        match tree.kind_name(id) {
            "import_from_statement" => {
                let module = tree.child_named(id, "module_name").map_or("", text);
                let last = module.rsplit('.').next().unwrap_or("");
                let names = tree.parts(id).filter(|part| tree.node(*part).field == tree.language().field("name"));
                for name in names {
                    let path = tree.child_named(name, "name").unwrap_or(name);
                    taken.insert(format!("{last}.{}", text(path)));
                }
                if tree.parts(id).any(|part| tree.kind_name(part) == "wildcard_import") {
                    taken.insert(format!("{last}.*"));
                }
            }
            "attribute" => {
                let object = tree.child_named(id, "object").map_or("", text).rsplit('.').next().unwrap_or("");
                let name = tree.child_named(id, "attribute").map_or("", text);
                if is_name(object) && object.len() < 80 {
                    taken.insert(format!("{object}.{name}"));
                }
            }
            _ => {}
        }
    }
    let imports: Vec<Import> =
        crate::imports::imports_of(code, is_import).into_iter().filter_map(|id| read(code, id)).collect();
    if imports.iter().any(|import| import.source.starts_with('.')) {
        taken.insert(format!("{RELATIVE}{}", declared.package.split('.').next().unwrap_or("")));
    }
    declared.imports = usual(&imports, &declared.package, is_package(place));
    declared.taken = taken.into_iter().collect();
    declared.taken.sort_unstable();
    declared
}
