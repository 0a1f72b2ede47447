//! The layouts in which practice hands a journal over: each with a million lines from CSV, looked at and stored,
//! against COPY of the same rows, with the most memory the process took.

use crate::import::{self, ACCOUNTS, LINES, Said};
use crate::worker::Worker;
use crate::{Measured, Peak, large};
use std::collections::BTreeMap;
use zf_core::ids::ImportId;
use zf_sheets::{ColumnKind, Format, Table};

/// A layout: what it is called, its headings, and how entries become its rows.
pub(crate) struct Layout {
    name: &'static str,
    columns: &'static [&'static str],
    rows: fn(&[Said]) -> Vec<Vec<String>>,
    /// How many lines an entry is stored as.
    lines: usize,
    /// How many rows of the file it takes, where that is more.
    rows_of_entry: usize,
    /// What is answered: about what, and what.
    answers: &'static [(&'static str, &'static str)],
}

pub(crate) const LAYOUTS: [Layout; 7] = [
    Layout {
        name: "grouped by account",
        columns: &["Date", "Entry no", "Details", "Debit", "Credit", "Balance"],
        rows: grouped,
        lines: 2,
        rows_of_entry: 2,
        answers: &[],
    },
    Layout {
        name: "two accounts in a row",
        columns: &["Date", "No", "Debit account", "Credit account", "Amount", "Details"],
        rows: pairs,
        lines: 2,
        rows_of_entry: 1,
        answers: &[],
    },
    Layout {
        name: "a side beside the amount",
        columns: &["Voucher", "Date", "Account", "Amount", "Details"],
        rows: sides,
        lines: 2,
        rows_of_entry: 2,
        answers: &[],
    },
    Layout {
        name: "heads above their lines",
        columns: &["Entry", "Date", "Account", "Debit", "Credit", "Details"],
        rows: heads,
        lines: 2,
        rows_of_entry: 3,
        answers: &[],
    },
    Layout {
        name: "blank cells for the same as above",
        columns: &["Entry", "Date", "Account", "Debit", "Credit", "Details"],
        rows: blanks,
        lines: 2,
        rows_of_entry: 2,
        answers: &[],
    },
    Layout {
        name: "months for days, code and name in one cell",
        columns: &["Entry", "Period", "Account", "Debit", "Credit", "Details"],
        rows: months,
        lines: 2,
        rows_of_entry: 2,
        answers: &[],
    },
    Layout {
        name: "net, tax and gross",
        columns: &["Date", "No", "Account", "Counter account", "Net", "Tax", "Gross"],
        rows: taxed,
        lines: 3,
        rows_of_entry: 1,
        answers: &[("tax_account", "100007")],
    },
];

impl Layout {
    /// A layout with its time and memory.
    pub(crate) async fn measure(&self) -> anyhow::Result<(Measured, Peak)> {
        let books = large::books(ACCOUNTS, ACCOUNTS, 0).await?;
        let entries = LINES / self.lines.max(self.rows_of_entry);
        let content = self.table(entries).write(Format::Csv)?;
        let id = import::upload(&books, "journal.csv", &content).await?;
        drop(content);
        if !self.answers.is_empty() {
            let answers: BTreeMap<_, _> = self.answers.iter().copied().collect();
            let choices = serde_json::json!({ "answers": answers });
            books.store.choose(books.member, ImportId(id), &choices).await?;
        }
        let worker = Worker::start(&books)?;
        let lines = entries * self.lines;
        let (ours, peak) = import::bring(&books, id, &worker, lines).await?;
        let copied = import::copy(&books, lines).await?;
        Ok((
            Measured::new(self.name, ours, "COPY of the same rows", copied, 0.4),
            Peak::new(self.name, peak, 200),
        ))
    }

    fn table(&self, entries: usize) -> Table {
        let said: Vec<Said> = (0..entries).map(|n| Said::of(n, entries)).collect();
        let columns = self.columns.iter().map(|name| ((*name).to_owned(), ColumnKind::Text));
        let rows = (self.rows)(&said).into_iter().map(|mut row| {
            row.resize(self.columns.len(), String::new());
            row
        });
        Table::new("Journal", columns.collect(), rows.collect())
    }
}

