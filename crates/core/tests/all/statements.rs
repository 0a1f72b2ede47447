//! The statements: each amount on one line once, tied to the trial balance, in every reading.

use crate::books::{account, calendar, period, plan, railway, strand, today};
use std::collections::BTreeMap;
use time::Date;
use time::macros::date;
use zf_core::activity::{Activity, Closings};
use zf_core::chart::{Chart, Class};
use zf_core::ids::{AccountId, StrandId};
use zf_core::plan::Plan;
use zf_core::rehearsal::{Rehearsal, rehearse};
use zf_core::reports::columns::{Beside, Columns, Months, Span};
use zf_core::reports::moved::{earlier_changes, moved};
use zf_core::reports::statement::{Reading, RowKind, Statement, draw};
use zf_core::reports::ties::ties;
use zf_core::statement::Structure;
use zf_core::today::Today;

/// The latest fiscal years of books.
pub(crate) fn years(today: &Today) -> Vec<Months> {
    let last = today.activity.last().unwrap();
    let columns = Columns { last, span: Span::Year, beside: Beside::Before, count: 8 };
    columns.months(today.activity.first())
}

/// What each account stands at, by code.
fn by_code(statements: &[Statement]) -> BTreeMap<String, Vec<i128>> {
    let rows = statements.iter().flat_map(|statement| &statement.rows);
    let accounts = rows.flat_map(|row| &row.accounts);
    accounts.map(|account| (account.code.clone(), account.amounts.clone())).collect()
}

fn named<'a>(statements: &'a [Statement], label: &str) -> &'a [i128] {
    let mut rows = statements.iter().flat_map(|statement| &statement.rows);
    &rows.find(|row| row.label == label).unwrap().amounts
}

/// Draws statements in a reading and checks that every total is tied.
fn drawn(
    today: &Today,
    rehearsal: &Rehearsal,
    reading: Reading,
    columns: &[Months],
) -> [Statement; 2] {
    let statements = draw(today, rehearsal, reading, columns);
    let ties = ties(today, rehearsal, reading, &statements, columns);
    assert!(ties.iter().all(|tie| tie.difference == 0), "{reading:?} {ties:?}");
    assert!(!ties.is_empty());
    statements
}

/// What must be true of the statements of any books and any rehearsal.
pub(crate) fn must_tie(today: &Today, rehearsal: &Rehearsal) {
    let columns = years(today);
    let of = |reading| drawn(today, rehearsal, reading, &columns);
    let (is, planned) = (of(Reading::AsItIs), of(Reading::AsPlanned));
    of(Reading::AsPosted);
    for statement in is.iter().chain(&planned) {
        for at in 0..columns.len() {
            let sum = |kind: RowKind, level: Option<usize>| -> i128 {
                let rows = statement.rows.iter().filter(|row| row.kind == kind);
                let rows = rows.filter(|row| level.is_none_or(|level| row.level == level));
                rows.filter(|row| row.class.is_some()).map(|row| row.amounts[at]).sum()
            };
            // Lines and results are each in one total, and nothing else is.
            assert_eq!(
                sum(RowKind::Line, None) + sum(RowKind::Result, None),
                sum(RowKind::Total, None)
            );
            let of_accounts = statement.rows.iter().flat_map(|row| &row.accounts);
            assert_eq!(of_accounts.map(|a| a.amounts[at]).sum::<i128>(), sum(RowKind::Line, None));
        }
    }
    // What differs between the two is what is said to move, or stays on its line.
    if moved(today, rehearsal, &columns).is_empty() {
        assert_eq!(earlier_changes(&is, &planned), 0);
    }
}

fn books() -> Today {
    let rows = [(1, "1010"), (2, "5010"), (3, "5020"), (4, "5030")];
    let class = |id| if id == 1 { Class::Asset } else { Class::Expense };
    let chart = Chart::new(rows.map(|(id, code)| account(id, code, "Row", class(id))));
    let (then, now) = (date!(2025 - 03 - 01), date!(2026 - 03 - 01));
    let activity = Activity::new([
        strand(1, 1, &[(then, -700), (now, -50)]),
        strand(2, 2, &[(then, 400)]),
        strand(3, 3, &[(then, 200), (now, 50)]),
        strand(4, 4, &[(then, 100)]),
    ]);
    today(chart, activity)
}

