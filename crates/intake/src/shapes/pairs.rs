//! Two accounts in a row with one amount: one is debited, the other credited; or an account with its
//! counter-account, where the amount is that of the first.

use super::shaped::{Shaped, ToLines, Unfolded, entries_off, number_of, put, put_native, written};
use crate::RawRow;
use crate::columns::Column;
use crate::layout::{Layout, SHOWN};
use crate::reading::Reading;
use crate::rows::Rows;

/// The columns of the two accounts: that whose amount it is, and the other.
fn columns(layout: &Layout) -> Option<(usize, usize)> {
    let place = |field| layout.place(field);
    let two = place(Column::DebitCode).zip(place(Column::CreditCode));
    two.or_else(|| {
        let own = place(Column::Code).or(place(Column::CodeAndName))?;
        Some((own, place(Column::Counter)?))
    })
}

/// Whether each row is an entry of two lines. A column of counter-accounts beside lines that balance by
/// themselves only says where the other side stands.
pub(super) fn fits(reading: &Reading, rows: &dyn Rows) -> bool {
    let layout = &reading.layout;
    if columns(layout).is_none() {
        return false;
    }
    if layout.place(Column::DebitCode).is_some() {
        return true;
    }
    let read = |row: &RawRow| reading.signed(row, reading.currency).unwrap_or(0);
    let (all, off) = entries_off(layout, &rows.start(SHOWN), read);
    off * 2 > all
}

pub(super) fn read(reading: &Reading, rows: Box<dyn Rows>) -> Shaped {
    let mut layout = reading.layout.clone();
    let first = layout.width(&*rows);
    let entry = layout.place(Column::Entry).is_none().then_some(first + 1);
    let between = columns(&layout).unwrap_or_default();
    layout.add_column(Column::Code, first);
    if let Some(at) = entry {
        layout.add_column(Column::Entry, at);
    }
    let to = Pairs { reading: reading.clone(), between, code: first, entry };
    Shaped::plain(layout, Box::new(Unfolded { rows, layout: reading.layout.clone(), to }))
}

/// Each row as two lines.
#[derive(Debug)]
struct Pairs {
    reading: Reading,
    between: (usize, usize),
    code: usize,
    entry: Option<usize>,
}

impl ToLines for Pairs {
    fn lines(&self, mut own: RawRow) -> Vec<RawRow> {
        let layout = &self.reading.layout;
        let amount = self.reading.signed(&own, self.reading.currency);
        let code = |row: &RawRow, at: usize| {
            row.cells.get(at).map_or("", |cell| cell.text.trim()).to_owned()
        };
        if let Some(at) = self.entry {
            let number = number_of(&self.reading, &own);
            put(&mut own, at, &number);
        }
        let mut other = own.clone();
        let (first, second) = (code(&own, self.between.0), code(&own, self.between.1));
        put(&mut own, self.code, &first);
        put(&mut other, self.code, &second);
        // What cannot be read is said of the row once.
        let Ok(amount) = amount else { return vec![own] };
        for field in [Column::Debit, Column::Credit, Column::Side] {
            if let Some(at) = layout.place(field) {
                put(&mut other, at, "");
            }
        }
        let place = layout.place(Column::Amount).or(layout.place(Column::Debit));
        if let Some(at) = place {
            put_native(&mut other, at, &written(&self.reading, -amount));
        }
        vec![own, other]
    }
}
