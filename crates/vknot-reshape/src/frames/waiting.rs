//! Comments that begin lines stand with the line behind them, unless that closes what they are in: they wait for it.

use super::place::{Place, Spot};

/// Comments that wait for the line behind them.
#[derive(Default)]
pub(crate) struct Waiting {
    /// The line, and where it would stand as an item of what it is in.
    list: Vec<(usize, Place)>,
}

impl Waiting {
    pub fn push(&mut self, line: usize, inside: Place) {
        self.list.push((line, inside));
    }

    pub fn is_empty(&self) -> bool {
        self.list.is_empty()
    }

    /// The last line that waits.
    pub fn last(&self) -> Option<usize> {
        self.list.last().map(|(line, _)| *line)
    }

    /// Gives them their places, `next` being that of the line behind them.
    pub fn settle(&mut self, next: Option<Spot>, places: &mut [Place]) {
        for (line, inside) in self.list.drain(..) {
            places[line] = next.filter(|spot| !spot.closes).map_or(inside, |spot| spot.place);
        }
    }
}
