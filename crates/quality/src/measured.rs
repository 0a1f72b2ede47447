//! What was found of what is planted.

use crate::baselines::Two;
use crate::books::TradeBooks;
use crate::trade::Kind;
use std::collections::{BTreeMap, BTreeSet};
use std::ops::AddAssign;
use zf_core::review::look_alikes::LookAlike;

/// Found, of how many.
#[derive(Clone, Copy, Debug, Default)]
pub(crate) struct Share {
    pub(crate) found: usize,
    pub(crate) of: usize,
}

impl Share {
    pub(crate) fn ratio(self) -> f64 {
        self.found as f64 / self.of.max(1) as f64
    }
}

impl AddAssign for Share {
    fn add_assign(&mut self, other: Self) {
        self.found += other.found;
        self.of += other.of;
    }
}

/// What a set of proposed pairs comes to.
#[derive(Clone, Debug, Default)]
pub(crate) struct Measured {
    /// Planted groups all of whose pairs are proposed.
    pub(crate) groups: Share,
    pub(crate) by_kind: BTreeMap<Kind, Share>,
    /// Proposed pairs that are planted.
    pub(crate) pairs: Share,
    /// Tempting pairs that are proposed.
    pub(crate) tempting: Share,
    /// Proposed pairs that are not planted, and planted ones that are not proposed.
    pub(crate) wrong: Vec<Two>,
    pub(crate) missed: Vec<Two>,
}

impl AddAssign for Measured {
    fn add_assign(&mut self, other: Self) {
        self.groups += other.groups;
        for (kind, share) in other.by_kind {
            *self.by_kind.entry(kind).or_default() += share;
        }
        self.pairs += other.pairs;
        self.tempting += other.tempting;
        self.wrong.extend(other.wrong);
        self.missed.extend(other.missed);
    }
}

/// The pairs of a group.
pub(crate) fn pairs_of<'a, T: Copy + Ord + 'a>(
    accounts: impl IntoIterator<Item = &'a T>,
) -> BTreeSet<(T, T)> {
    let accounts: Vec<T> = accounts.into_iter().copied().collect();
    let pairs = accounts
        .iter()
        .enumerate()
        .flat_map(|(n, a)| accounts[n + 1..].iter().map(move |b| (*a.min(b), *a.max(b))));
    pairs.collect()
}

pub(crate) fn proposed(groups: &[LookAlike]) -> BTreeSet<Two> {
    groups.iter().flat_map(|group| pairs_of(&group.accounts)).collect()
}

pub(crate) fn planted(books: &TradeBooks) -> BTreeSet<Two> {
    books.groups.iter().flat_map(|group| pairs_of(&group.accounts)).collect()
}

impl Measured {
    pub(crate) fn of(books: &TradeBooks, proposed: &BTreeSet<Two>) -> Self {
        let mut measured = Self::default();
        for group in &books.groups {
            let is_found = pairs_of(&group.accounts).is_subset(proposed);
            let share = Share { found: usize::from(is_found), of: 1 };
            measured.groups += share;
            for kind in &group.kinds {
                *measured.by_kind.entry(*kind).or_default() += share;
            }
        }
        let planted = planted(books);
        let right = proposed.intersection(&planted).count();
        measured.pairs = Share { found: right, of: proposed.len() };
        let tempted = books.tempting.intersection(proposed).count();
        measured.tempting = Share { found: tempted, of: books.tempting.len() };
        measured.wrong = proposed.difference(&planted).copied().collect();
        measured.missed = planted.difference(proposed).copied().collect();
        measured
    }
}

#[cfg(test)]
mod tests {
    use super::pairs_of;

    #[test]
    fn a_group_has_all_its_pairs_the_lesser_first() {
        let pairs: Vec<(i32, i32)> = pairs_of(&[3, 1, 2]).into_iter().collect();
        assert_eq!(pairs, [(1, 2), (1, 3), (2, 3)]);
        assert!(pairs_of(&[7]).is_empty());
    }
}
