//! Journals that overlap with what the books have already.

use crate::books::{calendar, gbp, period, railway};
use crate::intake::{reading, rows};
use crate::journals;
use proptest::prelude::*;
use std::collections::HashMap;
use time::macros::date;
use zf_core::entry::NewEntry;
use zf_core::file_kind::FileKind;
use zf_core::former::FormerCodes;
use zf_core::overlap::{Compared, Overlap, PostedEntry, mark_of, mark_of_code};
use zf_intake::journal::{self, JournalIntake};
use zf_intake::reason::Reason;

const HEADINGS: &str = "Entry | Date | Code | Debit | Credit | Memo\n";

fn read(text: &str, overlap: &Overlap) -> (JournalIntake, Vec<NewEntry>) {
    let today = railway();
    let rows = rows(&format!("{HEADINGS}{text}"));
    let reading = reading(FileKind::Journal, &rows);
    let of = journal::JournalContext {
        chart: &today.chart,
        former: &FormerCodes::default(),
        currency: gbp(),
        calendar: calendar(),
        locked: Some(period(date!(2024 - 12 - 31))),
        overlap,
        then: None,
        said: &HashMap::new(),
        late: &zf_intake::journal::late::Said::default(),
    };
    journals::read_journal(&reading, &rows, &of)
}

fn text(entries: &[(i64, u8)]) -> String {
    let entry = |(n, (amount, day)): (usize, &(i64, u8))| {
        let day = day % 28 + 1;
        format!(
            "E{n}|2026-03-{day:02}|5010|{amount}||coal\nE{n}|2026-03-{day:02}|1010||{amount}|\n"
        )
    };
    entries.iter().enumerate().map(entry).collect()
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(48))]

    #[test]
    fn what_is_known_is_taken_out_of_every_sum(
        entries in prop::collection::vec((1..10_000_i64, any::<u8>()), 1..12), known in any::<u16>(),
    ) {
        let is_known = |n: usize| known >> n & 1 == 1;
        let same = (0..entries.len()).filter(|n| is_known(*n)).collect();
        let overlap = Overlap { same, ..Overlap::default() };
        let (with, ready) = read(&text(&entries), &overlap);
        let left: Vec<_> = entries.iter().enumerate().filter(|(n, _)| !is_known(*n)).collect();
        prop_assert_eq!(ready.len(), left.len());
        prop_assert_eq!(with.debits, left.iter().map(|(_, e)| i128::from(e.0) * 100).sum::<i128>());
        prop_assert_eq!(with.known.len() + with.ready_rows, entries.len() * 2);
        prop_assert!(with.rejected.is_empty() && with.changed.is_empty());
        // The rows that are left say the same as a file of nothing else.
        let numbers: Vec<_> = ready.iter().map(|entry| entry.number.clone()).collect();
        prop_assert_eq!(numbers, left.iter().map(|(n, _)| format!("E{n}")).collect::<Vec<_>>());
    }

    #[test]
    fn an_entry_has_the_same_mark_in_any_order_and_another_when_anything_differs(
        amount in 1..10_000_i64, other in 1..10_000_i64,
    ) {
        let lines = |amount: i64, memo: &str| {
            [format!("A|2026-03-01|5010|{amount}||{memo}"), format!("A|2026-03-01|1010||{amount}|")]
        };
        let mark = |lines: &[String]| {
            let (read, _) = read(&lines.join("\n"), &Overlap::default());
            read.in_file().next().unwrap().mark.unwrap()
        };
        let [one, two] = lines(amount, "coal");
        let first = mark(&[one.clone(), two.clone()]);
        prop_assert_eq!(first, mark(&[two, one]));
        prop_assert_ne!(first, mark(&lines(amount, "wood")));
        if amount != other {
            prop_assert_ne!(first, mark(&lines(other, "coal")));
        }
    }
}

#[test]
fn a_file_is_marked_as_the_journal_marks_its_lines() {
    let (read, ready) =
        read("A|2026-03-01|5010|12||coal\nA|2026-03-01|1010||12|", &Overlap::default());
    let today = railway();
    let code = |id| mark_of_code(today.chart.get(id).unwrap().code.as_str());
    let sum = ready[0].lines.iter().fold(0_u64, |sum, line| {
        sum.wrapping_add(mark_of(line, code(line.account), ready[0].date))
    });
    assert_eq!(read.in_file().next().unwrap().mark, Some(sum));
    // What the file has no column of is not compared.
    let blind = Compared::default().only(ready[0].lines[0].clone());
    assert_eq!((blind.memo.as_str(), blind.amount), ("", ready[0].lines[0].amount));
}

#[test]
fn a_changed_entry_is_left_out_with_both_sides_and_a_lock_is_no_matter_of_what_is_known() {
    let old = "A|2024-03-01|5010|12||coal\nA|2024-03-01|1010||12|\n";
    let (locked, ready) = read(old, &Overlap::default());
    assert!(ready.is_empty());
    assert!(locked.rejected.iter().all(|rejected| rejected.cause.reason() == Reason::PeriodLocked));
    let same = Overlap { same: [0].into(), ..Overlap::default() };
    let (known, _) = read(old, &same);
    assert_eq!((known.rejected.len(), known.known.len()), (0, 2));

    let text = format!("{old}B|2026-03-01|5010|7||coal\nB|2026-03-01|1010||7|\n");
    let (_, ready) = read(&text, &same);
    let stored = PostedEntry {
        number: "B".to_owned(),
        date: ready[0].date,
        lines: ready[0].lines.iter().take(1).cloned().collect(),
    };
    let overlap = Overlap { changed: [(1, Some(stored.clone()))].into(), ..same };
    let (changed, ready) = read(&text, &overlap);
    assert!(ready.is_empty() && changed.debits == 0);
    let rows: Vec<_> = changed.rejected.iter().map(|r| (r.row, r.cause.reason())).collect();
    assert_eq!(rows, [(4, Reason::EntryChanged), (5, Reason::EntryChanged)]);
    assert_eq!(changed.changed.len(), 1);
    let entry = &changed.changed[0];
    assert_eq!((entry.row, &entry.journal), (4, &stored));
    assert_eq!(entry.file.lines_not_in(Some(&entry.journal)), [false, true]);
    assert_eq!(entry.journal.lines_not_in(Some(&entry.file)), [false]);
}
