//! What a journal file and the journal have of each other: lists with both sides.

use crate::waiting_file::WaitingFile;
use zf_intake::analysis::ReadJournal;
use zf_wire::imports::overlap::{ChangedEntryView, EntrySideView, JournalOverlapView};
use zf_wire::imports::place::RowPlace;

/// None when nothing of the file is in the journal.
pub(crate) fn journal_overlap_view(
    read: &ReadJournal,
    looked: &WaitingFile,
) -> Option<JournalOverlapView> {
    let journal = &read.summary;
    if journal.known == 0 && journal.changed_count == 0 {
        return None;
    }
    let currency = looked.books.today.currency;
    // The file may name accounts that are added with it.
    let side = |entry, other| EntrySideView::of(entry, other, read.chart(), currency);
    let changed = journal.changed.iter().map(|changed| ChangedEntryView {
        place: RowPlace::of(&looked.table.reading, changed.row),
        number: changed.file.number.clone(),
        journal: side(&changed.journal, Some(&changed.file)),
        file: side(&changed.file, Some(&changed.journal)),
    });
    Some(JournalOverlapView {
        known_rows: journal.known,
        changed_entries: journal.changed_count,
        changed: changed.collect(),
        vanished_entries: journal.vanished_count,
        vanished: journal.vanished.iter().map(|entry| side(entry, None)).collect(),
    })
}
