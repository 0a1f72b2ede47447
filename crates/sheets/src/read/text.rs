//! Text files: their encoding and delimiter are told from the whole file.

use super::{CannotRead, How, MAX_CELLS, MAX_ROWS, Opened};
use crate::write::is_armed;
use encoding_rs::{Encoding, UTF_8, UTF_16BE, UTF_16LE, WINDOWS_1252};
use std::borrow::Cow;
use std::collections::HashMap;
use zf_core::intake::audit::of_entries;
use zf_core::intake::{Cell, RawRow, Sheet};

/// The delimiters that are looked for; of equals the first wins.
const DELIMITERS: [char; 5] = [',', ';', '\t', '|', '^'];

/// How many records tell the delimiter.
const TRIED: usize = 400;

/// Whether bytes can be a text: they have no zero byte, or every other one is zero.
pub(super) fn is_text(content: &[u8]) -> bool {
    Encoding::for_bom(content).is_some() || wide(content).is_some() || !content.contains(&0)
}

/// UTF-16 without a mark, told by where the zero bytes of its ASCII letters stand.
fn wide(content: &[u8]) -> Option<&'static Encoding> {
    let start = &content[..content.len().min(4_096)];
    let zeros = |odd: usize| start.iter().skip(odd).step_by(2).filter(|b| **b == 0).count();
    let (even, odd) = (zeros(0), zeros(1));
    let most = start.len() / 2 * 7 / 10;
    match (even, odd) {
        _ if start.len() < 4 => None,
        (0, odd) if odd > most => Some(UTF_16LE),
        (even, 0) if even > most => Some(UTF_16BE),
        _ => None,
    }
}

pub(super) fn read(content: &[u8], how: &How) -> Result<Opened, CannotRead> {
    let (text, encoding) = decode(content, how)?;
    let delimiter = how.delimiter.unwrap_or_else(|| delimiter(&text));
    let rows = rows(&text, delimiter)?;
    let sheet = Sheet { name: String::new(), hidden: false, rows };
    let (kind, sheets) = match of_entries(&sheet) {
        Some(sheets) => ("FEC", sheets.to_vec()),
        None => ("CSV", vec![sheet]),
    };
    let (encoding, delimiter) = (Some(encoding.name()), Some(delimiter));
    Ok(Opened { kind, encoding, delimiter, sheets })
}

/// UTF-8 and UTF-16 by their marks or their pattern, UTF-8 when it is sound, else Windows-1252.
fn decode<'a>(
    content: &'a [u8],
    how: &How,
) -> Result<(Cow<'a, str>, &'static Encoding), CannotRead> {
    let encoding = match &how.encoding {
        Some(name) => Encoding::for_label(name.as_bytes())
            .ok_or_else(|| CannotRead::UnknownEncoding(name.clone()))?,
        None => match Encoding::for_bom(content) {
            Some((encoding, _)) => encoding,
            None => wide(content).unwrap_or_else(|| {
                if std::str::from_utf8(content).is_ok() { UTF_8 } else { WINDOWS_1252 }
            }),
        },
    };
    let (text, _) = encoding.decode_with_bom_removal(content);
    Ok((text, encoding))
}

fn parser(text: &str, delimiter: char) -> csv::Reader<&[u8]> {
    csv::ReaderBuilder::new()
        .has_headers(false)
        .flexible(true)
        // Every delimiter that is looked for is one byte; any other falls back to the comma.
        .delimiter(u8::try_from(delimiter).unwrap_or(b','))
        .from_reader(text.as_bytes())
}

/// The delimiter that parts most records into the same number of cells.
fn delimiter(text: &str) -> char {
    let score = |delimiter: &char| {
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

fn rows(text: &str, delimiter: char) -> Result<Vec<RawRow>, CannotRead> {
    let damaged = |e: csv::Error| CannotRead::Damaged { kind: "CSV", reason: e.to_string() };
    let mut rows = Vec::new();
    // A spreadsheet shows a row for each blank line, which the parser passes over, and one row for
    // a record, even when a quoted cell has several lines.
    let mut folded = 0;
    let mut reader = parser(text, delimiter);
    let mut record = csv::StringRecord::new();
    while reader.read_record(&mut record).map_err(damaged)? {
        if rows.len() >= MAX_ROWS {
            return Err(CannotRead::TooLong);
        }
        let (line, byte) = record.position().map_or((1, 0), |p| (p.line(), p.byte()));
        let rest = usize::try_from(byte).ok().and_then(|byte| text.as_bytes().get(byte..));
        let blank = rest.unwrap_or_default().iter().take_while(|b| matches!(b, b'\r' | b'\n'));
        let blank = blank.filter(|b| **b == b'\n').count() as u64;
        let number = u32::try_from(line + blank - folded).unwrap_or(u32::MAX);
        folded += record.iter().flat_map(str::bytes).filter(|b| *b == b'\n').count() as u64;
        if record.len() > MAX_CELLS {
            return Err(CannotRead::TooWide(number));
        }
        rows.push(RawRow { number, cells: record.iter().map(cell).collect() });
    }
    Ok(rows)
}
