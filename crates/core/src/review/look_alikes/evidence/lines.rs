//! What lines speak of: with whom they are, what they say, by which dimension values they are told apart, and which
//! accounts stand against them.

use super::kind::{Evidence, Kind, Pair};
use crate::dimension;
use crate::ids::AccountId;
use crate::review::look_alikes::observation::Observation;
use crate::review::look_alikes::rarity::{Rarity, Telling};
use crate::review::sketch::{Shares, Sketch};
use std::hash::Hash;

const LEVELS: &[&str] = &["unknown", "none", "little", "some", "much", "most"];

/// From which share on a level is reached.
const FROM: [f64; 4] = [0.04, 0.2, 0.4, 0.65];

/// The level from which on it is worth saying.
const WORTH: usize = 3;

pub(super) const PEOPLE: Evidence = Evidence {
    kind: Kind::People,
    levels: LEVELS,
    can_be_unknown: true,
    level: |pair| level(pair, |rarity| &rarity.payees, |sketch| &sketch.payees),
    say: |pair, level| match level {
        1 => Some(Observation::OtherPeople),
        WORTH.. => {
            let names = common(pair, |rarity| &rarity.payees, |sketch| &sketch.payees);
            (!names.is_empty()).then_some(Observation::SamePeople(names))
        }
        _ => None,
    },
};

pub(super) const PHRASES: Evidence = Evidence {
    kind: Kind::Phrases,
    levels: LEVELS,
    can_be_unknown: true,
    level: |pair| level(pair, |rarity| &rarity.phrases, |sketch| &sketch.phrases),
    say: |pair, level| {
        let texts = common(pair, |rarity| &rarity.phrases, |sketch| &sketch.phrases);
        let worth = level >= WORTH && !texts.is_empty();
        worth.then_some(Observation::SamePhrases(texts))
    },
};

pub(super) const COUNTERS: Evidence = Evidence {
    kind: Kind::Counters,
    levels: LEVELS,
    can_be_unknown: true,
    level: |pair| level(pair, |rarity| &rarity.counters, |sketch| &sketch.counters),
    say: |pair, level| {
        let ids = common(pair, |rarity| &rarity.counters, |sketch| &sketch.counters);
        let known = ids.into_iter().map(AccountId).filter(|id| pair.today.chart.get(*id).is_some());
        let known: Vec<AccountId> = known.collect();
        let worth = level >= WORTH && !known.is_empty();
        worth.then_some(Observation::SameCounterAccounts(known))
    },
};

pub(super) const DIMENSIONS: Evidence = Evidence {
    kind: Kind::Dimensions,
    levels: LEVELS,
    can_be_unknown: true,
    level: |pair| level(pair, |rarity| &rarity.dimensions, |sketch| &sketch.dimensions),
    say: |pair, level| match level {
        1 => Some(Observation::OtherDimensions),
        WORTH.. => {
            let texts = common(pair, |rarity| &rarity.dimensions, |sketch| &sketch.dimensions);
            let values: Vec<_> = texts.iter().flat_map(|text| dimension::values(text)).collect();
            (!values.is_empty()).then_some(Observation::SameDimensions(values))
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
