//! What an account comes to, month by month within the columns of a statement.

use super::columns::Months;
use super::reading::{Place, Read, add_to};
use crate::calendar::Period;
use crate::ids::AccountId;

/// An account, or what it was when lines were posted, month by month.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct OfMonths {
    /// Its code, or the one it was posted under.
    pub code: String,
    /// Its name, or the one it was posted under.
    pub name: String,
    /// Where it stands, unless its balance is on the other side.
    pub place: Place,
    /// Of each column its months, with minor units of the base currency, debits less credits: the
    /// balance at the end of the month, or what was earned or spent in it.
    pub columns: Vec<Vec<(Period, i128)>>,
}

impl Read<'_> {
    /// The months of an account in each column. Of a history as it was posted it may have been several accounts.
    pub fn months(&self, account: AccountId) -> Vec<OfMonths> {
        let months = |column: &Months| (column.first.0..=column.last.0).map(Period);
        let single: Vec<Months> = self
            .columns
            .iter()
            .flat_map(months)
            .map(|month| Months { first: month, last: month })
            .collect();
        let mut found = Vec::new();
        for (at, bearer) in self.bearers.iter().enumerate() {
            if bearer.account != account {
                continue;
            }
            let mut sums = vec![0; single.len()];
            for (piece, _) in self.pieces.iter().filter(|(_, borne_by)| *borne_by == at) {
                add_to(&mut sums, &piece.on(bearer.class(), &single));
            }
            let mut sums = single.iter().map(|month| month.last).zip(sums);
            let of_column = |column: &Months| sums.by_ref().take(column.count() as usize).collect();
            found.push(OfMonths {
                code: bearer.code.to_owned(),
                name: bearer.name.to_owned(),
                place: bearer.home(),
                columns: self.columns.iter().map(of_column).collect(),
            });
        }
        found
    }
}
