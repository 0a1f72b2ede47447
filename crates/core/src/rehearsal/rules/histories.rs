//! Moving history: only to an account that takes lines, no line to two accounts, and nothing that
//! would spoil a reconciliation or the results of closed years unread.

use super::RuleContext;
use crate::chart::{Account, ControlRole, Status};
use crate::history::Split;
use crate::ids::AccountId;
use crate::plan::{Change, Field};
use crate::rehearsal::Moved;
use crate::rehearsal::finding::{Findings, Remedy, Rule};
use crate::text::{counted, grouped};

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
        match context.after.get(moved.to) {
            Some(to) if to.id == from.id => {
                refuse(context, from, to.id, "that is where it stands", found);
            }
            Some(to) if !to.is_posting() => {
                let why = format!("it is a {}", to.kind.words());
                refuse(context, from, to.id, &why, found);
            }
            Some(to) if to.status != Status::Active => {
                let why = format!("it is {}", to.status.words());
                refuse(context, from, to.id, &why, found);
            }
            Some(to) => check_part(context, moved, from, to, found),
            None => refuse(context, from, moved.to, "it would be gone", found),
        }
    }
}

fn take_back(account: AccountId) -> Remedy {
    let label = "Leave its history where it is".to_owned();
    Remedy::TakeBack { label, account, field: Field::History }
}

fn refuse(
    context: &RuleContext<'_>,
    from: &Account,
    to: AccountId,
    why: &str,
    found: &mut Findings<'_>,
) {
    let sentence =
        format!("No history of {} can go to {}: {why}.", from.label(), context.label(to));
    found.raise(Rule::MoveNowhere, [from.id, to], sentence, [take_back(from.id)]);
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
        let to = |id| context.label(context.merges.get(&id).copied().unwrap_or(id));
        let sentence = format!(
            "{} of the lines of {} are both for {} ({}) and for {} ({}).",
            grouped(&lines.to_string()),
            context.label(from),
            to(first.to),
            first.which,
            to(second.to),
            second.which,
        );
        let ranked = Remedy::Stage {
            label: "Let the first part that fits take them".to_owned(),
            account: from,
            change: Change::History(Split { ranked: true, ..split.clone() }),
        };
        found.raise(Rule::MoveOverlap, [from], sentence, [ranked, take_back(from)]);
    }
}

fn check_part(
    context: &RuleContext<'_>,
    moved: &Moved,
    from: &Account,
    to: &Account,
    found: &mut Findings<'_>,
) {
    let pair = [from.id, to.id];
    let lines = match moved.tally.lines() {
        0 => {
            let sentence = format!(
                "No line of {} fits the part for {}: {}.",
                from.label(),
                to.label(),
                moved.which
            );
            found.raise(Rule::MoveNothing, pair, sentence, []);
            return;
        }
        n => counted(n, "line"),
    };
    let what = format!("{lines} of {} to {}", from.label(), to.label());
    check_caption(context, moved, from, to, &what, found);
    if let Some(currency) = to.currency
        && moved.tally.currencies.iter().any(|c| *c != currency)
    {
        let sentence = format!("{what} can’t move: it takes only {currency}.");
        found.raise(Rule::MoveCurrency, pair, sentence, [take_back(from.id)]);
    }
    if let Some(role) = from.role.filter(|role| to.role != Some(*role)) {
        let sentence = format!(
            "{what} leave the books’ {} account, and what is kept beside it no longer agrees.",
            role.words()
        );
        found.raise(Rule::MoveControl, pair, sentence, []);
    }
    let bank = [from, to].iter().any(|account| account.role == Some(ControlRole::Bank));
    if bank && moved.tally.cleared > 0 {
        let sentence = format!(
            "{what} can’t move yet: {} of them are cleared in a bank reconciliation.",
            grouped(&moved.tally.cleared.to_string())
        );
        let advice = "Take only lines that were not cleared, or have a reviewer go on with a \
                      typed reason.";
        let ways = [take_back(from.id), Remedy::Advice(advice.to_owned())];
        found.raise(Rule::MoveBankCleared, pair, sentence, ways);
    }
}

/// Amounts that come to stand elsewhere on the statements.
fn check_caption(
    context: &RuleContext<'_>,
    moved: &Moved,
    from: &Account,
    to: &Account,
    what: &str,
    found: &mut Findings<'_>,
) {
    let pair = [from.id, to.id];
    if from.place() == to.place() {
        return;
    }
    let current = context.today.activity.last().map(crate::calendar::Period::year_start);
    let closed =
        moved.tally.years.iter().any(|(year, (_, net))| Some(*year) < current && *net != 0);
    let across = from.class.on_balance_sheet() != to.class.on_balance_sheet();
    if across && closed {
        let sentence = format!(
            "{what} go from {} to {} in closed years, whose results would change.",
            from.class.words(),
            to.class.words()
        );
        let advice = "Take only lines of this year, or have a reviewer go on with a typed reason.";
        let ways = [take_back(from.id), Remedy::Advice(advice.to_owned())];
        found.raise(Rule::MoveAcross, pair, sentence, ways);
    } else {
        let sum = context.today.currency.say(moved.tally.net());
        let sentence = format!(
            "{what}, {sum} in all, go from {} to {}.",
            from.caption_words(),
            to.caption_words()
        );
        found.raise(Rule::MoveCaption, pair, sentence, []);
    }
}
