//! What the rows and columns of statements and trial balances are called.

use crate::Style;
use time::Date;
use zf_core::calendar::FiscalCalendar;
use zf_core::chart::Class;
use zf_core::reports::columns::Months;
use zf_core::reports::statement::{RowName, StatementKind};
use zf_core::reports::trial::{TrialColumn, TrialLine};

/// Results of earlier years that no account takes.
pub const EARLIER_RESULTS: &str = "Results of earlier years";

/// What a row of a statement is called.
pub fn row(name: &RowName) -> String {
    match name {
        RowName::Own(name) => name.clone(),
        RowName::WithoutItem => "Without a statement item".to_owned(),
        RowName::Total(class) => total(*class),
        RowName::Whole(StatementKind::BalanceSheet) => {
            "Assets less liabilities and equity".to_owned()
        }
        RowName::Whole(StatementKind::IncomeStatement) => "Result".to_owned(),
        RowName::EarlierResults => EARLIER_RESULTS.to_owned(),
        RowName::ResultOfYear => "Result of the year".to_owned(),
    }
}

/// What a class adds up to.
pub fn total(class: Class) -> String {
    format!("Total {}", class.title().to_lowercase())
}

/// A total on a day.
pub fn tie(name: &RowName, day: Date, style: Style) -> String {
    format!("{}, {}", row(name), style.day(day))
}

/// What a column of a statement is called: `12 months to 31 Jan 2026`.
pub fn column(months: &Months, calendar: FiscalCalendar, style: Style) -> String {
    let end = style.day(calendar.last_day(months.last));
    match months.count() {
        1 => format!("month to {end}"),
        count => format!("{count} months to {end}"),
    }
}

/// What a column of a trial balance is called: `Opening 31 Jan 2026`.
pub fn trial_column(column: &TrialColumn, calendar: FiscalCalendar, style: Style) -> String {
    let day = style.day(calendar.last_day(column.until()));
    format!("{} {day}", column.figure.words())
}

/// What a row of a trial balance is called.
pub fn trial_row(row: &TrialLine) -> &str {
    if row.account.is_none() { EARLIER_RESULTS } else { &row.name }
}
