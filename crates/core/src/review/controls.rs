//! Accounts that the books rely on, known by their names alone: such are never deleted for being quiet.

use super::wording::Wording;
use crate::chart::{Account, Class, ControlRole};

/// Words that together name a control account, with the classes it can be of and its role, if the books know one.
type Named = (&'static [&'static str], &'static [Class], Option<ControlRole>);

const NAMED: [Named; 25] = [
    (&["trade", "debtor"], &[Class::Asset], Some(ControlRole::Receivables)),
    (&["debtor", "control"], &[Class::Asset], Some(ControlRole::Receivables)),
    (&["account", "debtor"], &[Class::Asset], Some(ControlRole::Receivables)),
    (&["sale", "ledger"], &[Class::Asset], Some(ControlRole::Receivables)),
    (&["trade", "creditor"], &[Class::Liability], Some(ControlRole::Payables)),
    (&["creditor", "control"], &[Class::Liability], Some(ControlRole::Payables)),
    (&["account", "creditor"], &[Class::Liability], Some(ControlRole::Payables)),
    (&["purchase", "ledger"], &[Class::Liability], Some(ControlRole::Payables)),
    (&["stock", "control"], &[Class::Asset], Some(ControlRole::Inventory)),
    (&["vat"], &[Class::Asset, Class::Liability], Some(ControlRole::Tax)),
    (&["gst"], &[Class::Asset, Class::Liability], Some(ControlRole::Tax)),
    (&["sale", "tax"], &[Class::Asset, Class::Liability], Some(ControlRole::Tax)),
    (&["retained"], &[Class::Equity], Some(ControlRole::RetainedEarnings)),
    (&["retained", "surplus"], &[Class::Equity], Some(ControlRole::RetainedEarnings)),
    (&["retained", "loss"], &[Class::Equity], Some(ControlRole::RetainedEarnings)),
    (&["retained", "balance"], &[Class::Equity], Some(ControlRole::RetainedEarnings)),
    (&["surplus"], &[Class::Equity], Some(ControlRole::RetainedEarnings)),
    (&["accumulated", "surplus"], &[Class::Equity], Some(ControlRole::RetainedEarnings)),
    (&["accumulated", "loss"], &[Class::Equity], Some(ControlRole::RetainedEarnings)),
    (&["accumulated", "deficit"], &[Class::Equity], Some(ControlRole::RetainedEarnings)),
    (&["accumulated", "fund"], &[Class::Equity], Some(ControlRole::RetainedEarnings)),
    (&["opening", "difference"], Class::ALL, Some(ControlRole::OpeningDifference)),
    (&["suspense"], Class::ALL, Some(ControlRole::Suspense)),
    (&["clearing"], &[Class::Asset, Class::Liability], None),
    (&["control"], &[Class::Asset, Class::Liability], None),
];

/// How many words a name has at most of which one alone says what it is.
const LITTLE_ELSE: usize = 2;

/// Whether an account without a role is one that the books rely on, by its name; with the role that it seems to have.
pub(super) fn by_name(account: &Account) -> Option<Option<ControlRole>> {
    let wording = Wording::of(&account.name);
    if account.role.is_some() || wording.is_marked() {
        return None;
    }
    let named = NAMED.iter().find(|(words, classes, _)| {
        // One word names it only where there is little else: VAT in dispute is no VAT account.
        let little_else = words.len() > 1 || wording.words.len() <= LITTLE_ELSE;
        little_else
            && classes.contains(&account.class)
            && words.iter().all(|word| wording.says(word))
    });
    named.map(|(_, _, role)| *role)
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::code::Code;
    use crate::ids::AccountId;

    #[test]
    fn names_tell_what_the_books_rely_on() {
        let role_of = |name: &str, class| {
            let code = Code::parse("100").unwrap_or_else(|_| unreachable!("a code"));
            by_name(&Account::new(AccountId(1), code, name.to_owned(), class))
        };
        use ControlRole::{Payables, Receivables, RetainedEarnings, Suspense, Tax};
        for (name, class, role) in [
            ("Trade debtors", Class::Asset, Some(Receivables)),
            ("Accounts receivable", Class::Asset, Some(Receivables)),
            ("Sales ledger control", Class::Asset, Some(Receivables)),
            ("Creditors control account", Class::Liability, Some(Payables)),
            ("VAT", Class::Liability, Some(Tax)),
            ("VAT control", Class::Liability, Some(Tax)),
            ("Retained earnings", Class::Equity, Some(RetainedEarnings)),
            ("Brought forward", Class::Equity, Some(RetainedEarnings)),
            ("Surplus", Class::Equity, Some(RetainedEarnings)),
            (
                "Surplus brought forward from the years before",
                Class::Equity,
                Some(RetainedEarnings),
            ),
            ("Accumulated losses", Class::Equity, Some(RetainedEarnings)),
            ("Suspense account", Class::Asset, Some(Suspense)),
            ("Wages control", Class::Liability, None),
            ("Card clearing", Class::Asset, None),
        ] {
            assert_eq!(role_of(name, class), Some(role), "{name}");
        }
        for (name, class) in [
            ("Wages", Class::Expense),
            ("Pest control", Class::Expense),
            ("VAT in dispute with the office", Class::Asset),
            ("Sundry debtors", Class::Asset),
            ("Surplus stock sold off", Class::Income),
            ("Suspense account OLD", Class::Asset),
        ] {
            assert_eq!(role_of(name, class), None, "{name}");
        }
    }
}
