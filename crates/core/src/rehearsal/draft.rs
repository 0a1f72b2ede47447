//! Works out the chart After from the targets of a plan, and where each strand goes.

use super::cause::Cause;
use super::effects::{Carving, Rewriting, StrandMove};
use super::finding::{Findings, Raised, Remedy};
use crate::chart::{Account, Chart};
use crate::history::Which;
use crate::history::cut::Tally;
use crate::ids::{AccountId, StrandId};
use crate::plan::{Change, Fate, Field, Plan, Target};
use crate::statement::Structure;
use crate::today::Today;
use std::collections::{BTreeMap, BTreeSet};
use std::sync::Arc;

/// What one part of a split takes.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct Moved {
    /// The account whose history it was.
    pub from: AccountId,
    /// Where it goes in the end.
    pub to: AccountId,
    /// The place of the part in the split.
    pub part: usize,
    /// Which lines.
    pub which: Which,
    /// What they add up to.
    pub tally: Tally,
}

/// The chart After, before anything was judged.
#[derive(Default)]
pub(super) struct Draft {
    pub(super) after: Chart,
    /// Where the plan's merges end: merged account to survivor.
    pub(super) merges: BTreeMap<AccountId, AccountId>,
    pub(super) moves: BTreeMap<StrandId, StrandMove>,
    pub(super) carvings: BTreeMap<StrandId, Carving>,
    /// What each part of a split takes.
    pub(super) moved: Vec<Moved>,
    /// Lines of reports that follow.
    pub(super) rewritings: Vec<Rewriting>,
    pub(super) raised: Vec<Raised>,
}

pub(super) fn of_plan(today: &Today, plan: &Plan) -> Draft {
    let mut found = Findings::new(&today.policy);
    let mut after = today.chart.clone();
    for (&id, target) in &plan.targets {
        match (today.chart.get(id), plan.fate(id)) {
            (None, Some(Fate::Add)) => match added(id, target, today.chart.structure()) {
                Some(account) => after.put(account),
                None => {
                    found.raise(Cause::AddedIncomplete { account: id }, [Remedy::Advice]);
                }
            },
            (None, _) => {
                let cause = Cause::AccountGone { account: id, merged_into: None };
                found.raise(cause, undo_all(id, target));
            }
            (Some(account), _) if !account.is_live() => {
                let merged_into = today.chart.holder(id).map(|holder| holder.id);
                let cause = Cause::AccountGone { account: id, merged_into };
                found.raise(cause, undo_all(id, target));
            }
            (Some(account), fate) => {
                note_changed_bases(account, target, &mut found);
                change(&mut after, account, target, fate);
            }
        }
    }
    let merges = settle_merges(today, plan, &mut after, &mut found);
    Draft { after, merges, raised: found.into_vec(), ..Draft::default() }
}

/// Undoes each field that is staged of an account.
fn undo_all(account: AccountId, target: &Target) -> Vec<Remedy> {
    target.keys().map(|field| Remedy::Unstage { account, field: *field }).collect()
}

fn added(id: AccountId, target: &Target, lines: &Structure) -> Option<Account> {
    let Change::Code(code) = &target.get(&Field::Code)?.change else {
        return None;
    };
    let Change::Name(name) = &target.get(&Field::Name)?.change else {
        return None;
    };
    let Change::Class(class) = target.get(&Field::Class)?.change else {
        return None;
    };
    let mut account = Account::new(id, code.clone(), name.clone(), class);
    target.values().for_each(|staged| staged.change.give(&mut account, lines));
    Some(account)
}

fn note_changed_bases(row: &Account, target: &Target, found: &mut Findings<'_>) {
    for (&field, staged) in target {
        let now = Change::of(row, field);
        let Some(base) = staged.base.clone().filter(|base| *base != now) else {
            continue;
        };
        let (account, staged) = (row.id, staged.change.clone());
        let cause = Cause::BaseChanged { account, field, base, staged, now };
        found.raise(cause, [Remedy::Unstage { account, field }]);
    }
}

/// Fields of an account that goes away are left alone: it keeps the code and name it was known by.
fn change(after: &mut Chart, account: &Account, target: &Target, fate: Option<Fate>) {
    match fate {
        Some(Fate::Delete) => after.remove(account.id),
        Some(Fate::MergeInto { .. }) => {}
        _ => {
            let lines = Arc::clone(after.structure());
            if let Some(row) = after.get_mut(account.id) {
                target.values().for_each(|staged| staged.change.give(row, &lines));
            }
        }
    }
}

/// Follows every merge to its end. Merges in a circle are raised and left out.
fn settle_merges(
    today: &Today,
    plan: &Plan,
    after: &mut Chart,
    found: &mut Findings<'_>,
) -> BTreeMap<AccountId, AccountId> {
    let next = |id: AccountId| match plan.fate(id) {
        Some(Fate::MergeInto { into: survivor }) if today.chart.get(id).is_some() => Some(survivor),
        _ => today.chart.get(id).filter(|a| !a.is_live()).and_then(|a| a.merged_into),
    };
    let mut ends = BTreeMap::new();
    let mut circles = BTreeSet::new();
    for &id in plan.targets.keys() {
        let Some(first) =
            next(id).filter(|_| matches!(plan.fate(id), Some(Fate::MergeInto { .. })))
        else {
            continue;
        };
        let mut path = BTreeSet::from([id]);
        let mut end = first;
        while let Some(further) = next(end).filter(|_| path.insert(end)) {
            end = further;
        }
        if path.contains(&end) {
            circles
                .insert(path.into_iter().filter(|p| plan.fate(*p).is_some()).collect::<Vec<_>>());
            continue;
        }
        if end != first {
            found.raise(Cause::MergeChain { account: id, first, end }, []);
        }
        ends.insert(id, end);
    }
    for circle in circles {
        let back = Remedy::Unstage { account: circle[0], field: Field::Fate };
        found.raise(Cause::MergeCircle { accounts: circle }, [back]);
    }
    for (&id, &end) in &ends {
        let lines = Arc::clone(after.structure());
        if let Some(account) = after.get_mut(id) {
            Change::Fate(Fate::MergeInto { into: end }).give(account, &lines);
        }
    }
    ends
}
