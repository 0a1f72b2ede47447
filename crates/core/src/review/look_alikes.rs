//! Look-alikes: accounts that are probably the same thing, with what speaks for it in words. Only
//! accounts that share a telling word are compared with each other.

use super::survivor::{has_stopped, suggest};
use super::wording::{Word, Wording};
use super::{NotDuplicates, Shares, Sketch, Sketches};
use crate::calendar::Period;
use crate::calendar::say_day;
use crate::chart::{Account, Class, ControlRole, Kind};
use crate::ids::AccountId;
use crate::today::Today;
use std::cmp::Reverse;
use std::collections::{BTreeMap, BTreeSet, HashMap, HashSet};
use time::Date;

/// Accounts that are probably the same thing.
#[derive(Clone, Debug, PartialEq)]
pub struct LookAlike {
    /// The accounts, by code.
    pub accounts: Vec<AccountId>,
    /// The one that the others would best be merged into.
    pub survivor: AccountId,
    /// How sure it is, from 0 to 1: that of the least likely of them.
    pub score: f64,
    /// What speaks for it, in sentences.
    pub evidence: Vec<String>,
}

/// A pair of accounts that scores less is not proposed.
const THRESHOLD: f64 = 0.66;

/// What a pair scores for which all speaks: the same words, neighbours, the same people, and one of
/// them given up.
const ALL: f64 = 1.3;

/// A word that stands in more names of a class than these tells nothing.
const COMMON: usize = 160;

/// With how many others an account is compared: those that share the most telling words.
const COMPARED: usize = 16;

/// So many lines tell with whom an account is, or what it is about.
const TELLING: u32 = 4;

/// What is shared by more than this is worth saying.
const HALF: f64 = 0.5;

/// Words that say in which state something is: prepaid insurance is not insurance.
const STATES: [&str; 15] = [
    "accrued",
    "accumulated",
    "advance",
    "ahead",
    "allowance",
    "amortisation",
    "deferred",
    "depreciation",
    "impairment",
    "input",
    "output",
    "prepaid",
    "provision",
    "unearned",
    "unexpired",
];

/// An account as it is compared.
struct Subject<'a> {
    account: &'a Account,
    wording: Wording,
    /// How much each of its words tells.
    weights: Vec<f64>,
    /// Its words with digits, and those that say in which state something is: two accounts that are
    /// the same thing never differ in them.
    fixed: BTreeSet<String>,
    first: Option<Period>,
    last: Option<Date>,
    /// Its place by code among those of its class.
    place: usize,
}

/// What speaks for a pair.
struct Pair {
    score: f64,
    evidence: Vec<String>,
    /// Which of the two would go, when only one of them is given up.
    goes: Option<usize>,
}

/// How alike two names are.
struct Likeness {
    score: f64,
    /// What each of the names says that the other does not: how much it tells.
    left: [f64; 2],
    /// The words that only one of them has.
    own: [Vec<String>; 2],
    said: Vec<String>,
}

/// Words that tell less than this may be left out of a name as it happens.
const LITTLE: f64 = 1.0;

/// Finds groups of look-alikes, the surest first; what a person has told `apart` is not proposed.
pub fn find(today: &Today, sketches: &Sketches, apart: &NotDuplicates) -> Vec<LookAlike> {
    let finder = Finder::new(today, sketches);
    let mut compared: HashSet<(usize, usize)> = HashSet::new();
    let mut pairs: BTreeMap<(usize, usize), Pair> = BTreeMap::new();
    let mut shared = vec![0.0; finder.subjects.len()];
    for at in 0..finder.subjects.len() {
        for other in finder.candidates(at, &mut shared) {
            let key = (at.min(other), at.max(other));
            let [one, two] = [key.0, key.1].map(|at| finder.subjects[at].account.id);
            if compared.insert(key)
                && !apart.are(one, two)
                && let Some(pair) = finder.compare(key.0, key.1)
            {
                pairs.insert(key, pair);
            }
        }
    }
    finder.groups(pairs)
}

/// Compares every account with every other, as a measure of what [`find`] saves.
pub fn find_slowly(today: &Today, sketches: &Sketches) -> Vec<LookAlike> {
    let finder = Finder::new(today, sketches);
    let count = finder.subjects.len();
    let pairs = (0..count).flat_map(|a| (a + 1..count).map(move |b| (a, b)));
    let found = pairs.filter_map(|(a, b)| Some(((a, b), finder.compare(a, b)?)));
    finder.groups(found.collect())
}

