//! Places: how they are written, and what they mean in a file.

use std::ffi::{OsStr, OsString};
use std::path::{Path, PathBuf};

use vknot_reshape::Code;
use vknot_reshape::looks::{self, Marks, NamedSpan};
use vknot_syntax::{LineColumn, Source, Span};

/// A position or range in a file, as typed. Lines and columns count from 1, columns in characters.
#[derive(Clone, Debug, PartialEq, Eq)]
pub enum Spot {
    Whole,
    Line(u32),
    Position(LineColumn),
    /// From a line to a line, both included.
    Lines(u32, u32),
    /// The end is not included.
    Range(LineColumn, LineColumn),
    /// A name in the outline.
    Name(String),
}

/// A file with a spot in it.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct Place {
    pub file: PathBuf,
    pub spot: Spot,
}

/// Stands in front of a place in standard input while arguments are read, since `-:3` would be taken for an option.
const SHIELD: char = '\u{e000}';

/// Shields an argument that is a place in standard input.
pub fn shield(argument: OsString) -> OsString {
    match argument.to_str() {
        Some(text) if text.starts_with("-:") || text.starts_with("-@") => format!("{SHIELD}{text}").into(),
        _ => argument,
    }
}

impl Place {
    /// Takes a place apart. What names an existing file as a whole is that file, and so is what is no text.
    pub fn parse(argument: &OsStr) -> Place {
        let whole = |file: &OsStr| Place { file: file.into(), spot: Spot::Whole };
        let Some(text) = argument.to_str() else { return whole(argument) };
        let text = text.strip_prefix(SHIELD).unwrap_or(text);
        if text == "-" || Path::new(text).exists() {
            return whole(text.as_ref());
        }
        let spots = text.match_indices(':').filter(|(at, _)| *at > 0).filter_map(|(at, _)| {
            let spot = parse_spot(&text[at + 1..])?;
            Some(Place { file: text[..at].into(), spot })
        });
        let names = text.match_indices('@').filter(|(at, _)| *at > 0 && at + 1 < text.len());
        let names = names.map(|(at, _)| Place { file: text[..at].into(), spot: Spot::Name(text[at + 1..].to_owned()) });
        // Folders and files may have either mark in their names: what exists tells.
        let mut candidates: Vec<Place> = spots.chain(names).collect();
        let known = |place: &Place| place.file == Path::new("-") || place.file.is_file();
        if candidates.iter().any(known) {
            candidates.retain(known);
            candidates.sort_by_key(|place| place.file.as_os_str().len());
            return candidates.pop().unwrap_or_else(|| whole(text.as_ref()));
        }
        let first_spot = candidates.iter().position(|place| !matches!(place.spot, Spot::Name(_)));
        match first_spot.or(candidates.len().checked_sub(1)) {
            Some(index) => candidates.swap_remove(index),
            None => whole(text.as_ref()),
        }
    }
}

/// `LINE`, `LINE:COL`, `LINE-LINE` or `LINE:COL-LINE:COL`.
pub fn parse_spot(text: &str) -> Option<Spot> {
    let position = |text: &str| -> Option<(u32, Option<u32>)> {
        match text.split_once(':') {
            Some((line, column)) => Some((line.parse().ok()?, Some(column.parse().ok()?))),
            None => Some((text.parse().ok()?, None)),
        }
    };
    match text.split_once('-') {
        None => Some(match position(text)? {
            (line, None) => Spot::Line(line),
            (line, Some(column)) => Spot::Position(LineColumn { line, column }),
        }),
        Some((from, to)) => match (position(from)?, position(to)?) {
            ((from, None), (to, None)) => Some(Spot::Lines(from, to)),
            ((from, Some(column)), (to, Some(end))) => {
                Some(Spot::Range(LineColumn { line: from, column }, LineColumn { line: to, column: end }))
            }
            _ => None,
        },
    }
}

impl Spot {
    /// The bytes a spot stands for. A line alone stands for its text, a position for the empty span there.
    ///
    /// # Errors
    /// With a message that says what the file does have there.
    pub fn resolve(&self, code: Code<'_>, marks: &Marks) -> Result<Span, String> {
        let source = code.source;
        let offset = |at: LineColumn| {
            // Behind the last line end is where a range may end, though no line begins there.
            let behind = at.column == 1 && at.line == source.lines().count() + 1 && source.text().ends_with('\n');
            match source.lines().offset(source.text(), at) {
                None if behind => Ok(source.span().end),
                found => found.ok_or_else(|| no_position(source, at)),
            }
        };
        let line = |number: u32| match number {
            0 => Err("lines count from 1".to_owned()),
            _ if number > source.lines().count() => Err(no_line(source, number)),
            _ => Ok(source.lines().span(source.text(), number - 1)),
        };
        match self {
            Spot::Whole => Ok(source.span()),
            Spot::Line(number) => line(*number),
            Spot::Position(at) => offset(*at).map(|at| Span::new(at, at)),
            Spot::Lines(from, to) if to < from => Err(format!("line {to} comes before line {from}; turn them around")),
            Spot::Lines(from, to) => Ok(Span::new(line(*from)?.start, line(*to)?.end)),
            Spot::Range(from, to) => {
                let (start, end) = (offset(*from)?, offset(*to)?);
                match start <= end {
                    true => Ok(Span::new(start, end)),
                    false => Err("the range ends before it begins; turn its ends around".to_owned()),
                }
            }
            Spot::Name(name) => named(code, marks, name),
        }
    }
}

