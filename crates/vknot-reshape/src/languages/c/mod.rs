//! C.

pub(crate) mod imports;
pub(crate) mod laws;
pub(crate) mod layout;

use vknot_style::{Key, LanguageStyle};

use crate::languages::usual;
use crate::spec::EditSpec;
use crate::spec::edits::EDITS_OF_MOST;
use crate::spec::indent::{Hold, IndentSpec};
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
        Key::SpaceBrace,
        Key::SpaceControl,
        Key::SpaceEmpty,
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

pub(super) const LOOKS: LookSpec = LookSpec {
    words: &[
        ("declaration", "variable"),
        ("function_declaration", "function"),
        ("qualified_name", "name"),
        ("unit", "file"),
    ],
    outlined: &["macro"],
    conditionals: &["conditional"],
    loops: &["loop"],
    region_markers: RegionMarkers::Pragma,
    ..usual::LOOKS
};

pub(super) const INDENTED: IndentSpec = IndentSpec {
    holds: &[
        (Hold::Header, &["function", "function_declaration"]),
        (Hold::Margin, &["directive", "macro", "include", "region_mark"]),
        (Hold::Inactive, &["inactive"]),
        (Hold::List, &["subscript", "template_parameters", "template_arguments"]),
        usual::EXPRESSIONS,
    ],
    namespaces: &["namespace"],
    prefixes: &["template"],
    flush: &["linkage"],
    ..usual::INDENT
};
