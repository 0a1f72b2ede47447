//! Where a row stands: by its sheet, and its number in it.

use serde::Serialize;
use zf_intake::reading::Reading;

/// Where a row stands.
#[derive(Serialize, utoipa::ToSchema)]
pub(crate) struct RowPlace {
    /// The sheet, where several are read as one table.
    sheet: Option<String>,
    /// The number that a spreadsheet shows beside it.
    row: u32,
}

impl RowPlace {
    pub(crate) fn of(reading: &Reading, number: u32) -> Self {
        let place = reading.place(number);
        Self { sheet: place.sheet.map(str::to_owned), row: place.row }
    }
}
