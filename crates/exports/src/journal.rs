//! The journal, line by line, with the code each line was posted under.

use crate::form::{Form, FormColumn};
use std::collections::{BTreeMap, BTreeSet};
use time::Date;
use zf_core::dimension;
use zf_core::file_kind::FileKind;
use zf_core::money::Currency;
use zf_intake::columns::Column;
use zf_sheets::{ColumnKind, Columns};

/// A line of the journal, with the account that presents it now.
#[derive(Clone, Copy, Debug)]
pub struct JournalRow<'a> {
    /// The number of its entry.
    pub entry: &'a str,
    /// The day of its entry.
    pub date: Date,
    /// The code of its account.
    pub code: &'a str,
    /// The name of its account.
    pub name: &'a str,
    /// Minor units of the base currency; debits are positive.
    pub amount: i64,
    /// The base currency.
    pub base: Currency,
    /// Another currency, and minor units of that.
    pub foreign: Option<(Currency, i64)>,
    /// Who was paid or paid.
    pub payee: &'a str,
    /// What it was for.
    pub memo: &'a str,
    /// The number of the document.
    pub reference: &'a str,
    /// The kind of its entry, by its key.
    pub entry_kind: &'a str,
    /// Whether it was cleared in a bank reconciliation.
    pub cleared: bool,
    /// Its dimension values, as they were posted.
    pub dimensions: &'a str,
    /// The code that it was posted under.
    pub posted_code: &'a str,
}

type Write = fn(&JournalRow<'_>) -> String;

/// The columns of a journal; those of dimensions have the names that the books give them.
pub const FORM: Form<Write> = Form {
    kind: FileKind::Journal,
    columns: &[
        FormColumn {
            column: Column::Entry,
            about: "The number of the entry; the same on each of its lines.",
            examples: &["J1001", "J1001"],
            write: |row| row.entry.to_owned(),
        },
        FormColumn {
            column: Column::Date,
            about: "The date, best as 2026-09-24.",
            examples: &["2026-09-24", "2026-09-24"],
            write: |row| row.date.to_string(),
        },
        FormColumn {
            column: Column::Code,
            about: "The code of the account; a former code finds it too.",
            examples: &["5010", "1010"],
            write: |row| row.code.to_owned(),
        },
        FormColumn {
            column: Column::Name,
            about: "The name of the account, for the eye only.",
            examples: &["Coal", "Bank, day to day"],
            write: |row| row.name.to_owned(),
        },
        FormColumn {
            column: Column::Debit,
            about: "The amount, when it is a debit.",
            examples: &["250.00"],
            // A line of nothing is written as a debit of nothing, or it could not be imported again.
            write: |row| {
                if row.amount >= 0 { row.base.format(row.amount.into()) } else { String::new() }
            },
        },
        FormColumn {
            column: Column::Credit,
            about: "The amount, when it is a credit.",
            examples: &["", "250.00"],
            write: |row| match i128::from(row.amount) {
                credit @ ..0 => row.base.format(-credit),
                _ => String::new(),
            },
        },
        FormColumn {
            column: Column::Payee,
            about: "Who was paid or paid.",
            examples: &["Hollin Coal Merchants", "Hollin Coal Merchants"],
            write: |row| row.payee.to_owned(),
        },
        FormColumn {
            column: Column::Memo,
            about: "What it was for.",
            examples: &["Two tonnes"],
            write: |row| row.memo.to_owned(),
        },
        FormColumn {
            column: Column::Reference,
            about: "The number of the document.",
            examples: &["HC-118", "HC-118"],
            write: |row| row.reference.to_owned(),
        },
        FormColumn {
            column: Column::Currency,
            about: "Three letters of ISO 4217, when not the base currency.",
            examples: &[],
            write: |row| row.foreign.map_or_else(String::new, |(currency, _)| currency.to_string()),
        },
        FormColumn {
            column: Column::Foreign,
            about: "The amount in that currency, with the sign of the line.",
            examples: &[],
            write: |row| {
                row.foreign.map_or_else(String::new, |(other, amount)| other.format(amount.into()))
            },
        },
        FormColumn {
            column: Column::EntryKind,
            about: "ordinary, opening or closing; ordinary when empty.",
            examples: &[],
            write: |row| row.entry_kind.to_owned(),
        },
        FormColumn {
            column: Column::Cleared,
            about: "yes when it was cleared in a bank reconciliation.",
            examples: &["", "yes"],
            write: |row| if row.cleared { "yes" } else { "" }.to_owned(),
        },
    ],
};

/// The names of the dimensions that some posted values have, in their order.
pub fn dimension_names(values: &[String]) -> BTreeSet<String> {
    values.iter().flat_map(|posted| dimension::values(posted)).map(|value| value.name).collect()
}

/// The columns of a journal with these dimensions.
pub fn headed(dimensions: &BTreeSet<String>) -> Columns {
    let names = dimensions.iter().map(|name| (name.clone(), ColumnKind::Text));
    let posted = ("Posted under".to_owned(), ColumnKind::Text);
    FORM.headed().into_iter().chain(names).chain([posted]).collect()
}

/// A line as a row below them.
pub fn row(line: &JournalRow<'_>, dimensions: &BTreeSet<String>) -> Vec<String> {
    let mut row = FORM.row(|write| write(line));
    let values = dimension::values(line.dimensions).into_iter();
    let mut values: BTreeMap<String, String> = values.map(|v| (v.name, v.value)).collect();
    row.extend(dimensions.iter().map(|name| values.remove(name).unwrap_or_default()));
    row.push(line.posted_code.to_owned());
    row
}
