//! Files out. Text is always written as text: a cell that looks like a formula never becomes one.

use rust_xlsxwriter::{Format, FormatAlign, FormatBorder, Workbook, Worksheet, XlsxError};

/// What the cells of a column hold.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum ColumnKind {
    /// Text, also codes, whose leading zeros count.
    Text,
    /// Amounts written with decimals.
    Money,
    /// Whole numbers.
    Count,
}

/// A table to write: a sheet of a workbook, or a CSV file.
#[derive(Clone, Debug, Default)]
pub struct Table {
    /// The name of the sheet.
    pub name: String,
    /// Headings with what stands under them.
    pub columns: Vec<(String, ColumnKind)>,
    /// Rows as long as the headings.
    pub rows: Vec<Vec<String>>,
}

/// Why a file could not be written.
#[derive(Debug, thiserror::Error)]
pub enum CannotWrite {
    /// The workbook library refused.
    #[error(transparent)]
    Xlsx(#[from] XlsxError),
    /// The CSV library refused.
    #[error(transparent)]
    Csv(#[from] csv::Error),
}

/// The most characters a sheet's name may have.
const MAX_SHEET_NAME: usize = 31;

/// Writes tables as the sheets of a workbook.
///
/// # Errors
/// When a table is larger than a sheet can be.
pub fn xlsx(tables: &[Table]) -> Result<Vec<u8>, CannotWrite> {
    let mut book = Workbook::new();
    for table in tables {
        write_sheet(book.add_worksheet(), table)?;
    }
    Ok(book.save_to_buffer()?)
}

fn write_sheet(sheet: &mut Worksheet, table: &Table) -> Result<(), XlsxError> {
    let name: String =
        table.name.chars().filter(|c| !"[]:*?/\\".contains(*c)).take(MAX_SHEET_NAME).collect();
    sheet.set_name(name)?;
    sheet.set_freeze_panes(1, 0)?;
    let heading = Format::new().set_bold().set_border_bottom(FormatBorder::Thin);
    let money =
        Format::new().set_num_format("#,##0.00;[Red]-#,##0.00").set_align(FormatAlign::Right);
    for (at, (title, _)) in (0..).zip(&table.columns) {
        sheet.write_string_with_format(0, at, title, &heading)?;
    }
    for (at, row) in (1..).zip(&table.rows) {
        for (column, (text, (_, kind))) in (0..).zip(row.iter().zip(&table.columns)) {
            // A spreadsheet holds numbers as floating point; this is the edge where ours end.
            match (kind, text.parse::<f64>()) {
                (_, _) if text.is_empty() => continue,
                (ColumnKind::Money, Ok(number)) => {
                    sheet.write_number_with_format(at, column, number, &money)?
                }
                (ColumnKind::Count, Ok(number)) => sheet.write_number(at, column, number)?,
                _ => sheet.write_string(at, column, text)?,
            };
        }
    }
    sheet.autofit();
    Ok(())
}

/// Writes a table as CSV, in UTF-8 with a mark so that spreadsheet programs read it as such. A text
/// that a spreadsheet would take for a formula gets an apostrophe in front.
///
/// # Errors
/// When the memory for it is not to be had.
pub fn csv(table: &Table) -> Result<Vec<u8>, CannotWrite> {
    let mut writer = csv::Writer::from_writer(vec![0xef, 0xbb, 0xbf]);
    writer.write_record(table.columns.iter().map(|(title, _)| title))?;
    for row in &table.rows {
        let cells = row.iter().zip(&table.columns).map(|(text, (_, kind))| match kind {
            ColumnKind::Text if is_armed(text) => format!("'{text}"),
            _ => text.clone(),
        });
        writer.write_record(cells)?;
    }
    writer.into_inner().map_err(|e| CannotWrite::Csv(e.into_error().into()))
}

/// Whether a spreadsheet would take a text for a formula, or one that was disarmed already would
/// lose its apostrophe when it is read back.
pub(crate) fn is_armed(text: &str) -> bool {
    text.trim_start_matches('\'').starts_with(['=', '+', '@', '-', '\t', '\r'])
}

#[cfg(test)]
mod tests {
    use super::*;

    fn table() -> Table {
        Table {
            name: "Chart [of] accounts/2026 which is a long name".to_owned(),
            columns: vec![
                ("Code".to_owned(), ColumnKind::Text),
                ("Balance".to_owned(), ColumnKind::Money),
            ],
            rows: vec![
                vec!["0100".to_owned(), "-12.50".to_owned()],
                vec!["=1+1".to_owned(), String::new()],
            ],
        }
    }

    fn cells(name: &str, content: &[u8]) -> Vec<Vec<String>> {
        let opened = crate::read(name, content, &crate::How::default()).unwrap();
        let rows = opened.sheets.into_iter().flat_map(|sheet| sheet.rows);
        rows.map(|row| row.cells.into_iter().map(|cell| cell.text).collect()).collect()
    }

    #[test]
    fn workbooks_keep_leading_zeros_and_never_run_formulas() {
        assert_eq!(
            cells("a.xlsx", &xlsx(&[table()]).unwrap()),
            [["Code", "Balance"], ["0100", "-12.5"], ["=1+1", ""]]
        );
    }

    #[test]
    fn csv_disarms_what_looks_like_a_formula() {
        let written = csv(&table()).unwrap();
        assert!(String::from_utf8_lossy(&written).contains("'=1+1"));
        assert_eq!(
            cells("a.csv", &written),
            [["Code", "Balance"], ["0100", "-12.50"], ["=1+1", ""]]
        );
    }
}
