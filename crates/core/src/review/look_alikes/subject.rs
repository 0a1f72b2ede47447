//! An account as it is compared with others.

use crate::activity::Totals;
use crate::calendar::Period;
use crate::chart::{Account, Class, Kind};
use crate::ids::{AccountId, ById};
use crate::review::classes::Judge;
use crate::review::sketch::{Sketch, Sketches};
use crate::review::survivor::has_stopped;
use crate::review::wording::{Word, Wording};
use crate::today::Today;
use std::collections::{BTreeMap, BTreeSet, HashMap};
use time::Date;

/// An account as it is compared.
pub(super) struct Subject<'a> {
    pub(super) account: &'a Account,
    /// The class that it should have by all that is seen of it: its own, unless that is contradicted.
    pub(super) class: Class,
    pub(super) wording: Wording,
    /// Whether its name lost the name of what was given up: it is one of a chart that was taken over.
    pub(super) taken_over: bool,
    /// How much each of its words tells.
    pub(super) weights: Vec<f64>,
    /// Its place by code among those of its class.
    pub(super) place: usize,
    /// The period of its first line.
    pub(super) first: Option<Period>,
    /// The day of its last line.
    pub(super) last: Option<Date>,
    pub(super) totals: Totals,
    /// In how many periods it has lines.
    pub(super) periods: usize,
    pub(super) sketch: Option<&'a Sketch>,
}

impl Subject<'_> {
    /// Whether another account is of the same class, or should be.
    pub(super) fn is_of_class_of(&self, other: &Self) -> bool {
        self.account.class == other.account.class || self.class == other.class
    }
}

/// Words that tell less than this may be left out of a name as it happens.
pub(super) const LITTLE: f64 = 1.0;

/// When an account was posted to.
#[derive(Default)]
struct Span {
    first: Option<Period>,
    periods: usize,
}

/// The accounts of the books that lines are posted to, by code.
pub(super) fn subjects<'a>(today: &'a Today, sketches: &'a Sketches) -> Vec<Subject<'a>> {
    let mut accounts: Vec<&Account> =
        today.chart.live().filter(|account| account.kind == Kind::Account).collect();
    accounts.sort_by(|a, b| a.code.chart_order(&b.code));
    let mut spans: ById<Span> = ById::default();
    for (strand, shares, _) in today.activity.strands() {
        if let Some((slot, _)) = shares.first_key_value() {
            let span = spans.entry(strand.account).or_default();
            span.first = Some(span.first.map_or(slot.period, |first| first.min(slot.period)));
            span.periods += shares.len();
        }
    }
    let judge = Judge::of(today);
    let mut places: BTreeMap<Class, usize> = BTreeMap::new();
    let subject = |account: &'a Account| {
        let place = places.entry(account.class).or_default();
        *place += 1;
        let figures = today.figures_of(account.id);
        let span = spans.remove(&account.id).unwrap_or_default();
        Subject {
            account,
            class: judge.contradicted(account).map_or(account.class, |judged| judged.class),
            wording: Wording::of(&account.name),
            taken_over: false,
            weights: Vec::new(),
            place: *place,
            first: span.first,
            last: figures.last,
            totals: figures.all,
            periods: span.periods,
            sketch: sketches.get(&account.id),
        }
    };
    let mut subjects: Vec<Subject<'a>> = accounts.into_iter().map(subject).collect();
    let latest = subjects.iter().filter_map(|subject| subject.last).max();
    leave_out_shared_words(&mut subjects, latest);
    weigh(&mut subjects);
    subjects
}

/// Where all accounts under a heading have a word in common and none of them is posted to any more,
/// the word is the name of what was given up, and not of what they are for.
fn leave_out_shared_words(subjects: &mut [Subject<'_>], latest: Option<Date>) {
    let mut under: HashMap<AccountId, Vec<usize>> = HashMap::new();
    for (at, subject) in subjects.iter().enumerate() {
        if let Some(parent) = subject.account.parent {
            under.entry(parent).or_default().push(at);
        }
    }
    for places in under.into_values().filter(|places| places.len() >= 5) {
        let silent = places.iter().all(|at| has_stopped(subjects[*at].last, latest));
        if !silent {
            continue;
        }
        let mut counts: HashMap<String, usize> = HashMap::new();
        for at in &places {
            for word in &subjects[*at].wording.words {
                *counts.entry(word.stem.clone()).or_default() += 1;
            }
        }
        let shared =
            |word: &Word| counts.get(&word.stem).is_some_and(|n| n * 5 >= places.len() * 4);
        for at in &places {
            let words = &mut subjects[*at].wording.words;
            if words.iter().any(|word| !shared(word)) && words.iter().any(shared) {
                words.retain(|word| !shared(word));
                subjects[*at].taken_over = true;
            }
        }
    }
}

/// A word tells the more the fewer names have it. One that all accounts under a heading share, as the
/// name of a department, parts them from all others.
fn weigh(subjects: &mut [Subject<'_>]) {
    let mut names: HashMap<String, f64> = HashMap::new();
    let mut under: HashMap<(AccountId, String), usize> = HashMap::new();
    let mut sizes: HashMap<AccountId, usize> = HashMap::new();
    for subject in &*subjects {
        let words: BTreeSet<&str> = subject.wording.words.iter().map(Word::key).collect();
        for word in words {
            *names.entry(word.to_owned()).or_default() += 1.0;
            if let Some(parent) = subject.account.parent {
                *under.entry((parent, word.to_owned())).or_default() += 1;
            }
        }
        if let Some(parent) = subject.account.parent {
            *sizes.entry(parent).or_default() += 1;
        }
    }
    let count = subjects.len() as f64;
    for subject in subjects {
        let parent = subject.account.parent;
        let parts = |word: &Word| {
            parent.is_some_and(|parent| {
                let size = sizes.get(&parent).copied().unwrap_or_default();
                let having =
                    under.get(&(parent, word.key().to_owned())).copied().unwrap_or_default();
                size >= 5 && having * 5 >= size * 4
            })
        };
        let weight = |word: &Word| {
            let rarity = (count / names.get(word.key()).copied().unwrap_or(1.0)).ln().max(0.5);
            match word.filler {
                true => rarity.min(LITTLE),
                false if parts(word) => rarity * 2.0,
                false => rarity,
            }
        };
        subject.weights = subject.wording.words.iter().map(weight).collect();
    }
}
