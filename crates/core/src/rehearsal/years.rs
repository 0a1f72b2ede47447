//! Comparative figures: the latest fiscal years beside each other, as they stand today and as they
//! would be restated. Whoever had amounts in one of the years is there, retired or not.

use super::Rehearsal;
use crate::calendar::Period;
use crate::chart::{Account, Class};
use crate::ids::AccountId;
use crate::today::Today;
use crate::trial_balance::{TrialBalance, trial_balance};
use std::collections::{BTreeMap, HashMap};

/// The trial balances at the end of a fiscal year.
#[derive(Clone, Debug)]
pub struct Year {
    /// The last period that counts: of the latest year, the last that anything was posted in.
    pub last: Period,
    /// Of the chart as it is.
    pub today: TrialBalance,
    /// Of the chart After.
    pub after: TrialBalance,
}

/// An account through the years.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct Compared {
    /// The account.
    pub account: AccountId,
    /// What it stands at in each year, today and After, in minor units.
    pub balances: Vec<(i128, i128)>,
}

/// The latest fiscal years in which anything was posted, the latest first.
pub fn years(today: &Today, rehearsal: &Rehearsal, count: usize) -> Vec<Year> {
    let (Some(latest), Some(first)) = (today.activity.last(), today.activity.first()) else {
        return Vec::new();
    };
    let ends = std::iter::successors(Some(latest), |last| Some(Period(last.year_start().0 - 1)));
    let ends = ends.take_while(|last| *last >= first).take(count);
    ends.map(|last| {
        let after = rehearsal.effects.figures_to(&today.activity, last);
        Year {
            last,
            today: trial_balance(&today.chart, &today.activity.figures_to(last)),
            after: trial_balance(&rehearsal.after, &after),
        }
    })
    .collect()
}

/// Every account that stands at something in one of the years, on either side, in the order of the
/// chart After.
pub fn compare(today: &Today, rehearsal: &Rehearsal, years: &[Year]) -> Vec<Compared> {
    let mut balances: HashMap<AccountId, Vec<(i128, i128)>> = HashMap::new();
    for (n, year) in years.iter().enumerate() {
        let before = year.today.rows.iter().map(|row| (row.account, (row.balance, 0)));
        let after = year.after.rows.iter().map(|row| (row.account, (0, row.balance)));
        for (account, (today, after)) in before.chain(after) {
            let all = balances.entry(account).or_insert_with(|| vec![(0, 0); years.len()]);
            all[n].0 += today;
            all[n].1 += after;
        }
    }
    let bearer = |id: &AccountId| {
        rehearsal
            .after
            .get(*id)
            .filter(|account| account.is_live())
            .or_else(|| today.chart.get(*id))
    };
    let place = |account: &Account| (account.class, account.code.key(), account.id);
    let sorted: BTreeMap<_, _> = balances
        .into_iter()
        .filter_map(|(account, balances)| {
            Some((place(bearer(&account)?), Compared { account, balances }))
        })
        .collect();
    sorted.into_values().collect()
}

impl Year {
    /// What a class adds up to, today and After.
    pub fn class(&self, class: Class) -> (i128, i128) {
        (self.today.class(class), self.after.class(class))
    }
}
