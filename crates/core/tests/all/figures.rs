//! What lines add up to: totals and digests, figures, and the trial balance.

use crate::books::{account, calendar, gbp, period, strand, today};
use proptest::prelude::*;
use std::collections::{BTreeMap, HashSet};
use time::Date;
use time::macros::date;
use zf_core::activity::{Activity, LineContent, Totals, usual_as_of};
use zf_core::calendar::Period;
use zf_core::chart::{Chart, Class};
use zf_core::ids::AccountId;
use zf_core::money::Currency;
use zf_core::today::Today;
use zf_core::trial_balance::{balance, trial_balance};

fn day(n: i32) -> Date {
    Date::from_julian_day(2_460_000 + n).unwrap()
}

const LINE: LineContent<'_> = LineContent {
    id: 1,
    entry: 2,
    date: date!(2026 - 03 - 01),
    amount: 500,
    foreign: None,
    payee: "Harrock",
    memo: "coal",
    reference: "P1",
    dimensions: "site=Larkfell",
};

#[test]
fn a_digest_tells_every_change_of_a_line() {
    let euro = Currency::parse("EUR").unwrap();
    let changed = [
        LINE,
        LineContent { id: 2, ..LINE },
        LineContent { entry: 3, ..LINE },
        LineContent { date: date!(2026 - 03 - 02), ..LINE },
        LineContent { amount: -500, ..LINE },
        LineContent { foreign: Some((500, euro)), ..LINE },
        LineContent { foreign: Some((500, gbp())), ..LINE },
        LineContent { payee: "harrock", ..LINE },
        LineContent { memo: "", ..LINE },
        LineContent { reference: "", ..LINE },
        LineContent { dimensions: "", ..LINE },
        // The same letters, parted elsewhere.
        LineContent { payee: "Harrockc", memo: "oal", ..LINE },
    ];
    let digests: HashSet<u64> = changed.iter().map(LineContent::hash).collect();
    assert_eq!(digests.len(), changed.len());
}

proptest! {
    #[test]
    fn totals_are_the_same_however_lines_are_grouped(
        lines in prop::collection::vec((any::<i32>(), 0..4usize), 0..50),
    ) {
        let content = |n: usize, amount: i32| LineContent { id: n as i64, amount: amount.into(), ..LINE };
        let mut whole = Totals::default();
        let mut groups = [Totals::default(); 4];
        for (n, (amount, _)) in lines.iter().enumerate() {
            whole += Totals::of_line(&content(n, *amount));
        }
        for (n, (amount, group)) in lines.iter().enumerate().rev() {
            groups[*group] += Totals::of_line(&content(n, *amount));
        }
        let mut summed = Totals::default();
        groups.into_iter().for_each(|group| summed += group);
        prop_assert_eq!(summed, whole);
        let net: i128 = lines.iter().map(|(amount, _)| i128::from(*amount)).sum();
        prop_assert_eq!((whole.net(), whole.lines), (net, lines.len() as u64));
    }

    #[test]
    fn a_trial_balance_of_balanced_entries_is_zero(
        entries in prop::collection::vec((0..10i64, 0..10i64, 0..2_000i32, 1..9_999i64), 1..60),
    ) {
        let chart = Chart::new((0..10).map(|n| account(n, &format!("{n}"), "Row", Class::ALL[n as usize % 5])));
        let mut lines = vec![Vec::new(); 10];
        for (debit, credit, on, amount) in &entries {
            lines[*debit as usize].push((day(*on), *amount));
            lines[*credit as usize].push((day(*on), -*amount));
        }
        let strands = (0..10).map(|n| strand(n, n, &lines[n as usize]));
        let books = today(chart, Activity::new(strands.collect::<Vec<_>>()));
        let figures = books.figures();
        let trial = trial_balance(&books.chart, figures);
        prop_assert_eq!(trial.total(), 0);
        let rows: i128 = trial.rows.iter().map(|row| row.balance).sum();
        prop_assert_eq!(rows + trial.earlier_results, 0, "nothing stands outside of the rows");
        for class in Class::ALL {
            let rows = trial.rows.iter().filter(|row| row.class == *class);
            let earlier = if *class == Class::Equity { trial.earlier_results } else { 0 };
            prop_assert_eq!(rows.map(|row| row.balance).sum::<i128>() + earlier, trial.class(*class));
        }
        prop_assert!(trial.rows.windows(2).all(|pair| pair[0].class <= pair[1].class));
        prop_assert!(trial.rows.iter().all(|row| row.balance != 0));
    }
}

