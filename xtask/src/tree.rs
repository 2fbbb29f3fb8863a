//! `tree`: print a file's syntax tree with roles, for whoever writes a language's tables.

use std::path::PathBuf;

use anyhow::Context;
use vknot_syntax::{Field, Language, NodeId, Role, Source, Tree};

#[derive(clap::Args)]
pub struct Arguments {
    /// The file to read
    file: PathBuf,
}

/// Characters of a token that are shown.
const SHOWN: usize = 40;

pub fn run(arguments: &Arguments) -> anyhow::Result<std::process::ExitCode> {
    let source = Source::from_bytes(&arguments.file, std::fs::read(&arguments.file)?)?;
    let language = Language::of_file(&arguments.file, source.text()).context("the language is not known")?;
    print(&source, &Tree::read(&source, language));
    Ok(std::process::ExitCode::SUCCESS)
}

fn print(source: &Source, tree: &Tree) {
    let mut depths: Vec<usize> = Vec::with_capacity(tree.nodes().len());
    for (index, node) in tree.nodes().iter().enumerate() {
        let id = NodeId(index as u32);
        let depth = tree.parent(id).map_or(0, |parent| depths[parent.0 as usize] + 1);
        depths.push(depth);
        let role = match tree.role(id) {
            Role::Part => String::new(),
            role => format!(" as {role:?}"),
        };
        let field = match node.field {
            Field(0) => String::new(),
            field => format!("{}: ", tree.language().field_name(field)),
        };
        let text: String = match node.is_leaf() {
            true => format!(" {:?}", tree.text_of(source.text(), id).chars().take(SHOWN).collect::<String>()),
            false => String::new(),
        };
        println!("{:>5} {:depth$}{field}{}{role}{text}", source.line(node.start), "", tree.kind_name(id), depth = depth * 2);
    }
    for piece in tree.embedded() {
        println!("in {}, line {}:", piece.tree.language().spec().title, source.line(piece.span().start));
        print(&piece.source, &piece.tree);
    }
}
