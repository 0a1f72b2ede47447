//! How a file is laid out: which row has the headings, what each column means, and which rows
//! below are neither blank, totals nor headings once more.

use super::codes;
use super::columns::{Column, dimension, meaning, reduce, required};
use super::dates::DateOrder;
use super::reason::Reason;
use super::rows::Rows;
use super::{Cell, RawRow, Rejected, Sheet, Warning};
use std::borrow::Cow;
use std::collections::BTreeMap;
use zf_core::file_kind::FileKind;
use zf_core::text::{self, counted};

/// How far down the row of headings is looked for.
const SEARCHED: usize = 60;

/// What a file of amounts needs besides.
const AMOUNTS: &str = "Debit and Credit (or Amount)";

/// How many rows tell what a column without a known heading holds.
const SAMPLED: usize = 300;

/// How many rows from the top tell the layout of a sheet.
pub const SHOWN: usize = SEARCHED + SAMPLED;

/// What a person chose instead of what was found.
#[derive(Clone, Debug, Default, PartialEq, Eq)]
pub struct Chosen {
    /// The number of the row of headings; 0 when the file has none.
    pub header_row: Option<u32>,
    /// What columns mean, by their heading.
    pub columns: BTreeMap<String, Meaning>,
}

/// What a person says that a column means.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum Meaning {
    /// Nothing that is used.
    Unused,
    /// A field.
    Field(Column),
    /// The values of a dimension that is called as the heading.
    Dimension,
}

/// One column of a file.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct ColumnFound {
    /// Where it stands, counted from 0.
    pub at: usize,
    /// Its heading as written.
    pub heading: String,
    /// What it means; `None` when it is not used.
    pub field: Option<Column>,
    /// The name of the dimension whose values it holds.
    pub dimension: Option<String>,
}

/// How a file is laid out.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct Layout {
    /// The number of the row of headings.
    pub header_row: u32,
    /// Its columns, from left to right.
    pub columns: Vec<ColumnFound>,
    /// Where each field stands.
    places: BTreeMap<Column, usize>,
}

/// Why no layout was found.
#[derive(Clone, Debug, PartialEq, Eq, thiserror::Error)]
pub enum NoLayout {
    /// The file has no rows.
    #[error("the file has no rows")]
    Empty,
    /// The row that was chosen for headings is blank or too far down.
    #[error("the headings must stand in a filled row among the first {SEARCHED}")]
    NoRow,
    /// It has more rows than a file of its kind.
    #[error("the file has {}, which is more than a {} has; is it something else?", counted(.1, "row"), .0.words())]
    TooLong(FileKind, usize),
    /// No sheet is called as chosen.
    #[error("no sheet is called “{0}”")]
    NoSheet(String),
}

impl Layout {
    /// Finds the row of headings: one that has all that the kind of file needs before others, and
    /// of those the one with most columns that are known. What a heading does not tell, the cells
    /// below it may. What is still [lacking](Self::lacking) a person has to say. `rows` need not be
    /// more than the first [`SHOWN`].
    ///
    /// # Errors
    /// When the sheet is empty.
    pub fn find(kind: FileKind, rows: &[RawRow], chosen: &Chosen) -> Result<Self, NoLayout> {
        if rows.iter().all(RawRow::is_blank) {
            return Err(NoLayout::Empty);
        }
        if chosen.header_row == Some(0) {
            let mut layout = Self::of(kind, &letters(rows), chosen);
            layout.ask_the_cells(kind, rows, chosen);
            return Ok(layout);
        }
        let candidates = rows.iter().take(SEARCHED).filter(|row| match chosen.header_row {
            Some(number) => row.number == number,
            None => !row.is_blank(),
        });
        let mut best: Option<((bool, usize, bool), Self)> = None;
        for row in candidates {
            let mut layout = Self::of(kind, row, chosen);
            let known = layout.places.len();
            // Without one heading that is known the cells below could make any row one.
            if known > 0 || chosen.header_row.is_some() {
                layout.ask_the_cells(kind, rows, chosen);
            }
            let rank = (layout.lacking(kind).is_empty(), known, layout.columns.len() > 1);
            // Of equals the first: headings stand above what they head.
            if best.as_ref().is_none_or(|(most, _)| rank > *most) {
                best = Some((rank, layout));
            }
        }
        best.map(|(_, layout)| layout).ok_or(NoLayout::NoRow)
    }

