//! The crosswalk of a plan: every account of today that has a code After, with its old and new self.

use crate::form::{Form, FormColumn};
use zf_core::file_kind::FileKind;
use zf_intake::columns::Column;
use zf_sheets::{ColumnKind, Table};
use zf_wire::rehearsal::Crossing;

type Write = fn(&Crossing) -> String;

fn text(text: &Option<String>) -> String {
    text.clone().unwrap_or_default()
}

/// The columns of a crosswalk that are read when it is imported.
pub const FORM: Form<Write> = Form {
    kind: FileKind::Crosswalk,
    columns: &[
        FormColumn {
            column: Column::Code,
            about: "The code that the account bears today.",
            examples: &["5010"],
            write: |row| text(&row.old_code),
        },
        FormColumn {
            column: Column::Name,
            about: "The name of the account, for the eye only.",
            examples: &["Coal"],
            write: |row| text(&row.old_name),
        },
        FormColumn {
            column: Column::NewCode,
            about: "The code After. Rows that share one are merged.",
            examples: &["5100"],
            write: |row| text(&row.new_code),
        },
        FormColumn {
            column: Column::NewName,
            about: "The name After; empty to keep it.",
            examples: &["Coal and firewood"],
            write: |row| text(&row.new_name),
        },
    ],
};

/// What is written beside them, for the eye only.
const BESIDE: [(&str, ColumnKind, Write); 4] = [
    ("What happened", ColumnKind::Text, |row| {
        row.changes.iter().map(|change| change.key()).collect::<Vec<_>>().join(", ")
    }),
    ("Details", ColumnKind::Text, |row| row.detail.clone()),
    ("Lines", ColumnKind::Count, |row| row.lines.to_string()),
    ("Balance before", ColumnKind::Money, |row| row.balance.clone()),
];

fn of<'a>(crosswalk: impl Iterator<Item = &'a Crossing>) -> Table {
    let own = FORM.headed().into_iter();
    let beside = BESIDE.map(|(title, kind, _)| (title.to_owned(), kind));
    let row = |crossing: &Crossing| {
        let mut row = FORM.row(|write| write(crossing));
        row.extend(BESIDE.map(|(.., write)| write(crossing)));
        row
    };
    Table::new("Crosswalk", own.chain(beside).collect(), crosswalk.map(row).collect())
}

/// All that changes, added and deleted accounts too.
pub fn whole(crosswalk: &[Crossing]) -> Table {
    of(crosswalk.iter())
}

/// What can be imported again: the accounts that have a code on both sides.
pub fn to_import(crosswalk: &[Crossing]) -> Table {
    of(crosswalk.iter().filter(|row| row.old_code.is_some() && row.new_code.is_some()))
}
