//! Spreadsheets: the cached value of every cell as text, with whether the spreadsheet itself holds
//! it as a number or a date.

use super::bounds::Bounds;
use super::indents::{self, Indents};
use super::opened::{CannotRead, Opened};
use super::{hidden, legacy, opendocument};
use calamine::{
    Data, DataType, Ods, OdsError, Reader, SheetVisible, Style, Xls, XlsError, Xlsx, XlsxError,
};
use std::collections::HashMap;
use std::io::Cursor;
use zf_intake::rows::{MAX_CELLS, MAX_ROWS};
use zf_intake::{Cell, RawRow, Sheet};
use zip::ZipArchive;

pub(super) fn read(kind: &'static str, content: &[u8]) -> Result<Opened, CannotRead> {
    let source = Cursor::new(content);
    let mut bounds = Bounds::default();
    let mut opened = match kind {
        "xlsx" => streamed(Xlsx::new(source).map_err(xlsx)?, &mut bounds)?,
        "xls" => {
            legacy::measure(content, &mut bounds)?;
            let book = Xls::new(source).map_err(xls)?;
            let names = listed(&book).into_iter().map(|(name, _)| name);
            let indents = names.zip(legacy::indents(content)).collect();
            sheets("XLS", book, indents, xls)?
        }
        _ => {
            if let Ok(mut archive) = ZipArchive::new(Cursor::new(content)) {
                opendocument::measure(&mut archive, &mut bounds)?;
            }
            sheets("ODS", Ods::new(source).map_err(ods)?, indents::open_document(content), ods)?
        }
    };
    let mut hides = hidden::of(kind, content);
    for sheet in &mut opened.sheets {
        sheet.hides = hides.remove(&sheet.name).unwrap_or_default();
    }
    Ok(opened)
}

fn damaged(kind: &'static str, reason: impl ToString) -> CannotRead {
    CannotRead::Damaged { kind, reason: reason.to_string() }
}

fn xlsx(error: XlsxError) -> CannotRead {
    match error {
        XlsxError::Password => CannotRead::Encrypted,
        other => damaged("XLSX", other),
    }
}

fn xls(error: XlsError) -> CannotRead {
    match error {
        XlsError::Password => CannotRead::Encrypted,
        other => damaged("XLS", other),
    }
}

fn ods(error: OdsError) -> CannotRead {
    match error {
        OdsError::Password => CannotRead::Encrypted,
        other => damaged("ODS", other),
    }
}

/// The names of the sheets of a book, with whether each is hidden.
fn listed<'a, B: Reader<Cursor<&'a [u8]>>>(book: &B) -> Vec<(String, bool)> {
    let sheets = book.sheets_metadata().iter();
    sheets.map(|sheet| (sheet.name.clone(), sheet.visible != SheetVisible::Visible)).collect()
}

fn opened(kind: &'static str, sheets: Vec<Sheet>) -> Result<Opened, CannotRead> {
    if sheets.is_empty() {
        return Err(damaged(kind, "it has no sheet of cells"));
    }
    Ok(Opened { kind, encoding: None, delimiter: None, sheets, question: None })
}

/// The sheets of a format whose reader lays them out; how large they are was counted before.
fn sheets<'a, B: Reader<Cursor<&'a [u8]>>>(
    kind: &'static str,
    mut book: B,
    mut indents: HashMap<String, Indents>,
    failed: fn(B::Error) -> CannotRead,
) -> Result<Opened, CannotRead> {
    let mut sheets = Vec::new();
    for (name, hidden) in listed(&book) {
        let moved = indents.remove(&name).unwrap_or_default();
        // A chart or a macro is no sheet of cells and is passed over.
        let Ok(range) = book.worksheet_range(&name).map_err(failed) else { continue };
        let mut rows = Rows::default();
        let (top, left) = range.start().unwrap_or((0, 0));
        for (row, column, data) in range.used_cells() {
            let place = (top + row as u32, left + column as u32);
            let indent = moved.get(&place).copied().unwrap_or(0);
            rows.put(place, Cell { indent, ..cell(data) })?;
        }
        sheets.push(Sheet { hidden, ..Sheet::new(&name, Box::new(rows.all)) });
    }
    opened(kind, sheets)
}

