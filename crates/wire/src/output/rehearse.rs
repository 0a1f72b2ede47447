//! `zerofold rehearse`.

use serde::Serialize;
use std::collections::BTreeMap;

/// What a crosswalk would do to the books.
#[derive(Debug, Serialize)]
pub struct Rehearsed {
    pub stops: Vec<Said>,
    pub cautions: Vec<Said>,
    /// Accounts whose history stands under another code After.
    pub crosswalk: Vec<Crossed>,
    /// What the lines of each account add up to, by its code, in minor units.
    pub before: BTreeMap<String, i64>,
    pub after: BTreeMap<String, i64>,
    /// Between both sides; 0 unless something was lost.
    pub difference: i64,
    pub lines: u64,
}

/// A stop, a caution or a row that cannot be taken.
#[derive(Clone, Debug, Serialize)]
pub struct Said {
    /// The key of the rule, or of the reason.
    pub rule: &'static str,
    pub codes: Vec<String>,
    pub message: String,
    pub remedy: String,
}

/// Two codes of one history.
#[derive(Debug, Serialize)]
pub struct Crossed {
    pub from: String,
    pub to: String,
}
