//! The statement items as a list that is edited and imported again.

use zf_core::statement::{ItemKind, Structure};
use zf_intake::items::HEADINGS;
use zf_sheets::{ColumnKind, Table};

/// The items that accounts stand under, retired ones too.
pub fn table(structure: &Structure) -> Table {
    let rows = structure.items().filter(|item| item.kind == ItemKind::Item).map(|item| {
        let retired = if item.retired { "yes" } else { "" };
        vec![item.class.title().to_owned(), item.name.clone(), String::new(), retired.to_owned()]
    });
    let columns = HEADINGS.map(|heading| (heading, ColumnKind::Text));
    crate::table("Statement items", &columns, rows.collect())
}
