//! Entries of the journal, a page at a time.

use crate::cards::LineView;
use serde::{Deserialize, Serialize};
use zf_core::entry::EntryKind;

/// Which entries.
#[derive(Deserialize, utoipa::IntoParams)]
#[into_params(parameter_in = Query)]
pub struct JournalQuery {
    /// Those with lines that this account presents.
    pub account: Option<i64>,
    /// Or that the plan would have it present: those of all accounts of which it puts anything there.
    pub plan: Option<i64>,
    /// Of those lines the ones that were posted under this code.
    pub code: Option<String>,
    /// Those that came with this import.
    pub import: Option<i64>,
    /// The first day.
    pub from: Option<String>,
    /// The last day.
    pub to: Option<String>,
    /// What stands in the number, or in the payee, memo or reference of a line.
    pub text: Option<String>,
    /// What a line amounts to, on either side, in the base currency.
    pub amount: Option<String>,
    /// The day of the entry that the page begins behind.
    pub after_day: Option<String>,
    /// That entry.
    pub after_entry: Option<i64>,
}

/// A page of entries, the latest first.
#[derive(Serialize, utoipa::ToSchema)]
pub struct JournalPage {
    pub entries: Vec<JournalEntry>,
    /// Whether there are earlier ones.
    pub more: bool,
}

/// An entry with all its lines.
#[derive(Serialize, utoipa::ToSchema)]
pub struct JournalEntry {
    pub id: i64,
    pub number: String,
    pub date: String,
    pub kind: Option<EntryKind>,
    /// The import it came with.
    pub import: i64,
    /// The file of that.
    pub source: String,
    pub lines: Vec<JournalLine>,
}

/// A line of an entry.
#[derive(Serialize, utoipa::ToSchema)]
pub struct JournalLine {
    /// The account that presents it.
    pub account: i64,
    #[serde(flatten)]
    pub line: LineView,
}
