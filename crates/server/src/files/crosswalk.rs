//! The crosswalk of a plan: every account of today that has a code After, with its old and new self.

use super::table as table_of;
use zf_sheets::{ColumnKind, Table};
use zf_wire::rehearsal::Crossing;

const COLUMNS: [(&str, ColumnKind); 8] = [
    ("Old code", ColumnKind::Text),
    ("Old name", ColumnKind::Text),
    ("New code", ColumnKind::Text),
    ("New name", ColumnKind::Text),
    ("What happened", ColumnKind::Text),
    ("Details", ColumnKind::Text),
    ("Lines", ColumnKind::Count),
    ("Balance before", ColumnKind::Money),
];

/// All that changes, added and deleted accounts too.
pub(super) fn table(crosswalk: &[Crossing]) -> Table {
    table_of("Crosswalk", &COLUMNS, crosswalk.iter().map(row).collect())
}

/// What can be brought in again: the accounts that have a code on both sides.
pub(crate) fn to_bring_in(crosswalk: &[Crossing]) -> Table {
    let both = crosswalk.iter().filter(|c| c.old_code.is_some() && c.new_code.is_some());
    table_of("Crosswalk", &COLUMNS, both.map(row).collect())
}

fn row(crossing: &Crossing) -> Vec<String> {
    let text = |t: &Option<String>| t.clone().unwrap_or_default();
    vec![
        text(&crossing.old_code),
        text(&crossing.old_name),
        text(&crossing.new_code),
        text(&crossing.new_name),
        crossing.changes.iter().map(|change| change.key()).collect::<Vec<_>>().join(", "),
        crossing.detail.clone(),
        crossing.lines.to_string(),
        crossing.balance.clone(),
    ]
}