fn no_line(source: &Source, number: u32) -> String {
    let count = source.lines().count();
    format!("there is no line {number}; the file has {count} line{}", if count == 1 { "" } else { "s" })
}

fn no_position(source: &Source, at: LineColumn) -> String {
    if at.line == 0 || at.column == 0 {
        return "lines and columns count from 1".to_owned();
    }
    if at.line > source.lines().count() {
        return no_line(source, at.line);
    }
    let text = source.lines().text(source.text(), at.line - 1);
    let columns = text.chars().count();
    match text.trim() {
        "" => format!("line {} has no column {}; it is blank", at.line, at.column),
        shown => format!("line {} has no column {}; it has {columns}: `{shown}`", at.line, at.column),
    }
}

/// Finds a name among the pins, in the outline, among regions and sections.
fn named(code: Code<'_>, marks: &Marks, name: &str) -> Result<Span, String> {
    let source = code.source;
    if let Some(pin) = marks.pins.iter().find(|pin| pin.name == name) {
        return Ok(pin.span);
    }
    let marked = marked(code, marks);
    let entries = looks::outline(code);
    let found = looks::find_by_name(&entries, name);
    let called: Vec<Span> = marked.iter().filter(|other| other.name == name).map(|other| other.span).collect();
    match found.as_slice() {
        [one] => Ok(entries[*one].span),
        [] if called.len() == 1 => Ok(called[0]),
        [] if called.len() > 1 => {
            let lines: Vec<String> = called.iter().map(|span| source.line(span.start).to_string()).collect();
            Err(
                format!("{} regions or sections are named `{name}`, at lines {}; give a line", called.len(), lines.join(", ")),
            )
        }
        [] if marks.lost_pins.iter().any(|lost| lost == name) => Err(format!(
            "the pin `{name}` is lost: `vknot pin list` shows what it held, and `vknot pin move` puts it on other lines"
        )),
        [] if entries.is_empty() && marked.is_empty() && marks.pins.is_empty() =>
            Err(format!("nothing is named `{name}`; the file has no outline")),
        [] => {
            let others = marked.iter().chain(&marks.pins).map(|other| other.name.as_str());
            let mut names: Vec<&str> = entries.iter().map(|entry| entry.name.as_str()).chain(others).collect();
            let mut seen = std::collections::HashSet::new();
            names.retain(|name| seen.insert(*name));
            let shown = nearest(&names, name).join(", ");
            let where_from = if entries.is_empty() { "the file has" } else { "the outline has" };
            Err(format!("nothing is named `{name}`; {where_from} {shown}"))
        }
        several => {
            let lines: Vec<String> =
                several.iter().map(|index| source.line(entries[*index].span.start).to_string()).collect();
            let holder = several.iter().find_map(|index| entries[*index].parent).map(|parent| &entries[parent].name);
            let hint = match holder {
                Some(holder) => format!("name what holds it, too (`{holder}.{name}`), or give a line"),
                None => "give a line".to_owned(),
            };
            Err(format!("{} items are named `{name}`, at lines {}; {hint}", several.len(), lines.join(", ")))
        }
    }
}

/// The regions and sections of a file that have a name.
fn marked(code: Code<'_>, marks: &Marks) -> Vec<NamedSpan> {
    let regions = looks::regions(code, marks).regions.into_iter();
    let regions = regions.map(|region| NamedSpan { span: region.span(), name: region.name });
    let sections = looks::sections(code, marks).into_iter();
    let sections = sections.map(|section| NamedSpan { name: section.name, span: section.span });
    regions.chain(sections).filter(|marked| !marked.name.is_empty()).collect()
}

/// Up to eight names: first those that share a beginning or a part with what was asked for.
fn nearest<'n>(names: &[&'n str], wanted: &str) -> Vec<&'n str> {
    let last = wanted.rsplit('.').next().unwrap_or(wanted).to_lowercase();
    let distance = |name: &&str| {
        let name = name.to_lowercase();
        let shared = name.chars().zip(last.chars()).take_while(|(a, b)| a == b).count();
        match name.contains(&last) || last.contains(&name) {
            true => 0,
            false => 100 - shared.min(100),
        }
    };
    let mut sorted: Vec<&str> = names.to_vec();
    sorted.sort_by_key(distance);
    sorted.truncate(8);
    sorted
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn places_are_taken_apart() {
        let at = |line, column| LineColumn { line, column };
        for (text, file, spot) in [
            ("Gauge.java", "Gauge.java", Spot::Whole),
            ("Gauge.java:3", "Gauge.java", Spot::Line(3)),
            ("Gauge.java:3:7", "Gauge.java", Spot::Position(at(3, 7))),
            ("a-b.java:3-9", "a-b.java", Spot::Lines(3, 9)),
            ("Gauge.java:3:7-4:1", "Gauge.java", Spot::Range(at(3, 7), at(4, 1))),
            ("Gauge.java@Gauge.record", "Gauge.java", Spot::Name("Gauge.record".into())),
            ("c:odd:3", "c:odd", Spot::Line(3)),
            ("Gauge.java:x", "Gauge.java:x", Spot::Whole),
            ("packages/@tide/core@2/Gauge.ts:3:7", "packages/@tide/core@2/Gauge.ts", Spot::Position(at(3, 7))),
            ("site.css@.card", "site.css", Spot::Name(".card".into())),
            ("-:2:1", "-", Spot::Position(at(2, 1))),
        ] {
            assert_eq!(Place::parse(text.as_ref()), Place { file: file.into(), spot }, "{text}");
        }
    }
}
