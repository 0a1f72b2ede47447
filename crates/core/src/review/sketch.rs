//! What the lines of a strand or an account speak of: with whom they are, what they say, by which dimension values
//! they are told apart, and which accounts stand on the other side. A sketch holds the most frequent of each, so that its size does not grow with its lines.

use super::wording::is_joint;
use crate::dimension::{self, DimensionValue};
use crate::ids::{AccountId, ById};
use std::collections::{BTreeMap, HashMap};
use std::hash::Hash;
use unicode_normalization::UnicodeNormalization;

/// How many people, dimension values, and accounts on the other side, a sketch holds of each.
pub const MOST: usize = 64;

/// How many phrases a sketch holds.
pub const MOST_PHRASES: usize = 128;

/// Entries with more lines than this say little about what stands against what.
const PAIRED: usize = 12;

/// How many times more kinds than it holds in the end a sketch holds while it is drawn.
const ON_THE_WAY: usize = 16;

/// The shortest word that belongs to a phrase.
const WORD: usize = 3;

/// What the lines of each account speak of.
pub type Sketches = ById<Sketch>;

/// With whom lines are, what they say, and what stands against them.
#[derive(Clone, Debug, Default, PartialEq, Eq)]
pub struct Sketch {
    /// Lines by payee.
    pub payees: Shares<String>,
    /// Lines by phrase of their memos.
    pub phrases: Shares<String>,
    /// Lines by dimension value, as it is written.
    pub dimensions: Shares<String>,
    /// Lines by what stands on the other side of their entry: an account, or a strand while it is written.
    pub counters: Shares<i64>,
}

/// How many lines are of each kind.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct Shares<K: Ord>(BTreeMap<K, u32>);

impl<K: Ord> Default for Shares<K> {
    fn default() -> Self {
        Self(BTreeMap::new())
    }
}

/// Sketches that are being drawn, by what lines were posted to: accounts or strands.
#[derive(Debug, Default)]
pub struct Sketching {
    of: HashMap<i64, Sketch>,
    /// The latest memo with its phrases: lines that say the same follow each other.
    latest: (String, Vec<String>),
    /// The dimension values of each text that lines keep them in.
    values: HashMap<String, Vec<String>>,
}

impl Sketching {
    /// Takes note of a line: what it was posted to, with whom it is, what it says, and its dimension values as it
    /// keeps them.
    pub fn line(&mut self, on: i64, payee: &str, memo: &str, dimensions: &str) {
        if self.latest.0 != memo {
            self.latest = (memo.to_owned(), phrases(memo));
        }
        let sketch = self.of.entry(on).or_default();
        if !payee.is_empty() {
            sketch.payees.add_text(payee, MOST);
        }
        for phrase in &self.latest.1 {
            sketch.phrases.add_text(phrase, MOST_PHRASES);
        }
        if dimensions.is_empty() {
            return;
        }
        if !self.values.contains_key(dimensions) {
            let values = dimension::values(dimensions).into_iter().map(one_value);
            self.values.insert(dimensions.to_owned(), values.collect());
        }
        for value in &self.values[dimensions] {
            sketch.dimensions.add_text(value, MOST);
        }
    }

    /// Takes note of what stands against what in an entry: of each of its lines what it was posted to, and whether it
    /// is a debit.
    pub fn entry(&mut self, lines: &[(i64, bool)]) {
        if lines.len() > PAIRED {
            return;
        }
        for (on, debit) in lines {
            let against = lines.iter().filter(|(_, other)| other != debit);
            for (other, _) in against.filter(|(other, _)| other != on) {
                self.of.entry(*on).or_default().counters.add(*other, 1);
            }
        }
    }

    /// What was drawn, the most frequent of each.
    pub fn done(self) -> impl Iterator<Item = (i64, Sketch)> {
        self.of.into_iter().map(|(on, mut sketch)| {
            sketch.cut();
            (on, sketch)
        })
    }
}

/// Sketches of accounts from those of strands, by the account that presents each strand: what stands on the other
/// side is a strand there, and an account here.
pub fn of_accounts(
    of_strands: impl IntoIterator<Item = (i64, Sketch)>,
    presents: impl Fn(i64) -> Option<i64>,
) -> Sketches {
    let mut sketches = Sketches::default();
    for (strand, mut sketch) in of_strands {
        let Some(account) = presents(strand) else { continue };
        let mut counters = Shares::default();
        for (other, lines) in sketch.counters.iter() {
            if let Some(other) = presents(*other).filter(|other| *other != account) {
                counters.add(other, lines);
            }
        }
        sketch.counters = counters;
        sketches.entry(AccountId(account)).or_default().add(&sketch);
    }
    sketches.values_mut().for_each(Sketch::cut);
    sketches
}

impl Sketch {
    /// Adds what other lines of the same account speak of.
    pub fn add(&mut self, other: &Self) {
        self.payees.add_all(&other.payees);
        self.phrases.add_all(&other.phrases);
        self.dimensions.add_all(&other.dimensions);
        self.counters.add_all(&other.counters);
    }

    /// Leaves the most frequent of each.
    pub fn cut(&mut self) {
        self.payees.cut(MOST);
        self.phrases.cut(MOST_PHRASES);
        self.dimensions.cut(MOST);
        self.counters.cut(MOST);
    }

