//! C.

pub(crate) mod imports;
pub(crate) mod laws;
pub(crate) mod layout;
mod scopes;

use vknot_style::{Key, LanguageStyle};
use vknot_syntax::{NodeId, Span, Source, Tree};

use crate::languages::usual;
use crate::spec::EditSpec;
use crate::spec::edits::EDITS_OF_MOST;
use crate::spec::indent::{Hold, IndentSpec};
use crate::spec::inner::InnerCode;
use crate::spec::ToolSpec;
use crate::spec::looks::{LookSpec, RegionMarkers};

pub(super) static SPEC: ToolSpec = ToolSpec {
    name: "c",
    layout: Some(&layout::LAYOUT),
    looks: &LOOKS,
    indent: &INDENTED,
    imports: Some(&imports::IMPORTS),
    edits: EditSpec {
        strings: Some(""),
        fixed: &["directive"],
        scopes: Some(&scopes::SCOPES),
        laws: laws::LAWS,
        ..EDITS_OF_MOST
    },
    style: &STYLE,
};

static STYLE: LanguageStyle = LanguageStyle {
    defaults: &[(Key::AlignList, "arguments"), (Key::IndentCase, "0"), (Key::IndentCaseBrace, "0")],
    settings: &[
        Key::Charset,
        Key::EndOfLine,
        Key::InsertFinalNewline,
        Key::MaxLineLength,
        Key::TrimTrailingWhitespace,
        Key::AlignColumn,
        Key::AlignComment,
        Key::BlankEdge,
        Key::BlankItem,
        Key::BlankMember,
        Key::BlankMost,
        Key::BraceControl,
        Key::BraceDeclaration,
        Key::BraceEmpty,
        Key::BraceFollow,
        Key::BraceRequired,
        Key::BraceType,
        Key::BraceWrapped,
        Key::BreakBlock,
        Key::BreakKeep,
        Key::CommentGap,
        Key::CommentSpace,
        Key::CommentWrap,
        Key::SpaceArguments,
        Key::SpaceAssignment,
        Key::SpaceBlock,
        Key::SpaceBrace,
        Key::SpaceComma,
        Key::SpaceComparison,
        Key::SpaceControl,
        Key::SpaceEmpty,
        Key::SpaceLogical,
        Key::SpaceOperator,
        Key::SpaceParameters,
        Key::SpaceParenthesis,
        Key::WrapComma,
        Key::WrapConditional,
        Key::WrapList,
        Key::WrapOperand,
        Key::WrapOperator,
        Key::ImportBlank,
        Key::ImportCase,
        Key::ImportGroups,
        Key::ImportInclude,
        Key::ImportOwn,
        Key::IndentSize,
        Key::IndentStyle,
        Key::TabWidth,
        Key::AlignList,
        Key::AlignOperand,
        Key::AlignTabs,
        Key::IndentBrace,
        Key::IndentBracket,
        Key::IndentCase,
        Key::IndentCaseBrace,
        Key::IndentDirective,
        Key::IndentLabel,
        Key::WrapIndent,
        Key::WrapLiteral,
    ],
};

/// The parameters and the body of a macro, and the condition of a directive (ISO/IEC 9899, section 6.10).
fn inside(source: &Source, tree: &Tree, token: NodeId) -> Vec<InnerCode> {
    let (text, start) = (tree.text_of(source.text(), token), tree.node(token).start);
    let piece = |from: usize, to: usize, word: &'static str, around: (&'static str, &'static str)| {
        let (from, to) = (start + from as u32, start + to as u32);
        InnerCode { open: Span::new(from, from), span: Span::new(from, to), close: Span::new(to, to), around, word }
    };
    match tree.kind_name(token) {
        "macro_body" => {
            let named =
                tree.node(token).first_token.checked_sub(1).and_then(|before| tree.tokens().get(before as usize));
            let touches = text.starts_with('(') && named.is_some_and(|named| named.end == start);
            let parameters = text.find(')').filter(|_| touches).map_or(0, |close| close + 1);
            let splice = |c: char| c.is_whitespace() || c == '\\';
            let body = text.len() - text.get(parameters..).unwrap_or("").trim_start_matches(splice).len();
            [
                piece(0, parameters, "macro parameters", ("void a", ";")),
                piece(body, text.len(), "macro body", ("void a(void) {", "}")),
            ]
            .into_iter()
            .filter(|piece| !piece.span.is_empty())
            .collect()
        }
        "directive" => {
            let said = text.trim_start_matches(['#', ' ', '\t']);
            let condition = ["if", "elif"].iter().find_map(|word| said.strip_prefix(word));
            let condition = condition.filter(|rest| !rest.starts_with(|c: char| c.is_alphanumeric() || c == '_'));
            let from = condition.map_or(text.len(), |rest| text.len() - rest.trim_start().len());
            let whole =
                (from < text.len()).then(|| piece(from, text.len(), "condition", ("void a(void) { return ", ";}")));
            whole.into_iter().collect()
        }
        _ => Vec::new(),
    }
}

pub(super) const LOOKS: LookSpec = LookSpec {
    words: &[
        ("declaration", "variable"),
        ("directive", "directive"),
        ("function_declaration", "function"),
        ("macro_body", "macro contents"),
        ("qualified_name", "name"),
        ("unit", "file"),
    ],
    outlined: &["macro"],
    conditionals: &["conditional"],
    loops: &["loop"],
    region_markers: RegionMarkers::Pragma,
    inside,
    ..usual::LOOKS
};

pub(super) const INDENTED: IndentSpec = IndentSpec {
    holds: &[
        (Hold::Header, &["function", "function_declaration"]),
        (Hold::Margin, &["directive", "macro", "include", "region_mark"]),
        (Hold::Inactive, &["inactive"]),
        (Hold::List, &["attribute", "subscript", "template_parameters", "template_arguments"]),
        usual::EXPRESSIONS,
    ],
    middle: &["else", "catch", "finally", "@catch", "@finally"],
    namespaces: &["namespace"],
    prefixes: &["export", "template"],
    parameters: &["template_parameters"],
    constraints: &["constraint"],
    flush: &["linkage"],
    ..usual::INDENT
};
