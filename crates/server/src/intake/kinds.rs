//! What the rows of a file come to, one method for each kind of file.

use super::choices::Choices;
use super::{Beside, Content, Ties};
use crate::Problem;
use std::collections::{HashMap, HashSet};
use zf_core::calendar::Period;
use zf_core::chart::{Account, Chart};
use zf_core::code::CodeKey;
use zf_core::file_kind::FileKind;
use zf_core::former::CodesThen;
use zf_core::ids::AccountId;
use zf_core::trial_balance::{reported, trial_balance};
use zf_intake::compare::compare;
use zf_intake::journal::JournalIntake;
use zf_intake::reading::Reading;
use zf_intake::rows::Rows;
use zf_intake::{Intake, OutlineBy, Rejected, Warning};
use zf_intake::{balances, chart, crosswalk, journal, usage};
use zf_store::today::Snapshot;

/// What the rows of a sheet came to.
pub(super) struct Read {
    pub(super) ready_rows: usize,
    pub(super) rejected: Vec<Rejected>,
    pub(super) warnings: Vec<Warning>,
    pub(super) content: Content,
    pub(super) outline: Option<OutlineBy>,
    pub(super) unsettled: Vec<(String, usize)>,
    pub(super) ties: Option<Ties>,
    pub(super) beside: Option<Beside>,
}

impl Read {
    pub(super) fn nothing() -> Self {
        Self {
            ready_rows: 0,
            rejected: Vec::new(),
            warnings: Vec::new(),
            content: Content::Nothing,
            outline: None,
            unsettled: Vec::new(),
            ties: None,
            beside: None,
        }
    }

    fn of<T>(intake: Intake<T>, content: impl FnOnce(Vec<T>) -> Content) -> Self {
        Self {
            ready_rows: intake.ready_rows,
            rejected: intake.rejected,
            warnings: intake.warnings,
            content: content(intake.ready),
            ..Self::nothing()
        }
    }
}

/// What rows are read against.
pub(super) struct Matter<'a> {
    pub(super) reading: &'a Reading,
    pub(super) rows: &'a dyn Rows,
    pub(super) books: &'a Snapshot,
    /// The numbers of the entries already stored.
    pub(super) entries: HashSet<String>,
    /// The codes of an earlier time, when the file follows those.
    pub(super) then: Option<CodesThen>,
    pub(super) choices: &'a Choices,
}

