//! How a file is laid out: which row has the headings, what each column means, and which rows
//! below are neither blank, totals nor headings once more.

mod assign;
mod fit;

use crate::columns::{Column, dimension, reduce, required};
use crate::reason::Reason;
use crate::rows::Rows;
use crate::{Cell, RawRow, Rejected, Sheet, Warning, words};
use fit::Cells;
use std::borrow::Cow;
use std::collections::BTreeMap;
use zf_core::file_kind::FileKind;
use zf_core::text::{self, counted};

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

/// Among how many rows one is like what the columns hold, where a list has no headings.
const BEGINNING: usize = 6;

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
    /// How many headings are known.
    told: usize,
    /// How plainly, in all.
    plainly: i64,
    /// The rows of headings as they stand.
    heads: Vec<RawRow>,
    /// Columns that hold amounts and mean nothing here.
    amounts: Vec<usize>,
    /// Columns side by side that hold the names of one level each.
    stairs: Vec<usize>,
    /// Where the same columns begin once more.
    second: Option<usize>,
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
    /// of those the one with most headings that are known. Headings may stand in two rows. Which column
    /// means what is told by headings and cells together, for all columns at once. What is still
    /// [lacking](Self::lacking) a person has to say. `rows` need not be more than the first [`SHOWN`].
    ///
    /// # Errors
    /// When the sheet is empty.
    pub fn find(kind: FileKind, rows: &[RawRow], chosen: &Chosen) -> Result<Self, NoLayout> {
        if rows.iter().all(RawRow::is_blank) {
            return Err(NoLayout::Empty);
        }
        let fields: Vec<Column> = possible(kind).collect();
        let of = |heads: Vec<&RawRow>| Self::of(kind, &fields, heads, rows, chosen);
        if chosen.header_row == Some(0) {
            return Ok(of(Vec::new()));
        }
        let asked = |row: &RawRow| chosen.header_row.is_none_or(|number| row.number == number);
        let mut best: Option<((bool, usize, bool, i64), Self)> = None;
        let mut consider = |heads: Vec<&RawRow>| {
            // Without one heading that is known the cells below could make any row one.
            let row = joined(&heads);
            let meant = || row.filled().any(|(_, text)| chosen.columns.contains_key(text));
            if chosen.header_row.is_none() && !fit::is_head(kind, &fields, &row) && !meant() {
                return;
            }
            let layout = of(heads);
            if layout.told == 0 && chosen.header_row.is_none() {
                return;
            }
            let wide = layout.columns.len() > 1;
            let rank = (layout.lacking(kind).is_empty(), layout.told, wide, layout.plainly);
            // Of equals the first: headings stand above what they head.
            if best.as_ref().is_none_or(|(most, _)| rank > *most) {
                best = Some((rank, layout));
            }
        };
        let searched = &rows[..rows.len().min(SEARCHED)];
        for row in searched.iter().filter(|row| asked(row) && !row.is_blank()) {
            consider(vec![row]);
        }
        for pair in searched.windows(2).filter(|pair| asked(&pair[1])) {
            let titles = |row: &RawRow| {
                let digits = |text: &str| text.contains(|c: char| c.is_ascii_digit());
                row.filled().count() > 1 && !row.filled().any(|(_, text)| digits(text))
            };
            let same = pair[0].filled().any(|(at, text)| {
                pair[1].cells.get(at).is_some_and(|cell| cell.text.trim() == text)
            });
            if pair.iter().all(titles) && !same {
                consider(pair.iter().collect());
            }
        }
        let found = best.map(|(_, layout)| layout);
        if chosen.header_row.is_some() {
            return found.ok_or(NoLayout::NoRow);
        }
        if found.as_ref().is_some_and(|layout| layout.lacking(kind).is_empty()) {
            return found.ok_or(NoLayout::NoRow);
        }
        // A list that begins at once has no headings, but cells that tell enough.
        let bare = of(Vec::new());
        let first = rows.iter().find(|row| !row.is_blank());
        let mut start = rows.iter().filter(|row| !row.is_blank()).take(BEGINNING);
        if bare.lacking(kind).is_empty() && start.any(|row| bare.is_like(row)) {
            return Ok(bare);
        }
        let first = first.filter(|_| found.is_none());
        found.or_else(|| first.map(|row| of(vec![row]))).ok_or(NoLayout::NoRow)
    }

    /// Whether a row has what the columns hold, rather than their headings.
    fn is_like(&self, row: &RawRow) -> bool {
        let code = self.cell(row, Column::Code);
        let both = self.cell(row, Column::CodeAndName);
        code.contains(|c: char| c.is_ascii_digit()) || crate::codes::split(both).is_some()
    }

    /// The layout with certain rows of headings; with none the columns are called by letters.
    fn of(
        kind: FileKind,
        fields: &[Column],
        heads: Vec<&RawRow>,
        rows: &[RawRow],
        chosen: &Chosen,
    ) -> Self {
        let header_row = heads.last().map_or(0, |row| row.number);
        let head = if heads.is_empty() {
            letters(&rows.iter().collect::<Vec<_>>())
        } else {
            joined(&heads)
        };
        // A heading is kept with the file, and choices go by it: so it is taken as it can be kept.
        let mut headings: Vec<_> =
            head.filled().map(|(at, text)| (at, text::shown(text))).collect();
        let below: Vec<_> =
            rows.iter().filter(|row| row.number > header_row).take(SAMPLED).collect();
        // What stands below nothing is there all the same.
        let names = letters(&below);
        let unheaded = names.filled().map(|(at, name)| (at, name.to_owned())).filter(|(at, _)| {
            let text = |row: &&RawRow, at: usize| {
                row.cells.get(at).is_some_and(|cell| !cell.text.trim().is_empty())
            };
            !text(&&head, *at) && below.iter().any(|row| text(row, *at))
        });
        headings.extend(unheaded);
        headings.sort_by_key(|(at, _)| *at);
        let cells = |at: usize| Cells::of(below.iter().filter_map(move |row| row.cells.get(at)));
        let mut fits: Vec<Vec<i64>> = headings
            .iter()
            .map(|(at, heading)| {
                let words =
                    if heads.is_empty() { Vec::new() } else { words::heading_words(heading) };
                let cells = cells(*at);
                let fit = |field: &Column| match chosen.columns.get(heading) {
                    Some(Meaning::Field(own)) if own == field => assign::CHOSEN,
                    Some(_) => 0,
                    None => fit::fit(kind, *field, &words, &cells).unwrap_or(0),
                };
                fields.iter().map(fit).collect()
            })
            .collect();
        if kind == FileKind::Chart {
            prefer_beside_codes(&mut fits, fields, &headings, &below);
        }
        let given: Vec<Option<Column>> =
            assign::best(&fits).into_iter().map(|at| at.map(|at| fields[at])).collect();
        let told = given.iter().zip(&headings).filter_map(|(field, (_, heading))| {
            let told = fit::told(kind, (*field)?, &words::heading_words(heading));
            (!heads.is_empty() && told >= fit::TOLD).then_some(told)
        });
        let told: Vec<i64> = told.collect();
        let mut layout = Self {
            header_row,
            told: told.len(),
            plainly: told.iter().sum(),
            places: given
                .iter()
                .zip(&headings)
                .filter_map(|(f, (at, _))| Some(((*f)?, *at)))
                .collect(),
            heads: heads.into_iter().cloned().collect(),
            columns: Vec::new(),
            amounts: Vec::new(),
            stairs: Vec::new(),
            second: None,
        };
        if kind == FileKind::Chart {
            layout.find_stairs(&below);
        }
        for ((at, heading), field) in headings.iter().zip(given) {
            let named = match chosen.columns.get(heading) {
                _ if field.is_some() => None,
                Some(Meaning::Dimension) => Some(reduce(heading)),
                Some(_) => None,
                None => dimension(kind, heading),
            };
            if field.is_none() && named.is_none() && cells(*at).are_amounts() {
                layout.amounts.push(*at);
            }
            layout.columns.push(ColumnFound {
                at: *at,
                heading: heading.clone(),
                field,
                dimension: named,
            });
        }
        if kind == FileKind::Chart {
            layout.find_second_table();
        }
        layout
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

    /// How many columns are known by their headings.
    pub fn known(&self) -> usize {
        self.told
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

    /// Goes through the rows below the headings that hold something, totals and all.
    pub fn walk_below<'a>(
        &'a self,
        rows: &'a dyn Rows,
    ) -> impl Iterator<Item = Cow<'a, RawRow>> + Send {
        rows.walk().filter(|row| row.number > self.header_row && !row.is_blank())
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
        if self.heads_again(row) {
            return Some((Reason::HeaderAgain, "the headings stand here once more; passed over"));
        }
        // A total has no code: where its words stand in the column of codes, it has no digit.
        let code = self.cell(row, Column::Code);
        let uncoded = code.is_empty() || is_total(code);
        let total = uncoded && row.filled().any(|(_, text)| is_total(text));
        total.then_some((Reason::TotalRow, "a row of totals; passed over"))
    }

    /// Finds where the same headings begin once more: at the place from which on each is what stands as
    /// far to the right of the first.
    fn find_second_table(&mut self) {
        let heading = |column: &ColumnFound| reduce(&column.heading);
        let Some(first) = self.columns.first() else { return };
        self.second = self.columns.iter().skip(2).map(|column| column.at).find(|at| {
            let (left, right): (Vec<_>, Vec<_>) =
                self.columns.iter().partition(|column| column.at < *at);
            let told = left.iter().filter(|column| column.field.is_some()).count();
            let places = |part: &[&ColumnFound], from: usize| {
                part.iter().map(|c| (c.at - from, heading(c))).collect::<Vec<_>>()
            };
            told > 1 && first.at == 0 && places(&left, 0) == places(&right, *at)
        });
        if let Some(second) = self.second {
            // Whatever was found in the second table stands in the first.
            for place in self.places.values_mut().filter(|place| **place >= second) {
                *place -= second;
            }
            for column in &mut self.columns {
                let field = self.places.iter().find(|(_, place)| **place == column.at);
                column.field = field.map(|(field, _)| *field);
            }
            self.columns.retain(|column| column.at < second);
            self.amounts.retain(|at| *at < second);
        }
    }

    /// Where the same columns begin once more, for a second table beside the first.
    pub(crate) fn second_table(&self) -> Option<usize> {
        self.second
    }

    /// Finds columns side by side of which each row has a name in one.
    fn find_stairs(&mut self, rows: &[&RawRow]) {
        let own = self.place(Column::Name);
        let taken = |at: &usize| self.places.values().any(|place| place == at) && Some(*at) != own;
        let width = rows.iter().map(|row| row.cells.len()).max().unwrap_or(0);
        let text =
            |row: &RawRow, at: usize| row.cells.get(at).map_or("", |c| c.text.trim()).to_owned();
        let worded = |at: &usize| {
            let texts: Vec<_> =
                rows.iter().map(|row| text(row, *at)).filter(|t| !t.is_empty()).collect();
            !texts.is_empty() && texts.iter().all(|t| t.contains(char::is_alphabetic))
        };
        let runs = (0..width).map(|at| !taken(&at) && worded(&at)).collect::<Vec<_>>();
        let mut at = 0;
        while at < width {
            let long = runs[at..].iter().take_while(|fits| **fits).count();
            let one =
                |row: &&&RawRow| (at..at + long).filter(|n| !text(row, *n).is_empty()).count() < 2;
            if long > 1 && rows.len() > 2 && rows.iter().filter(one).count() == rows.len() {
                self.stairs = (at..at + long).collect();
                self.places.insert(Column::Name, at);
                return;
            }
            at += long.max(1);
        }
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

/// Of columns that could be names the one counts more that is filled where codes are.
fn prefer_beside_codes(
    fits: &mut [Vec<i64>],
    fields: &[Column],
    headings: &[(usize, String)],
    rows: &[&RawRow],
) {
    let place = |field: Column| fields.iter().position(|own| *own == field);
    let (Some(code), Some(name)) = (place(Column::Code), place(Column::Name)) else { return };
    let coded = (0..fits.len()).max_by_key(|at| fits[*at][code]).filter(|at| fits[*at][code] > 0);
    let Some(coded) = coded else { return };
    let filled = |row: &RawRow, at: usize| {
        row.cells.get(at).is_some_and(|cell| !cell.text.trim().is_empty())
    };
    let with_code: Vec<_> = rows.iter().filter(|row| filled(row, headings[coded].0)).collect();
    for (at, fit) in fits.iter_mut().enumerate().filter(|(at, fit)| *at != coded && fit[name] > 0) {
        let beside = with_code.iter().filter(|row| filled(row, headings[at].0)).count();
        fit[name] += i64::try_from(beside * 20 / with_code.len().max(1)).unwrap_or(0);
    }
}

/// A row of headings for a sheet that has none.
fn letters(rows: &[&RawRow]) -> RawRow {
    let width = rows.iter().map(|row| row.cells.len()).max().unwrap_or(0);
    let name = |at: usize| {
        let letter = |n: usize| char::from(b'A' + u8::try_from(n % 26).unwrap_or(0));
        let first = (at / 26).checked_sub(1).map(letter);
        Cell::text(&format!("Column {}{}", first.map_or(String::new(), String::from), letter(at)))
    };
    RawRow { number: 0, cells: (0..width).map(name).collect() }
}

/// Headings of two rows as one: what is merged over several columns stands over each of them.
fn joined(heads: &[&RawRow]) -> RawRow {
    let Some((last, above)) = heads.split_last() else {
        return RawRow { number: 0, cells: Vec::new() };
    };
    let mut row = (*last).clone();
    for upper in above {
        let mut over = "";
        for at in 0..row.cells.len().max(upper.cells.len()) {
            let here = upper.cells.get(at).map_or("", |cell| cell.text.trim());
            let own = row.cells.get(at).map_or("", |cell| cell.text.trim());
            over = if here.is_empty() && !own.is_empty() { over } else { here };
            let text = format!("{over} {own}");
            if row.cells.len() <= at {
                row.cells.push(Cell::default());
            }
            row.cells[at] = Cell::text(text.trim());
        }
    }
    row
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
