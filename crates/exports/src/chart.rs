//! A chart, written so that it is read back the same.

use crate::form::{Form, FormColumn};
use zf_core::chart::{Account, Chart};
use zf_core::code::Interval;
use zf_core::file_kind::FileKind;
use zf_intake::columns::Column;
use zf_sheets::Table;

/// A row of a chart, with how others name its heading and whether its own code is written.
#[derive(Clone, Copy, Debug)]
pub struct ChartRow<'a> {
    /// The account, heading or sum line.
    pub account: &'a Account,
    /// The code of the heading it stands under, or its name where that has none.
    pub heading: &'a str,
    /// Whether its code is written: one that was only proposed may be left out.
    pub has_code: bool,
}

type Write = fn(&ChartRow<'_>) -> String;

/// The columns of a chart.
pub const FORM: Form<Write> = Form {
    kind: FileKind::Chart,
    columns: &[
        FormColumn {
            column: Column::Code,
            about: "The code, once in the file. Leading zeros count.",
            examples: &["1000", "1010"],
            write: |row| if row.has_code { row.account.code.to_string() } else { String::new() },
        },
        FormColumn {
            column: Column::Name,
            about: "The name of the account.",
            examples: &["Cash and bank", "Bank, day to day"],
            write: |row| row.account.name.clone(),
        },
        FormColumn {
            column: Column::Kind,
            about: "account, heading or sum line; an account when empty.",
            examples: &["heading", "account"],
            write: |row| row.account.kind.words().to_owned(),
        },
        FormColumn {
            column: Column::Class,
            about: "asset, liability, equity, income or expense; empty to take the heading’s.",
            examples: &["asset", "asset"],
            write: |row| row.account.class.words().to_owned(),
        },
        FormColumn {
            column: Column::Section,
            about: "The statement item, as in IAS 1; may be empty.",
            examples: &["", "cash and cash equivalents"],
            write: |row| {
                row.account.caption.as_ref().map_or_else(String::new, |item| item.name.clone())
            },
        },
        FormColumn {
            column: Column::Parent,
            about: "The code of the heading it stands under.",
            examples: &["", "1000"],
            write: |row| row.heading.to_owned(),
        },
        FormColumn {
            column: Column::Role,
            about: "bank, receivables, payables, inventory, tax, retained earnings, opening difference or suspense, \
                    where the books rely on it.",
            examples: &["", "bank"],
            write: |row| row.account.role.map_or_else(String::new, |role| role.words().to_owned()),
        },
        FormColumn {
            column: Column::Contra,
            about: "yes when it is shown as a deduction from another account.",
            examples: &[],
            write: |row| if row.account.contra { "yes" } else { "" }.to_owned(),
        },
        FormColumn {
            column: Column::Currency,
            about: "The one currency it may hold, in three letters of ISO 4217.",
            examples: &["", "GBP"],
            write: |row| {
                row.account.currency.map_or_else(String::new, |currency| currency.to_string())
            },
        },
        FormColumn {
            column: Column::Description,
            about: "What belongs on the account.",
            examples: &["", "The account that bills are paid from."],
            write: |row| row.account.description.clone(),
        },
        FormColumn {
            column: Column::Tax,
            about: "The tax code that new lines start with.",
            examples: &[],
            write: |row| row.account.tax_code.clone().unwrap_or_default(),
        },
        FormColumn {
            column: Column::Intervals,
            about: "The codes that a sum line adds up, as 1000 to 1999, 2500.",
            examples: &[],
            write: |row| Interval::format_list(&row.account.intervals),
        },
        FormColumn {
            column: Column::Status,
            about: "active, deactivated or archived; active when empty.",
            examples: &["", "active"],
            write: |row| row.account.status.words().to_owned(),
        },
        FormColumn {
            column: Column::StatusFrom,
            about: "The day from which it is deactivated or archived.",
            examples: &[],
            write: |row| row.account.status_from.map_or_else(String::new, |day| day.to_string()),
        },
    ],
};

/// The rows of a chart in the order of its outline, with codes that were only proposed or without them; a heading
/// without a code is named by its name then.
pub fn rows(chart: &Chart, proposed: bool) -> Vec<Vec<String>> {
    let has_code = |account: &Account| proposed || !account.code_proposed;
    let row = |(account, _): (&Account, usize)| {
        let above = account.parent.and_then(|id| chart.get(id));
        let heading = above.map_or("", |above| match has_code(above) {
            true => above.code.as_str(),
            false => &above.name,
        });
        let row = ChartRow { account, heading, has_code: has_code(account) };
        FORM.row(|write| write(&row))
    };
    chart.outline().into_iter().map(row).collect()
}

/// The chart as a table.
pub fn table(chart: &Chart, proposed: bool) -> Table {
    Table::new("Chart of accounts", FORM.headed(), rows(chart, proposed))
}
