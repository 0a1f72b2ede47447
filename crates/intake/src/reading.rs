//! How a file is read: its layout, and how codes, amounts and dates are written in it. All of it is
//! told from the whole file, unless a person chose otherwise.

use super::cause::Cause;
use super::chart_options::ChartOptions;
use super::codes::{CodeStyle, CodesSeen, split};
use super::columns::Column;
use super::dates::{DateOrder, DatesSeen};
use super::layout::{Chosen as ChosenLayout, Layout, NoLayout, SHOWN};
use super::numbers::{AmountsSeen, DecimalMark, is_dash, is_sign};
use super::question::Answers;
use super::rows::{Corrections, Place, Rows};
use super::several::{self, Part};
use super::wordings::Settled;
use super::words::SideWord;
use super::{Cell, RawRow, Rejected};
use time::Date;
use zf_core::file_kind::FileKind;
use zf_core::money::Currency;

/// What a person chose instead of what was found.
#[derive(Clone, Debug, Default, PartialEq, Eq)]
pub struct Chosen {
    /// The name of the sheet.
    pub sheet: Option<String>,
    /// That all sheets of one form are one table.
    pub all_sheets: bool,
    /// Row of headings, and what columns mean.
    pub layout: ChosenLayout,
    /// The order of dates.
    pub dates: Option<DateOrder>,
    /// The decimal mark.
    pub decimal: Option<DecimalMark>,
    /// What wordings of classes and sections stand for.
    pub settled: Settled,
    /// Cells that are to be read as something else than what stands in them.
    pub corrections: Corrections,
    /// What was answered to questions.
    pub answers: Answers,
    /// What is wished of a chart.
    pub options: ChartOptions,
}

/// How a file is read.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct Reading {
    /// How it is laid out.
    pub layout: Layout,
    /// How codes are kept in it.
    pub codes: CodeStyle,
    /// The order of its dates; `None` when nothing in it tells.
    pub dates: Option<DateOrder>,
    /// The decimal mark of its amounts; `None` when nothing in it tells.
    pub decimal: Option<DecimalMark>,
    /// What a person settled about its wordings.
    pub settled: Settled,
    /// What was answered to questions.
    pub answers: Answers,
    /// What is wished of a chart.
    pub options: ChartOptions,
    /// The base currency of the books.
    pub currency: Currency,
    /// The sheets that it is read from.
    pub parts: Vec<Part>,
}

/// The columns that hold codes.
const CODES: [Column; 3] = [Column::Code, Column::NewCode, Column::Parent];

/// The columns that hold amounts.
pub(crate) const AMOUNTS: [Column; 5] =
    [Column::Debit, Column::Credit, Column::Amount, Column::Foreign, Column::Balance];

/// The largest amount of a line, in minor units: so many of them can be added up, and no company has
/// had more.
const LARGEST: u64 = 1_000_000_000_000_000;

impl Reading {
    /// Finds out how the rows of one sheet are read.
    ///
    /// # Errors
    /// When it is empty.
    pub fn of(
        kind: FileKind,
        rows: &dyn Rows,
        currency: Currency,
        chosen: &Chosen,
    ) -> Result<Self, NoLayout> {
        let layout = Layout::find(kind, &rows.start(SHOWN), &chosen.layout)?;
        Ok(Self::with_layout(layout, rows, currency, chosen))
    }

    /// How rows of a certain layout are read.
    pub(crate) fn with_layout(
        layout: Layout,
        rows: &dyn Rows,
        currency: Currency,
        chosen: &Chosen,
    ) -> Self {
        let (mut codes, mut dates) = (CodesSeen::default(), DatesSeen::default());
        let mut amounts = AmountsSeen::default();
        for row in layout.walk_body(rows) {
            let text = |field: &Column| {
                let cell = layout.raw(&row, *field).filter(|cell| !cell.native);
                cell.map(|cell| cell.text.as_str())
            };
            CODES.iter().filter_map(text).for_each(|text| codes.see(text));
            AMOUNTS.iter().filter_map(text).for_each(|text| amounts.see(currency, text));
            text(&Column::Date).into_iter().for_each(|text| dates.see(text));
        }
        Self {
            codes: codes.style(),
            dates: chosen.dates.or_else(|| dates.order()),
            decimal: chosen.decimal.or_else(|| amounts.mark()),
            settled: chosen.settled.clone(),
            answers: chosen.answers.clone(),
            options: chosen.options,
            currency,
            layout,
            parts: Vec::new(),
        }
    }

    /// Which of its sheets the row with a certain number is of.
    pub(crate) fn part(&self, number: u32) -> usize {
        several::part(&self.parts, number)
    }

    /// The number that a spreadsheet shows beside the row with a certain number.
    pub(crate) fn row(&self, number: u32) -> u32 {
        several::row(&self.parts, number)
    }

    /// Where the row with a certain number stands.
    pub fn place(&self, number: u32) -> Place {
        several::place(&self.parts, number)
    }

