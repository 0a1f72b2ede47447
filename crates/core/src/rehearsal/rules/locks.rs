//! Locked periods: the total of a section inside one does not change unless a reviewer says so.

use super::context::RuleContext;
use crate::activity::{Share, Shares, Slot};
use crate::chart::Account;
use crate::ids::AccountId;
use crate::plan::{Change, Fate, Field};
use crate::rehearsal::cause::Cause;
use crate::rehearsal::finding::{Findings, Remedy};
use std::collections::BTreeSet;

pub(super) fn check(context: &RuleContext<'_>, found: &mut Findings<'_>) {
    let Some(locked) = context.today.locked else {
        return;
    };
    let mut moved: BTreeSet<(AccountId, AccountId)> = BTreeSet::new();
    let mut note = |from, to, shares: &Shares| {
        let (Some(before), Some(after)) = (context.today.chart.get(from), context.after.get(to))
        else {
            return;
        };
        let in_locked =
            |(slot, share): (&Slot, &Share)| slot.period <= locked && share.totals.net() != 0;
        if before.place() != after.place() && shares.iter().any(in_locked) {
            moved.insert((from, to));
        }
    };
    for (strand, activity, _) in context.today.activity.strands() {
        let from = strand.account;
        let to = context.draft.moves.get(&strand.id).map_or(from, |moved| moved.to);
        let carving = context.draft.carvings.get(&strand.id);
        let parts = carving.iter().flat_map(|carving| &carving.parts);
        let parts = parts.map(|carve| (carve.to, &carve.shares));
        let left = carving.map_or(activity, |carving| &carving.left);
        parts.chain([(to, left)]).for_each(|(to, shares)| note(from, to, shares));
    }
    let until = context.today.calendar.last_day(locked);
    for (from, to) in moved {
        let (Some(before), Some(after)) = (context.today.chart.get(from), context.after.get(to))
        else {
            continue;
        };
        let ways = way_out(context, before, after).into_iter().chain([Remedy::Advice]);
        let places = (before.place(), after.place());
        found.raise(Cause::LockedTotal { from, to, until, places }, ways);
    }
}

/// What one button can do: leave the old account in place of a merge, or take back the one field
/// that moves the amounts. With class and section both changed neither alone would help.
fn way_out(context: &RuleContext<'_>, before: &Account, after: &Account) -> Option<Remedy> {
    let account = before.id;
    if account != after.id && !context.merges.contains_key(&account) {
        return Some(Remedy::Unstage { account, field: Field::History });
    }
    if account != after.id {
        return Some(Remedy::Stage { account, change: Change::Fate(Fate::deactivate()) });
    }
    let field = match (before.class == after.class, before.place().1 == after.place().1) {
        (true, false) => Field::Caption,
        (false, true) => Field::Class,
        _ => return None,
    };
    Some(Remedy::Unstage { account, field })
}
