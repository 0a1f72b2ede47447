//! A kind of evidence, and what it looks at.

use crate::review::look_alikes::names::Names;
use crate::review::look_alikes::rarity::Rarity;
use crate::review::look_alikes::subject::Subject;
use crate::today::Today;
use time::Date;

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
    /// What it is called in the table of weights.
    pub(in crate::review::look_alikes) key: &'static str,
    /// Its levels. The first of what can be unknown is that.
    pub(in crate::review::look_alikes) levels: &'static [&'static str],
    /// Whether the first level says that nothing is known.
    pub(in crate::review::look_alikes) can_be_unknown: bool,
    pub(in crate::review::look_alikes) level: fn(&Pair<'_>) -> usize,
    /// What it says at a level, as a sentence.
    pub(in crate::review::look_alikes) say: fn(&Pair<'_>, usize) -> Option<String>,
}
