//! What lines up with something on the lines above and below: comments behind code, columns, parts that an author set there.

use vknot_style::choices::AlignColumn;
use vknot_syntax::{NodeId, Span};

use super::Printer;
use super::ends::ENDS;
use crate::frames::place::blank_columns;
use crate::frames::tables::Number;
use crate::layout::columns::{FAR, Padded, Placed, SET_APART, Trailing};
use crate::spec::layout::Rule;
use crate::layout::plan::{Cell, Form, GapPlan};

/// What may begin on a line.
struct Begin<'t> {
    column: u32,
    /// What stands in front of it: a blank or a bracket.
    behind: char,
    /// The line from there on.
    rest: &'t str,
}

impl Begin<'_> {
    /// Whether it stands behind a blank or a bracket.
    fn is_word(&self) -> bool {
        matches!(self.behind, ' ' | '(' | '[' | '{')
    }
}

/// Over how many lines that go on with another an item is looked past for the next one.
const GOES_ON_FOR: u32 = 8;

/// Within how many levels the item is found that a token ends.
const FEW_LEVELS: usize = 8;

/// How many lines above and below tell where a part stands that several blanks set apart.
const ROWS_NEAR: u32 = 5;

impl Printer<'_, '_> {
    /// Notes a part that may line up with its neighbours; its gap is settled when they are known.
    pub(super) fn is_cell(&mut self, gap: u32, plan: &GapPlan, span: Span) -> bool {
        while self.cells.last().is_some_and(|cell| cell.gap < gap) {
            self.cells.pop();
        }
        while let Some(cell) = self.cells.pop_if(|cell| cell.gap == gap && cell.missing) {
            self.place(&cell, span);
        }
        let written = self.planner.written[gap as usize];
        let Some(cell) = self.cells.last().filter(|cell| cell.gap == gap).copied() else { return false };
        // A line that long was not written to be lined up, and telling columns in it would take long.
        let far = span.end - self.written_line > FAR;
        if plan.form != Form::Fixed || !plan.spaced || written.newlines > 0 || !written.plain || far {
            return false;
        }
        self.place(&cell, span);
        self.column += 1;
        true
    }

    /// Notes where a part stands, or would.
    fn place(&mut self, cell: &Cell, span: Span) {
        let was = (self.written_column(span.start), self.written_column(span.end));
        let begins = (self.line_place.columns(), self.line_indent());
        self.placed.push(Placed {
            gap: span,
            line: self.line,
            column: self.column,
            was,
            begins,
            part: (cell.column, cell.holder),
            missing: cell.missing,
            last: cell.last,
        });
    }

    /// Leaves white space that lines a part up with one on the line above or below, as its author had it.
    pub(super) fn stays_lined_up(&mut self, gap: u32, plan: &GapPlan, span: Span) -> bool {
        let written = self.planner.written[gap as usize];
        let simple = written.newlines == 0 && written.plain && !written.comment;
        if !simple || self.paper.columns != AlignColumn::Keep || span.start - self.written_line >= FAR {
            return false;
        }
        if span.is_empty() {
            return plan.spaced && self.fills_column(gap, span.end) && self.stays_on_line(gap, plan, true);
        }
        let white = span.of(self.planner.text);
        let lines_up = match plan.spaced {
            true if white == " " => false,
            true => white.contains('\t')
                || self.is_lined_up(span.end)
                || self.is_end_lined_up(gap, span)
                || self.is_lined_up_near(span)
                || self.is_in_shifted_row(span)
                || self.is_in_padded_column(span),
            // A number alone may stand apart from its bracket, and what ends an item from that.
            false => self.is_number_lined_up(span.end) || self.is_end_lined_up(gap, span),
        };
        if !lines_up || !self.stays_on_line(gap, plan, white.len() >= SET_APART as usize) {
            return false;
        }
        let [ended, was] = [span.start, span.end].map(|offset| self.written_column(offset));
        let (begins, indent) = (self.line_place.columns(), self.line_indent());
        // In a table what is in front changes alike in each row; statements in rows do not.
        let in_table = plan.form == Form::Soft && self.planner.token_text(gap.saturating_sub(1)) != ";";
        let column = match plan.spaced {
            false => self.column + was - ended,
            true if in_table => self.column + was - ended,
            true => (begins + was.saturating_sub(indent)).max(self.column + 1),
        };
        let blank = " ".repeat((column - self.column) as usize);
        if blank != white && !(self.column + indent == ended + begins && column - self.column == was - ended) {
            self.edits.push(span, &blank);
        }
        self.column = column;
        true
    }

