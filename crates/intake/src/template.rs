//! What a file to bring in looks like: its columns in an order people know, what goes into each, and
//! rows as an example. Files that are handed out have the same headings, so that they can be brought
//! in again.

use super::columns::{Column, required};
use zf_core::file_kind::FileKind;

/// The columns that an empty form of a kind of file has.
pub fn columns(kind: FileKind) -> &'static [Column] {
    use Column as C;
    match kind {
        FileKind::Chart => super::chart::COLUMNS,
        FileKind::Journal => &[
            C::Entry,
            C::Date,
            C::Code,
            C::Name,
            C::Debit,
            C::Credit,
            C::Payee,
            C::Memo,
            C::Reference,
            C::Currency,
            C::Foreign,
            C::EntryKind,
            C::Cleared,
        ],
        FileKind::Balances => {
            &[C::Code, C::Name, C::Debit, C::Credit, C::Currency, C::Foreign, C::Rate]
        }
        FileKind::Crosswalk => &[C::Code, C::Name, C::NewCode, C::NewName],
        FileKind::Usage => &[C::Code, C::Name, C::UsedBy, C::Label, C::Month, C::Amount],
    }
}

/// What a column is headed.
pub fn heading(kind: FileKind, column: Column) -> &'static str {
    match (kind, column) {
        (FileKind::Crosswalk, Column::Code) => "Old code",
        (FileKind::Crosswalk, Column::Name) => "Old name",
        (FileKind::Usage, Column::Name) => "Account name",
        _ => column.words(),
    }
}

/// Whether such a file needs the column.
pub fn is_needed(kind: FileKind, column: Column) -> bool {
    let amounts = matches!(column, Column::Debit | Column::Credit)
        && matches!(kind, FileKind::Journal | FileKind::Balances);
    required(kind).contains(&column) || amounts
}

/// What goes into a column, in a sentence.
pub fn about(kind: FileKind, column: Column) -> &'static str {
    match (kind, column) {
        (FileKind::Crosswalk, Column::Code) => "The code that the account bears today.",
        (FileKind::Chart, Column::Code) => "The code, once in the file. Leading zeros count.",
        (FileKind::Usage, Column::Code) => {
            "The account; or the codes that a line of a report adds up, as 1000 to 1999, 2500."
        }
        (_, Column::Code) => "The code of the account; a former code finds it too.",
        (FileKind::Chart, Column::Name) => "The name of the account.",
        (_, Column::Name) => "The name of the account, for the eye only.",
        (_, Column::CodeAndName) => "Code and name in one cell, as 1000 Bank.",
        (_, Column::NewCode) => "The code After. Rows that share one are merged.",
        (_, Column::NewName) => "The name After; empty to keep it.",
        (_, Column::Kind) => "account, heading or sum line; an account when empty.",
        (_, Column::Class) => {
            "asset, liability, equity, income or expense; empty to take the heading’s."
        }
        (_, Column::Section) => "The line of the statements, as in IAS 1; may be empty.",
        (_, Column::Parent) => "The code of the heading it stands under.",
        (_, Column::Role) => {
            "bank, receivables, payables, inventory, tax, retained earnings, opening difference or suspense, where the books rely on it."
        }
        (_, Column::Contra) => "yes when it is shown as a deduction from another account.",
        (_, Column::Normal) => "debit or credit: the side its balance usually stands on.",
        (FileKind::Journal | FileKind::Balances, Column::Currency) => {
            "Three letters of ISO 4217, when not the base currency."
        }
        (_, Column::Currency) => "The one currency it may hold, in three letters of ISO 4217.",
        (_, Column::Description) => "What belongs on the account.",
        (_, Column::Tax) => "The tax code that new lines start with.",
        (_, Column::Intervals) => "The codes that a sum line adds up, as 1000 to 1999, 2500.",
        (_, Column::Status) => "active, deactivated or archived; active when empty.",
        (_, Column::StatusFrom) => "The day from which it is deactivated or archived.",
        (_, Column::Statement) => "balance sheet or income statement.",
        (_, Column::Level) => "How deep the row stands: 0, 1, 2 …",
        (_, Column::Balance) => "What it held; looked at beside totals, and not taken.",
        (_, Column::Entry) => "The number of the entry; the same on each of its lines.",
        (_, Column::Period) => {
            "The month or the period in place of a date, as 2026-03; it is asked which day counts."
        }
        (_, Column::Year) => "The year of the period, where it has a column of its own.",
        (_, Column::TaxAmount) => "The tax of a row, beside its net amount.",
        (_, Column::Gross) => "Net and tax together.",
        (_, Column::Date) => "The date, best as 2026-09-24.",
        (_, Column::Debit) => "The amount, when it is a debit.",
        (_, Column::Credit) => "The amount, when it is a credit.",
        (FileKind::Usage, Column::Amount) => {
            "What is budgeted for the month; costs are positive. Only of budget lines."
        }
        (_, Column::Month) => "The month of a budget line, as 2026-03.",
        (_, Column::Amount) => "One signed amount instead of two columns; debits are positive.",
        (_, Column::Side) => "Dr or Cr beside one unsigned amount.",
        (_, Column::Foreign) => "The amount in that currency, with the sign of the line.",
        (_, Column::Rate) => {
            "What one of that currency is worth; gives the amount when it is empty."
        }
        (_, Column::Payee) => "Who was paid or paid.",
        (_, Column::Memo) => "What it was for.",
        (_, Column::Reference) => "The number of the document.",
        (_, Column::EntryKind) => "ordinary, opening or closing; ordinary when empty.",
        (_, Column::Cleared) => "yes when it was cleared in a bank reconciliation.",
        (_, Column::UsedBy) => "What names the account: bank rule, budget line, item …",
        (_, Column::Label) => "What that thing is called.",
        (_, Column::DebitCode) => "The account that is debited.",
        (_, Column::CreditCode) => "The account that is credited.",
        (_, Column::Counter) => "The account on the other side.",
        (_, Column::Action) => {
            "keep, renumber, rename, merge, deactivate, archive, restore or delete."
        }
    }
}

