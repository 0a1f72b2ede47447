//! What lines speak of: with whom they are, what they say, by which dimension values they are told apart, and which
//! accounts stand against them.

use super::kind::{Evidence, Pair};
use crate::chart::Account;
use crate::dimension::{self, DimensionValue};
use crate::ids::AccountId;
use crate::review::look_alikes::rarity::{Rarity, Telling};
use crate::review::sketch::{Shares, Sketch};
use std::hash::Hash;

const LEVELS: &[&str] = &["unknown", "none", "little", "some", "much", "most"];

/// From which share on a level is reached.
const FROM: [f64; 4] = [0.04, 0.2, 0.4, 0.65];

/// The level from which on it is worth saying.
const WORTH: usize = 3;

pub(super) const PEOPLE: Evidence = Evidence {
    key: "people",
    levels: LEVELS,
    can_be_unknown: true,
    level: |pair| level(pair, |rarity| &rarity.payees, |sketch| &sketch.payees),
    say: |pair, level| match level {
        1 => Some("Their lines are with other people.".to_owned()),
        WORTH.. => {
            let names = common(pair, |rarity| &rarity.payees, |sketch| &sketch.payees);
            (!names.is_empty()).then(|| format!("Both have lines with {}.", names.join(" and ")))
        }
        _ => None,
    },
};

pub(super) const PHRASES: Evidence = Evidence {
    key: "phrases",
    levels: LEVELS,
    can_be_unknown: true,
    level: |pair| level(pair, |rarity| &rarity.phrases, |sketch| &sketch.phrases),
    say: |pair, level| {
        let texts = common(pair, |rarity| &rarity.phrases, |sketch| &sketch.phrases);
        let worth = level >= WORTH && !texts.is_empty();
        worth.then(|| format!("Lines of both say “{}”.", texts.join("” and “")))
    },
};

pub(super) const COUNTERS: Evidence = Evidence {
    key: "counters",
    levels: LEVELS,
    can_be_unknown: true,
    level: |pair| level(pair, |rarity| &rarity.counters, |sketch| &sketch.counters),
    say: |pair, level| {
        let ids = common(pair, |rarity| &rarity.counters, |sketch| &sketch.counters);
        let label = |id: &i64| pair.today.chart.get(AccountId(*id)).map(Account::label);
        let labels: Vec<String> = ids.iter().filter_map(label).collect();
        let worth = level >= WORTH && !labels.is_empty();
        worth.then(|| format!("Both stand against {}.", labels.join(" and ")))
    },
};

pub(super) const DIMENSIONS: Evidence = Evidence {
    key: "dimensions",
    levels: LEVELS,
    can_be_unknown: true,
    level: |pair| level(pair, |rarity| &rarity.dimensions, |sketch| &sketch.dimensions),
    say: |pair, level| match level {
        1 => Some("Their lines have other dimension values.".to_owned()),
        WORTH.. => {
            let texts = common(pair, |rarity| &rarity.dimensions, |sketch| &sketch.dimensions);
            let values = texts.iter().flat_map(|text| dimension::values(text));
            let said: Vec<String> =
                values.map(|DimensionValue { name, value }| format!("{name} {value}")).collect();
            (!said.is_empty()).then(|| format!("Both have lines of {}.", said.join(" and ")))
        }
        _ => None,
    },
};

/// Whether a level says that anything is alike.
pub(super) fn is_any(level: u8) -> bool {
    level > 1
}

/// Whether a level says that much is alike.
pub(super) fn is_much(level: u8) -> bool {
    usize::from(level) > WORTH
}

fn level<K: Ord + Clone + Hash>(
    pair: &Pair<'_>,
    telling: fn(&Rarity) -> &Telling<K>,
    which: fn(&Sketch) -> &Shares<K>,
) -> usize {
    let both = pair.a.sketch.map(which).zip(pair.b.sketch.map(which));
    let overlap = both.and_then(|(a, b)| telling(pair.rarity).overlap(a, b));
    overlap.map_or(0, |share| 1 + FROM.iter().filter(|from| share >= **from).count())
}

fn common<K: Ord + Clone + Hash>(
    pair: &Pair<'_>,
    telling: fn(&Rarity) -> &Telling<K>,
    which: fn(&Sketch) -> &Shares<K>,
) -> Vec<K> {
    let both = pair.a.sketch.map(which).zip(pair.b.sketch.map(which));
    both.map_or_else(Vec::new, |(a, b)| telling(pair.rarity).common(a, b, 2))
}