    /// Of what it says something else than a sketch that was drawn from all lines; nothing where they agree. What was
    /// left out for want of room is compared with nothing.
    pub fn differs(&self, drawn: &Self) -> Option<&'static str> {
        let [payees, phrases, dimensions] = [
            self.payees.differs(&drawn.payees, MOST).then_some("payees"),
            self.phrases.differs(&drawn.phrases, MOST_PHRASES).then_some("phrases"),
            self.dimensions.differs(&drawn.dimensions, MOST).then_some("dimension values"),
        ];
        let counters = self.counters.differs(&drawn.counters, MOST);
        let counters = counters.then_some("what stands against lines");
        payees.or(phrases).or(dimensions).or(counters)
    }
}

impl<K: Ord + Clone + Hash> Shares<K> {
    /// Takes note of so many lines.
    pub fn add(&mut self, of: K, lines: u32) {
        let sum = self.0.entry(of).or_default();
        *sum = sum.saturating_add(lines);
    }

    fn add_all(&mut self, other: &Self) {
        other.0.iter().for_each(|(of, lines)| self.add(of.clone(), *lines));
    }

    fn cut(&mut self, most: usize) {
        if self.0.len() <= most {
            return;
        }
        let mut all: Vec<(u32, K)> =
            std::mem::take(&mut self.0).into_iter().map(|(of, lines)| (lines, of)).collect();
        // Of equals the first by name, so that the same lines give the same sketch.
        all.sort_by(|a, b| b.0.cmp(&a.0).then_with(|| a.1.cmp(&b.1)));
        self.0.extend(all.into_iter().take(most).map(|(lines, of)| (of, lines)));
    }

    fn differs(&self, other: &Self, most: usize) -> bool {
        self.0.len().max(other.0.len()) < most && self != other
    }

    /// Each kind with its lines.
    pub fn iter(&self) -> impl Iterator<Item = (&K, u32)> {
        self.0.iter().map(|(of, lines)| (of, *lines))
    }

    /// How many lines are of a kind.
    pub fn get(&self, of: &K) -> u32 {
        self.0.get(of).copied().unwrap_or_default()
    }

    /// How many lines there are of any kind.
    pub fn lines(&self) -> u32 {
        self.0.values().fold(0, |sum, lines| sum.saturating_add(*lines))
    }
}

impl Shares<String> {
    /// Takes note of one line. Where there are far more kinds than a sketch holds, the rarest are forgotten on the
    /// way, so that it never grows with the lines.
    fn add_text(&mut self, of: &str, most: usize) {
        if let Some(lines) = self.0.get_mut(of) {
            *lines = lines.saturating_add(1);
            return;
        }
        if self.0.len() >= most * ON_THE_WAY {
            self.cut(most * ON_THE_WAY / 2);
        }
        self.0.insert(of.to_owned(), 1);
    }
}

impl<K: Ord> FromIterator<(K, u32)> for Shares<K> {
    fn from_iter<T: IntoIterator<Item = (K, u32)>>(all: T) -> Self {
        Self(all.into_iter().collect())
    }
}

fn one_value(value: DimensionValue) -> String {
    dimension::written([value])
}

/// The phrases of a memo: neighbouring words in small letters without accents, and the words that stand alone. What
/// has digits in it numbers something, and short words and joints only hold others together.
fn phrases(memo: &str) -> Vec<String> {
    let plain: String = memo
        .nfd()
        .filter(|c| !unicode_normalization::char::is_combining_mark(*c))
        .flat_map(char::to_lowercase)
        .collect();
    let words: Vec<&str> = plain
        .split(|c: char| !c.is_alphanumeric())
        .filter(|word| word.chars().count() >= WORD && !is_joint(word))
        .filter(|word| !word.contains(|c: char| c.is_ascii_digit()))
        .collect();
    let mut phrases: Vec<String> = match words.as_slice() {
        [] => Vec::new(),
        [word] => vec![(*word).to_owned()],
        words => words.windows(2).map(|two| two.join(" ")).collect(),
    };
    phrases.sort();
    phrases.dedup();
    phrases
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn a_memo_is_told_by_neighbouring_words() {
        assert_eq!(phrases("Feed for the ponies 114"), ["feed ponies"]);
        assert_eq!(phrases("INV-2231"), ["inv"]);
        assert_eq!(phrases("4 of 12"), [""; 0]);
    }

    #[test]
    fn a_sketch_holds_the_most_frequent_and_what_stands_against_lines() {
        let mut sketching = Sketching::default();
        for n in 0..100 {
            let payee = format!("Payee {n:02}");
            sketching.line(1, &payee, "", "");
            sketching.line(1, &payee, "", "");
            sketching.entry(&[(1, true), (2, false), (1, true)]);
        }
        sketching.line(1, "Payee 99", "", "site=Larkfell; department=Shed");
        sketching.entry(&[(1, true), (3, false)]);
        let sketches: HashMap<i64, Sketch> = sketching.done().collect();
        let one = &sketches[&1];
        assert_eq!(one.payees.iter().count(), MOST);
        assert_eq!(one.payees.get(&"Payee 99".to_owned()), 3, "the most frequent stays");
        assert_eq!(one.dimensions.get(&"site=Larkfell".to_owned()), 1);
        assert_eq!((one.counters.get(&2), one.counters.get(&3)), (200, 1));
    }
}
