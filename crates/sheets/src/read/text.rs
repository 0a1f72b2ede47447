//! Text files: their encoding and delimiter are told from the whole file.

use super::encoding;
use super::opened::{CannotRead, How, Opened};
use crate::write::is_armed;
use csv_core::ReadFieldResult;
use encoding_rs::Encoding;
use std::borrow::Cow;
use std::collections::HashMap;
use zf_core::text::LONGEST;
use zf_intake::audit::of_entries;
use zf_intake::rows::{MAX_CELLS, MAX_ROWS};
use zf_intake::rows::{Rows, Walk};
use zf_intake::{Cell, RawRow, Sheet};

/// The delimiters that are looked for; of equals the first wins.
const DELIMITERS: [char; 5] = [',', ';', '\t', '|', '^'];

/// How many records tell the delimiter.
const TRIED: usize = 400;

/// Whether bytes can be a text: they have no zero byte, or every other one is zero.
pub(super) fn is_text(content: &[u8]) -> bool {
    Encoding::for_bom(content).is_some()
        || encoding::wide(content).is_some()
        || !content.contains(&0)
}

pub(super) fn read(content: Vec<u8>, how: &How) -> Result<Opened, CannotRead> {
    let detected = match &how.encoding {
        Some(name) => encoding::called(name)?,
        None => encoding::detect(&content),
    };
    let text = decode(content, detected.encoding)?;
    // Some programs end lines with a carriage return alone.
    let text = if text.contains('\n') { text } else { text.replace('\r', "\n") };
    let delimiter = how.delimiter.unwrap_or_else(|| delimiter(&text));
    if let Some(line) = long_cell(&text, delimiter, usize::MAX) {
        return Err(CannotRead::LongCell(line));
    }
    let rows: Box<dyn Rows> = Box::new(TextRows::of(text, delimiter)?);
    let (kind, sheets) = match of_entries(rows) {
        Ok(sheets) => ("FEC", sheets.into()),
        Err(rows) => ("CSV", vec![Sheet::new("", rows)]),
    };
    let (encoding, delimiter) = (Some(detected.encoding.name()), Some(delimiter));
    Ok(Opened { kind, encoding, delimiter, sheets, question: detected.question() })
}

/// The text in an encoding.
fn decode(content: Vec<u8>, encoding: &'static Encoding) -> Result<String, CannotRead> {
    let borrowed = match encoding.decode_with_bom_removal(&content).0 {
        Cow::Owned(text) => return Ok(text),
        Cow::Borrowed(text) => text.len(),
    };
    // What needs no decoding is not copied: the text is the end of the content, behind its mark.
    let mut content = content;
    content.drain(..content.len() - borrowed);
    String::from_utf8(content)
        .map_err(|e| CannotRead::Damaged { kind: "CSV", reason: e.to_string() })
}

fn parser(text: &str, delimiter: char) -> csv::Reader<&[u8]> {
    csv::ReaderBuilder::new()
        .has_headers(false)
        .flexible(true)
        // Every delimiter that is looked for is one byte; any other falls back to the comma.
        .delimiter(u8::try_from(delimiter).unwrap_or(b','))
        .from_reader(text.as_bytes())
}

/// On which line a cell begins that is longer than any spreadsheet holds, among so many records. It is read into
/// a place that holds no more: a quotation mark that is left open takes in the whole rest of a file.
fn long_cell(text: &str, delimiter: char, records: usize) -> Option<u64> {
    let delimiter = u8::try_from(delimiter).unwrap_or(b',');
    let mut reader = csv_core::ReaderBuilder::new().delimiter(delimiter).build();
    let mut cell = vec![0; 4 * LONGEST];
    let (mut rest, mut seen, mut length, mut begins) = (text.as_bytes(), 0, 0, 1);
    loop {
        let (result, read, written) = reader.read_field(rest, &mut cell[length..]);
        rest = &rest[read..];
        length += written;
        match result {
            ReadFieldResult::OutputFull => return Some(begins),
            ReadFieldResult::InputEmpty => {}
            ReadFieldResult::End => return None,
            ReadFieldResult::Field { record_end } => {
                let is_long = || String::from_utf8_lossy(&cell[..length]).chars().count() > LONGEST;
                if length > LONGEST && is_long() {
                    return Some(begins);
                }
                (length, begins) = (0, reader.line());
                seen += usize::from(record_end);
                if seen >= records {
                    return None;
                }
            }
        }
    }
}

