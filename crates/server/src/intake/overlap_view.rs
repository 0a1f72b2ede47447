//! What a journal file and the journal have of each other: lists with both sides.

use crate::intake::place::RowPlace;
use crate::waiting_file::WaitingFile;
use serde::Serialize;
use zf_core::chart::{Account, Chart};
use zf_core::money::Currency;
use zf_core::overlap::{PostedEntry, debits};
use zf_intake::analysis::ReadJournal;

/// Entries of a file that the journal has already, and what differs.
#[derive(Serialize, utoipa::ToSchema)]
pub(crate) struct JournalOverlapView {
    /// Rows of entries that the journal has just so.
    known_rows: usize,
    /// Entries that it has otherwise. The list holds the first of them.
    changed_entries: usize,
    changed: Vec<ChangedEntryView>,
    /// Entries that should be in the file and are not. The list holds the first of them.
    vanished_entries: usize,
    vanished: Vec<EntrySideView>,
}

/// An entry that the journal has otherwise.
#[derive(Serialize, utoipa::ToSchema)]
pub(crate) struct ChangedEntryView {
    place: RowPlace,
    number: String,
    journal: EntrySideView,
    file: EntrySideView,
}

/// An entry as one side has it.
#[derive(Serialize, utoipa::ToSchema)]
pub(crate) struct EntrySideView {
    number: String,
    date: String,
    /// Sum of its debits.
    debits: String,
    lines: Vec<LineSideView>,
}

/// A line as one side has it.
#[derive(Serialize, utoipa::ToSchema)]
pub(crate) struct LineSideView {
    account: String,
    /// Debits positive.
    amount: String,
    /// Payee, memo and reference, as far as there are any.
    text: String,
    /// Whether the other side has no such line.
    only_here: bool,
}

impl JournalOverlapView {
    /// None when nothing of the file is in the journal.
    pub(crate) fn of(read: &ReadJournal, looked: &WaitingFile) -> Option<Self> {
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
        Some(Self {
            known_rows: journal.known,
            changed_entries: journal.changed_count,
            changed: changed.collect(),
            vanished_entries: journal.vanished_count,
            vanished: journal.vanished.iter().map(|entry| side(entry, None)).collect(),
        })
    }
}

impl EntrySideView {
    fn of(
        entry: &PostedEntry,
        other: Option<&PostedEntry>,
        chart: &Chart,
        currency: Currency,
    ) -> Self {
        let only_here = entry.lines_not_in(other);
        let lines = entry.lines.iter().zip(only_here).map(|(line, only_here)| LineSideView {
            account: chart.get(line.account).map_or_else(String::new, Account::label),
            amount: currency.format(line.amount.into()),
            text: [&line.payee, &line.memo, &line.reference]
                .into_iter()
                .filter(|text| !text.is_empty())
                .map(String::as_str)
                .collect::<Vec<_>>()
                .join(" · "),
            only_here,
        });
        Self {
            number: entry.number.clone(),
            date: entry.date.to_string(),
            debits: currency.format(debits(&entry.lines)),
            lines: lines.collect(),
        }
    }
}
