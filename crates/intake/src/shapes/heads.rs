//! A row with number and date of an entry above its lines, which do not repeat them.

use super::shaped::{Shaped, put};
use crate::RawRow;
use crate::columns::Column;
use crate::layout::{Layout, SHOWN};
use crate::reading::Reading;
use crate::row_kind::RowKind;
use crate::rows::{Rows, Walk};
use std::borrow::Cow;

/// The columns of an entry that its lines may leave to the row above them.
const OF_ENTRY: [Column; 4] = [Column::Entry, Column::Date, Column::Reference, Column::EntryKind];

/// What tells that a row is a line.
const OF_LINE: [Column; 5] =
    [Column::Code, Column::CodeAndName, Column::Debit, Column::Credit, Column::Amount];

fn is_head(layout: &Layout, row: &RawRow) -> bool {
    let empty = |field: &Column| layout.cell(row, *field).is_empty();
    OF_LINE.iter().all(empty) && !layout.cell(row, Column::Date).is_empty()
}

/// Whether rows that only say number and date stand above lines that do not.
pub(super) fn fits(layout: &Layout, rows: &dyn Rows) -> bool {
    let start = rows.start(SHOWN);
    let body = start.iter().filter(|row| layout.is_body(row, &mut Vec::new()));
    let (mut heads, mut dated, mut bare) = (0, 0, 0);
    for row in body {
        match () {
            () if is_head(layout, row) => heads += 1,
            () if layout.cell(row, Column::Date).is_empty() => bare += 1,
            () => dated += 1,
        }
    }
    heads > 0 && bare > dated
}

pub(super) fn read(reading: &Reading, rows: Box<dyn Rows>) -> Shaped {
    let mut layout = reading.layout.clone();
    let body = rows.walk().filter(|row| layout.is_body(row, &mut Vec::new()));
    let heads = body.filter(|row| is_head(&layout, row)).map(|row| (row.number, RowKind::Caption));
    let heads = heads.collect();
    layout.set_aside(heads);
    Shaped::plain(layout.clone(), Box::new(Carried { rows, layout: reading.layout.clone() }))
}

/// Lines with number and date of the row above them.
#[derive(Debug)]
struct Carried {
    rows: Box<dyn Rows>,
    layout: Layout,
}

impl Rows for Carried {
    fn walk(&self) -> Walk<'_> {
        let mut above: Option<RawRow> = None;
        Box::new(self.rows.walk().map(move |row| {
            if !self.layout.is_body(&row, &mut Vec::new()) {
                return row;
            }
            if is_head(&self.layout, &row) {
                above = Some(row.clone().into_owned());
                return row;
            }
            let Some(above) = &above else { return row };
            let mut line = row.into_owned();
            for field in OF_ENTRY {
                let Some(at) = self.layout.place(field) else { continue };
                if self.layout.cell(&line, field).is_empty()
                    && let Some(cell) = above.cells.get(at)
                {
                    put(&mut line, at, &cell.text);
                    line.cells[at].native = cell.native;
                }
            }
            Cow::Owned(line)
        }))
    }

    fn count(&self) -> usize {
        self.rows.count()
    }
}
