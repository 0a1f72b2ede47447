//! What was posted, in pieces that stand as a whole under one account: strands, and the parts that a plan carves from
//! them.

use super::columns::Months;
use crate::activity::{Activity, Shares, Strand, Totals};
use crate::calendar::Period;
use crate::ids::AccountId;
use crate::rehearsal::effects::Effects;
use crate::statement::Class;
use std::collections::BTreeMap;

/// A strand, or a part of one.
pub(super) struct Piece<'a> {
    pub(super) strand: &'a Strand,
    /// Who presents it After.
    pub(super) after: AccountId,
    shares: &'a Shares,
    /// What of it closing entries put there. Of a strand that is carved all of them stay on what is left of it: only
    /// lines tell which of them a part takes.
    closings: Option<&'a BTreeMap<Period, i128>>,
    /// What of it opening entries put there, likewise.
    openings: Option<&'a BTreeMap<Period, Totals>>,
}

/// All that was posted, as it stands today and after the effects of a plan.
pub(super) fn pieces<'a>(activity: &'a Activity, effects: &'a Effects) -> Vec<Piece<'a>> {
    let mut pieces = Vec::new();
    for (strand, shares, _) in activity.strands() {
        let (closings, openings) = (activity.closings(strand.id), activity.openings(strand.id));
        let carving = effects.carvings.get(&strand.id);
        let left = carving.map_or(shares, |carving| &carving.left);
        let after = effects.presenter(strand);
        pieces.push(Piece { strand, after, shares: left, closings, openings });
        for carve in carving.iter().flat_map(|carving| &carving.parts) {
            let (after, shares) = (carve.to, &carve.shares);
            pieces.push(Piece { strand, after, shares, closings: None, openings: None });
        }
    }
    pieces
}

impl Piece<'_> {
    /// What it comes to on a line of a class: on the balance sheet what it stands at on the last day of each column,
    /// on the income statement what was earned or spent in its months.
    pub(super) fn on(&self, class: Class, columns: &[Months]) -> Vec<i128> {
        if class.on_balance_sheet() { self.balances(columns) } else { self.results(columns) }
    }

    /// What it stands at on the last day of each column, debits less credits.
    pub(super) fn balances(&self, columns: &[Months]) -> Vec<i128> {
        self.add_up(columns, |column, period| period <= column.last)
    }

    /// What was posted in the months of each column, debits less credits; closing entries too.
    pub(super) fn movements(&self, columns: &[Months]) -> Vec<i128> {
        self.add_up(columns, Months::contains)
    }

    /// What closing entries put there in the months of each column.
    pub(super) fn closed(&self, columns: &[Months]) -> Vec<i128> {
        let within = |column: &Months| {
            let closings = self.closings.into_iter().flatten();
            closings.filter(|(period, _)| column.contains(**period)).map(|(_, net)| net).sum()
        };
        columns.iter().map(within).collect()
    }

    /// How many lines make up what it comes to on a line of a class, in any of the columns.
    pub(super) fn lines(&self, class: Class, columns: &[Months]) -> u64 {
        let counts = |period: Period| {
            columns.iter().any(|column| match class.on_balance_sheet() {
                true => period <= column.last,
                false => column.contains(period),
            })
        };
        let shares = self.shares.iter().filter(|(slot, _)| counts(slot.period));
        shares.map(|(_, share)| share.totals.lines).sum()
    }

    /// What all that was posted in some periods adds up to.
    pub(super) fn sum(&self, counts: impl Fn(Period) -> bool) -> Totals {
        let mut sum = Totals::default();
        let shares = self.shares.iter().filter(|(slot, _)| counts(slot.period));
        shares.for_each(|(_, share)| sum += share.totals);
        sum
    }

    /// What opening entries put there in some months.
    pub(super) fn opened(&self, months: &Months) -> Totals {
        let openings = self.openings.into_iter().flatten();
        let within = openings.filter(|(period, _)| months.contains(**period));
        within.fold(Totals::default(), |mut sum, (_, totals)| {
            sum += *totals;
            sum
        })
    }

    fn results(&self, columns: &[Months]) -> Vec<i128> {
        let mut sums = self.movements(columns);
        if self.closings.is_some() {
            let closed = self.closed(columns);
            sums.iter_mut().zip(closed).for_each(|(sum, closed)| *sum -= closed);
        }
        sums
    }

    fn add_up(&self, columns: &[Months], counts: impl Fn(&Months, Period) -> bool) -> Vec<i128> {
        let mut sums = vec![0; columns.len()];
        for (slot, share) in self.shares {
            let net = share.totals.net();
            for (sum, column) in sums.iter_mut().zip(columns) {
                if counts(column, slot.period) {
                    *sum += net;
                }
            }
        }
        sums
    }
}
