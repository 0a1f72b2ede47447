//! What a rehearsal does, as figures and facts: for whoever shows it, and for what is kept with an application.
//! Amounts are minor units of the base currency; debits are positive.

use super::cause::{Place, SumOf};
use super::effects::{Effects, Rewriting, RowChange};
use super::{Moved, Rehearsal};
use crate::calendar::{FiscalCalendar, Period};
use crate::chart::{Account, Class, Kind, Status};
use crate::code::Interval;
use crate::history::Which;
use crate::history::cut::Tally;
use crate::ids::{AccountId, ById};
use crate::keyed::keyed;
use crate::money::Currency;
use crate::plan::{Change, Field, InCrosswalk};
use crate::row_figures::RowFigures;
use crate::today::Today;
use crate::trial_balance::TrialBalance;
use serde::{Deserialize, Serialize};
use std::collections::BTreeMap;
use time::Date;

keyed! {
    /// The kinds of change a plan can make to an account.
    ChangeKind {
        /// Its history stands under another account.
        Merged = "merged";
        /// It bears another code.
        Renumbered = "renumbered";
        /// It bears another name.
        Renamed = "renamed";
        /// It stands under another heading.
        Regrouped = "regrouped";
        /// Its class or section is another.
        ClassChanged = "reclassified";
        /// It is new.
        Added = "added";
        /// It takes no new postings.
        Deactivated = "deactivated";
        /// It is out of sight as well.
        Archived = "archived";
        /// It is active again.
        Restored = "restored";
        /// It is gone.
        Deleted = "deleted";
        /// Other settings of it change.
        SettingsChanged = "reset";
        /// A sum line adds up other codes, for the same accounts.
        Rewritten = "rewritten";
    }
}

/// What a plan does, and the figures that prove that nothing is lost.
#[derive(Clone, Debug, PartialEq, Eq, Serialize, Deserialize)]
pub struct Report {
    /// The figures of it.
    pub figures: ReportFigures,
    /// Every account that changes.
    pub crosswalk: Vec<Crossing>,
    /// Every part of a history that moves.
    pub moved: Vec<MovedPart>,
    /// Every line of a report that follows.
    pub report_lines: Vec<Followed>,
}

/// The figures of what a plan does.
#[derive(Clone, Debug, PartialEq, Eq, Serialize, Deserialize)]
pub struct ReportFigures {
    /// The base currency.
    pub currency: Currency,
    /// How many rows the chart has today.
    pub accounts_today: usize,
    /// How many After.
    pub accounts_after: usize,
    /// Lines in all.
    pub lines: u64,
    /// Lines that an account presents After.
    pub accounted: u64,
    /// Sum of all debits.
    pub debits: i128,
    /// Sum of all credits.
    pub credits: i128,
    /// The digest of the content of every line, in hexadecimal digits.
    pub digest: String,
    /// In how many periods anything was posted.
    pub periods: usize,
    /// What no account presents After.
    pub difference: i128,
    /// Totals by class.
    pub classes: Vec<(Class, Sides)>,
}

/// An amount on both sides of a plan.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Serialize, Deserialize)]
pub struct Sides {
    /// Today.
    pub today: i128,
    /// After.
    pub after: i128,
}

impl Sides {
    /// After less today.
    pub fn difference(self) -> i128 {
        self.after - self.today
    }
}

/// One account that changes.
#[derive(Clone, Debug, PartialEq, Eq, Serialize, Deserialize)]
pub struct Crossing {
    /// The account.
    pub account: AccountId,
    /// The account that holds its history After; none for a deleted account.
    pub holder: Option<AccountId>,
    /// What changes.
    pub changes: Vec<ChangeKind>,
    /// What changes beyond code, name and fate.
    pub details: Vec<Detail>,
    /// How many lines it holds today.
    pub lines: u64,
    /// Its balance today.
    pub balance: i128,
}

/// Something that changes of an account, with what it was and what it becomes.
#[derive(Clone, Debug, PartialEq, Eq, Serialize, Deserialize)]
#[serde(rename_all = "snake_case")]
pub enum Detail {
    /// Its heading; none is the top.
    Heading(Option<AccountId>, Option<AccountId>),
    /// Its class and statement item.
    Place(Place, Place),
    /// A setting.
    Setting(Change, Change),
    /// The day from which its fate holds, where that alone changes.
    State(Change),
    /// The codes that a sum line adds up.
    Codes(Vec<Interval>, Vec<Interval>),
    /// The day from which its new fate holds.
    From(Date),
}

