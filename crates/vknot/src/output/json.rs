//! The JSON forms of edits, spans and receipts. Each document names its schema and version.

use std::collections::BTreeMap;

use serde::Serialize;
use vknot_reshape::{Act, Edits, Fate, Reason, Receipt, Respelled, TokenChange};
use vknot_reshape::Decided;
use vknot_syntax::{Source, Span};

use crate::problem::Problem;

/// A span: lines and columns from 1 in characters, and bytes.
#[derive(Serialize)]
#[serde(rename_all = "camelCase")]
pub struct SpanJson {
    pub line: u32,
    pub column: u32,
    pub end_line: u32,
    pub end_column: u32,
    pub start_byte: u32,
    pub end_byte: u32,
}

impl SpanJson {
    pub fn of(source: &Source, span: Span) -> Self {
        let (start, end) = (source.line_column(span.start), source.line_column(span.end));
        Self {
            line: start.line,
            column: start.column,
            end_line: end.line,
            end_column: end.column,
            start_byte: span.start,
            end_byte: span.end,
        }
    }
}

/// A position after the Language Server Protocol 3.17: from 0, in UTF-16 code units.
#[derive(Serialize)]
struct Position {
    line: u32,
    character: u32,
}

#[derive(Serialize)]
struct Range {
    start: Position,
    end: Position,
}

/// A `TextEdit` of the Language Server Protocol 3.17.
#[derive(Serialize)]
#[serde(rename_all = "camelCase")]
pub struct TextEdit {
    range: Range,
    new_text: String,
}

/// Edits in the protocol's shape.
pub fn text_edits(source: &Source, edits: &Edits) -> Vec<TextEdit> {
    let position = |offset| {
        let at = source.position16(offset);
        Position { line: at.line, character: at.character }
    };
    let edit = |(span, text): (Span, &str)| TextEdit {
        range: Range { start: position(span.start), end: position(span.end) },
        new_text: text.to_owned(),
    };
    edits.iter().map(edit).collect()
}

#[derive(Serialize)]
struct TokenJson {
    text: String,
    line: u32,
    column: u32,
}

/// A token, or a run of comments, that is written otherwise.
#[derive(Serialize)]
struct RespelledJson {
    #[serde(flatten)]
    token: TokenJson,
    new: String,
}

impl RespelledJson {
    fn of(source: &Source, change: &Respelled) -> Self {
        let at = source.line_column(change.offset);
        let token = TokenJson { text: change.old.clone(), line: at.line, column: at.column };
        Self { token, new: change.new.clone() }
    }
}

#[derive(Serialize)]
struct LeftAloneJson {
    #[serde(flatten)]
    span: SpanJson,
    reason: &'static str,
}

#[derive(Serialize)]
struct NoteJson {
    #[serde(flatten)]
    span: SpanJson,
    text: String,
}

/// A receipt.
#[derive(Serialize)]
#[serde(rename_all = "camelCase")]
pub struct ReceiptJson {
    lines_removed: usize,
    lines_added: usize,
    tokens_added: Vec<TokenJson>,
    tokens_removed: Vec<TokenJson>,
    #[serde(skip_serializing_if = "Vec::is_empty")]
    tokens_rewritten: Vec<RespelledJson>,
    left_alone: Vec<LeftAloneJson>,
    notes: Vec<NoteJson>,
    #[serde(skip_serializing_if = "Vec::is_empty")]
    imports: Vec<FateJson>,
    #[serde(skip_serializing_if = "Option::is_none")]
    indentation: Option<IndentationJson>,
}

/// What became of something that is imported.
#[derive(Serialize)]
struct FateJson {
    import: String,
    act: &'static str,
    why: String,
    /// From where it could be imported, where that is not certain.
    #[serde(skip_serializing_if = "Vec::is_empty")]
    choices: Vec<String>,
    span: SpanJson,
}

/// What levels are made of.
#[derive(Serialize)]
#[serde(rename_all = "camelCase")]
struct IndentationJson {
    tabs: bool,
    size: u32,
    tab_width: u32,
    decided_by: &'static str,
    /// Settings that the file shows by its lines.
    found: BTreeMap<&'static str, String>,
}

impl FateJson {
    fn of(source: &Source, fate: &Fate) -> Self {
        let act = match fate.act {
            Act::Added => "added",
            Act::Removed => "removed",
            Act::Kept => "kept",
            Act::Merged => "merged",
            Act::Moved => "moved",
            Act::Held => "held",
            Act::Passed => "passed",
            Act::Missing => "missing",
        };
        let span = SpanJson::of(source, fate.span);
        Self { import: fate.import.clone(), act, why: fate.why.clone(), choices: fate.choices.clone(), span }
    }
}

impl ReceiptJson {
    pub fn of(source: &Source, receipt: &Receipt, changed: (usize, usize)) -> Self {
        let tokens = |changes: &[TokenChange]| {
            let token = |change: &TokenChange| {
                let at = source.line_column(change.offset);
                TokenJson { text: change.text.clone(), line: at.line, column: at.column }
            };
            changes.iter().map(token).collect()
        };
        Self {
            lines_removed: changed.0,
            lines_added: changed.1,
            tokens_added: tokens(&receipt.added),
            tokens_removed: tokens(&receipt.removed),
            tokens_rewritten: receipt.respelled.iter().map(|change| RespelledJson::of(source, change)).collect(),
            left_alone: receipt.left_alone
                .iter()
                .map(|left| LeftAloneJson {
                    span: SpanJson::of(source, left.span),
                    reason: match left.reason {
                        Reason::SyntaxError => "syntax-error",
                        Reason::Brackets => "by-brackets",
                        Reason::GaveUp => "gave-up",
                        Reason::Kept => "kept",
                        Reason::Generated => "generated",
                        Reason::Conflict => "conflict",
                        Reason::Unsettled => "unsettled",
                        Reason::NoLayout => "no-layout",
                    },
                })
                .collect(),
            notes: receipt.notes
                .iter()
                .map(|note| NoteJson { span: SpanJson::of(source, note.span), text: note.text.clone() })
                .collect(),
            imports: receipt.imports.iter().map(|fate| FateJson::of(source, fate)).collect(),
            indentation: receipt.indentation.map(|(indentation, decided)| IndentationJson {
                tabs: indentation.tabs,
                size: indentation.size,
                tab_width: indentation.tab_width,
                decided_by: match decided {
                    Decided::BySetting => "setting",
                    Decided::ByFile => "file",
                    Decided::ByNeighbours => "neighbours",
                    Decided::ByHabit => "habit",
                },
                found: receipt.manner.iter().cloned().collect(),
            }),
        }
    }
}

/// Something that could not be done.
#[derive(Serialize)]
pub struct ProblemJson {
    file: String,
    line: Option<u32>,
    column: Option<u32>,
    message: String,
}

impl From<&Problem> for ProblemJson {
    fn from(problem: &Problem) -> Self {
        Self {
            file: problem.file.clone(),
            line: problem.at.map(|at| at.0),
            column: problem.at.map(|at| at.1),
            message: problem.message.clone(),
        }
    }
}

/// Prints a document with its schema's name in front.
pub fn print(schema: &str, mut document: serde_json::Value) -> anyhow::Result<()> {
    use std::io::Write;
    if let Some(fields) = document.as_object_mut() {
        let rest = std::mem::take(fields);
        fields.insert("schema".to_owned(), schema.into());
        fields.extend(rest);
    }
    let mut out = super::stdout();
    serde_json::to_writer_pretty(&mut out, &document)?;
    writeln!(out)?;
    Ok(())
}