/// The delimiter that parts most records into the same number of cells.
fn delimiter(text: &str) -> char {
    let score = |delimiter: &char| {
        if long_cell(text, *delimiter, TRIED).is_some() {
            return 0;
        }
        let mut widths: HashMap<usize, usize> = HashMap::new();
        for record in parser(text, *delimiter).records().take(TRIED).flatten() {
            if record.len() > 1 {
                *widths.entry(record.len()).or_default() += 1;
            }
        }
        // Many records of one width speak for a delimiter, and so do many cells.
        widths.into_iter().map(|(width, records)| records * 8 + width.min(7)).max().unwrap_or(0)
    };
    let scored: Vec<(char, usize)> = DELIMITERS.iter().map(|d| (*d, score(d))).collect();
    let best = scored.iter().map(|(_, score)| *score).max().unwrap_or(0);
    scored.into_iter().find(|(_, score)| *score == best).map_or(',', |(delimiter, _)| delimiter)
}

/// A cell, without the apostrophe that keeps a spreadsheet from taking it for a formula.
fn cell(text: &str) -> Cell {
    let bare = text.strip_prefix('\'').filter(|rest| is_armed(rest));
    Cell::text(bare.unwrap_or(text))
}

/// The rows of a text, which are parsed anew each time they are gone through.
struct TextRows {
    text: String,
    delimiter: char,
    count: usize,
}

impl std::fmt::Debug for TextRows {
    fn fmt(&self, f: &mut std::fmt::Formatter<'_>) -> std::fmt::Result {
        write!(f, "{} rows of text", self.count)
    }
}

impl TextRows {
    fn of(text: String, delimiter: char) -> Result<Self, CannotRead> {
        let mut count = 0;
        for row in Parsed::of(&text, delimiter) {
            row?;
            count += 1;
            if count > MAX_ROWS {
                return Err(CannotRead::TooLong);
            }
        }
        Ok(Self { text, delimiter, count })
    }
}

impl Rows for TextRows {
    fn walk(&self) -> Walk<'_> {
        // That every row can be parsed was seen when they were counted.
        Box::new(Parsed::of(&self.text, self.delimiter).map_while(Result::ok).map(Cow::Owned))
    }

    fn count(&self) -> usize {
        self.count
    }
}

/// Rows as they are parsed.
struct Parsed<'a> {
    text: &'a str,
    reader: csv::Reader<&'a [u8]>,
    record: csv::StringRecord,
    /// How many line ends stood in quoted cells so far.
    folded: u64,
}

impl<'a> Parsed<'a> {
    fn of(text: &'a str, delimiter: char) -> Self {
        let (reader, record) = (parser(text, delimiter), csv::StringRecord::new());
        Self { text, reader, record, folded: 0 }
    }

    /// A spreadsheet shows a row for each blank line, which the parser passes over, and one row for
    /// a record, even when a quoted cell has several lines.
    fn number(&mut self) -> u32 {
        let (line, byte) = self.record.position().map_or((1, 0), |p| (p.line(), p.byte()));
        let rest = usize::try_from(byte).ok().and_then(|byte| self.text.as_bytes().get(byte..));
        let blank = rest.unwrap_or_default().iter().take_while(|b| matches!(b, b'\r' | b'\n'));
        let blank = blank.filter(|b| **b == b'\n').count() as u64;
        let number = u32::try_from(line + blank - self.folded).unwrap_or(u32::MAX);
        let ends = self.record.iter().flat_map(str::bytes).filter(|b| *b == b'\n');
        self.folded += ends.count() as u64;
        number
    }
}

impl Iterator for Parsed<'_> {
    type Item = Result<RawRow, CannotRead>;

    fn next(&mut self) -> Option<Self::Item> {
        match self.reader.read_record(&mut self.record) {
            Ok(false) => None,
            Ok(true) => {
                let number = self.number();
                if self.record.len() > MAX_CELLS {
                    return Some(Err(CannotRead::TooWide(number)));
                }
                Some(Ok(RawRow { number, cells: self.record.iter().map(cell).collect() }))
            }
            Err(e) => Some(Err(CannotRead::Damaged { kind: "CSV", reason: e.to_string() })),
        }
    }
}
