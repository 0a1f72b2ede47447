//! Open file formats: rows of text out of CSV and XLSX files, and tables into them. What the rows
//! mean is the core's business.

mod read;
mod write;

pub use read::{CannotRead, MAX_ROWS, read};
pub use write::{CannotWrite, ColumnKind, Table, csv, xlsx};
