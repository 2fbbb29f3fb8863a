//! Items that go from one file into another: taken out here, put in there, both proven, written and taken back together.

use vknot_reshape::editing::{Edit, To, carried, is_carried};
use vknot_reshape::steps::{Chain, Proven, Step};
use vknot_syntax::Span;

use crate::commands::work::{Worked, worked_on};
use crate::files::input::Input;
use crate::files::targets::Target;
use crate::files::workspace::Workspace;
use crate::place::Place;
use crate::problem::Problem;
use super::doing::{edited, meant, opened};
use super::operation::{Elsewhere, Operation, Side};

/// Takes an item into another file. The file that gets it comes first, so that what the last line says is where it stands.
pub fn across(
    operation: &Operation,
    elsewhere: &Elsewhere,
    step: &Step,
    input: Input,
    workspace: &Workspace,
) -> Result<Vec<Worked>, Problem> {
    let shown = &operation.common().shown;
    let at = meant(operation, &input, None)?;
    let Place { file, spot, .. } = &elsewhere.place;
    let other = opened(file, shown, workspace)?;
    let (own, there) = (input.document.language().name(), other.document.language().name());
    if own != there {
        let message = format!("is {there}, and the item is {own}; items go between files of one language");
        return Err(Problem::new(&other.shown, message));
    }
    let target = spot.resolve(other.code(), other.marks()).map_err(|message| Problem::new(&other.shown, message))?;
    let (text, taken) = carried(input.code(), at).map_err(|error| input.problem_at(at.start, error.to_string()))?;
    let put = put_in(&other, step, &text, (elsewhere.side, target), elsewhere.times)?;
    let place = put.receipt().place().unwrap_or(target);
    if elsewhere.times == 1 && !is_carried(input.code(), taken, put.document().code(), place) {
        let message =
            "its text would not be the same there: text that keeps its white space is in it; nothing was changed";
        return Err(input.problem_at(at.start, message.to_owned()));
    }
    let mut worked = Vec::new();
    if elsewhere.leaves {
        let gone = edited(&input, step, at, Edit::Delete)?;
        let named = Target::named(Place::parse(&operation.common().place).file);
        worked.push(worked_on(input, gone, &named));
    }
    worked.push(worked_on(other, put, &Target::named(file.clone())));
    Ok(worked)
}

/// Puts a text in at a place, and more of it behind itself.
fn put_in(other: &Input, step: &Step, text: &str, (side, at): (Side, Span), times: u32) -> Result<Proven, Problem> {
    let mut chain = Chain::new(other.document.clone());
    let mut to = match side {
        Side::Before => To::Before(at),
        Side::After => To::After(at),
        Side::Into => To::Into(at),
    };
    for _ in 0..times {
        let current = Input {
            document: chain.document().clone(),
            shown: other.shown.clone(),
            path: other.path.clone(),
        };
        let proven = edited(&current, step, at, Edit::Insert(to, text.to_owned()))?;
        if let Some(place) = proven.receipt().place() {
            to = To::After(place);
        }
        if times == 1 {
            return Ok(proven);
        }
        chain.accept(proven);
    }
    chain.finish_edits().map_err(|error| Problem::new(&other.shown, error.to_string()))
}
