//! How a file is laid out: which row has the headings, what each column means, and which rows
//! below are neither blank, totals nor headings once more.

mod assign;
mod figures;
mod finding;
mod fit;
mod forms;
mod tables;

pub use figures::Figures;
pub use forms::{headings, met_before};

use crate::cause::Cause;
use crate::columns::{Column, reduce, required};
use crate::row_kind::RowKind;
use crate::rows::Rows;
use crate::{Cell, RawRow, Rejected, Warning, words};
use std::borrow::Cow;
use std::collections::BTreeMap;
use std::ops::RangeInclusive;
use zf_core::file_kind::FileKind;
use zf_core::money::Currency;
use zf_core::text;

/// The columns that a kind of file may have.
pub fn possible(kind: FileKind) -> impl Iterator<Item = Column> {
    let known = words::headings(kind);
    Column::ALL
        .iter()
        .copied()
        .filter(|column| known.iter().any(|heading| heading.means == *column))
}

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
    /// Which columns of figures a trial balance is read from, by their letters.
    pub figures: Option<String>,
    /// The currency of the books, where it is known: an amount that is headed by it is theirs.
    pub base: Option<Currency>,
}

impl Chosen {
    /// Whether a person said of a column that amounts stand in it.
    fn names_amounts(&self) -> bool {
        let amounts = [Column::Debit, Column::Credit, Column::Amount].map(Meaning::Field);
        self.columns.values().any(|meaning| amounts.contains(meaning))
    }
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

/// A column whose meaning another one could have nearly as well.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub struct Rival {
    /// Where it stands.
    pub at: usize,
    /// What it means as it is read.
    pub field: Column,
    /// The column that would have this meaning in its place; none when it would be nowhere.
    pub other: Option<usize>,
    /// What it would mean then.
    pub instead: Option<Column>,
}

/// How a file is laid out.
#[derive(Clone, Debug, Default, PartialEq, Eq)]
pub struct Layout {
    /// The number of the row of headings.
    pub header_row: u32,
    /// Its columns, from left to right.
    pub columns: Vec<ColumnFound>,
    /// Where each field stands.
    places: BTreeMap<Column, usize>,
    /// How many headings are known.
    score: usize,
    /// How plainly, in all.
    plainly: i64,
    /// The rows of headings as they stand.
    heads: Vec<RawRow>,
    /// Columns that hold amounts and mean nothing here.
    amounts: Vec<usize>,
    /// Columns side by side that hold the names of one level each.
    stairs: Vec<usize>,
    /// Columns that each name a heading over the row, from the outermost.
    groups: Vec<usize>,
    /// The mark between the names in that column, where one holds whole paths.
    path_mark: Option<&'static str>,
    /// Where the same columns begin once more.
    second: Option<usize>,
    /// The rows above each further sheet's own, to its headings.
    further: Vec<RangeInclusive<u32>>,
    /// Columns whose meaning is not certain.
    rivals: Vec<Rival>,
    /// Rows that are none of the body, with what they are.
    aside: BTreeMap<u32, RowKind>,
    /// The figures that are read of a trial balance with several columns of them.
    figures: Option<Figures>,
    /// The figures that it may be read from, where that is not certain.
    choices: Vec<Figures>,
    /// Which of them is more likely.
    likely: Option<usize>,
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
    #[error("the file has {1} rows, which is more than a {kind} has; is it something else?", kind = .0.words())]
    TooLong(FileKind, usize),
    /// No sheet is called as chosen.
    #[error("no sheet is called “{0}”")]
    NoSheet(String),
}

impl Layout {
    fn has(&self, field: Column) -> bool {
        self.places.contains_key(&field)
    }

