//! SARIF 2.1.0 (OASIS), for code-scanning services: one result for each file that would change, with its fix.

use std::io::Write;

use serde_json::{json, Value};
use vknot_reshape::Edits;
use vknot_syntax::{Source, Span};

/// One file's change.
pub struct Finding<'f> {
    pub shown: &'f str,
    pub source: &'f Source,
    pub edits: &'f Edits,
}

/// The whole log. `rule` is the command's name.
pub fn log(rule: &str, help: &str, findings: &[Finding<'_>]) -> Value {
    run(rule, help, &findings.iter().map(|finding| result(rule, help, finding)).collect::<Vec<_>>())
}

fn run(rule: &str, help: &str, results: &[Value]) -> Value {
    json!({
        "$schema": "https://json.schemastore.org/sarif-2.1.0.json",
        "version": "2.1.0",
        "runs": [{
            "tool": { "driver": {
                "name": "vknot",
                "version": env!("CARGO_PKG_VERSION"),
                "rules": [{ "id": rule, "shortDescription": { "text": help } }],
            } },
            "columnKind": "unicodeCodePoints",
            "results": results,
        }],
    })
}

/// Something found that has no fix.
pub struct Note<'f> {
    pub shown: &'f str,
    pub source: &'f Source,
    pub span: Span,
    pub message: String,
}

/// A log of what was found. `rule` is the command's name.
pub fn notes(rule: &str, help: &str, notes: &[Note<'_>]) -> Value {
    let result = |note: &Note<'_>| {
        json!({
            "ruleId": rule,
            "level": "note",
            "message": { "text": note.message },
            "locations": [{ "physicalLocation": {
                "artifactLocation": { "uri": note.shown.replace('\\', "/") },
                "region": region(note.source, note.span),
            } }],
        })
    };
    run(rule, help, &notes.iter().map(result).collect::<Vec<_>>())
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
    let replacements: Vec<Value> = finding.edits
        .iter()
        .map(|(span, text)| {
            json!({ "deletedRegion": region(finding.source, span), "insertedContent": { "text": text } })
        })
        .collect();
    let artifact = json!({ "uri": finding.shown.replace('\\', "/") });
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
