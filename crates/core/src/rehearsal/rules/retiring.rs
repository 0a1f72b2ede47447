//! Delete, archive, deactivate and restore: each fate has its guard, and each refusal the next best
//! fate.

use super::RuleContext;
use crate::activity::Figures;
use crate::calendar::say_day;
use crate::chart::{Account, Status};
use crate::plan::{Change, Fate, Field};
use crate::policy::Level;
use crate::rehearsal::finding::{Findings, Remedy, Rule};
use crate::text::counted;
use crate::today::Today;
use crate::trial_balance::balance;

pub(super) fn check(context: &RuleContext<'_>, found: &mut Findings<'_>) {
    // What moves away in the same plan no longer keeps an account from being archived.
    let splits = context.plan.splits().next().is_some();
    let figures = if splits { context.figures_after() } else { context.figures };
    for &id in context.plan.targets.keys() {
        let Some(account) = context.today.chart.get(id) else {
            continue;
        };
        if let Some(fate) = context.plan.fate(id) {
            let figures = figures.get(&id).copied().unwrap_or_default();
            check_fate(context.today, account, fate, &figures, found);
        }
    }
}

/// What stands against retiring or restoring one account that adds up to `figures`, whatever else is
/// planned.
pub(in crate::rehearsal) fn check_fate(
    today: &Today,
    account: &Account,
    fate: Fate,
    figures: &Figures,
    found: &mut Findings<'_>,
) {
    match fate {
        Fate::Delete => check_delete(today, account, found),
        Fate::Archive => check_archive(today, account, figures, found),
        Fate::Restore => check_restore(account, found),
        _ => {}
    }
}

fn instead(account: &Account, fate: Fate) -> Remedy {
    let verb = if fate == Fate::Archive { "Archive" } else { "Deactivate" };
    Remedy::Stage {
        label: format!("{verb} it instead"),
        account: account.id,
        change: Change::Fate(fate),
    }
}

fn merge_advice() -> Remedy {
    Remedy::Advice("Or merge it into the account that takes its place.".to_owned())
}

fn named_by(today: &Today, account: &Account) -> Option<String> {
    let uses = today.usage.of(account.id);
    let shown = uses.iter().take(3).cloned().collect::<Vec<_>>().join(", ");
    match uses.len() {
        0 => None,
        1 => Some(format!("{shown} still names it")),
        n if n > 3 => Some(format!("{shown} and {} more still name it", n - 3)),
        _ => Some(format!("{shown} still name it")),
    }
}

fn check_delete(today: &Today, account: &Account, found: &mut Findings<'_>) {
    let id = account.id;
    let label = account.label();
    let lines = today.figures_of(id).all.lines;
    if lines > 0 {
        let sentence = format!("{label} can’t be deleted: it has {}.", counted(lines, "line"));
        let ways =
            [instead(account, Fate::Archive), instead(account, Fate::Deactivate), merge_advice()];
        found.raise(Rule::DeleteUsed, [id], sentence, ways);
    }
    let into = |merged: &&Account| merged.merged_into == Some(id);
    if let Some(merged) = (lines == 0).then(|| today.chart.iter().find(into)).flatten() {
        let sentence = format!(
            "{label} can’t be deleted: {} was merged into it, and is found through it.",
            merged.label()
        );
        let ways = [instead(account, Fate::Archive), instead(account, Fate::Deactivate)];
        found.raise(Rule::DeleteMerged, [id], sentence, ways);
    }
    if let Some(role) = account.role {
        let sentence =
            format!("{label} can’t be deleted: it is the books’ {} account.", role.words());
        found.raise(Rule::DeleteControl, [id], sentence, [instead(account, Fate::Deactivate)]);
    }
    if let Some(uses) = named_by(today, account) {
        let sentence = format!("{label} can’t be deleted: {uses}.");
        found.raise(
            Rule::DeleteNamed,
            [id],
            sentence,
            [instead(account, Fate::Deactivate), merge_advice()],
        );
    }
    let usage = &today.usage;
    if lines == 0 && !(usage.given && usage.journal_complete) {
        let why = if usage.given {
            "the journal may start later than the account"
        } else {
            "no where-used list was ever given"
        };
        let sentence = format!("{label} has no line, but {why}: deactivating it is safer.");
        found.raise(Rule::DeleteUnproven, [id], sentence, [instead(account, Fate::Deactivate)]);
    }
}

fn check_archive(today: &Today, account: &Account, figures: &Figures, found: &mut Findings<'_>) {
    let id = account.id;
    let label = account.label();
    let ways = || [instead(account, Fate::Deactivate), merge_advice()];
    let refused = |level: Level| match level {
        Level::Stop => "can’t be archived",
        _ => "would be archived",
    };
    if balance(account, figures) != 0 {
        let verb = refused(today.policy.archive_with_balance);
        found.raise(
            Rule::ArchiveBalance,
            [id],
            format!("{label} {verb}: its balance is not zero."),
            ways(),
        );
    }
    let prior_year = today
        .activity
        .last()
        .map(|l| today.calendar.first_day(crate::calendar::Period(l.year_start().0 - 12)));
    if let (Some(last), Some(start)) = (figures.last, prior_year)
        && last >= start
    {
        let verb = refused(today.policy.archive_when_recent);
        let sentence = format!(
            "{label} {verb}: its last line is of {}, and the prior year began on {}.",
            say_day(last),
            say_day(start)
        );
        found.raise(Rule::ArchiveRecent, [id], sentence, ways());
    }
    if let Some(role) = account.role {
        let sentence =
            format!("{label} can’t be archived: it is the books’ {} account.", role.words());
        found.raise(Rule::ArchiveControl, [id], sentence, [instead(account, Fate::Deactivate)]);
    }
    if let Some(uses) = named_by(today, account) {
        let sentence = format!("{label} can’t be archived: {uses}.");
        found.raise(Rule::ArchiveNamed, [id], sentence, ways());
    }
}

fn check_restore(account: &Account, found: &mut Findings<'_>) {
    let why = match account.status {
        Status::Active => "it is active",
        Status::Merged => "its history went elsewhere; undo the plan that merged it",
        Status::Deactivated | Status::Archived => return,
    };
    let label = "Take it back".to_owned();
    let back = Remedy::TakeBack { label, account: account.id, field: Field::Fate };
    let sentence = format!("{} can’t be restored: {why}.", account.label());
    found.raise(Rule::RestoreNothing, [account.id], sentence, [back]);
}
