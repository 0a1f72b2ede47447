//! Where-used lists: what names the accounts outside the journal.

use crate::form::{Form, FormColumn};
use time::Date;
use zf_core::chart::{Account, Chart};
use zf_core::code::Interval;
use zf_core::file_kind::FileKind;
use zf_core::money::Currency;
use zf_core::usage::{Named, Use};
use zf_intake::columns::Column;
use zf_sheets::Table;

/// A use, with the account that it names as it is now.
#[derive(Clone, Debug)]
pub struct UseRow<'a> {
    /// What names it.
    pub of: &'a Use,
    /// Whom it names; none when it is about stretches of codes.
    pub account: Option<&'a Account>,
    /// The base currency.
    pub currency: Currency,
}

type Write = fn(&UseRow<'_>) -> String;

/// The columns of a where-used list.
pub const FORM: Form<Write> = Form {
    kind: FileKind::Usage,
    columns: &[
        FormColumn {
            column: Column::Code,
            about: "The account; or the codes that a line of a report adds up, as 1000 to 1999, 2500.",
            examples: &["5010", "5000 to 5099"],
            write: |row| match &row.of.names {
                Named::Account(_) => row.account.map_or_else(String::new, |a| a.code.to_string()),
                Named::Stretches(intervals) => Interval::format_list(intervals),
            },
        },
        FormColumn {
            column: Column::Name,
            about: "The name of the account, for the eye only.",
            examples: &["Coal"],
            write: |row| row.account.map_or_else(String::new, |account| account.name.clone()),
        },
        FormColumn {
            column: Column::UsedBy,
            about: "What names the account: bank rule, budget line, item …",
            examples: &["budget line", "report layout"],
            write: |row| row.of.used_by.clone(),
        },
        FormColumn {
            column: Column::Label,
            about: "What that thing is called.",
            examples: &["Coal 2026", "Board, fuel"],
            write: |row| row.of.label.clone(),
        },
        FormColumn {
            column: Column::Month,
            about: "The month of a budget line, as 2026-03.",
            examples: &["2026-03"],
            write: |row| row.of.budget.map_or_else(String::new, |(day, _)| month(day)),
        },
        FormColumn {
            column: Column::Amount,
            about: "What is budgeted for the month; costs are positive. Only of budget lines.",
            examples: &["1500.00"],
            write: |row| {
                let budget = row.of.budget;
                budget.map_or_else(String::new, |(_, amount)| row.currency.format(amount.into()))
            },
        },
    ],
};

fn month(day: Date) -> String {
    format!("{}-{:02}", day.year(), u8::from(day.month()))
}

/// A where-used list. What names an account that is merged is listed with whom it went to; what names one that is
/// gone is left out.
pub fn table(chart: &Chart, uses: &[Use], currency: Currency) -> Table {
    let rows = uses.iter().filter_map(|of| {
        let account = match of.names {
            Named::Account(account) => Some(chart.holder(account)?),
            Named::Stretches(_) => None,
        };
        Some(FORM.row(|write| write(&UseRow { of, account, currency })))
    });
    Table::new("Where used", FORM.headed(), rows.collect())
}
