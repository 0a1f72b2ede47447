//! Where a file overlaps with the journal: ledgers are handed over from the beginning of the year every
//! month, so that most of their entries are known.

use crate::entry::NewLine;
use std::collections::{BTreeMap, HashSet};
use time::Date;
use xxhash_rust::xxh3::xxh3_64;

/// Of how many entries of a kind the lines are kept to be shown.
pub const SHOWN: usize = 200;

/// What of the entries of a file the journal has. Entries of the file are named by their places in it.
#[derive(Clone, Debug, Default)]
pub struct Overlap {
    /// Those that the journal has just so.
    pub same: HashSet<usize>,
    /// Those that it has otherwise; of the first [`SHOWN`] what it has.
    pub changed: BTreeMap<usize, Option<PostedEntry>>,
    /// The first [`SHOWN`] entries that are not in the file, from the same files as those that are, and of
    /// its days.
    pub vanished: Vec<PostedEntry>,
    /// How many such entries there are.
    pub vanished_count: usize,
}

impl Overlap {
    /// Whether the journal has none of the file.
    pub fn is_empty(&self) -> bool {
        self.same.is_empty() && self.changed.is_empty()
    }
}

/// An entry of a file as it is looked for in the journal.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub struct FileEntry<'a> {
    /// Its number.
    pub number: &'a str,
    /// The wrapping sum of the [marks](mark_of) of its lines; none when one of them cannot be read.
    pub mark: Option<u64>,
}

/// An entry of the journal as it stands beside one of a file.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct PostedEntry {
    /// Its number.
    pub number: String,
    /// The date of all its lines.
    pub date: Date,
    /// Its lines.
    pub lines: Vec<NewLine>,
}

impl PostedEntry {
    /// For each line whether another entry lacks it: lines that stand twice here and once there are lacking
    /// once. Nothing is lacking where there is no other.
    pub fn lines_not_in(&self, other: Option<&Self>) -> Vec<bool> {
        let Some(other) = other else { return vec![false; self.lines.len()] };
        let same_day = self.date == other.date;
        let mut left: Vec<&NewLine> = other.lines.iter().collect();
        let lacks = |line: &NewLine| {
            let alike = |one: &&NewLine| **one == NewLine { cleared: one.cleared, ..line.clone() };
            let found = left.iter().position(alike).filter(|_| same_day);
            found.map(|at| left.swap_remove(at)).is_none()
        };
        self.lines.iter().map(lacks).collect()
    }
}

/// What the debits among some lines come to, in minor units.
pub fn debits(lines: &[NewLine]) -> i128 {
    lines.iter().map(|line| i128::from(line.amount.max(0))).sum()
}

/// What lines are compared by, beside date, account and amount: whatever the file has a column of. That a
/// line was cleared meanwhile is no change of its entry.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq)]
pub struct Compared {
    /// Amounts in other currencies.
    pub foreign: bool,
    /// Who was paid or paid.
    pub payee: bool,
    /// What it was for.
    pub memo: bool,
    /// The number of the document.
    pub reference: bool,
    /// Dimension values.
    pub dimensions: bool,
}

impl Compared {
    /// A line of the journal with nothing but what the file could say of it.
    pub fn only(self, line: NewLine) -> NewLine {
        let text = |has: bool, text: String| if has { text } else { String::new() };
        NewLine {
            account: line.account,
            amount: line.amount,
            foreign: line.foreign.filter(|_| self.foreign),
            payee: text(self.payee, line.payee),
            memo: text(self.memo, line.memo),
            reference: text(self.reference, line.reference),
            dimensions: text(self.dimensions, line.dimensions),
            cleared: line.cleared,
        }
    }
}

/// Tells the code of an account from others, for [`mark_of`] its lines.
pub fn mark_of_code(code: &str) -> i64 {
    i64::from_le_bytes(xxh3_64(code.as_bytes()).to_le_bytes())
}

/// Tells a line from others by all that it says, but for its identity and whether it is cleared. The sum of
/// these, wrapping, is the same for the same lines in any order.
pub fn mark_of(line: &NewLine, code: i64, date: Date) -> u64 {
    line.content(code, 0, date).hash()
}
