//! Does one edit to a document, and says why where it does not.

use std::path::Path;

use vknot_reshape::editing::Edit;
use vknot_reshape::looks;
use vknot_reshape::steps::{Proven, Request, Step, StepError, Wish};
use vknot_syntax::Span;

use crate::files::input::Input;
use crate::files::workspace::Workspace;
use crate::place::{Place, Spot};
use crate::problem::Problem;
use super::arguments::ShownArguments;
use super::operation::Operation;

/// Does an edit to a document, and proves it.
pub fn done(operation: &Operation, step: &Step, input: &Input, there: Option<Span>) -> Result<Proven, Problem> {
    let at = meant(operation, input, there)?;
    edited(input, step, at, operation.edit(input, at)?)
}

/// Does an edit at a span, and proves it.
pub fn edited(input: &Input, step: &Step, at: Span, edit: Edit) -> Result<Proven, Problem> {
    let only = [at];
    let request = Request { only: Some(&only), wish: Wish::Edit(edit), ..Request::default() };
    step.run(&input.document, &request).map_err(|error| problem(input, at, error))
}

/// Reads a file, in the style that holds for it.
pub fn opened(file: &Path, shown: &ShownArguments, workspace: &Workspace) -> Result<Input, Problem> {
    let input = workspace.read(file, &shown.input)?;
    let style = workspace.style(input.source().path(), input.document.language(), &shown.set);
    Ok(Input { document: input.document.clone().with_style(style), ..input })
}

/// The span of a place, or of a rung there.
pub fn meant(operation: &Operation, input: &Input, there: Option<Span>) -> Result<Span, Problem> {
    let common = operation.common();
    let place = Place::parse(&common.place);
    if matches!(operation, Operation::Columns(_)) {
        return Ok(input.source().span());
    }
    let span = spot_span(&place.spot, input, there, common.place.to_str() == Some(THERE))?;
    let Some(rung) = common.rung else { return Ok(span) };
    let ladder = looks::ladder(input.code(), span);
    let count = ladder.len();
    let found = ladder.into_iter().nth(rung);
    found.map(|rung| rung.span).ok_or_else(|| {
        input.problem_at(span.start, format!("there is no rung {rung}; the ladder here has {count}, from 0"))
    })
}

/// What stands for the place of what the last edit of a script was about.
pub const THERE: &str = "there";

fn spot_span(spot: &Spot, input: &Input, there: Option<Span>, is_there: bool) -> Result<Span, Problem> {
    if is_there {
        let none = || Problem::new(&input.shown, "no edit came before, so that nothing is `there`");
        return there.ok_or_else(none);
    }
    let span = spot.resolve(input.code(), input.marks()).map_err(|message| Problem::new(&input.shown, message))?;
    Ok(span)
}

/// Why an edit was not done.
fn problem(input: &Input, at: Span, error: StepError) -> Problem {
    match error {
        StepError::Refused(refusal) => {
            let message = format!("this edit would break the code: {}; nothing was changed", refusal.reason);
            input.problem_at(if refusal.offset == 0 { at.start } else { refusal.offset }, message)
        }
        error => input.problem_at(at.start, error.to_string()),
    }
}
