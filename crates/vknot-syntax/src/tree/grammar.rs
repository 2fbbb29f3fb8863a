//! Reading with a tree-sitter grammar: parse within a budget, then flatten the result once.

use std::cell::RefCell;
use std::ops::ControlFlow;

use tree_sitter::{ParseOptions, Parser, ParseState, TreeCursor};

use crate::language::{Field, Kind, Language};
use super::{Tree, TreeBuilder};

/// The parser reports once in this many steps (its own constant is 100); a well-formed text needs about one step
/// for every two bytes. A text may take many times that before it is given up.
const REPORTS_AT_LEAST: u64 = 40_000;
const BYTES_PER_REPORT: u64 = 6;

thread_local! {
    /// One parser per thread, reused from file to file.
    static PARSER: RefCell<Parser> = RefCell::new(Parser::new());
}

/// Reads `text`; `None` when the budget ran out.
pub(super) fn read(text: &str, language: &'static Language) -> Option<Tree> {
    let parsed = PARSER.with_borrow_mut(|parser| parse(parser, text, language))?;
    let mut builder = TreeBuilder::new(text, language);
    flatten(&mut parsed.walk(), language, &mut builder);
    Some(builder.finish())
}

fn parse(parser: &mut Parser, text: &str, language: &'static Language) -> Option<tree_sitter::Tree> {
    parser.set_language(language.grammar()?).ok()?;
    let bytes = text.as_bytes();
    let mut left = REPORTS_AT_LEAST + bytes.len() as u64 / BYTES_PER_REPORT;
    let mut within_budget = |_: &ParseState| {
        left = left.saturating_sub(1);
        if left == 0 { ControlFlow::Break(()) } else { ControlFlow::Continue(()) }
    };
    let options = ParseOptions::new().progress_callback(&mut within_budget);
    let mut chunk = |offset: usize, _| bytes.get(offset..).unwrap_or(b"");
    let parsed = parser.parse_with_options(&mut chunk, None, Some(options));
    if parsed.is_none() {
        parser.reset();
    }
    parsed
}

/// Walks the parser's tree once, in preorder, without recursion.
fn flatten(cursor: &mut TreeCursor<'_>, language: &'static Language, builder: &mut TreeBuilder<'_>) {
    let error = language.error_kind();
    let atoms: Vec<bool> = (0..language.kind_count() as u16).map(|id| language.is_atom(Kind(id))).collect();
    loop {
        let node = cursor.node();
        let kind = match node.kind_id() {
            u16::MAX => error,
            id => Kind(id),
        };
        let field = Field(cursor.field_id().map_or(0, |id| id.get()));
        let opaque = atoms.get(kind.0 as usize).copied().unwrap_or(false);
        // Asking for the number is cheaper than trying to go down.
        if !opaque && node.child_count() > 0 && cursor.goto_first_child() {
            builder.open(kind, field);
            continue;
        }
        if node.is_missing() {
            builder.missing(kind, field);
        } else {
            builder.leaf(kind, field, node.start_byte() as u32, node.end_byte() as u32);
        }
        while !cursor.goto_next_sibling() {
            if !cursor.goto_parent() {
                return;
            }
            builder.close();
        }
    }
}
