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
    Undo(commands::undo::Arguments),
    Demo(commands::demo::Arguments),
}
