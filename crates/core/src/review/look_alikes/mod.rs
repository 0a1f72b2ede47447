//! Look-alikes: accounts that are probably the same thing, with what speaks for it and against it. Only accounts that
//! share a telling word, or rare people or phrases, are compared with each other.

mod candidates;
mod constraints;
mod evidence;
mod groups;
mod names;
mod observation;
mod rarity;
mod subject;
mod weights;

pub use evidence::{Kind, Levels};
pub use observation::{InCommon, Observation, Then};
pub use weights::Table;

use crate::ids::AccountId;
use crate::review::NotDuplicates;
use crate::review::sketch::Sketches;
use crate::review::survivor::suggest;
use crate::today::Today;
use candidates::Candidates;
use constraints::Two;
use evidence::{ALL, Pair};
use groups::Clusters;
use names::Common;
use rarity::Rarity;
use std::collections::HashMap;
use subject::{Subject, subjects};
use time::Date;
use weights::{Weights, odds_of, probability};

/// Accounts that are probably the same thing.
#[derive(Clone, Debug, PartialEq)]
pub struct LookAlike {
    /// The accounts, by code.
    pub accounts: Vec<AccountId>,
    /// The one that the others would best be merged into.
    pub survivor: AccountId,
    /// The probability that they are, from 0 to 1: that of the least likely of them.
    pub score: f64,
    /// What speaks for it, the strongest first.
    pub evidence: Vec<Observation>,
    /// What speaks against it.
    pub against: Vec<Observation>,
}

/// What was found, the surest first in each tier.
#[derive(Clone, Debug, Default, PartialEq)]
pub struct Found {
    /// Of these about nine in ten or more are the same thing.
    pub sure: Vec<LookAlike>,
    /// These are worth a look.
    pub worth_a_look: Vec<LookAlike>,
}

/// From which probability on a group is sure.
const SURE: f64 = 0.68;

/// From which probability on a group is worth a look.
const WORTH: f64 = 0.1;

/// How many pairs of the books stand for strangers.
const STRANGERS: usize = 6_000;

/// What weighs less speaks against it; what weighs next to nothing is told with what speaks for it.
const AGAINST: f64 = -0.5;

/// How many observations a group has on either side.
const SAID: usize = 8;

/// Finds groups of look-alikes; what a person has told `apart` is not proposed.
pub fn find(today: &Today, sketches: &Sketches, apart: &NotDuplicates) -> Found {
    find_by(Table::shipped(), today, sketches, apart)
}

/// The same by another table of what was counted.
pub fn find_by(table: &Table, today: &Today, sketches: &Sketches, apart: &NotDuplicates) -> Found {
    let finder = Finder::new(table, today, sketches, apart);
    finder.found(&finder.candidates())
}

/// Compares every account with every other, as a measure of what [`find`] saves.
pub fn find_slowly(today: &Today, sketches: &Sketches) -> Found {
    let apart = NotDuplicates::default();
    let finder = Finder::new(Table::shipped(), today, sketches, &apart);
    let count = finder.subjects.len();
    let pairs = (0..count).flat_map(|a| (a + 1..count).map(move |b| (a, b)));
    finder.found(&pairs.collect::<Vec<_>>())
}

/// At which levels the evidence stands for every pair that no rule keeps apart, and what it scores before calibration:
/// what a table is made from.
pub fn compared(
    table: &Table,
    today: &Today,
    sketches: &Sketches,
) -> Vec<([AccountId; 2], Levels, f64)> {
    let apart = NotDuplicates::default();
    let finder = Finder::new(table, today, sketches, &apart);
    let count = finder.subjects.len();
    let pairs = (0..count).flat_map(|a| (a + 1..count).map(move |b| (a, b)));
    let levels = pairs.filter_map(|(a, b)| {
        let levels = finder.levels(a, b)?;
        let ids = [a, b].map(|at| finder.subjects[at].account.id);
        Some((ids, levels, finder.weights.score(&levels)))
    });
    levels.collect()
}

struct Finder<'a> {
    today: &'a Today,
    apart: &'a NotDuplicates,
    subjects: Vec<Subject<'a>>,
    rarity: Rarity,
    weights: Weights,
    /// The last day on which anything was posted.
    latest: Option<Date>,
}

impl<'a> Finder<'a> {
    fn new(
        table: &Table,
        today: &'a Today,
        sketches: &'a Sketches,
        apart: &'a NotDuplicates,
    ) -> Self {
        let subjects = subjects(today, sketches);
        let rarity = Rarity::of(&subjects);
        let latest = subjects.iter().filter_map(|subject| subject.last).max();
        let count = subjects.len();
        let mut finder = Self {
            today,
            apart,
            subjects,
            rarity,
            weights: Weights::new(table, std::iter::empty(), count),
            latest,
        };
        finder.weights = Weights::new(table, finder.strangers(), count);
        finder
    }

    /// Pairs spread over the books whose names are not alike.
    fn strangers(&self) -> impl Iterator<Item = Levels> {
        let count = self.subjects.len();
        let all = count * count.saturating_sub(1) / 2;
        let step = (all / STRANGERS).max(1);
        let pairs = (0..count).flat_map(move |a| (a + 1..count).map(move |b| (a, b)));
        let levels = pairs.step_by(step).filter_map(|(a, b)| self.levels(a, b));
        levels.filter(|levels| usize::from(levels[0]) < Common::AllButLittle as usize)
    }

