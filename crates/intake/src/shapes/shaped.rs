//! What comes of rows of another shape: lines, and how they are laid out.

use crate::columns::Column;
use crate::layout::Layout;
use crate::question::Question;
use crate::reading::Reading;
use crate::rows::{Place, Rows, Walk};
use crate::{Cell, RawRow, Warning};
use std::borrow::Cow;
use std::collections::HashMap;
use std::fmt::Debug;

/// Rows that were turned into lines.
pub(crate) struct Shaped {
    pub(crate) rows: Box<dyn Rows>,
    /// How they are laid out then.
    pub(crate) layout: Layout,
    pub(crate) question: Option<Question>,
    pub(crate) warnings: Vec<Warning>,
}

impl Shaped {
    pub(super) fn plain(layout: Layout, rows: Box<dyn Rows>) -> Self {
        Self { rows, layout, question: None, warnings: Vec::new() }
    }
}

/// How many entries there are among the first rows, and how many of them an amount leaves out of balance.
/// Entries are told by number, date and reference.
pub(super) fn entries_off(
    layout: &Layout,
    start: &[RawRow],
    amount: impl Fn(&RawRow) -> i64,
) -> (usize, usize) {
    let mut sums: HashMap<String, i128> = HashMap::new();
    for row in start.iter().filter(|row| layout.is_body(row, &mut Vec::new())) {
        let number = [Column::Entry, Column::Date, Column::Reference];
        let number = number.map(|field| layout.cell(row, field)).join(" ");
        *sums.entry(number).or_default() += i128::from(amount(row));
    }
    (sums.len(), sums.values().filter(|sum| **sum != 0).count())
}

/// How a row becomes lines.
pub(super) trait ToLines: Debug + Send + Sync {
    fn lines(&self, row: RawRow) -> Vec<RawRow>;
}

/// Rows of the body as lines, several of each.
#[derive(Debug)]
pub(super) struct Unfolded<T> {
    pub(super) rows: Box<dyn Rows>,
    pub(super) layout: Layout,
    pub(super) to: T,
}

impl<T: ToLines> Rows for Unfolded<T> {
    fn walk(&self) -> Walk<'_> {
        let lines = |row: Cow<'_, RawRow>| {
            let body = self.layout.is_body(&row, &mut Vec::new());
            let row = row.into_owned();
            if body { self.to.lines(row) } else { vec![row] }
        };
        Box::new(self.rows.walk().flat_map(lines).map(Cow::Owned))
    }

    fn count(&self) -> usize {
        self.rows.count()
    }
}

/// Puts a text into a cell, which may lie beyond the end of the row.
pub(super) fn put(row: &mut RawRow, at: usize, text: &str) {
    if row.cells.len() <= at {
        row.cells.resize(at + 1, Cell::default());
    }
    row.cells[at] = Cell::text(text);
}

/// Puts a number or a date into a cell, as a spreadsheet holds it.
pub(super) fn put_native(row: &mut RawRow, at: usize, text: &str) {
    put(row, at, text);
    row.cells[at].native = true;
}

/// What an entry of one row is called that nothing numbers: by its day and its row, so that the rows of the next
/// month are others, and those of a longer export of the same list are the same.
pub(super) fn number_of(reading: &Reading, row: &RawRow) -> String {
    let day = reading.date(row).map_or_else(|_| String::new(), |day| format!("{day} "));
    let Place { sheet, row } = reading.place(row.number);
    let sheet = sheet.map_or_else(String::new, |sheet| format!(" of “{sheet}”"));
    format!("{day}row {row}{sheet}")
}

/// An amount in minor units, as a cell holds it.
pub(super) fn written(reading: &Reading, amount: i64) -> String {
    reading.currency.format(amount.into()).replace(',', "")
}
