//! Lines dated after the day from which their account is deactivated or archived, or on which it was merged: whether
//! they go to a successor, open the account again, or are left out is for a person to say.

use super::books::JournalContext;
use crate::cause::Cause;
use std::collections::BTreeMap;
use time::Date;
use zf_core::chart::{Account, Status};
use zf_core::code::CodeKey;
use zf_core::ids::AccountId;

pub use super::said::{LateMeans, Said};

/// The lines of a file that are dated after the day of their account.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct LateLines {
    /// The account that is deactivated or archived, or was merged.
    pub account: AccountId,
    /// From when.
    pub from: Date,
    /// Where its history stands, if it was merged: lines go there unless something else is said.
    pub holder: Option<AccountId>,
    /// How many lines.
    pub lines: usize,
    /// The day of the first of them.
    pub first: Date,
    /// That of the last.
    pub last: Date,
    /// What was said of them.
    pub means: Option<LateMeans>,
}

/// An account to which lines up to a day come in without a question.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub(super) struct Ended {
    account: AccountId,
    from: Date,
    holder: Option<AccountId>,
}

/// What becomes of one late line.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub(super) struct Late {
    pub(super) of: Ended,
    pub(super) means: Option<LateMeans>,
}

impl Ended {
    /// Whether an account that a code was found to stand for takes lines up to a day only.
    pub(super) fn of(
        account: &Account,
        key: Option<&CodeKey>,
        books: &JournalContext<'_>,
    ) -> Option<Self> {
        let retired = matches!(account.status, Status::Deactivated | Status::Archived);
        if let Some(from) = account.status_from.filter(|_| retired) {
            return Some(Self { account: account.id, from, holder: None });
        }
        // A person, or the codes of an earlier time, may say what the code stands for.
        let key = key.filter(|key| !books.said.contains_key(key) && books.then.is_none())?;
        let (bearer, given_up) = books.former.last_bearer(key)?;
        let merged = books.chart.get(bearer).is_some_and(|row| row.status == Status::Merged);
        let is_its = merged && bearer != account.id && account.code.key() != *key;
        is_its.then_some(Self { account: bearer, from: given_up, holder: Some(account.id) })
    }

    /// What becomes of a line of a day, if that is later.
    pub(super) fn late(self, day: Date, books: &JournalContext<'_>) -> Option<Late> {
        let means = books.late.get(&self.account).copied();
        (day > self.from).then_some(Late { of: self, means })
    }
}

impl Late {
    /// The account that the line goes to, where that is known.
    pub(super) fn goes_to(self, books: &JournalContext<'_>) -> Option<AccountId> {
        let to = match self.means {
            Some(LateMeans::Successor(to)) => Some(AccountId(to)),
            Some(LateMeans::OpenAgain) => Some(self.of.account),
            Some(LateMeans::LeftOut) => None,
            None => self.of.holder,
        };
        let takes = |id: AccountId| {
            let account = books.chart.get(id);
            account.is_some_and(|a| {
                a.is_posting() && (a.status == Status::Active || id == self.of.account)
            })
        };
        to.filter(|id| takes(*id))
    }

    /// Why its entry is left out.
    pub(super) fn why(self, books: &JournalContext<'_>) -> Cause {
        let account = books.chart.get(self.of.account);
        Cause::AccountRetired {
            account: account.map(Account::label).unwrap_or_default(),
            status: account.map_or(Status::Merged, |account| account.status),
            from: self.of.from,
            left_out: self.means == Some(LateMeans::LeftOut),
        }
    }
}

/// Gathers late lines by their account.
#[derive(Default)]
pub(super) struct Gathered(Vec<(usize, Late, Date)>);

impl Gathered {
    /// Notes a line of an entry, by the place of that.
    pub(super) fn note(&mut self, entry: usize, late: Late, day: Date) {
        self.0.push((entry, late, day));
    }

    /// What they come to, but for those of entries that the journal has already.
    pub(super) fn settle(self, is_known: impl Fn(usize) -> bool) -> Vec<LateLines> {
        let mut by_account: BTreeMap<AccountId, LateLines> = BTreeMap::new();
        for (entry, Late { of, means }, day) in self.0 {
            if is_known(entry) {
                continue;
            }
            let new = || LateLines {
                account: of.account,
                from: of.from,
                holder: of.holder,
                lines: 0,
                first: day,
                last: day,
                means,
            };
            let lines = by_account.entry(of.account).or_insert_with(new);
            lines.lines += 1;
            lines.first = lines.first.min(day);
            lines.last = lines.last.max(day);
        }
        by_account.into_values().collect()
    }
}
