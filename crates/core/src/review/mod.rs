//! The review: what somebody who knows the trade would notice in a chart, with the evidence and the
//! way out. It reads the books as they stand and proposes; nothing is changed before it is staged.

pub mod look_alikes;
pub mod mending;
pub mod remarks;
pub mod side_by_side;
mod survivor;
pub mod unused;
pub mod wording;

use crate::ids::{AccountId, ById};
use std::collections::{BTreeMap, BTreeSet};

/// Accounts that a person has said are not the same thing, as sets: what it takes grows with the
/// accounts that were told apart, and not with their pairs.
#[derive(Clone, Debug, Default, PartialEq, Eq)]
pub struct NotDuplicates {
    sets: usize,
    /// Of each account the sets that it is in.
    of: ById<BTreeSet<usize>>,
}

impl NotDuplicates {
    /// Tells all of some accounts apart from each other.
    pub fn tell(&mut self, accounts: impl IntoIterator<Item = AccountId>) {
        for account in accounts {
            self.of.entry(account).or_default().insert(self.sets);
        }
        self.sets += 1;
    }

    /// Whether a person has said that two accounts are not the same thing.
    pub fn are(&self, one: AccountId, other: AccountId) -> bool {
        let sets = self.of.get(&one).zip(self.of.get(&other));
        one != other && sets.is_some_and(|(one, other)| !one.is_disjoint(other))
    }
}

/// What the lines of each account speak of.
pub type Sketches = ById<Sketch>;

/// With whom the lines of an account are, and what they say.
#[derive(Clone, Debug, Default, PartialEq, Eq)]
pub struct Sketch {
    payees: Shares,
    memos: Shares,
}

/// How many lines are of each kind.
#[derive(Clone, Debug, Default, PartialEq, Eq)]
struct Shares(BTreeMap<String, u32>);

impl Sketch {
    /// Takes note of so many lines with somebody.
    pub fn see(&mut self, payee: &str, lines: u32) {
        self.payees.add(payee, lines);
    }

    /// Takes note of so many lines that say something.
    pub fn read(&mut self, memo: &str, lines: u32) {
        self.memos.add(memo, lines);
    }
}

impl Shares {
    fn add(&mut self, text: &str, lines: u32) {
        if !text.is_empty() {
            *self.0.entry(text.to_owned()).or_default() += lines;
        }
    }

    /// How many lines there are of any kind.
    fn lines(&self) -> u32 {
        self.0.values().sum()
    }

    /// How much of the lines of both is of the same: 1 when they are shared out alike.
    fn overlap(&self, other: &Self) -> f64 {
        let share = |shares: &Self, n: u32| f64::from(n) / f64::from(shares.lines().max(1));
        let shared = self
            .0
            .iter()
            .filter_map(|(text, n)| Some(share(self, *n).min(share(other, *other.0.get(text)?))));
        shared.sum()
    }

    /// Of what both have the most lines.
    fn common(&self, other: &Self, count: usize) -> Vec<String> {
        let both = self
            .0
            .iter()
            .filter_map(|(text, n)| Some(((*n).min(*other.0.get(text)?), text.clone())));
        let mut both: Vec<(u32, String)> = both.collect();
        both.sort_by(|a, b| b.cmp(a));
        both.into_iter().take(count).map(|(_, text)| text).collect()
    }
}
