//! Words that can mean the same: groups of synonyms out of WordNet 3.0 (Princeton University; its licence stands beside
//! this file), reduced to the first senses of nouns and verbs of the kinds that accounts are named after.

use super::stem::stem;
use std::collections::HashMap;
use std::sync::LazyLock;

/// A group a line.
const WORDS: &str = include_str!("words.txt");

/// The groups in which a word stands, by its stem.
static SENSES: LazyLock<HashMap<String, Vec<u32>>> = LazyLock::new(|| {
    let mut senses: HashMap<String, Vec<u32>> = HashMap::new();
    for (number, line) in (0..).zip(WORDS.lines()) {
        for word in line.split(' ') {
            senses.entry(stem(word)).or_default().push(number);
        }
    }
    senses
});

/// What a word can mean, by its stem.
pub(super) fn senses(stem: &str) -> &'static [u32] {
    SENSES.get(stem).map_or(&[], Vec::as_slice)
}

#[cfg(test)]
mod tests {
    use super::{senses, stem};

    #[test]
    fn words_share_a_sense() {
        let shared =
            |a: &str, b: &str| senses(&stem(a)).iter().any(|n| senses(&stem(b)).contains(n));
        assert!(shared("cargo", "freight") && shared("wages", "salary"));
        assert!(!shared("cargo", "salary") && !shared("cargo", "qwerty"));
    }
}