    fn of(kind: FileKind, row: &RawRow, chosen: &Chosen) -> Self {
        let mut layout =
            Self { header_row: row.number, columns: Vec::new(), places: BTreeMap::new() };
        // Of several headings that mean the same the plainest counts, and before all of them what a
        // person chose.
        let mut best: BTreeMap<Column, (usize, usize)> = BTreeMap::new();
        // A heading is kept with the file, and choices go by it: so it is taken as it can be kept.
        let headings: Vec<_> = row.filled().map(|(at, text)| (at, text::shown(text))).collect();
        for (at, heading) in headings.iter().map(|(at, text)| (*at, text.as_str())) {
            let meant = match chosen.columns.get(heading) {
                Some(Meaning::Field(field)) => Some((*field, 0)),
                Some(_) => None,
                None => meaning(kind, heading).map(|(field, rank)| (field, rank + 1)),
            };
            if let Some((field, rank)) = meant {
                let place = best.entry(field).or_insert((rank, at));
                *place = (*place).min((rank, at));
            }
        }
        layout.places = best.into_iter().map(|(field, (_, at))| (field, at)).collect();
        for (at, heading) in headings.iter().map(|(at, text)| (*at, text.as_str())) {
            let field = layout.places.iter().find(|(_, place)| **place == at).map(|(f, _)| *f);
            let dimension = match chosen.columns.get(heading) {
                _ if field.is_some() => None,
                Some(Meaning::Dimension) => Some(reduce(heading)),
                Some(_) => None,
                None => dimension(kind, heading),
            };
            layout.columns.push(ColumnFound { at, heading: heading.to_owned(), field, dimension });
        }
        layout
    }

    /// Gives columns that are needed and that no heading tells to those whose cells look the part.
    fn ask_the_cells(&mut self, kind: FileKind, rows: &[RawRow], chosen: &Chosen) {
        for field in required(kind) {
            if self.has(*field) || self.stands_in(kind, *field) {
                continue;
            }
            let fits = |column: &&mut ColumnFound| {
                let free = column.field.is_none() && column.dimension.is_none();
                let kept = chosen.columns.contains_key(&column.heading);
                let cells = || {
                    let below = rows.iter().filter(|row| row.number > self.header_row);
                    let cells = below.take(SAMPLED).filter_map(|row| row.cells.get(column.at));
                    cells.filter(|cell| !cell.text.trim().is_empty())
                };
                free && !kept && looks_like(*field, cells)
            };
            if let Some(column) = self.columns.iter_mut().find(fits) {
                column.field = Some(*field);
                self.places.insert(*field, column.at);
            }
        }
    }

    fn has(&self, field: Column) -> bool {
        self.places.contains_key(&field)
    }

    /// Whether other columns say what this one would.
    fn stands_in(&self, kind: FileKind, field: Column) -> bool {
        match field {
            Column::Code | Column::Name => self.has(Column::CodeAndName),
            // Without a number entries are told by date and reference.
            Column::Entry => kind == FileKind::Journal && self.has(Column::Date),
            _ => false,
        }
    }

    /// The columns that such a file needs and that are not there, in words.
    pub fn lacking(&self, kind: FileKind) -> Vec<&'static str> {
        let fields = required(kind).iter();
        let fields = fields.filter(|field| !self.has(**field) && !self.stands_in(kind, **field));
        let two = self.has(Column::Debit) && self.has(Column::Credit);
        let amounts = matches!(kind, FileKind::Journal | FileKind::Balances)
            && !(self.has(Column::Amount) || two);
        fields.map(|field| field.words()).chain(amounts.then_some(AMOUNTS)).collect()
    }

    /// How many columns are known.
    pub fn known(&self) -> usize {
        self.places.len()
    }

    /// Where a field stands.
    pub fn place(&self, field: Column) -> Option<usize> {
        self.places.get(&field).copied()
    }

    /// The headings that mean nothing here.
    pub fn unused(&self) -> impl Iterator<Item = &str> {
        let unused = self.columns.iter().filter(|c| c.field.is_none() && c.dimension.is_none());
        unused.map(|column| column.heading.as_str())
    }

    /// The columns that hold values of a dimension: where, and named how.
    pub fn dimensions(&self) -> impl Iterator<Item = (usize, &str)> {
        self.columns.iter().filter_map(|column| Some((column.at, column.dimension.as_deref()?)))
    }

    /// The rows below the headings that hold something, but for totals and headings once more,
    /// which are named in `warnings`.
    pub fn body<'a>(&self, rows: &'a [RawRow], warnings: &mut Vec<Warning>) -> Vec<&'a RawRow> {
        rows.iter().filter(|row| self.is_body(row, warnings)).collect()
    }

    /// Goes through the rows of the [body](Self::body), which need not be held in memory.
    pub fn walk_body<'a>(
        &'a self,
        rows: &'a dyn Rows,
    ) -> impl Iterator<Item = Cow<'a, RawRow>> + Send {
        rows.walk().filter(|row| self.is_body(row, &mut Vec::new()))
    }

    /// Whether a row is one of the [body](Self::body).
    pub fn is_body(&self, row: &RawRow, warnings: &mut Vec<Warning>) -> bool {
        if row.number <= self.header_row || row.is_blank() {
            return false;
        }
        let passed = self.passed_over(row);
        warnings.extend(passed.map(|(reason, message)| Warning {
            row: row.number,
            reason,
            message: message.to_owned(),
        }));
        passed.is_none()
    }

    fn passed_over(&self, row: &RawRow) -> Option<(Reason, &'static str)> {
        let again = self.columns.iter().all(|column| {
            row.cells.get(column.at).is_some_and(|cell| cell.text.trim() == column.heading)
        });
        if again {
            return Some((Reason::HeaderAgain, "the headings stand here once more; passed over"));
        }
        // A total has no code: where its words stand in the column of codes, it has no digit.
        let code = self.cell(row, Column::Code);
        let uncoded = code.is_empty() || is_total(code);
        let total = uncoded && row.filled().any(|(_, text)| is_total(text));
        total.then_some((Reason::TotalRow, "a row of totals; passed over"))
    }

    /// The trimmed text of a field in a row; empty when either is missing.
    pub fn cell<'a>(&self, row: &'a RawRow, field: Column) -> &'a str {
        self.raw(row, field).map_or("", |cell| cell.text.trim())
    }

    /// The cell of a field in a row, untrimmed.
    pub fn raw<'a>(&self, row: &'a RawRow, field: Column) -> Option<&'a Cell> {
        row.cells.get(self.place(field)?)
    }

    /// Refuses a row that holds a text that cannot be kept, in a column that is used.
    ///
    /// # Errors
    /// The rejection, with the column.
    pub(super) fn check_texts(&self, row: &RawRow) -> Result<(), Rejected> {
        let used = |column: &&ColumnFound| column.field.is_some() || column.dimension.is_some();
        for column in self.columns.iter().filter(used) {
            let Some(cell) = row.cells.get(column.at) else { continue };
            if let Err(why) = text::look_at(&cell.text) {
                let field = column.field;
                let (value, message) = (text::shown(&cell.text), why.to_string());
                let reason = Reason::TextUnsound;
                return Err(Rejected { row: row.number, field, value, reason, message });
            }
        }
        Ok(())
    }

    /// A rejection of a row for what stands in a column.
    pub(super) fn reject(
        &self,
        row: &RawRow,
        field: Column,
        reason: Reason,
        message: impl std::fmt::Display,
    ) -> Rejected {
        let value = text::shown(self.cell(row, field));
        let message = message.to_string();
        Rejected { row: row.number, field: Some(field), value, reason, message }
    }
}

