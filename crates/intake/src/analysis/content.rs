//! What a file is read against, and what it comes to.

use super::journal::ReadJournal;
use crate::balances::{Difference, NewBalance};
use crate::chart::Origins;
use crate::compare::Comparison;
use crate::crosswalk::Crossing;
use crate::question::Question;
use crate::row_kind::RowKind;
use crate::{Intake, OutlineBy, Rejected, Warning};
use std::collections::{BTreeMap, HashMap};
use zf_core::calendar::Period;
use zf_core::chart::{Account, Chart, ControlRole, Structure};
use zf_core::former::CodesThen;
use zf_core::ids::AccountId;
use zf_core::overlap::Overlap;
use zf_core::today::Today;
use zf_core::usage::Use;

/// What a file is read against.
#[derive(Clone, Debug)]
pub struct Against<'a> {
    /// The books.
    pub today: &'a Today,
    /// What of a journal the books have already.
    pub overlap: Overlap,
    /// The codes of an earlier time, when the file follows those.
    pub then: Option<CodesThen>,
}

/// What the rows of a file come to.
#[derive(Debug)]
pub struct Analysis {
    /// How many rows are ready.
    pub ready_rows: usize,
    /// The rows that are left out.
    pub rejected: Vec<Rejected>,
    /// What is worth knowing of others.
    pub warnings: Vec<Warning>,
    /// How the outline of a chart is told.
    pub outline: Option<OutlineBy>,
    /// What is not certain.
    pub questions: Vec<Question>,
    /// What each row of a chart is.
    pub row_kinds: BTreeMap<u32, RowKind>,
    /// What is ready.
    pub content: Content,
}

/// What is ready of a file.
#[derive(Debug)]
pub enum Content {
    /// Columns are lacking, so that nothing could be read.
    Nothing,
    /// Accounts for books that have none yet.
    Chart(ReadChart),
    /// A chart beside that of the books.
    Comparison(Comparison),
    /// Old codes with new ones.
    Crosswalk(ReadCrosswalk),
    /// Balances.
    Balances(ReadBalances),
    /// Entries.
    Journal(Box<ReadJournal>),
    /// What names accounts elsewhere.
    Usage(Vec<Use>),
}

/// A chart that was read.
#[derive(Debug)]
pub struct ReadChart {
    /// The accounts, with the rows that they stand in.
    pub accounts: Vec<(u32, Account)>,
    /// The statement items, with those that the file adds.
    pub structure: Structure,
    /// What told the parts of each account.
    pub origins: HashMap<AccountId, Origins>,
    /// Control roles that names tell; given only if that is wished.
    pub roles: BTreeMap<AccountId, ControlRole>,
}

impl ReadChart {
    /// The accounts as the chart that they would be.
    pub fn chart(&self) -> Chart {
        Chart::new(self.accounts.iter().map(|(_, account)| account.clone()))
    }
}

/// A crosswalk that was read.
#[derive(Debug)]
pub struct ReadCrosswalk {
    /// What becomes of accounts of the books.
    pub crossings: Vec<Crossing>,
    /// Accounts that are only in the new chart, with their rows; their identities count up from those of the
    /// books.
    pub added: Vec<(u32, Account)>,
}

/// Balances that were read.
#[derive(Debug)]
pub struct ReadBalances {
    /// By account.
    pub balances: Vec<NewBalance>,
    /// What they come to beside those of the books.
    pub beside: BalanceComparison,
}

/// Balances beside those of the books. Amounts are minor units of the base currency.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct BalanceComparison {
    /// Sum of the debits of the file.
    pub debits: i128,
    /// Sum of its credits, as a positive number.
    pub credits: i128,
    /// The last period of the books that counts.
    pub as_of: Period,
    /// Accounts that the file has otherwise.
    pub differences: Vec<Difference>,
    /// How many accounts agree.
    pub agree: usize,
    /// The account that would take a gap.
    pub taker: Option<AccountId>,
}

impl Analysis {
    pub(super) fn ready(ready_rows: usize, content: Content) -> Self {
        Self {
            ready_rows,
            rejected: Vec::new(),
            warnings: Vec::new(),
            outline: None,
            questions: Vec::new(),
            row_kinds: BTreeMap::new(),
            content,
        }
    }

    pub(super) fn of_intake<T>(intake: Intake<T>, content: impl FnOnce(Vec<T>) -> Content) -> Self {
        let Intake { ready, ready_rows, rejected, warnings } = intake;
        Self { rejected, warnings, ..Self::ready(ready_rows, content(ready)) }
    }

    /// What the entries of a journal come to, if it is one.
    pub fn journal(&self) -> Option<&ReadJournal> {
        match &self.content {
            Content::Journal(journal) => Some(journal),
            _ => None,
        }
    }

    /// Balances beside those of the books, if it holds some.
    pub fn balances(&self) -> Option<&BalanceComparison> {
        match &self.content {
            Content::Balances(read) => Some(&read.beside),
            _ => None,
        }
    }

    /// What a chart says otherwise than that of the books, if it is one and they have one.
    pub fn comparison(&self) -> Option<&Comparison> {
        match &self.content {
            Content::Comparison(comparison) => Some(comparison),
            _ => None,
        }
    }
}
