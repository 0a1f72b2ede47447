//! Delete, archive, deactivate and restore: each fate has its guard, and each refusal the next best
//! fate.

use super::context::RuleContext;
use crate::activity::Figures;
use crate::calendar::Period;
use crate::chart::{Account, Status};
use crate::plan::{Change, Fate, Field};
use crate::rehearsal::cause::Cause;
use crate::rehearsal::finding::{Findings, Remedy};
use crate::today::Today;
use crate::trial_balance::balance;
use time::Date;

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

/// What blocks retiring or restoring one account that adds up to `figures`, whatever else is
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
        Fate::Archive { .. } => check_archive(today, account, figures, found),
        Fate::Deactivate { .. } => check_deactivate(today, account, figures, found),
        Fate::Restore => check_restore(account, found),
        _ => {}
    }
}

fn instead(account: &Account, fate: Fate) -> Remedy {
    Remedy::Stage { account: account.id, change: Change::Fate(fate) }
}

fn check_delete(today: &Today, row: &Account, found: &mut Findings<'_>) {
    let account = row.id;
    let retire = || [instead(row, Fate::archive()), instead(row, Fate::deactivate())];
    let lines = today.figures_of(account).all.lines;
    if lines > 0 {
        let ways = retire().into_iter().chain([Remedy::Advice]);
        found.raise(Cause::DeleteUsed { account, lines }, ways);
    }
    let into = |merged: &&Account| merged.merged_into == Some(account);
    if let Some(merged) = (lines == 0).then(|| today.chart.iter().find(into)).flatten() {
        found.raise(Cause::DeleteMerged { account, merged: merged.id }, retire());
    }
    if let Some(role) = row.role {
        found.raise(Cause::DeleteControl { account, role }, [instead(row, Fate::deactivate())]);
    }
    let uses = today.usage.of(account).to_vec();
    if !uses.is_empty() {
        let ways = [instead(row, Fate::deactivate()), Remedy::Advice];
        found.raise(Cause::DeleteNamed { account, uses }, ways);
    }
    let usage = &today.usage;
    if lines == 0 && !(usage.given && usage.journal_complete) {
        let (given, since) = (usage.given, usage.complete_from);
        let cause = Cause::DeleteUnproven { account, given, since };
        found.raise(cause, [instead(row, Fate::deactivate())]);
    }
}

fn check_archive(today: &Today, row: &Account, figures: &Figures, found: &mut Findings<'_>) {
    let account = row.id;
    let ways = || [instead(row, Fate::deactivate()), Remedy::Advice];
    if balance(row, figures) != 0 {
        found.raise(Cause::ArchiveBalance { account }, ways());
    }
    if let Some((last, prior_year)) = recent(today, figures) {
        found.raise(Cause::ArchiveRecent { account, last, prior_year }, ways());
    }
    if let Some(role) = row.role {
        found.raise(Cause::ArchiveControl { account, role }, [instead(row, Fate::deactivate())]);
    }
    let uses = today.usage.of(account).to_vec();
    if !uses.is_empty() {
        found.raise(Cause::ArchiveNamed { account, uses }, ways());
    }
}

/// The day of the latest line, if it is not before the prior fiscal year, with the day on which that began.
fn recent(today: &Today, figures: &Figures) -> Option<(Date, Date)> {
    let prior_year = Period(today.activity.last()?.year_start().0 - 12);
    let prior_year = today.calendar.first_day(prior_year);
    Some((figures.last.filter(|last| *last >= prior_year)?, prior_year))
}

/// Whatever is deactivated can be restored: nothing stops it, but what is still relied on has to be read first.
fn check_deactivate(today: &Today, row: &Account, figures: &Figures, found: &mut Findings<'_>) {
    let account = row.id;
    let ways = || [Remedy::Unstage { account, field: Field::Fate }, Remedy::Advice];
    if let Some(role) = row.role {
        found.raise(Cause::DeactivateControl { account, role }, ways());
    }
    let balance = balance(row, figures);
    if row.class.on_balance_sheet() && balance != 0 {
        found.raise(Cause::DeactivateBalance { account, balance }, ways());
    }
    if let Some((last, _)) = recent(today, figures) {
        let (this_year, last_year) = (figures.this_year.lines, figures.last_year);
        let cause = Cause::DeactivateRecent { account, this_year, last_year, last };
        found.raise(cause, ways());
    }
}

fn check_restore(row: &Account, found: &mut Findings<'_>) {
    let (account, status) = (row.id, row.status);
    if matches!(status, Status::Active | Status::Merged) {
        let back = Remedy::Unstage { account, field: Field::Fate };
        found.raise(Cause::RestoreNothing { account, status }, [back]);
    }
}