    /// The text of a code, without what the file has added to it; of a cell that holds code and
    /// name, its first part.
    pub fn code<'a>(&self, row: &'a RawRow, field: Column) -> &'a str {
        let own = self.codes.clean(self.layout.cell(row, field));
        if !own.is_empty() || field != Column::Code {
            return own;
        }
        let both = self.layout.cell(row, Column::CodeAndName);
        self.codes.clean(split(both).map_or(both, |(code, _)| code))
    }

    /// The text of a name; of a cell that holds code and name, its second part.
    pub fn name<'a>(&self, row: &'a RawRow) -> &'a str {
        let stairs = self.layout.stairs().iter().filter_map(|at| row.cells.get(*at));
        let stair = stairs.map(|cell| cell.text.trim()).find(|text| !text.is_empty());
        let own = stair.unwrap_or_else(|| self.layout.cell(row, Column::Name));
        if !own.is_empty() {
            return own;
        }
        split(self.layout.cell(row, Column::CodeAndName)).map_or("", |(_, name)| name)
    }

    /// The mark by which an amount in a cell is read.
    pub(crate) fn mark_of(&self, cell: &Cell) -> DecimalMark {
        if cell.native { DecimalMark::Point } else { self.decimal.unwrap_or(DecimalMark::Point) }
    }

    /// The date of a row.
    ///
    /// # Errors
    /// When it is no date, or could be two.
    pub fn date(&self, row: &RawRow) -> Result<Date, Rejected> {
        self.date_in(row, Column::Date)
    }

    /// The date in a column.
    ///
    /// # Errors
    /// When it is no date, or could be two.
    pub fn date_in(&self, row: &RawRow, column: Column) -> Result<Date, Rejected> {
        let text = self.layout.cell(row, column);
        DateOrder::read(self.dates, text).map_err(|e| self.layout.reject(row, column, e))
    }

    /// The amount in a column, in minor units; `None` when nothing stands there.
    ///
    /// # Errors
    /// When it is no amount of the currency, or could be two.
    pub fn amount(
        &self,
        row: &RawRow,
        field: Column,
        currency: Currency,
    ) -> Result<Option<i64>, Rejected> {
        // A dash says that nothing stands there.
        let is_filled = |cell: &&Cell| {
            let text = cell.text.trim();
            !text.is_empty() && !is_dash(text)
        };
        let Some(cell) = self.layout.raw(row, field).filter(is_filled) else { return Ok(None) };
        let read = |mark: DecimalMark| mark.read(currency, &cell.text);
        let found = match self.decimal {
            _ if cell.native => read(DecimalMark::Point),
            Some(mark) => read(mark),
            None => match (read(DecimalMark::Point), read(DecimalMark::Comma)) {
                (Ok(a), Ok(b)) if a != b => {
                    let cause = Cause::AmountAmbiguous { text: cell.text.trim().to_owned() };
                    return Err(self.layout.reject(row, field, cause));
                }
                (Ok(amount), _) | (_, Ok(amount)) => Ok(amount),
                (error, _) => error,
            },
        };
        let amount = found.map_err(|why| self.layout.reject(row, field, why))?;
        if amount.unsigned_abs() > LARGEST {
            let cause = Cause::AmountTooLarge { largest: LARGEST.into(), currency };
            return Err(self.layout.reject(row, field, cause));
        }
        Ok(Some(amount))
    }

    /// The amount in a column by its place, in minor units of the base currency; none where there is none.
    pub(crate) fn figure(&self, row: &RawRow, at: usize) -> Option<i64> {
        let cell = row.cells.get(at)?;
        self.mark_of(cell).read(self.currency, &cell.text).ok()
    }

    /// The one amount of a row, debits positive: of a debit or a credit column, or a signed amount,
    /// which a column of sides may turn.
    ///
    /// # Errors
    /// When there is none, more than one, or one that cannot be read.
    pub fn signed(&self, row: &RawRow, currency: Currency) -> Result<i64, Rejected> {
        let read = |field| self.amount(row, field, currency);
        let reject = |field, cause: Cause| self.layout.reject(row, field, cause);
        match (read(Column::Debit)?, read(Column::Credit)?, read(Column::Amount)?) {
            (None, None, Some(amount)) => Ok(if self.is_credit(row)? { -amount } else { amount }),
            (Some(debit), None | Some(0), None) => Ok(debit),
            (None | Some(0), Some(credit), None) => Ok(-credit),
            (None, None, None) => {
                let field = if self.layout.place(Column::Amount).is_some() {
                    Column::Amount
                } else {
                    Column::Debit
                };
                Err(reject(field, Cause::AmountMissing))
            }
            _ => Err(reject(Column::Debit, Cause::AmountTwice)),
        }
    }

    fn is_credit(&self, row: &RawRow) -> Result<bool, Rejected> {
        let text = self.layout.cell(row, Column::Side);
        let wording = super::columns::reduce(text);
        match super::words::side(&wording) {
            _ if is_sign(text) => Ok(text != "+"),
            None if wording.is_empty() => Ok(false),
            Some(side) => Ok(side == SideWord::Credit),
            None => Err(self.layout.reject(row, Column::Side, Cause::SideUnknown)),
        }
    }
}
