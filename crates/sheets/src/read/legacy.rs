//! The binary format of old ([MS-XLS]): how large its sheets are, counted before they are laid out
//! from their first to their last cell, and how far the format of each cell moves its text.

use super::bounds::Bounds;
use super::indents::Indents;
use super::opened::CannotRead;
use std::collections::HashMap;
use std::io::{Cursor, Read};

/// Record types that begin a part of the stream and hold a cell, each with the row first and then the
/// column ([MS-XLS] 2.4).
const BEGINS: u16 = 0x0809;
const CELLS: [u16; 10] =
    [0x0006, 0x00BD, 0x00BE, 0x00D6, 0x00FD, 0x0201, 0x0203, 0x0204, 0x0205, 0x027E];

/// Those of them that hold several cells of a row, with the last column at the end.
const RUNS: [u16; 2] = [0x00BD, 0x00BE];

/// The record of a cell format, and those of cells that hold a text.
const FORMAT: u16 = 0x00E0;
const TEXTS: [u16; 3] = [0x00D6, 0x00FD, 0x0204];

/// The record that names a sheet, after the place in the stream where its part begins.
const NAMED: u16 = 0x0085;

/// Counts what the sheets would take.
///
/// # Errors
/// When that is too much.
pub(super) fn measure(content: &[u8], bounds: &mut Bounds) -> Result<(), CannotRead> {
    let mut sheet = None::<Corners>;
    let stream = stream(content);
    for Record { kind, body, .. } in Records::of(&stream) {
        match body {
            _ if kind == BEGINS => close(sheet.take(), bounds)?,
            [r0, r1, c0, c1, others @ ..] if CELLS.contains(&kind) => {
                let (row, column) = (number(*r0, *r1), number(*c0, *c1));
                let last = match others {
                    [.., l0, l1] if RUNS.contains(&kind) => number(*l0, *l1),
                    _ => column,
                };
                sheet.get_or_insert(Corners::at(row, column)).take_in(row, column, last);
            }
            _ => {}
        }
    }
    close(sheet, bounds)
}

/// How far the texts of each sheet are moved, in the order in which the file names its sheets.
pub(super) fn indents(content: &[u8]) -> Vec<Indents> {
    let (mut formats, mut begins, mut open) = (Vec::new(), Vec::new(), None);
    let mut found: HashMap<usize, Indents> = HashMap::new();
    let stream = stream(content);
    for Record { at, kind, body } in Records::of(&stream) {
        match body {
            _ if kind == BEGINS => open = Some(at),
            [_, _, _, _, _, _, _, _, alignment, ..] if kind == FORMAT => {
                formats.push(alignment & 0x0F);
            }
            [a, b, c, d, ..] if kind == NAMED => {
                begins.push(u32::from_le_bytes([*a, *b, *c, *d]) as usize);
            }
            [r0, r1, c0, c1, f0, f1, ..] if TEXTS.contains(&kind) => {
                let indent = formats.get(usize::from(number(*f0, *f1))).copied().unwrap_or(0);
                if let (Some(open), 1..) = (open, indent) {
                    let place = (number(*r0, *r1).into(), number(*c0, *c1).into());
                    found.entry(open).or_default().insert(place, indent);
                }
            }
            _ => {}
        }
    }
    begins.iter().map(|at| found.remove(at).unwrap_or_default()).collect()
}

fn number(low: u8, high: u8) -> u16 {
    u16::from_le_bytes([low, high])
}

/// The stream of the workbook. What is not sound is empty: whoever reads the cells says why.
fn stream(content: &[u8]) -> Vec<u8> {
    let mut stream = Vec::new();
    let Ok(mut file) = cfb::CompoundFile::open(Cursor::new(content)) else { return stream };
    for name in ["Workbook", "Book"] {
        if let Ok(found) = file.open_stream(name) {
            let most = content.len() as u64;
            if found.take(most).read_to_end(&mut stream).is_err() {
                stream.clear();
            }
            break;
        }
    }
    stream
}

/// A record of the stream, with the place where it begins.
struct Record<'a> {
    at: usize,
    kind: u16,
    body: &'a [u8],
}

/// Goes through the records of a stream, up to the first that is not whole.
struct Records<'a> {
    at: usize,
    rest: &'a [u8],
}

impl<'a> Records<'a> {
    fn of(stream: &'a [u8]) -> Self {
        Self { at: 0, rest: stream }
    }
}

impl<'a> Iterator for Records<'a> {
    type Item = Record<'a>;

    fn next(&mut self) -> Option<Record<'a>> {
        let [a, b, c, d, more @ ..] = self.rest else { return None };
        let (body, rest) = more.split_at_checked(usize::from(number(*c, *d)))?;
        let record = Record { at: self.at, kind: number(*a, *b), body };
        self.at += 4 + body.len();
        self.rest = rest;
        Some(record)
    }
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
