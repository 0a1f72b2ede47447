//! A row of the scenario's chart: what is imported, how it is used, and what is planted in it.

use std::collections::BTreeMap;

/// What a row of the chart is.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum RowKind {
    /// A heading.
    Heading,
    /// A posting account.
    Account,
    /// A sum line.
    Sum,
}

/// One row.
#[derive(Clone, Debug)]
pub struct Row {
    /// Its kind.
    pub kind: RowKind,
    /// Its code, four digits.
    pub code: String,
    /// Its name.
    pub name: String,
    /// Of headings class and section, of sum lines the intervals.
    pub detail: String,
    /// How entries on it come about.
    pub trade: String,
    /// Entries a month.
    pub rate: f64,
    /// The usual amount in pounds.
    pub amount: f64,
    /// Everything else; see the head of chart.txt.
    pub flags: BTreeMap<String, String>,
}

impl Row {
    fn new(kind: RowKind, code: impl ToString, name: &str, detail: String) -> Self {
        Self {
            kind,
            code: code.to_string(),
            name: name.to_owned(),
            detail,
            trade: String::new(),
            rate: 0.0,
            amount: 0.0,
            flags: BTreeMap::new(),
        }
    }

    pub(crate) fn heading(code: u32, name: &str, class: &str, section: &str) -> Self {
        Self::new(RowKind::Heading, code, name, format!("{class} {section}"))
    }

    pub(crate) fn sum(code: u32, name: &str, intervals: &str) -> Self {
        Self::new(RowKind::Sum, code, name, intervals.to_owned())
    }

    pub(crate) fn account(code: u32, name: &str, trade: &str, rate: f64, amount: f64) -> Self {
        let row = Self::new(RowKind::Account, code, name, String::new());
        Self { trade: trade.to_owned(), rate, amount, ..row }
    }

    pub(crate) fn flag(&mut self, key: &str, value: &str) {
        self.flags.insert(key.to_owned(), value.to_owned());
    }

    /// The value of a flag.
    pub fn get(&self, key: &str) -> Option<&str> {
        self.flags.get(key).map(String::as_str)
    }

    /// Reads a line of chart.txt.
    pub(crate) fn parse(line: &str) -> Option<Self> {
        let (kind, rest) = line.split_once(' ')?;
        let (code, rest) = rest.split_once(' ')?;
        let mut parts = rest.split('|').map(str::trim);
        let name = parts.next()?;
        let detail = parts.next()?;
        let kind = match kind {
            "H" => RowKind::Heading,
            "A" => RowKind::Account,
            "S" => RowKind::Sum,
            _ => return None,
        };
        let mut row = Self::new(kind, code, name, detail.to_owned());
        if kind == RowKind::Account {
            let mut words = detail.split(' ');
            row.trade = words.next()?.to_owned();
            row.rate = words.next()?.parse().ok()?;
            row.amount = words.next()?.parse().ok()?;
        }
        for flag in parts.next().unwrap_or_default().split_whitespace() {
            let (key, value) = flag.split_once('=').unwrap_or((flag, ""));
            row.flag(key, value);
        }
        Some(row)
    }
}
