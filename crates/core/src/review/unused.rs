//! Accounts that are not used: never posted to, not for years, or marked as old by their name; with the
//! fate that each qualifies for, and why not for another.

use super::controls::by_name;
use super::wording::Wording;
use crate::calendar::Period;
use crate::chart::{Account, ControlRole, Kind, Status};
use crate::ids::AccountId;
use crate::plan::Fate;
use crate::rehearsal::cause::Cause;
use crate::rehearsal::guard;
use crate::rehearsal::rule::Severity;
use crate::today::Today;
use crate::trial_balance::balance;
use time::Date;

/// Why an account is listed, or what rules out a fate that it does not qualify for.
#[derive(Clone, Debug, PartialEq, Eq)]
pub enum Reason {
    /// It never had a line.
    NeverPosted,
    /// Its last line is of a day, and it had to have one since another.
    NotSince {
        /// The day of its last line.
        last: Date,
        /// The day since when it has to be used.
        since: Date,
    },
    /// Its name says that it is given up.
    NamedOld,
    /// The books rely on it in a role, so that it stays.
    StaysFor(ControlRole),
    /// By its name the books rely on it, so that it stays though no role says so.
    StaysByName,
    /// A rule blocks a fate.
    Against(Box<Cause>, Severity),
}

/// An account that is not used.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct Unused {
    /// The account.
    pub account: AccountId,
    /// The date of its latest line.
    pub last: Option<Date>,
    /// Its balance in minor units, debits positive: to date, or of the latest fiscal year.
    pub balance: i128,
    /// Whether a balance would be left standing on it, which has to be looked at before it goes.
    pub leaves_balance: bool,
    /// How many lines it has.
    pub lines: u64,
    /// The fate that it qualifies for: deleted, archived or deactivated; `None` when it has to stay
    /// as it is.
    pub fate: Option<Fate>,
    /// Why it is listed, and what rules out the fates that it does not qualify for.
    pub reasons: Vec<Reason>,
}

/// The day since when an account has to be used: the first of the fiscal year that went before that of the as-of
/// date, or, where nothing was posted, of another day.
pub fn usual_since(today: &Today, otherwise: Date) -> Date {
    let last = today.activity.last().unwrap_or_else(|| today.calendar.period_of(otherwise));
    let this_year = last.year_start();
    today.calendar.first_day(Period(this_year.0 - 12))
}

/// Finds what was never used, or not since a day, or is marked as old by its name.
pub fn find(today: &Today, since: Date) -> Vec<Unused> {
    let candidates = today.chart.live();
    let candidates = candidates.filter(|a| a.kind == Kind::Account && a.status == Status::Active);
    let mut found: Vec<(&Account, Unused)> =
        candidates.filter_map(|account| Some((account, of(today, account, since)?))).collect();
    found.sort_by(|(a, _), (b, _)| a.code.chart_order(&b.code));
    found.into_iter().map(|(_, unused)| unused).collect()
}

/// The accounts that take no more lines and can be restored, by code.
pub fn retired(today: &Today) -> Vec<&Account> {
    let retired = |status| matches!(status, Status::Deactivated | Status::Archived);
    let mut rows: Vec<_> = today.chart.live().filter(|a| retired(a.status)).collect();
    rows.sort_by(|a, b| a.code.chart_order(&b.code));
    rows
}

fn of(today: &Today, account: &Account, since: Date) -> Option<Unused> {
    let figures = today.figures_of(account.id);
    let (lines, last) = (figures.all.lines, figures.last);
    let mut reasons = Vec::new();
    if lines == 0 {
        reasons.push(Reason::NeverPosted);
    } else if let Some(last) = last.filter(|last| *last < since) {
        reasons.push(Reason::NotSince { last, since });
    }
    if Wording::of(&account.name).old {
        reasons.push(Reason::NamedOld);
    }
    if reasons.is_empty() {
        return None;
    }
    let fate = fate(today, account, lines, &mut reasons);
    let balance = balance(account, &figures);
    Some(Unused {
        account: account.id,
        last,
        balance,
        leaves_balance: account.class.on_balance_sheet() && balance != 0,
        lines,
        fate,
        reasons,
    })
}

/// The furthest fate that nothing blocks. What was used is archived at most; what the books
/// need for a role of its own stays.
fn fate(today: &Today, account: &Account, lines: u64, reasons: &mut Vec<Reason>) -> Option<Fate> {
    if let Some(role) = account.role {
        reasons.push(Reason::StaysFor(role));
        return None;
    }
    if by_name(account).is_some() {
        reasons.push(Reason::StaysByName);
        return None;
    }
    let furthest = if lines == 0 { Fate::Delete } else { Fate::archive() };
    for fate in [furthest, Fate::deactivate()] {
        let against = guard(today, account, fate);
        let stopped = against.iter().any(|finding| finding.severity == Severity::Stop);
        let against = against.into_iter();
        let against = against.map(|found| Reason::Against(Box::new(found.cause), found.severity));
        reasons.extend(against);
        if !stopped {
            return Some(fate);
        }
    }
    None
}
