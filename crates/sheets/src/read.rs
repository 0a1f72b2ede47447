//! Files in.

use calamine::{Data, DataType, Range, Reader};
use std::io::Cursor;
use zf_core::intake::RawRow;

/// The most rows that are read from a file: as many as a spreadsheet has.
pub const MAX_ROWS: usize = 1_048_576;

/// Why a file cannot be read. Nothing of it is used then.
#[derive(Debug, thiserror::Error)]
pub enum CannotRead {
    /// Neither CSV nor a spreadsheet by its name.
    #[error("“{0}” is not a CSV or XLSX file; save it as one of these first")]
    UnknownKind(String),
    /// Its content is not what its name says.
    #[error("the file is not a sound {kind} file: {reason}")]
    Damaged {
        /// What it should have been.
        kind: &'static str,
        /// What the reader said.
        reason: String,
    },
    /// More than [`MAX_ROWS`].
    #[error("the file has more than {MAX_ROWS} rows; split it")]
    TooLong,
}

/// Reads the rows of a file; of a workbook, those of the sheet with the most rows.
///
/// # Errors
/// When the file is of another kind, damaged or too long.
pub fn read(file_name: &str, content: &[u8]) -> Result<Vec<RawRow>, CannotRead> {
    let ending = file_name.rsplit_once('.').map(|(_, e)| e.to_ascii_lowercase());
    match ending.as_deref() {
        Some("csv" | "tsv" | "txt") => read_csv(content),
        Some("xlsx") => read_xlsx(content),
        _ => Err(CannotRead::UnknownKind(file_name.to_owned())),
    }
}

fn read_csv(content: &[u8]) -> Result<Vec<RawRow>, CannotRead> {
    let text = decode(content);
    let damaged = |reason: String| CannotRead::Damaged { kind: "CSV", reason };
    if text.contains('\0') {
        return Err(damaged("it holds binary data".to_owned()));
    }
    let mut reader = csv::ReaderBuilder::new()
        .has_headers(false)
        .flexible(true)
        .delimiter(delimiter(&text))
        .from_reader(text.as_bytes());
    let mut rows = Vec::new();
    // A spreadsheet shows a row for each blank line, which the reader passes over, and one row for a
    // record, even when a quoted cell has several lines.
    let mut folded = 0;
    for record in reader.records() {
        if rows.len() >= MAX_ROWS {
            return Err(CannotRead::TooLong);
        }
        let record = record.map_err(|e| damaged(e.to_string()))?;
        let (line, byte) = record.position().map_or((1, 0), |p| (p.line(), p.byte()));
        let rest = usize::try_from(byte).ok().and_then(|byte| text.as_bytes().get(byte..));
        let blank = rest.unwrap_or_default().iter().take_while(|b| matches!(b, b'\r' | b'\n'));
        let blank = blank.filter(|b| **b == b'\n').count() as u64;
        let number = u32::try_from(line + blank - folded).unwrap_or(u32::MAX);
        folded += record.iter().flat_map(str::bytes).filter(|b| *b == b'\n').count() as u64;
        rows.push(RawRow { number, cells: record.iter().map(str::to_owned).collect() });
    }
    Ok(rows)
}

/// UTF-8 and UTF-16 by their marks, UTF-8 when it is sound, else Windows-1252.
fn decode(content: &[u8]) -> String {
    if let Some((encoding, mark)) = encoding_rs::Encoding::for_bom(content) {
        return encoding.decode_without_bom_handling(&content[mark..]).0.into_owned();
    }
    match std::str::from_utf8(content) {
        Ok(text) => text.to_owned(),
        Err(_) => encoding_rs::WINDOWS_1252.decode(content).0.into_owned(),
    }
}

/// The delimiter that stands most often in the first lines, outside of quotes.
fn delimiter(text: &str) -> u8 {
    let mut counts = [(b',', 0), (b';', 0), (b'\t', 0), (b'|', 0)];
    let mut quoted = false;
    for byte in text.lines().take(20).flat_map(str::bytes) {
        quoted ^= byte == b'"';
        if let Some(count) = counts.iter_mut().find(|(d, _)| *d == byte && !quoted) {
            count.1 += 1;
        }
    }
    // Of equals the first wins: max_by_key would take the last.
    counts.iter().rev().max_by_key(|(_, count)| *count).map_or(b',', |(d, _)| *d)
}

fn read_xlsx(content: &[u8]) -> Result<Vec<RawRow>, CannotRead> {
    let damaged =
        |e: calamine::XlsxError| CannotRead::Damaged { kind: "XLSX", reason: e.to_string() };
    let mut book = calamine::Xlsx::new(Cursor::new(content)).map_err(damaged)?;
    let mut largest: Range<Data> = Range::empty();
    for name in book.sheet_names() {
        let range = book.worksheet_range(&name).map_err(damaged)?;
        if range.height() > largest.height() {
            largest = range;
        }
    }
    let first = largest.start().map_or(0, |(row, _)| row);
    let rows = (first + 1..).zip(largest.rows());
    Ok(rows
        .map(|(number, cells)| RawRow { number, cells: cells.iter().map(text_of).collect() })
        .collect())
}

/// The text of a cell: dates as 2026-09-24, whole numbers without decimals.
fn text_of(cell: &Data) -> String {
    if cell.is_datetime() || cell.is_datetime_iso() {
        return cell.as_date().map_or_else(|| cell.to_string(), |date| date.to_string());
    }
    match cell {
        Data::Empty => String::new(),
        Data::Bool(true) => "yes".to_owned(),
        Data::Bool(false) => "no".to_owned(),
        other => other.to_string(),
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    fn cells(name: &str, content: &[u8]) -> Vec<Vec<String>> {
        read(name, content).unwrap().into_iter().map(|row| row.cells).collect()
    }

    #[test]
    fn encodings_and_delimiters_are_told_by_content() {
        let wanted = vec![vec!["Code", "Name"], vec!["1000", "Café, till"]];
        let utf16: Vec<u8> = std::iter::once(0xfeff)
            .chain("Code\tName\n1000\tCafé, till\n".encode_utf16())
            .flat_map(u16::to_le_bytes)
            .collect();
        assert_eq!(cells("a.csv", "Code,Name\n1000,\"Café, till\"\n".as_bytes()), wanted);
        assert_eq!(cells("a.csv", b"Code;Name\r\n1000;Caf\xe9, till\r\n"), wanted);
        assert_eq!(cells("a.txt", &utf16), wanted);
    }

    #[test]
    fn what_is_not_what_its_name_says_is_refused() {
        let says = |name: &str, content: &[u8]| read(name, content).unwrap_err().to_string();
        assert!(says("a.pdf", b"").contains("is not a CSV or XLSX file"));
        assert!(says("a.xlsx", b"not a zip").contains("not a sound XLSX file"));
        assert!(says("a.csv", b"a\0b").contains("binary data"));
    }
}
