//! The trial balance in its forms: what stood there, what moved it, and what stands there now.

use crate::books::{account, period, plan, strand, today};
use crate::statements::books;
use proptest::prelude::*;
use std::collections::BTreeMap;
use time::Date;
use time::macros::date;
use zf_core::activity::{Activity, Openings, Totals};
use zf_core::chart::{Chart, Class};
use zf_core::ids::{AccountId, StrandId};
use zf_core::plan::Plan;
use zf_core::rehearsal::rehearse;
use zf_core::reports::columns::{Beside, Columns, MOST, Months, Span};
use zf_core::reports::reading::{Read, Reading};
use zf_core::reports::trial::{Trial, TrialFigure, TrialForm, trial};
use zf_core::today::Today;
use zf_core::trial_balance::trial_balance;

/// A trial balance is as much in debit as in credit, its opening with what moved is its closing, and its balances are
/// those that the books know.
pub(crate) fn trials_roll(read: &Read<'_>) {
    let roll = trial(read, TrialForm::Roll, true);
    assert_eq!((roll.totals[0], roll.totals[3], roll.left_out), (0, 0, 0));
    assert_eq!(roll.totals[1], roll.totals[2]);
    for row in &roll.rows {
        assert_eq!(row.amounts[0] + row.amounts[1] - row.amounts[2], row.amounts[3]);
    }
    let by_month = trial(read, TrialForm::ByMonth, false);
    for row in &by_month.rows {
        let (closing, before) = row.amounts.split_last().unwrap();
        assert_eq!(before.iter().sum::<i128>(), *closing);
    }
    let balances = trial(read, TrialForm::Balances, false);
    assert_eq!(balances.totals[0], balances.totals[1], "as much in debit as in credit");
    assert!(balances.totals[2..].iter().all(|sum| *sum == 0));
    let all = trial(read, TrialForm::Balances, true);
    assert_eq!(all.rows.len(), balances.rows.len() + balances.left_out);
    if read.reading() == Reading::AsItIs {
        let last = read.columns()[0].last;
        let known = trial_balance(read.chart(), &read.today().activity.figures_to(last));
        for (class, amounts) in &balances.classes {
            assert_eq!(amounts[0] - amounts[1], known.class(*class));
        }
    }
}

#[test]
fn what_opening_entries_bring_stood_there_before_and_did_not_move() {
    let open = date!(2026 - 02 - 01);
    let chart = Chart::new([
        account(1, "1010", "Bank", Class::Asset),
        account(2, "3000", "Capital", Class::Equity),
        account(3, "5010", "Coal", Class::Expense),
    ]);
    let later = date!(2026 - 05 - 01);
    let activity = Activity::new([
        strand(1, 1, &[(open, 900), (later, -40)]),
        strand(2, 2, &[(open, -900)]),
        strand(3, 3, &[(later, 40)]),
    ]);
    let sums = |debit, credit| {
        BTreeMap::from([(period(open), Totals { debit, credit, lines: 1, ..Totals::default() })])
    };
    let openings = Openings::from([(StrandId(1), sums(900, 0)), (StrandId(2), sums(0, 900))]);
    let books = today(chart, activity.with_openings(openings));
    let roll = drawn(&books, TrialForm::Roll, Span::Year, false);
    assert_eq!(of(&roll, "1010"), [900, 0, 40, 860]);
    assert_eq!(of(&roll, "3000"), [-900, 0, 0, -900]);
    assert_eq!(of(&roll, "5010"), [0, 40, 0, 40]);
    let months = drawn(&books, TrialForm::ByMonth, Span::Year, false);
    assert_eq!(of(&months, "1010")[..5], [900, 0, 0, 0, -40], "the first month did not move it");
    let moved = drawn(&books, TrialForm::Movements, Span::Year, false);
    assert_eq!(
        (of(&moved, "1010"), moved.totals.as_slice()),
        (&[0, 40, -40][..], &[40, 40, 0][..])
    );
}

fn drawn(today: &Today, form: TrialForm, span: Span, zeros: bool) -> Trial {
    let bare = rehearse(today, &Plan::default());
    let last = today.activity.last().unwrap();
    let columns = Columns { last, span, beside: Beside::Before, count: 2 };
    let columns = columns.months(today.activity.first());
    trial(&Read::new(today, &bare, Reading::AsItIs, &columns), form, zeros)
}

fn of<'a>(trial: &'a Trial, code: &str) -> &'a [i128] {
    &trial.rows.iter().find(|row| row.code == code).unwrap().amounts
}

#[test]
fn balances_stand_by_side_and_those_before_beside_them() {
    let trial = drawn(&books(), TrialForm::Balances, Span::Year, false);
    let figures: Vec<TrialFigure> = trial.columns.iter().map(|column| column.figure).collect();
    assert_eq!(
        figures,
        [TrialFigure::DebitBalance, TrialFigure::CreditBalance, TrialFigure::Closing]
    );
    assert_eq!(of(&trial, "1010"), [0, 750, -700]);
    assert_eq!(of(&trial, "5020"), [50, 0, 200], "costs are those of their fiscal year");
    let earlier = trial.rows.iter().find(|row| row.account.is_none()).unwrap();
    assert_eq!((earlier.class, &*earlier.amounts), (Class::Equity, &[700, 0, 0][..]));
    assert_eq!(trial.totals, [750, 750, 0]);
    assert_eq!(trial.left_out, 0);
}

