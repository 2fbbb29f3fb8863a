//! Java's imports: sorted in groups; duplicates, needless and unused ones dropped.

use std::collections::HashSet;

use vknot_style::Style;
use vknot_syntax::{NodeId, Role, Source, Span};

use crate::spec::{Code, ImportSpec};
use crate::edits::Edits;
use crate::imports::{Block, blocks, Line};
use crate::receipt::{Note, Receipt, TokenChange};
use crate::reshape::Reshape;

pub(super) const IMPORTS: ImportSpec = ImportSpec { organize, leaves };

/// The groups in order, by how a path begins; the empty one takes the rest. Static imports come last.
const GROUPS: &[&str] = &["java.", "javax.", ""];

/// An import taken apart.
struct Import {
    line: Line,
    /// `java.util.List`, or `java.util.*`.
    path: String,
    is_static: bool,
    offset: u32,
}

impl Import {
    fn of(code: Code<'_>, line: Line) -> Import {
        let tree = code.tree;
        let (path, is_static) = path_of(code, line.node);
        Import { path, is_static, offset: tree.node(line.node).start, line }
    }

    fn text(&self) -> String {
        format!("import {}{};", if self.is_static { "static " } else { "" }, self.path)
    }

    fn is_wildcard(&self) -> bool {
        self.path.ends_with(".*")
    }

    /// The last name of the path, and what is before it.
    fn parts(&self) -> (&str, &str) {
        self.path.rsplit_once('.').unwrap_or(("", &self.path))
    }

    fn group(&self) -> usize {
        match self.is_static {
            true => GROUPS.len(),
            false => GROUPS.iter().position(|start| self.path.starts_with(start)).unwrap_or(GROUPS.len() - 1),
        }
    }
}

fn path_of(code: Code<'_>, import: NodeId) -> (String, bool) {
    let Code { source, tree, .. } = code;
    let node = tree.node(import);
    let tokens = &tree.tokens()[node.first_token as usize..node.token_end as usize];
    let words = tokens.iter().filter(|token| tree.role(token.node) != Role::Comment).map(|t| source.slice(t.span()));
    let mut path = String::new();
    let mut is_static = false;
    for word in words {
        match word {
            "import" | ";" => {}
            "static" if path.is_empty() => is_static = true,
            word => path.push_str(word),
        }
    }
    (path, is_static)
}

fn leaves(code: Code<'_>, import: NodeId) -> Vec<String> {
    let (path, is_static) = path_of(code, import);
    vec![format!("import {}{path};", if is_static { "static " } else { "" })]
}

fn organize(code: Code<'_>, _: &Style) -> Reshape {
    let Code { source, tree, .. } = code;
    let mut receipt = Receipt::default();
    let mut edits = Edits::default();
    let uses = Uses::of(code);
    let all = blocks(code, "import_declaration");
    let wildcards = all.iter().flat_map(|block| &block.lines).any(|line| path_of(code, line.node).0.ends_with(".*"));
    let mut seen = HashSet::new();
    for block in all {
        let span = block.span;
        let text = organize_block(code, block, &uses, wildcards, &mut seen, &mut receipt);
        match text {
            Some(text) if text != source.slice(span) => edits.push(span, &text),
            Some(_) => {}
            None => edits.push(with_blank_lines(source, span), ""),
        }
    }
    if tree.has_error() && !edits.is_empty() {
        let text = "the file has syntax errors, so no import was taken for unused".to_owned();
        receipt.notes.push(Note { span: Span::new(0, 0), text });
    }
    Reshape { edits, receipt, bom: None }
}

