//! The file's zero: every row of the sheet is accounted for, and every amount, as taken or left out with
//! the reason.

use crate::RawRow;
use crate::analysis::{Analysis, Content};
use crate::columns::Column;
use crate::layout::ColumnFound;
use crate::reading::{AMOUNTS, Reading};
use crate::reason::Reason;
use crate::row_kind::RowKind;
use crate::several::Part;
use crate::table::Table;
use std::collections::{BTreeMap, HashMap};
use zf_core::file_kind::FileKind;
use zf_core::money::Currency;

/// What became of a file.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct FileZero {
    /// What became of the rows of each sheet: first of those that are read.
    pub sheets: Vec<SheetZero>,
    /// What became of the amounts of each column that holds some.
    pub amounts: Vec<ColumnAmounts>,
}

/// What became of the rows of a sheet.
#[derive(Clone, Debug, Default, PartialEq, Eq)]
pub struct SheetZero {
    /// Its name; empty for that of a text file.
    pub sheet: String,
    /// How many rows it has.
    pub rows: usize,
    /// How many of them are of each kind.
    pub taken: BTreeMap<RowKind, usize>,
    /// The rows that cannot be taken, by the number that a spreadsheet shows.
    pub left_out: Vec<(u32, Reason)>,
}

impl SheetZero {
    fn unread(sheet: &str, rows: usize) -> Self {
        let (sheet, taken) = (sheet.to_owned(), [(RowKind::NotRead, rows)].into());
        Self { sheet, rows, taken, left_out: Vec::new() }
    }

    fn take(&mut self, fate: Fate, row: u32, rows: usize) {
        self.rows += rows;
        match fate {
            Fate::Taken(kind) | Fate::Passed(kind) => {
                *self.taken.entry(kind).or_default() += rows;
            }
            Fate::Rejected(reason) => self.left_out.push((row, reason)),
        }
    }
}

impl FileZero {
    /// How many rows all sheets have together.
    pub fn rows(&self) -> usize {
        self.sheets.iter().map(|sheet| sheet.rows).sum()
    }

    /// How many rows of all sheets are of each kind.
    pub fn taken(&self) -> BTreeMap<RowKind, usize> {
        let mut taken = BTreeMap::new();
        for (kind, rows) in self.sheets.iter().flat_map(|sheet| &sheet.taken) {
            *taken.entry(*kind).or_default() += rows;
        }
        taken
    }

    /// How many rows cannot be taken.
    pub fn left_out(&self) -> usize {
        self.sheets.iter().map(|sheet| sheet.left_out.len()).sum()
    }
}

/// Why an amount is left out.
#[derive(Clone, Copy, Debug, PartialEq, Eq, PartialOrd, Ord)]
pub enum LeftOut {
    /// It is no amount.
    NoAmount,
    /// Its column is not used.
    Unused,
    /// Rates are no amounts.
    Rate,
    /// A chart takes no balances.
    Balance,
    /// Its row is of this kind, which is not taken.
    Row(RowKind),
    /// Its row cannot be taken.
    Rejected(Reason),
}

/// What became of the amounts of a column, in minor units.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct ColumnAmounts {
    /// Its heading.
    pub column: String,
    /// What it means; none when it is not used.
    pub means: Option<Column>,
    /// The sum of all that stands in it.
    pub sum: i128,
    /// What of that is taken.
    pub taken: i128,
    /// What is not, with how many rows, by the reason.
    pub left_out: BTreeMap<LeftOut, (i128, usize)>,
}

impl ColumnAmounts {
    /// What is neither taken nor left out; anything but zero is a fault of this program.
    pub fn difference(&self) -> i128 {
        self.sum - self.taken - self.left_out.values().map(|(sum, _)| sum).sum::<i128>()
    }
}

/// The kind of row that is taken of a file that is no chart.
const fn taken_as(kind: FileKind) -> RowKind {
    match kind {
        FileKind::Chart => RowKind::Account,
        FileKind::Journal => RowKind::Line,
        FileKind::Balances => RowKind::Balance,
        FileKind::Crosswalk => RowKind::Pair,
        FileKind::Usage => RowKind::Use,
    }
}

/// Other columns that hold figures.
const BESIDE: [Column; 3] = [Column::Rate, Column::TaxAmount, Column::Gross];

/// What became of a row.
#[derive(Clone, Copy)]
enum Fate {
    Taken(RowKind),
    /// Of the file, and nothing that is taken.
    Passed(RowKind),
    Rejected(Reason),
}