/// The sheets of an XLSX file, whose cells are read as they come.
fn streamed(mut book: Xlsx<Cursor<&[u8]>>, bounds: &mut Bounds) -> Result<Opened, CannotRead> {
    let mut sheets = Vec::new();
    for (name, hidden) in listed(&book) {
        let mut rows = Rows::default();
        // A chart or a macro is no sheet of cells and is passed over.
        let Ok(mut cells) = book.worksheet_cells_reader(&name) else { continue };
        let indents: Vec<u8> = cells.styles().iter().map(indent).collect();
        while let Some((next, style)) = cells.next_cell_with_style_id().map_err(xlsx)? {
            let data = Data::from(next.get_value().clone());
            if data.is_empty() {
                continue;
            }
            let indent = indents.get(style).copied().unwrap_or(0);
            let cell = Cell { indent, ..cell(&data) };
            bounds.text(cell.text.len() as u64)?;
            bounds.cells(rows.put(next.get_position(), cell)?)?;
        }
        rows.sort();
        sheets.push(Sheet { hidden, ..Sheet::new(&name, Box::new(rows.all)) });
    }
    opened("XLSX", sheets)
}

fn indent(style: &Style) -> u8 {
    style.alignment.as_ref().and_then(|alignment| alignment.indent).unwrap_or(0)
}

/// The rows of a sheet that hold something.
#[derive(Default)]
struct Rows {
    all: Vec<RawRow>,
}

impl Rows {
    /// Puts a cell in its place, counted from zero, and answers how many cells that took: those
    /// before it in its row are there as well.
    fn put(&mut self, (row, column): (u32, u32), cell: Cell) -> Result<u64, CannotRead> {
        let (number, at) = (row.saturating_add(1), column as usize);
        if row as usize >= MAX_ROWS {
            return Err(CannotRead::TooLong);
        }
        if at >= MAX_CELLS {
            return Err(CannotRead::TooWide(number));
        }
        if self.all.last().is_none_or(|last| last.number != number) {
            self.all.push(RawRow { number, cells: Vec::new() });
        }
        let Some(RawRow { cells, .. }) = self.all.last_mut() else { return Ok(0) };
        let before = cells.len();
        if at < before {
            cells[at] = cell;
            return Ok(0);
        }
        cells.resize_with(at, Cell::default);
        cells.push(cell);
        Ok((cells.len() - before) as u64)
    }

    /// Brings rows into their order. Hardly any file has them otherwise.
    fn sort(&mut self) {
        if !self.all.is_sorted_by_key(|row| row.number) {
            self.all.sort_by_key(|row| row.number);
        }
    }
}

fn cell(data: &Data) -> Cell {
    match data {
        Data::Empty => Cell::text(""),
        Data::String(text) => Cell::text(text),
        Data::Bool(true) => Cell::text("yes"),
        Data::Bool(false) => Cell::text("no"),
        Data::Int(number) => Cell::native(number.to_string()),
        Data::Float(number) => Cell::native(decimal(*number)),
        date if date.is_datetime() || date.is_datetime_iso() => match date.as_date() {
            Some(day) => Cell::native(day.to_string()),
            None => Cell::text(&date.to_string()),
        },
        other => Cell::text(&other.to_string()),
    }
}

/// A number as a spreadsheet shows it: with 15 significant digits, so that 0.1 + 0.2 is 0.3.
fn decimal(number: f64) -> String {
    let magnitude = if number == 0.0 { 0 } else { number.abs().log10().floor() as i32 };
    if !(-15..15).contains(&magnitude) {
        return number.to_string();
    }
    let places = usize::try_from(14 - magnitude).unwrap_or(0);
    let text = format!("{number:.places$}");
    match text.split_once('.') {
        Some(_) => text.trim_end_matches('0').trim_end_matches('.').to_owned(),
        None => text,
    }
}

#[cfg(test)]
mod tests {
    use super::decimal;

    #[test]
    fn numbers_are_shown_as_a_spreadsheet_shows_them() {
        for (number, text) in [
            (1000.0, "1000"),
            (0.1 + 0.2, "0.3"),
            (1234.1, "1234.1"),
            (-99_999_999.99, "-99999999.99"),
            (0.0, "0"),
            (0.005, "0.005"),
            (123_456_789_012_345.0, "123456789012345"),
        ] {
            assert_eq!(decimal(number), text);
        }
    }
}
