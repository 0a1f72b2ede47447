//! The form of a file: its headings, by which the next one of the same form is known.

use super::SEARCHED;
use crate::columns::reduce;
use crate::{RawRow, Sheet};

/// The headings of a row as they are compared from file to file.
pub fn headings(row: &RawRow) -> Vec<String> {
    row.filled().map(|(_, text)| reduce(text)).collect()
}

/// Finds a sheet with a row of headings that was met before: which of `forms` it is, which sheet,
/// and the number of the row.
pub fn met_before(sheets: &[Sheet], forms: &[Vec<String>]) -> Option<(usize, usize, u32)> {
    let visible_first = [false, true].into_iter().flat_map(|hidden| {
        sheets.iter().enumerate().filter(move |(_, sheet)| sheet.hidden == hidden)
    });
    visible_first
        .flat_map(|(at, sheet)| sheet.rows.walk().take(SEARCHED).map(move |row| (at, row)))
        .find_map(|(at, row)| {
            let headings = headings(&row);
            let form = forms.iter().position(|form| *form == headings)?;
            Some((form, at, row.number))
        })
}