/// The block's new text; `None` when nothing is left of it.
fn organize_block(
    code: Code<'_>,
    block: Block,
    uses: &Uses<'_>,
    wildcards: bool,
    seen: &mut HashSet<(String, bool)>,
    receipt: &mut Receipt,
) -> Option<String> {
    let Code { tree, .. } = code;
    let mut kept: Vec<Import> = Vec::new();
    for import in block.lines.into_iter().map(|line| Import::of(code, line)) {
        let again = !seen.insert((import.path.clone(), import.is_static));
        let span = tree.node(import.line.node).span();
        match needless(&import, again, uses, wildcards) {
            Some(why) if import.line.is_dressed() => {
                receipt.notes.push(Note { span, text: format!("{why}, but kept because of its comment") });
            }
            Some(_) => {
                let token = tree.node(import.line.node).first_token;
                receipt.removed.push(TokenChange { text: import.text(), offset: import.offset, token });
                continue;
            }
            None if import.is_wildcard() => {
                let text = format!("{} is kept: what a wildcard brings in cannot be told from this file", import.path);
                receipt.notes.push(Note { span, text });
            }
            None => {}
        }
        kept.push(import);
    }
    if kept.is_empty() {
        return None;
    }
    kept.sort_by(|a, b| (a.group(), &a.path).cmp(&(b.group(), &b.path)));
    let line_end = block.line_end;
    let mut text = String::new();
    for (index, import) in kept.iter().enumerate() {
        if index > 0 {
            text.push_str(line_end);
            if kept[index - 1].group() != import.group() {
                text.push_str(line_end);
            }
        }
        text.push_str(&import.line.dress(&import.text(), &block.indent, line_end));
    }
    Some(text)
}

/// Why an import is not needed, if it is not.
fn needless(import: &Import, again: bool, uses: &Uses<'_>, wildcards: bool) -> Option<&'static str> {
    let (from, name) = import.parts();
    if again {
        return Some("is imported twice");
    }
    if import.is_static {
        return (!import.is_wildcard() && uses.pruning && !uses.has(name)).then_some("is not used");
    }
    // A wildcard may bring in a type of the same name; then the plain import decides which one is meant.
    if from == "java.lang" && !wildcards {
        return Some("is there without an import");
    }
    if import.is_wildcard() {
        return (!uses.package.is_empty() && from == uses.package).then_some("is of the same package");
    }
    if !uses.package.is_empty() && from == uses.package {
        return Some("is of the same package");
    }
    (uses.pruning && !uses.has(name)).then_some("is not used")
}

/// The span with the rest of its last line and the blank lines behind it.
fn with_blank_lines(source: &Source, span: Span) -> Span {
    let behind = Span::new(span.end, source.span().end);
    let text = source.slice(behind);
    let blank = text.len() - text.trim_start().len();
    let end = text[..blank].rfind('\n').map_or(span.end, |at| span.end + at as u32 + 1);
    Span::new(span.start, end)
}

/// The names a file uses outside its imports.
struct Uses<'s> {
    names: HashSet<&'s str>,
    package: String,
    /// Whether the whole file could be read, so that a name that is not found is not there.
    pruning: bool,
}

impl<'s> Uses<'s> {
    fn of(code: Code<'s>) -> Self {
        let Code { source, tree, .. } = code;
        let mut names = HashSet::new();
        let mut package = String::new();
        let mut skip = 0;
        for child in tree.children(tree.root()) {
            if tree.role(child) == Role::Package {
                let node = tree.node(child);
                let own =
                    tree.children(child).filter(|part| !matches!(tree.role(*part), Role::Annotation | Role::Comment));
                let words =
                    own.map(|part| tree.text_of(source.text(), part)).filter(|word| !matches!(*word, "package" | ";"));
                package = words.flat_map(str::split_whitespace).collect();
                skip = skip.max(node.token_end);
            }
        }
        let imports = tree.children(tree.root()).filter(|child| tree.role(*child) == Role::Import);
        let mut ranges = imports.map(|id| tree.node(id)).peekable();
        let mut before = "";
        for (index, token) in tree.tokens().iter().enumerate() {
            let index = index as u32;
            while ranges.next_if(|node| node.token_end <= index).is_some() {}
            let text = source.slice(token.span());
            if tree.role(token.node) == Role::Comment {
                if text.starts_with("/**") {
                    names.extend(words(text));
                }
                continue;
            }
            let code =
                tree.role(token.node) != Role::String && ranges.peek().is_none_or(|node| index < node.first_token);
            if code && !matches!(before, "." | "::") {
                names.extend(words(text).take(1));
            }
            before = text;
        }
        Uses { names, package, pruning: !tree.has_error() }
    }

    fn has(&self, name: &str) -> bool {
        self.names.contains(name)
    }
}

fn words(text: &str) -> impl Iterator<Item = &str> {
    text.split(|c: char| !(c.is_alphanumeric() || matches!(c, '_' | '$'))).filter(|word| !word.is_empty())
}
