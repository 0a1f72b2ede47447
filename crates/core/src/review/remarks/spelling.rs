//! How words are spelt in the names of a chart.

use crate::chart::Account;
use crate::review::wording::{Word, Wording, is_slip};
use std::collections::HashMap;
use strsim::osa_distance as edits;

/// In how many names each word stands, as it is written, and whether anybody knows it.
pub(super) struct Names(HashMap<String, (usize, bool)>);

impl Names {
    pub(super) fn of(rows: &[&Account]) -> Self {
        let mut names: HashMap<String, (usize, bool)> = HashMap::new();
        for row in rows {
            let words: HashMap<String, bool> = Wording::of(&row.name)
                .words
                .into_iter()
                .map(|word| (word.written.clone(), word.is_known()))
                .collect();
            for (word, is_known) in words {
                let entry = names.entry(word).or_default();
                *entry = (entry.0 + 1, is_known);
            }
        }
        Self(names)
    }

    /// A word that stands nowhere else, a letter off one that several names have.
    pub(super) fn slip(&self, name: &str) -> Option<(String, String)> {
        let wording = Wording::of(name);
        let names = |word: &str| self.0.get(word).map_or(0, |(names, _)| *names);
        wording.words.iter().find_map(|word| {
            if names(&word.written) > 1 || word.has_digit() || word.is_known() {
                return None;
            }
            let mut right: Vec<&String> = self
                .0
                .iter()
                .filter(|(_, (names, is_known))| *names > 1 || *is_known)
                .filter(|(other, _)| is_a_letter_off(word, other))
                .map(|(other, _)| other)
                .collect();
            right.sort();
            right.first().map(|right| (word.written.clone(), (*right).clone()))
        })
    }
}

/// Whether a word is another but for one letter, and not the same with another ending.
fn is_a_letter_off(word: &Word, other: &str) -> bool {
    let starts = other.starts_with(&word.stem) || word.written.starts_with(other);
    !starts && edits(&word.written, other) == 1 && is_slip(&word.written, other)
}
