//! What was posted, in pieces that stand as a whole under one account: strands, and the parts that a plan carves from
//! them.

use super::columns::Months;
use crate::activity::{Activity, Shares, Strand};
use crate::calendar::Period;
use crate::ids::AccountId;
use crate::rehearsal::effects::Effects;
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
}

/// All that was posted, as it stands today and after the effects of a plan.
pub(super) fn pieces<'a>(activity: &'a Activity, effects: &'a Effects) -> Vec<Piece<'a>> {
    let mut pieces = Vec::new();
    for (strand, shares, _) in activity.strands() {
        let closings = activity.closings(strand.id);
        let carving = effects.carvings.get(&strand.id);
        let left = carving.map_or(shares, |carving| &carving.left);
        let after = effects.presenter(strand);
        pieces.push(Piece { strand, after, shares: left, closings });
        for carve in carving.iter().flat_map(|carving| &carving.parts) {
            pieces.push(Piece { strand, after: carve.to, shares: &carve.shares, closings: None });
        }
    }
    pieces
}

impl Piece<'_> {
    /// What it stands at on the last day of each column, debits less credits.
    pub(super) fn balances(&self, columns: &[Months]) -> Vec<i128> {
        self.add_up(columns, |column, period| period <= column.last)
    }

    /// What was earned or spent in the months of each column: what closing entries put there is left out.
    pub(super) fn results(&self, columns: &[Months]) -> Vec<i128> {
        let mut sums = self.add_up(columns, |column, period| column.contains(period));
        for (period, net) in self.closings.into_iter().flatten() {
            for (sum, column) in sums.iter_mut().zip(columns) {
                if column.contains(*period) {
                    *sum -= net;
                }
            }
        }
        sums
    }

    /// What closing entries put there in the months of each column.
    pub(super) fn closed(&self, columns: &[Months]) -> Vec<i128> {
        let within = |column: &Months| {
            let closings = self.closings.into_iter().flatten();
            closings.filter(|(period, _)| column.contains(**period)).map(|(_, net)| net).sum()
        };
        columns.iter().map(within).collect()
    }

    /// How many lines it has in any of the columns.
    pub(super) fn lines(&self, columns: &[Months]) -> u64 {
        let within = |period: Period| columns.iter().any(|column| column.contains(period));
        let shares = self.shares.iter().filter(|(slot, _)| within(slot.period));
        shares.map(|(_, share)| share.totals.lines).sum()
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
