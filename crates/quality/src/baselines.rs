//! What is found by comparing names alone: how many words they share, and how many letters are to be changed. Each at
//! the threshold at which it does best in the same books.

use std::collections::BTreeSet;
use zf_core::chart::{Account, Kind};
use zf_core::ids::AccountId;
use zf_core::today::Today;

/// A pair of accounts, the lesser first.
pub(crate) type Two = (AccountId, AccountId);

/// How alike two names are, from 0 to 1.
pub(crate) type Likeness = fn(&str, &str) -> f64;

pub(crate) const BASELINES: [(&str, Likeness); 2] =
    [("token-set ratio", token_set), ("edit distance", strsim::normalized_damerau_levenshtein)];

/// The ratio of words that two names share to those that either has.
fn token_set(a: &str, b: &str) -> f64 {
    let words = |name: &str| -> BTreeSet<String> {
        let words = name.split(|c: char| !c.is_alphanumeric()).filter(|word| !word.is_empty());
        words.map(str::to_lowercase).collect()
    };
    let (a, b) = (words(a), words(b));
    a.intersection(&b).count() as f64 / a.union(&b).count().max(1) as f64
}

/// The pairs of a class whose names are at least so much alike.
pub(crate) fn pairs(today: &Today, likeness: Likeness, least: f64) -> BTreeSet<Two> {
    let accounts: Vec<&Account> =
        today.chart.live().filter(|account| account.kind == Kind::Account).collect();
    let mut pairs = BTreeSet::new();
    for (n, a) in accounts.iter().enumerate() {
        for b in accounts[n + 1..].iter().filter(|b| b.class == a.class) {
            if likeness(&a.name.to_lowercase(), &b.name.to_lowercase()) >= least {
                pairs.insert((a.id.min(b.id), a.id.max(b.id)));
            }
        }
    }
    pairs
}

#[cfg(test)]
mod tests {
    use super::token_set;

    #[test]
    fn names_are_as_alike_as_the_words_they_share() {
        let alike = |a: &str, b: &str| (token_set(a, b) * 100.0).round();
        assert_eq!(alike("Lamp oil", "oil, LAMP"), 100.0);
        assert_eq!(alike("Lamp oil", "Lamp wicks"), 33.0);
        assert_eq!(alike("Lamp oil", "Coal"), 0.0);
    }
}
