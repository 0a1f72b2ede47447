//! Intake: turns the rows of a file into accounts, entries and uses, and says of each row that
//! cannot be taken where and why. Reading the file itself is somebody else's work.

pub mod chart;
pub mod columns;
pub mod dates;
pub mod journal;
pub mod usage;

/// One row of a file, with the number that a spreadsheet shows beside it.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct RawRow {
    /// The row number, counted from 1.
    pub number: u32,
    /// The text of each cell: numbers without thousands marks, dates as 2026-09-24.
    pub cells: Vec<String>,
}

impl RawRow {
    pub(crate) fn is_blank(&self) -> bool {
        self.cells.iter().all(|cell| cell.trim().is_empty())
    }
}

/// A row that cannot be taken.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct Rejected {
    /// Its number in the file.
    pub row: u32,
    /// The heading of the column that is wrong, if it is one.
    pub column: Option<String>,
    /// What stands there.
    pub value: String,
    /// Why it cannot be taken, in a plain sentence.
    pub reason: String,
}

/// What a file holds: what can be stored, and what cannot.
#[derive(Clone, Debug)]
pub struct Intake<T> {
    /// What is ready, in the order of the file.
    pub ready: Vec<T>,
    /// How many rows that is.
    pub ready_rows: usize,
    /// The rows that are left out, by number.
    pub rejected: Vec<Rejected>,
}

impl<T> Intake<T> {
    fn of(ready: Vec<T>, ready_rows: usize, mut rejected: Vec<Rejected>) -> Self {
        rejected.sort_by_key(|r| r.row);
        Self { ready, ready_rows, rejected }
    }
}
