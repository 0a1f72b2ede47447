//! What the codes of a journal stand for: those of today, those of an earlier time, and what a person
//! says of the rest.

use crate::books::{calendar, gbp, railway};
use proptest::prelude::*;
use std::collections::HashMap;
use time::OffsetDateTime;
use time::macros::{date, datetime};
use zf_core::chart::{Class, Status};
use zf_core::code::{Code, CodeKey};
use zf_core::file_kind::FileKind;
use zf_core::former::{CodeUse, CodesThen};
use zf_core::ids::AccountId;
use zf_core::overlap::Overlap;
use zf_core::today::Today;
use zf_intake::journal::{self, JournalIntake};
use zf_intake::reading::{Chosen, Reading};
use zf_intake::{Cell, RawRow};

const HEAD: &str = "Entry|Date|Code|Name|Amount|Memo";

fn key(code: &str) -> CodeKey {
    Code::parse(code).unwrap().key()
}

fn read(
    today: &Today,
    lines: &[String],
    then: Option<&CodesThen>,
    said: &[(&str, i64)],
) -> JournalIntake {
    let lines = std::iter::once(HEAD.to_owned()).chain(lines.iter().cloned());
    let rows: Vec<RawRow> = (1..)
        .zip(lines)
        .map(|(number, line)| RawRow { number, cells: line.split('|').map(Cell::text).collect() })
        .collect();
    let reading = Reading::of(FileKind::Journal, &rows, gbp(), &Chosen::default()).unwrap();
    let said: HashMap<CodeKey, AccountId> =
        said.iter().map(|(code, id)| (key(code), AccountId(*id))).collect();
    let books = journal::JournalContext {
        chart: &today.chart,
        former: &today.former,
        currency: gbp(),
        calendar: calendar(),
        locked: None,
        overlap: &Overlap::default(),
        then,
        said: &said,
        late: &zf_intake::journal::late::Said::default(),
    };
    journal::read(&reading, &rows, &books)
}

/// An entry from one code to another.
fn entry(number: &str, from: &str, to: &str) -> [String; 2] {
    let line = |code: &str, amount: &str| {
        format!("{number}|2026-04-03|{code}|Called {code}|{amount}|Coal for May")
    };
    [line(from, "-12.50"), line(to, "12.50")]
}

/// The accounts of what is ready, each with its number of lines.
fn accounts(read: &JournalIntake) -> Vec<(i64, usize)> {
    read.by_account.iter().map(|(id, (lines, _))| (id.0, *lines)).collect()
}

const MAY: OffsetDateTime = datetime!(2026-05-01 9:00 UTC);

/// 5010 and 5030 swapped their codes in May, and 5020 was merged into 5010.
fn after_may() -> (Today, Vec<CodeUse>) {
    let mut today = railway();
    let used = |account: i64, code: &str, from, to| CodeUse {
        account: AccountId(account),
        code: Code::parse(code).unwrap(),
        name: String::new(),
        from,
        to,
    };
    let uses = vec![
        used(1010, "1010", None, None),
        used(5010, "5010", None, Some(MAY)),
        used(5010, "5030", Some(MAY), None),
        used(5030, "5030", None, Some(MAY)),
        used(5030, "5010", Some(MAY), None),
        used(5020, "5020", None, Some(MAY)),
    ];
    for (id, code) in [(5010, "5030"), (5030, "5010")] {
        let mut account = today.chart.get(AccountId(id)).unwrap().clone();
        account.code = Code::parse(code).unwrap();
        today.chart.put(account);
    }
    let mut merged = today.chart.get(AccountId(5020)).unwrap().clone();
    merged.status = Status::Merged;
    merged.merged_into = Some(AccountId(5010));
    today.chart.put(merged);
    (today, uses)
}

#[test]
fn a_file_may_follow_the_codes_of_an_earlier_time() {
    let (today, uses) = after_may();
    let lines = [entry("A", "1010", "5010"), entry("B", "1010", "5020")].concat();
    let now = read(&today, &lines, None, &[]);
    assert_eq!(accounts(&now), [(1010, 1), (5030, 1)], "5020 is borne by nobody today");
    assert_eq!(now.unknown[0].code, "5020");

    let before = CodesThen::before(&uses, MAY);
    let then = read(&today, &lines, Some(&before), &[]);
    assert_eq!(accounts(&then), [(1010, 2), (5010, 2)]);
    let mapped: Vec<_> = then.mapped.iter().map(|(code, id)| (code.as_str(), id.0)).collect();
    assert_eq!(mapped, [("5010", 5010), ("5020", 5010)], "what differs from today is shown");

    let later = CodesThen::before(&uses, datetime!(2026-06-01 0:00 UTC));
    assert_eq!(accounts(&read(&today, &lines[..2], Some(&later), &[])), [(1010, 1), (5030, 1)]);
}

#[test]
fn a_reversal_is_not_the_same_file() {
    let today = railway();
    let digest = |lines: &[String]| read(&today, lines, None, &[]).digest;
    let there = digest(&entry("A", "1010", "5010"));
    assert_ne!(there, digest(&entry("A", "5010", "1010")), "the accounts are the other way round");
    assert_eq!(there, digest(&entry("B", "1010", "5010")), "whatever the entry is called");
    assert_eq!(there, digest(&entry("A", "10 10", "5010")), "however the code is written");
}

