//! Empty forms of what can be imported, with rows as an example and what goes into each column.

use crate::form::{Form, FormColumn, headed, is_needed};
use crate::{balances, chart, crosswalk, journal, table, usage};
use zf_core::file_kind::FileKind;
use zf_intake::columns::{Column, heading};
use zf_sheets::{ColumnKind, Table};

/// A column of an empty form.
#[derive(Clone, Copy, Debug)]
pub struct EmptyColumn {
    /// What it means where it is read.
    pub column: Column,
    /// Whether a file needs it.
    pub is_needed: bool,
    /// What goes into it, in a sentence.
    pub about: &'static str,
    /// What it holds in each of the rows of the example; blank in those that are not named.
    pub examples: &'static [&'static str],
}

/// The columns of the form of a kind of file, in their order.
pub fn columns(kind: FileKind) -> Vec<EmptyColumn> {
    fn of<W>(form: &Form<W>) -> Vec<EmptyColumn> {
        let column = |one: &FormColumn<W>| EmptyColumn {
            column: one.column,
            is_needed: is_needed(form.kind, one.column),
            about: one.about,
            examples: one.examples,
        };
        form.columns.iter().map(column).collect()
    }
    match kind {
        FileKind::Chart => of(&chart::FORM),
        FileKind::Journal => of(&journal::FORM),
        FileKind::Balances => of(&balances::FORM),
        FileKind::Crosswalk => of(&crosswalk::FORM),
        FileKind::Usage => of(&usage::FORM),
    }
}

/// Rows that show how the form of a kind of file is filled.
pub fn examples(kind: FileKind) -> Vec<Vec<&'static str>> {
    let columns = columns(kind);
    let count = columns.iter().map(|one| one.examples.len()).max().unwrap_or(0);
    let cell = |at: usize| move |one: &EmptyColumn| one.examples.get(at).copied().unwrap_or("");
    (0..count).map(|at| columns.iter().map(cell(at)).collect()).collect()
}

/// The form with its examples, and what goes into its columns.
pub fn tables(kind: FileKind) -> Vec<Table> {
    const ABOUT: [(&str, ColumnKind); 3] = [
        ("Column", ColumnKind::Text),
        ("Needed", ColumnKind::Text),
        ("What goes into it", ColumnKind::Text),
    ];
    let columns = columns(kind);
    let rows = examples(kind).into_iter();
    let rows = rows.map(|row| row.into_iter().map(str::to_owned).collect()).collect();
    let heads = headed(kind, columns.iter().map(|one| one.column));
    let form = Table::new(kind.words(), heads, rows);
    let explained = columns.iter().map(|one| {
        let needed = if one.is_needed { "yes" } else { "" };
        [heading(kind, one.column), needed, one.about].map(str::to_owned).to_vec()
    });
    vec![form, table("About the columns", &ABOUT, explained.collect())]
}
