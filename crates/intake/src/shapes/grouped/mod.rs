//! A ledger grouped by account: a row that names an account, its lines below it, opening and closing rows and
//! totals. It is read as a journal in which each line bears the account that stands above it.

mod entries;
mod row;

use super::shaped::{Shaped, put, put_native, written};
use crate::cause::Cause;
use crate::columns::Column;
use crate::layout::{Layout, SHOWN};
use crate::period_text::When;
use crate::periods::when;
use crate::question::{About, Answer, Asks, Gives, Means, Question};
use crate::reading::Reading;
use crate::row_kind::RowKind;
use crate::rows::{Rows, Walk};
use crate::{RawRow, Warning};
use entries::{EntryBy, Seen};
use row::{Above, Is, Kinds};
use std::borrow::Cow;
use std::collections::BTreeMap;
use std::sync::Arc;
use zf_core::money::Currency;

/// The number of the entry of opening balances.
const OPENING: &str = "Opening";

/// How many in a hundred lines may name their account themselves, for it to be told from above.
const NAMED: usize = 50;

/// Whether rows are grouped by account: rows that only name one, above lines that do not.
pub(super) fn fits(layout: &Layout, rows: &dyn Rows) -> bool {
    let kinds = Kinds::of(layout);
    if kinds.when.is_none() {
        return false;
    }
    let (mut accounts, mut lines, mut named, mut below) = (0, 0, 0, false);
    for row in rows.start(SHOWN).iter().filter(|row| layout.is_below(row.number)) {
        match kinds.is(row) {
            Is::Account(_) => below = true,
            Is::Line => {
                accounts += usize::from(below);
                below = false;
                lines += 1;
                named += usize::from(kinds.names_account(row));
            }
            _ => {}
        }
    }
    accounts > 0 && named * 100 < NAMED * lines
}

/// Where the columns are put that a ledger lacks as a journal.
#[derive(Clone, Copy, Debug)]
struct Added {
    code: usize,
    name: usize,
    entry: Option<usize>,
    kind: usize,
}

/// Reads a ledger that is grouped by account as a journal, with the columns that it lacks.
pub(super) fn read(reading: &Reading, rows: Box<dyn Rows>) -> Shaped {
    let mut reading = reading.clone();
    // Beside lines that stand under their account a name is that of who was paid.
    reading.layout.mean_instead(Column::Name, Column::Payee);
    let mut layout = reading.layout.clone();
    let first = layout.width(&*rows);
    let kinds = Arc::new(Kinds::of(&layout));
    let numbered = layout.place(Column::Entry).is_some();
    let added = Added {
        code: first,
        name: first + 1,
        kind: first + 2,
        entry: (!numbered).then_some(first + 3),
    };
    let as_entry = reading.answers.get(&About::Openings).map(String::as_str) == Some("entry");
    let mut found = look_over(&kinds, &*rows, &reading, &layout);
    for (column, at) in [
        (Column::Code, Some(added.code)),
        (Column::Name, Some(added.name)),
        (Column::EntryKind, Some(added.kind)),
        (Column::Entry, added.entry),
    ] {
        if let Some(at) = at {
            layout.add_column(column, at);
        }
    }
    let opens = found.openings.accounts > 0;
    if as_entry {
        found.aside.retain(|_, is| *is != RowKind::Opening);
    }
    layout.set_aside(found.aside);
    let question = (opens && !reading.answers.contains_key(&About::Openings))
        .then(|| question(&found.openings, reading.currency));
    let flat = Flat {
        rows,
        kinds,
        added,
        reading,
        by: found.by,
        opens: as_entry.then_some(found.first).flatten(),
    };
    Shaped { rows: Box::new(flat), layout, question, warnings: found.warnings }
}

fn question(openings: &Openings, currency: Currency) -> Question {
    let &Openings { accounts, ref first, balance } = openings;
    Question {
        about: About::Openings,
        asks: Asks::Openings { accounts, first: first.clone(), balance, currency },
        readings: vec![
            Answer::new("aside", Means::OpeningsAside, Gives::FileOnly),
            Answer::new("entry", Means::OpeningEntry, Gives::EntryOnFirstDay),
        ],
        default: Some("aside".to_owned()),
    }
}

/// Accounts that have a balance before their lines.
#[derive(Default)]
struct Openings {
    /// How many there are.
    accounts: usize,
    /// The first of them, as it is called.
    first: String,
    /// What that stands at, in minor units.
    balance: i128,
}

/// What was found in all rows.
#[derive(Default)]
struct Found {
    /// Rows that are no lines, by number.
    aside: BTreeMap<u32, RowKind>,
    openings: Openings,
    by: EntryBy,
    /// The first day or period.
    first: Option<When>,
    warnings: Vec<Warning>,
}