struct Finder<'a> {
    today: &'a Today,
    sketches: &'a Sketches,
    subjects: Vec<Subject<'a>>,
    /// The subjects of a class whose names have a key in common, by the number of the key.
    having: Vec<Vec<usize>>,
    /// The numbers of the keys of each subject.
    keys: Vec<Vec<usize>>,
    /// With which other words a name begins, or ends, that begins or ends with some words.
    around: HashMap<String, HashSet<String>>,
    /// The last day on which anything was posted.
    latest: Option<Date>,
}

impl<'a> Finder<'a> {
    fn new(today: &'a Today, sketches: &'a Sketches) -> Self {
        let mut accounts: Vec<&Account> =
            today.chart.live().filter(|account| account.kind == Kind::Account).collect();
        accounts.sort_by(|a, b| a.code.chart_order(&b.code));
        let mut first: HashMap<AccountId, Period> = HashMap::new();
        for (strand, activity, _) in today.activity.strands() {
            if let Some((slot, _)) = activity.first_key_value() {
                let period = first.entry(strand.account).or_insert(slot.period);
                *period = slot.period.min(*period);
            }
        }
        let mut places: BTreeMap<Class, usize> = BTreeMap::new();
        let subject = |account: &'a Account| {
            let place = places.entry(account.class).or_default();
            *place += 1;
            let wording = Wording::of(&account.name);
            Subject {
                account,
                fixed: fixed(&wording),
                wording,
                weights: Vec::new(),
                first: first.get(&account.id).copied(),
                last: today.figures_of(account.id).last,
                place: *place,
            }
        };
        let mut subjects: Vec<Subject<'a>> = accounts.into_iter().map(subject).collect();
        let latest = subjects.iter().filter_map(|subject| subject.last).max();
        leave_out_shared_words(&mut subjects, latest);
        weigh(&mut subjects);
        let mut numbers: HashMap<(Class, String), usize> = HashMap::new();
        let mut number = |class: Class, key: String| {
            let next = numbers.len();
            *numbers.entry((class, key)).or_insert(next)
        };
        let numbered = subjects.iter().map(|subject| {
            let keys = keys(&subject.wording.words).into_iter();
            keys.map(|key| number(subject.account.class, key)).collect()
        });
        let keys: Vec<Vec<usize>> = numbered.collect();
        let mut having = vec![Vec::new(); numbers.len()];
        for (at, key) in keys.iter().enumerate().flat_map(|(at, k)| k.iter().map(move |k| (at, k)))
        {
            having[*key].push(at);
        }
        let mut around: HashMap<String, HashSet<String>> = HashMap::new();
        for subject in &subjects {
            let words: Vec<&str> = subject.wording.words.iter().map(Word::key).collect();
            for at in 1..words.len() {
                let (start, end) = (words[..at].join(" "), words[at..].join(" "));
                around.entry(start.clone()).or_default().insert(end.clone());
                around.entry(end).or_default().insert(start);
            }
        }
        Self { today, sketches, subjects, having, keys, around, latest }
    }

    /// The accounts that share the most telling words with one. How much each shares is added up in
    /// `shared`, which is left as it came: all zero.
    fn candidates(&self, at: usize, shared: &mut [f64]) -> Vec<usize> {
        let mut found = Vec::new();
        let having = self.keys[at].iter().map(|key| &self.having[*key]);
        for others in having.filter(|others| others.len() <= COMMON) {
            let rarity = (self.subjects.len() as f64 / others.len() as f64).ln();
            for &other in others.iter().filter(|other| **other != at) {
                if shared[other] == 0.0 {
                    found.push(other);
                }
                shared[other] += rarity.max(f64::MIN_POSITIVE);
            }
        }
        // Of equals the nearest by code.
        let rank = |a: &usize, b: &usize| {
            let by_words = shared[*b].total_cmp(&shared[*a]);
            by_words.then_with(|| (at.abs_diff(*a), a).cmp(&(at.abs_diff(*b), b)))
        };
        let mut most = found.clone();
        if most.len() > COMPARED {
            most.select_nth_unstable_by(COMPARED, rank);
            most.truncate(COMPARED);
        }
        found.into_iter().for_each(|other| shared[other] = 0.0);
        most
    }

    /// Scores a pair; `None` when something rules it out, or too little speaks for it.
    fn compare(&self, at: usize, to: usize) -> Option<Pair> {
        let (a, b) = (&self.subjects[at], &self.subjects[to]);
        if is_ruled_out(a, b) {
            return None;
        }
        let Likeness { mut score, left, said: mut evidence, own } = by_name(a, b)?;
        let each_says_more = left.iter().all(|left| *left > LITTLE);
        let one_says_more = left.iter().any(|left| *left > LITTLE);
        if each_says_more && self.are_of_a_series(&own) {
            return None;
        }
        let proposed = a.account.code_proposed || b.account.code_proposed;
        let near = a.place.abs_diff(b.place) <= 2 && !proposed;
        let mut count = |weight: f64, said: Option<String>| {
            score += weight;
            evidence.extend(said);
        };
        if near {
            let said = format!("{} and {} are neighbours.", a.account.code, b.account.code);
            count(0.08, Some(said));
        }
        if a.account.place().1 != b.account.place().1 {
            count(-0.05, None);
        }
        let payees = self.by_lines(a, b);
        if let Some((shared, said)) = &payees {
            count(if *shared < 0.1 { -0.1 } else { 0.1 * shared }, said.clone());
        }
        let given_up = [self.is_given_up(a), self.is_given_up(b)];
        let goes = match given_up {
            [true, false] => Some(at),
            [false, true] => Some(to),
            _ => None,
        };
        match goes {
            Some(goes) => {
                let (goes, stays) = if goes == at { (a, b) } else { (b, a) };
                count(0.12, Some(self.how_given_up(goes, stays)));
            }
            // Of two that are both in use, or both not, names have to say it nearly alone.
            None => {
                let same_people = payees.is_some_and(|(shared, _)| shared > 0.6);
                // Bank charges are no bank interest, however little the word charges tells.
                let is_narrower = own.iter().any(Vec::is_empty);
                let may_say_more = is_narrower && near && same_people;
                if each_says_more || one_says_more && !may_say_more || are_of_other_years(a, b) {
                    return None;
                }
            }
        }
        (score >= THRESHOLD).then_some(Pair { score, evidence, goes })
    }

    /// Whether names are made by a scheme, in which these words take turns: `Museum cleaning` and
    /// `Museum printing` where there are `Shop cleaning` and `Shop printing`.
    fn are_of_a_series(&self, own: &[Vec<String>; 2]) -> bool {
        let around = |words: &[String]| self.around.get(&words.join(" "));
        match (around(&own[0]), around(&own[1])) {
            (Some(a), Some(b)) => a.intersection(b).nth(1).is_some(),
            _ => false,
        }
    }

    fn is_given_up(&self, subject: &Subject<'_>) -> bool {
        subject.wording.is_marked() || has_stopped(subject.last, self.latest)
    }

    fn how_given_up(&self, goes: &Subject<'_>, stays: &Subject<'_>) -> String {
        if goes.wording.is_marked() {
            return format!("“{}” is marked as one to give up.", goes.account.name);
        }
        let (old, new) = (&goes.account.code, &stays.account.code);
        let Some(last) = goes.last else {
            return format!("{old} was never posted to; {new} is.");
        };
        let begin = stays.first.map(|first| self.today.calendar.first_day(first));
        let then =
            if begin.is_some_and(|begin| begin > last) { "starts after that" } else { "goes on" };
        format!("{old} was last posted to on {}; {new} {then}.", say_day(last))
    }

    /// How much of their lines is with the same people, or says the same; `None` when too few lines
    /// tell.
    fn by_lines(&self, a: &Subject<'_>, b: &Subject<'_>) -> Option<(f64, Option<String>)> {
        let sketch = |subject: &Subject<'_>| self.sketches.get(&subject.account.id);
        let (of_a, of_b) = (sketch(a)?, sketch(b)?);
        let shared = |which: fn(&Sketch) -> &Shares| {
            let (of_a, of_b) = (which(of_a), which(of_b));
            let telling = of_a.lines() >= TELLING && of_b.lines() >= TELLING;
            telling.then(|| (of_a.overlap(of_b), of_a.common(of_b, 2)))
        };
        let (people, memos) = (shared(|sketch| &sketch.payees), shared(|sketch| &sketch.memos));
        // That two accounts say different things tells nothing: each line speaks of its own.
        let said = memos.filter(|(share, _)| *share > HALF);
        let shares = [&people, &said].into_iter().flatten().map(|(share, _)| *share);
        let share = shares.max_by(f64::total_cmp)?;
        let people = people.filter(|(share, _)| *share > HALF);
        let with =
            people.map(|(_, names)| format!("Both have lines with {}.", names.join(" and ")));
        let says = said.map(|(_, texts)| format!("Lines of both say “{}”.", texts.join("” and “")));
        let words: Vec<String> = with.into_iter().chain(says).collect();
        Some((share, (!words.is_empty()).then(|| words.join(" "))))
    }

    /// Pairs become groups. What is given up stands by the one account that it is most like, and two
    /// of the same standing by each other if both are.
    fn groups(&self, pairs: BTreeMap<(usize, usize), Pair>) -> Vec<LookAlike> {
        let mut best: HashMap<usize, (f64, Reverse<usize>)> = HashMap::new();
        for (&(a, b), pair) in &pairs {
            for (at, to) in [(a, b), (b, a)].into_iter().filter(|(_, to)| pair.goes != Some(*to)) {
                let rank = (pair.score, Reverse(at.abs_diff(to)));
                let top = best.entry(at).or_insert(rank);
                *top = if rank > *top { rank } else { *top };
            }
        }
        let kept = pairs.iter().filter(|((a, b), pair)| {
            let own = (pair.score, Reverse(a.abs_diff(*b)));
            let is_best = |at: &usize| best.get(at).is_none_or(|top| own >= *top);
            pair.goes.map_or_else(|| is_best(a) && is_best(b), |goes| is_best(&goes))
        });
        let kept: Vec<_> = kept.collect();
        let mut group_of: BTreeMap<usize, usize> = BTreeMap::new();
        for &(&(a, b), _) in &kept {
            let (one, other) = (root(&group_of, a), root(&group_of, b));
            group_of.entry(a).or_insert(a);
            group_of.entry(b).or_insert(b);
            group_of.insert(one.max(other), one.min(other));
        }
        let mut groups: BTreeMap<usize, (BTreeSet<usize>, Vec<&Pair>)> = BTreeMap::new();
        for &(&(a, b), pair) in &kept {
            let (members, pairs) = groups.entry(root(&group_of, a)).or_default();
            members.extend([a, b]);
            pairs.push(pair);
        }
        let group = |(members, pairs): (BTreeSet<usize>, Vec<&Pair>)| {
            let score = pairs.iter().map(|pair| pair.score / ALL).fold(1.0, f64::min);
            let mut evidence: Vec<String> = Vec::new();
            for said in pairs.iter().flat_map(|pair| &pair.evidence) {
                if !evidence.contains(said) {
                    evidence.push(said.clone());
                }
            }
            let accounts: Vec<AccountId> =
                members.iter().map(|at| self.subjects[*at].account.id).collect();
            let (survivor, _) = suggest(self.today, &accounts, self.latest)?;
            Some(LookAlike { accounts, survivor, score, evidence })
        };
        let mut found: Vec<LookAlike> = groups.into_values().filter_map(group).collect();
        found.sort_by(|a, b| b.score.total_cmp(&a.score).then_with(|| a.accounts.cmp(&b.accounts)));
        found
    }
}

