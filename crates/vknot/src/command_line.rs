//! The command line: every command, one variant each.

use clap::{Parser, Subcommand};

use crate::arguments::Color;
use crate::commands;

/// Reshape code by its syntax structure, proven not to change what it means
#[derive(Parser)]
#[command(name = "vknot", version, max_term_width = 100)]
pub struct Arguments {
    #[command(subcommand)]
    pub command: Command,
    /// When to use colour
    #[arg(long, global = true, value_enum, default_value_t = Color::Auto, value_name = "WHEN")]
    pub color: Color,
}

#[derive(Subcommand)]
pub enum Command {
    Outline(commands::outline::Arguments),
    Fold(commands::fold::Arguments),
    Pairs(commands::pairs::Arguments),
    Select(commands::select::Arguments),
    Todos(commands::todos::Arguments),
    Sections(commands::sections::Arguments),
    Region(commands::region::Arguments),
    Pin(commands::pin::Arguments),
    Indent(commands::indent::Arguments),
    Format(commands::format::Arguments),
    Imports(commands::imports::Arguments),
    Edit(commands::edit::Arguments),
    Style(commands::style::Arguments),
    Undo(commands::undo::Arguments),
    Demo(commands::demo::Arguments),
    Completions(commands::completions::Arguments),
    Man(commands::man::Arguments),
}

#[cfg(test)]
mod tests {
    use std::path::Path;

    use clap::CommandFactory;

    use super::*;

    /// The command reference: the long help of every command, as it is printed.
    fn reference() -> String {
        let mut page = "# Commands\n\nThe help of every command, as `vknot help COMMAND` prints it.\n".to_owned();
        let mut waiting = vec![("vknot".to_owned(), Arguments::command().term_width(100))];
        while let Some((name, command)) = waiting.pop() {
            let inner: Vec<_> = command.get_subcommands().filter(|inner| !inner.is_hide_set()).cloned().collect();
            waiting.extend(inner.into_iter().rev().map(|inner| (format!("{name} {}", inner.get_name()), inner)));
            let help = command.bin_name(&name).term_width(100).render_long_help().to_string();
            let lines: Vec<&str> = help.trim_end().lines().map(str::trim_end).collect();
            page += &format!("\n## {name}\n\n```text\n{}\n```\n", lines.join("\n"));
        }
        page
    }

    /// With `VKNOT_DOCS=write` in the environment the page is written anew.
    #[test]
    fn the_command_reference_is_fresh() {
        let path = Path::new(env!("CARGO_MANIFEST_DIR")).join("../../docs/commands.md");
        if std::env::var_os("VKNOT_DOCS").is_some_and(|value| value == "write") {
            std::fs::write(&path, reference()).unwrap();
        }
        let page = std::fs::read_to_string(path).unwrap_or_default();
        assert!(page == reference(), "docs/commands.md is stale; run `cargo xtask docs`");
    }

    #[test]
    fn the_command_line_is_sound() {
        Arguments::command().debug_assert();
    }
}
