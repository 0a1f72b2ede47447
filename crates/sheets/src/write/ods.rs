//! OpenDocument spreadsheets.

use super::sheet::{CannotWrite, ColumnKind, Columns, Term, Widths, formula, number, sheet_name};
use rust_xlsxwriter::utility::column_number_to_name;
use spreadsheet_ods::style::units::Length;
use spreadsheet_ods::{Sheet, WorkBook};
use zf_core::text::for_cell;
use zf_intake::rows::MAX_ROWS;

#[derive(Debug)]
pub(super) struct File {
    done: Vec<Sheet>,
    sheet: Sheet,
    columns: Columns,
    next: u32,
    widths: Widths,
}

/// About how wide a character is, in millimetres.
const CHARACTER: f64 = 2.1;

impl File {
    pub(super) fn new() -> Self {
        Self {
            done: Vec::new(),
            sheet: Sheet::new(""),
            columns: Vec::new(),
            next: 0,
            widths: Widths::default(),
        }
    }

    pub(super) fn begin(&mut self, name: &str, columns: &Columns) {
        self.close();
        self.sheet = Sheet::new(sheet_name(name));
        for (at, (title, _)) in (0..).zip(columns) {
            self.sheet.set_value(0, at, title.as_str());
        }
        self.widths = Widths::default();
        self.widths.row(columns.iter().map(|(title, _)| title.as_str()));
        self.columns.clone_from(columns);
        self.next = 1;
    }

    pub(super) fn row(&mut self, cells: &[String], sums: &[Term]) -> Result<(), CannotWrite> {
        if self.next as usize >= MAX_ROWS {
            return Err(CannotWrite::TooLong);
        }
        for (at, (text, (_, kind))) in (0_u16..).zip(cells.iter().zip(&self.columns)) {
            let column = u32::from(at);
            match number(text, *kind) {
                _ if text.is_empty() => {}
                Some(number) => {
                    self.sheet.set_value(self.next, column, number);
                    if *kind == ColumnKind::Money && !sums.is_empty() {
                        let letter = column_number_to_name(at);
                        let cells = |first, last| format!("[.{letter}{first}:.{letter}{last}]");
                        let sum = format!("of:={}", formula(sums, cells));
                        self.sheet.set_formula(self.next, column, sum);
                    }
                }
                None => self.sheet.set_value(self.next, column, for_cell(text).into_owned()),
            }
        }
        self.widths.row(cells.iter().map(String::as_str));
        self.next += 1;
        Ok(())
    }

    /// Puts the table that was written last beside those before.
    fn close(&mut self) {
        if self.columns.is_empty() {
            return;
        }
        for (at, width) in (0..).zip(&self.widths.0) {
            self.sheet.set_col_width(at, Length::Mm(*width as f64 * CHARACTER));
        }
        self.done.push(std::mem::replace(&mut self.sheet, Sheet::new("")));
    }

    pub(super) fn finish(mut self) -> Result<Vec<u8>, CannotWrite> {
        self.close();
        let mut book = WorkBook::new_empty();
        for sheet in self.done {
            book.push_sheet(sheet);
        }
        Ok(spreadsheet_ods::write_ods_buf(&mut book, Vec::new())?)
    }
}
