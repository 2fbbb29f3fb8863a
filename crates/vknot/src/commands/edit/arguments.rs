//! What all edits take.

use std::ffi::OsString;

use vknot_style::Override;
use vknot_syntax::Span;

use crate::arguments::{InputArguments, ReshapeArguments, ReshapeOutput};
use crate::files::input::Input;
use crate::place::{Place, Spot, parse_spot};
use crate::problem::Problem;

/// How an edit is shown or written.
#[derive(clap::Args, Clone, Default)]
pub struct ShownArguments {
    /// Write the result to the file
    #[arg(short, long, conflicts_with = "check")]
    pub write: bool,
    /// Write nothing; exit with 1 if there is something to do
    #[arg(long)]
    pub check: bool,
    /// How to show what changes [default: diff; text for standard input]
    #[arg(long, value_enum, value_name = "FORM")]
    pub output: Option<ReshapeOutput>,
    /// A setting that beats the files
    #[arg(long = "set", value_name = "KEY=VALUE")]
    pub set: Vec<Override>,
    #[command(flatten)]
    pub input: InputArguments,
}

/// What all edits take.
#[derive(clap::Args, Clone)]
pub struct PlaceArguments {
    /// What is taken hold of; `-` is standard input
    #[arg(value_name = "PLACE")]
    pub place: OsString,
    /// Take hold of this rung of the ladder at the place, as `vknot select` counts them
    #[arg(long, value_name = "N")]
    pub rung: Option<usize>,
    #[command(flatten)]
    pub shown: ShownArguments,
}

impl ShownArguments {
    /// The same, as all reshapes take it.
    pub fn as_reshape(&self, place: OsString) -> ReshapeArguments {
        ReshapeArguments {
            places: vec![place],
            write: self.write,
            check: self.check,
            output: self.output,
            changed: false,
            since: "HEAD".to_owned(),
            staged: false,
            no_cache: true,
            generated: false,
            set: self.set.clone(),
            input: self.input.clone(),
        }
    }
}

/// The place that a spot names in another file; `None` where it is in the same one.
pub fn other_file(input: &Input, spot: &OsString) -> Option<Place> {
    let text = spot.to_str().unwrap_or("");
    if text.starts_with('@') || parse_spot(text).is_some() {
        return None;
    }
    let place = Place::parse(spot);
    let whole = |path: &std::path::Path| path.canonicalize().ok();
    let same = place.file.display().to_string() == input.shown
        || input.path
            .as_deref()
            .is_some_and(|own| own == place.file || whole(own).is_some() && whole(own) == whole(&place.file));
    (!same).then_some(place)
}

/// The span of a spot in the file: `LINE:COL` and the like, `@NAME`, or a whole place in the same file.
pub fn found(input: &Input, spot: &OsString) -> Result<Span, Problem> {
    let text = spot.to_str().unwrap_or("");
    let own = match text.strip_prefix('@') {
        Some(name) => Some(Spot::Name(name.to_owned())),
        None => parse_spot(text),
    };
    let spot = match own {
        Some(spot) => spot,
        None if other_file(input, spot).is_some() => {
            let message = "names another file; only `move` and `copy` go there, outside of scripts";
            return Err(Problem::new(text, message));
        }
        None => Place::parse(spot).spot,
    };
    spot.resolve(input.code(), input.marks()).map_err(|message| Problem::new(text, message))
}
