//! Journals with the lines of their entries.

use zf_core::entry::{Entries, NewEntry};
use zf_intake::journal::{self, FileEntries, JournalIntake};
use zf_intake::reading::Reading;
use zf_intake::rows::Rows;

/// Reads a journal, with the lines of the entries that are ready.
pub(crate) fn read_journal(
    reading: &Reading,
    rows: &dyn Rows,
    books: &journal::JournalContext<'_>,
) -> (JournalIntake, Vec<NewEntry>) {
    let read = journal::read(reading, rows, books);
    let file = FileEntries { read: &read, reading, rows, books };
    let heads = file.heads().map(|head| NewEntry {
        number: head.number.to_owned(),
        date: head.date,
        kind: head.kind,
        lines: Vec::new(),
    });
    let mut entries: Vec<NewEntry> = heads.collect();
    file.lines().for_each(|(at, line)| entries[at].lines.push(line.into_owned()));
    (read, entries)
}
