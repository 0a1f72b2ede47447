//! The chart, the trial balance and the where-used list as tables.

use super::{headed, table};
use time::Date;
use zf_core::chart::{Account, Chart};
use zf_core::code::Interval;
use zf_core::file_kind::FileKind;
use zf_core::money::Currency;
use zf_core::statement::{LineKind, Structure};
use zf_core::today::Today;
use zf_core::trial_balance::{TrialBalance, reported};
use zf_core::usage::{Named, Use};
use zf_intake::chart::write_row;
use zf_intake::columns::Column;
use zf_intake::lines::HEADINGS;
use zf_intake::template::columns;
use zf_sheets::{ColumnKind, Table};

/// A trial balance is in base currency.
const TRIAL_BALANCE: [Column; 4] = [Column::Code, Column::Name, Column::Debit, Column::Credit];

fn of(kind: FileKind, name: &str, rows: Vec<Vec<String>>) -> Table {
    Table::new(name, headed(kind, columns(kind)), rows)
}

/// The chart, with codes that were only proposed or without them; a heading without a code is named by
/// its name then.
pub(crate) fn chart(chart: &Chart, proposed: bool) -> Table {
    let rows = chart.outline().into_iter().map(|(account, _)| {
        let parent = account.parent.and_then(|id| chart.get(id));
        let given = |account: &Account| proposed || !account.code_proposed;
        let above = |parent: &Account| {
            if given(parent) { parent.code.to_string() } else { parent.name.clone() }
        };
        let mut row = write_row(account, &parent.map_or_else(String::new, above));
        if let Some(code) = row.first_mut().filter(|_| !given(account)) {
            code.clear();
        }
        row
    });
    of(FileKind::Chart, "Chart of accounts", rows.collect())
}

/// The lines of the statements, to be edited and brought in again.
pub(crate) fn lines(structure: &Structure) -> Table {
    let rows = structure.lines().filter(|line| line.kind == LineKind::Line).map(|line| {
        let retired = if line.retired { "yes" } else { "" };
        vec![line.class.title().to_owned(), line.name.clone(), String::new(), retired.to_owned()]
    });
    table("Lines", &HEADINGS.map(|heading| (heading, ColumnKind::Text)), rows.collect())
}

pub(crate) fn trial_balance(today: &Today, trial: &TrialBalance) -> Table {
    let rows = reported(trial, &today.chart).into_iter().map(|(account, balance)| {
        let side = |amount: i128| match amount {
            1.. => today.currency.format(amount),
            _ => String::new(),
        };
        let (code, name) = match account {
            Some(account) => (account.code.to_string(), account.name.clone()),
            None => (String::new(), "Results of earlier years".to_owned()),
        };
        vec![code, name, side(balance), side(-balance)]
    });
    let columns = headed(FileKind::Balances, &TRIAL_BALANCE);
    Table::new("Trial balance", columns, rows.collect())
}

pub(crate) fn usage(chart: &Chart, uses: Vec<Use>, currency: Currency) -> Table {
    let rows = uses.into_iter().filter_map(|one| {
        let (code, name) = match one.names {
            Named::Account(account) => {
                let Account { code, name, .. } = chart.holder(account)?;
                (code.to_string(), name.clone())
            }
            Named::Stretches(intervals) => (Interval::format_list(&intervals), String::new()),
        };
        let month = |day: Date| format!("{}-{:02}", day.year(), u8::from(day.month()));
        let (month, amount) = one.budget.map_or_else(Default::default, |(day, amount)| {
            (month(day), currency.format(amount.into()))
        });
        Some(vec![code, name, one.used_by, one.label, month, amount])
    });
    of(FileKind::Usage, "Where used", rows.collect())
}
