//! Accounts that may become one, side by side: their settings with the differences marked, and what
//! each adds up to year by year.

use super::survivor::{Better, suggest};
use crate::calendar::Period;
use crate::chart::Account;
use crate::history::cut::Tally;
use crate::ids::AccountId;
use crate::plan::{Change, Field, Merging};
use crate::today::Today;
use std::collections::{BTreeMap, BTreeSet};
use time::Date;

/// A setting of all the accounts.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct Setting {
    /// Which.
    pub field: Field,
    /// What each account has.
    pub values: Vec<Change>,
    /// Whether they do not all have the same.
    pub differs: bool,
    /// Whether one can be kept of any of them.
    pub can_be_kept: bool,
}

/// Accounts side by side.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct SideBySide {
    /// The accounts, in the order in which they were asked for.
    pub accounts: Vec<AccountId>,
    /// The one that would best be kept.
    pub survivor: AccountId,
    /// What it has over the next best.
    pub why: Option<Better>,
    /// Their settings.
    pub settings: Vec<Setting>,
    /// What the lines of each add up to.
    pub tallies: Vec<Tally>,
    /// By month, what is budgeted for each.
    pub budgets: BTreeMap<Date, Vec<i128>>,
}

impl SideBySide {
    /// The fiscal years in which any of them has lines, by their first periods, the latest first.
    pub fn years(&self) -> Vec<Period> {
        let years: BTreeSet<Period> =
            self.tallies.iter().flat_map(|tally| tally.years.keys().copied()).collect();
        years.into_iter().rev().collect()
    }
}

/// Sets accounts side by side; those that are not rows of the chart are left out. `None` when none is.
pub fn side_by_side(today: &Today, accounts: &[AccountId]) -> Option<SideBySide> {
    let rows: Vec<&Account> = accounts
        .iter()
        .filter_map(|id| today.chart.get(*id).filter(|account| account.is_live()))
        .collect();
    let ids: Vec<AccountId> = rows.iter().map(|account| account.id).collect();
    let latest = today.figures().values().filter_map(|figures| figures.last).max();
    let (survivor, why) = suggest(today, &ids, latest)?;
    let setting = |field: Field| {
        let values: Vec<Change> = rows.iter().map(|row| Change::of(row, field)).collect();
        Setting {
            field,
            differs: values.windows(2).any(|pair| pair[0] != pair[1]),
            values,
            can_be_kept: field.merging() == Merging::Chosen,
        }
    };
    let compared = Field::ALL.iter().copied().filter(|field| field.merging() != Merging::Own);
    let mut budgets: BTreeMap<Date, Vec<i128>> = BTreeMap::new();
    for (at, id) in ids.iter().enumerate() {
        for (month, amount) in today.usage.budget_of(*id).into_iter().flatten() {
            budgets.entry(*month).or_insert_with(|| vec![0; ids.len()])[at] = *amount;
        }
    }
    let tallies = ids.iter().map(|id| Tally::of_account(today, *id));
    Some(SideBySide {
        settings: compared.map(setting).collect(),
        tallies: tallies.collect(),
        budgets,
        accounts: ids,
        survivor,
        why,
    })
}
