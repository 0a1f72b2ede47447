//! Which of several accounts would best be kept, and why.

use super::wording::Wording;
use crate::chart::{Account, ControlRole, Status};
use crate::code::CodeKey;
use crate::ids::AccountId;
use crate::today::Today;
use std::cmp::Reverse;
use time::{Date, Duration};

/// An account that was not posted to for a whole year, while others were, has stopped.
pub(super) const STOPPED: Duration = Duration::days(365);

/// Whether an account was given up, or never taken up, while others were posted to.
pub(super) fn has_stopped(last: Option<Date>, latest: Option<Date>) -> bool {
    latest.is_some_and(|latest| last.is_none_or(|last| last + STOPPED < latest))
}

/// What an account that is to be kept has over the next best.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum Better {
    /// The books rely on it in a role.
    Role(ControlRole),
    /// It is active.
    Active,
    /// Its name does not say that it is old.
    Unmarked,
    /// Its name is not bound to a year.
    Undated,
    /// It is still posted to.
    InUse,
    /// It has the most lines.
    MostLines,
    /// Its code comes first.
    FirstCode,
}

/// What speaks for keeping an account, what counts most first.
#[derive(PartialEq, Eq, PartialOrd, Ord)]
struct Standing {
    role: Option<ControlRole>,
    active: bool,
    unmarked: bool,
    undated: bool,
    in_use: bool,
    lines: u64,
    code: Reverse<CodeKey>,
}

impl Standing {
    fn of(today: &Today, account: &Account, latest: Option<Date>) -> Self {
        let wording = Wording::of(&account.name);
        let figures = today.figures_of(account.id);
        Self {
            role: account.role,
            active: account.status == Status::Active,
            unmarked: !wording.is_marked(),
            undated: wording.year.is_none(),
            in_use: !has_stopped(figures.last, latest),
            lines: figures.all.lines,
            code: Reverse(account.code.key()),
        }
    }

    /// The first thing that it has over another.
    fn over(&self, other: &Self) -> Better {
        match self {
            Self { role: Some(role), .. } if other.role.is_none() => Better::Role(*role),
            _ if self.active != other.active => Better::Active,
            _ if self.unmarked != other.unmarked => Better::Unmarked,
            _ if self.undated != other.undated => Better::Undated,
            _ if self.in_use != other.in_use => Better::InUse,
            _ if self.lines != other.lines => Better::MostLines,
            _ => Better::FirstCode,
        }
    }
}

/// The account to keep: one that the books need, that is in use, whose name says nothing against it,
/// and that has most history. With it, what it has over the next best, if there is one.
pub(super) fn suggest(
    today: &Today,
    accounts: &[AccountId],
    latest: Option<Date>,
) -> Option<(AccountId, Option<Better>)> {
    let known = accounts.iter().filter_map(|id| today.chart.get(*id));
    let mut ranked: Vec<_> =
        known.map(|account| (Standing::of(today, account, latest), account.id)).collect();
    ranked.sort_by(|a, b| b.0.cmp(&a.0));
    let (best, id) = ranked.first()?;
    let why = ranked.get(1).map(|(next, _)| best.over(next));
    Some((*id, why))
}
