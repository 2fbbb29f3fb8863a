//! Imports in pieces of other languages: scripts of a page, fences of a text, cells of a notebook. Each piece is put in order on its own.
//! The cells of a notebook use what others import; a fence is an example, which may show imports for themselves, so that none goes.

use std::collections::HashMap;

use vknot_style::Style;
use vknot_syntax::{Embedded, NodeId, Role, Span};

use crate::keeps::kept_spans;
use crate::receipt::{Fate, LeftAlone, Note, Receipt};
use crate::reshape::Reshape;
use crate::spec::{Code, ImportSpec};
use crate::spec::imports::{Alone, Uses, Wants};
use super::organizing::{Acts, Organizing, Wanted};
use super::words::{imports_of, words};

/// Puts the imports of all pieces in order. With `only`, those that the spans touch.
pub(super) fn organize(code: Code<'_>, style: &Style, only: Option<&[Span]>, wanted: &Wanted) -> Reshape {
    let mut reshape = Reshape::default();
    let prunes = wanted.acts.prune && !code.toolkit().has_headings;
    let wanted = Wanted { acts: Acts { prune: prunes, ..wanted.acts }, ..Wanted::default() };
    let mut shared: HashMap<&str, Uses<'_>> = HashMap::new();
    let kept = kept_spans(code);
    for (index, piece) in code.tree.embedded().iter().enumerate() {
        let inner = code.piece(piece);
        let Some(spec) = inner.toolkit().imports.filter(|_| !piece.tree.gave_up()) else { continue };
        let within: Option<Vec<Span>> =
            only.map(|only| only.iter().filter_map(|outer| piece.inner_span(*outer)).collect());
        let is_kept = kept.iter().any(|kept| kept.covers(piece.span()));
        if is_kept || within.as_ref().is_some_and(Vec::is_empty) {
            continue;
        }
        if parted(code, piece, spec) {
            let text = "imports stay as they are: commands of the notebook stand among them".to_owned();
            reshape.receipt.notes.push(Note { span: piece.span(), text });
            continue;
        }
        let style = style.for_language(inner.toolkit().style);
        let wants = super::wants(&style);
        let cell = code.tree.role(piece.host) == Role::Cell;
        let language = piece.tree.language().name();
        if cell && prunes && !shared.contains_key(language) {
            shared.insert(language, uses_of_cells(code, language, &wants));
        }
        let beside = shared.get(language).filter(|_| cell);
        let organizing = Organizing {
            code: inner,
            spec,
            style: &style,
            wanted: &wanted,
            wants,
            around: &Alone,
            beside,
            margin: margin(code, piece),
        };
        let done = organizing.organized(within.as_deref());
        take(code, index, piece, done, &mut reshape);
    }
    reshape
}

/// The white space in front of a piece on its first line.
fn margin<'a>(code: Code<'a>, piece: &Embedded) -> &'a str {
    let start = piece.span().start;
    let before = code.source.slice(Span::new(code.source.line_start(start), start));
    if before.trim().is_empty() { before } else { "" }
}

/// What all cells of a notebook in a language use: those that are commands, and commands in others, by any word.
fn uses_of_cells<'a>(code: Code<'a>, language: &str, wants: &Wants) -> Uses<'a> {
    let tree = code.tree;
    let mut all = Uses::default();
    for piece in tree.embedded().iter().filter(|piece| piece.tree.language().name() == language) {
        let inner = code.piece(piece);
        let uses = inner.toolkit().imports.and_then(|spec| spec.uses);
        all = all.with(uses.map(|uses| uses(inner, wants)).as_ref());
        all.names.extend(commands(code, piece).flat_map(|command| words(inner.source.slice(command))));
    }
    let cells = (0..tree.nodes().len() as u32).map(NodeId).filter(|id| tree.role(*id) == Role::Cell);
    for cell in cells.filter(|cell| tree.piece_in(*cell).is_none()) {
        // Line ends are written as escapes there.
        let text = tree.text_of(code.source.text(), cell).split('\\');
        all.names.extend(text.flat_map(words).flat_map(|word| [word, word.get(1..).unwrap_or("")]));
    }
    all
}

/// The lines of a piece that are commands to its notebook, which are read as comments.
fn commands<'p>(code: Code<'p>, piece: &'p Embedded) -> impl Iterator<Item = Span> + 'p {
    let comments = piece.tree.tokens().iter().filter(|token| piece.tree.role(token.node) == Role::Comment);
    let outside = |at: u32| code.source.text().as_bytes().get(piece.outer(at) as usize).copied();
    let inside = |at: u32| piece.source.text().as_bytes().get(at as usize).copied();
    comments.map(|token| token.span()).filter(move |span| outside(span.start) != inside(span.start))
}

/// Whether a command stands among the imports of a piece: it may need those in front of it, and those behind may need it.
fn parted(code: Code<'_>, piece: &Embedded, spec: &ImportSpec) -> bool {
    let imports = imports_of(code.piece(piece), spec.is_import);
    let Some((first, last)) = imports.first().zip(imports.last()) else { return false };
    let among = piece.tree.node(*first).start..piece.tree.node(*last).end;
    commands(code, piece).any(|command| among.contains(&command.start))
}

/// Puts what was done in a piece into the file around it.
fn take(code: Code<'_>, index: usize, piece: &Embedded, done: Reshape, reshape: &mut Reshape) {
    let outer = |span: Span| piece.outer_span(span);
    let Reshape { edits, receipt, .. } = done;
    let written = edits
        .iter()
        .map(|(span, text)| whole_lines(piece, span, text))
        .map(|(span, text)| piece.written(code.source, span, &text));
    // A piece of which nothing is left would be none.
    let some = edits.is_empty() || !edits.apply(piece.source.text()).trim().is_empty();
    let Some(written) = written.collect::<Option<Vec<_>>>().filter(|_| some) else {
        let why = if some { "how they would be written here is not known" } else { "nothing else is here" };
        reshape.receipt.notes.push(Note { span: piece.span(), text: format!("imports stay as they are: {why}") });
        return;
    };
    written.iter().for_each(|(span, text)| reshape.edits.push(*span, text));
    let fates = receipt.imports.iter().map(|fate| Fate { span: outer(fate.span), ..fate.clone() });
    reshape.receipt.imports.extend(fates);
    reshape.receipt.notes.extend(receipt.notes.iter().map(|note| Note {
        span: outer(note.span),
        text: note.text.clone(),
    }));
    reshape.receipt.left_alone.extend(receipt.left_alone.iter().map(|left| LeftAlone {
        span: outer(left.span),
        ..*left
    }));
    if !edits.is_empty() {
        reshape.receipt.pieces.push((index, Receipt { imports: Vec::new(), ..receipt }));
    }
}

/// An edit as it is to be at the end of a piece: the line end there, if there is one, stays, and none comes.
fn whole_lines(piece: &Embedded, span: Span, text: &str) -> (Span, String) {
    let old = piece.source.text();
    let ended = u32::from(old.ends_with('\n'));
    let follows_line = old.get(..span.start as usize).is_some_and(|old| old.ends_with('\n'));
    match text.strip_suffix('\n') {
        _ if span.end < piece.source.span().end => (span, text.to_owned()),
        Some(text) => (Span::new(span.start, span.end - ended), text.to_owned()),
        None if text.is_empty() && follows_line => (Span::new(span.start - 1, span.end - ended), String::new()),
        None => (span, text.to_owned()),
    }
}
