//! A plan: the proposed chart, as a target for each touched account and not as a list of steps.
//! Nothing in it depends on the order in which it was staged.

pub mod edit;
mod fate;
mod fields;
pub mod steps;
pub mod texts;
pub mod typed;

pub use fate::Fate;
pub use fields::{Change, Field, InCrosswalk, Merging};

use crate::history::Split;
use crate::history::cut::Cuts;
use crate::ids::AccountId;
use crate::keyed::keyed;
use serde::{Deserialize, Serialize};
use std::collections::{BTreeMap, BTreeSet};

/// A staged change with what stood there when it was staged.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct Staged {
    /// What stood there on the day of staging; `None` for an account that the plan adds.
    pub base: Option<Change>,
    /// What it should become.
    pub change: Change,
}

/// What should become of one account: at most one change a field.
pub type Target = BTreeMap<Field, Staged>;

keyed! {
    /// How a plan stands.
    PlanStatus {
        /// It is staged, and can be changed.
        Draft = "draft", "draft";
        /// It was carried out.
        Applied = "applied", "applied";
        /// It was given up.
        Discarded = "discarded", "discarded";
    }
}

/// Why a reviewer goes on in spite of a stop.
#[derive(Clone, Debug, PartialEq, Eq, Serialize, Deserialize)]
pub struct Override {
    /// The reason, as typed.
    pub reason: String,
    /// The reviewer, by name.
    pub by: String,
}

/// A plan as the rehearsal sees it.
#[derive(Clone, Debug, Default, PartialEq, Eq)]
pub struct Plan {
    /// The touched accounts.
    pub targets: BTreeMap<AccountId, Target>,
    /// Stops in spite of which a reviewer goes on, by the stop's key.
    pub overrides: BTreeMap<String, Override>,
    /// What the parts of moved histories take; worked out from the lines as the books stand.
    pub cuts: Cuts,
}

impl Plan {
    /// Stages a change, in place of one of the same field.
    pub fn stage(&mut self, account: AccountId, base: Option<Change>, change: Change) {
        let target = self.targets.entry(account).or_default();
        target.insert(change.field(), Staged { base, change });
    }

    /// The accounts whose history is to move, with how.
    pub fn splits(&self) -> impl Iterator<Item = (AccountId, &Split)> {
        self.targets.iter().filter_map(|(id, target)| match &target.get(&Field::History)?.change {
            Change::History(split) if !split.parts.is_empty() => Some((*id, split)),
            _ => None,
        })
    }

    /// Every account that the plan changes, or that a change of it names.
    pub fn accounts(&self) -> BTreeSet<AccountId> {
        let named =
            self.targets.values().flat_map(BTreeMap::values).flat_map(|staged| {
                match &staged.change {
                    Change::Parent(Some(id)) | Change::Fate(Fate::MergeInto { into: id }) => {
                        vec![*id]
                    }
                    Change::History(split) => split.parts.iter().map(|part| part.to).collect(),
                    _ => Vec::new(),
                }
            });
        self.targets.keys().copied().chain(named).collect()
    }

    /// What a plan has in store for an account.
    pub fn fate(&self, account: AccountId) -> Option<Fate> {
        match self.targets.get(&account)?.get(&Field::Fate)?.change {
            Change::Fate(fate) => Some(fate),
            _ => None,
        }
    }
}
