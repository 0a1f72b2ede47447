//! Class changes: within a statement they must be read, between statements they would change the
//! results of closed years.

use super::RuleContext;
use crate::chart::Account;
use crate::plan::Field;
use crate::rehearsal::finding::{Findings, Remedy, Rule};

pub(super) fn check(context: &RuleContext<'_>, found: &mut Findings<'_>) {
    for &id in context.plan.targets.keys() {
        let Some(after) = context.after.get(id).filter(|account| account.is_live()) else {
            continue;
        };
        if after.is_under_foreign_caption() {
            let sentence = format!(
                "{} is {}, but the section {} belongs to another class.",
                after.label(),
                after.class.words(),
                after.caption_words(),
            );
            found.raise(Rule::SectionForeign, [id], sentence, [back(after, Field::Caption)]);
        }
        if let Some(before) = context.today.chart.get(id).filter(|b| b.class != after.class) {
            check_change(context, before, after, found);
        }
    }
}

fn back(account: &Account, field: Field) -> Remedy {
    Remedy::TakeBack {
        label: format!("Leave the {} as it was", field.words()),
        account: account.id,
        field,
    }
}

fn check_change(
    context: &RuleContext<'_>,
    before: &Account,
    after: &Account,
    found: &mut Findings<'_>,
) {
    let change = format!(
        "{} changes from {} to {}",
        before.label(),
        before.class.words(),
        after.class.words()
    );
    let figures = context.figures(before.id);
    let closed = figures.all.lines > figures.this_year.lines;
    let across = before.class.on_balance_sheet() != after.class.on_balance_sheet();
    let ways = [back(after, Field::Class)];
    if across && closed {
        let sentence = format!(
            "{change}, which would change the results of closed years: {} of its lines are older than this year.",
            figures.all.lines - figures.this_year.lines,
        );
        found.raise(Rule::ClassAcross, [after.id], sentence, ways);
    } else {
        found.raise(Rule::ClassWithin, [after.id], format!("{change}."), ways);
    }
}
