//! The flat stream a layout is: one policy for each gap, and groups that open and close around tokens.

use vknot_syntax::NodeId;

/// No group.
pub(super) const NO_GROUP: u32 = u32::MAX;

/// What becomes of a gap.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq)]
pub(super) enum Form {
    /// No rule spoke: the gap is kept.
    #[default]
    Unset,
    /// Kept as the author wrote it; lines in it move with the line they hang on.
    Keep,
    /// Kept byte for byte, because what is around it could not be read.
    Verbatim,
    /// One space or nothing.
    Fixed,
    /// A line break if the group breaks, else one space or nothing.
    Soft,
    /// A line break.
    Hard,
    /// A line break where the author had one, else one space or nothing.
    Author,
    /// A line break if the line so far is a wrapped one, else one space.
    AfterWrap,
    /// A line break, unless the author had none and the line so far begins with a closing bracket.
    AfterClosing,
}

/// The policy of one gap.
#[derive(Clone, Copy, Debug)]
pub(super) struct GapPlan {
    pub form: Form,
    /// Whether a gap without a line break is a space.
    pub spaced: bool,
    /// A gap that breaks by itself when what follows does not fit; a soft one also where the author broke it.
    pub fill: bool,
    /// A comment that goes on with the one behind the line above, at the same column.
    pub continues: bool,
    /// What follows joins the line of a closing brace, if there comes to be one.
    pub joins: bool,
    /// Fewest and most blank lines of a line break.
    pub blank: (u8, u8),
    /// The group a soft gap belongs to.
    pub group: u32,
}

impl Default for GapPlan {
    fn default() -> Self {
        Self {
            form: Form::Unset,
            spaced: false,
            fill: false,
            continues: false,
            joins: false,
            blank: (0, 0),
            group: NO_GROUP,
        }
    }
}

impl GapPlan {
    pub fn fixed(spaced: bool) -> Self {
        Self { form: Form::Fixed, spaced, ..Self::default() }
    }

    pub fn keep() -> Self {
        Self { form: Form::Keep, ..Self::default() }
    }

    /// The same, where up to so many blank lines are kept if it breaks.
    pub fn blanks(self, most: u8) -> Self {
        Self { blank: (0, most), ..self }
    }

    pub fn verbatim() -> Self {
        Self { form: Form::Verbatim, ..Self::default() }
    }

    pub fn soft(group: u32, spaced: bool) -> Self {
        Self { form: Form::Soft, spaced, group, ..Self::default() }
    }

    pub fn filled(group: u32, spaced: bool) -> Self {
        Self { fill: true, ..Self::soft(group, spaced) }
    }

    pub fn hard(group: u32, least: u8, most: u8) -> Self {
        Self { form: Form::Hard, group, blank: (least, most.max(least)), ..Self::default() }
    }

    pub fn author(spaced: bool) -> Self {
        Self { form: Form::Author, spaced, ..Self::default() }
    }

    pub fn after_closing() -> Self {
        Self { form: Form::AfterClosing, spaced: true, ..Self::default() }
    }

    pub fn after_wrap() -> Self {
        Self { form: Form::AfterWrap, spaced: true, ..Self::default() }
    }

    /// The same, with a line break, too, where what follows does not fit.
    pub fn after_wrap_or_full() -> Self {
        Self { fill: true, ..Self::after_wrap() }
    }
}

/// Tokens that are laid out together: on one line if they fit, else broken at all their soft gaps.
#[derive(Clone, Copy, Debug)]
pub(super) struct Group {
    /// First token.
    pub open: u32,
    /// One past the last token.
    pub close: u32,
    /// The first gap where it may break.
    pub first: u32,
    /// The group stays on one line if its tokens before this one fit.
    pub fit_end: u32,
    /// Broken whatever fits.
    pub always: bool,
    /// Broken if the author broke one of its soft gaps.
    pub keep: bool,
    /// If broken, its filled gaps break where the author broke them.
    pub rows: bool,
    /// Its lines are its author's: what lines up in them stays so.
    pub table: bool,
    /// A value behind an operator: it goes to the next line if it fits there as a whole, or if only there it can begin.
    pub lazy: bool,
    /// Of a value that goes to the next line, that it does so only to begin there.
    pub head_only: bool,
    /// Breaks only if this group is broken.
    pub outer: u32,
    /// Stays on the line for its last item only if the items would not fit on a line of their own.
    pub reluctant: bool,
}

impl Group {
    /// A group over tokens, which may break behind the first.
    pub fn over(open: u32, close: u32) -> Self {
        Self {
            open,
            close,
            first: open + 1,
            fit_end: close,
            always: false,
            keep: false,
            rows: false,
            table: false,
            lazy: false,
            head_only: false,
            outer: NO_GROUP,
            reluctant: false,
        }
    }
}

/// Where a brace pair is added around tokens.
#[derive(Clone, Copy, Debug)]
pub(super) struct AddedBraces {
    /// The gap in which `{` goes.
    pub open: u32,
    /// The gap in which `}` goes.
    pub close: u32,
}

/// Where a broken group gets a comma behind its last item.
#[derive(Clone, Copy, Debug)]
pub(super) struct AddedComma {
    /// The gap in which `,` goes.
    pub gap: u32,
    /// The group that must be broken for it.
    pub group: u32,
}

/// A part that lines up with the same part of its neighbours, if they stand on lines one below the other.
#[derive(Clone, Copy, Debug)]
pub(super) struct Cell {
    /// The gap in front of it.
    pub gap: u32,
    /// Which part of its line it is.
    pub column: u8,
    /// What holds its neighbours.
    pub holder: NodeId,
    /// Whether it is not there, and its column stays open.
    pub missing: bool,
    /// Whether the columns that it is in end with its line.
    pub last: bool,
}

/// A whole file's layout before it is measured.
#[derive(Debug, Default)]
pub(super) struct Plan {
    /// One for each token, and one for the end of the file.
    pub gaps: Vec<GapPlan>,
    pub groups: Vec<Group>,
    pub added: Vec<AddedBraces>,
    pub commas: Vec<AddedComma>,
    pub cells: Vec<Cell>,
    /// The first token of each row of a table, and the one behind its last: nothing in a row breaks.
    pub rows: Vec<(u32, u32)>,
}

impl Plan {
    pub fn new(tokens: usize) -> Self {
        Self { gaps: vec![GapPlan::default(); tokens + 1], ..Self::default() }
    }

    /// Whether no rule gave a gap its policy yet.
    pub fn is_open(&self, gap: u32) -> bool {
        self.gaps.get(gap as usize).is_some_and(|slot| slot.form == Form::Unset)
    }

    /// Gives a gap its policy, unless a rule further out did so before.
    pub fn set(&mut self, gap: u32, plan: GapPlan) {
        if let Some(slot) = self.gaps.get_mut(gap as usize) && slot.form == Form::Unset {
            *slot = plan;
        }
    }

    /// Whether a token is in a row of a table.
    pub fn is_in_row(&self, token: u32) -> bool {
        let behind = self.rows.partition_point(|(first, _)| *first <= token);
        behind.checked_sub(1).and_then(|row| self.rows.get(row)).is_some_and(|(_, end)| token < *end)
    }

    /// Adds a group and gives its number.
    pub fn group(&mut self, group: Group) -> u32 {
        self.groups.push(group);
        self.groups.len() as u32 - 1
    }
}
