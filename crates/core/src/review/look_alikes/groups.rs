//! Pairs become groups: what holds together as a whole, the surest first.

use std::collections::BTreeMap;

/// The log of the odds that two are the same thing; `None` when something keeps them apart.
pub(super) type Odds<'a> = &'a mut dyn FnMut(usize, usize) -> Option<f64>;

/// What it costs that two are told to be the same thing by a third alone.
const BRIDGE: f64 = 1.0;

/// The mean of the odds between the members of two clusters; `None` when something keeps any two of them apart. Of
/// three names of one thing the first and the last may have little in common but the second.
fn together(here: &[usize], there: &[usize], odds: Odds<'_>) -> Option<f64> {
    let all: Vec<usize> = here.iter().chain(there).copied().collect();
    let mut between = vec![vec![f64::NEG_INFINITY; all.len()]; all.len()];
    for (n, &x) in all.iter().enumerate() {
        for (m, &y) in all.iter().enumerate().skip(n + 1) {
            let own = odds(x.min(y), x.max(y))?;
            (between[n][m], between[m][n]) = (own, own);
        }
    }
    let (mut sum, mut count) = (0.0, 0.0);
    for n in 0..here.len() {
        for m in here.len()..all.len() {
            let by_third =
                (0..all.len()).map(|third| between[n][third].min(between[third][m]) - BRIDGE);
            sum += by_third.fold(between[n][m], f64::max);
            count += 1.0;
        }
    }
    Some(sum / count)
}

/// Groups, and how sure each is.
pub(super) struct Clusters {
    /// The cluster of each subject that is in one.
    of: BTreeMap<usize, usize>,
    members: BTreeMap<usize, Vec<usize>>,
    /// The least odds at which two parts of a cluster were joined.
    least: BTreeMap<usize, f64>,
}

impl Clusters {
    pub(super) fn new() -> Self {
        Self { of: BTreeMap::new(), members: BTreeMap::new(), least: BTreeMap::new() }
    }

    fn of(&mut self, at: usize) -> usize {
        let cluster = *self.of.entry(at).or_insert(at);
        self.members.entry(cluster).or_insert_with(|| vec![at]);
        cluster
    }

    /// Joins clusters by pairs, the surest first, where all of one could be all of the other and the mean of their
    /// odds is high enough.
    pub(super) fn join(&mut self, pairs: &[(f64, usize, usize)], enough: f64, odds: Odds<'_>) {
        for &(own, a, b) in pairs.iter().filter(|(own, ..)| *own >= enough) {
            let (one, other) = (self.of(a), self.of(b));
            if one == other {
                continue;
            }
            let Some(mean) = together(&self.members[&one], &self.members[&other], odds) else {
                continue;
            };
            if mean < enough {
                continue;
            }
            let moved = self.members.remove(&other).unwrap_or_default();
            moved.iter().for_each(|at| {
                self.of.insert(*at, one);
            });
            self.members.entry(one).or_default().extend(moved);
            let least = [Some(&own.min(mean)), self.least.get(&one), self.least.get(&other)];
            let least = least.into_iter().flatten().copied().fold(f64::INFINITY, f64::min);
            self.least.insert(one, least);
        }
    }

    /// The clusters of two or more, with the least odds by which they hold together.
    pub(super) fn groups(&self) -> Vec<(Vec<usize>, f64)> {
        let several = self.members.iter().filter(|(_, members)| members.len() > 1);
        let group = several.map(|(cluster, members)| {
            let mut members = members.clone();
            members.sort_unstable();
            (members, self.least.get(cluster).copied().unwrap_or_default())
        });
        group.collect()
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    /// Groups of pairs with these odds; all others are `between`, and none of those `apart` are one.
    fn groups(
        pairs: &[(f64, usize, usize)],
        between: f64,
        apart: &[(usize, usize)],
        enough: f64,
    ) -> Vec<Vec<usize>> {
        let mut odds = |a: usize, b: usize| {
            let own = pairs.iter().find(|(_, x, y)| (*x, *y) == (a, b)).map(|(odds, ..)| *odds);
            (!apart.contains(&(a, b))).then(|| own.unwrap_or(between))
        };
        let mut clusters = Clusters::new();
        clusters.join(pairs, enough, &mut odds);
        clusters.groups().into_iter().map(|(members, _)| members).collect()
    }

    #[test]
    fn three_hold_together_by_the_one_in_the_middle() {
        let pairs = [(6.0, 1, 2), (4.0, 2, 3)];
        assert_eq!(groups(&pairs, -8.0, &[], 2.0), [[1, 2, 3]]);
        assert_eq!(
            groups(&pairs, -8.0, &[(1, 3)], 2.0),
            [[1, 2]],
            "the first and the last are kept apart"
        );
    }

    #[test]
    fn a_weak_link_does_not_pull_two_groups_together() {
        let pairs = [(6.0, 1, 2), (6.0, 3, 4), (2.2, 2, 3)];
        assert_eq!(groups(&pairs, -8.0, &[], 2.0), [[1, 2], [3, 4]]);
    }

    #[test]
    fn what_is_not_sure_enough_stands_alone_until_less_is_asked() {
        let pairs = [(6.0, 1, 2), (1.0, 3, 4)];
        assert_eq!(groups(&pairs, -8.0, &[], 2.0), [[1, 2]]);
        assert_eq!(groups(&pairs, -8.0, &[], 0.5), [[1, 2], [3, 4]]);
    }

    #[test]
    fn a_group_is_as_sure_as_the_least_by_which_it_was_joined() {
        let pairs = [(6.0, 1, 2), (4.0, 2, 3), (4.0, 1, 3)];
        let mut odds = |a: usize, b: usize| {
            pairs.iter().find(|(_, x, y)| (*x, *y) == (a, b)).map(|(odds, ..)| *odds)
        };
        let mut clusters = Clusters::new();
        clusters.join(&pairs, 2.0, &mut odds);
        assert_eq!(clusters.groups(), [(vec![1, 2, 3], 4.0)]);
    }
}
