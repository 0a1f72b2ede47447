//! The kinds of files that are brought in.

use crate::keyed::keyed;

keyed! {
    /// What a file brings in.
    FileKind {
        /// A chart of accounts.
        Chart = "chart", "chart of accounts";
        /// Journal lines.
        Journal = "journal", "journal";
        /// What accounts stand at, on a day.
        Balances = "balances", "trial balance";
        /// Old codes with the codes they become.
        Crosswalk = "crosswalk", "crosswalk";
        /// What names the accounts elsewhere.
        Usage = "usage", "where-used list";
    }
}

impl FileKind {
    /// The most rows that a file may have. A journal is read line by line and has as many as a sheet
    /// holds; all else is held in memory, and is no such file when it is longer.
    pub fn most_rows(self) -> Option<usize> {
        match self {
            Self::Journal => None,
            Self::Chart | Self::Crosswalk => Some(50_000),
            Self::Balances | Self::Usage => Some(100_000),
        }
    }
}