impl Matter<'_> {
    /// Reads the rows.
    ///
    /// # Errors
    /// When a choice is not known.
    pub(super) fn read(self, kind: FileKind) -> Result<Read, Problem> {
        match kind {
            FileKind::Chart => Ok(self.chart()),
            FileKind::Journal => self.journal(),
            FileKind::Balances => Ok(self.balances()),
            FileKind::Crosswalk => Ok(self.crosswalk()),
            FileKind::Usage => {
                let (chart, former) = (&self.books.today.chart, &self.books.today.former);
                let read = usage::read(
                    self.reading,
                    &self.rows.all(),
                    chart,
                    former,
                    self.books.today.currency,
                );
                Ok(Read::of(read, Content::Usage))
            }
        }
    }

    /// Beside a chart that is there already it is a comparison.
    fn chart(&self) -> Read {
        let today = &self.books.today;
        let chart = &today.chart;
        let books = chart::Books { chart, format: today.policy.format };
        let rows = self.rows.all();
        let read = chart::read(self.reading, &rows, &books, chart.next_id());
        let compared = chart.live().next().map(|_| compare(&read, self.reading, &rows, chart));
        let (outline, unsettled) = (Some(read.outline), read.unsettled);
        let content = |accounts: Vec<(u32, Account)>| match compared {
            None => Content::Chart(accounts.into_iter().map(|(_, a)| a).collect()),
            Some(comparison) => Content::Comparison(comparison),
        };
        Read { outline, unsettled, ..Read::of(read.intake, content) }
    }

    fn crosswalk(&self) -> Read {
        let today = &self.books.today;
        let (chart, former, format) = (&today.chart, &today.former, today.policy.format);
        let books = crosswalk::Books { chart, former, format };
        Read::of(crosswalk::read(self.reading, &self.rows.all(), &books), Content::Crosswalk)
    }

    fn balances(self) -> Read {
        let today = &self.books.today;
        let chart = &today.chart;
        let intake =
            balances::read(self.reading, &self.rows.all(), chart, &today.former, today.currency);
        let side = |sign: i128| -> i128 {
            let amounts = intake.ready.iter().map(|b| i128::from(b.amount) * sign);
            amounts.filter(|amount| *amount > 0).sum()
        };
        let as_of = self.choices.as_of.map(Period).or(today.activity.last()).unwrap_or(Period(0));
        let trial = trial_balance(chart, &today.activity.figures_to(as_of));
        let (differences, agree) =
            balances::compare(&intake.ready, &reported(&trial, chart), chart);
        let taker = balances::difference_account(chart).map(Account::label);
        let (debits, credits) = (side(1), side(-1));
        let beside = Some(Beside { debits, credits, as_of, differences, agree, taker });
        Read { beside, ..Read::of(intake, |read| Content::Balances(read, self.entries)) }
    }

    fn journal(self) -> Result<Read, Problem> {
        let today = &self.books.today;
        let mut chart = today.chart.clone();
        let said = self.choices.said(&mut chart)?;
        let against = Against { chart, said, then: self.then, stored: self.entries };
        let mut read = journal::read(self.reading, self.rows, &against.books(self.books));
        let chart = &against.chart;
        let added = chart
            .iter()
            .filter(|a| today.chart.get(a.id).is_none() && read.by_account.contains_key(&a.id));
        let added: Vec<Account> = added.cloned().collect();
        let label = |id: &AccountId| chart.get(*id).map_or_else(String::new, Account::label);
        let ties = Ties {
            entries: read.entries,
            debits: read.debits,
            days: read.days,
            unbalanced: std::mem::take(&mut read.unbalanced),
            mapped: read.mapped.iter().map(|(code, id)| (code.clone(), label(id))).collect(),
            unknown: std::mem::take(&mut read.unknown),
            twice: None,
            digest: read.digest,
        };
        Ok(Read {
            ready_rows: read.ready_rows,
            rejected: std::mem::take(&mut read.rejected),
            warnings: std::mem::take(&mut read.warnings),
            ties: Some(ties),
            content: Content::Journal(Box::new(Journal { read, added, against })),
            ..Read::nothing()
        })
    }
}

/// A journal that was read, with all that its lines are read against once more.
#[derive(Debug)]
pub(super) struct Journal {
    /// What was read of it.
    pub(super) read: JournalIntake,
    /// The accounts that are added with it.
    pub(super) added: Vec<Account>,
    against: Against,
}

/// What the rows of a journal are read against, beside the books.
#[derive(Debug)]
struct Against {
    /// The chart of the books, with the accounts that are added.
    chart: Chart,
    said: HashMap<CodeKey, AccountId>,
    then: Option<CodesThen>,
    /// The numbers of the entries already stored.
    stored: HashSet<String>,
}

impl Against {
    fn books<'a>(&'a self, snapshot: &'a Snapshot) -> journal::Books<'a> {
        let today = &snapshot.today;
        journal::Books {
            chart: &self.chart,
            former: &today.former,
            currency: today.currency,
            calendar: today.calendar,
            locked: today.locked,
            entries: &self.stored,
            then: self.then.as_ref(),
            said: &self.said,
        }
    }
}

impl Journal {
    /// What the rows are read against.
    pub(super) fn books<'a>(&'a self, snapshot: &'a Snapshot) -> journal::Books<'a> {
        self.against.books(snapshot)
    }
}
