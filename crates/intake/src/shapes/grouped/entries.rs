//! Putting the lines of a ledger together to entries where no column numbers them: by day and reference, and
//! by what else the two sides of an entry have in common, as long as each comes to zero.

use crate::RawRow;
use crate::columns::Column;
use crate::periods::when;
use crate::reading::Reading;
use std::collections::HashMap;

/// What the lines of an entry have in common.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq, Hash)]
pub(super) enum EntryBy {
    /// Day, reference, words and amount.
    All,
    /// Day, reference and words.
    Words,
    /// Day and reference.
    #[default]
    Reference,
    /// Day and words.
    WordsAlone,
    /// Day and amount.
    Amount,
    /// The day.
    Day,
}

/// From the finest to the coarsest.
const IN_ORDER: [EntryBy; 6] = [
    EntryBy::All,
    EntryBy::Words,
    EntryBy::Reference,
    EntryBy::WordsAlone,
    EntryBy::Amount,
    EntryBy::Day,
];

impl EntryBy {
    /// What lines of one entry are called, of a certain day or period and amount.
    fn called(self, reading: &Reading, row: &RawRow, when: &str, amount: i64) -> String {
        let cell = |field| reading.layout.cell(row, field);
        let words = [cell(Column::Memo), cell(Column::Payee)].join(" ");
        let amount = reading.currency.format(i128::from(amount).abs());
        let parts = match self {
            Self::All => vec![cell(Column::Reference), words.trim(), &amount],
            Self::Words => vec![cell(Column::Reference), words.trim()],
            Self::Reference => vec![cell(Column::Reference)],
            Self::WordsAlone => vec![words.trim()],
            Self::Amount => vec![&*amount],
            Self::Day => Vec::new(),
        };
        let parts = std::iter::once(when).chain(parts).filter(|part| !part.is_empty());
        parts.collect::<Vec<_>>().join(" ")
    }

    /// The number of the entry of a line.
    pub(super) fn number(self, reading: &Reading, row: &RawRow) -> String {
        let when = when(reading, row).map(|when| when.to_string()).unwrap_or_default();
        let amount = reading.signed(row, reading.currency).unwrap_or(0);
        self.called(reading, row, &when, amount)
    }
}

/// What lines come to together, by what they have in common.
#[derive(Default)]
pub(super) struct Seen {
    sums: [HashMap<u64, (i128, u64)>; IN_ORDER.len()],
}

impl Seen {
    pub(super) fn see(&mut self, reading: &Reading, row: &RawRow, when: &str, amount: i64) {
        if reading.layout.place(Column::Entry).is_some() {
            return;
        }
        for (by, sums) in IN_ORDER.iter().zip(&mut self.sums) {
            let called = by.called(reading, row, when, amount);
            let sum = sums.entry(xxhash_rust::xxh3::xxh3_64(called.as_bytes())).or_default();
            *sum = (sum.0 + i128::from(amount), sum.1 + 1);
        }
    }

    /// The finest by which all lines balance, or the one by which most do.
    pub(super) fn best(&self) -> EntryBy {
        let off = |sums: &HashMap<u64, (i128, u64)>| -> u64 {
            sums.values().filter(|(sum, _)| *sum != 0).map(|(_, lines)| *lines).sum()
        };
        let all = IN_ORDER.iter().zip(&self.sums).map(|(by, sums)| (off(sums), *by));
        // The first of equals is the finest.
        all.min_by_key(|(off, _)| *off).map_or(EntryBy::Reference, |(_, by)| by)
    }
}