fn look_over(kinds: &Kinds, rows: &dyn Rows, reading: &Reading, layout: &Layout) -> Found {
    let mut found = Found::default();
    let mut seen = Seen::default();
    let mut running = Running::default();
    let mut above = Above::default();
    for row in rows.walk().filter(|row| layout.is_below(row.number) && !row.is_blank()) {
        let is = if layout.heads_again(&row) { Is::Other } else { kinds.is(&row) };
        let aside = match is {
            Is::Line => {
                let amount = reading.signed(&row, reading.currency).unwrap_or(0);
                let when = when(reading, &row);
                let first = found.first.into_iter().chain(when);
                found.first = first.min_by_key(|when| when.order());
                let when = when.map(|when| when.to_string()).unwrap_or_default();
                seen.see(reading, &row, &when, amount);
                running.take(amount, kinds.balance(&row, reading), row.number);
                continue;
            }
            Is::Account(named) => {
                running = Running { off: running.off, ..Running::default() };
                above = named;
                RowKind::Caption
            }
            Is::Opening => {
                let balance = kinds.opening(&row, reading).unwrap_or(0);
                running.opens(balance);
                if balance != 0 {
                    if found.openings.accounts == 0 {
                        let label = format!("{} {}", above.code, above.name);
                        found.openings.first = label.trim().to_owned();
                        found.openings.balance = balance.into();
                    }
                    found.openings.accounts += 1;
                }
                RowKind::Opening
            }
            Is::Total => {
                running.total(&kinds.sides(&row, reading), row.number);
                RowKind::Total
            }
            Is::Other if layout.heads_again(&row) => RowKind::Repeated,
            Is::Other => RowKind::Title,
        };
        found.aside.insert(row.number, aside);
    }
    found.by = seen.best();
    found.warnings = running.off;
    found
}

/// The lines of an account, against the balances and totals that the file has beside them.
#[derive(Default)]
struct Running {
    opening: i64,
    balance: Option<i64>,
    debits: i64,
    credits: i64,
    off: Vec<Warning>,
}

impl Running {
    fn opens(&mut self, balance: i64) {
        self.opening = balance;
        self.balance = Some(balance);
    }

    fn take(&mut self, amount: i64, said: Option<i64>, row: u32) {
        self.debits += amount.max(0);
        self.credits += (-amount).max(0);
        let now = self.balance.unwrap_or(0) + amount;
        let differs = said.is_some_and(|said| said != now && said != -now);
        if differs && self.balance.is_some() {
            self.off.push(Warning { row, cause: Cause::RunningBalanceOff });
        }
        // From here on what the file says counts, so that one slip is said once.
        self.balance = Some(said.filter(|said| differs || *said == now).unwrap_or(now));
    }

    fn total(&mut self, said: &[Option<i64>; 2], row: u32) {
        // A total may count what was there before, on its side.
        let fits = |opening: i64| {
            let debits = self.debits + opening.max(0);
            let credits = self.credits + (-opening).max(0);
            match *said {
                [Some(own), Some(other)] => own == debits && other.abs() == credits,
                [Some(sum), None] => [debits, debits - credits, credits - debits].contains(&sum),
                [None, Some(sum)] => sum.abs() == credits,
                [None, None] => true,
            }
        };
        let off = !fits(0) && !fits(self.opening);
        if off && (self.debits, self.credits) != (0, 0) {
            self.off.push(Warning { row, cause: Cause::LedgerTotalOff });
        }
    }
}

/// The rows of a ledger, each line with its account.
#[derive(Debug)]
struct Flat {
    rows: Box<dyn Rows>,
    kinds: Arc<Kinds>,
    added: Added,
    reading: Reading,
    by: EntryBy,
    /// When the entry is of that opening balances become.
    opens: Option<When>,
}

impl Flat {
    fn line(&self, mut row: RawRow, above: &Above) -> RawRow {
        let Added { code, name, entry, .. } = self.added;
        let number = entry.map(|at| (at, self.by.number(&self.reading, &row)));
        put(&mut row, code, &above.code);
        put(&mut row, name, &above.name);
        if let Some((at, number)) = number {
            put(&mut row, at, &number);
        }
        row
    }

    /// An opening row as a line of the opening entry.
    fn opening(&self, mut row: RawRow, above: &Above, when: When) -> RawRow {
        let layout = &self.reading.layout;
        let balance = self.kinds.opening(&row, &self.reading).unwrap_or(0);
        let place = |field| layout.place(field);
        for field in [Column::Debit, Column::Credit, Column::Amount, Column::Side] {
            if let Some(at) = place(field) {
                put(&mut row, at, "");
            }
        }
        let amount = written(&self.reading, balance);
        if let Some(at) = place(Column::Amount).or(place(Column::Debit)) {
            put_native(&mut row, at, &amount);
        }
        if let Some(at) = self.kinds.when {
            put_native(&mut row, at, &when.to_string());
        }
        if let Some(at) = place(Column::Entry).or(self.added.entry) {
            put(&mut row, at, OPENING);
        }
        put(&mut row, self.added.kind, "opening");
        put(&mut row, self.added.code, &above.code);
        put(&mut row, self.added.name, &above.name);
        row
    }
}

impl Rows for Flat {
    fn walk(&self) -> Walk<'_> {
        let mut above = Above::default();
        Box::new(self.rows.walk().map(move |row| {
            if !self.reading.layout.is_below(row.number) || row.is_blank() {
                return row;
            }
            match self.kinds.is(&row) {
                Is::Line => Cow::Owned(self.line(row.into_owned(), &above)),
                Is::Opening => match self.opens {
                    Some(when) => Cow::Owned(self.opening(row.into_owned(), &above, when)),
                    None => row,
                },
                Is::Account(named) => {
                    if !self.reading.layout.heads_again(&row) {
                        above = named;
                    }
                    row
                }
                Is::Total | Is::Other => row,
            }
        }))
    }

    fn count(&self) -> usize {
        self.rows.count()
    }
}
