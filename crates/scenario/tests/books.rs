//! The demo books as an accountant would check them: entries balance, what is planted is really
//! there, and seasons and payees are those of such a railway.

#![allow(clippy::panic, reason = "what cannot be found fails the test")]

use std::collections::{BTreeMap, HashMap, HashSet};
use std::sync::LazyLock;
use zf_scenario::{SEED, Scenario};

static BOOKS: LazyLock<Scenario> = LazyLock::new(|| Scenario::new(SEED));

/// The cells of a column of the journal.
fn column(heading: &str) -> impl Iterator<Item = &'static str> {
    let at = BOOKS.journal.columns.iter().position(|(title, _)| title == heading);
    let at = at.unwrap_or_else(|| panic!("the journal has no column {heading}"));
    BOOKS.journal.rows.iter().map(move |row| row[at].as_str())
}

fn pence(text: &str) -> i64 {
    text.replace('.', "").parse().unwrap_or(0)
}

fn amounts() -> impl Iterator<Item = i64> {
    column("Debit").zip(column("Credit")).map(|(debit, credit)| pence(debit) - pence(credit))
}

/// Code, date and amount of every line.
fn lines() -> impl Iterator<Item = (&'static str, &'static str, i64)> {
    column("Account code").zip(column("Date")).zip(amounts()).map(|((c, d), a)| (c, d, a))
}

fn last_posted() -> HashMap<&'static str, &'static str> {
    lines().map(|(code, date, _)| (code, date)).collect()
}

#[test]
fn every_entry_balances_and_has_one_date() {
    let mut entries: BTreeMap<&str, (i64, &str)> = BTreeMap::new();
    for (number, (_, date, amount)) in column("Entry no").zip(lines()) {
        let entry = entries.entry(number).or_insert((0, date));
        entry.0 += amount;
        assert_eq!(entry.1, date, "{number}");
    }
    let off: Vec<_> = entries.iter().filter(|(_, (sum, _))| *sum != 0).collect();
    assert!(off.is_empty(), "{off:?}");
    assert!(entries.len() > 20_000, "{} entries", entries.len());
}

#[test]
fn a_line_has_either_a_debit_or_a_credit() {
    assert!(column("Debit").zip(column("Credit")).all(|(d, c)| d.is_empty() != c.is_empty()));
    assert!(amounts().all(|amount| amount != 0));
}

#[test]
fn lines_are_posted_to_accounts_and_never_to_headings_or_sums() {
    let kinds: HashMap<&str, &str> =
        BOOKS.chart.rows.iter().map(|row| (row[0].as_str(), row[2].as_str())).collect();
    assert!(lines().all(|(code, ..)| kinds.get(code) == Some(&"account")));
}

#[test]
fn what_is_called_long_unused_has_had_no_line_for_two_years() {
    let last = last_posted();
    assert!(BOOKS.key.long_unused.len() >= 8);
    for code in &BOOKS.key.long_unused {
        let date = last[code.as_str()];
        assert!(date < "2025-02-01", "{code} was last used on {date}");
    }
}

#[test]
fn a_look_alike_stops_where_its_double_goes_on() {
    let last = last_posted();
    let at = |code: &String| last.get(code.as_str()).copied().unwrap_or("");
    let alive = BOOKS.key.look_alikes.iter().filter(|group| {
        let latest = group.iter().map(at).max();
        group.iter().filter(|code| Some(at(code)) == latest).count() == 1
    });
    let (alive, all) = (alive.count(), BOOKS.key.look_alikes.len());
    assert!(alive * 10 >= all * 8, "in {alive} of {all} groups one account goes on");
}

#[test]
fn no_pair_is_planted_as_both_alike_and_unlike() {
    let pairs = BOOKS.key.look_alikes.iter().flat_map(|group| {
        group.iter().flat_map(move |a| group.iter().map(move |b| (a.clone(), b.clone())))
    });
    let alike: HashSet<_> = pairs.collect();
    assert!(BOOKS.key.unlike.iter().all(|pair| !alike.contains(pair)));
}

#[test]
fn the_summer_is_busier_than_the_winter_and_no_train_runs_in_january() {
    let mut by_month = [0i64; 12];
    for (code, date, amount) in lines() {
        if code == "4010" {
            let month: usize = date[5..7].parse().unwrap_or(1);
            by_month[month - 1] -= amount;
        }
    }
    assert_eq!(by_month[0], 0);
    let (summer, winter) = (by_month[6] + by_month[7], by_month[1] + by_month[10]);
    assert!(summer > 2 * winter, "{by_month:?}");
}

#[test]
fn tills_are_banked_the_next_day() {
    let mut left: BTreeMap<&str, i64> = BTreeMap::new();
    let tills = ["1030", "1040", "1041", "1042", "1043"];
    for (code, _, amount) in lines().filter(|(code, ..)| tills.contains(code)) {
        *left.entry(code).or_default() += amount;
    }
    for (till, left) in left {
        assert!((0..2_000_000).contains(&left), "{left} pence are left in {till}");
    }
}

#[test]
fn bank_lines_are_cleared_up_to_the_last_reconciliation() {
    for ((code, date, _), cleared) in lines().zip(column("Cleared")) {
        let bank = ["1010", "1020"].contains(&code);
        assert_eq!(cleared == "yes", bank && date < "2026-09-01", "{code} on {date}");
    }
}

#[test]
fn the_euro_account_carries_euros() {
    for ((code, currency), foreign) in
        column("Account code").zip(column("Currency")).zip(column("Foreign amount"))
    {
        assert_eq!(currency.is_empty(), foreign.is_empty());
        assert_eq!(currency == "EUR", code == "1020", "{code}");
    }
}

#[test]
fn every_name_of_the_where_used_list_is_an_account_in_use() {
    let posted: HashSet<&str> = column("Account code").collect();
    for row in &BOOKS.usage.rows {
        let named = match row[0].split_once(" to ") {
            Some((first, last)) => posted.iter().any(|code| (first..=last).contains(code)),
            None => posted.contains(row[0].as_str()),
        };
        assert!(!row[2].is_empty() && named, "{row:?}");
    }
}
