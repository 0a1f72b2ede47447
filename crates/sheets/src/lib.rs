//! Open file formats: rows of cells out of CSV, XLSX, XLS, ODS and audit files, and tables into them. What the rows
//! mean is the core's business.

mod read;
mod write;

pub use read::{CannotRead, How, Opened, is_read_as_it_comes, read};
pub use write::{
    AuditAccount, AuditEntry, AuditHeader, AuditLine, AuditWriter, CannotWrite, ColumnKind,
    Columns, Format, Table, Term, Writer, write,
};