/// Accounts for every row of the file, and every amount of what was read.
pub fn zero(kind: FileKind, table: &Table, analysis: &Analysis, currency: Currency) -> FileZero {
    let reading = &table.reading;
    let rejected: HashMap<u32, Reason> =
        analysis.rejected.iter().map(|rejected| (rejected.row, rejected.cause.reason())).collect();
    let sheet = |part: &Part| SheetZero { sheet: part.sheet.clone(), ..SheetZero::default() };
    let mut sheets: Vec<SheetZero> = reading.parts.iter().map(sheet).collect();
    let mut amounts: Vec<(usize, ColumnAmounts)> = columns(reading).collect();
    let mut last = 0;
    for row in table.rows.walk() {
        // The second line of a row that is two.
        if row.number == last {
            continue;
        }
        let fate = fate(kind, reading, &row, analysis, &rejected);
        if let Some(sheet) = sheets.get_mut(reading.part(row.number)) {
            // Text files are walked without their blank rows, which are there all the same.
            let blank = usize::try_from(row.number.saturating_sub(last + 1)).unwrap_or(0);
            if blank > 0 {
                sheet.take(Fate::Passed(RowKind::Blank), row.number, blank);
            }
            sheet.take(fate, reading.row(row.number), 1);
        }
        last = row.number.max(last);
        if reading.layout.is_below(row.number) {
            for (at, column) in &mut amounts {
                column.take(fate, amount(reading, &row, *at, currency));
            }
        }
    }
    let holds = |column: &ColumnAmounts| {
        column.sum != 0 || !column.left_out.is_empty() || column.taken != 0
    };
    sheets.extend(table.unread.iter().map(|(sheet, rows)| SheetZero::unread(sheet, *rows)));
    let amounts = amounts.into_iter().map(|(_, column)| column).filter(holds).collect();
    FileZero { sheets, amounts }
}

/// The columns that hold amounts, with their places; rates and what is not used among them.
fn columns(reading: &Reading) -> impl Iterator<Item = (usize, ColumnAmounts)> {
    let other = reading.layout.other_amounts();
    let holds = |column: &&ColumnFound| {
        let amounts = |field| AMOUNTS.contains(&field) || BESIDE.contains(&field);
        column.field.is_some_and(amounts) || other.contains(&column.at)
    };
    reading.layout.columns.iter().filter(holds).map(|column| {
        let (heading, means) = (column.heading.clone(), column.field);
        let left_out = BTreeMap::new();
        (column.at, ColumnAmounts { column: heading, means, sum: 0, taken: 0, left_out })
    })
}

fn fate(
    kind: FileKind,
    reading: &Reading,
    row: &RawRow,
    analysis: &Analysis,
    rejected: &HashMap<u32, Reason>,
) -> Fate {
    if let Some(reason) = rejected.get(&row.number) {
        return Fate::Rejected(*reason);
    }
    if let Some(kind) = analysis.row_kinds.get(&row.number) {
        return match kind {
            RowKind::Account | RowKind::Heading | RowKind::Sum => Fate::Taken(*kind),
            other => Fate::Passed(*other),
        };
    }
    let layout = &reading.layout;
    match () {
        () if row.is_blank() => Fate::Passed(RowKind::Blank),
        () if layout.is_head(row.number) => Fate::Passed(RowKind::Heads),
        () if !layout.is_below(row.number) => Fate::Passed(RowKind::Title),
        () if layout.aside(row.number).is_some() => {
            Fate::Passed(layout.aside(row.number).unwrap_or(RowKind::Title))
        }
        () if layout.heads_again(row) => Fate::Passed(RowKind::Repeated),
        () if !layout.is_body(row, &mut Vec::new()) => Fate::Passed(RowKind::Total),
        () if matches!(analysis.content, Content::Nothing) => Fate::Passed(RowKind::Title),
        () => Fate::Taken(taken_as(kind)),
    }
}

/// The amount in a cell: none where nothing stands, and an error where it is none.
fn amount(
    reading: &Reading,
    row: &RawRow,
    at: usize,
    currency: Currency,
) -> Option<Result<i64, ()>> {
    let cell = row.cells.get(at).filter(|cell| !cell.text.trim().is_empty())?;
    let mark = reading.mark_of(cell);
    Some(mark.read(currency, &cell.text).map_err(|_| ()))
}

impl ColumnAmounts {
    fn take(&mut self, fate: Fate, amount: Option<Result<i64, ()>>) {
        let Some(amount) = amount else { return };
        let Ok(amount) = amount.map(i128::from) else {
            self.left_out.entry(LeftOut::NoAmount).or_default().1 += 1;
            return;
        };
        self.sum += amount;
        let why = match (self.means, fate) {
            (None, _) => LeftOut::Unused,
            (Some(Column::Rate), _) => LeftOut::Rate,
            (Some(Column::Balance), Fate::Taken(_)) => LeftOut::Balance,
            (_, Fate::Passed(kind)) => LeftOut::Row(kind),
            (_, Fate::Rejected(reason)) => LeftOut::Rejected(reason),
            (_, Fate::Taken(_)) => {
                self.taken += amount;
                return;
            }
        };
        let left = self.left_out.entry(why).or_default();
        *left = (left.0 + amount, left.1 + 1);
    }
}
