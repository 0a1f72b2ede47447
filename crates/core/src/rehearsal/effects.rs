//! What a rehearsal asks the store to write: account rows before and after, strands to repoint, and
//! strands to carve.
//! Undo is the same list read backwards.

use crate::activity::{Activity, Figures, Shares, Strand};
use crate::chart::{Account, Chart, Status};
use crate::ids::{AccountId, ById, StrandId};
use std::collections::BTreeMap;

/// One account row that differs between Today and After.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct RowChange {
    /// The row today; `None` for an added account.
    pub before: Option<Account>,
    /// The row After; `None` for a deleted account.
    pub after: Option<Account>,
}

impl RowChange {
    /// The account that changes.
    pub fn account(&self) -> Option<AccountId> {
        self.after.as_ref().or(self.before.as_ref()).map(|account| account.id)
    }
}

/// One strand that another account is to present.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub struct StrandMove {
    /// The strand.
    pub strand: StrandId,
    /// Who presents it today.
    pub from: AccountId,
    /// Who presents it After.
    pub to: AccountId,
}

/// A part of a strand that becomes a strand of its own, which another account is to present.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct Carve {
    /// The account that presents the strand today.
    pub from: AccountId,
    /// Who presents the part After.
    pub to: AccountId,
    /// The place of the part in the split of `from`.
    pub part: usize,
    /// What its lines add up to.
    pub shares: Shares,
    /// The strand that the part became; `None` until it is carved.
    pub carved: Option<StrandId>,
}

/// How a strand is carved.
#[derive(Clone, Debug, Default, PartialEq, Eq)]
pub struct Carving {
    /// The parts that go.
    pub parts: Vec<Carve>,
    /// What the lines that stay on the strand add up to.
    pub left: Shares,
}

/// Everything that has to be written. Ordered by identity, whatever the order of staging.
#[derive(Clone, Debug, Default, PartialEq, Eq)]
pub struct Effects {
    /// Account rows that differ.
    pub rows: Vec<RowChange>,
    /// Strands to repoint.
    pub moves: BTreeMap<StrandId, StrandMove>,
    /// Strands to carve.
    pub carvings: BTreeMap<StrandId, Carving>,
}

impl Effects {
    pub(crate) fn between(
        today: &Chart,
        after: &Chart,
        moves: BTreeMap<StrandId, StrandMove>,
        carvings: BTreeMap<StrandId, Carving>,
    ) -> Self {
        let gone = today.iter().filter(|a| after.get(a.id).is_none());
        let gone = gone.map(|a| RowChange { before: Some(a.clone()), after: None });
        let touched = after.iter().filter(|account| !today.shares(after, account.id));
        let kept = touched.filter_map(|account| {
            let before = today.get(account.id);
            (before != Some(account))
                .then(|| RowChange { before: before.cloned(), after: Some(account.clone()) })
        });
        let mut rows: Vec<_> = gone.chain(kept).collect();
        rows.sort_by_key(RowChange::account);
        Self { rows, moves, carvings }
    }

    /// The account that presents a strand, or what is left of it, once the effects are written.
    pub fn presenter(&self, strand: &Strand) -> AccountId {
        self.moves.get(&strand.id).map_or(strand.account, |m| m.to)
    }

    /// Whether nothing would be written.
    pub fn is_empty(&self) -> bool {
        self.rows.is_empty() && self.moves.is_empty() && self.carvings.is_empty()
    }

    /// Every part that is carved.
    pub fn carves(&self) -> impl Iterator<Item = &Carve> {
        self.carvings.values().flat_map(|carving| &carving.parts)
    }

    /// What each account adds up to once the effects are written.
    pub fn figures_after(&self, activity: &Activity) -> ById<Figures> {
        figures_after(activity, |strand| self.presenter(strand), &self.carvings)
    }

    /// The accounts whose open strand must be closed, so that lines posted from now on are told
    /// apart from those posted before: code, name or presented strands change.
    pub fn closing(&self) -> impl Iterator<Item = AccountId> + '_ {
        let renamed = self.rows.iter().filter_map(|row| {
            let (before, after) = (row.before.as_ref()?, row.after.as_ref()?);
            let same = before.code == after.code && before.name == after.name;
            let merged = (before.status == Status::Merged) != (after.status == Status::Merged);
            (!same || merged).then_some(before.id)
        });
        renamed.chain(self.moves.values().flat_map(|m| [m.from, m.to]))
    }
}

/// What each account adds up to, if each strand is presented by the account given for it, but for
/// the parts that are carved.
pub(super) fn figures_after(
    activity: &Activity,
    presenter: impl Fn(&Strand) -> AccountId,
    carvings: &BTreeMap<StrandId, Carving>,
) -> ById<Figures> {
    if carvings.is_empty() {
        return activity.by_account(presenter);
    }
    let mut figures: ById<Figures> = ById::default();
    let latest = activity.latest();
    for (strand, _, whole) in activity.strands() {
        let Some(carving) = carvings.get(&strand.id) else {
            *figures.entry(presenter(strand)).or_default() += *whole;
            continue;
        };
        let left = Figures::of(&carving.left, latest);
        *figures.entry(presenter(strand)).or_default() += left;
        for carve in &carving.parts {
            let taken = Figures::of(&carve.shares, latest);
            *figures.entry(carve.to).or_default() += taken;
        }
    }
    figures
}
