//! What a rehearsal asks the store to write: account rows before and after, strands to repoint,
//! strands to carve, and report lines to rewrite.
//! Undo is the same list read backwards.

use crate::activity::{Activity, Figures, Net, Posted, Shares, Strand};
use crate::calendar::Period;
use crate::chart::{Account, Chart, Status};
use crate::code::Interval;
use crate::ids::{AccountId, ById, ReportLineId, StrandId};
use std::collections::BTreeMap;
use std::sync::Arc;

/// One account row that differs between Today and After.
#[derive(Clone, Debug, PartialEq, Eq, Hash)]
pub struct RowChange {
    /// The row today; `None` for an added account.
    pub before: Option<Arc<Account>>,
    /// The row After; `None` for a deleted account.
    pub after: Option<Arc<Account>>,
}

impl RowChange {
    /// The account that changes.
    pub fn account(&self) -> Option<AccountId> {
        self.after.as_ref().or(self.before.as_ref()).map(|account| account.id)
    }
}

/// One strand that another account is to present.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Hash)]
pub struct StrandMove {
    /// The strand.
    pub strand: StrandId,
    /// Who presents it today.
    pub from: AccountId,
    /// Who presents it After.
    pub to: AccountId,
}

/// A part of a strand that becomes a strand of its own, which another account is to present.
#[derive(Clone, Debug, PartialEq, Eq, Hash)]
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
#[derive(Clone, Debug, Default, PartialEq, Eq, Hash)]
pub struct Carving {
    /// The parts that go.
    pub parts: Vec<Carve>,
    /// What the lines that stay on the strand add up to.
    pub left: Shares,
}

/// A line of a report that is to add up other codes, for the same accounts.
#[derive(Clone, Debug, PartialEq, Eq, Hash)]
pub struct Rewriting {
    /// The line.
    pub line: ReportLineId,
    /// How it is spoken of.
    pub name: String,
    /// What it adds up today.
    pub from: Vec<Interval>,
    /// What it adds up After.
    pub to: Vec<Interval>,
}

/// Everything that has to be written. Ordered by identity, whatever the order of staging.
#[derive(Clone, Debug, Default, PartialEq, Eq, Hash)]
pub struct Effects {
    /// Account rows that differ.
    pub rows: Vec<RowChange>,
    /// Strands to repoint.
    pub moves: BTreeMap<StrandId, StrandMove>,
    /// Strands to carve.
    pub carvings: BTreeMap<StrandId, Carving>,
    /// Report lines to rewrite.
    pub rewritings: Vec<Rewriting>,
}

/// The account rows that differ between two charts, in the order of their identities.
pub(super) fn changed_rows(today: &Chart, after: &Chart) -> Vec<RowChange> {
    let gone = today.rows().filter(|a| after.get(a.id).is_none());
    let gone = gone.map(|a| RowChange { before: Some(Arc::clone(a)), after: None });
    let kept = after.rows().filter_map(|account| {
        let before = today.row(account.id);
        // What was never touched is one and the same, which is quicker seen than compared.
        let same = before.is_some_and(|before| Arc::ptr_eq(before, account) || before == account);
        (!same).then(|| RowChange { before: before.cloned(), after: Some(Arc::clone(account)) })
    });
    let mut rows: Vec<_> = gone.chain(kept).collect();
    rows.sort_by_key(RowChange::account);
    rows
}

impl Effects {
    /// The account that presents a strand, or what is left of it, once the effects are written.
    pub fn presenter(&self, strand: &Strand) -> AccountId {
        self.moves.get(&strand.id).map_or(strand.account, |m| m.to)
    }

    /// Whether nothing would be written.
    pub fn is_empty(&self) -> bool {
        self.rows.is_empty()
            && self.moves.is_empty()
            && self.carvings.is_empty()
            && self.rewritings.is_empty()
    }

    /// Every part that is carved.
    pub fn carves(&self) -> impl Iterator<Item = &Carve> {
        self.carvings.values().flat_map(|carving| &carving.parts)
    }

    /// What each account adds up to once the effects are written.
    pub fn figures_after(&self, activity: &Activity) -> ById<Figures> {
        figures_after(activity, |strand| self.presenter(strand), &self.carvings)
    }

    /// The accounts that today present what an account presents After, or what parts of it are carved from; itself
    /// first.
    pub fn presented(&self, account: AccountId, activity: &Activity) -> Vec<AccountId> {
        let mut found = vec![account];
        for (strand, ..) in activity.strands() {
            let carved = self.carvings.get(&strand.id).into_iter().flat_map(|of| &of.parts);
            let mut holders = carved.map(|part| part.to).chain([self.presenter(strand)]);
            if !found.contains(&strand.account) && holders.any(|holder| holder == account) {
                found.push(strand.account);
            }
        }
        found
    }

    /// What each account stands at After, at the end of each of some periods.
    pub fn nets_at(&self, activity: &Activity, ends: &[Period]) -> ById<Vec<Net>> {
        let presenter = |strand: &Strand| self.presenter(strand);
        add_up(activity, presenter, &self.carvings, |sums, shares, _| {
            Net::add_to(sums, shares, ends);
        })
    }

    /// The accounts whose open strand must be closed, so that lines posted from now on are told
    /// apart from those posted before: what they are posted under, or presented strands, change.
    pub fn closing(&self) -> impl Iterator<Item = AccountId> + '_ {
        let renamed = self.rows.iter().filter_map(|row| {
            let (before, after) = (row.before.as_ref()?, row.after.as_ref()?);
            let same = Posted::to(before) == Posted::to(after);
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
    let last = activity.last();
    add_up(activity, presenter, carvings, |sum: &mut Figures, shares, whole| {
        *sum += whole.copied().unwrap_or_else(|| Figures::of(shares, last));
    })
}

/// Adds up what the shares of strands, and of their carved parts, come to; of a whole strand that
/// is known already.
fn add_up<T: Default>(
    activity: &Activity,
    presenter: impl Fn(&Strand) -> AccountId,
    carvings: &BTreeMap<StrandId, Carving>,
    add: impl Fn(&mut T, &Shares, Option<&Figures>),
) -> ById<T> {
    let mut sums: ById<T> = ById::default();
    for (strand, shares, whole) in activity.strands() {
        let Some(carving) = carvings.get(&strand.id) else {
            add(sums.entry(presenter(strand)).or_default(), shares, Some(whole));
            continue;
        };
        add(sums.entry(presenter(strand)).or_default(), &carving.left, None);
        for carve in &carving.parts {
            add(sums.entry(carve.to).or_default(), &carve.shares, None);
        }
    }
    sums
}