    /// Whether no line begins in a gap, and none could. Items that fill lines are `set` apart, or in a table.
    fn stays_on_line(&mut self, gap: u32, plan: &GapPlan, set: bool) -> bool {
        let group = self.planner.plan.groups.get(plan.group as usize);
        match plan.form {
            Form::Fixed | Form::Author => true,
            Form::Soft => {
                let whole = !self.broken.get(plan.group as usize).copied().unwrap_or(false);
                let table = plan.fill && group.is_some_and(|group| group.table);
                let set = set || !plan.fill || group.is_some_and(|group| !self.planner.is_broken(group));
                whole && set || table && !self.breaks_at(gap, plan)
            }
            _ => false,
        }
    }

    /// Whether a number behind a comma takes all of its column: it ends with a shorter one on the line above or below, which blanks stand in
    /// front of, or with one that fills the column, too, as what is in front of both does.
    fn fills_column(&mut self, gap: u32, offset: u32) -> bool {
        let line = self.planner.code.source.line(offset) - 1;
        if self.planner.token_text(gap.saturating_sub(1)) != "," || !self.is_near_padded_number(line) {
            return false;
        }
        let rest = self.planner.text.get(offset as usize..).unwrap_or("");
        let Some(own) = Number::at(rest, self.written_column(offset)) else { return false };
        let padded = self.has_padded_number(line);
        let fills = |begin: &Begin<'_>| {
            let number = Number::at(begin.rest, begin.column).filter(|number| number.lines_up_with(&own));
            number.is_some_and(|number| match begin.behind {
                ' ' => number.column > own.column,
                ',' => padded && number.column == own.column,
                _ => false,
            })
        };
        own.is_long() && self.any_beside(offset, fills)
    }

    /// Whether a line, or that above or below it, has a number behind blanks; one is asked about for each of its numbers.
    fn is_near_padded_number(&mut self, line: u32) -> bool {
        if self.padded_near.0 != Some(line) {
            let rows = line.saturating_sub(1)..(line + 2).min(self.planner.code.source.lines().count());
            self.padded_near = (Some(line), rows.into_iter().any(|line| self.has_padded_number(line)));
        }
        self.padded_near.1
    }

    /// Whether blanks stand in front of a number behind a comma on a line.
    fn has_padded_number(&self, line: u32) -> bool {
        let line = self.planner.code.source.lines().text(self.planner.text, line);
        let near = line.char_indices().nth(FAR as usize).map_or(line, |(end, _)| &line[..end]);
        near.split(',').skip(1).any(|item| item.starts_with(' ') && Number::at(item.trim_start(), 0).is_some())
    }

    /// Whether a number lines up with a longer one on the line above or below, which a bracket touches.
    fn is_number_lined_up(&self, offset: u32) -> bool {
        let own = Number::at(self.planner.text.get(offset as usize..).unwrap_or(""), self.written_column(offset));
        let longer = |begin: &Begin<'_>| {
            let number = Number::at(begin.rest, begin.column).filter(|_| begin.behind != ' ');
            number.zip(own).is_some_and(|(number, own)| number.column < own.column && number.lines_up_with(&own))
        };
        own.is_some() && self.any_beside(offset, |begin| begin.is_word() && longer(begin))
    }

    /// Whether a comma, a closing bracket or a colon lines up with one on the line above or below: behind several blanks, or with one that
    /// touches its item; or with those of its table. A single blank that others have, too, is no column.
    fn is_end_lined_up(&mut self, gap: u32, blank: Span) -> bool {
        let (planner, column) = (self.planner, self.written_column(blank.end));
        let end = planner.token_text(gap);
        let meant = |begin: &Begin<'_>| blank.len() > 1 || begin.behind != ' ';
        let lines_up = |begin: &Begin<'_>| begin.column == column && begin.rest.starts_with(end) && meant(begin);
        let empty = matches!(self.planner.token_text(gap.saturating_sub(1)), "(" | "[");
        let ends = end.chars().next().filter(|c| end.len() == 1 && ENDS.contains(c));
        ends.is_some_and(|end| !empty && (self.any_beside(blank.end, lines_up) || self.is_end_in_table(end, blank)))
    }

    /// Whether something begins on the line above or below where a token begins, as written, or a number lines up with one.
    fn is_lined_up(&self, offset: u32) -> bool {
        let column = self.written_column(offset);
        let rest = self.planner.text.get(offset as usize..).unwrap_or("");
        let own = Number::at(rest, column);
        // What is pointed to goes by its name: `(*read)(...)`.
        let marks =
            rest.strip_prefix("(*").map_or(0, |rest| 2 + (rest.len() - rest.trim_start_matches('*').len()) as u32);
        let fits = |begin: &Begin<'_>| {
            let number = || own.zip(Number::at(begin.rest, begin.column));
            [column, column + marks].contains(&begin.column) && matches!(begin.behind, ' ' | '*' | '&')
                || number().is_some_and(|(own, number)| number.lines_up_with(&own))
        };
        self.any_beside(offset, |begin| (begin.is_word() || matches!(begin.behind, '*' | '&')) && fits(begin))
    }

    /// The same of a line a few rows away, of a token that stands behind several blanks.
    fn is_lined_up_near(&self, blank: Span) -> bool {
        let column = self.written_column(blank.end);
        let own = Number::at(self.planner.text.get(blank.end as usize..).unwrap_or(""), column);
        let fits = |begin: &Begin<'_>| {
            let number = || own.zip(Number::at(begin.rest, begin.column));
            begin.behind == ' '
                && (begin.column == column || number().is_some_and(|(own, number)| number.lines_up_with(&own)))
        };
        blank.len() >= SET_APART && self.any_on(self.rows_near(self.planner.code.source.line(blank.end) - 1), fits)
    }

    /// Whether a number behind blanks lines up with one a few rows away, counted from where the first number of each row ends: a row that
    /// begins with a shorter number may lack the blanks in front of it.
    fn is_in_shifted_row(&self, blank: Span) -> bool {
        let (lines, line) = (self.planner.code.source.lines(), self.planner.code.source.line(blank.end) - 1);
        let begin = |line: u32| {
            Number::at(lines.text(self.planner.text, line).trim_start(), self.indent_of(line))
                .map(|number| number.end())
        };
        let own = Number::at(self.planner.text.get(blank.end as usize..).unwrap_or(""), self.written_column(blank.end));
        let Some((first, own)) = begin(line).zip(own) else { return false };
        self.rows_near(line).any(|row| {
            let shifted = begin(row).filter(|begin| *begin != first);
            let number = |at: &Begin<'_>| Number::at(at.rest, at.column).filter(|_| at.is_word());
            let fits = |at: &Begin<'_>, begin: u32| number(at)
                .is_some_and(|number| number.end() + first == own.end() + begin);
            shifted.is_some_and(|begin| self.any_on(std::iter::once(row), |at| fits(at, begin)))
        })
    }

    /// Whether a token that several blanks set apart stands in a column that others of the file share.
    fn is_in_padded_column(&self, blank: Span) -> bool {
        let code = self.planner.code;
        blank.len() >= SET_APART && self.padded.get_or_init(|| Padded::of(code)).holds(code, blank)
    }

    /// The lines above and below one that begin where it does, with nothing between.
    fn rows_near(&self, line: u32) -> impl Iterator<Item = u32> {
        let lines = self.planner.code.source.lines();
        let own = self.indent_of(line);
        let alike = move |other: &u32| self.indent_of(*other) == own
            && !lines.text(self.planner.text, *other).trim().is_empty();
        let above = (line.saturating_sub(ROWS_NEAR)..line).rev().take_while(alike);
        above.chain((line + 1..(line + ROWS_NEAR).min(lines.count())).take_while(alike))
    }

    /// Whether something holds of any character on the line above or below that is no blank.
    fn any_beside(&self, offset: u32, holds: impl Fn(&Begin<'_>) -> bool) -> bool {
        self.any_on(self.lines_beside(self.planner.code.source.line(offset) - 1), holds)
    }

    /// The same of some lines.
    fn any_on(&self, mut rows: impl Iterator<Item = u32>, holds: impl Fn(&Begin<'_>) -> bool) -> bool {
        let (lines, text) = (self.planner.code.source.lines(), self.planner.text);
        let on_line = |line: u32| {
            let line = lines.text(text, line);
            let (mut column, mut behind) = (0, ' ');
            line.char_indices().take(FAR as usize).any(|(index, c)| {
                let begin = Begin { column, behind, rest: &line[index..] };
                (column, behind) = match c {
                    '\t' => ((column / self.tab_width() + 1) * self.tab_width(), ' '),
                    c => (column + 1, c),
                };
                !c.is_whitespace() && holds(&begin)
            })
        };
        rows.any(on_line)
    }

    /// The lines above and below one, and behind those that stand further in the next that does not.
    fn lines_beside(&self, line: u32) -> impl Iterator<Item = u32> {
        let above = (line.saturating_sub(GOES_ON_FOR)..line).rev();
        let below = line + 1..(line + GOES_ON_FOR).min(self.planner.code.source.lines().count());
        self.lines_on(line, above).chain(self.lines_on(line, below))
    }

    /// The same on one side of it.
    fn lines_on(&self, line: u32, mut side: impl Iterator<Item = u32>) -> impl Iterator<Item = u32> {
        let lines = self.planner.code.source.lines();
        let indent = |line: u32| self.indent_of(line);
        let own = indent(line);
        // One blank line may part the rows of a table.
        let text = |line: u32| lines.text(self.planner.text, line).trim();
        let mut next = side.by_ref().take(2).find(|line| !text(*line).is_empty());
        // What a preprocessor is told between two rows is no row.
        if self.planner.code.toolkit().indent.has_directives && next.is_some_and(|line| text(line).starts_with('#')) {
            next = side.find(|line| !text(*line).is_empty() && !text(*line).starts_with('#'));
        }
        let goes_on = next.is_some_and(|next| indent(next) > own);
        let beyond = if goes_on { side.find(|line| indent(*line) <= own) } else { None };
        next.into_iter().chain(beyond)
    }

    /// The columns of white space that a line was written with.
    pub(super) fn indent_of(&self, line: u32) -> u32 {
        let text = self.planner.code.source.lines().text(self.planner.text, line);
        let blank = text.len() - text.trim_start_matches([' ', '\t']).len();
        blank_columns(text.get(..blank).unwrap_or(""), self.tab_width())
    }

    pub(super) fn tab_width(&self) -> u32 {
        self.paper.indentation.tab_width.max(1)
    }

    /// The columns of white space that the line at hand was written with.
    pub(super) fn line_indent(&self) -> u32 {
        let rest = self.planner.text.get(self.written_line as usize..).unwrap_or("");
        let blank = rest.len() - rest.trim_start_matches([' ', '\t']).len();
        blank_columns(&rest[..blank], self.paper.indentation.tab_width)
    }

    /// Notes a comment behind code, whose gap is settled when its neighbours are known.
    pub(super) fn trails(&mut self, gap: u32, plan: &GapPlan, span: Span) -> bool {
        let planner = self.planner;
        let comment = gap > 0 && planner.is_comment_token(gap);
        let behind = plan.form == Form::Fixed && plan.spaced && planner.newlines(gap + 1) > 0;
        let kept = matches!(plan.form, Form::Keep | Form::Verbatim | Form::Unset);
        if !comment || kept || !(behind || plan.continues) || !self.buffer.is_empty() {
            return false;
        }
        if self.measure.multiline[gap as usize] && !plan.continues {
            return self.stays_behind(span);
        }
        // Right behind the code a mark alone says no more than that the line ends there.
        let bare = planner.code.tree.language().spec().line_comments().any(|mark| planner.token_text(gap) == mark);
        if span.is_empty() && bare && self.paper.comment_gap.is_none() {
            return true;
        }
        let begins_line = plan.continues.then_some(self.line_place);
        self.line += u32::from(plan.continues);
        let (line, was) = (self.line, self.written_column(span.end));
        let column = if plan.continues { 0 } else { self.column };
        let before = planner.token_text(gap - 1);
        let begins = (
            self.line_place.columns(),
            if plan.continues { self.line_place.columns() } else { self.line_indent() },
        );
        let ended = self.written_column(span.start);
        let opens = matches!(before, "{" | "(" | ":");
        let of_items = planner.table.spec.columns_of_items;
        let item = if of_items && before == "," { self.item_of_comma(gap - 1) } else { None };
        let several = |item: NodeId| planner.newlines(planner.first(item)) == 0;
        let last = of_items && planner.is_infix(gap - 1) || item.is_some_and(several);
        // What stands in columns of its own goes by these.
        let in_columns = |item: NodeId| matches!(planner.rule_of(item), Rule::Words(words) if !words.cells.is_empty());
        let of_list = item.is_some_and(|item| !in_columns(item));
        self.trailing.push(Trailing { gap: span, line, column, was, opens, last, of_list, begins_line, begins, ended });
        if plan.continues {
            self.frames.begin_line(gap, Some(self.line_place));
        }
        self.column += 1;
        true
    }

    /// The item in front of a comma.
    fn item_of_comma(&self, comma: u32) -> Option<NodeId> {
        let tree = self.planner.tree;
        let [comma, item] = [comma, comma.checked_sub(1)?].map(|at| tree.tokens().get(at as usize));
        let holder = tree.parent(comma?.node);
        tree.ancestors(item?.node).take(FEW_LEVELS).find(|id| tree.parent(*id) == holder)
    }

    /// Whether the second line of a comment begins right behind the column of its first.
    fn lines_up_below(&self, offset: u32) -> bool {
        let line = self.planner.code.source.line(offset);
        line < self.planner.code.source.lines().count() && self.indent_of(line) == self.written_column(offset) + 1
    }

    /// Leaves a comment of several lines as far behind the code as it was; its lines move with it.
    fn stays_behind(&mut self, span: Span) -> bool {
        let [ended, was] = [span.start, span.end].map(|offset| self.written_column(offset));
        // Where its lines stand below each other, the code may fill all of the column in front of it.
        let full = span.is_empty() && self.paper.comment_gap.is_none();
        let begins = |offset: u32| self.planner.text[..offset as usize].ends_with(['(', '[']);
        let least = u32::from(!(full && (self.lines_up_below(span.end) || begins(span.start))));
        let width = was.saturating_sub(ended).max(least);
        let text = " ".repeat(width as usize);
        if text != span.of(self.planner.text) && (self.column != ended || width != was - ended) {
            self.edits.push(span, &text);
        }
        self.column += width;
        true
    }
}
