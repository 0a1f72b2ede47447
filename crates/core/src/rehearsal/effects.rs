//! What a rehearsal asks the store to write: account rows before and after, and strands to repoint.
//! Undo is the same list read backwards.

use crate::activity::Strand;
use crate::chart::{Account, Chart, Status};
use crate::ids::{AccountId, StrandId};
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

/// Everything that has to be written. Ordered by identity, whatever the order of staging.
#[derive(Clone, Debug, Default, PartialEq, Eq)]
pub struct Effects {
    /// Account rows that differ.
    pub rows: Vec<RowChange>,
    /// Strands to repoint.
    pub moves: BTreeMap<StrandId, StrandMove>,
}

impl Effects {
    pub(crate) fn between(
        today: &Chart,
        after: &Chart,
        moves: BTreeMap<StrandId, StrandMove>,
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
        Self { rows, moves }
    }

    /// The account that presents a strand once the effects are written.
    pub fn presenter(&self, strand: &Strand) -> AccountId {
        self.moves.get(&strand.id).map_or(strand.account, |m| m.to)
    }

    /// Whether nothing would be written.
    pub fn is_empty(&self) -> bool {
        self.rows.is_empty() && self.moves.is_empty()
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
