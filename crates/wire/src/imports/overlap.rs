//! Entries of a journal that the books have already, in part or otherwise.

use crate::imports::place::RowPlace;
use serde::{Deserialize, Serialize};
use zf_core::chart::{Account, Chart};
use zf_core::money::Currency;
use zf_core::overlap::{PostedEntry, debits};

/// Entries of a file that the journal has already, and what differs.
#[derive(Debug, Serialize, Deserialize, utoipa::ToSchema)]
pub struct JournalOverlapView {
    /// Rows of entries that the journal has just so.
    pub known_rows: usize,
    /// Entries that it has otherwise. The list holds the first of them.
    pub changed_entries: usize,
    pub changed: Vec<ChangedEntryView>,
    /// Entries that should be in the file and are not. The list holds the first of them.
    pub vanished_entries: usize,
    pub vanished: Vec<EntrySideView>,
}

/// An entry that the journal has otherwise.
#[derive(Debug, Serialize, Deserialize, utoipa::ToSchema)]
pub struct ChangedEntryView {
    pub place: RowPlace,
    pub number: String,
    pub journal: EntrySideView,
    pub file: EntrySideView,
}

/// An entry as one side has it.
#[derive(Debug, Serialize, Deserialize, utoipa::ToSchema)]
pub struct EntrySideView {
    pub number: String,
    pub date: String,
    /// Sum of its debits.
    pub debits: String,
    pub lines: Vec<LineSideView>,
}

/// A line as one side has it.
#[derive(Debug, Serialize, Deserialize, utoipa::ToSchema)]
pub struct LineSideView {
    pub account: String,
    /// Debits positive.
    pub amount: String,
    /// Payee, memo and reference, as far as there are any.
    pub text: String,
    /// Whether the other side has no such line.
    pub only_here: bool,
}

impl EntrySideView {
    pub fn of(
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
