//! Class changes: within a statement they must be read, between statements they would change the
//! results of closed years.

use super::context::RuleContext;
use crate::chart::Account;
use crate::plan::Field;
use crate::rehearsal::cause::Cause;
use crate::rehearsal::finding::{Findings, Remedy};

pub(super) fn check(context: &RuleContext<'_>, found: &mut Findings<'_>) {
    for &id in context.plan.targets.keys() {
        let Some(after) = context.after.get(id).filter(|account| account.is_live()) else {
            continue;
        };
        if after.is_under_foreign_caption() {
            let (class, caption) = after.place();
            let cause = Cause::SectionForeign { account: id, class, caption };
            found.raise(cause, [back(after, Field::Caption)]);
        }
        let before = context.today.chart.get(id);
        if let Some(from) = before.and_then(|b| b.place().1)
            && after.caption.is_none()
        {
            found.raise(Cause::SectionDropped { account: id, from }, [back(after, Field::Caption)]);
        }
        if let Some(before) = before.filter(|b| b.class != after.class) {
            check_change(context, before, after, found);
        }
    }
}

fn back(account: &Account, field: Field) -> Remedy {
    Remedy::Unstage { account: account.id, field }
}

fn check_change(
    context: &RuleContext<'_>,
    before: &Account,
    after: &Account,
    found: &mut Findings<'_>,
) {
    let figures = context.figures(before.id);
    let closed = figures.all.lines > figures.this_year.lines;
    let across = before.class.on_balance_sheet() != after.class.on_balance_sheet();
    let (account, from, to) = (after.id, before.class, after.class);
    let cause = if across && closed {
        let older = figures.all.lines - figures.this_year.lines;
        Cause::ClassAcross { account, from, to, older }
    } else {
        Cause::ClassWithin { account, from, to }
    };
    found.raise(cause, [back(after, Field::Class)]);
}
