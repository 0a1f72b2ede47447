//! What speaks for two accounts being the same thing, or against it: each kind of evidence is a comparison with a
//! few levels. Nothing here says how much a level weighs.

mod amounts;
mod codes;
mod kind;
mod lines;
mod places;
mod times;

use super::names::Common;
use super::subject::Subject;

pub(super) use kind::{Evidence, Pair};

/// All kinds. Those of the lines stand last: they depend on each other, and count as one block.
pub(super) const ALL: [Evidence; KINDS] = [
    Evidence {
        key: "name",
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
        key: "mark",
        levels: &["none", "one", "both"],
        can_be_unknown: false,
        level: |pair| usize::from(is_marked(pair.a)) + usize::from(is_marked(pair.b)),
        say: |pair, level| {
            let marked = [pair.a, pair.b].into_iter().find(|subject| is_marked(subject))?;
            let name = &marked.account.name;
            (level == 1).then(|| format!("“{name}” is marked as one to give up, or as one of two."))
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

/// Where that of the time stands.
const TIME: usize = 5;

/// Worth a look at most.
const DOUBTFUL: f64 = 0.65;

/// Where that of people stands, before that of phrases.
const PEOPLE: usize = 8;

/// Where those of the lines begin.
pub(super) const OF_LINES: usize = 6;

/// At which level each kind stands for two accounts.
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
    let both_go_on = times::both_go_on(levels[TIME].into());
    let any_alike = levels[PEOPLE..PEOPLE + 2].iter().all(|level| lines::is_any(*level));
    let much_alike = levels[PEOPLE..PEOPLE + 2].iter().all(|level| lines::is_much(*level));
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

fn say_names(pair: &Pair<'_>, _: usize) -> Option<String> {
    let (one, other) = (&pair.a.account.name, &pair.b.account.name);
    let both = format!("“{one}” and “{other}”");
    let read = &pair.names.read_as;
    Some(match pair.names.common {
        Common::Nothing => format!("{both} share no word."),
        Common::LittleOfEach | Common::MostOfEach => {
            let [own, others] = &pair.names.own_written;
            format!("{both} each say something else: {own}; {others}.")
        }
        Common::LittleOfOne | Common::MostOfOne => {
            let [own, others] = &pair.names.own_written;
            let more = if pair.names.left[0] > pair.names.left[1] { own } else { others };
            format!("{both}: only one of them says {more}.")
        }
        Common::AllButLittle => format!("{both} share their telling words."),
        Common::All => format!("{both} have the same words."),
        _ if read.is_empty() => format!("{both} say the same."),
        _ => format!("{both} say the same: {}.", read.join(", ")),
    })
}
