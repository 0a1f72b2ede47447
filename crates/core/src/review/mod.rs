//! The review: what somebody who knows the trade would notice in a chart, with the evidence and the
//! way out. It reads the books as they stand and proposes; nothing is changed before it is staged.

pub mod look_alikes;
pub mod remarks;
pub mod unused;
pub mod wording;

use crate::ids::ById;
use std::collections::BTreeMap;

/// What the lines of each account speak of.
pub type Sketches = ById<Sketch>;

/// With whom the lines of an account are.
#[derive(Clone, Debug, Default, PartialEq, Eq)]
pub struct Sketch {
    payees: BTreeMap<String, u32>,
}

impl Sketch {
    /// Takes note of so many lines with somebody.
    pub fn see(&mut self, payee: &str, lines: u32) {
        if !payee.is_empty() {
            *self.payees.entry(payee.to_owned()).or_default() += lines;
        }
    }

    /// How many lines are with somebody.
    fn lines(&self) -> u32 {
        self.payees.values().sum()
    }

    /// How much of the lines of both is with the same: 1 when they are shared out alike.
    fn overlap(&self, other: &Self) -> f64 {
        let share = |sketch: &Self, n: u32| f64::from(n) / f64::from(sketch.lines().max(1));
        let shared = self.payees.iter().filter_map(|(payee, n)| {
            Some(share(self, *n).min(share(other, *other.payees.get(payee)?)))
        });
        shared.sum()
    }

    /// With whom both have the most lines.
    fn common(&self, other: &Self, count: usize) -> Vec<String> {
        let both = self
            .payees
            .iter()
            .filter_map(|(payee, n)| Some(((*n).min(*other.payees.get(payee)?), payee.clone())));
        let mut both: Vec<(u32, String)> = both.collect();
        both.sort_by(|a, b| b.cmp(a));
        both.into_iter().take(count).map(|(_, payee)| payee).collect()
    }
}
