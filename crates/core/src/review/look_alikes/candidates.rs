//! With which others an account is compared: those that share the most telling words, people or phrases.

use super::subject::Subject;
use crate::chart::Class;
use crate::review::wording::Word;
use std::collections::{BTreeSet, HashMap};

/// What stands with more accounts of a class than these tells nothing.
const COMMON: usize = 160;

/// People and phrases of more accounts than these tell nothing of any two of them.
const FEW: usize = 12;

/// With how many others an account is compared.
const COMPARED: usize = 16;

/// Accounts by what they are looked up by.
pub(super) struct Candidates {
    /// The subjects of a class that have a key in common, by the number of the key.
    having: Vec<Vec<usize>>,
    /// The numbers of the keys of each subject.
    keys: Vec<Vec<usize>>,
    /// How much each subject shares with the one that is looked at; left as it came, all zero.
    shared: Vec<f64>,
}

impl Candidates {
    pub(super) fn of(subjects: &[Subject<'_>]) -> Self {
        let mut numbers: HashMap<(Class, String), usize> = HashMap::new();
        let mut having: Vec<Vec<usize>> = Vec::new();
        let mut most: Vec<usize> = Vec::new();
        let mut keys = Vec::with_capacity(subjects.len());
        for (at, subject) in subjects.iter().enumerate() {
            let mut own = Vec::new();
            let mut classes = vec![subject.account.class, subject.class];
            classes.dedup();
            let mut put = |key: String, limit: usize| {
                for class in &classes {
                    let number = *numbers.entry((*class, key.clone())).or_insert(having.len());
                    if number == having.len() {
                        having.push(Vec::new());
                        most.push(limit);
                    }
                    having[number].push(at);
                    own.push(number);
                }
            };
            for key in keys_of(&subject.wording.words, &subject.wording.written) {
                put(key, COMMON);
            }
            if let Some(sketch) = subject.sketch {
                sketch.payees.iter().for_each(|(payee, _)| put(format!("with {payee}"), FEW));
                sketch.phrases.iter().for_each(|(phrase, _)| put(format!("says {phrase}"), FEW));
            }
            keys.push(own);
        }
        for (others, limit) in having.iter_mut().zip(most) {
            if others.len() > limit {
                others.clear();
            }
        }
        Self { having, keys, shared: vec![0.0; subjects.len()] }
    }

    /// The accounts that share the most with one.
    pub(super) fn near(&mut self, at: usize) -> Vec<usize> {
        let mut found = Vec::new();
        let shared = &mut self.shared;
        for others in self.keys[at].iter().map(|key| &self.having[*key]) {
            let rarity = (shared.len() as f64 / others.len().max(1) as f64).ln();
            for &other in others.iter().filter(|other| **other != at) {
                if shared[other] == 0.0 {
                    found.push(other);
                }
                shared[other] += rarity.max(f64::MIN_POSITIVE);
            }
        }
        // Of equals the nearest by code.
        let rank = |a: &usize, b: &usize| {
            let by_share = shared[*b].total_cmp(&shared[*a]);
            by_share.then_with(|| (at.abs_diff(*a), a).cmp(&(at.abs_diff(*b), b)))
        };
        let mut most = found.clone();
        if most.len() > COMPARED {
            most.select_nth_unstable_by(COMPARED, rank);
            most.truncate(COMPARED);
        }
        found.into_iter().for_each(|other| self.shared[other] = 0.0);
        most
    }
}

/// What a name is looked up by: its words by meaning, and their roots; what is left of long ones when a letter is
/// dropped, and how words begin, so that slips of the pen and shortened words are met; neighbours written as one, in
/// either order; and initials.
fn keys_of(words: &[Word], written: &[String]) -> BTreeSet<String> {
    let said = words.iter().flat_map(|word| [word.key(), word.root()]);
    let mut keys: BTreeSet<String> = said.map(str::to_owned).collect();
    keys.extend(words.iter().flat_map(|word| word.senses).map(|sense| format!("~{sense}")));
    for word in words {
        let letters: Vec<char> = word.stem.chars().collect();
        if letters.len() >= 5 {
            keys.insert(word.stem.clone());
            keys.extend((0..letters.len()).map(|at| {
                let others = letters.iter().enumerate().filter(|(n, _)| *n != at);
                others.map(|(_, letter)| letter).collect::<String>()
            }));
        }
        let start = if word.cut { 2 } else { 4 };
        for length in [2, 4].into_iter().filter(|length| *length >= start) {
            if letters.len() >= length {
                keys.insert(letters[..length].iter().chain(&['…']).collect());
            }
        }
        if word.cut {
            continue;
        }
        // A word that a mark cuts short is met by its first letters.
        keys.extend((letters.len() >= 6).then(|| letters[..2].iter().chain(&['…']).collect()));
        keys.extend((2..=4).contains(&letters.len()).then(|| format!("={}", word.written)));
    }
    let together = words.windows(2).flat_map(|two| {
        let [a, b] = [&two[0], &two[1]];
        [
            format!("{}{}", a.stem, b.stem),
            format!("{}{}", b.stem, a.stem),
            format!("{}{}", a.written, b.written),
            format!("{}{}", b.written, a.written),
        ]
    });
    keys.extend(together);
    keys.insert(words.iter().map(|word| word.written.as_str()).collect());
    for count in 2..=4 {
        for window in written.windows(count) {
            let initials: String = window.iter().filter_map(|word| word.chars().next()).collect();
            keys.insert(format!("={initials}"));
        }
    }
    keys
}
