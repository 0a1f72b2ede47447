//! Shapes that journals have beside a line a row. Each recogniser says whether rows have its shape, and gives
//! back rows that are lines.

mod grouped;
mod heads;
mod pairs;
mod shaped;
mod taxed;

use crate::reading::Reading;
use crate::rows::Rows;
use shaped::Shaped;

/// Turns the rows of a journal into lines, if they have another shape; `told` says how they are read as they
/// stand.
///
/// # Errors
/// The rows as they are, where each is a line.
pub(crate) fn lines(reading: &Reading, rows: Box<dyn Rows>) -> Result<Shaped, Box<dyn Rows>> {
    match () {
        () if grouped::fits(&reading.layout, &*rows) => Ok(grouped::read(reading, rows)),
        () if taxed::fits(reading, &*rows) => Ok(taxed::read(reading, rows)),
        () if pairs::fits(reading, &*rows) => Ok(pairs::read(reading, rows)),
        () if heads::fits(&reading.layout, &*rows) => Ok(heads::read(reading, rows)),
        () => Err(rows),
    }
}
