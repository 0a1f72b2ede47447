//! How large the sheets of an XLS file are ([MS-XLS], the binary format of old), counted before they
//! are laid out from their first to their last cell.

use super::bounds::Bounds;
use super::opened::CannotRead;
use std::io::{Cursor, Read};

/// Record types that begin a part of the stream and hold a cell, each with the row first and then the
/// column ([MS-XLS] 2.4).
const BEGINS: u16 = 0x0809;
const CELLS: [u16; 10] =
    [0x0006, 0x00BD, 0x00BE, 0x00D6, 0x00FD, 0x0201, 0x0203, 0x0204, 0x0205, 0x027E];

/// Those of them that hold several cells of a row, with the last column at the end.
const RUNS: [u16; 2] = [0x00BD, 0x00BE];

/// Counts what the sheets would take.
///
/// # Errors
/// When that is too much.
pub(super) fn measure(content: &[u8], bounds: &mut Bounds) -> Result<(), CannotRead> {
    // What is not sound is said by whoever reads the cells.
    let Ok(mut file) = cfb::CompoundFile::open(Cursor::new(content)) else { return Ok(()) };
    let mut stream = Vec::new();
    for name in ["Workbook", "Book"] {
        if let Ok(found) = file.open_stream(name) {
            let most = content.len() as u64;
            if found.take(most).read_to_end(&mut stream).is_err() {
                return Ok(());
            }
            break;
        }
    }
    let (mut rest, mut sheet) = (&stream[..], None::<Corners>);
    while let [a, b, c, d, more @ ..] = rest {
        let (kind, size) = (u16::from_le_bytes([*a, *b]), u16::from_le_bytes([*c, *d]));
        let Some((body, next)) = more.split_at_checked(usize::from(size)) else { break };
        match body {
            _ if kind == BEGINS => close(sheet.take(), bounds)?,
            [r0, r1, c0, c1, others @ ..] if CELLS.contains(&kind) => {
                let (row, column) =
                    (u16::from_le_bytes([*r0, *r1]), u16::from_le_bytes([*c0, *c1]));
                let last = match others {
                    [.., l0, l1] if RUNS.contains(&kind) => u16::from_le_bytes([*l0, *l1]),
                    _ => column,
                };
                sheet.get_or_insert(Corners::at(row, column)).take_in(row, column, last);
            }
            _ => {}
        }
        rest = next;
    }
    close(sheet, bounds)
}

fn close(sheet: Option<Corners>, bounds: &mut Bounds) -> Result<(), CannotRead> {
    let Some(Corners { rows: (top, bottom), columns: (left, right) }) = sheet else {
        return Ok(());
    };
    let count = |first: u16, last: u16| u64::from(last.saturating_sub(first)) + 1;
    bounds.sheet(count(top, bottom), count(left, right))
}

/// The first and last rows and columns of a sheet.
struct Corners {
    rows: (u16, u16),
    columns: (u16, u16),
}

impl Corners {
    fn at(row: u16, column: u16) -> Self {
        Self { rows: (row, row), columns: (column, column) }
    }

    fn take_in(&mut self, row: u16, first: u16, last: u16) {
        self.rows = (self.rows.0.min(row), self.rows.1.max(row));
        self.columns = (self.columns.0.min(first), self.columns.1.max(last));
    }
}
