//! A journal that was read, and the codes that its rows are read against once more when they are stored.

use crate::journal::late::{LateLines, LateMeans, Said};
use crate::journal::{self, ChangedEntry, JournalIntake, UnknownCode};
use std::collections::HashMap;
use time::Date;
use zf_core::chart::{Account, Chart, Status};
use zf_core::code::CodeKey;
use zf_core::former::CodesThen;
use zf_core::ids::AccountId;
use zf_core::overlap::{Overlap, PostedEntry};
use zf_core::today::Today;

/// What the entries of a journal come to, before they are stored.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct JournalSummary {
    /// How many are ready.
    pub entries: usize,
    /// Sum of their debits, in minor units of the base currency; credits are the same.
    pub debits: i128,
    /// The first and the last day.
    pub days: Option<(Date, Date)>,
    /// Entries that do not balance, with what their debits exceed their credits by.
    pub unbalanced: Vec<(String, i128)>,
    /// Codes of the file that are not today's of their account, with its label.
    pub mapped: Vec<(String, String)>,
    /// Codes that a person has to say something of.
    pub unknown: Vec<UnknownCode>,
    /// Lines that are dated after the day of their account.
    pub late: Vec<LateLines>,
    /// How many rows are of entries that the journal has already.
    pub known: usize,
    /// Entries that the journal has otherwise, as many as are shown.
    pub changed: Vec<ChangedEntry>,
    /// How many such entries there are.
    pub changed_count: usize,
    /// Entries of the journal that should be in the file and are not, as many as are shown.
    pub vanished: Vec<PostedEntry>,
    /// How many such entries there are.
    pub vanished_count: usize,
    /// Of all lines, however they are ordered: two files with the same lines have the same.
    pub digest: u128,
}

/// A journal that was read, with all that its lines are read against once more.
#[derive(Debug)]
pub struct ReadJournal {
    /// What was read of it.
    pub read: JournalIntake,
    /// What its entries come to.
    pub summary: JournalSummary,
    /// The accounts that are added with it.
    pub added: Vec<Account>,
    pub(super) codes: Codes,
}

/// What the rows of a journal are read against, beside the books.
#[derive(Debug)]
pub(super) struct Codes {
    /// The chart of the books, with the accounts that are added.
    pub(super) chart: Chart,
    pub(super) said: HashMap<CodeKey, AccountId>,
    pub(super) late: Said,
    pub(super) then: Option<CodesThen>,
    pub(super) overlap: Overlap,
}

impl Codes {
    pub(super) fn books<'a>(&'a self, today: &'a Today) -> journal::JournalContext<'a> {
        journal::JournalContext {
            chart: &self.chart,
            former: &today.former,
            currency: today.currency,
            calendar: today.calendar,
            locked: today.locked,
            overlap: &self.overlap,
            then: self.then.as_ref(),
            said: &self.said,
            late: &self.late,
        }
    }
}

impl ReadJournal {
    /// What the rows are read against: the books that they were read against before.
    pub fn books<'a>(&'a self, today: &'a Today) -> journal::JournalContext<'a> {
        self.codes.books(today)
    }

    /// The accounts that are opened again, as they are then: those of late lines of which that was said.
    pub fn reopened(&self) -> Vec<Account> {
        let late = self.summary.late.iter();
        let again = late.filter(|late| late.means == Some(LateMeans::OpenAgain));
        let accounts = again.filter_map(|late| self.chart().get(late.account));
        let taken = accounts.filter(|account| self.read.by_account.contains_key(&account.id));
        taken
            .map(|account| Account { status: Status::Active, status_from: None, ..account.clone() })
            .collect()
    }

    /// The chart of the books, with the accounts that are added.
    pub fn chart(&self) -> &Chart {
        &self.codes.chart
    }
}
