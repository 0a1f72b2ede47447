//! When accounts were in use: one that stops where the other starts was handed over.

use super::kind::{Evidence, Kind, Pair};
use crate::review::look_alikes::observation::{Observation, Then};
use crate::review::look_alikes::subject::Subject;
use crate::review::survivor::has_stopped;
use time::{Date, Duration};

pub(super) const EVIDENCE: Evidence = Evidence {
    kind: Kind::Time,
    levels: &["never", "one_never", "both_stopped", "both_go_on", "one_stopped", "handed_over"],
    can_be_unknown: true,
    level,
    say,
};

/// The longest time between the last line of one and the first of the other, or for which both are posted to, where
/// one follows the other.
const BETWEEN: Duration = Duration::days(100);

/// Whether a level says that both are in use.
pub(super) fn both_go_on(level: usize) -> bool {
    level == 3
}

fn level(pair: &Pair<'_>) -> usize {
    let (a, b) = (pair.a, pair.b);
    match (a.last, b.last) {
        (None, None) => 0,
        (None, _) | (_, None) => 1,
        _ if follows(pair, a, b).is_some() || follows(pair, b, a).is_some() => 5,
        _ => match [a, b].map(|subject| has_stopped(subject.last, pair.latest)) {
            [true, true] => 2,
            [false, false] => 3,
            _ => 4,
        },
    }
}

/// The last day of one and the first of the other, where the other follows it.
fn follows(pair: &Pair<'_>, one: &Subject<'_>, next: &Subject<'_>) -> Option<(Date, Date)> {
    let (last, first) = (one.last?, pair.today.calendar.first_day(next.first?));
    let begin = pair.today.activity.first().map(|first| pair.today.calendar.first_day(first))?;
    let near = last - BETWEEN <= first && first <= last + BETWEEN;
    // What begins with the books, or ends with them, was in use before, or goes on.
    let inside = first > begin + BETWEEN && pair.latest.is_some_and(|end| last < end - BETWEEN);
    (near && inside && next.last? > last).then_some((last, first))
}

fn say(pair: &Pair<'_>, level: usize) -> Option<Observation> {
    let (a, b) = (pair.a, pair.b);
    let id = |subject: &Subject<'_>| subject.account.id;
    match level {
        1 => {
            let (never, used) = if a.last.is_none() { (a, b) } else { (b, a) };
            Some(Observation::NeverPosted(id(never), id(used)))
        }
        3 => Some(Observation::BothInUse),
        4 => {
            let (old, new) = if has_stopped(a.last, pair.latest) { (a, b) } else { (b, a) };
            let last = old.last?;
            let begin = new.first.map(|first| pair.today.calendar.first_day(first));
            let then = if begin > Some(last) { Then::StartsAfter } else { Then::GoesOn };
            Some(Observation::Stopped(id(old), last, id(new), then))
        }
        5 => {
            let turned = follows(pair, a, b).is_none();
            let (old, new) = if turned { (b, a) } else { (a, b) };
            let (last, _) = follows(pair, old, new)?;
            Some(Observation::Stopped(id(old), last, id(new), Then::StartsThere))
        }
        _ => None,
    }
}
