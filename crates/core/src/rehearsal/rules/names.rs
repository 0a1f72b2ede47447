//! Names, judged on the After side: what is called the same is probably the same.

use super::context::RuleContext;
use crate::chart::{Account, Status};
use crate::former::alike;
use crate::ids::AccountId;
use crate::plan::{Change, Fate, Field};
use crate::rehearsal::cause::Cause;
use crate::rehearsal::finding::{Findings, Remedy};
use std::collections::HashMap;

/// Raises names that the plan gives to an account while another one has them. Headings may be called what
/// an account under them is called.
pub(super) fn check(context: &RuleContext<'_>, found: &mut Findings<'_>) {
    let is_called = |id: &AccountId| {
        let added = context.today.chart.get(*id).is_none();
        added || context.plan.staged(*id, Field::Name).is_some()
    };
    let called = context.plan.targets.keys().filter(|id| is_called(id));
    let called = called.filter_map(|id| context.after.get(*id));
    let called: Vec<_> =
        called.filter(|account| account.is_live() && account.is_posting()).collect();
    if called.is_empty() {
        return;
    }
    let mut names: HashMap<String, Vec<&Account>> =
        called.iter().map(|account| (alike(&account.name), Vec::new())).collect();
    for account in context.after.live().filter(|account| account.is_posting()) {
        if let Some(accounts) = names.get_mut(&alike(&account.name)) {
            accounts.push(account);
        }
    }
    for mut accounts in names.into_values().filter(|accounts| accounts.len() > 1) {
        accounts.sort_by_key(|account| (!is_called(&account.id), account.id));
        let ways = ways(context, &accounts);
        let accounts = accounts.iter().map(|account| account.id).collect();
        found.raise(Cause::NameTaken { accounts }, ways);
    }
}

fn ways(context: &RuleContext<'_>, accounts: &[&Account]) -> Vec<Remedy> {
    let [named, other, ..] = accounts else {
        return Vec::new();
    };
    let is_there = |account: &Account| context.today.chart.get(account.id).is_some();
    let fits = |into: &Account| into.status == Status::Active && named.class == other.class;
    let merge = |from: &Account, into: &Account| Remedy::Stage {
        account: from.id,
        change: Change::Fate(Fate::MergeInto { into: into.id }),
    };
    let merged = match (is_there(named), is_there(other)) {
        (true, _) => fits(other).then(|| merge(named, other)),
        (false, true) => fits(named).then(|| merge(other, named)),
        (false, false) => None,
    };
    let field = if is_there(named) { Field::Name } else { Field::Fate };
    merged.into_iter().chain([Remedy::Unstage { account: named.id, field }]).collect()
}
