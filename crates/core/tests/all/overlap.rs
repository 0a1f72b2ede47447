//! Entries of a file beside those of the journal.

use proptest::prelude::*;
use time::macros::date;
use zf_core::entry::NewLine;
use zf_core::ids::AccountId;
use zf_core::money::Currency;
use zf_core::overlap::{Compared, PostedEntry, debits, mark_of, mark_of_code};

fn lines() -> impl Strategy<Value = Vec<NewLine>> {
    let line = (1..4_i64, -3..4_i64, "[ab]?", any::<bool>(), any::<bool>());
    let line = line.prop_map(|(account, amount, memo, cleared, foreign)| NewLine {
        account: AccountId(account),
        amount,
        foreign: foreign.then(|| (amount * 2, Currency::parse("EUR").unwrap())),
        payee: String::new(),
        memo,
        reference: String::new(),
        dimensions: String::new(),
        cleared,
    });
    prop::collection::vec(line, 0..7)
}

fn entry(lines: &[NewLine]) -> PostedEntry {
    PostedEntry { number: "1".to_owned(), date: date!(2026 - 03 - 01), lines: lines.to_vec() }
}

fn mark(entry: &PostedEntry) -> u64 {
    let code = |line: &NewLine| mark_of_code(&line.account.0.to_string());
    let marks = entry.lines.iter().map(|line| mark_of(line, code(line), entry.date));
    marks.fold(0, u64::wrapping_add)
}

proptest! {
    /// What one side lacks is told for both, and nothing is lacking just where the marks are the same.
    #[test]
    fn what_differs_is_told_for_both_sides(one in lines(), other in lines(), turned in any::<bool>()) {
        let (one, mut other) = (entry(&one), entry(if turned { &one } else { &other }));
        if turned {
            other.lines.reverse();
        }
        let (here, there) = (one.lines_not_in(Some(&other)), other.lines_not_in(Some(&one)));
        let lacking = |lacks: &[bool]| lacks.iter().filter(|lacks| **lacks).count();
        prop_assert_eq!(one.lines.len() - lacking(&here), other.lines.len() - lacking(&there));
        let same = lacking(&here) + lacking(&there) == 0;
        prop_assert_eq!(same, mark(&one) == mark(&other));
        prop_assert!(!turned || same);
        let sum = |lines: &[NewLine], lacks: &[bool], wanted: bool| -> i128 {
            let wanted = lines.iter().zip(lacks).filter(|(_, lacks)| **lacks == wanted);
            debits(&wanted.map(|(line, _)| line.clone()).collect::<Vec<_>>())
        };
        prop_assert_eq!(sum(&one.lines, &here, false), sum(&other.lines, &there, false));
        prop_assert!(one.lines_not_in(None).iter().all(|lacks| !lacks));
        let moved = PostedEntry { date: date!(2026 - 03 - 02), ..one.clone() };
        prop_assert!(one.lines_not_in(Some(&moved)).iter().all(|lacks| *lacks));
    }

    /// What a file has no column of is no difference, and amounts always are compared.
    #[test]
    fn only_what_both_can_say_is_compared(all in lines(), memo in any::<bool>(), foreign in any::<bool>()) {
        let compared = Compared { memo, foreign, ..Compared::default() };
        for line in all {
            let only = compared.only(line.clone());
            prop_assert_eq!((only.account, only.amount), (line.account, line.amount));
            prop_assert_eq!(&only.memo, if memo { &line.memo } else { "" });
            prop_assert_eq!(only.foreign, line.foreign.filter(|_| foreign));
        }
    }
}