fn row<const N: usize>(cells: [&str; N]) -> Vec<String> {
    cells.map(str::to_owned).to_vec()
}

/// An amount in minor units as files write it.
fn money(minor: i64) -> String {
    let sign = if minor < 0 { "-" } else { "" };
    format!("{sign}{}.{:02}", minor.abs() / 100, minor.abs() % 100)
}

fn account(at: usize) -> String {
    format!("{} Account {at}", import::code(at))
}

/// An amount under debit, or under credit.
fn under(side: usize, amount: i64) -> [String; 2] {
    let mut columns = [String::new(), String::new()];
    columns[side] = money(amount);
    columns
}

fn grouped(said: &[Said]) -> Vec<Vec<String>> {
    let mut of: Vec<Vec<(usize, usize)>> = vec![Vec::new(); ACCOUNTS];
    for (n, one) in said.iter().enumerate() {
        one.accounts.iter().enumerate().for_each(|(side, at)| of[*at].push((n, side)));
    }
    let mut rows = Vec::new();
    for (at, lines) in of.iter().enumerate() {
        rows.push(row([&account(at)]));
        let mut balance = 0;
        for (n, side) in lines {
            let one = &said[*n];
            balance += if *side == 0 { one.amount } else { -one.amount };
            let [debit, credit] = under(*side, one.amount);
            let details = format!("Delivery {n}");
            rows.push(row([&one.day, &one.number, &details, &debit, &credit, &money(balance)]));
        }
    }
    rows
}

fn pairs(said: &[Said]) -> Vec<Vec<String>> {
    let one = |one: &Said| {
        let [debit, credit] = one.accounts.map(import::code);
        row([&one.day, &one.number, &debit, &credit, &money(one.amount), "Delivery"])
    };
    said.iter().map(one).collect()
}

/// Two rows for each entry: the place of the account with its side, and the entry.
fn lines(said: &[Said], line: impl Fn(&Said, usize, usize) -> Vec<String>) -> Vec<Vec<String>> {
    let both = |one: &Said| [0, 1].map(|side| line(one, side, one.accounts[side]));
    said.iter().flat_map(both).collect()
}

fn sides(said: &[Said]) -> Vec<Vec<String>> {
    lines(said, |one, side, at| {
        let amount = format!("{} {}", money(one.amount), ["Dr", "Cr"][side]);
        row([&one.number, &one.day, &import::code(at), &amount, "Delivery"])
    })
}

fn heads(said: &[Said]) -> Vec<Vec<String>> {
    let one = |one: &Said| {
        let line = |side: usize| {
            let [debit, credit] = under(side, one.amount);
            row(["", "", &import::code(one.accounts[side]), &debit, &credit, "Delivery"])
        };
        [row([&one.number, &one.day]), line(0), line(1)]
    };
    said.iter().flat_map(one).collect()
}

fn blanks(said: &[Said]) -> Vec<Vec<String>> {
    lines(said, |one, side, at| {
        let [debit, credit] = under(side, one.amount);
        let [number, day] = if side == 0 { [&*one.number, &*one.day] } else { [""; 2] };
        row([number, day, &import::code(at), &debit, &credit, "Delivery"])
    })
}

fn months(said: &[Said]) -> Vec<Vec<String>> {
    lines(said, |one, side, at| {
        let [debit, credit] = under(side, one.amount);
        row([&one.number, &one.day[..7], &account(at), &debit, &credit, "Delivery"])
    })
}

fn taxed(said: &[Said]) -> Vec<Vec<String>> {
    let one = |one: &Said| {
        let tax = one.amount / 5;
        let [net, tax, gross] = [one.amount, tax, one.amount + tax].map(money);
        let [account, counter] = one.accounts.map(import::code);
        row([&one.day, &one.number, &account, &counter, &net, &tax, &gross])
    };
    said.iter().map(one).collect()
}
