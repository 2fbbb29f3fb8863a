//! What a reshaping command has to do.

use anyhow::Context;
use vknot_reshape::steps::{Step, Wish};

/// A step to do.
pub struct Job {
    /// The command's name.
    pub name: &'static str,
    pub step: &'static Step,
    pub wish: Wish,
    /// Whether the receipt says why of everything.
    pub explains: bool,
}

impl Job {
    /// The step of that name, as a command asks for it.
    pub fn new(name: &'static str, step: &str, wish: Wish) -> anyhow::Result<Job> {
        let step = Step::named(step).with_context(|| format!("there is no step `{step}`"))?;
        Ok(Job { name, step, wish, explains: false })
    }
}
