//! Sets lines by structure, in code of other languages inside a file, too.

use std::collections::HashMap;

use vknot_style::{Indentation, Key, Style};
use vknot_syntax::{Embedded, Role, Source, Span};

use crate::spec::Code;
use crate::edits::Edits;
use crate::keeps::{kept_spans, reached};
use crate::receipt::{Decided, LeftAlone, Reason, Receipt};
use crate::reshape::Reshape;
use crate::frames::blocks::{Block, inner_lines};
use super::completed::completed;
use super::kept::{is_mixed, is_open, stand, Stand};
use crate::frames::found::{
    aligns_with_tabs, below_first_line, by_lines, decided_indentation, indentation as found_indentation,
};
use super::levels;
use crate::frames::lines::{any_indented, Line, lines, Margin, Placed, placed, stays_at_margin, touches_blank};
use super::manner;
use super::shown::options;
use crate::frames::broken::lost_from;
use crate::frames::options::Options;
use crate::frames::place::{blank_columns, margin_behind_first, Place};
use crate::spec::indent::LinesBy;

/// Sets the indentation of a file's lines, or of those that some spans touch, by structure.
///
/// Where indentation is meaning, the levels that there are get the size that the style says. Lines inside strings are never touched.
pub fn set(code: Code<'_>, style: &Style, only: Option<&[Span]>) -> Reshape {
    rest(code, style, only, once(code, style, only))
}

/// One round, in which a file is not set again as it is read then.
pub(crate) fn once(code: Code<'_>, style: &Style, only: Option<&[Span]>) -> Reshape {
    set_once(code, style, only, true)
}

/// The rounds behind the first.
pub(crate) fn rest(code: Code<'_>, style: &Style, only: Option<&[Span]>, once: Reshape) -> Reshape {
    if only.is_some() || once.edits.is_empty() {
        return once;
    }
    // What a file shows depends on where its lines stand, and where brackets are missing even how it is read.
    let strict = || settled(code, style, set_once(code, style, None, false), false);
    settled(code, style, once, true).or_else(strict).unwrap_or_else(|| unsettled(code))
}

/// A file that is left as it is, since setting it would never end.
fn unsettled(code: Code<'_>) -> Reshape {
    let left = LeftAlone { span: code.source.span(), reason: Reason::Unsettled };
    Reshape { receipt: Receipt { left_alone: vec![left], ..Receipt::default() }, ..Reshape::default() }
}

/// Columns of a tab among spaces where indentation is meaning.
const TAB_OF_LEVELS: u32 = 8;

/// How often a file is read again at most, until nothing changes.
const ROUNDS: usize = 4;

/// Sets what was set again, as it is read then, until that changes nothing; `None` if that does not end. The edits are to the text
/// as it was at first.
fn settled(code: Code<'_>, style: &Style, once: Reshape, by_ways: bool) -> Option<Reshape> {
    let source = code.source;
    let mut read = Source::from_text(source.path(), once.edits.apply(source.text()));
    let mut tree = code.tree_after(&once, &read);
    for round in 0..ROUNDS {
        let again = set_once(code.other(&read, &tree), style, None, by_ways);
        if again.edits.is_empty() && round == 0 {
            return Some(once);
        }
        if again.edits.is_empty() {
            let edits = blanks_between(source.text(), read.text());
            return (edits.apply(source.text()) == read.text()).then_some(Reshape { edits, ..once });
        }
        let new = Source::from_text(source.path(), again.edits.apply(read.text()));
        tree = code.other(&read, &tree).tree_after(&again, &new);
        read = new;
    }
    None
}

/// What turns the white space at the start of lines into that of another text with the same lines.
fn blanks_between(old: &str, new: &str) -> Edits {
    let blank = |line: &str| line.len() - line.trim_start_matches([' ', '\t']).len();
    let mut edits = Edits::default();
    let mut at = 0;
    for (line, other) in old.split_inclusive('\n').zip(new.split_inclusive('\n')) {
        let (was, wanted) = (&line[..blank(line)], &other[..blank(other)]);
        if was != wanted {
            edits.push(Span::new(at, at + was.len() as u32), wanted);
        }
        at += line.len() as u32;
    }
    edits
}

