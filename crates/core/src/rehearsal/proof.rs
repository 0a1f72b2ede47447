//! The proof: what must be read back after writing, and the reconciliation of Today with After.
//! It is made so that it can fail: every figure predicted here is compared with one read anew.

use super::effects::Effects;
use crate::activity::{Activity, Figures, Shares, Slot, Totals};
use crate::chart::{Account, Chart, Class};
use crate::ids::{AccountId, ById};
use crate::today::Today;
use crate::trial_balance::{TrialBalance, trial_balance};
use std::collections::BTreeMap;

/// The reconciliation of Today with After.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct Proof {
    /// The trial balance today.
    pub today: TrialBalance,
    /// The trial balance After.
    pub after: TrialBalance,
    /// Totals of all lines.
    pub lines: Totals,
    /// How many of them an account presents After.
    pub accounted: u64,
    /// The amount that no account presents After: the sum of the missing strands' net amounts
    /// without their sign, so that nothing cancels out. Zero, or the plan loses something.
    pub difference: i128,
    /// In how many periods anything was posted.
    pub periods: usize,
}

impl Proof {
    pub(crate) fn predict(
        today: &Today,
        after: &Chart,
        effects: &Effects,
        figures_after: &ById<Figures>,
    ) -> Self {
        let mut lines = Totals::default();
        let (mut accounted, mut difference) = (0, 0);
        let mut account_for = |presenter, totals: Totals| {
            if after.get(presenter).is_some_and(Account::is_live) {
                accounted += totals.lines;
            } else {
                difference += totals.net().abs();
            }
        };
        for (strand, _, figures) in today.activity.strands() {
            lines += figures.all;
            let presenter = effects.presenter(strand);
            let Some(carving) = effects.carvings.get(&strand.id) else {
                account_for(presenter, figures.all);
                continue;
            };
            account_for(presenter, sum(&carving.left));
            carving.parts.iter().for_each(|carve| account_for(carve.to, sum(&carve.shares)));
        }
        let mut periods: Vec<_> = today.activity.by_slot().keys().map(|slot| slot.period).collect();
        periods.dedup();
        Self {
            today: trial_balance(&today.chart, today.figures()),
            after: trial_balance(after, figures_after),
            lines,
            accounted,
            difference,
            periods: periods.len(),
        }
    }

    /// What each class adds up to on both sides.
    pub fn classes(&self) -> impl Iterator<Item = (Class, i128, i128)> + '_ {
        Class::ALL.iter().map(|c| (*c, self.today.class(*c), self.after.class(*c)))
    }
}

/// By account, period and currency, what an account's lines add up to.
pub type Ledger = BTreeMap<(AccountId, Slot), Totals>;

/// What the ledger of the books must be once the effects are written.
pub fn ledger_after(activity: &Activity, effects: &Effects) -> Ledger {
    let mut ledger = Ledger::new();
    let mut add = |account, slot: &Slot, totals: &Totals| {
        *ledger.entry((account, *slot)).or_default() += *totals;
    };
    for (strand, posted, _) in activity.strands() {
        let account = effects.presenter(strand);
        let carving = effects.carvings.get(&strand.id);
        let parts = carving.iter().flat_map(|carving| &carving.parts);
        let parts = parts.map(|carve| (carve.to, &carve.shares));
        let left = carving.map_or(posted, |carving| &carving.left);
        for (account, shares) in parts.chain([(account, left)]) {
            shares.iter().for_each(|(slot, share)| add(account, slot, &share.totals));
        }
    }
    ledger
}

fn sum(shares: &Shares) -> Totals {
    shares.values().fold(Totals::default(), |mut sum, share| {
        sum += share.totals;
        sum
    })
}

/// One place where what was read back is not what was predicted.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct Miss {
    /// The account.
    pub account: AccountId,
    /// What differs, in words.
    pub what: String,
}

/// Whether every strand was read back with the very totals that it had, under the account that the effects put
/// it under. Then the ledger is as predicted; where history was carved, it takes the ledger itself to say.
pub fn is_presented_as_predicted(before: &Activity, effects: &Effects, read: &Activity) -> bool {
    let mut pairs = before.strands().zip(read.strands());
    effects.carvings.is_empty()
        && before.strands().count() == read.strands().count()
        && pairs.all(|((was, held, _), (is, holds, _))| {
            was.id == is.id && effects.presenter(was) == is.account && held == holds
        })
}

/// Compares the ledger read back with the predicted one.
pub fn compare_ledgers(predicted: &Ledger, read: &Ledger) -> Vec<Miss> {
    let keys = predicted.keys().chain(read.keys().filter(|key| !predicted.contains_key(key)));
    keys.filter_map(|key| {
        let nothing = Totals::default();
        let (want, got) = (predicted.get(key).unwrap_or(&nothing), read.get(key).unwrap_or(&nothing));
        (want != got).then(|| Miss {
            account: key.0,
            what: format!(
                "{} lines with net {} in minor units of {} were predicted for a period, {} with {} read back",
                want.lines,
                want.net(),
                key.1.currency,
                got.lines,
                got.net(),
            ),
        })
    })
    .collect()
}

/// Compares the chart read back with the predicted one.
pub fn compare_charts(predicted: &Chart, read: &Chart) -> Vec<Miss> {
    let ids = predicted.iter().chain(read.iter().filter(|a| predicted.get(a.id).is_none()));
    ids.filter(|account| predicted.get(account.id) != read.get(account.id))
        .map(|account| Miss {
            account: account.id,
            what: format!("{} was read back otherwise than written", account.label()),
        })
        .collect()
}
