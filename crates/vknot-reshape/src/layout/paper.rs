//! How the lines of a result are written.

use vknot_style::Indentation;
use vknot_style::choices::AlignColumn;

use crate::frames::options::Options as FrameOptions;

/// How lines are written.
#[derive(Clone, Debug)]
pub(super) struct Paper {
    pub indentation: Indentation,
    /// What decides where lines begin.
    pub frames: FrameOptions,
    /// Whether what lines up gets tabs, too.
    pub align_with_tabs: bool,
    pub line_end: &'static str,
    /// Whether the file ends in a line end; `None` keeps what is there.
    pub final_newline: bool,
    pub trim: bool,
    /// Which columns of neighbouring lines are lined up.
    pub columns: AlignColumn,
    /// Which comments behind code are.
    pub comments: AlignColumn,
    /// Spaces in front of them; `None` where the file shows it.
    pub comment_gap: Option<u32>,
}
