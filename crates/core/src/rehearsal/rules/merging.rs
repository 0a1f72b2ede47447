//! Merges: only like with like, into an account that stays, without spoiling a reconciliation.

use super::context::RuleContext;
use crate::chart::{Account, ControlRole, Status};
use crate::ids::AccountId;
use crate::plan::{Change, Fate, Field};
use crate::rehearsal::cause::{Cause, Disagreement, Unfit};
use crate::rehearsal::finding::{Findings, Remedy};

pub(super) fn check(context: &RuleContext<'_>, found: &mut Findings<'_>) {
    for (&id, &end) in context.merges {
        let Some(merged) = context.today.chart.get(id) else {
            continue;
        };
        match context.after.get(end) {
            Some(survivor) if survivor.status == Status::Active && survivor.is_posting() => {
                check_pair(context, merged, survivor, found);
            }
            survivor => {
                let why = match survivor {
                    None => Unfit::Gone,
                    Some(s) if !s.is_posting() => Unfit::Kind(s.kind),
                    Some(s) => Unfit::Status(s.status),
                };
                let cause = Cause::MergeIntoRetired { merged: id, survivor: end, why };
                found.raise(cause, [undo(id)]);
            }
        }
    }
}

fn undo(account: AccountId) -> Remedy {
    Remedy::Unstage { account, field: Field::Fate }
}

fn check_pair(context: &RuleContext<'_>, one: &Account, other: &Account, found: &mut Findings<'_>) {
    let (merged, survivor) = (one.id, other.id);
    if one.kind != other.kind {
        let kinds = (one.kind, other.kind);
        found.raise(Cause::MergeKind { merged, survivor, kinds }, [undo(merged)]);
    }
    if one.class != other.class {
        let classes = (one.class, other.class);
        found.raise(Cause::MergeClass { merged, survivor, classes }, [undo(merged)]);
    }
    if one.currency != other.currency {
        let currencies = (one.currency, other.currency);
        found.raise(Cause::MergeCurrency { merged, survivor, currencies }, [undo(merged)]);
    }
    check_roles(one, other, found);
    check_settings(one, other, found);
    check_cleared(context, one, other, found);
}

/// What was cleared in the reconciliation of one bank account is not mixed with that of another.
fn check_cleared(
    context: &RuleContext<'_>,
    merged: &Account,
    survivor: &Account,
    found: &mut Findings<'_>,
) {
    let cleared = context.figures(merged.id).cleared + context.figures(survivor.id).cleared;
    let bank = [merged, survivor].iter().any(|a| a.role == Some(ControlRole::Bank));
    if bank && cleared > 0 {
        let deactivate =
            || Remedy::Stage { account: merged.id, change: Change::Fate(Fate::deactivate()) };
        // What is no bank account does not stop being needed because it cannot go into one.
        let is_bank = merged.role == Some(ControlRole::Bank);
        let first = if is_bank { deactivate() } else { undo(merged.id) };
        let ways = [first, Remedy::Advice];
        let (merged, survivor) = (merged.id, survivor.id);
        found.raise(Cause::MergeBankCleared { merged, survivor, cleared }, ways);
    }
}

fn check_roles(merged: &Account, survivor: &Account, found: &mut Findings<'_>) {
    let Some(role) = merged.role.filter(|role| survivor.role != Some(*role)) else {
        return;
    };
    let mut ways = vec![undo(merged.id)];
    let other = survivor.role;
    if other.is_none() {
        ways.push(Remedy::Advice);
    }
    let (merged, survivor) = (merged.id, survivor.id);
    found.raise(Cause::MergeRole { merged, survivor, role, other }, ways);
}

/// Settings that need not agree, but that a person should have seen.
fn check_settings(one: &Account, other: &Account, found: &mut Findings<'_>) {
    let caption = |account: &Account| account.place().1;
    let differ: Vec<_> = [
        (caption(one) != caption(other))
            .then(|| Disagreement::Caption(caption(one), caption(other))),
        (one.parent != other.parent).then_some(Disagreement::Parent(one.parent, other.parent)),
        (one.tax_code != other.tax_code)
            .then(|| Disagreement::Tax(one.tax_code.clone(), other.tax_code.clone())),
        (one.contra != other.contra).then_some(Disagreement::Contra(one.contra)),
    ]
    .into_iter()
    .flatten()
    .collect();
    if !differ.is_empty() {
        let (merged, survivor) = (one.id, other.id);
        found.raise(Cause::MergeSettings { merged, survivor, differ }, [undo(merged)]);
    }
}
