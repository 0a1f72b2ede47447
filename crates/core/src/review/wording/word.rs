//! A word of a name, with what it means.

use super::lexicon;
use super::lists::{ABBREVIATIONS, FILLERS, SYNONYMS};
use super::stem::stem;
use std::collections::{HashMap, HashSet};
use std::sync::LazyLock;

/// A word of a name.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct Word {
    /// As it is written, in small letters without accents.
    pub written: String,
    /// Whether it is marked as cut short, by a dot or an apostrophe.
    pub cut: bool,
    /// Without its ending and accents, in small letters.
    pub stem: String,
    /// What it means, when others mean the same: the first of its row.
    pub meaning: Option<&'static str>,
    /// Whether names say it or not as it happens: costs, fees, account.
    pub filler: bool,
    /// What it can mean, as numbers of the lexicon.
    pub senses: &'static [u32],
}

/// What words with synonyms mean, by their stems.
static MEANINGS: LazyLock<HashMap<String, &str>> = LazyLock::new(|| {
    let mut meanings = HashMap::new();
    for row in SYNONYMS {
        for word in row {
            meanings.entry(stem(word)).or_insert(row[0]);
        }
    }
    meanings
});

/// The stems of fillers.
static FILLING: LazyLock<HashSet<String>> =
    LazyLock::new(|| FILLERS.iter().map(|filler| stem(filler)).collect());

impl Word {
    /// A word as it is written, and whether it is marked as cut short.
    pub(super) fn of(word: &str, cut: bool) -> Self {
        let long = ABBREVIATIONS.iter().find(|(short, _)| *short == word).map(|(_, long)| *long);
        let stem = stem(long.unwrap_or(word));
        let meaning = MEANINGS.get(&stem).copied();
        let filler = FILLING.contains(&stem);
        let senses = lexicon::senses(&stem);
        Self { written: word.to_owned(), cut, stem, meaning, filler, senses }
    }

    /// What two words have to share to mean the same.
    pub fn key(&self) -> &str {
        self.meaning.unwrap_or(&self.stem)
    }

    /// What an action has in common with its name: `servic` of `service` and `servicing`.
    pub fn root(&self) -> &str {
        let without = |ending: &str| self.stem.strip_suffix(ending).filter(|rest| rest.len() >= 4);
        without("ing").or_else(|| without("e")).unwrap_or(&self.stem)
    }

    /// Whether the trade or the lexicon has it: then it is no slip.
    pub fn is_known(&self) -> bool {
        self.meaning.is_some() || self.filler || !self.senses.is_empty()
    }

    /// Whether it numbers something.
    pub fn has_digit(&self) -> bool {
        self.stem.bytes().any(|b| b.is_ascii_digit())
    }
}
