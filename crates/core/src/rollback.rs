//! Taking a stored file back: allowed as long as nothing was built on what it brought.

use crate::calendar::Period;
use crate::chart::Account;
use crate::ids::{AccountId, StrandId};
use crate::rehearsal::undo::Application;
use crate::today::Today;
use std::collections::{BTreeMap, BTreeSet};

/// What a file brought into the books, as far as it is still there.
#[derive(Clone, Debug, Default, PartialEq, Eq)]
pub struct Brought {
    /// Accounts that came with it.
    pub accounts: BTreeSet<AccountId>,
    /// How many of its lines lie on each strand.
    pub lines: BTreeMap<StrandId, u64>,
    /// How many entries.
    pub entries: u64,
    /// How many where-used entries.
    pub uses: u64,
    /// Where-used entries of other files that name accounts that came with this one.
    pub used_elsewhere: BTreeSet<AccountId>,
    /// The first period that it has lines in.
    pub first: Option<Period>,
}

/// What stands in the way of taking a file back. Accounts are named as they are called today.
#[derive(Clone, Debug, PartialEq, Eq)]
pub enum Blocker {
    /// Some of its lines lie in a locked period.
    Locked,
    /// A plan was applied since, and changed an account.
    Applied {
        /// The name of the plan.
        plan: String,
        /// The account.
        account: String,
    },
    /// An account that came with the file has lines of others.
    OtherLines {
        /// The account.
        account: String,
        /// How many lines.
        lines: u64,
    },
    /// An account that came with the file is named in a where-used list of another.
    UsedElsewhere {
        /// The account.
        account: String,
    },
    /// An account stands under a heading that came with the file.
    StandsUnder {
        /// The account.
        account: String,
        /// The heading.
        heading: String,
    },
}

/// What stands in the way of taking a file back; nothing when it may be done. `since` are the applications that
/// still stand and were made after the file was stored.
pub fn blockers(brought: &Brought, since: &[Application], today: &Today) -> Vec<Blocker> {
    let label = |id: &AccountId| today.chart.get(*id).map_or_else(String::new, Account::label);
    let mut blockers = Vec::new();
    let locked = brought.first.zip(today.locked).is_some_and(|(first, locked)| first <= locked);
    if locked {
        blockers.push(Blocker::Locked);
    }
    let holders: BTreeSet<AccountId> = brought
        .lines
        .keys()
        .filter_map(|strand| today.activity.strand(*strand))
        .map(|strand| strand.account)
        .collect();
    for application in since {
        let touched = application.accounts();
        let effects = &application.effects;
        let carved = effects.carves().filter_map(|carve| carve.carved.as_ref());
        let moved = effects.moves.keys().chain(effects.carvings.keys()).chain(carved);
        let moved = moved.into_iter().any(|strand| brought.lines.contains_key(strand));
        let own = touched.iter().find(|id| brought.accounts.contains(id) || holders.contains(id));
        if let Some(id) = own.filter(|_| moved || !touched.is_disjoint(&brought.accounts)) {
            let (plan, account) = (application.name.clone(), label(id));
            blockers.push(Blocker::Applied { plan, account });
        }
    }
    for id in &brought.accounts {
        let strands = today.activity.strands().filter(|(strand, ..)| strand.account == *id);
        let others: u64 = strands
            .map(|(strand, _, figures)| {
                figures.all.lines - brought.lines.get(&strand.id).copied().unwrap_or(0)
            })
            .sum();
        if others > 0 {
            blockers.push(Blocker::OtherLines { account: label(id), lines: others });
        }
        if brought.used_elsewhere.contains(id) {
            blockers.push(Blocker::UsedElsewhere { account: label(id) });
        }
    }
    for account in today.chart.live().filter(|a| !brought.accounts.contains(&a.id)) {
        if let Some(parent) = account.parent.filter(|parent| brought.accounts.contains(parent)) {
            let (account, heading) = (account.label(), label(&parent));
            blockers.push(Blocker::StandsUnder { account, heading });
        }
    }
    blockers
}
