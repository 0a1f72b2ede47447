//! What comes of rows of another shape: lines, and how they are laid out.

use crate::layout::Layout;
use crate::question::Question;
use crate::reading::Reading;
use crate::rows::Rows;
use crate::{Cell, RawRow, Warning};

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
pub(super) fn number_of(told: &Reading, row: &RawRow) -> String {
    let day = told.date(row).map_or_else(|_| String::new(), |day| format!("{day} "));
    format!("{day}{}", told.place(row.number))
}

/// An amount in minor units, as a cell holds it.
pub(super) fn written(told: &Reading, amount: i64) -> String {
    told.currency.format(amount.into()).replace(',', "")
}
