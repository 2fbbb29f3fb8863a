//! Where lines begin, and the columns of what stands on them.

use unicode_width::UnicodeWidthChar;
use vknot_style::{Indentation, Key};

/// Where a line begins: columns that are levels of indentation, and columns behind them that only line it up with
/// something above.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq)]
pub(crate) struct Place {
    pub level: u32,
    pub align: u32,
}

/// Indentation stops growing there: without a limit the text of deeply nested files grows with the square of the depth.
const DEEPEST: u32 = 256;

impl Place {
    pub fn level(columns: u32) -> Place {
        Place { level: columns.min(DEEPEST), align: 0 }
    }

    pub fn columns(self) -> u32 {
        self.level + self.align
    }

    /// So many columns further in.
    pub fn deeper(self, columns: u32) -> Place {
        Place { level: (self.level + columns).min(DEEPEST), ..self }
    }

    /// So many columns further out.
    pub fn shallower(self, columns: u32) -> Place {
        let level = self.level.saturating_sub(columns);
        Place { level, align: self.align }
    }

    /// So many columns further in that line it up with something.
    pub fn aligned(self, columns: u32) -> Place {
        Place { align: self.align + columns, ..self }
    }

    /// So many columns further in, or out: what only lines it up comes down last.
    pub fn moved(self, columns: i64) -> Place {
        let further = u32::try_from(columns).unwrap_or(0);
        let out = u32::try_from(columns.saturating_neg()).unwrap_or(0);
        let rest = out.saturating_sub(self.level);
        Place { align: self.align.saturating_sub(rest), ..self.deeper(further).shallower(out) }
    }

    /// The same mix of levels and the rest, at another column.
    pub fn with_columns(self, columns: u32) -> Place {
        let level = self.level.min(columns);
        Place { level, align: columns - level }
    }

    /// Lined up with a column of the line that begins here.
    pub fn lined_up(self, column: u32) -> Place {
        Place { align: column.min(DEEPEST).saturating_sub(self.level), ..self }
    }

    /// Where a line with that white space begins.
    pub fn of(blank: &str, indentation: Indentation) -> Place {
        let columns = blank_columns(blank, indentation.tab_width);
        if !indentation.tabs {
            return Place { level: columns, align: 0 };
        }
        let tabs = blank.len() - blank.trim_start_matches('\t').len();
        let level = (tabs as u32 * indentation.tab_width).min(columns);
        Place { level, align: columns - level }
    }

    /// Writes the white space of a line that begins here.
    pub fn write(self, indentation: Indentation, align_with_tabs: bool, out: &mut String) {
        let width = indentation.tab_width.max(1);
        let level = match indentation.tabs {
            true if align_with_tabs || width != indentation.size => self.columns() / width * width,
            true => self.level / width * width,
            false => 0,
        };
        out.extend(std::iter::repeat_n('\t', (level / width) as usize));
        out.extend(std::iter::repeat_n(' ', (self.columns() - level) as usize));
    }
}

/// What decides where a line stands.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub(crate) enum By {
    /// The structure alone.
    Structure,
    /// A setting, which tells how far it stands in from there.
    Setting(Key, Place),
    /// The structure, though some stand one step in from there and others none, or half a one.
    Step(Place),
    /// It closes what a bracket opened.
    Close,
    /// It goes on with what another line began.
    Wrap,
    /// Its author: it is no code for certain.
    Author,
}

/// Where a line goes.
#[derive(Clone, Copy, Debug)]
pub(crate) struct Spot {
    pub place: Place,
    /// Whether what begins there closes what was open, so that comments in front of it stand inside.
    pub closes: bool,
    /// What decides it.
    pub by: By,
}

impl Spot {
    pub fn by(place: Place, by: By) -> Spot {
        Spot { place, closes: false, by }
    }
}

impl From<Place> for Spot {
    fn from(place: Place) -> Spot {
        Spot::by(place, By::Structure)
    }
}

/// Columns a text takes on a terminal, tabs counted as one.
pub(crate) fn width_of(text: &str) -> u32 {
    // Character by character, as the frames count: what several make together must not be another width here.
    let wide = || text.chars().map(|c| c.width().unwrap_or(0) as u32).sum();
    if text.is_ascii() { text.len() as u32 } else { wide() }
}

/// The columns that white space, or the code at the beginning of a line, takes.
pub(crate) fn blank_columns(text: &str, tab_width: u32) -> u32 {
    text.chars().fold(0, |column, c| advanced(column, c, tab_width))
}

/// The columns in which the lines behind the first one of a text begin: the first of them, and the one that stands furthest out. `None` where
/// there is nothing on them.
pub(crate) fn margin_behind_first(text: &str, tab_width: u32) -> Option<(u32, u32)> {
    let lines = text.lines().skip(1).filter(|line| !line.trim().is_empty());
    let mut columns = lines.map(|line| blank_columns(&line[..line.len() - line.trim_start().len()], tab_width));
    let first = columns.next()?;
    Some((first, columns.fold(first, u32::min)))
}

fn advanced(column: u32, c: char, tab_width: u32) -> u32 {
    match c {
        '\t' => (column / tab_width.max(1) + 1) * tab_width.max(1),
        c if c.is_ascii() => column + 1,
        c => column + c.width().unwrap_or(0) as u32,
    }
}

/// Follows the text to tell the column of each token in the result. Moves forward only, so that a file of one line costs no more
/// than any other.
pub(crate) struct Pen<'t> {
    text: &'t str,
    at: u32,
    column: u32,
    tab_width: u32,
}

impl<'t> Pen<'t> {
    pub fn new(text: &'t str, tab_width: u32) -> Self {
        Self { text, at: 0, column: 0, tab_width }
    }

    /// Says that what stands at an offset stands in that column of the result.
    pub fn set(&mut self, at: u32, column: u32) {
        (self.at, self.column) = (at, column);
    }

    /// The column of what stands at an offset.
    pub fn column_of(&mut self, offset: u32) -> u32 {
        let passed = self.text.get(self.at as usize..offset as usize).unwrap_or("");
        for c in passed.chars() {
            self.column = if c == '\n' { 0 } else { advanced(self.column, c, self.tab_width) };
        }
        self.at = self.at.max(offset);
        self.column
    }
}
