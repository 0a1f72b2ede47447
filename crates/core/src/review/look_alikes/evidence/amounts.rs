//! How much a line usually is, and how often there is one.

use super::kind::{Evidence, Kind, Pair};
use crate::review::look_alikes::observation::Observation;
use crate::review::look_alikes::subject::Subject;

pub(super) const AMOUNT: Evidence = Evidence {
    kind: Kind::Amount,
    levels: &["unknown", "unlike", "similar", "alike"],
    can_be_unknown: true,
    level: |pair| level(pair, usual_amount),
    say: |_, level| (level == 1).then_some(Observation::OtherAmounts),
};

pub(super) const RHYTHM: Evidence = Evidence {
    kind: Kind::Rhythm,
    levels: &["unknown", "unlike", "similar", "alike"],
    can_be_unknown: true,
    level: |pair| level(pair, usual_lines),
    say: |_, level| (level == 1).then_some(Observation::OtherRhythm),
};

/// So many lines have a usual amount.
const ENOUGH: u64 = 4;

/// What is not more than so many times as much is alike.
const ALIKE: f64 = 1.4;

/// What is not more than so many times as much is similar.
const SIMILAR: f64 = 3.0;

fn usual_amount(subject: &Subject<'_>) -> Option<f64> {
    let totals = &subject.totals;
    (totals.lines >= ENOUGH).then(|| (totals.debit + totals.credit) as f64 / totals.lines as f64)
}

/// Lines in a period that has any.
fn usual_lines(subject: &Subject<'_>) -> Option<f64> {
    let lines = subject.totals.lines;
    (lines >= ENOUGH && subject.periods > 0).then(|| lines as f64 / subject.periods as f64)
}

fn level(pair: &Pair<'_>, of: fn(&Subject<'_>) -> Option<f64>) -> usize {
    let (Some(a), Some(b)) = (of(pair.a), of(pair.b)) else { return 0 };
    match a.max(b) / a.min(b).max(f64::MIN_POSITIVE) {
        times if times <= ALIKE => 3,
        times if times <= SIMILAR => 2,
        _ => 1,
    }
}