fn planned(words: &str) -> BTreeMap<String, Vec<i128>> {
    let today = books();
    let rehearsal = rehearse(&today, &plan(&today, words));
    must_tie(&today, &rehearsal);
    by_code(&drawn(&today, &rehearsal, Reading::AsPlanned, &years(&today)))
}

#[test]
fn who_had_amounts_in_a_year_is_there_archived_or_not_and_a_merge_restates_every_year() {
    let as_is = planned("");
    assert_eq!(as_is["5010"], [0, 400]);
    assert_eq!(planned("2 fate archive"), as_is);
    assert_eq!(planned("2 fate deactivate"), as_is);
    let merged = planned("4 fate merge 3");
    assert_eq!(merged["5020"], [50, 300]);
    assert_eq!(merged.get("5030"), None);
    assert_eq!(merged["1010"], [-750, -700]);
}

#[test]
fn results_stand_in_equity_until_a_closing_entry_brings_them_there() {
    let (then, closed) = (date!(2025 - 03 - 01), date!(2026 - 01 - 31));
    let chart = Chart::new([
        account(1, "1010", "Bank", Class::Asset),
        account(2, "3010", "Kept", Class::Equity),
        account(3, "4010", "Fares", Class::Income),
    ]);
    let now = date!(2026 - 03 - 01);
    let activity = Activity::new([
        strand(1, 1, &[(then, 900), (now, 40)]),
        strand(2, 2, &[(closed, -900)]),
        strand(3, 3, &[(then, -900), (closed, 900), (now, -40)]),
    ]);
    let open = today(chart, activity);
    let bare = rehearse(&open, &Plan::default());
    let columns = years(&open);
    let without = drawn(&open, &bare, Reading::AsItIs, &columns);
    assert_eq!(named(&without, "Total income"), [-40, 0], "what is not known to close counts");

    let closings = Closings::from([(StrandId(3), BTreeMap::from([(period(closed), 900)]))]);
    let books = Today { activity: open.activity.clone().with_closings(closings), ..open };
    let statements = drawn(&books, &bare, Reading::AsItIs, &columns);
    assert_eq!(named(&statements, "Total income"), [-40, -900]);
    assert_eq!(named(&statements, "Result of the year"), [-40, 0], "that year is closed");
    assert_eq!(named(&statements, "Total equity"), [-940, -900]);
    let labels: Vec<&str> = statements[0].rows.iter().map(|row| &*row.label).collect();
    assert!(!labels.contains(&"Results of earlier years"), "{labels:?}");
}

#[test]
fn a_history_is_read_as_it_was_posted_and_as_it_is() {
    let railway = railway();
    let rehearsal = rehearse(&railway, &plan(&railway, "5010 class asset"));
    let columns = years(&railway);
    let is = drawn(&railway, &rehearsal, Reading::AsItIs, &columns);
    let planned = drawn(&railway, &rehearsal, Reading::AsPlanned, &columns);
    // The strands of these books were posted to accounts that were assets then, whatever they are now.
    let posted = drawn(&railway, &rehearsal, Reading::AsPosted, &columns);
    assert!(named(&posted, "Total expenses").iter().all(|sum| *sum == 0));
    assert_eq!(named(&is, "Total expenses")[0] - named(&planned, "Total expenses")[0], 3_000);
    let moved = moved(&railway, &rehearsal, &columns);
    assert_eq!(moved.len(), 1);
    assert_eq!((moved[0].from.class, moved[0].to.class), (Class::Expense, Class::Asset));
    assert_eq!((moved[0].from_account, moved[0].lines), (AccountId(5010), 2));
    assert!(earlier_changes(&is, &planned) > 0);
    must_tie(&railway, &rehearsal);
}

#[test]
fn headings_say_what_is_under_them() {
    let railway = railway();
    let bare = rehearse(&railway, &Plan::default());
    let statements = drawn(&railway, &bare, Reading::AsItIs, &years(&railway));
    assert_eq!(named(&statements, "cost of sales")[0], 4_000);
    assert_eq!(named(&statements, "Expenses"), named(&statements, "cost of sales"));
    let top = statements[1].rows.iter().find(|row| row.label == "Expenses").unwrap();
    assert_eq!((top.kind, top.level, top.shown_as), (RowKind::Heading, 0, -1));
    let length = statements[1].length();
    assert_eq!((length.lines, length.accounts, length.pages), (1, 3, 1));
}

