//! The outline After: rows stand under headings that exist, never in a circle, and no row is left
//! without the heading it stood under.

use super::context::RuleContext;
use crate::chart::{Account, Chart, Kind, Status};
use crate::ids::AccountId;
use crate::plan::Field;
use crate::rehearsal::cause::Cause;
use crate::rehearsal::finding::{Findings, Remedy};
use std::collections::{BTreeMap, BTreeSet};

pub(super) fn check(context: &RuleContext<'_>, found: &mut Findings<'_>) {
    check_parents(context.after, &context.today.chart, found);
    for account in context.after.live() {
        let Some(parent) = account.parent.and_then(|p| context.after.get(p)) else {
            continue;
        };
        let touched = context.touches(account.id) || context.touches(parent.id);
        if touched && parent.class != account.class {
            let cause = Cause::ParentClass {
                account: account.id,
                class: account.class,
                parent: parent.id,
                of_parent: parent.class,
            };
            found.raise(cause, [back(account.id)]);
        }
    }
}

fn back(account: AccountId) -> Remedy {
    Remedy::Unstage { account, field: Field::Parent }
}

/// Raises rows whose parent cannot carry them: by the parent, where it goes away above rows that
/// stood under it, else by the row, which is to stand where it cannot.
pub(in crate::rehearsal) fn check_parents(after: &Chart, today: &Chart, found: &mut Findings<'_>) {
    let mut left: BTreeMap<AccountId, Vec<AccountId>> = BTreeMap::new();
    for account in after.live() {
        let Some(parent) = account.parent else {
            continue;
        };
        let now = after.get(parent);
        if now.is_some_and(|p| fits(p, account)) {
            continue;
        }
        let stood = today.get(account.id).filter(|was| was.parent == Some(parent));
        let carried = |row: &Account| today.get(parent).is_some_and(|p| fits(p, row));
        match (stood, now) {
            (Some(_), None) => left.entry(parent).or_default().push(account.id),
            (Some(_), Some(_)) if carried(account) => {
                left.entry(parent).or_default().push(account.id);
            }
            // A heading that was unfit before the plan is not the plan's fault.
            (Some(was), Some(_)) if !carried(was) => {}
            (_, now) => {
                let account = account.id;
                let state = now.map(|p| (p.status, p.kind));
                let cause = Cause::ParentUnfit { account, parent, found: state };
                found.raise(cause, [back(account)]);
            }
        }
    }
    for (parent, rows) in left {
        found.raise(Cause::ChildrenLeft { parent, rows }, [Remedy::Advice]);
    }
    for circle in circles(after) {
        let first = circle[0];
        found.raise(Cause::ParentCircle { accounts: circle }, [back(first)]);
    }
}

fn fits(parent: &Account, child: &Account) -> bool {
    let heading = parent.kind == Kind::Heading && parent.is_live();
    let hidden = parent.status == Status::Archived && child.status != Status::Archived;
    heading && !hidden
}

fn circles(after: &Chart) -> BTreeSet<Vec<AccountId>> {
    let mut sound = BTreeSet::new();
    let mut circles = BTreeSet::new();
    for account in after.live() {
        let mut path = Vec::new();
        let mut at = Some(account.id);
        while let Some(id) = at.filter(|id| !sound.contains(id)) {
            if let Some(start) = path.iter().position(|p| *p == id) {
                let mut circle = path.split_off(start);
                circle.sort();
                circles.insert(circle);
                break;
            }
            path.push(id);
            at = after.get(id).and_then(|a| a.parent);
        }
        sound.extend(path);
    }
    circles
}