fn root(group_of: &BTreeMap<usize, usize>, mut at: usize) -> usize {
    while let Some(&up) = group_of.get(&at).filter(|up| **up != at) {
        at = up;
    }
    at
}

/// What a name is looked up by: its words by meaning, and their roots; what is left of long ones when a letter is
/// dropped, or how they begin, so that slips of the pen are met; and neighbours written as one.
fn keys(words: &[Word]) -> BTreeSet<String> {
    let said = words.iter().flat_map(|word| [word.key(), word.root()]);
    let mut keys: BTreeSet<String> = said.map(str::to_owned).collect();
    for word in words {
        let letters: Vec<char> = word.stem.chars().collect();
        if letters.len() >= 6 {
            keys.insert(word.stem.clone());
            keys.extend((0..letters.len()).map(|at| {
                let others = letters.iter().enumerate().filter(|(n, _)| *n != at);
                others.map(|(_, letter)| letter).collect::<String>()
            }));
        }
        if letters.len() >= 8 {
            keys.insert(letters[..5].iter().chain(&['…']).collect());
        }
    }
    keys.extend(words.windows(2).map(|two| format!("{}{}", two[0].stem, two[1].stem)));
    keys
}

/// Words with their weights, neighbours made one where another name writes them as one: `call out` of
/// `callout`.
fn written_as(subject: &Subject<'_>, other: &Subject<'_>) -> (Vec<Word>, Vec<f64>) {
    let (mut words, mut weights): (Vec<Word>, Vec<f64>) = (Vec::new(), Vec::new());
    for (word, weight) in subject.wording.words.iter().zip(&subject.weights) {
        let joined = words.last().map(|last| format!("{}{}", last.stem, word.stem));
        let as_one = other.wording.words.iter().find(|one| Some(&one.stem) == joined.as_ref());
        match (as_one, words.last_mut(), weights.last_mut()) {
            (Some(one), Some(last), Some(sum)) => {
                *last = one.clone();
                *sum += weight;
            }
            _ => {
                words.push(word.clone());
                weights.push(*weight);
            }
        }
    }
    (words, weights)
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
            if words.iter().any(|word| !shared(word)) {
                words.retain(|word| !shared(word));
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

/// Compares two names word by word, in any order.
fn by_name(a: &Subject<'_>, b: &Subject<'_>) -> Option<Likeness> {
    let ((words_a, weights_a), (words_b, weights_b)) = (written_as(a, b), written_as(b, a));
    let mut free: Vec<usize> = (0..words_b.len()).collect();
    let mut matched = 0.0;
    let (mut left_a, mut own_a) = (0.0, Vec::new());
    let mut read_as = Vec::new();
    for (at, word) in words_a.iter().enumerate() {
        let best = free.iter().enumerate().map(|(n, to)| (n, *to, word.likeness(&words_b[*to])));
        let best = best.filter(|(.., likeness)| *likeness > 0.0);
        match best.max_by(|x, y| x.2.total_cmp(&y.2)) {
            Some((n, to, likeness)) => {
                free.remove(n);
                matched += likeness * f64::midpoint(weights_a[at], weights_b[to]);
                if likeness < 1.0 {
                    read_as.push(format!("“{}” and “{}”", word.stem, words_b[to].stem));
                }
            }
            None => {
                left_a += weights_a[at];
                own_a.push(word.key().to_owned());
            }
        }
    }
    if matched == 0.0 {
        return None;
    }
    let left_b: f64 = free.iter().map(|at| weights_b[*at]).sum();
    let (more, less) = (left_a.max(left_b), left_a.min(left_b));
    // What only one name says makes it narrower; where each says something else, they are two things.
    let score = matched / (matched + 0.5 * more + 1.1 * less);
    let (one, other) = (&a.account.name, &b.account.name);
    let mut said = vec![if more == 0.0 && read_as.is_empty() {
        format!("“{one}” and “{other}” have the same words.")
    } else if more == 0.0 {
        format!("“{one}” and “{other}” say the same: {}.", read_as.join(", "))
    } else {
        format!("“{one}” and “{other}” share their telling words.")
    }];
    if let (Some(year), None) | (None, Some(year)) = (a.wording.year, b.wording.year) {
        said.push(format!("One of them is for {year} alone."));
    }
    let own_b = free.iter().map(|at| words_b[*at].key().to_owned()).collect();
    Some(Likeness { score, left: [left_a, left_b], own: [own_a, own_b], said })
}

/// What two accounts that are the same thing would never differ in.
fn is_ruled_out(a: &Subject<'_>, b: &Subject<'_>) -> bool {
    let (one, other) = (a.account, b.account);
    let roles = match (one.role, other.role) {
        // Two real bank accounts, two tills: each has a statement of its own.
        (Some(ControlRole::Bank), Some(ControlRole::Bank)) => true,
        (Some(role), Some(also)) => role != also,
        _ => false,
    };
    roles
        || one.class != other.class
        || one.contra != other.contra
        || one.currency != other.currency
        || a.fixed != b.fixed
}

/// Whether two names are those of a series, such as `Steam gala 2021` and `Steam gala 2022`.
fn are_of_other_years(a: &Subject<'_>, b: &Subject<'_>) -> bool {
    a.wording.year.zip(b.wording.year).is_some_and(|(one, other)| one != other)
}

fn fixed(wording: &Wording) -> BTreeSet<String> {
    let keys = wording.words.iter().map(Word::key);
    let kept = |key: &&str| STATES.contains(key) || key.bytes().any(|b| b.is_ascii_digit());
    keys.filter(kept).map(str::to_owned).collect()
}
