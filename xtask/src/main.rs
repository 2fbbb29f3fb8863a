//! The developers' own commands: corpus runs, figures, refreshing what is generated.

mod corpus;
mod damage;
mod docs;
mod edits;
mod facts;
mod fuzz;
mod growth;
mod house;
mod laws;
mod pins;
mod random;
mod ratios;
mod renames;
mod round_trip;
mod scale_levels;
mod screenshots;
mod steps;
mod strip_indent;
mod tree;
mod unchanged;
mod walk;

use std::process::ExitCode;

use clap::{Parser, Subcommand};

#[derive(Parser)]
struct Arguments {
    #[command(subcommand)]
    command: Command,
}

#[derive(Subcommand)]
enum Command {
    /// Do every step on every file of some folders in memory and count what goes wrong
    Corpus(corpus::Arguments),
    /// Damage sound files and tell how much of their outline is still there
    Damage(damage::Arguments),
    /// Damage samples at random and check what comes out
    Fuzz(fuzz::Arguments),
    /// Pin spans of files, edit these and tell how often the spans are found
    Pins(pins::Arguments),
    /// Repeat constructs and tell what grows faster than the text
    Growth(growth::Arguments),
    /// Compare the time of each step with that of parsing alone
    Ratios(ratios::Arguments),
    /// Lay files out in styles chosen at random and learn them back
    RoundTrip(round_trip::Arguments),
    /// Tell how many lines of well-kept code a step leaves as they are
    Unchanged(unchanged::Arguments),
    /// Print a file's syntax tree
    Tree(tree::Arguments),
    /// Do edits by structure by chance, and tell how many are refused and why
    Edits(edits::Arguments),
    /// Tell where real code does not keep what edits hold code to
    Laws(laws::Arguments),
    /// Ask installed runtimes what comes with their languages
    Facts(facts::Arguments),
    /// Give names new names by scope, for a compiler to look at
    Renames(renames::Arguments),
    /// Rewrite the pages in docs that are generated
    Docs,
    /// List the pictures in docs, or take them anew
    Screenshots(screenshots::Arguments),
}

fn main() -> anyhow::Result<ExitCode> {
    match Arguments::parse().command {
        Command::Corpus(arguments) => corpus::run(&arguments),
        Command::Damage(arguments) => damage::run(&arguments),
        Command::Edits(arguments) => edits::run(&arguments),
        Command::Facts(arguments) => facts::run(&arguments),
        Command::Fuzz(arguments) => fuzz::run(&arguments),
        Command::Laws(arguments) => laws::run(&arguments),
        Command::Pins(arguments) => pins::run(&arguments),
        Command::Growth(arguments) => growth::measure(&arguments),
        Command::Ratios(arguments) => ratios::run(&arguments),
        Command::Renames(arguments) => renames::run(&arguments),
        Command::Tree(arguments) => tree::run(&arguments),
        Command::RoundTrip(arguments) => round_trip::run(&arguments),
        Command::Unchanged(arguments) => unchanged::run(&arguments),
        Command::Docs => docs::run(),
        Command::Screenshots(arguments) => screenshots::run(&arguments),
    }
}
