//! Entries that are ready to be stored, whoever made them.

use crate::activity::LineContent;
use crate::ids::AccountId;
use crate::keyed::keyed;
use crate::money::Currency;
use serde::{Deserialize, Serialize};
use std::borrow::Cow;
use std::collections::BTreeSet;
use time::Date;

keyed! {
    /// What an entry is for.
    EntryKind {
        /// What happened in the business.
        Ordinary = "ordinary", "ordinary";
        /// Balances brought forward into the books.
        Opening = "opening", "opening";
        /// Income and expense brought into retained earnings at a year's end.
        Closing = "closing", "closing";
    }
}

/// From when a journal is complete.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Serialize, Deserialize)]
#[serde(rename_all = "snake_case")]
pub enum JournalSince {
    /// From the beginning of every account.
    Beginning,
    /// From this day on; what was before is not known.
    Day(Date),
    /// Nobody has said.
    Unknown,
}

/// An entry that is ready to be stored: its lines balance to zero and share one date.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct NewEntry {
    /// Its number in the file; no entry of the books has it yet.
    pub number: String,
    /// The date of all its lines.
    pub date: Date,
    /// What it is for.
    pub kind: EntryKind,
    /// Its lines, in the order of the file.
    pub lines: Vec<NewLine>,
}

/// A line that is ready to be stored.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct NewLine {
    /// The account.
    pub account: AccountId,
    /// Signed minor units of the base currency; debits are positive.
    pub amount: i64,
    /// Signed minor units of another currency.
    pub foreign: Option<(i64, Currency)>,
    /// Who was paid or paid.
    pub payee: String,
    /// What it was for.
    pub memo: String,
    /// The number of the document.
    pub reference: String,
    /// Dimension values by name, as `department=Workshop; site=Larkfell`.
    pub dimensions: String,
    /// Whether it was cleared in a bank reconciliation.
    pub cleared: bool,
}

impl NewLine {
    /// What never changes of the line, once it has an identity, an entry and its date.
    pub fn content(&self, id: i64, entry: i64, date: Date) -> LineContent<'_> {
        LineContent {
            id,
            entry,
            date,
            amount: self.amount,
            foreign: self.foreign,
            payee: &self.payee,
            memo: &self.memo,
            reference: &self.reference,
            dimensions: &self.dimensions,
        }
    }
}

/// An entry without its lines.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub struct EntryHead<'a> {
    /// Its number.
    pub number: &'a str,
    /// The date of all its lines.
    pub date: Date,
    /// What it is for.
    pub kind: EntryKind,
}

/// Entries to be stored. Their lines need not be held in memory.
pub trait Entries: Sync {
    /// How many entries there are.
    fn count(&self) -> usize;

    /// How many lines they have.
    fn line_count(&self) -> usize;

    /// The accounts of their lines.
    fn accounts(&self) -> BTreeSet<AccountId>;

    /// The entries.
    fn heads(&self) -> Box<dyn Iterator<Item = EntryHead<'_>> + Send + '_>;

    /// The lines, each with the place of its entry among the [heads](Self::heads).
    fn lines(&self) -> Box<dyn Iterator<Item = (usize, Cow<'_, NewLine>)> + Send + '_>;
}

impl Entries for Vec<NewEntry> {
    fn count(&self) -> usize {
        self.len()
    }

    fn line_count(&self) -> usize {
        self.iter().map(|entry| entry.lines.len()).sum()
    }

    fn accounts(&self) -> BTreeSet<AccountId> {
        self.iter().flat_map(|entry| &entry.lines).map(|line| line.account).collect()
    }

    fn heads(&self) -> Box<dyn Iterator<Item = EntryHead<'_>> + Send + '_> {
        Box::new(self.iter().map(|entry| EntryHead {
            number: &entry.number,
            date: entry.date,
            kind: entry.kind,
        }))
    }

    fn lines(&self) -> Box<dyn Iterator<Item = (usize, Cow<'_, NewLine>)> + Send + '_> {
        let lines = self.iter().enumerate();
        Box::new(
            lines.flat_map(|(at, entry)| {
                entry.lines.iter().map(move |line| (at, Cow::Borrowed(line)))
            }),
        )
    }
}
