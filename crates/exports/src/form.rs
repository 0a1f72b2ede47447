//! A form: the columns of a kind of file, in an order that people know. Each is one row of a table that says what it
//! means, what goes into it, how it is filled in examples and how it is written, so that what is handed out, what is
//! handed out empty and what is read cannot part ways.

use zf_core::file_kind::FileKind;
use zf_intake::columns::{Column, heading, required};
use zf_sheets::{ColumnKind, Columns};

/// A column of a form, with how it is written of a row.
#[derive(Debug)]
pub struct FormColumn<W: 'static> {
    /// What it means where it is read.
    pub column: Column,
    /// What goes into it, in a sentence.
    pub about: &'static str,
    /// What it holds in each of the rows that show how the form is filled.
    pub examples: &'static [&'static str],
    /// What it holds of a row that is written.
    pub write: W,
}

/// The columns of a kind of file, in their order.
#[derive(Debug)]
pub struct Form<W: 'static> {
    /// What kind of file.
    pub kind: FileKind,
    /// Its columns.
    pub columns: &'static [FormColumn<W>],
}

impl<W> Form<W> {
    /// Its columns as a table has them.
    pub fn headed(&self) -> Columns {
        headed(self.kind, self.columns.iter().map(|one| one.column))
    }

    /// What its columns hold of a row, as `cell` writes one.
    pub fn row(&self, cell: impl Fn(&W) -> String) -> Vec<String> {
        self.columns.iter().map(|one| cell(&one.write)).collect()
    }
}

/// Columns of a kind of file as a table has them.
pub(crate) fn headed(kind: FileKind, columns: impl Iterator<Item = Column>) -> Columns {
    let headed = columns.map(|column| {
        let holds = match column {
            Column::Debit | Column::Credit | Column::Amount | Column::Foreign => ColumnKind::Money,
            _ => ColumnKind::Text,
        };
        (heading(kind, column).to_owned(), holds)
    });
    headed.collect()
}

/// Whether a file of a kind needs a column.
pub(crate) fn is_needed(kind: FileKind, column: Column) -> bool {
    let amounts = matches!(column, Column::Debit | Column::Credit)
        && matches!(kind, FileKind::Journal | FileKind::Balances);
    required(kind).contains(&column) || amounts
}
