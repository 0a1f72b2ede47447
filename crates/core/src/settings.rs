//! What a set of books lays down for itself, how it is changed, and what a change does to figures.

use crate::activity::{Activity, Shares, Slot};
use crate::calendar::{FiscalCalendar, Period};
use crate::chart::Account;
use crate::entry::JournalSince;
use crate::money::Currency;
use crate::policy::{Level, Policy, RelaxableRule};
use crate::today::Today;
use crate::trail::Event;
use crate::trial_balance::balance;
use time::Date;

/// What a set of books lays down for itself.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct Settings {
    /// The company's name.
    pub name: String,
    /// The base currency.
    pub currency: Currency,
    /// When fiscal years start.
    pub calendar: FiscalCalendar,
    /// The last period that counts for balances, when that is laid down.
    pub as_of: Option<Period>,
    /// The last locked period.
    pub locked: Option<Period>,
    /// From when the journal is complete.
    pub journal: JournalSince,
    /// Whether the list of what names accounts elsewhere is known to be complete.
    pub uses_complete: bool,
    /// Code format, blocks, and how strict some rules are.
    pub policy: Policy,
}

/// A change of one of them.
#[derive(Clone, Debug, PartialEq, Eq)]
pub enum SettingChange {
    /// Another name.
    Name(String),
    /// Another currency.
    Currency(Currency),
    /// Other fiscal years.
    Year(FiscalCalendar),
    /// Up to which period figures are shown.
    AsOf(Option<Period>),
    /// From when the journal is complete.
    Journal(JournalSince),
    /// Whether the list of uses is complete.
    UsesComplete(bool),
    /// How strict a rule is.
    Rule(RelaxableRule, Level),
}

/// Why a setting cannot be changed.
#[derive(Clone, Copy, Debug, PartialEq, Eq, thiserror::Error)]
pub enum CannotChange {
    /// Amounts are there.
    #[error("the currency is fixed once there are lines: their amounts would mean something else")]
    Currency,
    /// Amounts are added up by the months of the year.
    #[error(
        "the day on which a fiscal year starts is fixed once there are lines: their months would be cut anew, also \
         locked ones; the month can be changed"
    )]
    Day,
}

/// What was changed, and what is noted of it.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct Changed {
    /// What is laid down from now on.
    pub settings: Settings,
    /// What was done.
    pub event: Event,
    /// By how many the numbers of periods go up, since they are counted from the start of a year.
    pub shift: i32,
}

impl Settings {
    /// Changes one of them, in books of so many lines; `None` when it is so already.
    ///
    /// # Errors
    /// When lines that are there would mean something else.
    pub fn change(
        &self,
        change: &SettingChange,
        lines: u64,
    ) -> Result<Option<Changed>, CannotChange> {
        let mut settings = self.clone();
        let mut shift = 0;
        let event = match change {
            SettingChange::Name(name) => {
                settings.name.clone_from(name);
                Event::RenamedBooks { from: self.name.clone(), to: name.clone() }
            }
            SettingChange::Currency(currency) => {
                if lines > 0 && *currency != self.currency {
                    return Err(CannotChange::Currency);
                }
                settings.currency = *currency;
                Event::ChangedCurrency { from: self.currency, to: *currency }
            }
            SettingChange::Year(calendar) => {
                if lines > 0 && calendar.day() != self.calendar.day() {
                    return Err(CannotChange::Day);
                }
                settings.calendar = *calendar;
                shift = i32::from(self.calendar.month()) - i32::from(calendar.month());
                let moved = |period: Option<Period>| period.map(|p| Period(p.0 + shift));
                settings.as_of = moved(self.as_of);
                settings.locked = moved(self.locked);
                Event::ChangedYear { from: self.calendar, to: *calendar }
            }
            SettingChange::AsOf(last) => {
                settings.as_of = *last;
                let day = |period: Option<Period>| period.map(|p| self.calendar.last_day(p));
                Event::ChangedAsOf { from: day(self.as_of), to: day(*last) }
            }
            SettingChange::Journal(since) => {
                settings.journal = *since;
                Event::ChangedJournal { from: self.journal, to: *since }
            }
            SettingChange::UsesComplete(complete) => {
                settings.uses_complete = *complete;
                Event::ChangedUsage { complete: *complete }
            }
            SettingChange::Rule(rule, level) => {
                let from = self.policy.level(*rule);
                settings.policy.take(*rule, *level);
                Event::ChangedPolicy { rule: *rule, from, to: *level }
            }
        };
        let same = settings == *self;
        Ok((!same).then_some(Changed { settings, event, shift }))
    }
}

/// What the books show of their latest fiscal year.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub struct ShownYear {
    /// Its first day.
    pub first: Date,
    /// The last day that counts.
    pub last: Date,
    /// What was earned in it up to that day, in minor units; a loss is negative.
    pub result: i128,
}

/// What a change does to the figures that are shown. No line changes by it.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub struct FiguresChange {
    /// The latest year as it is shown now; `None` without lines.
    pub before: Option<ShownYear>,
    /// As it would be shown.
    pub after: Option<ShownYear>,
    /// How many accounts would show another balance.
    pub accounts: usize,
}

/// What the change does to the figures that are shown, in books that stand like this. `usual` is the
/// last period that counts when none is laid down.
pub fn effect(today: &Today, changed: &Changed, usual: Option<Period>) -> FiguresChange {
    let shifted = shifted(&today.activity, changed.shift);
    let last = changed.settings.as_of.or(usual.map(|p| Period(p.0 + changed.shift)));
    let after = last.map_or(shifted.clone(), |last| shifted.as_of(last));
    let balance_in = |activity: &Activity, account: &Account| {
        activity.figures().get(&account.id).map_or(0, |figures| balance(account, figures))
    };
    let shown = |activity: &Activity, calendar: FiscalCalendar| {
        let last = activity.last()?;
        let results = today.chart.iter().filter(|account| !account.class.on_balance_sheet());
        Some(ShownYear {
            first: calendar.first_day(last.year_start()),
            last: calendar.last_day(last),
            result: -results.map(|account| balance_in(activity, account)).sum::<i128>(),
        })
    };
    let differs =
        |account: &&Account| balance_in(&today.activity, account) != balance_in(&after, account);
    FiguresChange {
        before: shown(&today.activity, today.calendar),
        after: shown(&after, changed.settings.calendar),
        accounts: today.chart.iter().filter(differs).count(),
    }
}

/// The same activity with its periods numbered anew.
fn shifted(activity: &Activity, shift: i32) -> Activity {
    Activity::new(activity.strands().map(|(strand, shares, _)| {
        let moved = |slot: &Slot| Slot { period: Period(slot.period.0 + shift), ..*slot };
        let shares: Shares = shares.iter().map(|(slot, share)| (moved(slot), *share)).collect();
        (strand.clone(), shares)
    }))
}
