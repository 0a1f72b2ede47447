//! Where a row stands: by its sheet, and its number in it.

use serde::{Deserialize, Serialize};
use zf_intake::reading::Reading;
use zf_intake::rows::Place;

/// Where a row stands.
#[derive(Debug, Serialize, Deserialize, utoipa::ToSchema)]
pub struct RowPlace {
    /// The sheet, where several are read as one table.
    pub sheet: Option<String>,
    /// The number that a spreadsheet shows beside it.
    pub row: u32,
}

impl RowPlace {
    pub fn of(reading: &Reading, number: u32) -> Self {
        let Place { sheet, row } = reading.place(number);
        Self { sheet, row }
    }
}
