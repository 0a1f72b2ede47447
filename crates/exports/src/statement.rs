//! A statement or a trial balance as a table, with the accounts under each line and totals that add up what they are made of.

use std::collections::BTreeMap;
use zf_core::reports::reading::Read;
use zf_core::reports::statement::{Row, RowKind, Statement, StatementKind};
use zf_core::reports::trial::Trial;
use zf_core::statement::Operand;
use zf_core::today::Today;
use zf_phrases::{Style, reports};
use zf_sheets::{ColumnKind, Table, Term};

/// By how much the name of a row stands in for each level.
const INDENT: &str = "    ";

/// A statement with its accounts, amounts as a person reads them.
pub fn table(statement: &Statement, read: &Read<'_>) -> Table {
    let today = read.today();
    let amounts = read.columns().iter().map(|months| {
        (reports::column(months, today.calendar, Style::default()), ColumnKind::Money)
    });
    let names = ["Code", "Line"].map(|name| (name.to_owned(), ColumnKind::Text));
    let mut table = Table {
        name: statement.kind.words().to_owned(),
        columns: names.into_iter().chain(amounts).collect(),
        ..Table::default()
    };
    let mut places = Vec::new();
    for row in &statement.rows {
        let sign = i128::from(row.shown_as);
        let written = |code: &str, level: usize, name: &str, amounts: Vec<String>| {
            let name = format!("{}{name}", INDENT.repeat(level));
            [code.to_owned(), name].into_iter().chain(amounts).collect::<Vec<_>>()
        };
        let cells = |code: &str, level: usize, name: &str, amounts: &[i128]| {
            let amounts = amounts.iter().map(|amount| today.currency.format(sign * amount));
            written(code, level, name, amounts.collect())
        };
        let at = table.rows.len();
        places.push(at);
        let name = reports::row(&row.name);
        table.rows.push(match row.kind {
            RowKind::Ratio => {
                let shares =
                    row.ratios.iter().map(|ratio| ratio.map_or_else(String::new, per_cent));
                written("", row.level, &name, shares.collect())
            }
            _ => cells("", row.level, &name, &row.amounts),
        });
        for account in &row.accounts {
            let name = &account.name;
            table.rows.push(cells(&account.code, row.level + 1, name, &account.amounts));
        }
        if !row.accounts.is_empty() {
            let rows = at + 1..=at + row.accounts.len();
            table.sums.insert(at, vec![Term { rows, taken_off: false }]);
        }
    }
    table.sums.extend(sums(&statement.rows, &places, read));
    table
}

/// A trial balance, class by class, with totals that add up what stands above them.
pub fn trial_balance(trial: &Trial, today: &Today) -> Table {
    let names = ["Code", "Account", "Class"].map(|name| (name.to_owned(), ColumnKind::Text));
    let amounts = trial.columns.iter().map(|column| {
        let name = reports::trial_column(column, today.calendar, Style::default());
        (name, ColumnKind::Money)
    });
    let mut table = Table {
        name: "Trial balance".to_owned(),
        columns: names.into_iter().chain(amounts).collect(),
        ..Table::default()
    };
    let written = |code: &str, name: &str, class: &str, amounts: &[i128]| {
        let amounts = amounts.iter().map(|amount| today.currency.format(*amount));
        [code, name, class].map(str::to_owned).into_iter().chain(amounts).collect::<Vec<_>>()
    };
    let mut totals = Vec::new();
    for (class, sums) in &trial.classes {
        let first = table.rows.len();
        for row in trial.rows.iter().filter(|row| row.class == *class) {
            table.rows.push(written(
                &row.code,
                reports::trial_row(row),
                class.words(),
                &row.amounts,
            ));
        }
        let at = table.rows.len();
        if at > first {
            table.rows.push(written("", &reports::total(*class), "", sums));
            table.sums.insert(at, vec![Term { rows: first..=at - 1, taken_off: false }]);
            totals.push(Term { rows: at..=at, taken_off: false });
        }
    }
    table.sums.insert(table.rows.len(), totals);
    table.rows.push(written("", "All accounts", "", &trial.totals));
    table
}

/// Tenths of a per cent, in words.
fn per_cent(tenths: i64) -> String {
    let sign = if tenths < 0 { "-" } else { "" };
    let size = tenths.unsigned_abs();
    format!("{sign}{}.{} %", size / 10, size % 10)
}

/// What headings, totals and subtotals add up, by the places that rows have in the table.
fn sums(rows: &[Row], places: &[usize], read: &Read<'_>) -> BTreeMap<usize, Vec<Term>> {
    let mut sums = BTreeMap::new();
    for (at, row) in rows.iter().enumerate() {
        let terms = match (row.kind, row.class) {
            (RowKind::Heading, _) => {
                let below =
                    rows[at + 1..].iter().take_while(|below| below.level > row.level).count();
                lines(&rows[..=at + below], at + 1, places, |_| true)
            }
            (RowKind::Total, Some(class)) => {
                lines(rows, 0, places, |other| other.class == Some(class))
            }
            (RowKind::Total, None) => totals(rows, places, row.shown_as),
            (RowKind::Subtotal, _) => calculated(row, rows, places, read),
            (RowKind::Item | RowKind::Result | RowKind::Ratio, _) => continue,
        };
        if !terms.is_empty() {
            sums.insert(places[at], terms);
        }
    }
    sums
}

/// The rows that a subtotal adds up and takes off; none when one of them stands on another statement.
fn calculated(row: &Row, rows: &[Row], places: &[usize], read: &Read<'_>) -> Vec<Term> {
    let structure = read.chart().structure();
    let Some(item) = row.item.and_then(|item| structure.item(item)) else { return Vec::new() };
    let row_of = |of: Operand| {
        rows.iter().position(|row| match of {
            Operand::Class(class) => row.kind == RowKind::Total && row.class == Some(class),
            Operand::Item(id) => row.item == Some(id),
        })
    };
    let kind = StatementKind::of(item.class);
    let is_here = |of: Operand| match of {
        Operand::Class(class) => StatementKind::of(class) == kind,
        Operand::Item(id) => {
            structure.item(id).is_some_and(|item| StatementKind::of(item.class) == kind)
        }
    };
    if !item.terms.iter().all(|term| is_here(term.of)) {
        return Vec::new();
    }
    // An item that nobody has amounts on is not there, and adds nothing.
    let term = |term: &zf_core::statement::Term| {
        let at = places[row_of(term.of)?];
        Some(Term { rows: at..=at, taken_off: term.taken_off })
    };
    item.terms.iter().filter_map(term).collect()
}

/// The lines and results from one row on that are to be added up.
fn lines(rows: &[Row], from: usize, places: &[usize], wanted: impl Fn(&Row) -> bool) -> Vec<Term> {
    let is_line = |row: &Row| matches!(row.kind, RowKind::Item | RowKind::Result);
    let found = (from..rows.len()).filter(|at| is_line(&rows[*at]) && wanted(&rows[*at]));
    found.map(|at| Term { rows: places[at]..=places[at], taken_off: false }).collect()
}

/// The totals of the classes, of which those that are shown the other way round are taken off.
fn totals(rows: &[Row], places: &[usize], shown_as: i8) -> Vec<Term> {
    let of_class = |at: &usize| rows[*at].kind == RowKind::Total && rows[*at].class.is_some();
    let term = |at: usize| {
        let taken_off = rows[at].shown_as != shown_as;
        Term { rows: places[at]..=places[at], taken_off }
    };
    (0..rows.len()).filter(of_class).map(term).collect()
}
