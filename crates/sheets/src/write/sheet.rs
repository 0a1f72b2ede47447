//! What the sheets of all kinds of workbook have in common, and why a file could not be written.

use std::ops::RangeInclusive;

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

/// A heading with what stands under it.
pub type Columns = Vec<(String, ColumnKind)>;

/// Rows of a table, counted from 0, that the amounts of another row add up, or take off.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct Term {
    /// The rows, all of them.
    pub rows: RangeInclusive<usize>,
    /// Whether they are taken off.
    pub taken_off: bool,
}

/// The formula of a cell that adds up cells of its column: `cells` writes the range between two rows as a kind of
/// workbook has it, counted from 1 with the headings.
pub(super) fn formula(terms: &[Term], cells: impl Fn(usize, usize) -> String) -> String {
    let term = |term: &Term| {
        let sign = if term.taken_off { "-" } else { "+" };
        // Above the rows of a table stand its headings.
        let (first, last) = (term.rows.start() + 2, term.rows.end() + 2);
        format!("{sign}SUM({})", cells(first, last))
    };
    let terms: String = terms.iter().map(term).collect();
    terms.trim_start_matches('+').to_owned()
}

/// Why a file could not be written.
#[derive(Debug, thiserror::Error)]
pub enum CannotWrite {
    /// The library for workbooks refused.
    #[error(transparent)]
    Xlsx(#[from] rust_xlsxwriter::XlsxError),
    /// The library for OpenDocument refused.
    #[error(transparent)]
    Ods(#[from] spreadsheet_ods::OdsError),
    /// The library for CSV refused.
    #[error(transparent)]
    Csv(#[from] ::csv::Error),
    /// The library for XML refused.
    #[error(transparent)]
    Xml(#[from] std::io::Error),
    /// More rows than a sheet can have.
    #[error(
        "a sheet has at most {} rows; choose a shorter range, or CSV",
        zf_intake::rows::MAX_ROWS
    )]
    TooLong,
}

/// A spreadsheet holds numbers as floating point; this is the edge where ours end. `None` for what
/// is to be written as text.
pub(super) fn number(text: &str, kind: ColumnKind) -> Option<f64> {
    (kind != ColumnKind::Text).then(|| text.parse().ok()).flatten()
}

/// The most characters that make a column wider.
const MAX_WIDTH: usize = 60;

/// How wide the columns of a sheet have to be, in characters.
#[derive(Debug, Default)]
pub(super) struct Widths(pub(super) Vec<usize>);

impl Widths {
    pub(super) fn row<'a>(&mut self, cells: impl Iterator<Item = &'a str>) {
        for (at, text) in cells.enumerate() {
            let width = (text.chars().count() + 2).min(MAX_WIDTH);
            match self.0.get_mut(at) {
                Some(widest) => *widest = (*widest).max(width),
                None => self.0.push(width),
            }
        }
    }
}

/// Names of sheets are shorter than others and lack some characters.
pub(super) fn sheet_name(name: &str) -> String {
    const LONGEST: usize = 31;
    name.chars().filter(|c| !"[]:*?/\\".contains(*c)).take(LONGEST).collect()
}
