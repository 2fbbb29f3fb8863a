//! Puts region markers around lines, and takes them away again. Nothing but marker comments comes or goes.

use vknot_syntax::{Language, NodeId, Role, Span, Tree};

use crate::spec::Code;
use crate::edits::Edits;
use crate::items::Sequence;
use crate::looks::Region;
use crate::spec::looks::{LookSpec, RegionMarkers};
use crate::receipt::TokenChange;
use crate::reshape::Reshape;

/// Why a region cannot be put there.
#[derive(Clone, Debug, PartialEq, Eq, thiserror::Error)]
pub enum RegionError {
    /// An item begins outside of the lines and ends inside, or the other way round.
    #[error("lines {from}-{to} cut through the item on lines {first}-{last}; lines {fits_from}-{fits_to} would do")]
    CutsThrough {
        /// First line asked for.
        from: u32,
        /// Last line asked for.
        to: u32,
        /// First line of the item.
        first: u32,
        /// Last line of the item.
        last: u32,
        /// First line of the range that holds whole items.
        fits_from: u32,
        /// Its last line.
        fits_to: u32,
    },
    /// The language has no comments.
    #[error("{language} has no comments to put a marker in")]
    NoComments {
        /// The language's title.
        language: &'static str,
    },
    /// The lines are blank.
    #[error("there is nothing on these lines to put a region around")]
    Blank,
    /// A marker's text would not be one comment.
    #[error("`{name}` cannot be a region's name; leave out line breaks and what ends a comment")]
    Name {
        /// The name asked for.
        name: String,
    },
}

/// The markers of a region of that name, as its language writes them.
pub(crate) fn markers(
    language: &'static Language,
    looks: &LookSpec,
    name: &str,
) -> Result<(String, String), RegionError> {
    let spec = language.spec();
    let comment = |text: &str| match (spec.line_comment, spec.block_comment) {
        ("", ("", _)) => Err(RegionError::NoComments { language: spec.title }),
        ("", (open, close)) => Ok(format!("{open} {text} {close}")),
        (mark, _) => Ok(format!("{mark} {text}")),
    };
    let ends = |mark: &str| !mark.is_empty() && name.contains(mark);
    if name.contains(['\n', '\r']) || ends(spec.block_comment.1) || name.trim().is_empty() {
        return Err(RegionError::Name { name: name.to_owned() });
    }
    match looks.region_markers {
        RegionMarkers::Directive => Ok((format!("#region {name}"), "#endregion".to_owned())),
        RegionMarkers::Pragma => Ok((format!("#pragma region {name}"), "#pragma endregion".to_owned())),
        RegionMarkers::Braced => Ok((format!("{{$REGION '{name}'}}"), "{$ENDREGION}".to_owned())),
        RegionMarkers::Nothing => Err(RegionError::NoComments { language: spec.title }),
        RegionMarkers::Comment => Ok((comment(&format!("region {name}"))?, comment("endregion")?)),
    }
}

/// Puts a region around the lines that a span touches, less blank ones at their ends.
///
/// # Errors
/// When the lines cut through an item, are blank, or the language has no comments.
pub fn add(code: Code<'_>, span: Span, name: &str) -> Result<Reshape, RegionError> {
    let Code { source, tree, .. } = code;
    let (open, close) = markers(tree.language(), code.toolkit().looks, name)?;
    let first = tree.token_from(source.line_start(span.start));
    let (_, last_line) = source.line_range(span);
    let end = source.lines().span(source.text(), last_line - 1).end;
    let behind = tree.token_from(end);
    if behind <= first {
        return Err(RegionError::Blank);
    }
    let start = tree.tokens()[with_comments(code, first) as usize].start;
    let stop = tree.tokens()[behind as usize - 1].end;
    let wanted = Span::new(start, stop);
    let fits = whole_items(code, wanted);
    if let Some((item, fits)) = fits.filter(|(_, fits)| source.line_range(*fits) != source.line_range(wanted)) {
        let ((from, to), (first, last)) = (source.line_range(wanted), source.line_range(tree.node(item).span()));
        let (fits_from, fits_to) = source.line_range(fits);
        return Err(RegionError::CutsThrough { from, to, first, last, fits_from, fits_to });
    }
    let (first_line, last_line) = source.line_range(wanted);
    let indent = source.slice(source.line_blank(source.lines().start(first_line - 1)));
    let line_end = source.facts().line_end().text();
    let mut edits = Edits::default();
    let at = source.lines().start(first_line - 1);
    edits.push(Span::new(at, at), &format!("{indent}{open}{line_end}"));
    let behind_last = source.lines().span(source.text(), last_line - 1).end;
    match last_line < source.lines().count() {
        true => {
            let next = source.lines().start(last_line);
            edits.push(Span::new(next, next), &format!("{indent}{close}{line_end}"));
        }
        false => edits.push(Span::new(behind_last, behind_last), &format!("{line_end}{indent}{close}")),
    }
    let mut reshape = Reshape { edits, ..Reshape::default() };
    let added = |text: String, offset| TokenChange { text, offset, token: tree.token_from(offset) };
    reshape.receipt.added = vec![added(open, start), added(close, behind_last)];
    Ok(reshape)
}

