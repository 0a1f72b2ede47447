//! What speaks for two accounts being the same thing, or against it: each kind of evidence is a comparison with a
//! few levels. Nothing here says how much a level weighs.

mod amounts;
mod codes;
mod kind;
mod lines;
mod places;
mod times;

use super::names::Common;
use super::observation::{InCommon, Observation};
use super::subject::Subject;

pub use kind::Kind;
pub(super) use kind::{Evidence, Pair};

/// All kinds, in the order of [`Kind`].
pub(super) const ALL: [Evidence; KINDS] = [
    Evidence {
        kind: Kind::Name,
        levels: &[
            "nothing",
            "little_of_each",
            "most_of_each",
            "little_of_one",
            "most_of_one",
            "all_but_little",
            "related",
            "other_words",
            "shortened",
            "written_otherwise",
            "all",
        ],
        can_be_unknown: false,
        level: |pair| pair.names.common as usize,
        say: say_names,
    },
    Evidence {
        kind: Kind::Mark,
        levels: &["none", "one", "both"],
        can_be_unknown: false,
        level: |pair| usize::from(is_marked(pair.a)) + usize::from(is_marked(pair.b)),
        say: |pair, level| {
            let marked = [pair.a, pair.b].into_iter().find(|subject| is_marked(subject))?;
            (level == 1).then_some(Observation::Marked(marked.account.id))
        },
    },
    codes::EVIDENCE,
    places::PLACE,
    places::TAX,
    times::EVIDENCE,
    amounts::AMOUNT,
    amounts::RHYTHM,
    lines::PEOPLE,
    lines::PHRASES,
    lines::COUNTERS,
    lines::DIMENSIONS,
];

/// How many kinds there are.
pub(super) const KINDS: usize = 12;

/// The level of what can be unknown that says that two are most unlike.
const UNLIKE: usize = 1;

/// Worth a look at most.
const DOUBTFUL: f64 = 0.65;

/// At which level each [`Kind`] stands for two accounts.
pub type Levels = [u8; KINDS];

pub(super) fn levels(pair: &Pair<'_>) -> Levels {
    let mut levels = Levels::default();
    // What was taken over stands elsewhere and was posted to by others: that it is unlike says nothing there.
    let is_taken_over = pair.a.taken_over != pair.b.taken_over;
    for (level, evidence) in levels.iter_mut().zip(&ALL) {
        let seen = (evidence.level)(pair);
        let says_nothing = is_taken_over && evidence.can_be_unknown && seen <= UNLIKE;
        *level = if says_nothing { 0 } else { u8::try_from(seen).unwrap_or_default() };
    }
    levels
}

/// How sure it can be at most that two are the same thing, which may well be things of one kind: such are posted to with
/// the same people. Their names share words, and each says something else, or one says more while both are in use or
/// their lines are not much alike. `None` when each says something else and both are in use with other lines.
pub(super) fn most(pair: &Pair<'_>, levels: &Levels) -> Option<f64> {
    let one_more = matches!(pair.names.common, Common::LittleOfOne | Common::MostOfOne);
    let each_more =
        pair.names.common != Common::Nothing && pair.names.own.iter().all(|own| !own.is_empty());
    let level = |kind: Kind| levels[kind as usize];
    let both_go_on = times::both_go_on(level(Kind::Time).into());
    let people = [Kind::People, Kind::Phrases].map(level);
    let any_alike = people.iter().all(|level| lines::is_any(*level));
    let much_alike = people.iter().all(|level| lines::is_much(*level));
    if pair.a.account.class != pair.b.account.class {
        return (pair.names.common >= Common::AllButLittle).then_some(DOUBTFUL);
    }
    match (each_more, both_go_on) {
        (true, true) if !much_alike => None,
        (true, _) => Some(DOUBTFUL),
        (false, _) if one_more && both_go_on => Some(DOUBTFUL),
        (false, _) if one_more && !much_alike => Some(DOUBTFUL),
        // People alone are those of a whole trade; what is said has to be alike too.
        (false, _) if pair.names.common == Common::Nothing && !any_alike => Some(DOUBTFUL),
        _ => Some(1.0),
    }
}

fn is_marked(subject: &Subject<'_>) -> bool {
    subject.wording.is_marked() || subject.wording.year.is_some()
}

fn say_names(pair: &Pair<'_>, _: usize) -> Option<Observation> {
    let names = pair.names;
    let in_common = match names.common {
        Common::Nothing => InCommon::NoWord,
        Common::LittleOfEach | Common::MostOfEach => {
            InCommon::EachSaysMore(names.own_written.clone())
        }
        Common::LittleOfOne | Common::MostOfOne => {
            let [own, others] = &names.own_written;
            let more = if names.left[0] > names.left[1] { own } else { others };
            InCommon::OneSaysMore(more.clone())
        }
        Common::AllButLittle => InCommon::TellingWords,
        Common::All => InCommon::AllWords,
        _ => InCommon::Meaning(names.read_as.clone()),
    };
    Some(Observation::Names(pair.a.account.id, pair.b.account.id, in_common))
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn each_kind_stands_at_its_place() {
        assert!(ALL.iter().map(|evidence| evidence.kind).eq(Kind::ALL.iter().copied()));
    }
}