    /// Whether other columns say what this one would.
    fn stands_in(&self, kind: FileKind, field: Column) -> bool {
        match field {
            // An account can be told by its name, or by its path.
            Column::Code => {
                self.has(Column::CodeAndName)
                    || self.has(Column::Name)
                    || self.has(Column::DebitCode) && self.has(Column::CreditCode)
            }
            Column::Name => self.has(Column::CodeAndName),
            // Without a number entries are told by date and reference.
            // Names and actions alone are something to be done.
            Column::NewCode => self.has(Column::Action) || self.has(Column::NewName),
            Column::Entry => {
                kind == FileKind::Journal && (self.has(Column::Date) || self.has(Column::Period))
            }
            Column::Date => self.has(Column::Period),
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

    /// How many columns are known by their headings.
    pub fn known(&self) -> usize {
        self.score
    }

    /// Where a field stands.
    pub fn place(&self, field: Column) -> Option<usize> {
        self.places.get(&field).copied()
    }

    /// Columns whose meaning is not certain.
    pub(crate) fn rivals(&self) -> &[Rival] {
        &self.rivals
    }

    /// What a column is called.
    pub(crate) fn heading(&self, at: usize) -> &str {
        let column = self.columns.iter().find(|column| column.at == at);
        column.map_or("", |column| &column.heading)
    }

    /// The headings that mean nothing here.
    pub fn unused(&self) -> impl Iterator<Item = &str> {
        let outline = |at: &usize| self.stairs.contains(at) || self.groups.contains(at);
        let unused = self.columns.iter().filter(|c| c.field.is_none() && c.dimension.is_none());
        let unused = unused.filter(move |column| !outline(&column.at));
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

    /// Goes through the rows below the headings that hold something, totals and all.
    pub fn walk_below<'a>(
        &'a self,
        rows: &'a dyn Rows,
    ) -> impl Iterator<Item = Cow<'a, RawRow>> + Send {
        rows.walk().filter(|row| self.is_below(row.number) && !row.is_blank())
    }

    /// Whether a row is one of the [body](Self::body).
    pub fn is_body(&self, row: &RawRow, warnings: &mut Vec<Warning>) -> bool {
        if !self.is_below(row.number) || row.is_blank() || self.aside(row.number).is_some() {
            return false;
        }
        let passed = self.passed_over(row);
        let taken = passed.is_none();
        warnings.extend(passed.map(|cause| Warning { row: row.number, cause }));
        taken
    }

    fn passed_over(&self, row: &RawRow) -> Option<Cause> {
        if self.heads_again(row) {
            return Some(Cause::HeaderAgain);
        }
        // A total has no code: where its words stand in the column of codes, it has no digit.
        let code = match self.cell(row, Column::Code) {
            "" => self.cell(row, Column::CodeAndName),
            code => code,
        };
        // Nor has it a day; a memo may begin with any word.
        let day = [Column::Date, Column::Period].map(|field| self.cell(row, field));
        let dated = day.iter().any(|text| text.contains(|c: char| c.is_ascii_digit()));
        let uncoded = !dated && (code.is_empty() || is_total(code));
        let total = uncoded && row.filled().any(|(_, text)| is_total(text));
        total.then_some(Cause::TotalRow)
    }

    /// What a row is that was set aside.
    pub fn aside(&self, number: u32) -> Option<RowKind> {
        self.aside.get(&number).copied()
    }

    /// Sets rows aside that are no lines.
    pub(crate) fn set_aside(&mut self, aside: BTreeMap<u32, RowKind>) {
        self.aside = aside;
    }

    /// How many columns the rows have at most.
    pub(crate) fn width(&self, rows: &dyn Rows) -> usize {
        let widest = rows.start(SHOWN).iter().map(|row| row.cells.len()).max().unwrap_or(0);
        self.columns.iter().map(|column| column.at + 1).max().unwrap_or(0).max(widest)
    }

    /// Adds a column that the rows are given.
    pub(crate) fn add_column(&mut self, field: Column, at: usize) {
        let heading = format!("{} above", field.words());
        // What the file itself has of it means nothing more.
        for column in self.columns.iter_mut().filter(|column| column.field == Some(field)) {
            column.field = None;
        }
        self.places.insert(field, at);
        self.columns.push(ColumnFound { at, heading, field: Some(field), dimension: None });
    }

    /// Gives a column a meaning that another may have had.
    pub(crate) fn give(&mut self, at: usize, field: Column) {
        self.places.retain(|_, place| *place != at);
        self.places.insert(field, at);
        self.amounts.retain(|amount| *amount != at);
        for column in &mut self.columns {
            match column.at == at {
                true => column.field = Some(field),
                false if column.field == Some(field) => {
                    column.field = None;
                    self.amounts.push(column.at);
                }
                false => {}
            }
        }
    }

    /// Gives a column another meaning.
    pub(crate) fn mean_instead(&mut self, field: Column, instead: Column) {
        if let (Some(at), None) = (self.place(field), self.place(instead)) {
            self.places.remove(&field);
            self.places.insert(instead, at);
            for column in self.columns.iter_mut().filter(|column| column.at == at) {
                column.field = Some(instead);
            }
        }
    }

    /// Where the same columns begin once more, for a second table beside the first.
    pub(crate) fn second_table(&self) -> Option<usize> {
        self.second
    }

    /// Columns side by side that hold the names of one level each, from the outermost.
    pub(crate) fn stairs(&self) -> &[usize] {
        &self.stairs
    }

    /// Whether the headings stand in a row once more, as on every page of what was printed.
    pub(crate) fn heads_again(&self, row: &RawRow) -> bool {
        let same = |head: &RawRow| head.filled().eq(row.filled()) && row.filled().count() > 1;
        self.heads.iter().any(same)
    }

    /// Whether a row is one of the rows of headings.
    pub(crate) fn is_head(&self, number: u32) -> bool {
        self.heads.iter().any(|head| head.number == number)
            || self.further.iter().any(|above| *above.end() == number)
    }

    /// Whether a row stands below the headings of its sheet.
    pub(crate) fn is_below(&self, number: u32) -> bool {
        number > self.header_row && !self.further.iter().any(|above| above.contains(&number))
    }

    /// Says in which rows further sheets of the same form begin, to their headings.
    pub(crate) fn begin_again(&mut self, further: Vec<RangeInclusive<u32>>) {
        self.further = further;
    }

    /// The last row of headings, as it is compared from sheet to sheet; empty without one.
    pub(crate) fn form(&self) -> Vec<String> {
        self.heads.last().map_or_else(Vec::new, headings)
    }

    /// Columns that hold amounts and mean nothing here.
    pub(crate) fn other_amounts(&self) -> &[usize] {
        &self.amounts
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
                let (field, value) = (column.field, text::shown(&cell.text));
                return Err(Rejected { row: row.number, field, value, cause: why.into() });
            }
        }
        Ok(())
    }

    /// A rejection of a row for what stands in a column.
    pub(super) fn reject(&self, row: &RawRow, field: Column, cause: impl Into<Cause>) -> Rejected {
        let value = text::shown(self.cell(row, field));
        Rejected { row: row.number, field: Some(field), value, cause: cause.into() }
    }
}

fn is_total(text: &str) -> bool {
    let wording = reduce(text);
    let first = wording.split(' ').next().unwrap_or_default();
    let totals = matches!(first, "total" | "totals" | "subtotal" | "sum" | "summe" | "balance")
        || wording.starts_with("grand total")
        || wording.starts_with("sub total");
    totals && !text.contains(|c: char| c.is_ascii_digit())
}
