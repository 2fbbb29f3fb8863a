//! Looks: what only reads. Each gives plain data for whoever shows it, with places in the outer file also for code
//! that is embedded in it.

mod blocks;
mod comments;
mod divided;
mod folds;
mod invariants;
mod ladder;
mod marks;
mod naming;
mod outline;
mod pairs;
mod regions;
mod sections;
mod todos;

pub use comments::{Comment, comments};
pub use crate::spec::looks::Construct;
pub use folds::{Fold, FoldKind, folds, folds_with};
pub use invariants::check;
pub use ladder::{ladder, Rung};
pub(crate) use ladder::settle;
pub use marks::{Marks, NamedSpan};
pub use naming::{header_start, item_line, kind_words, whole_item, with_attached};
pub use outline::{find_by_name, outline, OutlineEntry, OutlinePath};
pub use pairs::{Culprit, Pair, Pairs, pairs, Unpaired};
pub(crate) use regions::is_region_marker;
pub use regions::{LoneMarker, Region, Regions, regions};
pub use sections::{code_parts, CodePart, Section, sections};
pub use todos::{Todo, todos};
