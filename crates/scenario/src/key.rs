//! The answer key: what was planted, by code.

use crate::row::{Row, RowKind};
use std::collections::BTreeMap;

/// What a review should find, and what it must not.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct AnswerKey {
    /// Groups of accounts that are the same thing, each by code.
    pub look_alikes: Vec<Vec<String>>,
    /// Pairs that only look alike.
    pub unlike: Vec<(String, String)>,
    /// Never posted to.
    pub never_used: Vec<String>,
    /// Not posted to for years.
    pub long_unused: Vec<String>,
    /// Marked as old by their name.
    pub marked_old: Vec<String>,
    /// Codes outside of the block of their class.
    pub out_of_block: Vec<String>,
    /// Accounts whose class contradicts their name.
    pub wrong_class: Vec<String>,
    /// Control accounts that look unused.
    pub quiet_controls: Vec<String>,
    /// Sum lines that a careless renumbering would break.
    pub fragile_sums: Vec<String>,
}

impl AnswerKey {
    pub(crate) fn of(rows: &[Row]) -> Self {
        let with = |flag: &str| -> Vec<String> {
            rows.iter().filter(|r| r.get(flag).is_some()).map(|r| r.code.clone()).collect()
        };
        let mut groups: BTreeMap<&str, Vec<String>> = BTreeMap::new();
        for (row, same) in rows.iter().filter_map(|row| Some((row, row.get("same")?))) {
            groups.entry(same).or_insert_with(|| vec![same.to_owned()]).push(row.code.clone());
        }
        let unlike =
            rows.iter().filter_map(|row| Some((row.get("unlike")?.to_owned(), row.code.clone())));
        let sums = rows.iter().filter(|row| row.kind == RowKind::Sum);
        Self {
            look_alikes: groups.into_values().collect(),
            unlike: unlike.collect(),
            never_used: with("never"),
            long_unused: with("quiet"),
            marked_old: with("old"),
            out_of_block: with("stray"),
            wrong_class: with("misclassed"),
            quiet_controls: with("control"),
            fragile_sums: sums.map(|row| row.code.clone()).collect(),
        }
    }
}

#[cfg(test)]
mod tests {
    use crate::{SEED, Scenario};
    use std::collections::HashSet;

    #[test]
    fn the_same_seed_gives_the_same_books() {
        let (a, b) = (Scenario::new(SEED), Scenario::new(SEED));
        assert_eq!(a.journal.rows, b.journal.rows);
        assert_ne!(a.journal.rows, Scenario::new(SEED + 1).journal.rows);
    }

    #[test]
    fn the_books_have_the_size_and_the_problems_they_promise() {
        let books = Scenario::new(SEED);
        let codes: HashSet<_> = books.chart.rows.iter().map(|row| row[0].clone()).collect();
        assert_eq!(codes.len(), books.chart.rows.len(), "codes are unique");
        let accounts = books.chart.rows.iter().filter(|row| row[2] == "account").count();
        assert!((600..=660).contains(&accounts), "{accounts} accounts");
        let lines = books.journal.rows.len();
        assert!((110_000..=130_000).contains(&lines), "{lines} lines");
        let named = books.key.look_alikes.iter().flatten();
        let named = named.chain(books.key.unlike.iter().flat_map(|(a, b)| [a, b]));
        named.for_each(|code| assert!(codes.contains(code), "{code} of the key is in the chart"));
        let posted: HashSet<_> = books.journal.rows.iter().map(|row| &row[2]).collect();
        for code in &books.key.never_used {
            assert!(!posted.contains(code), "{code} was never posted to");
        }
        assert!(books.key.look_alikes.len() >= 60 && books.key.unlike.len() >= 30);
    }
}
