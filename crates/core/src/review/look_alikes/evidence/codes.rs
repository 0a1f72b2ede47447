//! Codes: variants of each other, or neighbours.

use super::kind::{Evidence, Kind, Pair};
use crate::review::look_alikes::observation::Observation;

pub(super) const EVIDENCE: Evidence = Evidence {
    kind: Kind::Code,
    levels: &["unknown", "far", "near", "neighbours", "variant"],
    can_be_unknown: true,
    level,
    say: |pair, level| {
        let (one, other) = (pair.a.account.id, pair.b.account.id);
        match level {
            3 => Some(Observation::NeighbouringCodes(one, other)),
            4 => Some(Observation::CodeVariants(one, other)),
            _ => None,
        }
    },
};

/// So many accounts apart, codes are neighbours.
const NEIGHBOURS: usize = 2;

/// So many accounts apart, codes are near each other.
const NEAR: usize = 8;

/// The shortest code that can have variants.
const LONG: usize = 3;

fn level(pair: &Pair<'_>) -> usize {
    let (a, b) = (pair.a, pair.b);
    if a.account.code_proposed || b.account.code_proposed {
        return 0;
    }
    if is_variant(a.account.code.as_str(), b.account.code.as_str()) {
        return 4;
    }
    match a.place.abs_diff(b.place) {
        apart if apart <= NEIGHBOURS => 3,
        apart if apart <= NEAR => 2,
        _ => 1,
    }
}

/// Whether one code is the other with a sign before or behind it, or with other marks between its parts.
fn is_variant(one: &str, other: &str) -> bool {
    let plain = |code: &str| -> String {
        let signs = code.chars().filter(|c| c.is_alphanumeric());
        signs.flat_map(char::to_lowercase).collect()
    };
    let (one, other) = (plain(one), plain(other));
    let (short, long) = if one.len() <= other.len() { (&one, &other) } else { (&other, &one) };
    let more = long.len() - short.len();
    short.len() >= LONG
        && (more == 0 && one == other
            || (1..=2).contains(&more)
                && (long.starts_with(short.as_str()) || long.trim_start_matches('0') == short))
}

#[cfg(test)]
mod tests {
    use super::is_variant;

    #[test]
    fn a_code_has_variants() {
        for (one, other) in
            [("4010", "4010A"), ("4010", "4010-1"), ("4010", "04010"), ("40-10", "4010")]
        {
            assert!(is_variant(one, other), "{one} {other}");
        }
        for (one, other) in [("4010", "4011"), ("40", "401"), ("4010", "5010")] {
            assert!(!is_variant(one, other), "{one} {other}");
        }
    }
}
