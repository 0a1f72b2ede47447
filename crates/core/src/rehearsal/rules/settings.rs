//! Settings of an account beyond code, name and place: what kind of row it is, its control role,
//! fixed currency and contra mark.

use super::context::RuleContext;
use crate::chart::{Account, Kind};
use crate::plan::Field;
use crate::rehearsal::cause::Cause;
use crate::rehearsal::finding::{Findings, Remedy};

pub(super) fn check(context: &RuleContext<'_>, found: &mut Findings<'_>) {
    for (&id, target) in &context.plan.targets {
        let Some(after) = context.after.get(id).filter(|account| account.is_live()) else {
            continue;
        };
        let before = context.today.chart.get(id);
        if let Some(before) = before.filter(|b| b.kind != after.kind) {
            check_kind(context, before, after, found);
        }
        if after.kind == Kind::Sum && after.intervals.is_empty() {
            found.raise(Cause::SumEmpty { account: id }, [back(after, Field::Intervals)]);
        }
        if target.contains_key(&Field::Role) {
            check_role(context, after, found);
        }
        if target.keys().any(|f| matches!(f, Field::Currency | Field::Caption | Field::Role)) {
            check_currency(context, after, found);
        }
        if before.is_some_and(|b| b.contra != after.contra) {
            let cause = Cause::ContraChanges { account: id, contra: after.contra };
            found.raise(cause, [back(after, Field::Contra)]);
        }
    }
}

fn back(account: &Account, field: Field) -> Remedy {
    Remedy::Unstage { account: account.id, field }
}

fn check_kind(
    context: &RuleContext<'_>,
    before: &Account,
    after: &Account,
    found: &mut Findings<'_>,
) {
    let lines = context.figures(before.id).all.lines;
    if before.is_posting() && lines > 0 {
        let cause = Cause::KindUsed { account: after.id, lines, kind: after.kind };
        found.raise(cause, [back(after, Field::Kind)]);
    }
}

fn check_role(context: &RuleContext<'_>, after: &Account, found: &mut Findings<'_>) {
    let Some(role) = after.role.filter(|role| role.is_unique()) else {
        return;
    };
    let others = context.after.live().filter(|a| a.role == Some(role) && a.id != after.id);
    if let Some(other) = others.min_by_key(|other| other.id) {
        let cause = Cause::RoleTaken { account: after.id, other: other.id, role };
        found.raise(cause, [back(after, Field::Role)]);
    }
}

fn check_currency(context: &RuleContext<'_>, after: &Account, found: &mut Findings<'_>) {
    let Some(currency) = after.currency else {
        return;
    };
    let account = after.id;
    let ways = || [back(after, Field::Currency)];
    if !after.may_fix_currency() {
        found.raise(Cause::CurrencyNotAllowed { account, currency }, ways());
    }
    let others = context.today.activity.strands().filter(|(strand, ..)| strand.account == after.id);
    let others = others.flat_map(|(_, shares, _)| shares);
    let others = others.filter(|(slot, _)| slot.currency != currency);
    let lines: u64 = others.map(|(_, share)| share.totals.lines).sum();
    if lines > 0 {
        found.raise(Cause::CurrencyMixed { account, currency, lines }, ways());
    }
}
