//! The layout engine: rules give each gap a policy, one linear pass decides what fits.
//!
//! [`format()`] changes gaps and touches no token, apart from braces that the style requires and the white space at the edges of
//! comment lines.

mod comments;
mod damage;
mod measure;
mod options;
mod plan;
mod planner;
mod print;
mod reflow;
pub(crate) mod rules;
mod shapes;
mod trailing;

use vknot_style::Style;
use vknot_syntax::{Language, LineEnd, NodeId, Source, Span, Tree};

use options::{Options, RequiredBraces};
use print::Paper;
use crate::indent::effective_indentation;
use crate::languages::Toolkit;
use crate::receipt::{LeftAlone, Reason, Receipt, TokenChange};
use crate::reshape::Reshape;

/// Lays out a file, or the lines of some spans of it, in a style.
pub fn format(source: &Source, tree: &Tree, style: &Style, only: Option<&[Span]>) -> Reshape {
    let mut receipt = Receipt::default();
    if tree.gave_up() {
        receipt.left_alone.push(LeftAlone { span: source.span(), reason: Reason::GaveUp });
        return Reshape { receipt, ..Reshape::default() };
    }
    let text = source.text();
    let Some(table) = &Toolkit::of(tree.language()).layout else {
        receipt.left_alone.push(LeftAlone { span: source.span(), reason: Reason::NoLayout });
        return Reshape { receipt, ..Reshape::default() };
    };
    let paper = paper(source, tree, style);
    let mut options = Options::of(style, paper.indentation);
    if only.is_some() {
        // Braces come in pairs, and a part of a file may hold only one of the two.
        options.required = RequiredBraces::Keep;
        options.commas = false;
    }
    let planner = planner::plan(tree, source, table, options);
    let (mut edits, added) = print::print(&planner, paper);
    if let Some(only) = only {
        let lines: Vec<Span> = only.iter().map(|span| whole_lines(source, *span)).collect();
        edits = edits.filtered(|span, new| {
            let breaks = span.of(text).contains('\n') || new.contains('\n');
            let touched = if breaks { Span::new(span.end, span.end) } else { span };
            lines.iter().any(|line| line.covers(touched))
        });
    }
    let change = |added: print::Added| TokenChange {
        text: added.text.to_owned(),
        offset: tree.gap_span(added.gap).start,
        token: added.gap,
    };
    receipt.added = added.into_iter().map(change).collect();
    let left = planner.left_alone.iter().map(|id: &NodeId| tree.node(*id).span());
    let reason = Reason::SyntaxError;
    receipt.left_alone = left.map(|span| LeftAlone { span, reason }).collect();
    let bom = match style.word("charset") {
        "utf-8" => Some(false),
        "utf-8-bom" => Some(true),
        _ => None,
    };
    Reshape { edits, receipt, bom: bom.filter(|bom| *bom != source.facts().bom) }
}

/// Whether the layout of a language is known. Where it is not, its files are left as they are.
pub fn covers(language: &'static Language) -> bool {
    Toolkit::of(language).layout.is_some()
}

fn paper(source: &Source, tree: &Tree, style: &Style) -> Paper {
    let line_end = match style.word("end_of_line") {
        "lf" => LineEnd::Lf,
        "crlf" => LineEnd::CrLf,
        _ => source.facts().line_end(),
    };
    Paper {
        indentation: effective_indentation(source, tree, style),
        line_end: line_end.text(),
        final_newline: style.word("insert_final_newline") != "false",
        trim: style.word("trim_trailing_whitespace") == "true",
    }
}

/// From the start of the first line a span touches to the end of the last.
fn whole_lines(source: &Source, span: Span) -> Span {
    let (first, last) = source.line_range(span);
    let lines = source.lines();
    Span::new(lines.start(first - 1), lines.span(source.text(), last - 1).end)
}

#[cfg(test)]
mod tests {
    //! Rules that are wrong on purpose: the proof must catch what they do.

    use std::sync::LazyLock;

    use vknot_syntax::{Language, Source, Tree};

    use crate::proof::{Difference, prove_layout};
    use super::rules::{Items, LayoutSpec, LayoutTable, Rule, Side, WORDS};
    use super::*;

    /// Java with words glued together behind `return`.
    static GLUING: LayoutSpec = LayoutSpec {
        rules: &[
            ("program", Rule::Items(Items { apart: &[], imports_apart: false })),
            ("return_statement", Rule::Words(WORDS)),
            ("binary_expression", Rule::Words(WORDS)),
            ("unary_expression", Rule::Words(WORDS)),
        ],
        within: &[],
        spacing: &[("return_statement", "return", Side::Open, Side::Tight), ("", "-", Side::Tight, Side::Tight)],
        hugs: &[],
        chain: &[],
        precedence: &[],
        names_hold_first_call: false,
        brace_after_wrap: false,
        no_comma: &[],
    };

    fn broken(text: &str) -> Difference {
        let language = Language::named("java").unwrap();
        let table: &'static LazyLock<LayoutTable> = {
            static TABLE: LazyLock<LayoutTable> =
                LazyLock::new(|| LayoutTable::new(&GLUING, Language::named("java").unwrap()));
            &TABLE
        };
        let source = Source::from_text("Gauge.java", text);
        let tree = Tree::read(&source, language);
        let style = Style::defaults("java");
        let paper = paper(&source, &tree, &style);
        let planner = planner::plan(&tree, &source, table, Options::of(&style, paper.indentation));
        let (edits, _) = print::print(&planner, paper);
        let reshape = Reshape { edits, ..Reshape::default() };
        prove_layout(&source, &tree, &reshape).unwrap_err().reason
    }

    #[test]
    fn a_rule_that_glues_words_is_caught() {
        let difference = broken("return level;");
        assert_eq!(difference, Difference::Token { old: "return".into(), new: "returnlevel".into() });
    }

    #[test]
    fn a_rule_that_glues_operators_is_caught() {
        let difference = broken("return b - -c;");
        assert!(matches!(difference, Difference::Token { .. } | Difference::SyntaxError { .. }), "{difference}");
    }
}