/// A part of a history that moves.
#[derive(Clone, Debug, PartialEq, Eq, Serialize, Deserialize)]
pub struct MovedPart {
    /// The account whose history it was.
    pub from: AccountId,
    /// Where it goes.
    pub to: AccountId,
    /// Which lines.
    pub which: Which,
    /// How many.
    pub lines: u64,
    /// What they add up to.
    pub net: i128,
    /// The same by fiscal year.
    pub years: Vec<MovedYear>,
}

/// What lines of one fiscal year add up to.
#[derive(Clone, Debug, PartialEq, Eq, Serialize, Deserialize)]
pub struct MovedYear {
    /// The last day of the year.
    pub end: Date,
    /// How many lines.
    pub lines: u64,
    /// What they add up to.
    pub net: i128,
}

/// Something that adds up other codes After, for the same accounts.
#[derive(Clone, Debug, PartialEq, Eq, Serialize, Deserialize)]
pub struct Followed {
    /// What it is.
    pub sum: SumOf,
    /// What it adds up today.
    pub today: Vec<Interval>,
    /// What it adds up After.
    pub after: Vec<Interval>,
}

/// The trial balance on both sides.
#[derive(Clone, Debug, PartialEq, Eq, Serialize, Deserialize)]
pub struct TrialBalances {
    /// Today.
    pub today: Vec<TrialLine>,
    /// After.
    pub after: Vec<TrialLine>,
}

/// A line of a trial balance.
#[derive(Clone, Debug, PartialEq, Eq, Serialize, Deserialize)]
pub struct TrialLine {
    /// The account; none for the results of earlier years.
    pub account: Option<AccountId>,
    /// The class.
    pub class: Class,
    /// The balance.
    pub balance: i128,
}

impl Report {
    /// What a rehearsal does.
    pub fn of(today: &Today, rehearsal: &Rehearsal) -> Self {
        let moved = rehearsal.moved.iter().map(|moved| MovedPart::of(moved, today.calendar));
        Self {
            figures: ReportFigures::of(today, rehearsal),
            crosswalk: crosswalk(today, rehearsal),
            moved: moved.collect(),
            report_lines: Followed::report_lines(&rehearsal.effects).collect(),
        }
    }
}

/// How many accounts change in each way that any does. One can change in several.
pub fn counts<'a>(changes: impl Iterator<Item = &'a ChangeKind>) -> BTreeMap<ChangeKind, usize> {
    changes.fold(BTreeMap::new(), |mut counts, change| {
        *counts.entry(*change).or_default() += 1;
        counts
    })
}

impl ReportFigures {
    /// What all accounts add up to: nothing, or something is wrong.
    pub fn all(&self) -> Sides {
        let sum = |of: fn(&Sides) -> i128| self.classes.iter().map(|(_, sides)| of(sides)).sum();
        Sides { today: sum(|sides| sides.today), after: sum(|sides| sides.after) }
    }

    fn of(today: &Today, rehearsal: &Rehearsal) -> Self {
        let proof = &rehearsal.proof;
        let classes = proof.classes().map(|(class, today, after)| (class, Sides { today, after }));
        Self {
            currency: today.currency,
            accounts_today: today.chart.live().count(),
            accounts_after: rehearsal.after.live().count(),
            lines: proof.lines.lines,
            accounted: proof.accounted,
            debits: proof.lines.debit,
            credits: proof.lines.credit,
            digest: format!("{:016x}", proof.lines.digest),
            periods: proof.periods,
            difference: proof.difference,
            classes: classes.collect(),
        }
    }
}

impl TrialBalances {
    /// What a rehearsal makes of the trial balance.
    pub fn of(rehearsal: &Rehearsal) -> Self {
        let proof = &rehearsal.proof;
        Self { today: trial_lines(&proof.today), after: trial_lines(&proof.after) }
    }
}

fn trial_lines(trial: &TrialBalance) -> Vec<TrialLine> {
    let earlier = (trial.earlier_results != 0).then_some(TrialLine {
        account: None,
        class: Class::Equity,
        balance: trial.earlier_results,
    });
    let rows = trial.rows.iter().map(|row| TrialLine {
        account: Some(row.account),
        class: row.class,
        balance: row.balance,
    });
    rows.chain(earlier).collect()
}

