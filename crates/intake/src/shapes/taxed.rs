//! Net, tax and gross beside each other: a row is a line of its account over the net, one of the tax, and, where
//! the row names it, one of the counter-account over the gross. Which account takes the tax is asked once.

use super::shaped::{Shaped, ToLines, Unfolded, entries_off, number_of, put, put_native, written};
use crate::RawRow;
use crate::columns::Column;
use crate::layout::{Layout, SHOWN};
use crate::question::{About, Answer, Asks, Gives, Means, Question};
use crate::reading::Reading;
use crate::rows::Rows;

/// Among how many columns of figures they are looked for.
const MOST: usize = 12;

/// The columns of net, tax and gross.
#[derive(Clone, Copy, Debug)]
struct Taxed {
    net: usize,
    tax: usize,
    gross: usize,
}

/// Whether rows are so; lines that balance over the amounts that are read anyway have their tax beside them
/// for information.
pub(super) fn fits(reading: &Reading, rows: &dyn Rows) -> bool {
    let layout = &reading.layout;
    let own = layout.place(Column::Code).or(layout.place(Column::CodeAndName));
    let sided = [Column::Debit, Column::Credit, Column::DebitCode, Column::CreditCode];
    if own.is_none() || sided.iter().any(|field| layout.place(*field).is_some()) {
        return false;
    }
    let start = rows.start(SHOWN);
    let Some(taxed) = find(reading, &start) else { return false };
    let off = |amount: &dyn Fn(&RawRow) -> i64| entries_off(layout, &start, amount).1;
    let read = |row: &RawRow| reading.signed(row, reading.currency).unwrap_or(0);
    let gross = |row: &RawRow| reading.figure(row, taxed.gross).unwrap_or(0);
    off(&read) > 0 && (has_counter(layout) || off(&gross) == 0)
}

/// The columns of amounts of which, row by row, two add up to the third; the tax is the smaller of the two.
fn find(reading: &Reading, rows: &[RawRow]) -> Option<Taxed> {
    let layout = &reading.layout;
    let body: Vec<&RawRow> =
        rows.iter().filter(|row| layout.is_body(row, &mut Vec::new())).collect();
    let filled = |at: usize| {
        let filled = move |row: &&&RawRow| row.filled().any(|(place, _)| place == at);
        body.iter().filter(filled)
    };
    let figures = |at: usize| {
        filled(at).next().is_some() && filled(at).all(|row| reading.figure(row, at).is_some())
    };
    let open = layout.columns.iter().filter(|column| {
        column.dimension.is_none() && matches!(column.field, None | Some(Column::Amount))
    });
    let all: Vec<usize> =
        open.map(|column| column.at).filter(|at| figures(*at)).take(MOST).collect();
    let amount = |row: &RawRow, at: usize| reading.figure(row, at).unwrap_or(0);
    let size = |at: usize| -> u128 {
        body.iter().map(|row| u128::from(amount(row, at).unsigned_abs())).sum()
    };
    let fits = |taxed: &Taxed| {
        let adds_up = body.iter().all(|row| {
            let [net, tax, gross] = [taxed.net, taxed.tax, taxed.gross].map(|at| amount(row, at));
            // No tax is more than what it is of; what a running balance adds may be.
            let is_part = tax.abs() <= net.abs() && tax.signum() * net.signum() >= 0;
            is_part && net + tax == gross
        });
        adds_up && size(taxed.tax) > 0 && Some(taxed.tax) != layout.place(Column::Amount)
    };
    let triples = all.iter().flat_map(|net| all.iter().map(move |tax| (*net, *tax)));
    let triples = triples.filter(|(net, tax)| net != tax).flat_map(|(net, tax)| {
        let others = all.iter().filter(move |gross| **gross != net && **gross != tax);
        others.map(move |gross| Taxed { net, tax, gross: *gross })
    });
    triples.into_iter().find(fits)
}

pub(super) fn read(reading: &Reading, rows: Box<dyn Rows>) -> Shaped {
    let mut layout = reading.layout.clone();
    let Some(taxed) = find(reading, &rows.start(SHOWN)) else { return Shaped::plain(layout, rows) };
    let heading = layout.heading(taxed.tax).to_owned();
    let said = reading.answers.get(&About::TaxAccount);
    let first = layout.width(&*rows);
    let numbered = layout.place(Column::Entry).is_some() || !has_counter(&layout);
    layout.add_column(Column::Code, first);
    if !numbered {
        layout.add_column(Column::Entry, first + 1);
    }
    layout.give(taxed.net, Column::Amount);
    layout.give(taxed.tax, Column::TaxAmount);
    if has_counter(&layout) {
        layout.give(taxed.gross, Column::Gross);
    }
    let question = said.is_none().then(|| ask(reading, &*rows, taxed, &heading));
    let account = said.cloned().unwrap_or(heading);
    let entry = (!numbered).then_some(first + 1);
    let to = Lines { reading: reading.clone(), taxed, account, code: first, entry };
    let rows = Box::new(Unfolded { rows, layout: reading.layout.clone(), to });
    Shaped { question, ..Shaped::plain(layout, rows) }
}

fn has_counter(layout: &Layout) -> bool {
    layout.place(Column::Counter).is_some()
}

fn ask(reading: &Reading, rows: &dyn Rows, taxed: Taxed, heading: &str) -> Question {
    let taxes = reading.layout.walk_body(rows).filter_map(|row| reading.figure(&row, taxed.tax));
    let taxes: Vec<i128> = taxes.filter(|tax| *tax != 0).map(i128::from).collect();
    let gives = Gives::Sum(taxes.iter().sum::<i128>().abs(), reading.currency, taxes.len());
    Question {
        about: About::TaxAccount,
        asks: Asks::TaxAccount(heading.to_owned()),
        readings: vec![Answer::new(heading, Means::Account(heading.to_owned()), gives)],
        default: Some(heading.to_owned()),
    }
}

/// Each row as its lines.
#[derive(Debug)]
struct Lines {
    reading: Reading,
    taxed: Taxed,
    /// The account that takes the tax.
    account: String,
    code: usize,
    entry: Option<usize>,
}

impl ToLines for Lines {
    fn lines(&self, mut own: RawRow) -> Vec<RawRow> {
        let layout = &self.reading.layout;
        let account = match self.reading.code(&own, Column::Code) {
            "" => self.reading.name(&own).to_owned(),
            code => code.to_owned(),
        };
        put(&mut own, self.code, &account);
        if let Some(at) = self.entry {
            let number = number_of(&self.reading, &own);
            put(&mut own, at, &number);
        }
        let amount = |at: usize| self.reading.figure(&own, at);
        let (tax, gross) = (amount(self.taxed.tax), amount(self.taxed.gross));
        let counter = layout.cell(&own, Column::Counter).to_owned();
        let line = |account: &str, amount: i64| {
            let mut line = own.clone();
            put(&mut line, self.code, account);
            put_native(&mut line, self.taxed.net, &written(&self.reading, amount));
            line
        };
        let taxes = tax.filter(|tax| *tax != 0).map(|tax| line(&self.account, tax));
        let other = gross.filter(|_| has_counter(layout)).map(|gross| line(&counter, -gross));
        let more: Vec<RawRow> = taxes.into_iter().chain(other).collect();
        std::iter::once(own).chain(more).collect()
    }
}
