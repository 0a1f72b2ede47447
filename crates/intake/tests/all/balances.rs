//! Balances: read with rates, compared with the books, and turned into the entry that opens them.

use crate::books::{calendar, gbp, period, railway};
use proptest::prelude::*;
use time::macros::date;
use zf_core::chart::ControlRole;
use zf_core::entry::{EntryKind, NewEntry};
use zf_core::file_kind::FileKind;
use zf_core::ids::AccountId;
use zf_core::money::Currency;
use zf_core::today::Today;
use zf_core::trial_balance::{reported, trial_balance};
use zf_intake::balances::{self, CannotOpen, NewBalance, Opening, compare, opening};
use zf_intake::numbers::{DecimalMark, Rate};
use zf_intake::reading::{Chosen, Reading};
use zf_intake::{Cell, Intake, RawRow};
use zf_phrases::{Style, intake as phrases};

fn read(today: &Today, text: &str) -> Intake<NewBalance> {
    let rows: Vec<RawRow> = (1..)
        .zip(text.lines())
        .map(|(number, line)| RawRow { number, cells: line.split('|').map(Cell::text).collect() })
        .collect();
    let reading = Reading::of(FileKind::Balances, &rows, gbp(), &Chosen::default()).unwrap();
    balances::read(&reading, &rows, &today.chart, &today.former, gbp())
}

fn balance(account: i64, amount: i64) -> NewBalance {
    NewBalance { row: 2, account: AccountId(account), amount, foreign: None }
}

fn open(today: &Today, read: &[NewBalance], take_gap: bool) -> Result<NewEntry, CannotOpen> {
    let of = Opening {
        chart: &today.chart,
        currency: gbp(),
        calendar: calendar(),
        locked: Some(period(date!(2024 - 12 - 31))),
        opened: false,
        date: date!(2026 - 02 - 01),
        take_gap,
    };
    opening(read, &of)
}

#[test]
fn balances_in_a_foreign_currency_take_an_amount_and_a_rate() {
    let today = railway();
    let read = read(
        &today,
        "Code|Debit|Credit|Currency|Foreign amount|Rate\n\
         1030|||EUR|1,000.00|0.8571\n1010|250.00||||\n2010|||EUR|-100|dear\n5010||1.00|EUR|2|",
    );
    let eur = Currency::parse("EUR").unwrap();
    let taken: Vec<_> = read.ready.iter().map(|b| (b.account.0, b.amount, b.foreign)).collect();
    let given = (5010, -100, Some((200, eur)));
    assert_eq!(taken, [(1030, 85_710, Some((100_000, eur))), (1010, 25_000, None), given]);
    let why = phrases::sentence(&read.rejected[0].cause, Style::default());
    assert_eq!(why, "“dear” is not a rate of exchange");
    for wrong in ["0", "-1", "1.2.3", "", "1.1234567890123"] {
        assert!(Rate::read(DecimalMark::Point, wrong).is_err(), "{wrong}");
    }
}

#[test]
fn a_trial_balance_of_the_books_agrees_with_them() {
    let today = railway();
    let trial = trial_balance(&today.chart, today.figures());
    let books = reported(&trial, &today.chart);
    let own: Vec<NewBalance> = books
        .iter()
        .filter_map(|(account, amount)| {
            Some(balance(account.as_ref()?.id.0, i64::try_from(*amount).ok()?))
        })
        .collect();
    let earlier = usize::from(books.iter().any(|(account, _)| account.is_none()));
    let (differences, agree) = compare(&own, &books, &today.chart);
    assert_eq!((differences.len(), agree), (earlier, books.len() - earlier));

    let mut off = own;
    off[0].amount += 5;
    let lost = off.pop().unwrap();
    off.push(balance(5040, 7));
    off.push(balance(6010, 0));
    let (differences, _) = compare(&off, &books, &today.chart);
    let said: Vec<_> =
        differences.iter().map(|d| (d.account.map(|a| a.0), d.file - d.books)).collect();
    assert!(said.contains(&(Some(off[0].account.0), 5)));
    assert!(said.contains(&(Some(lost.account.0), -i128::from(lost.amount))));
    assert!(said.contains(&(Some(5040), 7)) && !said.iter().any(|(id, _)| *id == Some(6010)));
}