fn set_once(code: Code<'_>, style: &Style, only: Option<&[Span]>, by_ways: bool) -> Reshape {
    let Code { source, tree, .. } = code;
    let mut receipt = Receipt::default();
    if tree.gave_up() {
        receipt.left_alone.push(LeftAlone { span: source.span(), reason: Reason::GaveUp });
        return Reshape { receipt, ..Reshape::default() };
    }
    let (indentation, decided) = decided_indentation(code, style);
    receipt.indentation = Some((indentation, decided));
    let kept = kept_spans(code);
    receipt.left_alone.extend(kept.iter().map(|span| LeftAlone { span: *span, reason: Reason::Kept }));
    let align_with_tabs = aligns_with_tabs(code, style, indentation);
    let margin = Margin::default();
    let setter = Setter { code, style, indentation, align_with_tabs, margin, begun: false, only, by_ways, kept };
    let edits = setter.edits(&mut receipt);
    Reshape { edits, receipt, ..Reshape::default() }
}

struct Setter<'a> {
    code: Code<'a>,
    style: &'a Style,
    indentation: Indentation,
    /// Whether columns that line something up are made of tabs, too.
    align_with_tabs: bool,
    margin: Margin,
    /// Whether the first line begins elsewhere.
    begun: bool,
    only: Option<&'a [Span]>,
    /// Whether lines of a well-kept file may stand in their author's ways.
    by_ways: bool,
    /// What its author keeps.
    kept: Vec<Span>,
}

