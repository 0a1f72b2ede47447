//! Two tables beside each other on one sheet: the same columns once more at the right.

use crate::RawRow;
use crate::reading::Reading;
use std::borrow::Cow;

/// The rows with those of the right-hand table below those of the left-hand one.
pub(super) fn stacked<'a>(reading: &Reading, rows: &'a [RawRow]) -> Cow<'a, [RawRow]> {
    let Some(first) = reading.layout.second_table() else { return Cow::Borrowed(rows) };
    let part = |row: &RawRow, left: bool| {
        let (here, there) = row.cells.split_at(first.min(row.cells.len()));
        RawRow { number: row.number, cells: if left { here } else { there }.to_vec() }
    };
    let left = rows.iter().map(|row| part(row, true));
    let below = rows.iter().filter(|row| reading.layout.is_below(row.number));
    left.chain(below.map(|row| part(row, false))).collect::<Vec<_>>().into()
}