    fn candidates(&self) -> Vec<(usize, usize)> {
        let mut candidates = Candidates::of(&self.subjects);
        let near = (0..self.subjects.len()).flat_map(|at| {
            let near = candidates.near(at);
            near.into_iter().map(move |other| (at.min(other), at.max(other)))
        });
        let mut pairs: Vec<(usize, usize)> = near.collect();
        pairs.sort_unstable();
        pairs.dedup();
        pairs
    }

    /// What speaks for a pair; `None` when something keeps the two apart.
    fn with_pair<T>(&self, a: usize, b: usize, see: impl FnOnce(&Pair<'_>) -> T) -> Option<T> {
        let (a, b) = (&self.subjects[a], &self.subjects[b]);
        if !a.is_of_class_of(b) || self.apart.are(a.account.id, b.account.id) {
            return None;
        }
        let names = names::compare(a, b, &|word| self.rarity.names_with(word));
        let (rarity, today, latest) = (&self.rarity, self.today, self.latest);
        if constraints::apart(&Two { a, b, names: &names, rarity, latest }).is_some() {
            return None;
        }
        Some(see(&Pair { a, b, names: &names, rarity, today, latest }))
    }

    fn levels(&self, a: usize, b: usize) -> Option<Levels> {
        self.with_pair(a, b, evidence::levels)
    }

    fn odds(&self, a: usize, b: usize) -> Option<f64> {
        self.with_pair(a, b, |pair| {
            let levels = evidence::levels(pair);
            let odds = self.weights.odds(self.weights.score(&levels));
            Some(odds.min(odds_of(evidence::most(pair, &levels)?)))
        })?
    }

    fn found(&self, compared: &[(usize, usize)]) -> Found {
        let mut known: HashMap<(usize, usize), Option<f64>> = HashMap::new();
        let mut pairs = Vec::new();
        let least = odds_of(WORTH);
        for &(a, b) in compared {
            let odds = self.odds(a, b);
            if let Some(odds) = odds.filter(|odds| *odds >= least) {
                pairs.push((odds, a, b));
                known.insert((a, b), Some(odds));
            }
        }
        // Of equals the nearest by code.
        pairs.sort_by(|x, y| {
            let near = |pair: &(f64, usize, usize)| (pair.1.abs_diff(pair.2), pair.1);
            y.0.total_cmp(&x.0).then_with(|| near(x).cmp(&near(y)))
        });
        let mut odds = |a: usize, b: usize| *known.entry((a, b)).or_insert_with(|| self.odds(a, b));
        let mut clusters = Clusters::new();
        clusters.join(&pairs, odds_of(SURE), &mut odds);
        let sure = clusters.groups();
        clusters.join(&pairs, least, &mut odds);
        let mut others = clusters.groups();
        others.retain(|(members, _)| !sure.iter().any(|(same, _)| same == members));
        let tier = |groups: Vec<(Vec<usize>, f64)>| {
            let mut tier: Vec<LookAlike> =
                groups.iter().filter_map(|(members, odds)| self.group(members, *odds)).collect();
            tier.sort_by(|a, b| {
                b.score.total_cmp(&a.score).then_with(|| a.accounts.cmp(&b.accounts))
            });
            tier
        };
        Found { sure: tier(sure), worth_a_look: tier(others) }
    }

    fn group(&self, members: &[usize], odds: f64) -> Option<LookAlike> {
        let accounts: Vec<AccountId> =
            members.iter().map(|at| self.subjects[*at].account.id).collect();
        let (survivor, _) = suggest(self.today, &accounts, self.latest)?;
        // What each has in common with the one that stays; all pairs would say the same again and again.
        let stays = members.iter().find(|at| self.subjects[**at].account.id == survivor)?;
        let others = members.iter().filter(|at| *at != stays);
        let said = others.filter_map(|other| {
            self.with_pair(*stays.min(other), *stays.max(other), |pair| self.say(pair))
        });
        let mut said: Vec<(f64, Observation)> = said.flatten().collect();
        said.sort_by(|x, y| y.0.abs().total_cmp(&x.0.abs()).then_with(|| x.1.cmp(&y.1)));
        let mut evidence: Vec<Observation> = Vec::new();
        let mut against: Vec<Observation> = Vec::new();
        for (weight, seen) in said {
            let side = if weight > AGAINST { &mut evidence } else { &mut against };
            if !side.contains(&seen) && side.len() < SAID {
                side.push(seen);
            }
        }
        Some(LookAlike { accounts, survivor, score: probability(odds), evidence, against })
    }

    /// What each kind of evidence says of a pair, with its weight.
    fn say(&self, pair: &Pair<'_>) -> Vec<(f64, Observation)> {
        let levels = evidence::levels(pair);
        let said = ALL.iter().filter_map(|evidence| {
            let seen = (evidence.say)(pair, levels[evidence.kind as usize].into())?;
            Some((self.weights.of(evidence.kind, &levels), seen))
        });
        said.collect()
    }
}