/// Rows that show how the columns are filled.
pub fn examples(kind: FileKind) -> Vec<Vec<&'static str>> {
    let rows: &[&[(Column, &'static str)]] = match kind {
        FileKind::Chart => &[
            &[
                (Column::Code, "1000"),
                (Column::Name, "Cash and bank"),
                (Column::Kind, "heading"),
                (Column::Class, "asset"),
            ],
            &[
                (Column::Code, "1010"),
                (Column::Name, "Bank, day to day"),
                (Column::Kind, "account"),
                (Column::Class, "asset"),
                (Column::Section, "cash and cash equivalents"),
                (Column::Parent, "1000"),
                (Column::Role, "bank"),
                (Column::Currency, "GBP"),
                (Column::Description, "The account that bills are paid from."),
                (Column::Status, "active"),
            ],
        ],
        FileKind::Journal => &[
            &[
                (Column::Entry, "J1001"),
                (Column::Date, "2026-09-24"),
                (Column::Code, "5010"),
                (Column::Name, "Coal"),
                (Column::Debit, "250.00"),
                (Column::Payee, "Hollin Coal Merchants"),
                (Column::Memo, "Two tonnes"),
                (Column::Reference, "HC-118"),
            ],
            &[
                (Column::Entry, "J1001"),
                (Column::Date, "2026-09-24"),
                (Column::Code, "1010"),
                (Column::Name, "Bank, day to day"),
                (Column::Credit, "250.00"),
                (Column::Payee, "Hollin Coal Merchants"),
                (Column::Reference, "HC-118"),
                (Column::Cleared, "yes"),
            ],
        ],
        FileKind::Balances => &[
            &[
                (Column::Code, "1010"),
                (Column::Name, "Bank, day to day"),
                (Column::Debit, "900.00"),
            ],
            &[(Column::Code, "3000"), (Column::Name, "Members’ funds"), (Column::Credit, "900.00")],
        ],
        FileKind::Crosswalk => &[&[
            (Column::Code, "5010"),
            (Column::Name, "Coal"),
            (Column::NewCode, "5100"),
            (Column::NewName, "Coal and firewood"),
        ]],
        FileKind::Usage => &[
            &[
                (Column::Code, "5010"),
                (Column::Name, "Coal"),
                (Column::UsedBy, "budget line"),
                (Column::Label, "Coal 2026"),
                (Column::Month, "2026-03"),
                (Column::Amount, "1500.00"),
            ],
            &[
                (Column::Code, "5000 to 5099"),
                (Column::UsedBy, "report layout"),
                (Column::Label, "Board, fuel"),
            ],
        ],
    };
    let cell = |row: &[(Column, &'static str)], column: Column| {
        row.iter().find(|(filled, _)| *filled == column).map_or("", |(_, text)| *text)
    };
    rows.iter().map(|row| columns(kind).iter().map(|c| cell(row, *c)).collect()).collect()
}
