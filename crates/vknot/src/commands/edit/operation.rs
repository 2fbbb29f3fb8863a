//! The edits, as they are asked for, and what each asks of the step.

use std::ffi::OsString;
use std::io::Read;

use clap::{Args, Subcommand, ValueEnum};
use vknot_reshape::editing::{Block, Edit, End, Form, LineEdit, Part, Reach, To, Toggle};
use vknot_syntax::{MAX_BYTES, Span};

use crate::files::input::{Input, STDIN};
use crate::place::{Place, Spot, parse_spot};
use crate::problem::Problem;
use super::arguments::{PlaceArguments, found, other_file};
use super::uses;

#[derive(Subcommand)]
pub enum Operation {
    Move(MoveArguments),
    Copy(CopyArguments),
    Delete(DeleteArguments),
    Insert(InsertArguments),
    Swap(SwapArguments),
    Wrap(WrapArguments),
    Unwrap(UnwrapArguments),
    Lift(LiftArguments),
    Pull(PullArguments),
    Push(PushArguments),
    Split(SplitArguments),
    Join(JoinArguments),
    Comment(CommentArguments),
    Uncomment(UncommentArguments),
    Toggle(ToggleArguments),
    Lines(LinesArguments),
    Columns(ColumnsArguments),
    Occurrences(uses::Arguments),
}

/// Move items past their neighbours, or to another place
///
/// Comments and annotations that belong to an item go with it; separators stay right, and indentation follows.
#[derive(Args)]
pub struct MoveArguments {
    #[command(flatten)]
    common: PlaceArguments,
    #[command(flatten)]
    to: ToArguments,
}

/// Where to. Places without a file are in the same one: `LINE:COL`, `LINE-LINE`, `@NAME`. `FILE:LINE:COL` and the like take it elsewhere.
#[derive(Args)]
#[group(required = true, multiple = false)]
pub struct ToArguments {
    /// So many items towards the start
    #[arg(long, value_name = "N", num_args = 0..=1, default_missing_value = "1")]
    up: Option<u32>,
    /// So many items towards the end
    #[arg(long, value_name = "N", num_args = 0..=1, default_missing_value = "1")]
    down: Option<u32>,
    /// In front of the item at a place, here or in another file of the language
    #[arg(long, value_name = "SPOT")]
    before: Option<OsString>,
    /// Behind the item at a place
    #[arg(long, value_name = "SPOT")]
    after: Option<OsString>,
    /// Into the list, block, type or element at a place, at its end
    #[arg(long, value_name = "SPOT")]
    into: Option<OsString>,
}

/// Copy items below themselves, or to another place
#[derive(Args)]
pub struct CopyArguments {
    #[command(flatten)]
    common: PlaceArguments,
    /// How many copies
    #[arg(long, value_name = "N", default_value_t = 1, value_parser = clap::value_parser!(u32).range(1..=10_000))]
    times: u32,
    /// In front of the item at a place, here or in another file of the language
    #[arg(long, value_name = "SPOT", group = "to")]
    before: Option<OsString>,
    /// Behind the item at a place [default: behind the item itself]
    #[arg(long, value_name = "SPOT", group = "to")]
    after: Option<OsString>,
    /// Into the list, block, type or element at a place, at its end
    #[arg(long, value_name = "SPOT", group = "to")]
    into: Option<OsString>,
}

/// Take items out, with their separators, blank lines and comments
#[derive(Args)]
pub struct DeleteArguments {
    #[command(flatten)]
    common: PlaceArguments,
}

/// Put a text in as an item, laid out in the file's style
#[derive(Args)]
pub struct InsertArguments {
    #[command(flatten)]
    common: PlaceArguments,
    /// In front of the item at the place
    #[arg(long, group = "side")]
    before: bool,
    /// Behind the item at the place [default]
    #[arg(long, group = "side")]
    after: bool,
    /// Into the list, block, type or element at the place, at its end
    #[arg(long, group = "side")]
    into: bool,
    /// The text [default: standard input]
    #[arg(long, value_name = "TEXT", allow_hyphen_values = true)]
    text: Option<String>,
}

/// Swap an item, or an operand, with its neighbour or with another one
#[derive(Args)]
pub struct SwapArguments {
    #[command(flatten)]
    common: PlaceArguments,
    /// With the one so many behind it [default: the next one]
    #[arg(long, value_name = "N", num_args = 0..=1, default_missing_value = "1", group = "with_what")]
    next: Option<u32>,
    /// With the one so many in front of it
    #[arg(long, value_name = "N", num_args = 0..=1, default_missing_value = "1", group = "with_what")]
    previous: Option<u32>,
    /// With what is at another place
    #[arg(long, value_name = "SPOT", group = "with_what")]
    with: Option<OsString>,
    /// Swap the branches of the conditional around the place, and turn its condition
    #[arg(long, group = "with_what")]
    branches: bool,
}