#[test]
fn the_books_as_of_an_earlier_day_leave_out_what_came_later() {
    let today = railway();
    let then = today.activity.figures_to(period(date!(2024 - 05 - 31)));
    assert_eq!(then[&AccountId(5010)].all.net(), 600);
    assert_eq!(then[&AccountId(5010)].this_year.net(), 600, "that year is the year then");
    let all = today.activity.figures_to(today.activity.latest().unwrap());
    assert_eq!(all[&AccountId(5010)].all, today.figures()[&AccountId(5010)].all);
}

#[test]
fn a_gap_goes_nowhere_by_itself() {
    let mut today = railway();
    let even = [balance(1010, 500), balance(2010, -500), balance(1050, 0)];
    let entry = open(&today, &even, false).unwrap();
    assert_eq!((entry.number.as_str(), entry.kind), ("Opening 2026-02-01", EntryKind::Opening));
    assert_eq!(entry.lines.len(), 2, "what is zero needs no line");

    let off = [balance(1010, 500), balance(2010, -450)];
    assert_eq!(open(&today, &off, false), Err(CannotOpen::Gap(50)));
    assert_eq!(open(&today, &off, true), Err(CannotOpen::NoDifferenceAccount));
    let mut taker = today.chart.get(AccountId(1050)).unwrap().clone();
    taker.role = Some(ControlRole::OpeningDifference);
    today.chart.put(taker);
    let entry = open(&today, &off, true).unwrap();
    assert_eq!(entry.lines.iter().map(|line| line.amount).sum::<i64>(), 0);
    assert_eq!(entry.lines[2].account, AccountId(1050));
}

#[test]
fn what_cannot_open_the_books_says_why() {
    let today = railway();
    let of = |date, read: &[NewBalance]| {
        let books = Opening {
            chart: &today.chart,
            currency: gbp(),
            calendar: calendar(),
            locked: Some(period(date!(2024 - 12 - 31))),
            opened: date == date!(2025 - 02 - 01),
            date,
            take_gap: true,
        };
        opening(read, &books).unwrap_err()
    };
    let even = [balance(1010, 500), balance(2010, -500)];
    assert_eq!(of(date!(2024 - 02 - 01), &even), CannotOpen::Locked);
    let day = date!(2025 - 02 - 01);
    assert_eq!(of(day, &even), CannotOpen::Opened(day));
    let day = date!(2026 - 02 - 01);
    assert_eq!(of(day, &[balance(1010, 0)]), CannotOpen::Nothing);
    let sum = today.chart.get(AccountId(5099)).unwrap().label();
    assert_eq!(of(day, &[balance(5099, 1), balance(1010, -1)]), CannotOpen::NotPosting(sum));
}

proptest! {
    #![proptest_config(ProptestConfig { failure_persistence: None, ..ProptestConfig::default() })]

    /// What is converted differs from the exact amount by half a minor unit at most, and signs agree.
    #[test]
    fn conversion_rounds_to_the_nearest(amount in -10_000_000i64..10_000_000, rate in 1i64..5_000_000) {
        let text = format!("{}.{:05}", rate / 100_000, rate % 100_000);
        let read = Rate::read(DecimalMark::Point, &text).unwrap();
        let (yen, pound) = (Currency::parse("JPY").unwrap(), gbp());
        let base = i128::from(read.convert(amount, yen, pound).unwrap());
        // Yen have no minor units and pounds have hundred: exactly amount * rate / 100,000 * 100.
        let off = base * 1_000 - i128::from(amount) * i128::from(rate);
        prop_assert!(off.abs() * 2 <= 1_000, "{base} {off}");
        prop_assert!(base == 0 || (base > 0) == (amount > 0));
        prop_assert_eq!(read.convert(-amount, yen, pound), Some(i64::try_from(-base).unwrap()));
    }
}
