//! What is each language's own among the reshapes: one folder and one line of the registry for each.

mod java;
mod json;
mod plain;
mod rust;

use std::sync::OnceLock;

use vknot_syntax::Language;

use crate::imports::ImportSpec;
use crate::layout::rules::{LayoutSpec, LayoutTable};
use crate::looks::LookSpec;

/// What a language's folder gives.
pub(crate) struct ToolSpec {
    pub name: &'static str,
    pub layout: &'static LayoutSpec,
    pub looks: &'static LookSpec,
    pub imports: Option<&'static ImportSpec>,
}

/// A language's tables, ready for use.
pub(crate) struct Toolkit {
    pub layout: LayoutTable,
    pub looks: &'static LookSpec,
    pub imports: Option<&'static ImportSpec>,
}

/// Sorted by name; the last is for whatever has no language.
static SPECS: [&ToolSpec; 4] = [&java::SPEC, &json::SPEC, &plain::SPEC, &rust::SPEC];

impl Toolkit {
    /// The toolkit of a language; one of each is made, when first asked for.
    pub fn of(language: &'static Language) -> &'static Toolkit {
        static READY: [OnceLock<Toolkit>; SPECS.len()] = [const { OnceLock::new() }; SPECS.len()];
        let index = SPECS.iter().position(|spec| spec.name == language.name()).unwrap_or(PLAIN);
        READY[index].get_or_init(|| {
            let spec = SPECS[index];
            Toolkit { layout: LayoutTable::new(spec.layout, language), looks: spec.looks, imports: spec.imports }
        })
    }
}

const PLAIN: usize = 2;
