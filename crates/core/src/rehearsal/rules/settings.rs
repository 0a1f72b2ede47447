//! Settings of an account beyond code, name and place: what kind of row it is, its control role,
//! fixed currency and contra mark.

use super::RuleContext;
use crate::chart::{Account, Kind};
use crate::plan::Field;
use crate::rehearsal::finding::{Findings, Remedy, Rule};
use crate::text::{a, counted};

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
            let sentence =
                format!("{} is a sum line and needs the codes it adds up.", after.label());
            found.raise(Rule::SumEmpty, [id], sentence, [back(after, Field::Intervals)]);
        }
        if target.contains_key(&Field::Role) {
            check_role(context, after, found);
        }
        if target.keys().any(|f| matches!(f, Field::Currency | Field::Caption | Field::Role)) {
            check_currency(context, after, found);
        }
        if let Some(before) = before.filter(|b| b.contra != after.contra) {
            let (label, now) = (before.label(), if after.contra { "a" } else { "no longer a" });
            let sentence = format!(
                "{label} becomes {now} contra account: its balance is expected on the other side."
            );
            found.raise(Rule::ContraChanges, [id], sentence, [back(after, Field::Contra)]);
        }
    }
}

fn back(account: &Account, field: Field) -> Remedy {
    let label = format!("Leave the {} as it was", field.words());
    Remedy::TakeBack { label, account: account.id, field }
}

fn check_kind(
    context: &RuleContext<'_>,
    before: &Account,
    after: &Account,
    found: &mut Findings<'_>,
) {
    let lines = context.figures(before.id).all.lines;
    if before.is_posting() && lines > 0 {
        let sentence = format!(
            "{} has {} and can’t become {}.",
            before.label(),
            counted(lines, "line"),
            a(after.kind.words())
        );
        found.raise(Rule::KindUsed, [after.id], sentence, [back(after, Field::Kind)]);
    }
}

fn check_role(context: &RuleContext<'_>, after: &Account, found: &mut Findings<'_>) {
    let Some(role) = after.role.filter(|role| role.is_unique()) else {
        return;
    };
    let others = context.after.live().filter(|a| a.role == Some(role) && a.id != after.id);
    if let Some(other) = others.min_by_key(|other| other.id) {
        let (other_label, role) = (other.label(), role.words());
        let sentence = format!("{} can’t be the {role} account: {other_label} is.", after.label());
        let ways = [back(after, Field::Role)];
        found.raise(Rule::RoleTaken, [after.id, other.id], sentence, ways);
    }
}

fn check_currency(context: &RuleContext<'_>, after: &Account, found: &mut Findings<'_>) {
    let Some(currency) = after.currency else {
        return;
    };
    let ways = || [back(after, Field::Currency)];
    if !after.may_fix_currency() {
        let sentence = format!(
            "{} can’t hold {currency} only: that belongs to cash, receivables, payables or borrowings.",
            after.label()
        );
        found.raise(Rule::CurrencyNotAllowed, [after.id], sentence, ways());
    }
    let others = context.today.activity.strands().filter(|(strand, ..)| strand.account == after.id);
    let others = others.flat_map(|(_, shares, _)| shares);
    let others = others.filter(|(slot, _)| slot.currency != currency);
    let lines: u64 = others.map(|(_, share)| share.totals.lines).sum();
    if lines > 0 {
        let sentence = format!(
            "{} can’t hold {currency} only: it has {} in other currencies.",
            after.label(),
            counted(lines, "line")
        );
        found.raise(Rule::CurrencyMixed, [after.id], sentence, ways());
    }
}
