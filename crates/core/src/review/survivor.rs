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
    fn over(&self, other: &Self) -> String {
        match self {
            Self { role: Some(role), .. } if other.role.is_none() => {
                format!("it is the books’ {} account", role.words())
            }
            _ if self.active != other.active => "it is active".to_owned(),
            _ if self.unmarked != other.unmarked => {
                "its name does not say that it is old".to_owned()
            }
            _ if self.undated != other.undated => "its name is not bound to a year".to_owned(),
            _ if self.in_use != other.in_use => "it is still posted to".to_owned(),
            _ if self.lines != other.lines => "it has the most lines".to_owned(),
            _ => "its code comes first".to_owned(),
        }
    }
}

/// The account to keep: one that the books need, that is in use, whose name says nothing against it,
/// and that has most history. With it, in words, what it has over the next best.
pub(super) fn suggest(
    today: &Today,
    accounts: &[AccountId],
    latest: Option<Date>,
) -> Option<(AccountId, String)> {
    let known = accounts.iter().filter_map(|id| today.chart.get(*id));
    let mut ranked: Vec<_> =
        known.map(|account| (Standing::of(today, account, latest), account.id)).collect();
    ranked.sort_by(|a, b| b.0.cmp(&a.0));
    let (best, id) = ranked.first()?;
    let why = ranked.get(1).map_or_else(String::new, |(next, _)| best.over(next));
    Some((*id, why))
}