#[test]
fn income_and_expense_stand_at_the_latest_year_and_all_else_to_date() {
    let (last_year, this_year) = (date!(2026 - 01 - 31), date!(2026 - 02 - 01));
    let chart = Chart::new([
        account(1, "1010", "Bank", Class::Asset),
        account(2, "5010", "Coal", Class::Expense),
    ]);
    let activity = Activity::new([
        strand(1, 1, &[(last_year, -300), (this_year, -200)]),
        strand(2, 2, &[(last_year, 300), (this_year, 200)]),
    ]);
    let books = today(chart, activity);
    let figures = books.figures();
    let of = |id| balance(books.chart.get(AccountId(id)).unwrap(), &figures[&AccountId(id)]);
    assert_eq!((of(1), of(2)), (-500, 200));
    let trial = trial_balance(&books.chart, figures);
    assert_eq!((trial.earlier_results, trial.class(Class::Equity)), (300, 300));
    assert_eq!(books.activity.latest(), Some(period(this_year)));
}

#[test]
fn a_strand_is_counted_where_it_is_presented() {
    let activity = Activity::new([
        strand(1, 1, &[(day(0), 100)]),
        strand(2, 2, &[(day(1), 50)]),
        strand(3, 2, &[]),
    ]);
    let own = activity.by_account(|strand| strand.account);
    assert_eq!((own[&AccountId(1)].all.net(), own[&AccountId(2)].all.net()), (100, 50));
    let merged = activity.by_account(|_| AccountId(9));
    assert_eq!((merged[&AccountId(9)].all.lines, merged[&AccountId(9)].last), (2, Some(day(1))));
    let slots: u64 = activity.by_slot().values().map(|totals| totals.lines).sum();
    assert_eq!(slots, 2);
}

#[test]
fn one_line_dated_ahead_does_not_make_its_year_the_current_one() {
    let month = |year: i32, month: i32| Period(year * 12 + month);
    let mut lines: BTreeMap<Period, u64> = (0..24).map(|n| (month(2025, n), 100)).collect();
    let now = month(2026, 10);
    assert_eq!(usual_as_of(&lines, now), Some(now), "not after today");
    lines.retain(|period, _| *period <= month(2026, 4));
    lines.insert(month(2027, 0), 1);
    lines.insert(month(2026, 6), 9);
    assert_eq!(usual_as_of(&lines, now), Some(month(2026, 4)), "a slip is no month");
    lines.insert(month(2026, 6), 10);
    assert_eq!(usual_as_of(&lines, now), Some(month(2026, 6)), "a tenth of a usual month is one");
    assert_eq!(usual_as_of(&BTreeMap::new(), now), None);
    let ahead = BTreeMap::from([(month(2030, 1), 5)]);
    assert_eq!(usual_as_of(&ahead, now), Some(month(2030, 1)), "better that than nothing");
}

#[test]
fn balances_stop_at_the_as_of_date_and_guards_see_all_lines() {
    let days = [(date!(2026 - 03 - 01), 700), (date!(2027 - 03 - 01), 20)];
    let other = [(date!(2026 - 03 - 01), -700), (date!(2027 - 03 - 01), -20)];
    let strands = || [strand(1, 1, &days), strand(2, 2, &other)];
    let chart = || {
        Chart::new([
            account(1, "5010", "Coal", Class::Expense),
            account(2, "1010", "Bank", Class::Asset),
        ])
    };
    let of = |last: Option<Period>| {
        let activity = Activity::new(strands());
        today(chart(), last.map_or(activity.clone(), |last| activity.as_of(last)))
    };
    let march = calendar().period_of(date!(2026 - 03 - 01));
    let (slipped, held) = (of(None), of(Some(march)));
    let coal = |today: &Today| {
        balance(today.chart.get(AccountId(1)).unwrap(), &today.figures_of(AccountId(1)))
    };
    assert_eq!((coal(&slipped), coal(&held)), (20, 700), "the year is that of the as-of date");
    assert_eq!(
        (
            slipped.activity.lines_after(slipped.activity.last().unwrap()),
            held.activity.lines_after(held.activity.last().unwrap())
        ),
        (0, 2)
    );
    for today in [&slipped, &held] {
        let trial = trial_balance(&today.chart, today.figures());
        assert_eq!(trial.total(), 0);
        assert_eq!(today.figures_of(AccountId(1)).all.lines, 2, "guards and the proof see all");
    }
    assert_eq!(trial_balance(&held.chart, held.figures()).earlier_results, 0);
    assert_eq!(trial_balance(&slipped.chart, slipped.figures()).earlier_results, 700);
}
