//! Regions: lines between an opening and a closing marker comment, with a name. Regions nest.

use vknot_syntax::Span;

use crate::spec::Code;

use super::comments;
use super::marks::Marks;

/// A region, from the line of its opening marker to that of its closing one.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct Region {
    /// Its name; empty if it has none.
    pub name: String,
    /// The opening marker.
    pub open: Span,
    /// The closing marker.
    pub close: Span,
    /// How many regions hold it.
    pub depth: u32,
}

impl Region {
    /// From the opening marker to the end of the closing one.
    pub fn span(&self) -> Span {
        Span::new(self.open.start, self.close.end)
    }
}

/// A marker without a partner.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct LoneMarker {
    /// The marker left over when markers are matched in order.
    pub span: Span,
    /// Whether it opens a region.
    pub opens: bool,
    /// The other suspect: the marker that took, or would have been, its partner.
    pub suspect: Option<Span>,
}

/// The regions of a file.
#[derive(Clone, Debug, Default, PartialEq, Eq)]
pub struct Regions {
    /// Regions by their opening marker.
    pub regions: Vec<Region>,
    /// Markers without a partner.
    pub lone: Vec<LoneMarker>,
}

/// What a marker says.
enum Marker {
    Open(String),
    Close(String),
}

/// All regions of a file, and markers that have no partner.
///
/// A closing marker that says a name closes the region of that name if one is open, and those opened since are reported;
/// any other closes the region opened last.
pub fn regions(code: Code<'_>, marks: &Marks) -> Regions {
    let source = code.source;
    let mut found = Regions::default();
    let mut open: Vec<(Span, String)> = Vec::new();
    // Most files have none, which is told at once.
    let spoken = |text: &str| ["egion", "EGION"].iter().any(|word| text.contains(word));
    if marks.regions.is_empty() && !spoken(source.text()) {
        return found;
    }
    for comment in comments(code) {
        match marker(source.slice(comment.span), marks) {
            Some(Marker::Open(name)) => open.push((comment.span, name)),
            Some(Marker::Close(name)) => close(&mut open, comment.span, &name, &mut found),
            None => {}
        }
    }
    let last_closed = found.regions.last().map(|region| region.close);
    for (span, _) in open {
        // A region inside it may have taken the closing marker that was meant for it.
        let suspect =
            found.regions.iter().rev().find(|region| region.open.start > span.start).map(|region| region.close);
        found.lone.push(LoneMarker {
            span,
            opens: true,
            suspect: suspect.or(last_closed.filter(|close| close.start > span.start)),
        });
    }
    found.regions.sort_by_key(|region| region.open.start);
    found.lone.sort_by_key(|lone| lone.span.start);
    let mut ends: Vec<u32> = Vec::new();
    for region in &mut found.regions {
        while ends.last().is_some_and(|end| *end <= region.open.start) {
            ends.pop();
        }
        region.depth = ends.len() as u32;
        ends.push(region.close.end);
    }
    found
}

fn close(open: &mut Vec<(Span, String)>, span: Span, name: &str, found: &mut Regions) {
    let named = (!name.is_empty()).then(|| open.iter().rposition(|(_, other)| other == name)).flatten();
    let Some(at) = named.or(open.len().checked_sub(1)) else {
        let suspect = found.regions.last().map(|region| region.open);
        return found.lone.push(LoneMarker { span, opens: false, suspect });
    };
    for (left, _) in open.drain(at + 1..) {
        found.lone.push(LoneMarker { span: left, opens: true, suspect: Some(span) });
    }
    if let Some((opening, name)) = open.pop() {
        found.regions.push(Region { name, open: opening, close: span, depth: 0 });
    }
}

/// Whether a comment is one of the usual markers.
pub(crate) fn is_region_marker(text: &str) -> bool {
    marker(text, &Marks::default()).is_some()
}

/// Takes a comment for a marker: `region NAME`, `endregion`, also as `#region`, `#pragma region` and `{$REGION 'NAME'}`,
/// and the project's own.
fn marker(text: &str, marks: &Marks) -> Option<Marker> {
    let first = text.lines().next()?;
    let spoken = |word: &[u8]| word.eq_ignore_ascii_case(b"region");
    if marks.regions.is_empty() && !first.as_bytes().windows(6).any(spoken) {
        return None;
    }
    let body = comments::body(first).trim_start_matches(['$', '@']);
    let body = body.strip_prefix("pragma").map_or(body, str::trim_start);
    for (opening, closing) in &marks.regions {
        if let Some(rest) = after_word(body, closing) {
            return Some(Marker::Close(name(rest)));
        }
        if let Some(rest) = after_word(body, opening) {
            return Some(Marker::Open(name(rest)));
        }
    }
    // A sentence that begins with the word is no marker: the mark must be alone or have a marker's form.
    let marked =
        first.contains("#region") || first.contains("#endregion") || first.contains("pragma") || first.contains("{$");
    if let Some(rest) = ["endregion", "end region"].iter().find_map(|word| after_word(body, word)) {
        return Some(Marker::Close(name(rest)));
    }
    let rest = after_word(body, "region")?;
    let named = rest.starts_with([':', '\'', '"']) || marked || rest.split_whitespace().count() <= WORDS_AT_MOST;
    (named && !rest.ends_with('.')).then(|| Marker::Open(name(rest)))
}

/// A region's name in a plain comment has at most this many words; more make a sentence.
const WORDS_AT_MOST: usize = 4;

/// What follows a word, whatever its case, if that is all of a word.
fn after_word<'t>(text: &'t str, word: &str) -> Option<&'t str> {
    let head = text.get(..word.len()).filter(|head| head.eq_ignore_ascii_case(word))?;
    let rest = text.get(head.len()..)?;
    (!rest.starts_with(|c: char| c.is_alphanumeric() || c == '_')).then(|| rest.trim())
}

fn name(text: &str) -> String {
    let text = text.trim_start_matches(':').trim();
    text.trim_matches(|c| matches!(c, '\'' | '"' | '}')).trim().to_owned()
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn markers_are_told_from_sentences() {
        for (text, expected) in [
            ("// region Tides", "open Tides"),
            ("#region High water", "open High water"),
            ("#pragma region Gauges", "open Gauges"),
            ("{$REGION 'Harbour'}", "open Harbour"),
            ("{$ENDREGION}", "close "),
            ("<!-- endregion Tides -->", "close Tides"),
            ("% region", "open "),
            ("// region of the harbour is read from the table.", ""),
            ("// regional notices", ""),
        ] {
            let shown = match marker(text, &Marks::default()) {
                Some(Marker::Open(name)) => format!("open {name}"),
                Some(Marker::Close(name)) => format!("close {name}"),
                None => String::new(),
            };
            assert_eq!(shown, expected, "{text}");
        }
    }
}
