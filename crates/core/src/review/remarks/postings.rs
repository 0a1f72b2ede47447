//! Accounts that hold, or lack, what they should not: lines on headings, balances that wait, balances on the
//! other side, and bank accounts that fell silent.

use super::books::RemarkContext;
use super::remark::{Remark, Seen};
use crate::chart::{Account, Class, ControlRole, Kind, Status};
use crate::review::survivor::has_stopped;
use crate::review::wording::Wording;
use crate::trial_balance::balance;

/// A heading or sum line that has lines.
pub(super) fn on_heading(books: &RemarkContext<'_>, account: &Account) -> Option<Remark> {
    let lines = books.today.figures_of(account.id).all.lines;
    (account.kind != Kind::Account && lines > 0)
        .then(|| Remark::of(account, Seen::HeadingPosted { kind: account.kind, lines }))
}

/// A suspense account with a balance.
pub(super) fn suspense(books: &RemarkContext<'_>, account: &Account) -> Option<Remark> {
    let balance = books.today.figures_of(account.id).all.net();
    let waiting =
        matches!(account.role, Some(ControlRole::Suspense | ControlRole::OpeningDifference));
    (waiting && balance != 0).then(|| Remark::of(account, Seen::SuspenseBalance { balance }))
}

/// An account that takes no lines and has a balance.
pub(super) fn inactive(books: &RemarkContext<'_>, account: &Account) -> Option<Remark> {
    let balance = balance(account, &books.today.figures_of(account.id));
    let status = account.status;
    (status != Status::Active && balance != 0)
        .then(|| Remark::of(account, Seen::InactiveBalance { status, balance }))
}

/// A balance on the side where it should not be.
pub(super) fn unusual_side(books: &RemarkContext<'_>, account: &Account) -> Option<Remark> {
    let balance = balance(account, &books.today.figures_of(account.id));
    let grows_by_debits = account.grows_by_debits_as(account.class);
    let against = if grows_by_debits { balance < 0 } else { balance > 0 };
    let unusual = account.kind == Kind::Account && against && !is_deduction(account);
    unusual.then(|| Remark::of(account, Seen::UnusualSide { class: account.class, balance }))
}

/// Words that together name what is deducted from others of its class, whether or not it is marked as contra.
const DEDUCTIONS: [(&[&str], &[Class]); 16] = [
    (&["depreciation"], &[Class::Asset]),
    (&["amortisation"], &[Class::Asset]),
    (&["amortization"], &[Class::Asset]),
    (&["amortissement"], &[Class::Asset]),
    (&["abschreibung"], &[Class::Asset]),
    (&["wertberichtigung"], &[Class::Asset]),
    (&["afschrijving"], &[Class::Asset]),
    (&["amortizacion"], &[Class::Asset]),
    (&["impairment"], &[Class::Asset]),
    (&["doubtful"], &[Class::Asset]),
    (&["provision"], &[Class::Asset]),
    (&["drawing"], &[Class::Equity]),
    (&["dividend"], &[Class::Equity]),
    (&["treasury", "share"], &[Class::Equity]),
    (&["discount", "allowed"], &[Class::Income]),
    (&["return"], &[Class::Income, Class::Expense]),
];

/// Whether its name says that it is deducted from others of its class, so that its usual side is the other one.
fn is_deduction(account: &Account) -> bool {
    let wording = Wording::of(&account.name);
    DEDUCTIONS.iter().any(|(words, classes)| {
        classes.contains(&account.class) && words.iter().all(|word| wording.says(word))
    })
}

/// A bank account in use without a line for a year, while others were posted to.
pub(super) fn silent_bank(books: &RemarkContext<'_>, account: &Account) -> Option<Remark> {
    let is_bank = account.role == Some(ControlRole::Bank) && account.status == Status::Active;
    let figures = books.today.figures_of(account.id);
    let latest = books.today.figures().values().filter_map(|figures| figures.last).max();
    (is_bank && has_stopped(figures.last, latest)).then(|| {
        let (last, balance) = (figures.last, figures.to_date.net());
        Remark::of(account, Seen::BankSilent { last, balance })
    })
}
