//! SARIF 2.1.0 (OASIS), for code-scanning services: one result for each file that would change, with its fix.

use std::fmt::Write as _;
use std::io::Write;

use serde_json::{json, Value};
use vknot_reshape::Edits;
use vknot_syntax::{Source, Span};

use crate::problem::Problem;

/// One file's change.
pub struct Finding<'f> {
    pub shown: &'f str,
    pub source: &'f Source,
    pub edits: &'f Edits,
    /// Whether a byte-order mark is put in front, or taken off.
    pub bom: Option<bool>,
}

/// The whole log. `rule` is the command's name.
pub fn log(rule: &str, help: &str, findings: &[Finding<'_>], problems: &[Problem]) -> Value {
    run(rule, help, &findings.iter().map(|finding| result(rule, help, finding)).collect::<Vec<_>>(), problems)
}

fn run(rule: &str, help: &str, results: &[Value], problems: &[Problem]) -> Value {
    json!({
        "$schema": "https://json.schemastore.org/sarif-2.1.0.json",
        "version": "2.1.0",
        "runs": [{
            "tool": { "driver": {
                "name": "vknot",
                "version": env!("CARGO_PKG_VERSION"),
                "rules": [{ "id": rule, "shortDescription": { "text": help } }],
            } },
            "invocations": [{
                "executionSuccessful": problems.is_empty(),
                "toolExecutionNotifications": problems.iter().map(notification).collect::<Vec<_>>(),
            }],
            "columnKind": "unicodeCodePoints",
            "results": results,
        }],
    })
}

/// Something that could not be done.
fn notification(problem: &Problem) -> Value {
    let mut location = json!({ "artifactLocation": { "uri": uri(&problem.file) } });
    if let Some((line, column)) = problem.at.filter(|(line, column)| *line > 0 && *column > 0) {
        location["region"] = json!({ "startLine": line, "startColumn": column });
    }
    json!({
        "level": "error",
        "message": { "text": problem.message },
        "locations": [{ "physicalLocation": location }],
    })
}

/// A path as a URI reference, after RFC 3986: everything but unreserved characters and `/` is escaped.
fn uri(path: &str) -> String {
    let mut uri = String::with_capacity(path.len());
    if path.starts_with('/') {
        uri.push_str("file://");
    }
    for byte in path.bytes() {
        match byte {
            b'/' if std::path::MAIN_SEPARATOR == '/' => uri.push('/'),
            b'/' | b'\\' if std::path::MAIN_SEPARATOR == '\\' => uri.push('/'),
            b'a'..=b'z' | b'A'..=b'Z' | b'0'..=b'9' | b'-' | b'.' | b'_' | b'~' => uri.push(byte.into()),
            _ => drop(write!(uri, "%{byte:02X}")),
        }
    }
    uri
}

/// Something found that has no fix.
pub struct Note<'f> {
    pub shown: &'f str,
    pub source: &'f Source,
    pub span: Span,
    pub message: String,
}

/// A log of what was found. `rule` is the command's name.
pub fn notes(rule: &str, help: &str, notes: &[Note<'_>], problems: &[Problem]) -> Value {
    let result = |note: &Note<'_>| {
        json!({
            "ruleId": rule,
            "level": "note",
            "message": { "text": note.message },
            "locations": [{ "physicalLocation": {
                "artifactLocation": { "uri": uri(note.shown) },
                "region": region(note.source, note.span),
            } }],
        })
    };
    run(rule, help, &notes.iter().map(result).collect::<Vec<_>>(), problems)
}

/// Prints a log.
///
/// # Errors
/// When standard output cannot be written to.
pub fn print(log: &Value) -> anyhow::Result<()> {
    let mut out = super::stdout();
    serde_json::to_writer_pretty(&mut out, log)?;
    writeln!(out)?;
    Ok(())
}

fn result(rule: &str, help: &str, finding: &Finding<'_>) -> Value {
    let first = finding.edits.iter().next().map_or_else(|| Span::new(0, 0), |(span, _)| span);
    let edits = finding.edits.iter().map(|(span, text)| {
        json!({ "deletedRegion": region(finding.source, span), "insertedContent": { "text": text } })
    });
    // The mark is no character of the text, so that only bytes can tell its place.
    let mark = finding.bom.map(|put| {
        let (length, text) = if put { (0, "\u{feff}") } else { (3, "") };
        json!({ "deletedRegion": { "byteOffset": 0, "byteLength": length }, "insertedContent": { "text": text } })
    });
    let replacements: Vec<Value> = mark.into_iter().chain(edits).collect();
    let artifact = json!({ "uri": uri(finding.shown) });
    json!({
        "ruleId": rule,
        "level": "warning",
        "message": { "text": help },
        "locations": [{ "physicalLocation": {
            "artifactLocation": artifact,
            "region": region(finding.source, first),
        } }],
        "fixes": [{
            "description": { "text": format!("Run vknot {rule}") },
            "artifactChanges": [{ "artifactLocation": artifact, "replacements": replacements }],
        }],
    })
}

fn region(source: &Source, span: Span) -> Value {
    let (start, end) = (source.line_column(span.start), source.line_column(span.end));
    json!({
        "startLine": start.line,
        "startColumn": start.column,
        "endLine": end.line,
        "endColumn": end.column,
    })
}

#[cfg(test)]
mod tests {
    use super::uri;

    #[test]
    fn paths_become_uris() {
        for (path, escaped) in [
            ("src/Gauge.java", "src/Gauge.java"),
            ("/tide/a b[1]#%.rs", "file:///tide/a%20b%5B1%5D%23%25.rs"),
            ("nörd\n.rs", "n%C3%B6rd%0A.rs"),
        ] {
            assert_eq!(uri(path), escaped);
        }
        assert_eq!(uri("a\\b"), if cfg!(windows) { "a/b" } else { "a%5Cb" });
    }
}