#[test]
fn what_a_person_says_of_a_code_counts_first() {
    let today = railway();
    let lines = [entry("A", "1010", "7777"), entry("B", "1010", "7777")].concat();
    let asked = read(&today, &lines, None, &[]);
    let unknown = &asked.unknown[0];
    assert_eq!((unknown.code.as_str(), unknown.name.as_str()), ("7777", "Called 7777"));
    assert_eq!((unknown.rows, unknown.class), (2, Some(Class::Expense)), "like its neighbours");
    assert!(asked.entries == 0 && unknown.bearers.is_empty());
    let said = read(&today, &lines, None, &[("7777", 5030)]);
    assert_eq!(accounts(&said), [(1010, 2), (5030, 2)]);
    assert!(said.unknown.is_empty());
    // Also against a code that somebody bears, but never to a sum line.
    assert_eq!(
        accounts(&read(&today, &entry("A", "1010", "5010"), None, &[("5010", 5030)])),
        [(1010, 1), (5030, 1)]
    );
    let heading = read(&today, &lines, None, &[("7777", 5099)]);
    assert_eq!(heading.rejected.len(), 4);
}

#[test]
fn a_journal_says_what_it_comes_to() {
    let today = railway();
    let mut lines = [entry("A", "1010", "5010"), entry("B", "1010", "5030")].concat();
    lines.push("C|2026-01-31|1010||7.00|".to_owned());
    lines.push("C|2026-01-31|5010||-6.00|".to_owned());
    lines[2] = lines[2].replace("04-03", "06-30");
    lines[3] = lines[3].replace("04-03", "06-30");
    let read = read(&today, &lines, None, &[]);
    assert_eq!(read.debits, 2_500);
    assert_eq!(read.days, Some((date!(2026 - 04 - 03), date!(2026 - 06 - 30))));
    assert_eq!(read.unbalanced, [("C".to_owned(), 100)]);
}

proptest! {
    #![proptest_config(ProptestConfig { failure_persistence: None, ..ProptestConfig::default() })]

    /// The digest tells lines apart by what they say and the accounts they are on, whatever the order
    /// and the names of entries, and whichever code of an account the file has.
    #[test]
    fn the_same_lines_have_the_same_digest(
        amounts in prop::collection::vec(1i64..100_000, 1..8),
        rotate in 0usize..8,
        changed in 0usize..8,
    ) {
        let today = railway();
        let lines = |name: &str, codes: [&str; 2], amounts: &[i64]| -> Vec<String> {
            let pair = |(n, amount): (usize, &i64)| {
                let amount = format!("{}.{:02}", amount / 100, amount % 100);
                [format!("{name}{n}|2026-04-03|{}||{amount}|m", codes[0]),
                 format!("{name}{n}|2026-04-03|{}||-{amount}|m", codes[1])]
            };
            amounts.iter().enumerate().flat_map(pair).collect()
        };
        let digest = |lines: Vec<String>| read(&today, &lines, None, &[]).digest;
        let first = digest(lines("A", ["5010", "1010"], &amounts));
        let mut turned = amounts.clone();
        turned.rotate_left(rotate % amounts.len());
        prop_assert_eq!(first, digest(lines("B", ["50 10", "10 10"], &turned)));
        prop_assert_ne!(first, digest(lines("B", ["5030", "1020"], &turned)));
        prop_assert_ne!(first, digest(lines("B", ["1010", "5010"], &turned)));
        let mut other = amounts.clone();
        other[changed % amounts.len()] += 1;
        prop_assert_ne!(first, digest(lines("A", ["5010", "1010"], &other)));
    }

    /// Whatever was renumbered when, the codes before a moment are those that were borne then.
    #[test]
    fn the_codes_of_a_moment_are_those_borne_then(
        changes in prop::collection::vec((0usize..4, 0usize..9), 1..12),
        moment in 0usize..13,
    ) {
        let today = railway();
        let accounts = [1010i64, 5010, 5020, 5030];
        let at = |n: usize| MAY + time::Duration::days(i64::try_from(n).unwrap());
        let used = |account: i64, code: usize, from| CodeUse {
            account: AccountId(account), code: Code::parse(&format!("{}", 700 + code)).unwrap(),
            name: String::new(), from, to: None,
        };
        // Each account bears a code of its own at first; a code that is borne is not given again.
        let mut borne: Vec<usize> = (10..14).collect();
        let mut uses: Vec<CodeUse> =
            accounts.iter().zip(&borne).map(|(id, code)| used(*id, *code, None)).collect();
        let mut history = vec![borne.clone()];
        for (n, (which, code)) in changes.iter().enumerate() {
            if !borne.contains(code) {
                let open = uses.iter_mut().find(|u| u.account.0 == accounts[*which] && u.to.is_none());
                open.unwrap().to = Some(at(n));
                uses.push(used(accounts[*which], *code, Some(at(n))));
                borne[*which] = *code;
            }
            history.push(borne.clone());
        }
        let n = moment.min(changes.len());
        let then = CodesThen::before(&uses, at(n));
        for (id, code) in accounts.iter().zip(&history[n]) {
            let holder = then.holder(&key(&format!("{}", 700 + code)), &today.chart);
            prop_assert_eq!(holder.map(|a| a.id.0), Some(*id));
        }
        for code in (0..14).filter(|code| !history[n].contains(code)) {
            let holder = then.holder(&key(&format!("{}", 700 + code)), &today.chart);
            prop_assert!(holder.is_none());
        }
    }
}
