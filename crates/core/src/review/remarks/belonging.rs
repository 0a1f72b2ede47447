//! Accounts that belong elsewhere by what is seen of them: to another class, under another heading, or among those
//! that the books rely on.

use super::books::Books;
use super::remark::{Proposed, Remark, RemarkKind};
use crate::chart::{Account, ControlRole, Kind};
use crate::review::controls::by_name;

/// From how many of 100 on another class is more likely than not.
const LIKELY: u8 = 50;

/// An account that by its name, the sides of its lines and what stands beside it belongs to another class.
pub(super) fn contradicted(books: &Books<'_>, account: &Account) -> Option<Remark> {
    let judged = books.judge.contradicted(account)?;
    let all = books.today.figures_of(account.id).all;
    let [debits, credits] = [all.debit, all.credit].map(|sum| books.today.currency.say(sum));
    let (label, class, right) = (account.label(), account.class.words(), judged.class.words());
    let percent = judged.percent();
    let message = if percent >= LIKELY {
        format!(
            "{label} is classed as {class}; its name, its lines ({debits} debits, {credits} credits) and the \
             accounts beside it speak for {right}, {percent}% sure."
        )
    } else {
        format!(
            "{label} is classed as {class}, and nearly all of its lines ({debits} debits, {credits} credits) are on \
             the other side, as those of {right} would be."
        )
    };
    let proposed = Proposed::Class(judged.class);
    let remark = Remark::of(RemarkKind::ClassContradicted, account, message).proposing(proposed);
    Some(Remark { score: (percent >= LIKELY).then_some(percent), ..remark })
}

/// An account that the books rely on by its name, without a role.
pub(super) fn control(books: &Books<'_>, account: &Account) -> Option<Remark> {
    let role = (account.kind == Kind::Account).then(|| by_name(account)).flatten()?;
    // Where others have the role, this one is a part of it that is kept apart.
    let is_open = |role: &ControlRole| {
        !books.rows.iter().any(|row| row.role == Some(*role) && row.class == account.class)
    };
    let role = role.filter(is_open)?;
    let message = format!(
        "{} is the books’ {} account by its name, and no role says so: rules that keep such accounts do not \
         hold for it.",
        account.label(),
        role.words()
    );
    Some(Remark::of(RemarkKind::ControlByName, account, message).proposing(Proposed::Role(role)))
}

/// A row under a heading of another class.
pub(super) fn foreign_heading(books: &Books<'_>, account: &Account) -> Option<Remark> {
    let parent = account.parent.and_then(|parent| books.today.chart.get(parent))?;
    (parent.class != account.class).then(|| {
        let message = format!(
            "{} is {} and stands under {}, which is {}: totals mix the two.",
            account.label(),
            account.class.words(),
            parent.label(),
            parent.class.words()
        );
        Remark::of(RemarkKind::ParentClass, account, message)
    })
}
