//! Shows a file with folds closed, and the cells of a notebook as the code and prose that they hold.

use std::io::Write;

use vknot_reshape::looks::{self, Fold, FoldKind};
use vknot_syntax::{Embedded, NodeId, Role};

use crate::files::input::Input;
use super::code::CodeView;
use super::{FAINT, HEAD, KIND, MARK};

/// Prints the file, each closed fold as its first line with how much it hides.
pub fn show(input: &Input, closed: &[Fold]) -> std::io::Result<()> {
    let cells = cells(input);
    match cells.is_empty() {
        true => show_lines(input, closed, (1, input.source().lines().count())),
        false => show_cells(input, closed, &cells),
    }
}

/// Prints some lines of the file so.
pub fn show_lines(input: &Input, closed: &[Fold], (first, last): (u32, u32)) -> std::io::Result<()> {
    let view = CodeView::new(input.source(), input.tree());
    let text = |line: u32| input.source().lines().text(input.source().text(), line - 1);
    folded(&view, closed, (first, last), text)
}

/// Prints lines of a text, those of closed folds as one. What is shown of them fits on a line of the terminal.
fn folded<'t>(
    view: &CodeView<'_>,
    closed: &[Fold],
    (first, last): (u32, u32),
    text: impl Fn(u32) -> &'t str,
) -> std::io::Result<()> {
    let mut out = super::stdout();
    let columns = super::columns().map_or(usize::MAX, |columns| columns.saturating_sub(view.margin()));
    let mut folds = closed.iter().peekable();
    let mut line = first;
    while line <= last {
        // Of several folds on a line the first is the longest; those inside a closed one are skipped with it.
        while folds.next_if(|fold| fold.first_line < line).is_some() {}
        let Some(fold) = folds.next_if(|fold| fold.first_line == line) else {
            writeln!(out, "{}", view.line(line, &[]))?;
            line += 1;
            continue;
        };
        let hidden = format!("\u{22ef} {}", super::count(fold.hidden() as usize, "line"));
        let end = ending(text(fold.last_line).trim());
        let told = remark(fold, &text).map_or(String::new(), |told| format!(" {told}"));
        let taken = hidden.chars().count() + end.len() + 2;
        let shown = view.cut_line(line, &[], columns.saturating_sub(taken));
        let left = columns.saturating_sub(taken + text(line).chars().count());
        let told: String = told.chars().take(left).collect();
        let end = if end.is_empty() { String::new() } else { format!(" {FAINT}{end}{FAINT:#}") };
        writeln!(out, "{shown}{FAINT}{told}{FAINT:#} {MARK}{hidden}{MARK:#}{end}")?;
        line = fold.last_line + 1;
    }
    Ok(())
}

/// What closes a fold, if its last line is nothing else: brackets, a closing tag or word.
fn ending(text: &str) -> &str {
    let closes = |c: char| matches!(c, '}' | ')' | ']' | ';' | ',');
    let tag = text.starts_with("</") && text.ends_with('>');
    let word = text.trim_end_matches([';', '.']).chars().all(|c| c.is_ascii_alphabetic() || c == '_')
        && text.to_ascii_lowercase().starts_with("end");
    if text.chars().all(closes) || tag || word { text } else { "" }
}

/// The first line of text of a comment that begins with a line of marks.
fn remark<'t>(fold: &Fold, text: &impl Fn(u32) -> &'t str) -> Option<&'t str> {
    let says = |line: &str| line.contains(char::is_alphanumeric);
    if fold.kind != FoldKind::Comment || says(text(fold.first_line)) {
        return None;
    }
    let lines = (fold.first_line + 1..=fold.last_line).map(text);
    lines.map(|line| line.trim().trim_start_matches(['*', '/', '#', '-', ';', '%', '!']).trim()).find(|line| says(line))
}

/// A cell: its number, its lines in the file, what it holds.
struct Cell<'i> {
    number: usize,
    lines: (u32, u32),
    piece: Option<&'i Embedded>,
}

fn cells(input: &Input) -> Vec<Cell<'_>> {
    let tree = input.tree();
    let is_cell = |id: &NodeId| tree.role(*id) == Role::Cell;
    let nodes = (0..tree.nodes().len() as u32).map(NodeId).filter(is_cell);
    let cell = |(index, id): (usize, NodeId)| Cell {
        number: index + 1,
        lines: input.source().line_range(tree.node(id).span()),
        piece: tree.piece_in(id),
    };
    nodes.enumerate().map(cell).collect()
}

/// Prints each cell as what it holds, not as what its file is written in. The cells of a closed section are told by their number.
fn show_cells(input: &Input, closed: &[Fold], cells: &[Cell<'_>]) -> std::io::Result<()> {
    let mut out = super::stdout();
    let hides = |fold: &Fold, cell: &Cell<'_>| {
        fold.kind == FoldKind::Section && fold.first_line < cell.lines.0 && cell.lines.0 <= fold.last_line
    };
    let mut hidden = 0;
    for cell in cells {
        if closed.iter().any(|fold| hides(fold, cell)) {
            hidden += 1;
            continue;
        }
        tell_hidden(&mut out, &mut hidden)?;
        let title = cell.piece.map_or("", |piece| piece.tree.language().spec().title);
        let (first, last) = cell.lines;
        writeln!(out, "{HEAD}cell {}{HEAD:#}  {KIND}{title}{KIND:#} {FAINT}{first}-{last}{FAINT:#}", cell.number)?;
        let Some(piece) = cell.piece else { continue };
        let view = CodeView::new(&piece.source, &piece.tree);
        let text = |line: u32| piece.source.lines().text(piece.source.text(), line - 1);
        let shut = closed.iter().any(|fold| fold.kind == FoldKind::Cell && fold.first_line == first);
        let own = looks::folds(input.code().piece(piece));
        let is_closed = |fold: &&Fold| {
            let outer = piece.outer_span(fold.span);
            closed.iter().any(|other| other.kind == fold.kind && other.span == outer)
        };
        let folds: Vec<Fold> = own.iter().filter(is_closed).copied().collect();
        let end = if shut { 1 } else { piece.source.text().lines().count().max(1) as u32 };
        folded(&view, &folds, (1, end), text)?;
    }
    tell_hidden(&mut out, &mut hidden)
}

fn tell_hidden(out: &mut impl Write, hidden: &mut usize) -> std::io::Result<()> {
    if *hidden > 0 {
        writeln!(out, "     {MARK}\u{22ef} {}{MARK:#}", super::count(*hidden, "cell"))?;
    }
    *hidden = 0;
    Ok(())
}
