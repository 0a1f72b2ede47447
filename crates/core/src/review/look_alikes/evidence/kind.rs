//! A kind of evidence, and what it looks at.

use crate::keyed::keyed;
use crate::review::look_alikes::names::Names;
use crate::review::look_alikes::observation::Observation;
use crate::review::look_alikes::rarity::Rarity;
use crate::review::look_alikes::subject::Subject;
use crate::today::Today;
use time::Date;

keyed! {
    /// The kinds of evidence, by what they are called in the table of weights. Those of the lines stand last: they
    /// depend on each other, and count as one block.
    Kind {
        /// What the names have in common.
        Name = "name";
        /// What a name says of its account being old, or one of two.
        Mark = "mark";
        /// How the codes lie to each other.
        Code = "code";
        /// Where they stand.
        Place = "place";
        /// What tax applies.
        Tax = "tax";
        /// When they were in use.
        Time = "time";
        /// How much a line usually is.
        Amount = "amount";
        /// How often there is one.
        Rhythm = "rhythm";
        /// With whom the lines are.
        People = "people";
        /// What the lines say.
        Phrases = "phrases";
        /// Which accounts are on the other side of the entries.
        Counters = "counters";
        /// By which dimension values the lines are told apart.
        Dimensions = "dimensions";
    }
}

impl Kind {
    /// Whether it looks at the lines.
    pub(in crate::review::look_alikes) fn is_of_lines(self) -> bool {
        self >= Self::Amount
    }
}

/// Two accounts as evidence sees them.
pub(in crate::review::look_alikes) struct Pair<'a> {
    pub(in crate::review::look_alikes) a: &'a Subject<'a>,
    pub(in crate::review::look_alikes) b: &'a Subject<'a>,
    pub(in crate::review::look_alikes) names: &'a Names,
    pub(in crate::review::look_alikes) rarity: &'a Rarity,
    pub(in crate::review::look_alikes) today: &'a Today,
    /// The last day on which anything was posted.
    pub(in crate::review::look_alikes) latest: Option<Date>,
}

/// A kind of evidence.
pub(in crate::review::look_alikes) struct Evidence {
    /// Which it is.
    pub(in crate::review::look_alikes) kind: Kind,
    /// Its levels. The first of what can be unknown is that.
    pub(in crate::review::look_alikes) levels: &'static [&'static str],
    /// Whether the first level says that nothing is known.
    pub(in crate::review::look_alikes) can_be_unknown: bool,
    pub(in crate::review::look_alikes) level: fn(&Pair<'_>) -> usize,
    /// What is worth saying of a level.
    pub(in crate::review::look_alikes) say: fn(&Pair<'_>, usize) -> Option<Observation>,
}