/// Put brackets, a tag, a call or a block around items
///
/// `--in` takes a bracket (`(`, `[`, `{`), a tag (`<b>`), or a template with one hole `_`: `log(_)`, `if (ready) { _ }`.
#[derive(Args)]
pub struct WrapArguments {
    #[command(flatten)]
    common: PlaceArguments,
    /// What comes around
    #[arg(long = "in", value_name = "TEMPLATE")]
    template: String,
}

/// Take the closest pair around a place away; what it holds stays
#[derive(Args)]
pub struct UnwrapArguments {
    #[command(flatten)]
    common: PlaceArguments,
}

/// Put an item in place of what holds it
#[derive(Args)]
pub struct LiftArguments {
    #[command(flatten)]
    common: PlaceArguments,
}

/// Pull neighbours from outside into the closest bracket, block or element
#[derive(Args)]
pub struct PullArguments {
    #[command(flatten)]
    common: PlaceArguments,
    /// What is behind it, at its end [default]
    #[arg(long, group = "side")]
    next: bool,
    /// What is in front of it, at its start
    #[arg(long, group = "side")]
    previous: bool,
    #[command(flatten)]
    reach: ReachArguments,
}

/// Push the outermost items of the closest bracket, block or element out of it
#[derive(Args)]
pub struct PushArguments {
    #[command(flatten)]
    common: PlaceArguments,
    /// Its first items, in front of it
    #[arg(long, group = "side")]
    first: bool,
    /// Its last items, behind it [default]
    #[arg(long, group = "side")]
    last: bool,
    #[command(flatten)]
    reach: ReachArguments,
}

/// How many.
#[derive(Args)]
pub struct ReachArguments {
    /// How many items
    #[arg(long, value_name = "N", default_value_t = 1, conflicts_with = "until")]
    count: u32,
    /// All items as far as the one at a place
    #[arg(long, value_name = "SPOT")]
    until: Option<OsString>,
}

/// Split a list into one item a line, a string in two, a declaration by its names, an `if` in two
#[derive(Args)]
pub struct SplitArguments {
    #[command(flatten)]
    common: PlaceArguments,
    /// Make two of the element, form, list or block around the item: the second begins with it
    #[arg(long)]
    pair: bool,
}

/// Join a list onto one line, two strings, two declarations, two nested `if`s
#[derive(Args)]
pub struct JoinArguments {
    #[command(flatten)]
    common: PlaceArguments,
    /// Make one of the element, form, list or block around the place and the next one of its kind
    #[arg(long)]
    pair: bool,
}

/// Make lines, or an item, a comment
#[derive(Args)]
pub struct CommentArguments {
    #[command(flatten)]
    common: PlaceArguments,
    /// How [default: by lines where the language can]
    #[arg(long, value_enum, value_name = "FORM")]
    form: Option<CommentForm>,
}

/// Make code of a comment again
#[derive(Args)]
pub struct UncommentArguments {
    #[command(flatten)]
    common: PlaceArguments,
}

/// Make code a comment, or a comment code
#[derive(Args)]
pub struct ToggleArguments {
    #[command(flatten)]
    common: PlaceArguments,
    /// How [default: by lines where the language can]
    #[arg(long, value_enum, value_name = "FORM")]
    form: Option<CommentForm>,
}

#[derive(Clone, Copy, ValueEnum)]
pub enum CommentForm {
    /// A mark in front of each line
    Line,
    /// Marks around the whole
    Block,
}

/// Edit plain lines, whatever their structure
#[derive(Args)]
pub struct LinesArguments {
    #[command(flatten)]
    common: PlaceArguments,
    #[command(flatten)]
    what: LineArguments,
}

#[derive(Args)]
#[group(required = true, multiple = false)]
pub struct LineArguments {
    /// Move them up past so many lines
    #[arg(long, value_name = "N", num_args = 0..=1, default_missing_value = "1")]
    up: Option<u32>,
    /// Move them down past so many lines
    #[arg(long, value_name = "N", num_args = 0..=1, default_missing_value = "1")]
    down: Option<u32>,
    /// Copy them below themselves so many times
    #[arg(long, value_name = "N", num_args = 0..=1, default_missing_value = "1")]
    copy: Option<u32>,
    /// Take them out
    #[arg(long)]
    delete: bool,
    /// Put a blank line above them
    #[arg(long)]
    blank_above: bool,
    /// Put a blank line below them
    #[arg(long)]
    blank_below: bool,
}

