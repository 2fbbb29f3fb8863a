//! Go.

mod facts;
mod laws;
mod imports;
mod missing;
mod packages;
mod reading;
mod layout;
mod scopes;

use vknot_style::{Key, LanguageStyle};

use crate::languages::usual;
use crate::spec::EditSpec;
use crate::spec::edits::EDITS_OF_MOST;
use crate::spec::indent::{Hold, IndentSpec};
use crate::spec::ToolSpec;
use crate::spec::looks::LookSpec;

pub(super) static SPEC: ToolSpec = ToolSpec {
    name: "go",
    layout: Some(&layout::LAYOUT),
    looks: &LOOKS,
    indent: &INDENTED,
    imports: Some(&imports::IMPORTS),
    edits: EditSpec {
        strings: Some("+"),
        negation: "!",
        both: "&&",
        conditionals: &["if_statement"],
        trailing: true,
        scopes: Some(&scopes::SCOPES),
        laws: laws::LAWS,
        ..EDITS_OF_MOST
    },
    style: &STYLE,
};

static STYLE: LanguageStyle = LanguageStyle {
    defaults: &[
        (Key::BlankMost, "1"),
        (Key::MaxLineLength, "off"),
        (Key::AlignColumn, "all"),
        (Key::AlignComment, "all"),
        (Key::BreakBlock, "several"),
        (Key::BreakKeep, "all"),
        (Key::IndentCase, "0"),
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
        Key::BlankMember,
        Key::BlankMost,
        Key::BreakBlock,
        Key::BreakKeep,
        Key::CommentGap,
        Key::CommentSpace,
        Key::CommentWrap,
        Key::ImportBlank,
        Key::ImportCase,
        Key::ImportGroups,
        Key::ImportOwn,
        Key::IndentSize,
        Key::IndentStyle,
        Key::TabWidth,
        Key::AlignList,
        Key::AlignOperand,
        Key::AlignTabs,
        Key::IndentCase,
        Key::WrapIndent,
        Key::WrapLiteral,
    ],
};

const LOOKS: LookSpec = LookSpec {
    named_calls: true,
    words: &[
        ("type_spec", "type"),
        ("const_spec", "constant"),
        ("var_spec", "variable"),
        ("field_declaration", "field"),
        ("method_elem", "method"),
        ("call_expression", "call"),
        ("literal_value", "literal"),
    ],
    conditionals: &["if_statement", "expression_switch_statement", "type_switch_statement", "select_statement"],
    loops: &["for_statement"],
    ..usual::LOOKS
};

const INDENTED: IndentSpec = IndentSpec {
    tabs: true,
    holds: &[(Hold::Labelled, &["labeled_statement"])],
    ..usual::INDENT
};
