//! The statements: each amount under one item once, tied to the trial balance, in every reading.

use crate::books::{account, calendar, period, plan, railway, strand, today};
use crate::trials::trials_roll;
use std::collections::BTreeMap;
use time::Date;
use time::macros::date;
use zf_core::activity::{Activity, Closings};
use zf_core::chart::{Chart, Class};
use zf_core::ids::{AccountId, ItemId, StrandId};
use zf_core::items::{ItemEdit, carry_out};
use zf_core::plan::Plan;
use zf_core::rehearsal::{Rehearsal, rehearse};
use zf_core::reports::beside;
use zf_core::reports::columns::{Beside, Columns, Months, Span};
use zf_core::reports::draw;
use zf_core::reports::moved::{earlier_changes, moved};
use zf_core::reports::reading::{Place, Read, Reading};
use zf_core::reports::rounding::{left_over, rounded};
use zf_core::reports::statement::{RowKind, RowName, Statement, StatementKind};
use zf_core::reports::ties::ties;
use zf_core::statement::{Operand, Section, Structure, Term};
use zf_core::today::Today;
use zf_phrases::{Style, reports};

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
    &rows.find(|row| reports::row(&row.name) == label).unwrap().amounts
}

/// Draws statements in a reading and checks that every total is tied.
fn drawn(
    today: &Today,
    rehearsal: &Rehearsal,
    reading: Reading,
    columns: &[Months],
) -> [Statement; 2] {
    let read = Read::new(today, rehearsal, reading, columns);
    let statements = draw(&read);
    let ties = ties(&read, &statements);
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
                sum(RowKind::Item, None) + sum(RowKind::Result, None),
                sum(RowKind::Total, None)
            );
            let of_accounts = statement.rows.iter().flat_map(|row| &row.accounts);
            assert_eq!(of_accounts.map(|a| a.amounts[at]).sum::<i128>(), sum(RowKind::Item, None));
        }
    }
    let read = |reading| Read::new(today, rehearsal, reading, &columns);
    for reading in Reading::ALL {
        trials_roll(&read(*reading));
    }
    moves_say_all(&read(Reading::AsPosted), &read(Reading::AsItIs));
    moves_say_all(&read(Reading::AsItIs), &read(Reading::AsPlanned));
}

/// What stands on each line of statements, in each column.
fn by_place(statements: &[Statement]) -> BTreeMap<Place, Vec<i128>> {
    let rows = statements.iter().flat_map(|statement| &statement.rows);
    let lines = rows.filter(|row| row.kind == RowKind::Item);
    let place = |class, item| Place { class, item };
    lines.map(|row| (place(row.class.unwrap(), row.item), row.amounts.clone())).collect()
}

/// What the one reading says of every line, less what leaves it, with what comes to it, is what the other says; and
/// where nothing moves no line of an earlier column changed.
fn moves_say_all(one: &Read<'_>, other: &Read<'_>) {
    let (before, after) = (draw(one), draw(other));
    let mut lines = by_place(&before);
    let moved = moved(one, other);
    for moved in &moved {
        for (place, amounts, sign) in [(moved.from, &moved.leaves, -1), (moved.to, &moved.comes, 1)]
        {
            let sums = lines.entry(place).or_insert_with(|| vec![0; amounts.len()]);
            sums.iter_mut().zip(amounts).for_each(|(sum, amount)| *sum += sign * amount);
        }
    }
    lines.retain(|_, amounts| amounts.iter().any(|amount| *amount != 0));
    let mut said = by_place(&after);
    said.retain(|_, amounts| amounts.iter().any(|amount| *amount != 0));
    assert_eq!(lines, said);
    if moved.is_empty() {
        assert_eq!(earlier_changes(&before, &after), 0);
    }
}

