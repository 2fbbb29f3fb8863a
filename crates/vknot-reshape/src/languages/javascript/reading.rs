//! Imports of JavaScript and TypeScript, and `require` at the top of a file, taken apart.

use vknot_syntax::{NodeId, Role};

use crate::imports::words::{has_comment, tokens_of};
use crate::spec::Code;
use crate::spec::imports::{Form, Import, Name};

/// What style sheets are called, the order of which is meaning.
const SHEETS: [&str; 5] = [".css", ".scss", ".sass", ".less", ".styl"];

pub(crate) fn is_import(code: Code<'_>, id: NodeId) -> bool {
    match code.tree.kind_name(id) {
        "import_statement" => true,
        "lexical_declaration" | "variable_declaration" => required(code, id).is_some(),
        _ => code.tree.role(id) == Role::Import,
    }
}

/// The name, or the pattern of names, and the module of `const name = require("module")` at the top of a file.
fn required(code: Code<'_>, id: NodeId) -> Option<(NodeId, NodeId)> {
    let tree = code.tree;
    if tree.role(tree.node(id).parent) != Role::File {
        return None;
    }
    let mut declarators = tree.parts(id).filter(|part| tree.kind_name(*part) == "variable_declarator");
    let declarator = declarators.next().filter(|_| declarators.next().is_none())?;
    // A type of its own says more than an import does.
    let plain = tree.child_named(declarator, "type").is_none();
    let call = tree.child_named(declarator, "value")
        .filter(|_| plain)
        .filter(|value| tree.kind_name(*value) == "call_expression")?;
    let function = tree.child_named(call, "function")?;
    let arguments = tree.child_named(call, "arguments")?;
    let mut handed = tree.parts(arguments).filter(|part| !matches!(tree.kind_name(*part), "(" | ")" | ","));
    let module = handed.next().filter(|module| tree.role(*module) == Role::String && handed.next().is_none())?;
    let is_require = tree.text_of(code.source.text(), function) == "require";
    is_require.then_some((tree.child_named(declarator, "name")?, module))
}

pub(crate) fn read(code: Code<'_>, id: NodeId) -> Option<Import> {
    let Code { source, tree, .. } = code;
    if tree.kind_name(id) != "import_statement" {
        return read_require(code, id);
    }
    let text = |id: NodeId| tree.text_of(source.text(), id);
    let mut import = Import { head: "import".to_owned(), fixed: has_comment(code, id), ..Import::default() };
    let mut module = None;
    let mut behind = Vec::new();
    for part in tree.parts(id) {
        match tree.kind_name(part) {
            "import" | "from" => {}
            _ if module.is_some() => behind.extend(tokens_of(code, part)),
            "string" => module = Some(part),
            word @ ("type" | "typeof") => {
                import.head.extend([" ", word]);
                import.form = Form::Types;
            }
            "import_clause" => clause(code, part, &mut import),
            "import_require_clause" => {
                import.head.push_str(" =");
                for part in tree.parts(part) {
                    match tree.kind_name(part) {
                        "identifier" => import.names.push(aliased("*", text(part))),
                        "string" => module = Some(part),
                        _ => {}
                    }
                }
            }
            _ => return None,
        }
    }
    finish(&mut import, text(module?), &behind);
    import.barrier |= import.names.is_empty();
    Some(import)
}

/// What it comes from, and how its author wrote that.
fn finish(import: &mut Import, module: &str, behind: &[&str]) {
    let quote = module.get(..1).unwrap_or("'");
    import.source = module.trim_matches(['\'', '"', '`']).to_owned();
    import.manner = format!("{quote}{}", behind.join(" ").replace(" ;", ";"));
    let path = import.source.split('?').next().unwrap_or("");
    import.barrier = SHEETS.iter().any(|ending| path.ends_with(ending));
}

fn aliased(path: &str, alias: &str) -> Name {
    Name { path: path.to_owned(), alias: Some(alias.to_owned()), bound: Some(alias.to_owned()) }
}

fn clause(code: Code<'_>, clause: NodeId, import: &mut Import) {
    let Code { source, tree, .. } = code;
    let text = |id: NodeId| tree.text_of(source.text(), id);
    for part in tree.parts(clause) {
        match tree.kind_name(part) {
            "identifier" => import.names.push(aliased("default", text(part))),
            "namespace_import" => {
                let name = tree.parts(part).find(|part| tree.kind_name(*part) == "identifier");
                import.names.extend(name.map(|name| aliased("*", text(name))));
            }
            "named_imports" => {
                import.broken = text(part).contains('\n');
                let specifiers = tree.parts(part).filter(|part| tree.kind_name(*part) == "import_specifier");
                import.names.extend(specifiers.map(|part| specifier(code, part)));
            }
            _ => {}
        }
    }
}

fn specifier(code: Code<'_>, specifier: NodeId) -> Name {
    let Code { source, tree, .. } = code;
    let text = |field: &str| tree.child_named(specifier, field).map(|id| tree.text_of(source.text(), id).to_owned());
    let word = tree.parts(specifier).map(|part| tree.kind_name(part)).find(|kind| matches!(*kind, "type" | "typeof"));
    let name = text("name").unwrap_or_default();
    let alias = text("alias");
    let bound = alias.clone().unwrap_or_else(|| name.clone());
    let path = word.map_or_else(|| name.clone(), |word| format!("{word} {name}"));
    Name { path, alias, bound: Some(bound) }
}

fn read_require(code: Code<'_>, id: NodeId) -> Option<Import> {
    let Code { source, tree, .. } = code;
    let (name, module) = required(code, id)?;
    let text = |id: NodeId| tree.text_of(source.text(), id);
    let word = tokens_of(code, id).next().unwrap_or("const");
    let mut import = Import {
        head: format!("{word} ="),
        fixed: has_comment(code, id),
        required: true,
        ..Import::default()
    };
    if tree.kind_name(name) == "identifier" {
        import.names.push(aliased("*", text(name)));
    } else {
        import.broken = text(name).contains('\n');
        for part in tree.parts(name) {
            match tree.kind_name(part) {
                "shorthand_property_identifier_pattern" => {
                    import.names.push(Name {
                        path: text(part).to_owned(),
                        alias: None,
                        bound: Some(text(part).to_owned()),
                    });
                }
                "pair_pattern" => {
                    let value = tree.child_named(part, "value").filter(|value| tree.kind_name(*value) == "identifier")?;
                    import.names.push(aliased(text(tree.child_named(part, "key")?), text(value)));
                }
                "{" | "}" | "," => {}
                _ => return None,
            }
        }
    }
    let ends = text(id).ends_with(';');
    finish(&mut import, text(module), if ends { &[";"] } else { &[] });
    import.manner.insert(1, '=');
    Some(import)
}
