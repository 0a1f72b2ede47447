//! Larkfell Valley Railway: made-up books of a heritage steam line, the same for the same seed, with
//! planted problems and their answer key. All names are invented.

mod expand;
mod journal;
mod key;
mod row;

pub use key::AnswerKey;
pub use row::{Row, RowKind};

use std::collections::HashMap;
use zf_sheets::{ColumnKind, Table};

/// The name of the demo company.
pub const NAME: &str = "Larkfell Valley Railway";

/// The seed of the demo books.
pub const SEED: u64 = 1874;

/// The chart, journal and where-used list as a person's own files would have them.
#[derive(Debug)]
pub struct Scenario {
    /// The chart of accounts.
    pub chart: Table,
    /// The journal.
    pub journal: Table,
    /// What names the accounts elsewhere.
    pub usage: Table,
    /// What is planted.
    pub key: AnswerKey,
}

impl Scenario {
    /// Makes the books of a seed.
    pub fn new(seed: u64) -> Self {
        let rows = rows();
        Self {
            chart: chart_table(&rows),
            journal: journal::table(&rows, seed),
            usage: usage_table(&rows),
            key: AnswerKey::of(&rows),
        }
    }

    /// The files by name, in the order in which they are brought in.
    pub fn files(&self) -> [(&'static str, &Table); 3] {
        [("chart", &self.chart), ("journal", &self.journal), ("where-used", &self.usage)]
    }
}

/// All rows of the chart by code.
fn rows() -> Vec<Row> {
    let text = include_str!("chart.txt");
    let written = text.lines().filter(|line| !line.starts_with('#')).filter_map(Row::parse);
    let mut rows: Vec<Row> = written.chain(expand::rows()).collect();
    rows.sort_by(|a, b| a.code.cmp(&b.code));
    rows
}

fn table(name: &str, columns: &[(&str, ColumnKind)], rows: Vec<Vec<String>>) -> Table {
    let columns = columns.iter().map(|(title, kind)| ((*title).to_owned(), *kind)).collect();
    Table::new(name, columns, rows)
}

fn chart_table(rows: &[Row]) -> Table {
    const COLUMNS: [(&str, ColumnKind); 12] = [
        ("Account code", ColumnKind::Text),
        ("Account name", ColumnKind::Text),
        ("Row kind", ColumnKind::Text),
        ("Class", ColumnKind::Text),
        ("Section", ColumnKind::Text),
        ("Heading", ColumnKind::Text),
        ("Control role", ColumnKind::Text),
        ("Contra", ColumnKind::Text),
        ("Currency", ColumnKind::Text),
        ("Tax code", ColumnKind::Text),
        ("Adds up", ColumnKind::Text),
        ("Asked for by", ColumnKind::Text),
    ];
    let details: HashMap<&str, &str> = rows
        .iter()
        .filter(|row| row.kind == RowKind::Heading)
        .map(|row| (row.code.as_str(), row.detail.as_str()))
        .collect();
    let mut under = "";
    let written = rows.iter().enumerate().map(|(n, row)| {
        let heading = match row.kind {
            RowKind::Heading => {
                under = row.code.as_str();
                ""
            }
            _ => row.get("parent").unwrap_or(under),
        };
        let detail = details.get(heading).copied().unwrap_or(&row.detail);
        let (class, section) = detail.split_once(' ').unwrap_or((detail, ""));
        let section =
            if row.kind == RowKind::Account { row.get("section").unwrap_or(section) } else { "" };
        let class = row.get("class").unwrap_or(class);
        let kind = match row.kind {
            RowKind::Heading => "heading",
            RowKind::Account => "account",
            RowKind::Sum => "sum line",
        };
        let initials = ["HB", "MT", "", "RW", "", "JP"][n % 6];
        [
            row.code.as_str(),
            row.name.as_str(),
            kind,
            class,
            section.replace('_', " ").as_str(),
            heading,
            row.get("role").unwrap_or_default().replace('_', " ").as_str(),
            row.get("contra").map_or("", |_| "yes"),
            row.get("currency").unwrap_or_default(),
            row.get("tax").unwrap_or_default(),
            if row.kind == RowKind::Sum { &row.detail } else { "" },
            initials,
        ]
        .map(str::to_owned)
        .to_vec()
    });
    let written = written.collect();
    table("Chart of accounts", &COLUMNS, written)
}

/// Lines of the board's report, each with the codes that it adds up.
const REPORT_LINES: [(&str, &str); 4] = [
    ("Fares", "4000 to 4099"),
    ("Cafés and catering", "4200 to 4299"),
    ("Coal and stores", "5000 to 5049"),
    ("Cost of the cafés", "5200 to 5299"),
];

/// Bank rules for what is bought often, budget lines for departments, items for stocks, and the
/// board's report.
fn usage_table(rows: &[Row]) -> Table {
    const COLUMNS: [(&str, ColumnKind); 5] = [
        ("Account code", ColumnKind::Text),
        ("Used by", ColumnKind::Text),
        ("Called", ColumnKind::Text),
        ("Month", ColumnKind::Text),
        ("Amount", ColumnKind::Money),
    ];
    let accounts = rows.iter().filter(|row| row.kind == RowKind::Account);
    let uses = accounts.filter(|row| row.get("never").is_none()).flat_map(|row| {
        let living = row.get("to").is_none_or(|to| to >= "2026-01");
        let plain = |by: &str, called: String| {
            vec![row.code.clone(), by.to_owned(), called, String::new(), String::new()]
        };
        let bank_rule = (row.trade == "purchase" && row.rate >= 3.0)
            .then(|| plain("bank rule", journal::payees_of(row)[0].to_owned()));
        let item = (row.trade == "stock").then(|| plain("stock item group", row.name.clone()));
        let budgeted = row.get("department").is_some() && living;
        let months = (1..=12).filter(move |_| budgeted).map(|month| {
            let amount = format!("{:.2}", (row.rate * row.amount / 10.0).round() * 10.0);
            let called = format!("{} 2026", row.name);
            vec![
                row.code.clone(),
                "budget line".to_owned(),
                called,
                format!("2026-{month:02}"),
                amount,
            ]
        });
        [bank_rule, item].into_iter().flatten().chain(months).collect::<Vec<_>>()
    });
    let reported = REPORT_LINES.map(|(line, codes)| {
        let blank = String::new;
        vec![
            codes.to_owned(),
            "report layout".to_owned(),
            format!("Board, {line}"),
            blank(),
            blank(),
        ]
    });
    table("Where used", &COLUMNS, uses.chain(reported).collect())
}
