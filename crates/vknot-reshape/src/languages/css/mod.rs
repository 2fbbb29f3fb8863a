//! CSS.

pub(crate) mod laws;
pub(crate) mod layout;

use vknot_style::{Key, LanguageStyle};
use vknot_syntax::{NodeId, Role, Source, Tree};

use crate::languages::usual;
use crate::spec::EditSpec;
use crate::spec::edits::EDITS_OF_MOST;
use crate::spec::indent::IndentSpec;
use crate::spec::inner::{InnerCode, Interpolation};
use crate::spec::ToolSpec;
use crate::spec::looks::LookSpec;

pub(super) static SPEC: ToolSpec = ToolSpec {
    name: "css",
    layout: Some(&layout::LAYOUT),
    looks: &LOOKS,
    indent: &INDENTED,
    imports: None,
    edits: EditSpec {
        between: ";",
        laws: laws::LAWS,
        ..EDITS_OF_MOST
    },
    style: &STYLE,
};

static STYLE: LanguageStyle = LanguageStyle {
    defaults: &[(Key::MaxLineLength, "off")],
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
        Key::BlankMost,
        Key::BraceDeclaration,
        Key::BreakBlock,
        Key::CommentGap,
        Key::CommentWrap,
        Key::TokenQuote,
        Key::SpaceBlock,
        Key::SpaceColon,
        Key::SpaceComma,
        Key::SpaceEmpty,
        Key::SpaceParenthesis,
        Key::WrapSelector,
        Key::IndentSize,
        Key::IndentStyle,
        Key::TabWidth,
        Key::AlignList,
        Key::AlignTabs,
        Key::WrapIndent,
        Key::WrapLiteral,
    ],
};

/// Values that the kin of CSS put into strings.
fn inside(source: &Source, tree: &Tree, token: NodeId) -> Vec<InnerCode> {
    let (text, start) = (tree.text_of(source.text(), token), tree.node(token).start);
    let open = match tree.language().name() {
        _ if tree.role(token) != Role::String => return Vec::new(),
        "scss" => "#{",
        "less" => "@{",
        _ => return Vec::new(),
    };
    Interpolation { open, shown: &[], around: ("a: ", ";") }.values(text, start)
}

pub(super) const LOOKS: LookSpec = LookSpec {
    conditionals: &["conditional"],
    loops: &["loop"],
    words: &[("at_rule", "rule"), ("declaration", "declaration"), ("value_part", "value")],
    rungs: &["selectors", "selector", "value", "value_part", "head"],
    inside,
    ..usual::LOOKS
};

pub(crate) const INDENTED: IndentSpec =
    IndentSpec { habit: 2, holds: &[usual::EXPRESSIONS], prefixed_names: true, ..usual::INDENT };
