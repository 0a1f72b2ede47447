//! Accounts that hold, or lack, what they should not: lines on headings, balances that wait, balances on the
//! other side, and bank accounts that fell silent.

use super::books::Books;
use super::remark::{Remark, RemarkKind};
use crate::calendar::say_day;
use crate::chart::{Account, Class, ControlRole, Kind, Status};
use crate::review::survivor::has_stopped;
use crate::review::wording::Wording;
use crate::text::{a, counted};
use crate::trial_balance::balance;

/// A heading or sum line that has lines.
pub(super) fn on_heading(books: &Books<'_>, account: &Account) -> Option<Remark> {
    let lines = books.today.figures_of(account.id).all.lines;
    (account.kind != Kind::Account && lines > 0).then(|| {
        let message = format!(
            "{} is {} and has {}, which no total of it shows apart.",
            account.label(),
            a(account.kind.words()),
            counted(lines, "line"),
        );
        Remark::of(RemarkKind::HeadingPosted, account, message)
    })
}

/// A suspense account with a balance.
pub(super) fn suspense(books: &Books<'_>, account: &Account) -> Option<Remark> {
    let sum = books.today.figures_of(account.id).all.net();
    let waiting =
        matches!(account.role, Some(ControlRole::Suspense | ControlRole::OpeningDifference));
    (waiting && sum != 0).then(|| {
        let message = format!(
            "{} stands at {}: what it holds belongs elsewhere.",
            account.label(),
            books.say(sum)
        );
        Remark::of(RemarkKind::SuspenseBalance, account, message)
    })
}

/// An account that takes no lines and has a balance.
pub(super) fn inactive(books: &Books<'_>, account: &Account) -> Option<Remark> {
    let sum = balance(account, &books.today.figures_of(account.id));
    (account.status != Status::Active && sum != 0).then(|| {
        let message = format!(
            "{} is {} and stands at {}, which the statements still show; restore it, or leave it, and \
             nothing of it is lost.",
            account.label(),
            account.status.words(),
            books.say(sum)
        );
        Remark::of(RemarkKind::InactiveBalance, account, message)
    })
}

/// A balance on the side where it should not be.
pub(super) fn unusual_side(books: &Books<'_>, account: &Account) -> Option<Remark> {
    let sum = balance(account, &books.today.figures_of(account.id));
    let grows_by_debits = account.grows_by_debits_as(account.class);
    let against = if grows_by_debits { sum < 0 } else { sum > 0 };
    let unusual = account.kind == Kind::Account && against && !is_deduction(account);
    unusual.then(|| {
        let message = format!(
            "{} stands at {}, the unusual side for its class, {}.",
            account.label(),
            books.say(sum),
            account.class.words()
        );
        Remark::of(RemarkKind::UnusualSide, account, message)
    })
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
pub(super) fn silent_bank(books: &Books<'_>, account: &Account) -> Option<Remark> {
    let is_bank = account.role == Some(ControlRole::Bank) && account.status == Status::Active;
    let figures = books.today.figures_of(account.id);
    let latest = books.today.figures().values().filter_map(|figures| figures.last).max();
    (is_bank && has_stopped(figures.last, latest)).then(|| {
        let since = figures.last.map_or_else(
            || "was never posted to".to_owned(),
            |last| format!("was last posted to on {}", say_day(last)),
        );
        let sum = figures.to_date.net();
        let and = match sum {
            0 => "stands at nothing: if it is closed, deactivate it".to_owned(),
            sum => format!(
                "stands at {}: ask the bank what it holds before it is closed",
                books.say(sum)
            ),
        };
        let message = format!("{} {since} and {and}.", account.label());
        Remark::of(RemarkKind::BankSilent, account, message)
    })
}