impl Setter<'_> {
    fn edits(&self, receipt: &mut Receipt) -> Edits {
        let mut edits: Vec<(Span, String)> = Vec::new();
        let (mut placed, mut well_kept): (Vec<(Line, Place)>, bool) = (Vec::new(), false);
        match self.code.toolkit().indent.spec.lines {
            LinesBy::Structure => (placed, well_kept) = self.by_structure(&mut edits, receipt),
            LinesBy::Levels => {
                let lines = lines(self.code, self.indentation, self.only);
                let was = found_indentation(self.code).map_or(self.indentation, |found| match found.tabs {
                    true => Indentation {
                        size: self.indentation.tab_width,
                        tab_width: self.indentation.tab_width,
                        ..found
                    },
                    // There a tab goes to the next multiple of eight.
                    false => Indentation { tab_width: TAB_OF_LEVELS, ..found },
                });
                let mut places = levels::scaled(self.code, &lines, (was, self.indentation));
                self.move_kept(&lines, &mut places);
                placed = lines.into_iter().zip(places).collect();
            }
            LinesBy::Author => {}
        }
        for (line, place) in &placed {
            if !line.kept {
                edits.push((Span::new(line.start, line.end), self.written(*place)));
            }
        }
        let alike = self.told_together();
        for piece in self.code.tree.embedded() {
            self.embedded(piece, (&placed, well_kept, &alike), &mut edits, &mut receipt.left_alone);
        }
        // What moves along with a line of its own may go on outside of what was asked for.
        let wanted = |span: &Span| self.only.is_none_or(|only| only.iter().any(|only| touches_blank(*only, *span)));
        edits.retain(|(span, blank)| wanted(span) && span.of(self.code.source.text()) != blank);
        if self.code.toolkit().indent.spec.lines != LinesBy::Levels {
            edits.retain(|(span, _)| reached(&self.kept, *span).is_none());
        }
        edits.sort_by_key(|(span, _)| (span.start, span.end));
        let mut sorted = Edits::default();
        edits.iter().for_each(|(span, blank)| sorted.push(*span, blank));
        sorted
    }

    /// Whether its author keeps the line where it stands.
    fn keeps(&self, line: &Line) -> bool {
        reached(&self.kept, Span::new(line.end, line.end + 1)).is_some()
    }

    /// Where indentation is meaning, what its author keeps moves as one with its first line.
    fn move_kept(&self, lines: &[Line], places: &mut [Place]) {
        for part in &self.kept {
            let first = lines.partition_point(|line| line.end < part.start);
            let (Some(from), Some(to)) = (lines.get(first), places.get(first).copied()) else { continue };
            let was =
                blank_columns(self.code.source.slice(Span::new(from.start, from.end)), self.indentation.tab_width);
            for (line, place) in lines
                .iter()
                .zip(places.iter_mut())
                .skip(first)
                .take_while(|(line, _)| line.end < part.end)
            {
                let own =
                    blank_columns(self.code.source.slice(Span::new(line.start, line.end)), self.indentation.tab_width);
                let columns = (own + to.columns()).saturating_sub(was);
                let level = columns - columns % self.indentation.size.max(1);
                *place = Place { level, align: columns - level };
            }
        }
    }

    fn written(&self, place: Place) -> String {
        let mut blank = String::new();
        place.write(self.indentation, self.align_with_tabs, &mut blank);
        blank
    }

    /// Where the lines go, and whether they are well kept.
    fn by_structure(&self, edits: &mut Vec<(Span, String)>, receipt: &mut Receipt) -> (Vec<(Line, Place)>, bool) {
        let completed = completed(self.code);
        let code =
            completed.as_ref().map_or(self.code, |completed| self.code.other(&completed.source, &completed.tree));
        let mut lines = lines(code, self.indentation, self.only);
        self.keep_uncertain(code, &mut lines, &mut receipt.left_alone);
        let indented = any_indented(code);
        lines.iter_mut().for_each(|line| line.kept |= stays_at_margin(code, line, indented) || self.keeps(line));
        if let Some(first) = lines.first_mut().filter(|first| self.begun && first.start == 0) {
            (first.kept, first.found) = (true, self.margin.place);
        }
        let (mut placed, well_kept) = self.placed(code, &lines, receipt);
        let open = is_open(self.style);
        let mixed = well_kept && is_mixed(code, &lines);
        for ((line, place), stays) in lines.iter_mut().zip(&placed.places).zip(&placed.stays) {
            line.kept |= open && (mixed || *stays) && place.columns() == line.found.columns();
        }
        // The last line of a half-written file was taken off before it was read.
        let end = completed.as_ref().map_or(u32::MAX, |completed| completed.end);
        let count = lines.iter().take_while(|line| line.start < end).count();
        lines.truncate(count);
        for block in &mut placed.blocks {
            self.move_block(code, block, (&lines, &placed.places, well_kept), edits);
        }
        (lines.into_iter().zip(placed.places).collect(), well_kept)
    }

    /// Where lines stand: in a file that is well kept as it shows, in a jumble as the style says. Also whether it is well kept.
    fn placed(&self, code: Code<'_>, lines: &[Line], receipt: &mut Receipt) -> (Placed, bool) {
        let rules = |options: &Options| (placed(code, options, self.margin, lines, None), false);
        if !self.by_ways {
            return rules(&options(code, self.style, self.indentation));
        }
        match stand(code, self.style, self.indentation, self.margin, lines) {
            Stand::ByRules(options) => rules(&options),
            Stand::AsWritten(placed, _) => (*placed, true),
            Stand::Kept(kept) => {
                receipt.manner = manner::differences(&kept.style);
                (placed(code, &kept.options, self.margin, lines, Some(kept.ways())), true)
            }
        }
    }

    /// Lines behind a bracket that nothing opened, inside what could not be read, stay where they are.
    fn keep_uncertain(&self, code: Code<'_>, lines: &mut [Line], left_alone: &mut Vec<LeftAlone>) {
        let tree = code.tree;
        for error in tree.errors().filter(|id| tree.role(*id) == Role::Error) {
            let span = tree.node(error).span();
            let wanted = self.only.is_none_or(|only| only.iter().any(|only| only.touches(span)));
            if !wanted || span.start >= self.code.source.span().end {
                continue;
            }
            let lost = lost_from(code, error);
            let lost_span = lost.map(|start| Span::new(start, span.end));
            if let Some(lost) = lost_span {
                let first = lines.partition_point(|line| line.end <= lost.start);
                let inside = lines[first..].iter_mut().take_while(|line| line.end < lost.end);
                inside.for_each(|line| line.kept = true);
            }
            let reason = if lost.is_some() { Reason::SyntaxError } else { Reason::Brackets };
            left_alone.push(LeftAlone { span: lost_span.unwrap_or(span), reason });
        }
    }

    /// Moves the lines of a comment or of prose with its first line.
    fn move_block(
        &self,
        code: Code<'_>,
        block: &mut Block,
        (lines, places, well_kept): (&[Line], &[Place], bool),
        edits: &mut Vec<(Span, String)>,
    ) {
        let source = code.source;
        let behind = lines.partition_point(|line| line.token <= block.token);
        let Some((line, place)) = behind.checked_sub(1).and_then(|at| Some((lines.get(at)?, places.get(at)?))) else {
            return
        };
        if line.kept {
            return;
        }
        let blank = Span::new(line.start, line.end).of(source.text());
        let was = blank_columns(blank, self.indentation.tab_width);
        block.moved = i64::from(place.columns()) - i64::from(was);
        // The column of a comment that leads its line was not known when it waited for the next one.
        if line.token == block.token {
            block.column = place.columns();
        }
        for (span, place) in inner_lines(code, block, self.indentation, well_kept) {
            let stays =
                well_kept && blank_columns(span.of(source.text()), self.indentation.tab_width) == place.columns();
            edits.extend((!stays).then(|| (span, self.written(place))));
        }
    }

    /// Where the lines of a piece begin: with its first line; behind a tag, in a well-kept file, where its second one does if none stands
    /// further out, else one level further in than the tag.
    fn margin_of(&self, piece: &Embedded, placed: &[(Line, Place)], well_kept: bool) -> Margin {
        let span = piece.span();
        let behind = placed.partition_point(|(line, _)| line.end <= span.start);
        match behind.checked_sub(1).and_then(|at| placed.get(at)) {
            Some((line, place)) if line.end == span.start => {
                let moved = i64::from(place.columns()) - i64::from(line.found.columns());
                Margin { place: *place, moved: Some(moved) }
            }
            Some((line, place)) => {
                let moved = i64::from(place.columns()) - i64::from(line.found.columns());
                let own = margin_behind_first(piece.source.text(), self.indentation.tab_width);
                let own = own.filter(|(first, least)| well_kept && first == least);
                let usual = place.deeper(self.indentation.size);
                let set = |(first, _)| usual.with_columns((i64::from(first) + moved).max(0) as u32);
                Margin { place: own.map_or(usual, set), moved: None }
            }
            None => Margin::default(),
        }
    }

    /// Whether the first line of a piece is one of the file's: where the piece is one token.
    fn has_begun(&self, piece: &Embedded) -> bool {
        self.code.tree.node(piece.host).is_leaf()
    }

    /// What levels are in most of the pieces of a language that tell: for those beside them that do not.
    fn told_together(&self) -> HashMap<&'static str, Indentation> {
        let mut votes: HashMap<&'static str, Vec<(Indentation, usize)>> = HashMap::new();
        let pieces = self.code.tree.embedded();
        for piece in pieces.iter().filter(|piece| pieces.len() > 1 && !self.has_begun(piece)) {
            let Some(own) = found_indentation(self.code.piece(piece)) else { continue };
            let told = votes.entry(piece.tree.language().name()).or_default();
            match told.iter_mut().find(|(other, _)| *other == own) {
                Some((_, count)) => *count += 1,
                None => told.push((own, 1)),
            }
        }
        let most = |told: &[(Indentation, usize)]| {
            let all: usize = told.iter().map(|(_, count)| count).sum();
            told.iter().find(|(_, count)| 2 * count > all).map(|(own, _)| *own)
        };
        votes.iter().filter_map(|(language, told)| Some((*language, most(told)?))).collect()
    }

    /// Sets the lines of a piece of another language.
    fn embedded(
        &self,
        piece: &Embedded,
        (placed, well_kept, alike): (&[(Line, Place)], bool, &HashMap<&'static str, Indentation>),
        edits: &mut Vec<(Span, String)>,
        left_alone: &mut Vec<LeftAlone>,
    ) {
        let span = piece.span();
        let verbatim = span.len() as usize == piece.source.text().len();
        let inner: Option<Vec<Span>> =
            self.only.map(|only| only.iter().filter_map(|outer| piece.inner_span(*outer)).collect());
        if inner.as_ref().is_some_and(Vec::is_empty) {
            return;
        }
        let begun = self.has_begun(piece);
        // With lines that are not shown, the piece is no text of its language.
        if !begun && has_hidden_lines(self.code.piece(piece)) {
            return left_alone.push(LeftAlone { span, reason: Reason::SyntaxError });
        }
        let style = self.style.for_language(self.code.piece(piece).toolkit().style);
        let margin = if begun { self.margin_of(piece, placed, well_kept) } else { Margin::default() };
        let mut indentation = if begun {
            let open = [Key::IndentSize, Key::IndentStyle].iter().all(|key| style.word(*key) == "as-found");
            // Tabs behind the spaces of what holds the piece are no levels.
            let fits = |own: &Indentation| margin.place.columns() == 0 || own.tabs == self.indentation.tabs;
            let own = below_first_line(self.code.piece(piece)).filter(|own| open && fits(own));
            own.map_or(self.indentation, |own| with_tabs_of(own, self.indentation))
        } else {
            match (decided_indentation(self.code.piece(piece), &style), alike.get(piece.tree.language().name())) {
                ((_, Decided::ByHabit), Some(alike)) => *alike,
                // A piece is short: a body without brackets may be all there is.
                ((own, Decided::ByHabit), None) => by_lines(self.code.piece(piece)).unwrap_or(own),
                ((own, _), _) => own,
            }
        };
        // A tab may have to be written otherwise in what holds the piece.
        indentation.tabs &= verbatim;
        let only = inner.as_deref();
        let setter = Setter {
            code: self.code.piece(piece),
            style: &style,
            indentation,
            align_with_tabs: aligns_with_tabs(self.code.piece(piece), &style, indentation),
            margin,
            begun,
            only,
            by_ways: self.by_ways,
            kept: kept_spans(self.code.piece(piece)),
        };
        let mut receipt = Receipt::default();
        for (span, blank) in setter.edits(&mut receipt).iter() {
            if span.end < piece.source.span().end {
                edits.push((Span::new(piece.outer(span.start), piece.outer(span.end)), blank.to_owned()));
            }
        }
        left_alone.extend(receipt.left_alone.into_iter().map(|left| LeftAlone {
            span: piece.outer_span(left.span),
            ..left
        }));
    }
}

/// The levels of a piece, with tabs as wide as in what holds it: the file has one kind of them.
fn with_tabs_of(own: Indentation, holder: Indentation) -> Indentation {
    let size = if own.size == own.tab_width { holder.tab_width } else { own.size };
    if own.tabs && holder.tabs { Indentation { size, tab_width: holder.tab_width, ..own } } else { own }
}

/// Whether some lines of a piece are led by what marks them as not shown.
fn has_hidden_lines(code: Code<'_>) -> bool {
    let mark = code.toolkit().indent.spec.hidden;
    let led = |rest: &str| rest.is_empty() || rest.starts_with(' ');
    let hidden = |line: &str| line.trim_start().strip_prefix(mark).is_some_and(led);
    !mark.is_empty() && code.source.text().lines().any(hidden)
}
