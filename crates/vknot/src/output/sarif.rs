//! SARIF 2.1.0 (OASIS), for code-scanning services: one result for each file that would change, with its fix.

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
    let results: Vec<Value> = findings.iter().map(|finding| result(rule, help, finding)).collect();
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
