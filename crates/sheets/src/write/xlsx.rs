//! Workbooks of Office Open XML. Rows go to a temporary file as they come, so that a long journal
//! takes little memory.

use super::sheet::{CannotWrite, ColumnKind, Columns, Term, Widths, formula, number, sheet_name};
use rust_xlsxwriter::utility::column_number_to_name;
use rust_xlsxwriter::{Format, FormatAlign, FormatBorder, Formula, Workbook};
use zf_core::text::for_cell;
use zf_intake::rows::MAX_ROWS;

pub(super) struct File {
    book: Workbook,
    /// The tables so far: their columns, the next row, and the widths.
    sheets: Vec<(Columns, u32, Widths)>,
    money: Format,
    heading: Format,
}

impl File {
    pub(super) fn new() -> Self {
        let money =
            Format::new().set_num_format("#,##0.00;[Red]-#,##0.00").set_align(FormatAlign::Right);
        let heading = Format::new().set_bold().set_border_bottom(FormatBorder::Thin);
        Self { book: Workbook::new(), sheets: Vec::new(), money, heading }
    }

    pub(super) fn begin(&mut self, name: &str, columns: &Columns) -> Result<(), CannotWrite> {
        let sheet = self.book.add_worksheet_with_low_memory()?;
        sheet.set_name(sheet_name(name))?;
        sheet.set_freeze_panes(1, 0)?;
        for (at, (title, _)) in (0..).zip(columns) {
            sheet.write_string_with_format(0, at, title, &self.heading)?;
        }
        let mut widths = Widths::default();
        widths.row(columns.iter().map(|(title, _)| title.as_str()));
        self.sheets.push((columns.clone(), 1, widths));
        Ok(())
    }

    pub(super) fn row(&mut self, cells: &[String], sums: &[Term]) -> Result<(), CannotWrite> {
        let at = self.sheets.len().saturating_sub(1);
        let Some((columns, next, widths)) = self.sheets.get_mut(at) else { return Ok(()) };
        if *next as usize >= MAX_ROWS {
            return Err(CannotWrite::TooLong);
        }
        let sheet = self.book.worksheet_from_index(at)?;
        for (column, (text, (_, kind))) in (0..).zip(cells.iter().zip(columns.iter())) {
            match number(text, *kind) {
                _ if text.is_empty() => continue,
                Some(_) if *kind == ColumnKind::Money && !sums.is_empty() => {
                    let letter = column_number_to_name(column);
                    let sum =
                        formula(sums, |first, last| format!("{letter}{first}:{letter}{last}"));
                    let sum = Formula::new(sum).set_result(text);
                    sheet.write_formula_with_format(*next, column, sum, &self.money)?
                }
                Some(number) if *kind == ColumnKind::Money => {
                    sheet.write_number_with_format(*next, column, number, &self.money)?
                }
                Some(number) => sheet.write_number(*next, column, number)?,
                None => sheet.write_string(*next, column, for_cell(text))?,
            };
        }
        widths.row(cells.iter().map(String::as_str));
        *next += 1;
        Ok(())
    }

    pub(super) fn finish(mut self) -> Result<Vec<u8>, CannotWrite> {
        for (at, (_, _, widths)) in self.sheets.iter().enumerate() {
            let sheet = self.book.worksheet_from_index(at)?;
            for (column, width) in (0..).zip(&widths.0) {
                sheet.set_column_width(column, *width as f64)?;
            }
        }
        Ok(self.book.save_to_buffer()?)
    }
}
