//! Taking a stored file back: allowed as long as nothing was built on what it brought.

use crate::calendar::Period;
use crate::chart::Account;
use crate::ids::{AccountId, StrandId};
use crate::rehearsal::undo::Application;
use crate::text::counted;
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

/// What stands in the way of taking a file back, in plain sentences; nothing when it may be done.
/// `since` are the applications that still stand and were made after the file was stored.
pub fn blockers(brought: &Brought, since: &[Application], today: &Today) -> Vec<String> {
    let label = |id: &AccountId| today.chart.get(*id).map_or_else(String::new, Account::label);
    let mut reasons = Vec::new();
    let locked = brought.first.zip(today.locked).is_some_and(|(first, locked)| first <= locked);
    if locked {
        reasons.push("Some of its lines lie in a locked period.".to_owned());
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
            reasons.push(format!(
                "“{}” was applied since and changed {}; undo it first.",
                application.name,
                label(id)
            ));
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
            reasons.push(format!(
                "{} has {} that came otherwise.",
                label(id),
                counted(others, "line")
            ));
        }
        if brought.used_elsewhere.contains(id) {
            reasons
                .push(format!("{} is named in a where-used list that came otherwise.", label(id)));
        }
    }
    for account in today.chart.live().filter(|a| !brought.accounts.contains(&a.id)) {
        if let Some(parent) = account.parent.filter(|parent| brought.accounts.contains(parent)) {
            reasons.push(format!("{} stands under {}.", account.label(), label(&parent)));
        }
    }
    reasons
}
