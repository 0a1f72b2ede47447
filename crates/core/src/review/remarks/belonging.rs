//! Accounts that belong elsewhere by what is seen of them: to another class, under another heading, or among those
//! that the books rely on.

use super::books::RemarkContext;
use super::remark::{Proposed, Remark, Seen};
use crate::chart::{Account, ControlRole, Kind};
use crate::review::controls::by_name;

/// From how many of 100 on another class is more likely than not.
const LIKELY: u8 = 50;

/// An account that by its name, the sides of its lines and what stands beside it belongs to another class.
pub(super) fn contradicted(books: &RemarkContext<'_>, account: &Account) -> Option<Remark> {
    let judged = books.judge.contradicted(account)?;
    let all = books.today.figures_of(account.id).all;
    let percent = Some(judged.percent()).filter(|percent| *percent >= LIKELY);
    let seen = Seen::ClassContradicted {
        class: account.class,
        right: judged.class,
        debits: all.debit,
        credits: all.credit,
        percent,
    };
    let remark = Remark::of(account, seen).proposing(Proposed::Class(judged.class));
    Some(Remark { score: percent, ..remark })
}

/// An account that the books rely on by its name, without a role.
pub(super) fn control(books: &RemarkContext<'_>, account: &Account) -> Option<Remark> {
    let role = (account.kind == Kind::Account).then(|| by_name(account)).flatten()?;
    // Where others have the role, this one is a part of it that is kept apart.
    let is_open = |role: &ControlRole| {
        !books.rows.iter().any(|row| row.role == Some(*role) && row.class == account.class)
    };
    let role = role.filter(is_open)?;
    Some(Remark::of(account, Seen::ControlByName { role }).proposing(Proposed::Role(role)))
}

/// A row under a heading of another class.
pub(super) fn foreign_heading(books: &RemarkContext<'_>, account: &Account) -> Option<Remark> {
    let parent = account.parent.and_then(|parent| books.today.chart.get(parent))?;
    (parent.class != account.class).then(|| {
        let (class, of_parent) = (account.class, parent.class);
        Remark::of(account, Seen::ParentClass { class, parent: parent.id, of_parent })
    })
}