fn crosswalk(today: &Today, rehearsal: &Rehearsal) -> Vec<Crossing> {
    let own = RowFigures::all(&today.chart, today.figures(), &ById::default());
    let rows = rehearsal.effects.rows.iter();
    rows.filter_map(|row| {
        let account = row.account()?;
        let own = own.get(&account).copied().unwrap_or_default();
        let holder = row.after.as_ref().and_then(|after| match after.status {
            Status::Merged => rehearsal.after.holder(after.id).map(|holder| holder.id),
            _ => Some(after.id),
        });
        let (changes, details) = describe(row);
        Some(Crossing { account, holder, changes, details, lines: own.lines, balance: own.balance })
    })
    .collect()
}

fn describe(row: &RowChange) -> (Vec<ChangeKind>, Vec<Detail>) {
    let (before, after) = match (&row.before, &row.after) {
        (None, _) => return (vec![ChangeKind::Added], Vec::new()),
        (_, None) => return (vec![ChangeKind::Deleted], Vec::new()),
        (Some(before), Some(after)) => (before, after),
    };
    let mut changes = Vec::new();
    let mut details = Vec::new();
    let status = match after.status {
        now if now == before.status => None,
        Status::Merged => return (vec![ChangeKind::Merged], Vec::new()),
        Status::Active => Some(ChangeKind::Restored),
        Status::Deactivated => Some(ChangeKind::Deactivated),
        Status::Archived => Some(ChangeKind::Archived),
    };
    changes.extend((before.code != after.code).then_some(ChangeKind::Renumbered));
    changes.extend((before.name != after.name).then_some(ChangeKind::Renamed));
    if before.parent != after.parent {
        changes.push(ChangeKind::Regrouped);
        details.push(Detail::Heading(before.parent, after.parent));
    }
    if before.place() != after.place() {
        changes.push(ChangeKind::ClassChanged);
        let place =
            |account: &Account| (account.class, account.caption.as_ref().map(|line| line.id));
        details.push(Detail::Place(place(before), place(after)));
    }
    let settings =
        Field::ALL.iter().copied().filter(|field| field.in_crosswalk() == InCrosswalk::Setting);
    let reset = settings.filter_map(|field| {
        let (old, new) = (Change::of(before, field), Change::of(after, field));
        (old != new).then_some(Detail::Setting(old, new))
    });
    let mut reset: Vec<_> = reset.collect();
    if status.is_none() && before.status_from != after.status_from {
        reset.push(Detail::State(Change::of(after, Field::Fate)));
    }
    changes.extend((!reset.is_empty()).then_some(ChangeKind::SettingsChanged));
    details.extend(reset);
    if before.kind == Kind::Sum && before.intervals != after.intervals {
        changes.push(ChangeKind::Rewritten);
        details.push(Detail::Codes(before.intervals.clone(), after.intervals.clone()));
    }
    details.extend(status.and(after.status_from).map(Detail::From));
    changes.extend(status);
    (changes, details)
}

impl MovedYear {
    /// What a tally adds up to in each fiscal year.
    pub fn of(tally: &Tally, calendar: FiscalCalendar) -> Vec<Self> {
        let year = |(start, (lines, net)): (&Period, &(u64, i128))| Self {
            end: calendar.last_day(start.year_end()),
            lines: *lines,
            net: *net,
        };
        tally.years.iter().map(year).collect()
    }
}

impl Followed {
    /// The lines of reports that follow.
    pub fn report_lines(effects: &Effects) -> impl Iterator<Item = Self> + '_ {
        effects.rewritings.iter().map(|Rewriting { name, from, to, .. }| Self {
            sum: SumOf::Report(name.clone()),
            today: from.clone(),
            after: to.clone(),
        })
    }

    /// The sum lines that follow.
    pub fn sum_lines(effects: &Effects) -> impl Iterator<Item = Self> + '_ {
        effects.rows.iter().filter_map(|row| {
            let (before, after) = (row.before.as_ref()?, row.after.as_ref()?);
            (before.intervals != after.intervals).then(|| Self {
                sum: SumOf::Row(after.id),
                today: before.intervals.clone(),
                after: after.intervals.clone(),
            })
        })
    }
}

impl MovedPart {
    fn of(moved: &Moved, calendar: FiscalCalendar) -> Self {
        Self {
            from: moved.from,
            to: moved.to,
            which: moved.which.clone(),
            lines: moved.tally.lines(),
            net: moved.tally.net(),
            years: MovedYear::of(&moved.tally, calendar),
        }
    }
}