/// Edit a rectangle: the same columns of every line
///
/// The place is FILE:LINE:COL-LINE:COL, its columns those that are displayed: wide characters have two, and a tab goes to the next stop.
#[derive(Args)]
pub struct ColumnsArguments {
    #[command(flatten)]
    common: PlaceArguments,
    #[command(flatten)]
    what: ColumnArguments,
    /// Fill lines that are too short with spaces
    #[arg(long)]
    fill: bool,
}

#[derive(Args)]
#[group(required = true, multiple = false)]
pub struct ColumnArguments {
    /// Put a text in front of the rectangle
    #[arg(long, value_name = "TEXT", allow_hyphen_values = true)]
    insert: Option<String>,
    /// Put a text in place of what is in it
    #[arg(long, value_name = "TEXT", allow_hyphen_values = true)]
    replace: Option<String>,
    /// Take out what is in it
    #[arg(long)]
    delete: bool,
    /// Take it out and put it in at another place, told before it goes
    #[arg(long, value_name = "LINE:COL")]
    to: Option<String>,
}

/// Where in another file an item is to go.
pub struct Elsewhere {
    pub place: Place,
    pub side: Side,
    /// How many of it come in there.
    pub times: u32,
    /// Whether it leaves its own file.
    pub leaves: bool,
}

/// On which side of the place.
#[derive(Clone, Copy, PartialEq, Eq)]
pub enum Side {
    Before,
    After,
    Into,
}

impl Operation {
    /// Where an item is to go, if that is in another file.
    pub fn elsewhere(&self, input: &Input) -> Option<Elsewhere> {
        let (before, after, into, times, leaves) = match self {
            Operation::Move(MoveArguments { to, .. }) => (&to.before, &to.after, &to.into, 1, true),
            Operation::Copy(copy) => (&copy.before, &copy.after, &copy.into, copy.times, false),
            _ => return None,
        };
        let sides = [(before, Side::Before), (after, Side::After), (into, Side::Into)];
        let (spot, side) = sides.into_iter().find_map(|(spot, side)| Some((spot.as_ref()?, side)))?;
        other_file(input, spot).map(|place| Elsewhere { place, side, times, leaves })
    }

    /// What all edits take.
    pub fn common(&self) -> &PlaceArguments {
        match self {
            Operation::Move(MoveArguments { common, .. })
            | Operation::Copy(CopyArguments { common, .. })
            | Operation::Delete(DeleteArguments { common })
            | Operation::Insert(InsertArguments { common, .. })
            | Operation::Swap(SwapArguments { common, .. })
            | Operation::Wrap(WrapArguments { common, .. })
            | Operation::Unwrap(UnwrapArguments { common })
            | Operation::Lift(LiftArguments { common })
            | Operation::Pull(PullArguments { common, .. })
            | Operation::Push(PushArguments { common, .. })
            | Operation::Split(SplitArguments { common, .. })
            | Operation::Join(JoinArguments { common, .. })
            | Operation::Comment(CommentArguments { common, .. })
            | Operation::Uncomment(UncommentArguments { common })
            | Operation::Toggle(ToggleArguments { common, .. })
            | Operation::Lines(LinesArguments { common, .. })
            | Operation::Columns(ColumnsArguments { common, .. }) => common,
            Operation::Occurrences(uses) => &uses.common,
        }
    }

    /// The edit that is asked for, with its places found in a file.
    pub fn edit(&self, input: &Input, at: Span) -> Result<Edit, Problem> {
        Ok(match self {
            Operation::Move(MoveArguments { to, .. }) => Edit::Move(to.found(input)?),
            Operation::Copy(copy) => {
                let to = match (&copy.before, &copy.after, &copy.into) {
                    (Some(spot), ..) => To::Before(found(input, spot)?),
                    (_, Some(spot), _) => To::After(found(input, spot)?),
                    (.., Some(spot)) => To::Into(found(input, spot)?),
                    _ => To::Down(1),
                };
                Edit::Copy(to, copy.times)
            }
            Operation::Delete(_) => Edit::Delete,
            Operation::Insert(insert) => {
                let to = match () {
                    _ if insert.before => To::Before(at),
                    _ if insert.into => To::Into(at),
                    _ => To::After(at),
                };
                Edit::Insert(to, insert.text(input)?)
            }
            Operation::Swap(swap) => match (&swap.with, swap.previous) {
                _ if swap.branches => Edit::Turn,
                (Some(spot), _) => Edit::Swap(To::Before(found(input, spot)?)),
                (_, Some(by)) => Edit::Swap(To::Up(by)),
                _ => Edit::Swap(To::Down(swap.next.unwrap_or(1))),
            },
            Operation::Wrap(wrap) => Edit::Wrap(wrap.template.clone()),
            Operation::Unwrap(_) => Edit::Unwrap,
            Operation::Lift(_) => Edit::Lift,
            Operation::Pull(pull) => {
                Edit::Pull(if pull.previous { End::First } else { End::Last }, pull.reach.found(input)?)
            }
            Operation::Push(push) => {
                Edit::Push(if push.first { End::First } else { End::Last }, push.reach.found(input)?)
            }
            Operation::Split(split) => Edit::Split(part(split.pair)),
            Operation::Join(join) => Edit::Join(part(join.pair)),
            Operation::Comment(comment) => Edit::Comment(Toggle::On, form(comment.form)),
            Operation::Uncomment(_) => Edit::Comment(Toggle::Off, Form::Usual),
            Operation::Toggle(toggle) => Edit::Comment(Toggle::Either, form(toggle.form)),
            Operation::Lines(lines) => Edit::Lines(lines.what.edit()),
            Operation::Columns(columns) => Edit::Columns(columns.block(input)?),
            Operation::Occurrences(uses) => uses.edit(input, at)?,
        })
    }
}

