//! C.

use crate::indent::rules::{Hold, INDENT, IndentSpec};
use crate::languages::ToolSpec;
use crate::looks::{LookSpec, RegionMarkers};

pub(super) const SPEC: ToolSpec = ToolSpec { name: "c", layout: None, looks: &LOOKS, indent: &INDENTED, imports: None };

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
    ..crate::looks::LOOKS
};

pub(super) const INDENTED: IndentSpec = IndentSpec {
    holds: &[
        (Hold::Header, &["function", "function_declaration"]),
        (Hold::Margin, &["directive", "macro", "include", "region_mark"]),
        (Hold::Inactive, &["inactive"]),
        (Hold::List, &["subscript"]),
    ],
    namespaces: &["namespace"],
    prefixes: &["template"],
    flush: &["linkage"],
    ..INDENT
};
