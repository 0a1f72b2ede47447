//! The rows of a sheet. They can be gone through any number of times, and need not be held in memory.

use super::{Cell, RawRow};
use std::borrow::Cow;
use std::collections::{BTreeMap, BTreeSet};
use std::fmt::Debug;

/// The most rows that are read from a sheet: as many as a spreadsheet has.
pub const MAX_ROWS: usize = 1_048_576;

/// The most cells that a row may have.
pub const MAX_CELLS: usize = 1_024;

/// Rows as they are gone through.
pub type Walk<'a> = Box<dyn Iterator<Item = Cow<'a, RawRow>> + Send + 'a>;

/// The rows of a sheet.
pub trait Rows: Debug + Send + Sync {
    /// Goes through them from the first.
    fn walk(&self) -> Walk<'_>;

    /// How many there are.
    fn count(&self) -> usize;

    /// The first of them.
    fn start(&self, count: usize) -> Vec<RawRow> {
        self.walk().take(count).map(Cow::into_owned).collect()
    }

    /// Those with certain numbers.
    fn numbered(&self, numbers: &BTreeSet<u32>) -> BTreeMap<u32, RawRow> {
        let last = numbers.last().copied().unwrap_or(0);
        let rows = self.walk().take_while(|row| row.number <= last);
        let wanted = rows.filter(|row| numbers.contains(&row.number));
        wanted.map(|row| (row.number, row.into_owned())).collect()
    }

    /// All of them, held in memory.
    fn all(&self) -> Vec<RawRow> {
        self.start(self.count())
    }
}

impl Rows for Vec<RawRow> {
    fn walk(&self) -> Walk<'_> {
        Box::new(self.iter().map(Cow::Borrowed))
    }

    fn count(&self) -> usize {
        self.len()
    }
}

/// New texts of cells, by the number of the row and the place in it.
pub type Corrections = BTreeMap<(u32, usize), String>;

/// Rows with new texts where a person corrected cells.
#[derive(Debug)]
pub(super) struct Corrected {
    pub(super) rows: Box<dyn Rows>,
    pub(super) corrections: Corrections,
}

impl Rows for Corrected {
    fn walk(&self) -> Walk<'_> {
        Box::new(self.rows.walk().map(|row| self.correct(row)))
    }

    fn count(&self) -> usize {
        self.rows.count()
    }
}

impl Corrected {
    /// What is typed is text, however the spreadsheet held what it replaces; it stands where that did.
    fn correct<'a>(&self, mut row: Cow<'a, RawRow>) -> Cow<'a, RawRow> {
        let number = row.number;
        for ((_, at), text) in self.corrections.range((number, 0)..=(number, usize::MAX)) {
            let cells = &mut row.to_mut().cells;
            if cells.len() <= *at {
                cells.resize(*at + 1, Cell::default());
            }
            cells[*at] = Cell { indent: cells[*at].indent, ..Cell::text(text) };
        }
        row
    }
}

/// Where a row stands.
#[derive(Clone, Debug, PartialEq, Eq, PartialOrd, Ord)]
pub struct Place {
    /// The sheet, where the table is of several.
    pub sheet: Option<String>,
    /// The number that a spreadsheet shows beside it.
    pub row: u32,
}
