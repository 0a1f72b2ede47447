//! Empty forms of what can be brought in, with rows as an example and what goes into each column.

use super::{headed, table};
use zf_core::file_kind::FileKind;
use zf_intake::template::{about, columns, examples, heading, is_needed};
use zf_sheets::{ColumnKind, Table};

pub(crate) fn tables(kind: FileKind) -> Vec<Table> {
    const ABOUT: [(&str, ColumnKind); 3] = [
        ("Column", ColumnKind::Text),
        ("Needed", ColumnKind::Text),
        ("What goes into it", ColumnKind::Text),
    ];
    let columns = columns(kind);
    let rows = examples(kind).into_iter();
    let rows = rows.map(|row| row.into_iter().map(str::to_owned).collect()).collect();
    let form = Table::new(kind.words(), headed(kind, columns), rows);
    let explained = columns.iter().map(|column| {
        let needed = if is_needed(kind, *column) { "yes" } else { "" };
        [heading(kind, *column), needed, about(kind, *column)].map(str::to_owned).to_vec()
    });
    vec![form, table("About the columns", &ABOUT, explained.collect())]
}
