//! How a chart is written, so that it is read back the same.

use crate::columns::Column;
use zf_core::chart::Account;
use zf_core::code::Interval;

/// The columns of a chart, in the order in which they are written out.
pub const COLUMNS: &[Column] = &[
    Column::Code,
    Column::Name,
    Column::Kind,
    Column::Class,
    Column::Section,
    Column::Parent,
    Column::Role,
    Column::Contra,
    Column::Currency,
    Column::Description,
    Column::Tax,
    Column::Intervals,
    Column::Status,
    Column::StatusFrom,
];

/// The row that describes an account in a file, so that [`read`] reads the same account back.
pub fn write_row(account: &Account, parent_code: &str) -> Vec<String> {
    let text = |t: &str| t.to_owned();
    vec![
        account.code.to_string(),
        account.name.clone(),
        text(account.kind.words()),
        text(account.class.words()),
        account.caption.as_ref().map_or(String::new(), |caption| caption.name.clone()),
        text(parent_code),
        account.role.map_or(String::new(), |r| text(r.words())),
        text(if account.contra { "yes" } else { "" }),
        account.currency.map_or(String::new(), |c| c.to_string()),
        account.description.clone(),
        account.tax_code.clone().unwrap_or_default(),
        Interval::format_list(&account.intervals),
        text(account.status.words()),
        account.status_from.map_or(String::new(), |day| day.to_string()),
    ]
}
