//! What is handed out, as tables: a chart, a journal, balances, a crosswalk and where-used lists, which can be imported
//! again; statements and proofs, which are read; and empty forms. Which file a table becomes is not known here.

pub mod balances;
pub mod chart;
pub mod crosswalk;
mod form;
pub mod forms;
pub mod items;
pub mod journal;
pub mod proof;
pub mod rejected;
pub mod statement;
pub mod usage;

pub use form::{Form, FormColumn};

use zf_sheets::{ColumnKind, Table};

/// A table with these columns.
fn table(name: &str, columns: &[(&str, ColumnKind)], rows: Vec<Vec<String>>) -> Table {
    let columns = columns.iter().map(|(title, kind)| ((*title).to_owned(), *kind)).collect();
    Table::new(name, columns, rows)
}
