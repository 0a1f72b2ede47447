//! Spreadsheets: the cached value of every cell as text, with whether the spreadsheet itself holds
//! it as a number or a date.

use super::{CannotRead, MAX_CELLS, MAX_ROWS, Opened, hidden};
use calamine::{
    Data, DataType, Ods, OdsError, Range, Reader, SheetVisible, Xls, XlsError, Xlsx, XlsxError,
};
use std::io::Cursor;
use zf_core::intake::{Cell, RawRow, Sheet};

pub(super) fn read(kind: &'static str, content: &[u8]) -> Result<Opened, CannotRead> {
    let source = Cursor::new(content);
    let mut opened = match kind {
        "xlsx" => sheets("XLSX", Xlsx::new(source).map_err(xlsx)?, xlsx)?,
        "xls" => sheets("XLS", Xls::new(source).map_err(xls)?, xls)?,
        _ => sheets("ODS", Ods::new(source).map_err(ods)?, ods)?,
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

fn sheets<'a, B: Reader<Cursor<&'a [u8]>>>(
    kind: &'static str,
    mut book: B,
    failed: fn(B::Error) -> CannotRead,
) -> Result<Opened, CannotRead> {
    let listed: Vec<(String, bool)> = book
        .sheets_metadata()
        .iter()
        .map(|sheet| (sheet.name.clone(), sheet.visible != SheetVisible::Visible))
        .collect();
    let mut sheets = Vec::with_capacity(listed.len());
    for (name, hidden) in listed {
        // A chart or a macro is no sheet of cells and is passed over.
        let Ok(range) = book.worksheet_range(&name).map_err(failed) else { continue };
        sheets.push(Sheet { hidden, ..Sheet::new(&name, Box::new(rows(&range)?)) });
    }
    if sheets.is_empty() {
        return Err(damaged(kind, "it has no sheet of cells"));
    }
    Ok(Opened { kind, encoding: None, delimiter: None, sheets })
}

fn rows(range: &Range<Data>) -> Result<Vec<RawRow>, CannotRead> {
    let (first, left) = range.start().unwrap_or((0, 0));
    if range.height() > MAX_ROWS {
        return Err(CannotRead::TooLong);
    }
    if range.width() + left as usize > MAX_CELLS {
        return Err(CannotRead::TooWide(first + 1));
    }
    // The cells of a row are counted from the first column of the sheet, not of what is used of it.
    let margin = (0..left).map(|_| Cell::text(""));
    let row = |(number, cells): (u32, &[Data])| RawRow {
        number,
        cells: margin.clone().chain(cells.iter().map(cell)).collect(),
    };
    Ok((first + 1..).zip(range.rows()).map(row).collect())
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
