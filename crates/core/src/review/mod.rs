//! The review: what somebody who knows the trade would notice in a chart, with the evidence and the
//! way out. It reads the books as they stand and proposes; nothing is changed before it is staged.

mod classes;
mod controls;
pub mod dismissed;
pub mod fixes;
pub mod look_alikes;
pub mod remarks;
pub mod side_by_side;
pub mod sketch;
mod survivor;
pub mod unused;
pub mod wording;

pub use survivor::Better;

use crate::ids::{AccountId, ById};
use std::collections::BTreeSet;

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
    pub fn add(&mut self, accounts: impl IntoIterator<Item = AccountId>) {
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