fn part(pair: bool) -> Part {
    if pair { Part::Pair } else { Part::Closest }
}

fn form(form: Option<CommentForm>) -> Form {
    match form {
        None => Form::Usual,
        Some(CommentForm::Line) => Form::Line,
        Some(CommentForm::Block) => Form::Block,
    }
}

impl ToArguments {
    fn found(&self, input: &Input) -> Result<To, Problem> {
        Ok(match (self.up, self.down, &self.before, &self.after, &self.into) {
            (Some(by), ..) => To::Up(by),
            (_, Some(by), ..) => To::Down(by),
            (_, _, Some(spot), ..) => To::Before(found(input, spot)?),
            (.., Some(spot), _) => To::After(found(input, spot)?),
            (.., Some(spot)) => To::Into(found(input, spot)?),
            _ => To::Down(1),
        })
    }
}

impl ReachArguments {
    fn found(&self, input: &Input) -> Result<Reach, Problem> {
        match &self.until {
            Some(spot) => found(input, spot).map(Reach::Until),
            None => Ok(Reach::Count(self.count)),
        }
    }
}

impl InsertArguments {
    fn text(&self, input: &Input) -> Result<String, Problem> {
        if let Some(text) = &self.text {
            return Ok(text.clone());
        }
        if self.common.place.to_str().is_some_and(|place| Place::parse(place.as_ref()).file.as_os_str() == STDIN) {
            return Err(Problem::new(&input.shown, "standard input is the file; give the text with --text"));
        }
        let mut text = String::new();
        let read = std::io::stdin().lock().take(MAX_BYTES).read_to_string(&mut text);
        read.map_err(|error| Problem::new("-", format!("standard input cannot be read: {error}")))?;
        Ok(text)
    }
}

impl LineArguments {
    fn edit(&self) -> LineEdit {
        match (self.up, self.down, self.copy) {
            (Some(by), ..) => LineEdit::Up(by),
            (_, Some(by), _) => LineEdit::Down(by),
            (.., Some(times)) => LineEdit::Copy(times),
            _ if self.delete => LineEdit::Delete,
            _ if self.blank_above => LineEdit::BlankAbove,
            _ => LineEdit::BlankBelow,
        }
    }
}

impl ColumnsArguments {
    fn block(&self, input: &Input) -> Result<Block, Problem> {
        let problem = |message: &str| Problem::new(&input.shown, message);
        let spot = Place::parse(&self.common.place).spot;
        let Spot::Range(from, to) = spot else {
            return Err(problem("a rectangle is FILE:LINE:COL-LINE:COL, from one corner to the opposite one"));
        };
        let position = |text: &str| match parse_spot(text) {
            Some(Spot::Position(at)) if at.line > 0 && at.column > 0 => Ok((at.line - 1, at.column - 1)),
            _ => Err(problem("--to takes LINE:COL, both from 1")),
        };
        if [from.line, to.line, from.column, to.column].contains(&0) || from.line > to.line {
            return Err(problem(
                "lines and columns of a rectangle count from 1, and it goes from its first line to its last",
            ));
        }
        let (left, right) = (from.column.min(to.column) - 1, from.column.max(to.column) - 1);
        let what = &self.what;
        let columns = if what.insert.is_some() { (left, left) } else { (left, right) };
        Ok(Block {
            lines: (from.line - 1, to.line - 1),
            columns,
            text: what.insert.clone().or_else(|| what.replace.clone()),
            to: what.to.as_deref().map(position).transpose()?,
            fill: self.fill,
        })
    }
}