/// A bank and three kinds of costs, over two fiscal years.
pub(crate) fn books() -> Today {
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
    let mut names = statements[0].rows.iter().map(|row| &row.name);
    assert!(!names.any(|name| *name == RowName::EarlierResults));
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
    let read = |reading| Read::new(&railway, &rehearsal, reading, &columns);
    let moved = moved(&read(Reading::AsItIs), &read(Reading::AsPlanned));
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
    let top = statements[1].rows.iter().find(|row| reports::row(&row.name) == "Expenses").unwrap();
    assert_eq!((top.kind, top.level, top.shown_as), (RowKind::Heading, 0, -1));
    let length = statements[1].length();
    assert_eq!((length.items, length.accounts, length.pages), (1, 3, 1));
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
    let costs =
        statements[1].rows.iter().find(|row| reports::row(&row.name) == "Total expenses").unwrap();
    assert_eq!(statements[1].difference(costs, &columns), None, "2 months are no year");
    let same = Columns { last, span: Span::Year, beside: Beside::EarlierYears, count: 2 };
    let same = same.months(today.activity.first());
    let statements = drawn(&today, &bare, Reading::AsItIs, &same);
    let costs =
        statements[1].rows.iter().find(|row| reports::row(&row.name) == "Total expenses").unwrap();
    let shrank = statements[1].difference(costs, &same).unwrap();
    assert_eq!(
        (shrank.amount, shrank.tenths),
        (-650, Some(929)),
        "costs shrank from −7.00 to −0.50"
    );
    for statement in &statements {
        for row in &statement.rows {
            let told = statement.difference(row, &same);
            let shown = told.map(|told| told.amount * i128::from(row.shown_as));
            let tenths = told.and_then(|told| told.tenths).map(i128::from);
            assert!(
                shown.zip(tenths).is_none_or(|(shown, tenths)| shown * tenths >= 0),
                "one rule of sign for {}",
                reports::row(&row.name)
            );
        }
    }
}

