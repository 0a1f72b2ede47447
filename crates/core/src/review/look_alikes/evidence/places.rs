//! Where accounts stand, and what tax applies to them.

use super::kind::{Evidence, Kind};
use crate::review::look_alikes::observation::Observation;

pub(super) const PLACE: Evidence = Evidence {
    kind: Kind::Place,
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
        1 => Some(Observation::OtherPlace),
        2 if pair.a.account.parent.is_some() => Some(Observation::SameHeading),
        2 => Some(Observation::SameItem),
        _ => None,
    },
};

pub(super) const TAX: Evidence = Evidence {
    kind: Kind::Tax,
    levels: &["unknown", "one_only", "another", "same"],
    can_be_unknown: true,
    level: |pair| match (&pair.a.account.tax_code, &pair.b.account.tax_code) {
        (None, None) => 0,
        (Some(one), Some(other)) if one == other => 3,
        (Some(_), Some(_)) => 2,
        _ => 1,
    },
    say: |_, level| (level == 2).then_some(Observation::OtherTax),
};
