//! What a spreadsheet may become in memory, whatever it claims. Cells are counted as they come, or
//! before the reader of a format lays them out, and so is their text: a cell that is said once and
//! repeated a million times counts a million times.

use super::opened::CannotRead;
use zf_intake::rows::{MAX_CELLS, MAX_ROWS};

/// The most cells of all sheets together, with the empty ones before the last of each row.
const MAX_IN_ALL: u64 = 6_000_000;

/// A cell that is laid out by the reader of a format is held several times over: ten of them take the
/// room of so many that are read as they come.
const TEN_LAID_OUT: u64 = 25;

/// The most bytes of text in all of them together.
const MAX_TEXT: u64 = 128 << 20;

/// What was counted so far.
#[derive(Default)]
pub(super) struct Bounds {
    cells: u64,
    text: u64,
}

impl Bounds {
    /// Counts cells that take room.
    pub(super) fn cells(&mut self, count: u64) -> Result<(), CannotRead> {
        self.cells = self.cells.saturating_add(count);
        if self.cells > MAX_IN_ALL { Err(CannotRead::TooMany) } else { Ok(()) }
    }

    /// Counts text.
    pub(super) fn text(&mut self, bytes: u64) -> Result<(), CannotRead> {
        self.text = self.text.saturating_add(bytes);
        if self.text > MAX_TEXT { Err(CannotRead::TooMany) } else { Ok(()) }
    }

    /// Counts a sheet that is laid out from its first to its last cell: `rows` and `columns` are how
    /// many it has.
    pub(super) fn sheet(&mut self, rows: u64, columns: u64) -> Result<(), CannotRead> {
        if rows > MAX_ROWS as u64 {
            return Err(CannotRead::TooLong);
        }
        if columns > MAX_CELLS as u64 {
            return Err(CannotRead::TooWide(1));
        }
        self.cells(rows.saturating_mul(columns).saturating_mul(TEN_LAID_OUT) / 10)
    }
}
