//! Limits on work, and a way to stop it.

use std::sync::Arc;
use std::sync::atomic::{AtomicBool, Ordering};

/// Stops work that is under way, from another thread. What was stopped gives what a text beyond its budget gives: a tree of brackets and
/// lines.
#[derive(Clone, Debug, Default)]
pub struct Limits {
    stop: Option<Arc<AtomicBool>>,
}

impl Limits {
    /// Work that ends once the flag is set.
    pub fn stopped_by(flag: Arc<AtomicBool>) -> Limits {
        Limits { stop: Some(flag) }
    }

    /// Whether the work is to end.
    pub fn is_stopped(&self) -> bool {
        self.stop.as_ref().is_some_and(|stop| stop.load(Ordering::Relaxed))
    }
}
