//! The table that is read of a file, and how: one sheet, or several of one form below each other.

use crate::cause::Cause;
use crate::columns::Column;
use crate::layout::{Chosen as ChosenLayout, Layout, NoLayout, SHOWN};
use crate::question::Question;
use crate::reading::{Chosen, Reading};
use crate::rows::{Corrected, Rows};
use crate::several::{self, Part, Together, Wanted};
use crate::shapes;
use crate::workbook::{Holds, also, kind_of};
use crate::{Hidden, RawRow, Sheet, Warning};
use zf_core::file_kind::FileKind;
use zf_core::money::Currency;

/// What is read of a file.
#[derive(Debug)]
pub struct Table {
    /// Its rows.
    pub rows: Box<dyn Rows>,
    /// The sheets that it is.
    pub sheets: Vec<usize>,
    /// How they are read.
    pub reading: Reading,
    /// What is not certain of it: which sheets are one table, what becomes of opening balances.
    pub questions: Vec<Question>,
    /// What is worth knowing of its rows.
    pub warnings: Vec<Warning>,
    /// The other sheets, with how many rows they have.
    pub unread: Vec<(String, usize)>,
    /// What other sheets hold, in the order in which it is brought in.
    pub also: Vec<Holds>,
    /// What the sheet looks like, when nothing of it can be read as what it is said to be.
    pub seems: Option<FileKind>,
}

/// Whether rows are those of a journal, which names accounts as well as a chart does.
fn is_journal(rows: &[RawRow]) -> bool {
    let layout = Layout::find(FileKind::Journal, rows, &ChosenLayout::default());
    layout.is_ok_and(|layout| {
        layout.lacking(FileKind::Journal).is_empty() && layout.place(Column::Date).is_some()
    })
}

impl Table {
    /// Finds the table that is read, corrects its cells and tells how it is read: of the sheets that
    /// lack nothing and are not hidden the one with most known columns, of equals the one with most
    /// rows. Others count where no such sheet is.
    ///
    /// # Errors
    /// When all sheets are empty, none is called as chosen, or there are more rows than such a file has.
    pub fn find(
        kind: FileKind,
        sheets: &mut [Sheet],
        currency: Currency,
        chosen: &Chosen,
    ) -> Result<Self, NoLayout> {
        let layout_of = ChosenLayout { base: Some(currency), ..chosen.layout.clone() };
        let asked = |sheet: &Sheet| chosen.sheet.as_ref().is_none_or(|name| *name == sheet.name);
        let mut best: Option<(_, usize, Layout)> = None;
        let mut problem = None;
        for (at, sheet) in sheets.iter().enumerate().filter(|(_, sheet)| asked(sheet)) {
            let start = sheet.rows.start(SHOWN);
            match Layout::find(kind, &start, &layout_of) {
                Ok(layout) => {
                    let enough = layout.lacking(kind).is_empty();
                    // With no other sheet to read there is nothing to choose.
                    let own = kind != FileKind::Chart || sheets.len() < 2 || !is_journal(&start);
                    let rank = (enough, !sheet.hidden, own, layout.known(), sheet.rows.count());
                    if best.as_ref().is_none_or(|(most, ..)| rank > *most) {
                        best = Some((rank, at, layout));
                    }
                }
                Err(error) => problem = Some(error),
            }
        }
        let (_, at, mut layout) = best.ok_or_else(|| {
            let name = chosen.sheet.clone().unwrap_or_default();
            problem.unwrap_or(NoLayout::NoSheet(name))
        })?;
        let mut also = also(kind, sheets);
        let looks = kind_of(&sheets[at]).filter(|looks| *looks != kind);
        let wanted = match (&chosen.sheet, chosen.all_sheets) {
            (Some(_), _) => Wanted::One,
            (None, true) => Wanted::All,
            (None, false) => Wanted::Either,
        };
        let Together { mut rows, sheets, parts, further, question, unread } =
            several::together(kind, sheets, at, &layout, wanted);
        let count = rows.count();
        if kind.most_rows().is_some_and(|most| count > most) {
            return Err(NoLayout::TooLong(kind, count));
        }
        if !chosen.corrections.is_empty() {
            rows = Box::new(Corrected { rows, corrections: chosen.corrections.clone() });
        }
        // Other cells, or more rows, may tell the columns otherwise.
        if !chosen.corrections.is_empty() || parts.len() > 1 {
            layout = Layout::find(kind, &rows.start(SHOWN), &layout_of)?;
        }
        layout.begin_again(further);
        let mut reading =
            Reading { parts, ..Reading::with_layout(layout, &*rows, currency, chosen) };
        let mut questions: Vec<Question> = question.into_iter().collect();
        let mut warnings = Vec::new();
        if kind == FileKind::Journal {
            rows = match shapes::lines(&reading, rows) {
                Ok(shaped) => {
                    questions.extend(shaped.question);
                    warnings = shaped.warnings;
                    let (layout, parts) = (shaped.layout, std::mem::take(&mut reading.parts));
                    reading = Reading {
                        parts,
                        ..Reading::with_layout(layout, &*shaped.rows, currency, chosen)
                    };
                    shaped.rows
                }
                Err(rows) => rows,
            };
        }
        // What can be read as what it is said to be is that.
        let seems = looks.filter(|_| !reading.layout.lacking(kind).is_empty());
        also.retain(|other| unread.iter().any(|(sheet, _)| *sheet == other.sheet));
        Ok(Self { rows, sheets, reading, questions, warnings, unread, also, seems })
    }

    /// What is worth knowing of its rows, and what is hidden of the sheets that it is read from.
    pub fn warnings(&self, sheets: &[Sheet]) -> Vec<Warning> {
        let parts = self.sheets.iter().zip(&self.reading.parts);
        let hidden = parts.flat_map(|(at, part)| warnings(&sheets[*at].hides, &self.reading, part));
        hidden.chain(self.warnings.iter().cloned()).collect()
    }

    /// What the sheet is called that it is read from, or the first of them; nothing for a text file.
    pub fn name(&self) -> &str {
        self.reading.parts.first().map_or("", |part| &part.sheet)
    }
}

/// Says what is hidden of a sheet that is a part of a table, since it is read like any other.
fn warnings(hidden: &Hidden, reading: &Reading, part: &Part) -> Vec<Warning> {
    let mut warnings = Vec::new();
    let rows = hidden.rows.iter().map(|row| row.saturating_add(part.above));
    let below = rows.filter(|row| reading.layout.is_below(*row));
    if let Some(row) = below.clone().min() {
        let cause = Cause::HiddenRows { first: reading.place(row), rows: below.count() };
        warnings.push(Warning { row, cause });
    }
    for column in &reading.layout.columns {
        let at = u32::try_from(column.at + 1).unwrap_or(u32::MAX);
        if hidden.columns.iter().any(|(first, last)| (*first..=*last).contains(&at)) {
            let cause = Cause::HiddenColumn { heading: column.heading.clone() };
            let row = reading.layout.header_row.saturating_add(part.above);
            warnings.push(Warning { row, cause });
        }
    }
    warnings
}
