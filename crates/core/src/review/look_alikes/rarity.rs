//! How rare what accounts share is in the books: what half of them have tells nothing.

use super::subject::Subject;
use crate::chart::Account;
use crate::ids::AccountId;
use crate::review::sketch::{Shares, Sketch};
use crate::review::wording::Word;
use std::collections::{HashMap, HashSet};
use std::hash::Hash;

/// How much words, people, phrases, dimension values and accounts on the other side tell, and the frames in which words take turns.
pub(super) struct Rarity {
    pub(super) payees: Telling<String>,
    pub(super) phrases: Telling<String>,
    pub(super) dimensions: Telling<String>,
    pub(super) counters: Telling<i64>,
    /// In how many names a word stands as it is written.
    written: HashMap<String, usize>,
    /// What names say that are bound to no year.
    undated: HashSet<String>,
    /// How many names two headings have in common, the lesser first.
    alike: HashMap<(AccountId, AccountId), usize>,
    /// With which other words a name begins, or ends, that begins or ends with some words.
    around: HashMap<String, HashSet<String>>,
}

/// By how many accounts each is shared, of how many that have any.
pub(super) struct Telling<K> {
    having: HashMap<K, usize>,
    of: usize,
}

impl<K: Ord + Clone + Hash> Telling<K> {
    fn of(subjects: &[Subject<'_>], which: fn(&Sketch) -> &Shares<K>) -> Self {
        let (mut having, mut of) = (HashMap::new(), 0);
        for sketch in subjects.iter().filter_map(|subject| subject.sketch) {
            let mut any = false;
            for (one, _) in which(sketch).iter() {
                *having.entry(one.clone()).or_default() += 1;
                any = true;
            }
            of += usize::from(any);
        }
        Self { having, of }
    }

    /// How much it tells that two accounts share something: nothing when half of them do.
    pub(super) fn weight(&self, of: &K) -> f64 {
        let having = self.having.get(of).copied().unwrap_or(1);
        (self.of as f64 / (2 * having) as f64).ln().max(0.0)
    }

    /// How much of two accounts' lines is alike, from 0 to 1, what is rare counting more; `None` when too few
    /// lines tell.
    pub(super) fn overlap(&self, a: &Shares<K>, b: &Shares<K>) -> Option<f64> {
        let (lines_a, lines_b) = (a.lines(), b.lines());
        if lines_a < ENOUGH || lines_b < ENOUGH {
            return None;
        }
        let share = |n: u32, of: u32| f64::from(n) / f64::from(of);
        let (mut both, mut either) = (0.0, 0.0);
        for (one, n) in a.iter() {
            let (here, there) = (share(n, lines_a), share(b.get(one), lines_b));
            let weight = self.weight(one);
            both += weight * here.min(there);
            either += weight * here.max(there);
        }
        for (one, n) in b.iter().filter(|(one, _)| a.get(one) == 0) {
            either += self.weight(one) * share(n, lines_b);
        }
        (either > 0.0).then(|| both / either)
    }

    /// Of what both have, what tells most.
    pub(super) fn common(&self, a: &Shares<K>, b: &Shares<K>, count: usize) -> Vec<K> {
        let both = a.iter().filter_map(|(one, n)| {
            let n = n.min(b.get(one));
            (n > 0).then(|| (self.weight(one) * f64::from(n), one.clone()))
        });
        let mut both: Vec<(f64, K)> = both.filter(|(weight, _)| *weight > 0.0).collect();
        both.sort_by(|a, b| b.0.total_cmp(&a.0).then_with(|| a.1.cmp(&b.1)));
        both.into_iter().take(count).map(|(_, one)| one).collect()
    }
}

/// Two headings with so many names in common are of two departments.
const SAME: usize = 3;

/// What stands under more headings than these is no matter of departments.
const DEPARTMENTS: usize = 60;

/// So many lines tell with whom an account is, or what it is about.
const ENOUGH: u32 = 4;

impl Rarity {
    pub(super) fn of(subjects: &[Subject<'_>]) -> Self {
        let mut written: HashMap<String, usize> = HashMap::new();
        let mut around: HashMap<String, HashSet<String>> = HashMap::new();
        for subject in subjects {
            let names: HashSet<&str> =
                subject.wording.words.iter().map(|word| word.written.as_str()).collect();
            for name in names {
                *written.entry(name.to_owned()).or_default() += 1;
            }
            let words: Vec<&str> = subject.wording.words.iter().map(Word::key).collect();
            for at in 1..words.len() {
                let (start, end) = (words[..at].join(" "), words[at..].join(" "));
                around.entry(start.clone()).or_default().insert(end.clone());
                around.entry(end).or_default().insert(start);
            }
        }
        let mut under: HashMap<String, HashSet<AccountId>> = HashMap::new();
        for subject in subjects {
            if let Some(parent) = subject.account.parent {
                under.entry(subject.wording.key()).or_default().insert(parent);
            }
        }
        let undated = subjects.iter().filter(|subject| subject.wording.year.is_none());
        let undated = undated.map(|subject| subject.wording.key()).collect();
        let mut alike: HashMap<(AccountId, AccountId), usize> = HashMap::new();
        for parents in under.values().filter(|parents| (2..=DEPARTMENTS).contains(&parents.len())) {
            for a in parents {
                for b in parents.iter().filter(|b| a < *b) {
                    *alike.entry((*a, *b)).or_default() += 1;
                }
            }
        }
        Self {
            payees: Telling::of(subjects, |sketch| &sketch.payees),
            phrases: Telling::of(subjects, |sketch| &sketch.phrases),
            dimensions: Telling::of(subjects, |sketch| &sketch.dimensions),
            counters: Telling::of(subjects, |sketch| &sketch.counters),
            written,
            alike,
            undated,
            around,
        }
    }

    /// How many names write a word just so.
    pub(super) fn names_with(&self, word: &Word) -> usize {
        self.written.get(&word.written).copied().unwrap_or_default()
    }

    /// Whether two accounts stand under headings that have several accounts of the same names: departments, or sites.
    pub(super) fn of_departments(&self, a: &Account, b: &Account) -> bool {
        let parents = a.parent.zip(b.parent).map(|(a, b)| (a.min(b), a.max(b)));
        parents.and_then(|two| self.alike.get(&two)).is_some_and(|names| *names >= SAME)
    }

    /// Whether an account says the same as one for a single year, and is bound to none.
    pub(super) fn has_undated(&self, subject: &Subject<'_>) -> bool {
        self.undated.contains(&subject.wording.key())
    }

    /// Whether names are made by a scheme, in which these words take turns: `Museum cleaning` and `Museum
    /// printing` where there are `Shop cleaning` and `Shop printing`.
    pub(super) fn take_turns(&self, own: &[Vec<String>; 2]) -> bool {
        let around = |words: &[String]| self.around.get(&words.join(" "));
        match (around(&own[0]), around(&own[1])) {
            (Some(a), Some(b)) => a.intersection(b).nth(1).is_some(),
            _ => false,
        }
    }
}