#[test]
fn what_grew_is_said_where_as_many_months_stand_beside_each_other() {
    let today = books();
    let bare = rehearse(&today, &Plan::default());
    let last = today.activity.last().unwrap();
    let change = |beside, kind: usize| {
        let columns = Columns { last, span: Span::Year, beside, count: 2 };
        let columns = columns.months(today.activity.first());
        let statements = drawn(&today, &bare, Reading::AsItIs, &columns);
        let row = statements[kind].rows.iter().find(|row| row.kind == RowKind::Total).unwrap();
        statements[kind].difference(row, &columns).map(|it| (it.amount, it.tenths))
    };
    assert_eq!(change(Beside::Before, 0), Some((-50, Some(-71))), "7.1% less stands on the assets");
    assert_eq!(change(Beside::Before, 1), None, "nothing was earned");
    let columns = years(&today);
    let statements = drawn(&today, &bare, Reading::AsItIs, &columns);
    let costs = statements[1].rows.iter().find(|row| row.label == "Total expenses").unwrap();
    assert_eq!(statements[1].difference(costs, &columns), None, "2 months are no year");
    let same = Columns { last, span: Span::Year, beside: Beside::EarlierYears, count: 2 };
    let same = same.months(today.activity.first());
    let statements = drawn(&today, &bare, Reading::AsItIs, &same);
    let costs = statements[1].rows.iter().find(|row| row.label == "Total expenses").unwrap();
    let shrank = statements[1].difference(costs, &same).unwrap();
    assert_eq!((shrank.amount, shrank.tenths), (-650, Some(-929)), "costs shrank from 700 to 50");
}

#[test]
fn columns_hold_the_months_that_they_say() {
    let ends = |span, beside, until: Date| -> Vec<String> {
        let columns = Columns { last: period(until), span, beside, count: 3 };
        let months = columns.months(Some(period(date!(2020 - 02 - 01))));
        months.iter().map(|months| months.label(calendar())).collect()
    };
    let until = date!(2026 - 10 - 31);
    let labels =
        ["9 months to 31 Oct 2026", "12 months to 31 Jan 2026", "12 months to 31 Jan 2025"];
    assert_eq!(ends(Span::Year, Beside::Before, until), labels);
    let labels = ["9 months to 31 Oct 2026", "9 months to 31 Oct 2025", "9 months to 31 Oct 2024"];
    assert_eq!(ends(Span::Year, Beside::EarlierYears, until), labels);
    let labels = ["3 months to 31 Oct 2026", "3 months to 31 Jul 2026", "3 months to 30 Apr 2026"];
    assert_eq!(ends(Span::Quarter, Beside::Before, until), labels);
    let labels = ["2 months to 30 Sep 2026", "2 months to 30 Sep 2025", "2 months to 30 Sep 2024"];
    assert_eq!(ends(Span::Quarter, Beside::EarlierYears, date!(2026 - 09 - 30)), labels);
    let labels = ["month to 31 Oct 2026", "month to 30 Sep 2026", "month to 31 Aug 2026"];
    assert_eq!(ends(Span::Month, Beside::Before, until), labels);
    let labels =
        ["12 months to 31 Oct 2026", "12 months to 31 Oct 2025", "12 months to 31 Oct 2024"];
    assert_eq!(ends(Span::TwelveMonths, Beside::Before, until), labels);

    let columns =
        Columns { last: period(until), span: Span::Month, beside: Beside::Before, count: 8 };
    assert_eq!(
        columns.months(Some(period(date!(2026 - 09 - 01)))).len(),
        2,
        "none before the first lines"
    );
    assert_eq!(columns.months(None).len(), 1);
}

#[test]
fn what_stands_on_a_line_that_the_statements_do_not_have_is_not_lost() {
    let railway = railway();
    let bare = Chart::under(Structure::new([]), railway.chart.iter().cloned());
    let books = Today { chart: bare, ..railway };
    let rehearsal = rehearse(&books, &Plan::default());
    let statements = drawn(&books, &rehearsal, Reading::AsItIs, &years(&books));
    assert_eq!(named(&statements[1..], "On no line of the statements")[0], 4_000);
}
