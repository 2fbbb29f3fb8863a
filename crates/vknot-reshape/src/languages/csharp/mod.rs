//! C#.

use crate::indent::rules::{Hold, INDENT, IndentSpec};
use crate::languages::ToolSpec;
use crate::looks::{LookSpec, RegionMarkers};

pub(super) const SPEC: ToolSpec = ToolSpec {
    name: "csharp",
    layout: None,
    looks: &LOOKS,
    indent: &INDENTED,
    imports: None,
};

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
    ..crate::looks::LOOKS
};

const INDENTED: IndentSpec = IndentSpec {
    holds: &[
        (Hold::Margin, &[
            "preproc_if",
            "preproc_elif",
            "preproc_else",
            "#endif",
            "preproc_nullable",
            "preproc_pragma",
            "preproc_define",
            "preproc_undef",
        ]),
        (Hold::Labelled, &["labeled_statement"]),
        (Hold::Head, &["accessor_declaration", "conditional_expression"]),
    ],
    namespaces: &["namespace_declaration"],
    ..INDENT
};
