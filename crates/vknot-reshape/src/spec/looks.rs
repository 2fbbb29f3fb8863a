//! The words in which a language says how it looks.

use vknot_syntax::{NodeId, Source, Tree};

use super::inner::InnerCode;

/// What a block is part of, where that is worth telling apart.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum Construct {
    /// Runs if something holds.
    Conditional,
    /// Runs again and again.
    Loop,
}

impl Construct {
    /// Its name in options and output.
    pub fn name(self) -> &'static str {
        match self {
            Construct::Conditional => "conditional",
            Construct::Loop => "loop",
        }
    }
}

/// What a language's folder says about looks.
pub(crate) struct LookSpec {
    /// Kinds whose label is made of several fields, joined by `for`.
    pub details: &'static [(&'static str, &'static [&'static str])],
    /// Kinds with a better word than their name.
    pub words: &'static [(&'static str, &'static str)],
    /// Kinds that have a name worth an outline entry though their role is not an item's.
    pub outlined: &'static [&'static str],
    /// Kinds that name a value, with the field of the value: where that is a callable or a type, so is the name.
    pub named_values: &'static [(&'static str, &'static str)],
    /// Kinds whose names are members though they are nothing but names, each with the word for one.
    pub name_lists: &'static [(&'static str, &'static str)],
    /// Whether a call that begins with a string and ends with a function names the block of that function.
    pub named_calls: bool,
    /// Whether a callable of a type is called a method.
    pub methods: bool,
    /// Kinds that hold one item and what is said about it: exports, decorations, templates.
    pub wrappers: &'static [&'static str],
    /// Kinds whose inside is not to be outlined, such as code that is commented out.
    pub hidden: &'static [&'static str],
    /// Kinds without a role that are worth a rung of the ladder.
    pub rungs: &'static [&'static str],
    /// Kinds that decide which of their blocks run.
    pub conditionals: &'static [&'static str],
    /// Kinds that run their blocks again and again.
    pub loops: &'static [&'static str],
    /// How a region's markers are written.
    pub region_markers: RegionMarkers,
    /// Whether a line comment that begins with `%%` heads a section.
    pub sections: bool,
    /// The code inside a token.
    pub inside: fn(&Source, &Tree, NodeId) -> Vec<InnerCode>,
}

/// The form of region markers in a language.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub(crate) enum RegionMarkers {
    /// `region NAME` and `endregion` in a comment.
    Comment,
    /// `#region NAME` and `#endregion` on lines of their own.
    Directive,
    /// `#pragma region NAME` and `#pragma endregion`.
    Pragma,
    /// `{$REGION 'NAME'}` and `{$ENDREGION}`.
    Braced,
    /// There is no comment to put one in.
    Nothing,
}
