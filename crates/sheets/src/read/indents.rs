//! How far the format of a cell moves its text to the right, for the workbooks whose reader does not
//! tell: an outline is often shown by that alone.

use super::hidden::{local, tags, value};
use std::collections::HashMap;
use std::io::Cursor;
use zf_intake::rows::MAX_CELLS;
use zip::ZipArchive;

/// The steps by row and column, counted from zero; cells that are not moved are left out.
pub(super) type Indents = HashMap<(u32, u32), u8>;

/// The most rows that one run of like cells is followed for: beyond, it is a page of white.
const LONGEST: u32 = 1 << 12;

/// Those of an archive in OpenDocument (ISO/IEC 26300-1), by the name of the sheet. A cell that names
/// no style has that of its row, or else of its column.
pub(super) fn open_document(content: &[u8]) -> HashMap<String, Indents> {
    let Ok(mut archive) = ZipArchive::new(Cursor::new(content)) else { return HashMap::new() };
    let mut found: HashMap<String, Indents> = HashMap::new();
    let mut styles: HashMap<String, u8> = HashMap::new();
    let (mut style, mut sheet) = (String::new(), String::new());
    let (mut of_columns, mut of_row) = (Vec::new(), None);
    let (mut row, mut below, mut column) = (0_u32, 0_u32, 0_u32);
    tags(&mut archive, "content.xml", |tag| {
        let repeated = |name| value(tag, name).and_then(|n| n.parse::<u32>().ok()).unwrap_or(1);
        let steps = |name| value(tag, name).and_then(|name| styles.get(&name).copied());
        match local(tag) {
            "style" => style = value(tag, "name").unwrap_or_default(),
            "paragraph-properties" => {
                if let Some(steps) = value(tag, "margin-left").and_then(|length| steps_of(&length))
                {
                    styles.insert(std::mem::take(&mut style), steps);
                }
            }
            "table" => {
                sheet = value(tag, "name").unwrap_or_default();
                of_columns.clear();
                (row, below) = (0, 0);
            }
            "table-column" => {
                let count = repeated("number-columns-repeated") as usize;
                let to = of_columns.len().saturating_add(count).min(MAX_CELLS);
                of_columns.resize(to, steps("default-cell-style-name"));
            }
            "table-row" => {
                row = below;
                below = row.saturating_add(repeated("number-rows-repeated"));
                (column, of_row) = (0, steps("default-cell-style-name"));
            }
            "table-cell" | "covered-table-cell" => {
                let first = column;
                column = column.saturating_add(repeated("number-columns-repeated"));
                // Cells that are alike over many rows hold nothing.
                if value(tag, "value-type").is_none() || below - row > LONGEST {
                    return;
                }
                for at in first..column.min(MAX_CELLS as u32) {
                    let of_column = || of_columns.get(at as usize).copied().flatten();
                    let own = steps("style-name").or(of_row).or_else(of_column);
                    if let Some(steps @ 1..) = own {
                        let rows = (row..below).map(|row| ((row, at), steps));
                        found.entry(sheet.clone()).or_default().extend(rows);
                    }
                }
            }
            _ => {}
        }
    });
    found
}

/// The steps of a length, of ten points each as spreadsheets make them; any at all is a step.
fn steps_of(length: &str) -> Option<u8> {
    let unit = length.find(|c: char| c.is_ascii_alphabetic())?;
    let (number, unit) = length.split_at(unit);
    let points = match unit {
        "pt" => 1.0,
        "pc" => 12.0,
        "in" => 72.0,
        "cm" => 72.0 / 2.54,
        "mm" => 7.2 / 2.54,
        _ => return None,
    } * number.parse::<f64>().ok()?;
    let steps = if points > 0.0 { (points / 10.0).round().max(1.0) } else { 0.0 };
    Some(steps as u8)
}
