//! What the rows of a chart stand at: accounts at their own figures, sum lines at those of their members.

use crate::activity::Figures;
use crate::chart::{Account, Chart, Kind};
use crate::code::CodeKey;
use crate::ids::{AccountId, ById};
use crate::trial_balance::balance;
use std::ops::AddAssign;

/// What a row stands at. Amounts are minor units of the base currency; debits are positive.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq)]
pub struct RowFigures {
    /// How many lines.
    pub lines: u64,
    /// The balance: to date, or of the latest fiscal year.
    pub balance: i128,
    /// What changed between two periods.
    pub net_change: i128,
}

impl AddAssign for RowFigures {
    fn add_assign(&mut self, other: Self) {
        self.lines += other.lines;
        self.balance += other.balance;
        self.net_change += other.net_change;
    }
}

impl RowFigures {
    /// What every row of a chart stands at, given what accounts add up to, and by how much they changed.
    pub fn all(chart: &Chart, figures: &ById<Figures>, changes: &ById<i128>) -> ById<Self> {
        let own = |account: &Account| {
            let figures = figures.get(&account.id).copied().unwrap_or_default();
            Self {
                lines: figures.all.lines,
                balance: balance(account, &figures),
                net_change: changes.get(&account.id).copied().unwrap_or_default(),
            }
        };
        let posting = chart.live().filter(|account| account.is_posting());
        let members: Vec<(CodeKey, Self)> = posting.map(|a| (a.code.key(), own(a))).collect();
        let sum = |row: &Account| {
            let mut sum = Self::default();
            let within =
                |key: &CodeKey| row.intervals.iter().any(|interval| interval.contains(key));
            members.iter().filter(|(key, _)| within(key)).for_each(|(_, own)| sum += *own);
            sum
        };
        let of = |row: &Account| if row.kind == Kind::Sum { sum(row) } else { own(row) };
        chart.live().map(|row: &Account| -> (AccountId, Self) { (row.id, of(row)) }).collect()
    }
}
