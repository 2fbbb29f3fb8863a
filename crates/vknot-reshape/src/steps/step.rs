//! The table of steps.

use vknot_style::Style;
use vknot_syntax::{Kind, Language, Role, Span};

use crate::editing::{self, Edit, EditError};
use crate::indent::{self, Shift, ShiftError, Target};
use crate::keeps::generated;
use crate::looks;
use crate::receipt::{LeftAlone, Reason, Receipt};
use crate::regions::{self, RegionError};
use crate::registry::capabilities;
use crate::reshape::Reshape;
use crate::{imports, layout, spelling};
use crate::imports::Wanted;
use crate::spec::Code;
use crate::spec::imports::{Alone, Surroundings};
use super::chain::Chain;
use super::conflicts::Conflicts;
use super::contract::Contract;
use super::document::Document;
use super::inside;
use super::prove::{prove, Proven};
use super::refusal::Refusal;

/// What a step is asked to do beside its name.
#[derive(Clone, Debug, Default, PartialEq, Eq)]
pub enum Wish {
    /// Nothing else.
    #[default]
    Nothing,
    /// For `shift`: by how many levels, and where to.
    Shift(Shift),
    /// For `convert`: what leading white space becomes.
    Convert(Target),
    /// For `region add`: the region's name.
    Name(String),
    /// For `imports`: what is done.
    Imports(Wanted),
    /// For `edit`: which.
    Edit(Edit),
}

/// What is asked of a step.
#[derive(Clone, Default)]
pub struct Request<'r> {
    /// The parts of the file that are meant; `None` for the whole.
    pub only: Option<&'r [Span]>,
    /// What else is wished.
    pub wish: Wish,
    /// Whether files that say that a program wrote them are taken, too.
    pub generated: bool,
    /// What is known around the file; `None` where it is alone.
    pub around: Option<&'r dyn Surroundings>,
    /// What the files beside it show; `None` where there are none.
    pub beside: Option<Beside<'r>>,
}

/// Gives a style with what the files beside show of settings that nothing sets; `None` where they show nothing that makes a difference.
/// Only what is to change asks.
pub type Beside<'r> = &'r (dyn Fn(&Style) -> Option<Style> + Sync);

