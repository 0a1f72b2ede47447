//! The rows of a file that cannot be taken, as they stand in it, with their places and reasons: to be mended and imported
//! again.

use crate::table;
use zf_intake::Rejected;
use zf_intake::table::Table as Read;
use zf_phrases::Style;
use zf_phrases::intake::sentence;
use zf_sheets::{ColumnKind, Table};

/// The rejected rows of what was read of a file.
pub fn tables(read: &Read, rejected: &[Rejected]) -> Vec<Table> {
    let columns = &read.reading.layout.columns;
    let headings = columns.iter().map(|column| (column.heading.as_str(), ColumnKind::Text));
    let reasons = [("Row in the file", ColumnKind::Count), ("Why not taken", ColumnKind::Text)];
    let headings: Vec<_> = headings.chain(reasons).collect();
    let found = read.rows.numbered(&rejected.iter().map(|one| one.row).collect());
    let rows = rejected.iter().map(|one| {
        let row = found.get(&one.row);
        let cell = |at: usize| row.and_then(|row| row.cells.get(at)).map(|cell| cell.text.clone());
        let cells = columns.iter().map(|column| cell(column.at).unwrap_or_default());
        let place = read.reading.place(one.row);
        cells.chain([place.row.to_string(), sentence(&one.cause, Style::default())]).collect()
    });
    vec![table("Rejected rows", &headings, rows.collect())]
}
