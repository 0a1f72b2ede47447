//! Two accounts in a row with one amount: one is debited, the other credited; or an account with its
//! counter-account, where the amount is that of the first.

use super::shaped::{Shaped, number_of, put, put_native, written};
use crate::RawRow;
use crate::columns::Column;
use crate::layout::{Layout, SHOWN};
use crate::reading::Reading;
use crate::rows::{Rows, Walk};
use std::borrow::Cow;
use std::collections::HashMap;

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
pub(super) fn fits(told: &Reading, rows: &dyn Rows) -> bool {
    let layout = &told.layout;
    if columns(layout).is_none() {
        return false;
    }
    if layout.place(Column::DebitCode).is_some() {
        return true;
    }
    let mut sums: HashMap<String, i128> = HashMap::new();
    for row in rows.start(SHOWN).iter().filter(|row| layout.is_body(row, &mut Vec::new())) {
        let cell = |field| layout.cell(row, field);
        let number = [Column::Entry, Column::Date, Column::Reference].map(cell).join(" ");
        let amount = told.signed(row, told.currency).unwrap_or(0);
        *sums.entry(number).or_default() += i128::from(amount);
    }
    let off = sums.values().filter(|sum| **sum != 0).count();
    off * 2 > sums.len()
}

pub(super) fn read(told: &Reading, rows: Box<dyn Rows>) -> Shaped {
    let mut layout = told.layout.clone();
    let first = layout.width(&*rows);
    let entry = layout.place(Column::Entry).is_none().then_some(first + 1);
    let between = columns(&layout).unwrap_or_default();
    layout.add_column(Column::Code, first);
    if let Some(at) = entry {
        layout.add_column(Column::Entry, at);
    }
    let pairs = Pairs { rows, told: told.clone(), between, code: first, entry };
    Shaped::plain(layout, Box::new(pairs))
}

/// Each row as two lines.
#[derive(Debug)]
struct Pairs {
    rows: Box<dyn Rows>,
    told: Reading,
    between: (usize, usize),
    code: usize,
    entry: Option<usize>,
}

impl Pairs {
    fn lines(&self, row: Cow<'_, RawRow>) -> Vec<RawRow> {
        let layout = &self.told.layout;
        let body = layout.is_body(&row, &mut Vec::new());
        let amount = self.told.signed(&row, self.told.currency);
        let mut own = row.into_owned();
        if !body {
            return vec![own];
        }
        let code = |row: &RawRow, at: usize| {
            row.cells.get(at).map_or("", |cell| cell.text.trim()).to_owned()
        };
        if let Some(at) = self.entry {
            let number = number_of(&self.told, &own);
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
            put_native(&mut other, at, &written(&self.told, -amount));
        }
        vec![own, other]
    }
}

impl Rows for Pairs {
    fn walk(&self) -> Walk<'_> {
        Box::new(self.rows.walk().flat_map(|row| self.lines(row)).map(Cow::Owned))
    }

    fn count(&self) -> usize {
        self.rows.count()
    }
}
