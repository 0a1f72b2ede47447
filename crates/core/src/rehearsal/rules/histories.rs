//! Moving history: only to an account that takes lines, no line to two accounts, and nothing that
//! would spoil a reconciliation or the results of closed years unread.

use super::context::RuleContext;
use crate::chart::{Account, ControlRole, Status};
use crate::history::{Part, Split};
use crate::ids::AccountId;
use crate::plan::{Change, Field};
use crate::rehearsal::cause::{Cause, Unfit};
use crate::rehearsal::draft::Moved;
use crate::rehearsal::finding::{Findings, Remedy};

pub(super) fn check(context: &RuleContext<'_>, found: &mut Findings<'_>) {
    for (from, split) in context.plan.splits() {
        if !split.ranked {
            check_overlaps(context, from, split, found);
        }
    }
    for moved in &context.draft.moved {
        let Some(from) = context.today.chart.get(moved.from) else {
            continue;
        };
        let why = match context.after.get(moved.to) {
            Some(to) if to.id == from.id => Unfit::Same,
            Some(to) if !to.is_posting() => Unfit::Kind(to.kind),
            Some(to) if to.status != Status::Active => Unfit::Status(to.status),
            Some(to) => {
                check_part(context, moved, from, to, found);
                continue;
            }
            None => Unfit::Gone,
        };
        let cause = Cause::MoveNowhere { from: from.id, to: moved.to, why };
        found.raise(cause, [undo(from.id)]);
    }
}

fn undo(account: AccountId) -> Remedy {
    Remedy::Unstage { account, field: Field::History }
}

fn check_overlaps(
    context: &RuleContext<'_>,
    from: AccountId,
    split: &Split,
    found: &mut Findings<'_>,
) {
    let overlaps = context.plan.cuts.overlaps().filter(|(account, ..)| *account == from);
    for (_, a, b, lines) in overlaps {
        let (Some(first), Some(second)) = (split.parts.get(a), split.parts.get(b)) else {
            continue;
        };
        let part = |part: &Part| {
            let to = context.merges.get(&part.to).copied().unwrap_or(part.to);
            (to, part.which.clone())
        };
        let (first, second) = (part(first), part(second));
        let ranked = Remedy::Stage {
            account: from,
            change: Change::History(Split { ranked: true, ..split.clone() }),
        };
        let cause = Cause::MoveOverlap { from, lines, first, second };
        found.raise(cause, [ranked, undo(from)]);
    }
}

fn check_part(
    context: &RuleContext<'_>,
    moved: &Moved,
    from: &Account,
    to: &Account,
    found: &mut Findings<'_>,
) {
    check_place(context, moved, from, to, found);
    let (bank, role) = ([from, to].iter().any(|a| a.role == Some(ControlRole::Bank)), from.role);
    let (from, (to, fixed, to_role)) = (from.id, (to.id, to.currency, to.role));
    let lines = moved.tally.lines();
    if lines == 0 {
        found.raise(Cause::MoveNothing { from, to, which: moved.which.clone() }, []);
        return;
    }
    if let Some(currency) = fixed
        && moved.tally.currencies.iter().any(|c| *c != currency)
    {
        found.raise(Cause::MoveCurrency { from, to, lines, currency }, [undo(from)]);
    }
    if let Some(role) = role.filter(|role| to_role != Some(*role)) {
        found.raise(Cause::MoveControl { from, to, lines, role }, []);
    }
    if bank && moved.tally.cleared > 0 {
        let ways = [undo(from), Remedy::Advice];
        let cleared = moved.tally.cleared;
        found.raise(Cause::MoveBankCleared { from, to, lines, cleared }, ways);
    }
}

/// Amounts that come to stand elsewhere on the statements.
fn check_place(
    context: &RuleContext<'_>,
    moved: &Moved,
    from: &Account,
    to: &Account,
    found: &mut Findings<'_>,
) {
    let lines = moved.tally.lines();
    if from.place() == to.place() || lines == 0 {
        return;
    }
    let current = context.today.activity.last().map(crate::calendar::Period::year_start);
    let closed =
        moved.tally.years.iter().any(|(year, (_, net))| Some(*year) < current && *net != 0);
    let across = from.class.on_balance_sheet() != to.class.on_balance_sheet();
    if across && closed {
        let ways = [undo(from.id), Remedy::Advice];
        let classes = (from.class, to.class);
        let cause = Cause::MoveAcross { from: from.id, to: to.id, lines, classes };
        found.raise(cause, ways);
    } else {
        let (net, places) = (moved.tally.net(), (from.place(), to.place()));
        found.raise(Cause::MoveCaption { from: from.id, to: to.id, lines, net, places }, []);
    }
}