#[test]
fn columns_hold_the_months_that_they_say() {
    let ends = |span, beside, until: Date| -> Vec<String> {
        let columns = Columns { last: period(until), span, beside, count: 3 };
        let months = columns.months(Some(period(date!(2020 - 02 - 01))));
        months.iter().map(|months| reports::column(months, calendar(), Style::default())).collect()
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
    assert_eq!(named(&statements[1..], "Without a statement item")[0], 4_000);
}

/// A chart whose lines are changed.
fn with_items(today: Today, edits: &[ItemEdit]) -> Today {
    let (lines, said) = carry_out(edits, &today.chart).unwrap();
    assert_eq!(said.len(), edits.len());
    Today { chart: Chart::under(lines, today.chart.iter().cloned()), ..today }
}

fn line(today: &Today, name: &str) -> ItemId {
    today.chart.structure().items().find(|line| line.name == name).unwrap().id
}

#[test]
fn a_balance_on_the_other_side_stands_on_the_line_that_is_named_for_it() {
    let structure = Structure::default();
    let bank = |id, code| {
        let mut bank = account(id, code, "Bank", Class::Asset);
        bank.caption = structure.of_standard(Class::Asset, Section::Cash);
        bank
    };
    let loss = account(5, "1090", "Written off", Class::Asset);
    let chart = Chart::new([
        bank(1, "1010"),
        bank(2, "1020"),
        account(3, "4010", "Fares", Class::Income),
        loss,
    ]);
    let (then, now) = (date!(2025 - 03 - 01), date!(2026 - 03 - 01));
    let activity = Activity::new([
        strand(1, 1, &[(then, 100), (now, -300)]),
        strand(2, 2, &[(then, 500)]),
        strand(3, 3, &[(then, -600), (now, 300)]),
    ]);
    let books = today(chart, activity);
    let (cash, loans) = (line(&books, "cash and cash equivalents"), line(&books, "borrowings"));
    let books = with_items(books, &[ItemEdit::NameOtherSide { item: cash, other: Some(loans) }]);
    let rehearsal = rehearse(&books, &plan(&books, "1 fate merge 2"));
    must_tie(&books, &rehearsal);
    let columns = years(&books);
    let is = drawn(&books, &rehearsal, Reading::AsItIs, &columns);
    assert_eq!(named(&is, "cash and cash equivalents"), [500, 600]);
    assert_eq!(named(&is, "borrowings"), [-200, 0], "an overdraft is owed");
    assert_eq!(named(&is, "Total assets"), [500, 600]);
    let planned = drawn(&books, &rehearsal, Reading::AsPlanned, &columns);
    assert_eq!(
        named(&planned, "cash and cash equivalents"),
        [300, 600],
        "together they are in credit"
    );
    let read = |reading| Read::new(&books, &rehearsal, reading, &columns);
    let moved = moved(&read(Reading::AsItIs), &read(Reading::AsPlanned));
    assert_eq!(moved.len(), 1);
    assert_eq!((moved[0].from.item, moved[0].to.item), (Some(loans), Some(cash)));
    assert_eq!((&*moved[0].leaves, moved[0].lines), (&[-200, 0][..], 2));
}

#[test]
fn subtotals_and_ratios_are_calculated_from_the_rows_that_they_name() {
    let railway = railway();
    let costs = line(&railway, "cost of sales");
    let plus = |of| Term { of, taken_off: false };
    let add = |class, name: &str, ratio, terms: &[Term]| ItemEdit::AddCalculated {
        class,
        name: name.to_owned(),
        before: None,
        ratio,
        terms: terms.to_vec(),
    };
    let income = Operand::Class(Class::Income);
    let gross = ItemId(railway.chart.structure().next_id().0);
    let less = Term { of: Operand::Class(Class::Liability), taken_off: true };
    let edits = [
        add(Class::Expense, "Gross result", false, &[plus(income), plus(Operand::Item(costs))]),
        add(
            Class::Expense,
            "Twice",
            false,
            &[plus(Operand::Item(gross)), plus(Operand::Item(gross))],
        ),
        add(
            Class::Expense,
            "Of costs",
            true,
            &[plus(Operand::Item(gross)), plus(Operand::Item(costs))],
        ),
        add(Class::Expense, "Of nothing", true, &[plus(Operand::Item(costs)), plus(income)]),
        add(Class::Liability, "Net assets", false, &[plus(Operand::Class(Class::Asset)), less]),
    ];
    let books = with_items(railway, &edits);
    let bare = rehearse(&books, &Plan::default());
    must_tie(&books, &bare);
    let statements = drawn(&books, &bare, Reading::AsItIs, &years(&books));
    let row = |name: &str| {
        let mut rows = statements.iter().flat_map(|statement| &statement.rows);
        rows.find(|row| reports::row(&row.name) == name).unwrap()
    };
    let [fares, spent] = ["Total income", "cost of sales"].map(|name| named(&statements, name)[0]);
    assert_eq!((row("Gross result").amounts[0], row("Gross result").shown_as), (fares + spent, -1));
    assert_eq!(row("Twice").amounts[0], 2 * (fares + spent));
    assert_eq!(row("Of costs").ratios[0], Some((fares + spent) as i64 * 1000 / spent as i64));
    assert_eq!(row("Of nothing").ratios[0].is_none(), fares == 0);
    let [assets, debts] =
        ["Total assets", "Total liabilities"].map(|name| named(&statements, name)[0]);
    // What is owed is shown as more than nothing, and taken off.
    assert_eq!((row("Net assets").amounts[0], row("Net assets").shown_as), (assets + debts, 1));
    let place = |name: &str| {
        statements[1].rows.iter().position(|row| reports::row(&row.name) == name).unwrap()
    };
    assert!(
        place("Gross result") > place("Total expenses"),
        "behind the last line, below the total"
    );

    let moved = ItemEdit::Move { item: gross, before: Some(costs) };
    let books = with_items(books, &[moved]);
    let statements = drawn(&books, &bare, Reading::AsItIs, &years(&books));
    let place = |name: &str| {
        statements[1].rows.iter().position(|row| reports::row(&row.name) == name).unwrap()
    };
    assert!(place("Gross result") < place("cost of sales"));
    assert_eq!(named(&statements, "Total expenses")[0], spent, "it is not added up again");

    let refused = |edit: ItemEdit| carry_out(&[edit], &books.chart).unwrap_err().to_string();
    let circle = [plus(Operand::Item(ItemId(gross.0 + 1)))];
    assert!(
        refused(ItemEdit::Calculate { item: gross, terms: circle.to_vec() }).contains("itself")
    );
    assert!(
        refused(ItemEdit::Calculate { item: costs, terms: vec![plus(income)] })
            .contains("no such item")
    );
    let ratio = plus(Operand::Item(ItemId(gross.0 + 3)));
    assert!(refused(ItemEdit::Calculate { item: gross, terms: vec![ratio] }).contains("cannot be"));
    let none = || Vec::new();
    assert!(refused(ItemEdit::Calculate { item: gross, terms: none() }).contains("1 to 50"));
    let other = ItemEdit::NameOtherSide { item: costs, other: None };
    assert!(refused(other).contains("balance sheet"));
}

#[test]
fn two_readings_stand_beside_each_other_without_losing_a_row_or_an_account() {
    let today = books();
    let rehearsal = rehearse(&today, &plan(&today, "2 class asset; 4 fate merge 3"));
    let columns = years(&today);
    let of = |reading| drawn(&today, &rehearsal, reading, &columns);
    let (is, planned) = (of(Reading::AsItIs), of(Reading::AsPlanned));
    for (one, other) in is.iter().zip(&planned) {
        let pairs = beside::rows(one, other);
        assert!(pairs.iter().filter_map(|pair| pair.one).eq(&one.rows));
        let others = pairs.iter().filter_map(|pair| pair.other);
        assert_eq!(others.count(), other.rows.len());
        for pair in &pairs {
            let accounts = beside::accounts(pair);
            let of = |row: Option<&zf_core::reports::statement::Row>| {
                row.map_or(0, |row| row.accounts.len())
            };
            let [ones, others] = [of(pair.one), of(pair.other)];
            assert_eq!(accounts.iter().filter(|pair| pair.one.is_some()).count(), ones);
            assert_eq!(accounts.iter().filter(|pair| pair.other.is_some()).count(), others);
        }
    }
}

#[test]
fn the_months_of_an_account_add_up_to_its_columns() {
    let today = books();
    let bare = rehearse(&today, &Plan::default());
    let columns = years(&today);
    let read = Read::new(&today, &bare, Reading::AsItIs, &columns);
    let costs = read.months(AccountId(3));
    assert_eq!(costs.len(), 1);
    let sums: Vec<i128> =
        costs[0].columns.iter().map(|months| months.iter().map(|(_, sum)| sum).sum()).collect();
    assert_eq!(sums, [50, 200]);
    let bank = read.months(AccountId(1)).remove(0);
    let ends: Vec<i128> = bank.columns.iter().map(|months| months.last().unwrap().1).collect();
    assert_eq!(ends, [-750, -700], "a balance is what stands at the end of the latest month");
    assert_eq!(bank.columns[1].len(), 12);
    assert!(read.months(AccountId(99)).is_empty());
}

#[test]
fn thousands_are_rounded_from_the_exact_figures_and_what_is_left_over_is_told() {
    let cases = [(1_499, 1_000, 1), (1_500, 1_000, 2), (-1_500, 1_000, -2), (499, 1_000, 0)];
    for (amount, unit, to) in cases {
        assert_eq!(rounded(amount, unit), to);
    }
    let chart = Chart::new([
        account(1, "1010", "Bank", Class::Asset),
        account(2, "4010", "Fares", Class::Income),
        account(3, "2010", "Loan", Class::Liability),
    ]);
    let day = date!(2026 - 03 - 01);
    let activity = Activity::new([
        strand(1, 1, &[(day, 2_800)]),
        strand(2, 2, &[(day, -1_400)]),
        strand(3, 3, &[(day, -1_400)]),
    ]);
    let books = today(chart, activity);
    let bare = rehearse(&books, &Plan::default());
    let [balance, income] = drawn(&books, &bare, Reading::AsItIs, &years(&books));
    assert!(left_over(&income, 1_000).is_empty());
    let over = left_over(&balance, 1_000);
    assert_eq!(over.len(), 1, "3 of assets, and twice 1 of what they are owed to");
    assert_eq!(
        (&over[0].name, over[0].column, over[0].by),
        (&RowName::Whole(StatementKind::BalanceSheet), 0, 1)
    );
    assert!(left_over(&balance, 1).is_empty());
}
