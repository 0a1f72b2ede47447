//! Intake: turns the rows of a file into accounts, entries, balances, uses and targets of a plan,
//! and says of each row that cannot be taken where and why. Reading the file itself is somebody
//! else's work.
//!
//! This crate may not do I/O, ask the clock, or know of the database or the interface.

#![warn(missing_docs)]

pub mod analysis;
pub mod audit;
pub mod balances;
pub mod cause;
pub mod chart;
pub mod chart_options;
pub mod codes;
pub mod columns;
pub mod compare;
pub mod crosswalk;
pub mod dates;
pub mod items;
pub mod journal;
pub mod layout;
pub mod numbers;
mod paths;
pub mod period_text;
mod periods;
pub mod question;
mod ranges;
pub mod reading;
pub mod reason;
pub mod row_kind;
pub mod rows;
pub mod several;
mod shapes;
mod signs;
pub mod table;
pub mod usage;
pub mod wordings;
pub mod words;
pub mod workbook;
pub mod zero;

pub use chart::OutlineBy;

use cause::Cause;
use columns::Column;
use rows::Rows;

/// A cell of a file.
#[derive(Clone, Debug, Default, PartialEq, Eq)]
pub struct Cell {
    /// What stands in it: numbers without thousands marks and dates as 2026-09-24 when native.
    pub text: String,
    /// Whether the spreadsheet itself holds it as a number or a date, so that nothing has to be
    /// guessed of how it is written.
    pub native: bool,
    /// How many steps the format of the cell moves it to the right, where the file tells that.
    pub indent: u8,
}

impl Cell {
    /// A cell of text.
    pub fn text(text: &str) -> Self {
        Self { text: text.to_owned(), ..Self::default() }
    }

    /// A number or date as the spreadsheet holds it.
    pub fn native(text: String) -> Self {
        Self { text, native: true, indent: 0 }
    }

    /// How far its text stands to the right, in spaces: a tab counts as four, and a step of the
    /// format as the two that the eye takes for one.
    pub fn indentation(&self) -> usize {
        let blank = self.text.chars().take_while(|c| c.is_whitespace());
        let space: usize = blank.map(|c| if c == '\t' { 4 } else { 1 }).sum();
        space + usize::from(self.indent) * 2
    }
}

/// One row of a file, with the number that a spreadsheet shows beside it.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct RawRow {
    /// The row number, counted from 1.
    pub number: u32,
    /// Its cells, from the first column of the sheet.
    pub cells: Vec<Cell>,
}

impl RawRow {
    /// Whether nothing stands in the row.
    pub fn is_blank(&self) -> bool {
        self.filled().next().is_none()
    }

    /// The cells in which something stands, by place.
    pub fn filled(&self) -> impl Iterator<Item = (usize, &str)> {
        let cells = self.cells.iter().enumerate();
        cells.map(|(at, cell)| (at, cell.text.trim())).filter(|(_, text)| !text.is_empty())
    }
}

/// A sheet of a file; a text file has one.
#[derive(Debug)]
pub struct Sheet {
    /// Its name; empty for that of a text file.
    pub name: String,
    /// Whether the spreadsheet hides it.
    pub hidden: bool,
    /// What the spreadsheet hides in it.
    pub hides: Hidden,
    /// Its rows.
    pub rows: Box<dyn Rows>,
}

/// Rows and columns that a spreadsheet hides.
#[derive(Clone, Debug, Default, PartialEq, Eq)]
pub struct Hidden {
    /// Row numbers.
    pub rows: Vec<u32>,
    /// First and last of columns side by side, counted from 1.
    pub columns: Vec<(u32, u32)>,
}

impl Sheet {
    /// A sheet that hides nothing.
    pub fn new(name: &str, rows: Box<dyn Rows>) -> Self {
        Self { name: name.to_owned(), hidden: false, hides: Hidden::default(), rows }
    }
}

/// A row that cannot be taken.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct Rejected {
    /// Its number in the file.
    pub row: u32,
    /// The column that is wrong, if it is one.
    pub field: Option<Column>,
    /// What stands there.
    pub value: String,
    /// Why it cannot be taken.
    pub cause: Cause,
}

/// A row that was taken, or passed over, with something a person should know.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct Warning {
    /// Its number in the file.
    pub row: u32,
    /// What is worth knowing of it.
    pub cause: Cause,
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
    /// What is worth knowing of others, by number.
    pub warnings: Vec<Warning>,
}

impl<T> Intake<T> {
    fn of(
        ready: Vec<T>,
        ready_rows: usize,
        mut rejected: Vec<Rejected>,
        mut warnings: Vec<Warning>,
    ) -> Self {
        rejected.sort_by_key(|r| r.row);
        warnings.sort_by_key(|w| w.row);
        Self { ready, ready_rows, rejected, warnings }
    }
}