/// A row of headings for a sheet that has none.
fn letters(rows: &[RawRow]) -> RawRow {
    let width = rows.iter().map(|row| row.cells.len()).max().unwrap_or(0);
    let name = |at: usize| {
        let letter = |n: usize| char::from(b'A' + u8::try_from(n % 26).unwrap_or(0));
        let first = (at / 26).checked_sub(1).map(letter);
        Cell::text(&format!("Column {}{}", first.map_or(String::new(), String::from), letter(at)))
    };
    RawRow { number: 0, cells: (0..width).map(name).collect() }
}

/// The headings of a row as they are compared from file to file.
pub fn headings(row: &RawRow) -> Vec<String> {
    row.filled().map(|(_, text)| reduce(text)).collect()
}

/// Finds a sheet with a row of headings that was met before: which of `forms` it is, which sheet,
/// and the number of the row.
pub fn met_before(sheets: &[Sheet], forms: &[Vec<String>]) -> Option<(usize, usize, u32)> {
    let visible_first = [false, true].into_iter().flat_map(|hidden| {
        sheets.iter().enumerate().filter(move |(_, sheet)| sheet.hidden == hidden)
    });
    visible_first
        .flat_map(|(at, sheet)| sheet.rows.walk().take(SEARCHED).map(move |row| (at, row)))
        .find_map(|(at, row)| {
            let headings = headings(&row);
            let form = forms.iter().position(|form| *form == headings)?;
            Some((form, at, row.number))
        })
}

fn is_total(text: &str) -> bool {
    let wording = reduce(text);
    let first = wording.split(' ').next().unwrap_or_default();
    let totals = matches!(first, "total" | "totals" | "subtotal" | "sum" | "summe" | "balance")
        || wording.starts_with("grand total")
        || wording.starts_with("sub total");
    totals && !text.contains(|c: char| c.is_ascii_digit())
}

/// Whether the cells of a column are what a field holds: four in five of at least three.
fn looks_like<'a, I: Iterator<Item = &'a Cell>>(field: Column, cells: impl Fn() -> I) -> bool {
    let all = cells().count();
    let share = |fits: &dyn Fn(&Cell) -> bool| cells().filter(|c| fits(c)).count() * 5 >= all * 4;
    let is_date = |cell: &Cell| {
        let read = DateOrder::read(Some(DateOrder::DayFirst), &cell.text).is_ok()
            || DateOrder::read(Some(DateOrder::MonthFirst), &cell.text).is_ok();
        read && cell.text.len() > 5
    };
    let is_code = |cell: &Cell| codes::looks_like_code(&cell.text) && !is_date(cell);
    all >= 3
        && match field {
            Column::Date => share(&is_date),
            Column::Code | Column::NewCode => share(&is_code),
            Column::CodeAndName => share(&|cell| codes::split(&cell.text).is_some()),
            Column::Name => {
                share(&|cell| cell.text.chars().filter(|c| c.is_alphabetic()).count() > 3)
            }
            _ => false,
        }
}
