//! C#.

mod declared;
mod facts;
mod imports;
mod laws;
mod layout;
mod missing;
mod reading;
mod scopes;

use vknot_style::{Key, LanguageStyle};
use vknot_syntax::{NodeId, Role, Source, Tree};

use crate::languages::usual;
use crate::spec::EditSpec;
use crate::spec::edits::EDITS_OF_MOST;
use crate::spec::indent::{Hold, IndentSpec};
use crate::spec::inner::{InnerCode, Interpolation};
use crate::spec::ToolSpec;
use crate::spec::looks::{LookSpec, RegionMarkers};

pub(super) static SPEC: ToolSpec = ToolSpec {
    name: "csharp",
    layout: Some(&layout::LAYOUT),
    looks: &LOOKS,
    indent: &INDENTED,
    imports: Some(&imports::IMPORTS),
    edits: EditSpec {
        strings: Some("+"),
        negation: "!",
        both: "&&",
        conditionals: &["if_statement"],
        scopes: Some(&scopes::SCOPES),
        laws: laws::LAWS,
        ..EDITS_OF_MOST
    },
    style: &STYLE,
};

static STYLE: LanguageStyle = LanguageStyle {
    defaults: &[
        (Key::IndentCaseBrace, "0"),
        (Key::SpaceAssignment, "true"),
        (Key::SpaceComparison, "true"),
        (Key::SpaceLogical, "true"),
        (Key::SpaceOperator, "true"),
    ],
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
        Key::BlankKind,
        Key::BlankMember,
        Key::BlankMost,
        Key::BraceAccessor,
        Key::BraceControl,
        Key::BraceDeclaration,
        Key::BraceEmpty,
        Key::BraceFollow,
        Key::BraceLambda,
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
        Key::SpaceBracket,
        Key::SpaceCast,
        Key::SpaceComparison,
        Key::SpaceControl,
        Key::SpaceEmpty,
        Key::SpaceIndex,
        Key::SpaceLambda,
        Key::SpaceLogical,
        Key::SpaceOperator,
        Key::SpaceParameters,
        Key::SpaceParenthesis,
        Key::SpaceUnary,
        Key::WrapChain,
        Key::WrapComma,
        Key::WrapConditional,
        Key::WrapOperand,
        Key::WrapOperator,
        Key::ImportBlank,
        Key::ImportCase,
        Key::ImportDoc,
        Key::ImportGroups,
        Key::ImportStatic,
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
        Key::IndentElseIf,
        Key::IndentLabel,
        Key::IndentNamespace,
        Key::WrapIndent,
        Key::WrapList,
        Key::WrapLiteral,
    ],
};

/// Values in interpolated strings (C# language specification, section 12.8.3); of raw ones as many braces open one as `$` stand in
/// front of the string.
fn inside(source: &Source, tree: &Tree, token: NodeId) -> Vec<InnerCode> {
    let (text, start) = (tree.text_of(source.text(), token), tree.node(token).start);
    let prefix = text.split('"').next().unwrap_or("");
    let open = match prefix.matches('$').count() {
        _ if tree.role(token) != Role::String => return Vec::new(),
        0 => return Vec::new(),
        1 => "{",
        2 => "{{",
        _ => "{{{",
    };
    Interpolation { open, shown: &[':', ','], around: ("_ = ", ";") }.values(text, start)
}

const LOOKS: LookSpec = LookSpec {
    words: &[
        ("switch_section", "case"),
        ("accessor_declaration", "accessor"),
        ("enum_member_declaration", "constant"),
        ("invocation_expression", "call"),
        ("using_directive", "import"),
    ],
    conditionals: &["if_statement", "switch_statement", "switch_expression"],
    loops: &["for_statement", "foreach_statement", "while_statement", "do_statement"],
    region_markers: RegionMarkers::Directive,
    inside,
    ..usual::LOOKS
};

const INDENTED: IndentSpec = IndentSpec {
    holds: &[
        (Hold::Margin, &[
            "preproc_if",
            "preproc_if_in_attribute_list",
            "preproc_elif",
            "preproc_else",
            "#endif",
            "preproc_nullable",
            "preproc_pragma",
            "preproc_define",
            "preproc_undef",
            "preproc_line",
            "preproc_error",
            "preproc_warning",
            "preproc_arg",
        ]),
        (Hold::Labelled, &["labeled_statement"]),
        (Hold::Head, &["accessor_declaration", "conditional_expression"]),
    ],
    namespaces: &["namespace_declaration"],
    stacked: &["using_statement", "fixed_statement", "lock_statement"],
    ..usual::INDENT
};
