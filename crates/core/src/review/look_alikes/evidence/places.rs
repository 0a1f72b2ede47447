//! Where accounts stand, and what tax applies to them.

use super::kind::Evidence;

pub(super) const PLACE: Evidence = Evidence {
    key: "place",
    levels: &["unknown", "another", "same"],
    can_be_unknown: true,
    level: |pair| {
        let (a, b) = (pair.a.account, pair.b.account);
        let line = a.place().1.zip(b.place().1).map(|(one, other)| one == other);
        match (a.parent.zip(b.parent), line) {
            (Some((one, other)), _) if one == other => 2,
            (_, Some(true)) => 2,
            (None, None) => 0,
            _ => 1,
        }
    },
    say: |pair, level| match level {
        1 => Some("They stand in two places of the statements.".to_owned()),
        2 if pair.a.account.parent.is_some() => {
            Some("They stand under the same heading.".to_owned())
        }
        2 => Some("They stand on the same line of the statements.".to_owned()),
        _ => None,
    },
};

pub(super) const TAX: Evidence = Evidence {
    key: "tax",
    levels: &["unknown", "one_only", "another", "same"],
    can_be_unknown: true,
    level: |pair| match (&pair.a.account.tax_code, &pair.b.account.tax_code) {
        (None, None) => 0,
        (Some(one), Some(other)) if one == other => 3,
        (Some(_), Some(_)) => 2,
        _ => 1,
    },
    say: |_, level| (level == 2).then(|| "They have two tax codes.".to_owned()),
};
