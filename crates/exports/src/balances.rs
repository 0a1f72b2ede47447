//! A trial balance, written so that it can be imported where the books are opened.

use crate::form::{Form, FormColumn};
use zf_core::file_kind::FileKind;
use zf_core::money::Currency;
use zf_core::today::Today;
use zf_core::trial_balance::{TrialBalance, reported};
use zf_intake::columns::Column;
use zf_phrases::reports::EARLIER_RESULTS;
use zf_sheets::Table;

/// What an account stands at.
#[derive(Clone, Debug)]
pub struct Balance<'a> {
    /// Its code; empty for the results of earlier years.
    pub code: &'a str,
    /// Its name.
    pub name: &'a str,
    /// Minor units of the base currency, debits less credits.
    pub amount: i128,
    /// The base currency.
    pub currency: Currency,
}

impl Balance<'_> {
    fn side(&self, amount: i128) -> String {
        if amount > 0 { self.currency.format(amount) } else { String::new() }
    }
}

type Write = fn(&Balance<'_>) -> String;

/// The columns of a trial balance. What is written is in the base currency, so the last ones are blank.
pub const FORM: Form<Write> = Form {
    kind: FileKind::Balances,
    columns: &[
        FormColumn {
            column: Column::Code,
            about: "The code of the account; a former code finds it too.",
            examples: &["1010", "3000"],
            write: |row| row.code.to_owned(),
        },
        FormColumn {
            column: Column::Name,
            about: "The name of the account, for the eye only.",
            examples: &["Bank, day to day", "Members’ funds"],
            write: |row| row.name.to_owned(),
        },
        FormColumn {
            column: Column::Debit,
            about: "The amount, when it is a debit.",
            examples: &["900.00"],
            write: |row| row.side(row.amount),
        },
        FormColumn {
            column: Column::Credit,
            about: "The amount, when it is a credit.",
            examples: &["", "900.00"],
            write: |row| row.side(-row.amount),
        },
        FormColumn {
            column: Column::Currency,
            about: "Three letters of ISO 4217, when not the base currency.",
            examples: &[],
            write: |_| String::new(),
        },
        FormColumn {
            column: Column::Foreign,
            about: "The amount in that currency, with the sign of the line.",
            examples: &[],
            write: |_| String::new(),
        },
        FormColumn {
            column: Column::Rate,
            about: "What one of that currency is worth; gives the amount when it is empty.",
            examples: &[],
            write: |_| String::new(),
        },
    ],
};

/// The columns that a trial balance in the base currency fills.
const FILLED: usize = 4;

/// A trial balance with the results of earlier years as they are reported.
pub fn table(today: &Today, trial: &TrialBalance) -> Table {
    let rows = reported(trial, &today.chart).into_iter().map(|(account, amount)| {
        let (code, name) = match account {
            Some(account) => (account.code.as_str(), &*account.name),
            None => ("", EARLIER_RESULTS),
        };
        let balance = Balance { code, name, amount, currency: today.currency };
        let mut row = FORM.row(|write| write(&balance));
        row.truncate(FILLED);
        row
    });
    let mut columns = FORM.headed();
    columns.truncate(FILLED);
    Table::new("Trial balance", columns, rows.collect())
}
