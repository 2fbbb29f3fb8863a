//! Java's imports taken apart, and the package of a file.

use vknot_syntax::{NodeId, Role};

use crate::imports::words::{has_comment, is_name, tokens_of};
use crate::spec::Code;
use crate::spec::imports::{Form, Import, Name};

pub(super) fn is_import(code: Code<'_>, id: NodeId) -> bool {
    code.tree.role(id) == Role::Import
}

pub(super) fn read(code: Code<'_>, id: NodeId) -> Option<Import> {
    let mut head = "import".to_owned();
    let mut path = String::new();
    let mut form = Form::Plain;
    let mut before = "import";
    for word in tokens_of(code, id) {
        match word {
            "import" | ";" => {}
            "static" if path.is_empty() => {
                head = "import static".to_owned();
                form = Form::Static;
            }
            "module" if path.is_empty() => path.push_str(word),
            // Two words without a dot between them: `module` was no name.
            word if before == "module" && path == "module" && is_name(word) => {
                head = "import module".to_owned();
                path = word.to_owned();
            }
            word => path.push_str(word),
        }
        before = word;
    }
    let (source, name) = path.rsplit_once('.').unwrap_or(("", &path));
    let is_module = head.ends_with("module");
    let bound = (name != "*" && !is_module).then(|| name.to_owned());
    let names = vec![Name { path: name.to_owned(), alias: None, bound }];
    Some(Import { head, source: source.to_owned(), names, form, fixed: has_comment(code, id), ..Import::default() })
}

/// The package a file is in; empty where it does not say.
pub(super) fn package(code: Code<'_>) -> String {
    let Code { source, tree, .. } = code;
    let packages = tree.children(tree.root()).filter(|child| tree.role(*child) == Role::Package);
    let parts = packages.flat_map(|package| {
        tree.children(package).filter(|part| !matches!(tree.role(*part), Role::Annotation | Role::Comment))
    });
    let words = parts.map(|part| tree.text_of(source.text(), part)).filter(|word| !matches!(*word, "package" | ";"));
    words.flat_map(str::split_whitespace).collect()
}