/// Why a step cannot do what is asked.
#[derive(Clone, Debug, PartialEq, Eq, thiserror::Error)]
pub enum StepError {
    /// Lines cannot be shifted.
    #[error(transparent)]
    Shift(#[from] ShiftError),
    /// A region cannot be put there.
    #[error(transparent)]
    Region(#[from] RegionError),
    /// There is nothing that an edit could be done to.
    #[error(transparent)]
    Edit(#[from] EditError),
    /// Something that the step needs was not said.
    #[error("{0}")]
    Missing(&'static str),
    /// The result did not pass the proof.
    #[error(transparent)]
    Refused(#[from] Refusal),
    /// The work was stopped.
    #[error("was stopped")]
    Stopped,
}

/// One way to reshape a document.
pub struct Step {
    /// Its name.
    pub name: &'static str,
    /// What it does, in a word for what cannot be done where it does not cover a language: `cannot be laid out`.
    pub done: &'static str,
    /// What it does not know of a language that it does not cover: `layout is`.
    pub unknown: &'static str,
    /// What it finds where a file is not as it should be.
    pub finding: &'static str,
    /// Whether it can be done in a language.
    pub covers: fn(&'static Language) -> bool,
    /// Whether a language has what it is about; where it has not, leaving a file alone is no failure.
    pub concerns: fn(&'static Language) -> bool,
    /// What it may do.
    pub contract: Contract,
    /// Whether doing it again on its result finds nothing to do.
    pub settles: bool,
    /// Whether what it does depends on other files, too.
    pub looks_around: bool,
    way: Way,
}

/// How a step goes about it.
enum Way {
    /// All at once.
    Once(fn(&Document, &Request<'_>) -> Result<Reshape, StepError>),
    /// By what files show of what nothing sets: again and again, as its result is read then, until nothing changes. The first round does
    /// without reading.
    Rounds { first: Part, rest: fn(&Document, &Request<'_>, Reshape) -> Result<Reshape, StepError> },
}

impl std::fmt::Debug for Step {
    fn fmt(&self, f: &mut std::fmt::Formatter<'_>) -> std::fmt::Result {
        write!(f, "Step({})", self.name)
    }
}

impl Step {
    /// The step of that name.
    pub fn named(name: &str) -> Option<&'static Step> {
        STEPS.iter().find(|step| step.name == name)
    }

    /// Does the step and proves what comes of it. Conflicts that version control left are read by their first side, and stay as they are.
    ///
    /// # Errors
    /// When it cannot do what is asked, or the result does not pass the proof.
    pub fn run(&self, document: &Document, request: &Request<'_>) -> Result<Proven, StepError> {
        let text = document.source().text();
        if self.contract.keeps && !request.generated && let Some(span) = generated(document.code()) {
            let left = LeftAlone { span, reason: Reason::Generated };
            let receipt = Receipt { left_alone: vec![left], ..Receipt::default() };
            return Ok(prove(document, Reshape { receipt, ..Reshape::default() }, self.contract)?);
        }
        let conflicts = Conflicts::of(text);
        if conflicts.is_empty() {
            return self.run_on(document, request, |_| {});
        }
        let read = document.with_text(conflicts.masked(text));
        let outside = conflicts.outside(request.only, document.source().span().end);
        let request = Request { only: Some(&outside), ..request.clone() };
        Ok(self.run_on(&read, &request, |reshape| conflicts.leave(reshape, text))?.onto(document))
    }

    fn run_on(
        &self,
        document: &Document,
        request: &Request<'_>,
        settle: impl FnOnce(&mut Reshape),
    ) -> Result<Proven, StepError> {
        let piece = match (&request.wish, request.only) {
            (Wish::Edit(edit), Some([at, ..])) => inside::inside(document, *at, edit).transpose()?,
            _ => None,
        };
        if let Some(piece) = piece {
            let only = [piece.at];
            let request = Request { only: Some(&only), wish: Wish::Edit(piece.edit), ..request.clone() };
            let proven = self.run(&piece.document, &request)?;
            let edits = inside::outside(document, piece.index, proven.edits())?;
            return Ok(inside::put_back(document, piece.index, edits, &proven)?);
        }
        let (company, mut reshape) = self.in_company(document, request)?;
        let document = company.as_ref().unwrap_or(document);
        if document.is_stopped() {
            return Err(StepError::Stopped);
        }
        settle(&mut reshape);
        let refusal = match prove(document, reshape, self.contract) {
            Ok(proven) => return Ok(proven),
            Err(refusal) => refusal,
        };
        // What the proof does not pass may do with brackets, or further out.
        let attempts = match &request.wish {
            Wish::Edit(edit) => edit.attempts(),
            _ => 1,
        };
        let proven = (1..attempts)
            .map_while(|attempt| edited(document, request, attempt).ok())
            .filter(|reshape| !reshape.edits.is_empty())
            .find_map(|reshape| prove(document, reshape, self.contract).ok());
        proven.ok_or(StepError::Refused(refusal))
    }

    /// What the step would do, not proven yet.
    ///
    /// # Errors
    /// When it cannot do what is asked.
    pub fn reshape(&self, document: &Document, request: &Request<'_>) -> Result<Reshape, StepError> {
        match self.way {
            Way::Once(reshape) => reshape(document, request),
            Way::Rounds { first, rest } => {
                rest(document, request, first(document.code(), document.style(), request.only))
            }
        }
    }

    /// The same by what the files beside show, with the document in a style that says so, where it may make a difference.
    fn in_company(
        &self,
        document: &Document,
        request: &Request<'_>,
    ) -> Result<(Option<Document>, Reshape), StepError> {
        let beside = |alone: &Reshape| {
            let beside = request.beside.filter(|_| !alone.edits.is_empty())?;
            beside(document.style()).map(|style| document.clone().with_style(style))
        };
        match self.way {
            Way::Once(reshape) => {
                let alone = reshape(document, request)?;
                let other = if self.looks_around { beside(&alone) } else { None };
                let Some(other) = other else { return Ok((None, alone)) };
                let together = reshape(&other, request)?;
                Ok((Some(other), together))
            }
            Way::Rounds { first, rest } => {
                let alone = first(document.code(), document.style(), request.only);
                let Some(other) = beside(&alone) else { return Ok((None, rest(document, request, alone)?)) };
                // What makes no difference at first may do so in a later round, when the file shows less.
                let together = first(other.code(), other.style(), request.only);
                let reshape = rest(&other, request, together)?;
                Ok((Some(other), reshape))
            }
        }
    }
}

impl Chain {
    /// Adds a step. Parts that are meant are those of the document as it is by now.
    ///
    /// # Errors
    /// When the step cannot be done; the chain is then as it was.
    pub fn step(&mut self, step: &Step, request: &Request<'_>) -> Result<(), StepError> {
        let proven = step.run(self.document(), request)?;
        self.accept(proven);
        Ok(())
    }
}

/// Every step, sorted by name.
pub static STEPS: &[Step] = &[
    Step {
        name: "convert",
        done: "indented",
        unknown: "indentation is",
        finding: "Lines do not begin with the white space asked for",
        covers: every,
        concerns: every,
        contract: Contract::INDENTATION,
        settles: true,
        looks_around: false,
        way: Way::Once(|document, request| match request.wish {
            Wish::Convert(target) => Ok(indent::convert(document.code(), document.style(), request.only, target)),
            _ => Err(StepError::Missing("say what white space is to become: tabs or spaces")),
        }),
    },
    Step {
        name: "edit",
        done: "edited",
        unknown: "edits are",
        finding: "An edit is to be done",
        covers: every,
        concerns: every,
        contract: Contract::EDIT,
        settles: false,
        looks_around: false,
        way: Way::Once(|document, request| edited(document, request, 0)),
    },
    Step {
        name: "format",
        done: "laid out",
        unknown: "layout is",
        finding: "The file is not laid out in its style",
        covers: |language| capabilities(language).layout,
        concerns: every,
        contract: Contract::LAYOUT,
        settles: true,
        looks_around: false,
        way: Way::Rounds { first: layout::once, rest: laid_out },
    },
    Step {
        name: "imports",
        done: "put in order by its imports",
        unknown: "imports are",
        finding: "Imports are not in order, or not needed",
        covers: |language| capabilities(language).imports,
        concerns: |language| {
            capabilities(language).imports
                || (0..language.kind_count() as u16).any(|kind| language.role(Kind(kind)) == Role::Import)
        },
        contract: Contract::IMPORTS,
        settles: true,
        looks_around: true,
        way: Way::Once(|document, request| {
            let wanted = match &request.wish {
                Wish::Imports(wanted) => wanted.clone(),
                _ => Wanted::default(),
            };
            let around = request.around.unwrap_or(&Alone);
            Ok(imports::organize(document.code(), document.style(), request.only, &wanted, around))
        }),
    },
    Step {
        name: "indent",
        done: "indented",
        unknown: "indentation is",
        finding: "Lines are not indented by their structure",
        covers: |language| capabilities(language).indentation,
        concerns: every,
        contract: Contract::INDENTATION,
        settles: true,
        looks_around: false,
        way: Way::Rounds {
            first: indent::once,
            rest: |document, request, first| Ok(indent::rest(document.code(), document.style(), request.only, first)),
        },
    },
    Step {
        name: "region add",
        done: "parted into regions",
        unknown: "regions are",
        finding: "A region is to be added",
        covers: every,
        concerns: every,
        contract: Contract::MARKERS,
        settles: false,
        looks_around: false,
        way: Way::Once(|document, request| {
            let span = whole(request).ok_or(StepError::Missing("name the lines: FILE:LINE-LINE or FILE@NAME"))?;
            let Wish::Name(name) = &request.wish else { return Err(StepError::Missing("name the region")) };
            Ok(regions::add(document.code(), span, name)?)
        }),
    },
    Step {
        name: "region remove",
        done: "parted into regions",
        unknown: "regions are",
        finding: "A region is to be removed",
        covers: every,
        concerns: every,
        contract: Contract::MARKERS,
        settles: false,
        looks_around: false,
        way: Way::Once(|document, request| {
            let span = whole(request).ok_or(StepError::Missing("name the region: FILE@NAME, or a line of it"))?;
            let found = looks::regions(document.code(), document.marks()).regions;
            let held = found.iter().filter(|region| region.span().covers(span) || region.open.touches(span));
            let innermost = held.max_by_key(|region| region.depth);
            let none = StepError::Missing("no region is there; `vknot region list` shows those there are");
            Ok(regions::remove(document.code(), innermost.ok_or(none)?))
        }),
    },
    Step {
        name: "shift",
        done: "indented",
        unknown: "indentation is",
        finding: "Lines are to be shifted",
        covers: every,
        concerns: every,
        contract: Contract::SHIFT,
        settles: false,
        looks_around: false,
        way: Way::Once(|document, request| match request.wish {
            Wish::Shift(by) => Ok(indent::shift(document.code(), document.style(), request.only, by)?),
            _ => Err(StepError::Missing("say by how many levels, and where to")),
        }),
    },
];

/// What an edit makes of a document, at one of several attempts.
fn edited(document: &Document, request: &Request<'_>, attempt: u32) -> Result<Reshape, StepError> {
    let span = whole(request).ok_or(StepError::Missing("name a place in the file: FILE:LINE:COL, or FILE@NAME"))?;
    let Wish::Edit(edit) = &request.wish else { return Err(StepError::Missing("say which edit")) };
    Ok(editing::edit(document.code(), document.style(), span, edit, attempt)?)
}

/// A part of a layout, in a file or in the lines of some spans of it.
type Part = fn(Code<'_>, &Style, Option<&[Span]>) -> Reshape;

/// Tokens as the style writes them, then the layout, then comments that fit into it.
fn laid_out(document: &Document, request: &Request<'_>, first: Reshape) -> Result<Reshape, StepError> {
    let (style, only) = (document.style(), request.only);
    if !spelling::is_asked(style) {
        return Ok(layout::rest(document.code(), style, only, first));
    }
    let mut chain = Chain::new(document.clone());
    let mut only = only.map(<[Span]>::to_vec);
    let mut changes = |part: Part| -> Result<bool, StepError> {
        let reshape = part(chain.document().code(), style, only.as_deref());
        let moved = |span: &Span| Span::new(reshape.edits.moved(span.start), reshape.edits.moved(span.end));
        only.iter_mut().flatten().for_each(|span| *span = moved(span));
        let changed = !reshape.edits.is_empty();
        chain.accept(prove(chain.document(), reshape, Contract::LAYOUT)?);
        Ok(changed)
    };
    changes(spelling::spell)?;
    // What lines end with may be written otherwise once they are broken elsewhere.
    if changes(layout::format)? && changes(spelling::spell)? {
        changes(layout::format)?;
    }
    // Comments are broken when all stands.
    if changes(spelling::fitted)? {
        changes(layout::format)?;
    }
    Ok(chain.into_reshape())
}

fn every(_: &'static Language) -> bool {
    true
}

/// The span from the first part that is meant to the last.
fn whole(request: &Request<'_>) -> Option<Span> {
    let only = request.only?;
    Some(Span::new(only.iter().map(|span| span.start).min()?, only.iter().map(|span| span.end).max()?))
}