#[test]
fn what_moved_is_told_by_side_by_month_and_between_an_opening_and_a_closing() {
    let then = [(date!(2026 - 02 - 10), 300), (date!(2026 - 03 - 10), -100)];
    let chart = Chart::new([
        account(1, "1010", "Bank", Class::Asset),
        account(2, "4010", "Fares", Class::Income),
        account(3, "1020", "Unused", Class::Asset),
    ]);
    let mirror = then.map(|(day, amount)| (day, -amount));
    let before = [(date!(2025 - 06 - 01), 40)];
    let activity = Activity::new([
        strand(1, 1, &[&before[..], &then[..]].concat()),
        strand(2, 2, &[&[(date!(2025 - 06 - 01), -40)][..], &mirror[..]].concat()),
    ]);
    let books = today(chart, activity);
    let moved = drawn(&books, TrialForm::Movements, Span::Quarter, false);
    assert_eq!(of(&moved, "1010"), [300, 100, 200]);
    assert_eq!((moved.totals.as_slice(), moved.left_out), (&[400, 400, 0][..], 1));
    let all = drawn(&books, TrialForm::Movements, Span::Quarter, true);
    assert_eq!((of(&all, "1020"), all.left_out), (&[0, 0, 0][..], 0));

    let roll = drawn(&books, TrialForm::Roll, Span::Month, false);
    assert_eq!(of(&roll, "1010"), [340, 0, 100, 240]);
    assert_eq!(of(&roll, "4010"), [-300, 100, 0, -200], "fares count from the fiscal year on");
    assert_eq!(roll.columns[0].until(), period(date!(2026 - 02 - 28)), "before the month");
    assert_eq!(roll.columns[3].until(), period(date!(2026 - 03 - 31)));

    let months = drawn(&books, TrialForm::ByMonth, Span::Quarter, false);
    assert_eq!(of(&months, "1010"), [40, 300, -100, 240]);
    let classes: BTreeMap<Class, &Vec<i128>> =
        months.classes.iter().map(|(class, sums)| (*class, sums)).collect();
    assert_eq!(classes[&Class::Income], &[0, -300, 100, -200]);
    assert_eq!(classes[&Class::Equity], &[-40, 0, 0, -40], "what was earned before");
}

#[test]
fn a_plan_shows_whom_it_takes_entries_from() {
    let today = books();
    let rehearsal = rehearse(&today, &plan(&today, "4 fate merge 3"));
    let put = rehearsal.effects.presented(AccountId(3), &today.activity);
    assert_eq!(put, [AccountId(3), AccountId(4)]);
    let none = rehearse(&today, &Plan::default());
    assert_eq!(none.effects.presented(AccountId(3), &today.activity), [AccountId(3)]);
}

proptest! {
    /// Sums of many ends in one pass are those of each end on its own.
    #[test]
    fn nets_at_ends_are_the_figures_to_each(
        lines in proptest::collection::vec((1..5i64, 0..1500i32, -900..900i64), 1..40),
        ends in proptest::collection::vec(0..1600i32, 1..6),
    ) {
        let day = |n: i32| Date::from_julian_day(2_459_600 + n).unwrap();
        let mut by_strand: BTreeMap<i64, Vec<(Date, i64)>> = BTreeMap::new();
        for (id, n, amount) in lines {
            by_strand.entry(id).or_default().push((day(n), amount));
        }
        // Two strands each are presented by one account.
        let strands = by_strand.iter().map(|(id, lines)| strand(*id, id / 2 + 1, lines));
        let activity = Activity::new(strands);
        let ends: Vec<_> = ends.into_iter().map(|n| period(day(n))).collect();
        let nets = activity.nets_at(&ends);
        for (at, end) in ends.iter().enumerate() {
            for (account, figures) in activity.figures_to(*end) {
                prop_assert_eq!(nets[&account][at], figures.net());
            }
        }
    }

    /// Columns end at the month that is asked for, do not overlap, and those of earlier years have as many months.
    #[test]
    fn columns_stand_one_behind_the_other(
        n in 0..1500i32,
        span in prop::sample::select(Span::ALL.to_vec()),
        beside in prop::sample::select(Beside::ALL.to_vec()),
        count in 1..12usize,
    ) {
        let last = period(Date::from_julian_day(2_459_600 + n).unwrap());
        let columns = Columns { last, span, beside, count };
        let months: Vec<Months> = columns.months(Some(period(date!(1990 - 02 - 01))));
        prop_assert_eq!(months.len(), count.min(MOST));
        prop_assert_eq!(months[0].last, last);
        for pair in months.windows(2) {
            prop_assert!(pair[1].last < pair[0].first);
            prop_assert!(pair[1].first <= pair[1].last);
            match beside {
                Beside::EarlierYears => {
                    prop_assert_eq!(pair[0].last.0 - pair[1].last.0, 12);
                    prop_assert_eq!(pair[0].count(), pair[1].count());
                }
                // No month is left out between them.
                Beside::Before => prop_assert_eq!(pair[1].last.0 + 1, pair[0].first.0),
            }
        }
    }
}
