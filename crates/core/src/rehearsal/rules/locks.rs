//! Locked periods: the total of a section inside one does not change unless a reviewer says so.

use super::Matter;
use crate::chart::{Account, Class, Section};
use crate::ids::AccountId;
use crate::plan::{Change, Fate, Field};
use crate::rehearsal::finding::{Findings, Remedy, Rule};
use std::collections::BTreeSet;

type Caption = (Class, Option<Section>);

pub(super) fn check(matter: &Matter<'_>, found: &mut Findings<'_>) {
    let Some(locked) = matter.today.locked else {
        return;
    };
    let caption = |account: &Account| -> Caption { (account.class, account.section) };
    let mut moved: BTreeSet<(AccountId, AccountId)> = BTreeSet::new();
    for (strand, activity, _) in matter.today.activity.strands() {
        let to = matter.merges.get(&strand.account).copied().unwrap_or(strand.account);
        let (Some(before), Some(after)) =
            (matter.today.chart.get(strand.account), matter.after.get(to))
        else {
            continue;
        };
        let in_locked = |(slot, totals): (&crate::activity::Slot, &crate::activity::Totals)| {
            slot.period <= locked && totals.net() != 0
        };
        if caption(before) != caption(after) && activity.totals.iter().any(in_locked) {
            moved.insert((before.id, after.id));
        }
    }
    let until = matter.today.calendar.last_day(locked);
    for (from, to) in moved {
        let (Some(before), Some(after)) = (matter.today.chart.get(from), matter.after.get(to))
        else {
            continue;
        };
        let name = |account: &Account| {
            account.section.map_or_else(|| account.class.words(), Section::words)
        };
        let sentence = format!(
            "{} has amounts up to {until}, which is locked, and they would move from {} to {}.",
            matter.today_label(before),
            name(before),
            name(after),
        );
        let advice =
            "Use the other account from now on, or have a reviewer go on with a typed reason.";
        let ways = way_out(before, after).into_iter().chain([Remedy::Advice(advice.to_owned())]);
        found.raise(Rule::LockedTotal, [from, to], sentence, ways);
    }
}

/// What one button can do: leave the old account in place of a merge, or take back the one field
/// that moves the amounts. With class and section both changed neither alone would help.
fn way_out(before: &Account, after: &Account) -> Option<Remedy> {
    let account = before.id;
    if account != after.id {
        let label = format!("Deactivate {} instead", before.code);
        return Some(Remedy::Stage { label, account, change: Change::Fate(Fate::Deactivate) });
    }
    let field = match (before.class == after.class, before.section == after.section) {
        (true, false) => Field::Section,
        (false, true) => Field::Class,
        _ => return None,
    };
    Some(Remedy::TakeBack {
        label: format!("Leave the {} as it was", field.words()),
        account,
        field,
    })
}
