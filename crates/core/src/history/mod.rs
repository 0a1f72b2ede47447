//! Moving history: which lines of an account a plan puts under other accounts.
//!
//! A [`Split`] says it of one account, as a list of parts. [`cut`] works out, line by line, what
//! each part takes and what is left, [`preview`] what that means for the accounts.

pub mod cut;
pub mod preview;

use crate::activity::LineContent;
use crate::calendar::FiscalCalendar;
use crate::dimension::DimensionValue;
use crate::ids::{AccountId, StrandId};
use serde::{Deserialize, Serialize};
use std::collections::BTreeSet;
use time::Date;

/// Which lines a part takes: those that meet all that is said here. Nothing said means all lines.
#[derive(Clone, Debug, Default, PartialEq, Eq, Hash, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Which {
    /// On this day or later.
    #[cfg_attr(feature = "schema", schema(value_type = Option<String>, format = Date))]
    pub from: Option<Date>,
    /// On this day or earlier.
    #[cfg_attr(feature = "schema", schema(value_type = Option<String>, format = Date))]
    pub until: Option<Date>,
    /// The payee contains this, whatever the case.
    pub payee: String,
    /// The memo contains this, whatever the case.
    pub memo: String,
    /// A dimension has this value.
    pub dimension: Option<DimensionValue>,
    /// Of one of these entries, by number.
    pub entries: BTreeSet<String>,
}

/// A part of an account's history, and where it is to stand.
#[derive(Clone, Debug, PartialEq, Eq, Hash, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Part {
    /// Which lines.
    pub which: Which,
    /// The account that is to present them.
    pub to: AccountId,
}

/// What should become of the history of one account. What no part takes stays where it is.
#[derive(Clone, Debug, Default, PartialEq, Eq, Hash, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Split {
    /// The parts.
    pub parts: Vec<Part>,
    /// Whether a line that several parts would take goes with the first of them. If not, that
    /// several would is a stop.
    pub ranked: bool,
}

/// A line as far as a part may ask about it.
#[derive(Clone, Copy, Debug)]
pub struct Line<'a> {
    /// What never changes of it.
    pub content: LineContent<'a>,
    /// The strand it is on.
    pub strand: StrandId,
    /// The number of its entry.
    pub entry: &'a str,
    /// Whether it was cleared in a bank reconciliation.
    pub cleared: bool,
}

/// The most parts that a history is divided into: each line is asked of all of them.
pub const MOST_PARTS: usize = 200;

/// Why a split is not looked at.
#[derive(Clone, Copy, Debug, PartialEq, Eq, thiserror::Error)]
#[error("a history is divided into at most {MOST_PARTS} parts, not {0}")]
pub struct TooManyParts(usize);

impl Split {
    /// Looks at what somebody sent.
    ///
    /// # Errors
    /// When there are more parts than are taken.
    pub fn look_at(&self) -> Result<(), TooManyParts> {
        if self.parts.len() > MOST_PARTS { Err(TooManyParts(self.parts.len())) } else { Ok(()) }
    }
}

impl Which {
    /// Whether nothing is said, so that all lines are meant.
    pub fn is_all(&self) -> bool {
        *self == Self::default()
    }
}

impl Split {
    /// All lines, to one account.
    pub fn whole(to: AccountId) -> Self {
        Self { parts: vec![Part { which: Which::default(), to }], ranked: false }
    }

    /// Whether the first part takes everything, so that no line has to be looked at.
    pub fn moves_all(&self) -> Option<AccountId> {
        match self.parts.as_slice() {
            [only] if only.which.is_all() => Some(only.to),
            _ => None,
        }
    }

    /// The first and the last day of the periods in which a part could take a line; `None` where
    /// there is no first or last.
    pub fn span(&self, calendar: FiscalCalendar) -> (Option<Date>, Option<Date>) {
        // All parts must say so.
        let first = self.parts.iter().map(|part| part.which.from).collect::<Option<Vec<_>>>();
        let last = self.parts.iter().map(|part| part.which.until).collect::<Option<Vec<_>>>();
        let first = first.and_then(|days| days.into_iter().min());
        let last = last.and_then(|days| days.into_iter().max());
        (
            first.map(|day| calendar.first_day(calendar.period_of(day))),
            last.map(|day| calendar.last_day(calendar.period_of(day))),
        )
    }
}
