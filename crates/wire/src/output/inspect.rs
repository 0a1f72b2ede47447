//! `zerofold inspect`.

use serde::Serialize;
use std::collections::BTreeMap;

/// Everything that is said of a file.
#[derive(Clone, Debug, Serialize)]
pub struct Inspected {
    pub kind: &'static str,
    pub format: String,
    pub sheet: Option<String>,
    pub encoding: Option<String>,
    pub delimiter: Option<char>,
    pub header_row: u32,
    pub date_order: Option<&'static str>,
    pub decimal_mark: Option<&'static str>,
    pub columns: Vec<Column>,
    pub ready: Vec<Ready>,
    pub ready_rows: usize,
    pub rejected: Vec<Rejected>,
    pub warnings: Vec<Warning>,
    pub totals: Option<Totals>,
    pub also: Vec<OtherSheet>,
    pub rows_of_file: Vec<SheetRows>,
    pub amounts_of_file: Vec<ColumnAmounts>,
    pub questions: Vec<Question>,
}

/// A column of the file.
#[derive(Clone, Debug, Serialize)]
pub struct Column {
    pub header: String,
    pub field: Option<&'static str>,
}

/// A row that is ready.
#[derive(Clone, Debug, Serialize)]
#[serde(untagged)]
pub enum Ready {
    Account(Box<Account>),
    Crossing(Box<Crossing>),
}

/// An account of a chart.
#[derive(Clone, Debug, Serialize)]
pub struct Account {
    pub row: u32,
    pub sheet: Option<String>,
    pub code: String,
    pub proposed_code: bool,
    pub name: String,
    pub kind: &'static str,
    pub class: &'static str,
    pub section: Option<&'static str>,
    pub caption: Option<String>,
    pub parent: Option<String>,
    pub path: Vec<String>,
    pub role: Option<&'static str>,
    pub proposed_role: Option<&'static str>,
    pub contra: bool,
    pub currency: Option<String>,
    pub description: String,
    pub tax: Option<String>,
    pub intervals: String,
    pub came_from: CameFrom,
}

/// From what each setting of an account was told.
#[derive(Clone, Debug, Serialize)]
pub struct CameFrom {
    pub code: Option<&'static str>,
    pub class: Option<&'static str>,
    pub kind: Option<&'static str>,
    pub parent: Option<&'static str>,
    pub contra: Option<&'static str>,
    pub caption: Option<&'static str>,
    pub role: Option<&'static str>,
}

/// A row of a crosswalk.
#[derive(Clone, Debug, Serialize)]
pub struct Crossing {
    pub row: u32,
    pub sheet: Option<String>,
    /// None of an account that would be added.
    pub code: Option<String>,
    pub name: Option<String>,
    pub class: Option<&'static str>,
    pub section: Option<&'static str>,
    pub parent: Option<String>,
    pub new_code: String,
    pub new_name: Option<String>,
    pub merged_into: Option<String>,
    pub does: String,
}

/// A row that cannot be taken.
#[derive(Clone, Debug, Serialize)]
pub struct Rejected {
    pub row: u32,
    pub sheet: Option<String>,
    pub field: Option<&'static str>,
    pub value: String,
    pub reason: &'static str,
    pub message: String,
}

/// Something to be read of a row that is taken.
#[derive(Clone, Debug, Serialize)]
pub struct Warning {
    pub row: u32,
    pub sheet: Option<String>,
    pub reason: &'static str,
    pub message: String,
}

/// What amounts come to, debits positive, in minor units.
#[derive(Clone, Debug, Serialize)]
#[serde(untagged)]
pub enum Totals {
    Journal {
        entries: usize,
        lines: usize,
        debit: i64,
        credit: i64,
        by_account: BTreeMap<String, i64>,
    },
    Balances {
        debit: i64,
        credit: i64,
        difference: i64,
        by_account: BTreeMap<String, i64>,
    },
}

/// Another sheet of the workbook that something can be imported from.
#[derive(Clone, Debug, Serialize)]
pub struct OtherSheet {
    pub kind: &'static str,
    pub sheet: String,
    /// Whether it is to be imported first.
    pub before: bool,
}

/// The rows of a sheet, taken and left out.
#[derive(Clone, Debug, Serialize)]
pub struct SheetRows {
    pub sheet: String,
    pub rows: usize,
    /// By what they were taken as.
    pub taken: BTreeMap<&'static str, usize>,
    pub left_out: Vec<LeftOutRow>,
}

/// A row that was left out.
#[derive(Clone, Debug, Serialize)]
pub struct LeftOutRow {
    pub row: u32,
    pub why: &'static str,
}

/// The amounts of a column, taken and left out, in minor units.
#[derive(Clone, Debug, Serialize)]
pub struct ColumnAmounts {
    pub column: String,
    pub means: Option<&'static str>,
    pub sum: i64,
    pub taken: i64,
    pub left_out: Vec<LeftOutAmounts>,
}

/// Amounts that were left out for one reason.
#[derive(Clone, Debug, Serialize)]
pub struct LeftOutAmounts {
    pub why: &'static str,
    pub sum: i64,
    pub rows: usize,
}

/// Something that the file does not tell for sure.
#[derive(Clone, Debug, Serialize)]
pub struct Question {
    pub about: String,
    pub say: String,
    pub readings: Vec<Reading>,
    /// The key of the reading that holds until somebody answers.
    pub default: Option<String>,
}

/// A way to read it.
#[derive(Clone, Debug, Serialize)]
pub struct Reading {
    pub key: String,
    pub say: String,
    pub gives: String,
}