/// The first of the comments that stand directly above a token, which belong to what it begins.
fn with_comments(code: Code<'_>, token: u32) -> u32 {
    let Code { source, tree, .. } = code;
    let mut first = token;
    while let Some(before) = first.checked_sub(1) {
        let (comment, next) = (tree.tokens()[before as usize].span(), tree.tokens()[first as usize].span());
        let above = source.line(comment.end) + 1 == source.line(next.start);
        let begins_line = source.begins_line(comment.start);
        if !(tree.is_comment(before) && above && begins_line) || crate::looks::is_region_marker(source.slice(comment)) {
            break;
        }
        first = before;
    }
    first
}

/// The smallest run of whole items of one sequence that covers a span, with the item that is cut by the span.
fn whole_items(code: Code<'_>, span: Span) -> Option<(NodeId, Span)> {
    let tree = code.tree;
    let mut holder = tree.covering(span);
    // Tokens and parts of an item stand for the item.
    while let Some(parent) = tree.parent(holder) && !holds_items(tree, holder) {
        holder = parent;
    }
    let sequence = Sequence::of(code, holder);
    let (mut found, mut cut) = (span, None);
    for item in &sequence.items {
        let own = Span::new(tree.node(item.node).start, tree.node(item.last()).end);
        if own.is_empty() || !own.touches(span) || own.end == span.start || own.start == span.end {
            continue;
        }
        if !span.covers(own) {
            cut = Some(item.node);
        }
        found = Span::new(found.start.min(own.start), found.end.max(own.end));
    }
    // The brackets of the sequence itself cannot be wrapped without it.
    let brackets = sequence.brackets.into_iter().flat_map(|(open, close)| [open, close]);
    let holds_bracket = holder.0 != 0 && brackets.into_iter().any(|bracket| span.covers(tree.node(bracket).span()));
    match cut {
        Some(cut) => Some((cut, found)),
        None if holds_bracket && tree.node(holder).span() != span => Some((holder, tree.node(holder).span())),
        None => None,
    }
}

fn holds_items(tree: &Tree, id: NodeId) -> bool {
    tree.role(id).is_sequence() || matches!(tree.role(id), Role::Element | Role::Form | Role::Arm)
}

/// Takes the markers of a region away, with their lines where nothing else is on them.
pub fn remove(code: Code<'_>, region: &Region) -> Reshape {
    let Code { source, tree, .. } = code;
    let mut reshape = Reshape::default();
    for marker in [region.open, region.close] {
        let line = source.lines().index_at(marker.start);
        let whole = source.lines().span(source.text(), line);
        let alone = source.slice(whole).trim() == source.slice(marker).trim();
        let span = match alone {
            true if line + 1 < source.lines().count() => Span::new(whole.start, source.lines().start(line + 1)),
            // The last line goes with the line end in front of it.
            true => Span::new(
                line.checked_sub(1).map_or(0, |above| source.lines().span(source.text(), above).end),
                whole.end,
            ),
            false => marker,
        };
        reshape.edits.push(span, "");
        let removed = TokenChange {
            text: source.slice(marker).to_owned(),
            offset: marker.start,
            token: tree.token_from(marker.start),
        };
        reshape.receipt.removed.push(removed);
    }
    reshape
}
