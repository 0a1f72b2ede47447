//! What rows and columns of statements and trial balances are called.

use time::macros::date;
use zf_core::calendar::FiscalCalendar;
use zf_core::chart::Class;
use zf_core::ids::AccountId;
use zf_core::people::{DateForm, Forms, NumberForm};
use zf_core::reports::columns::Months;
use zf_core::reports::statement::{RowName, StatementKind};
use zf_core::reports::trial::{TrialColumn, TrialFigure, TrialLine};
use zf_phrases::Style;
use zf_phrases::reports::{EARLIER_RESULTS, column, row, tie, total, trial_column, trial_row};

const POINTS: Style = Style(Forms { dates: DateForm::Points, numbers: NumberForm::PointComma });

fn calendar() -> FiscalCalendar {
    FiscalCalendar::starting(2, 1).unwrap()
}

fn year() -> Months {
    let last = calendar().period_of(date!(2026 - 01 - 15));
    Months { first: last.year_start(), last }
}

#[test]
fn columns_say_how_many_months_they_hold_and_until_when() {
    let of = |months: &Months, style| column(months, calendar(), style);
    assert_eq!(of(&year(), Style::default()), "12 months to 31 Jan 2026");
    assert_eq!(of(&year(), POINTS), "12 months to 31.01.2026");
    let month = Months { first: year().last, last: year().last };
    assert_eq!(of(&month, Style::default()), "month to 31 Jan 2026");
}

#[test]
fn an_opening_is_of_the_day_before_its_months() {
    let months = year();
    let of = |figure| {
        let column = TrialColumn { figure, months, since: months.first };
        trial_column(&column, calendar(), Style::default())
    };
    assert!(of(TrialFigure::Opening).ends_with(" 31 Jan 2025"), "{}", of(TrialFigure::Opening));
    assert!(of(TrialFigure::Closing).ends_with(" 31 Jan 2026"), "{}", of(TrialFigure::Closing));
}

#[test]
fn rows_are_called_as_the_books_call_their_items_or_by_what_they_add_up() {
    assert_eq!(row(&RowName::Own("Fuel".to_owned())), "Fuel");
    assert_eq!(row(&RowName::Total(Class::Liability)), "Total liabilities");
    assert_eq!(row(&RowName::Total(Class::Equity)), total(Class::Equity));
    assert_eq!(row(&RowName::EarlierResults), EARLIER_RESULTS);
    let whole = [StatementKind::BalanceSheet, StatementKind::IncomeStatement];
    let whole = whole.map(|kind| row(&RowName::Whole(kind)));
    assert_eq!(whole, ["Assets less liabilities and equity", "Result"]);
}

#[test]
fn no_two_rows_that_nobody_named_are_called_the_same() {
    let whole = [StatementKind::BalanceSheet, StatementKind::IncomeStatement].map(RowName::Whole);
    let others = [RowName::WithoutItem, RowName::EarlierResults, RowName::ResultOfYear];
    let totals = Class::ALL.iter().map(|class| RowName::Total(*class));
    let mut names: Vec<String> = totals.chain(whole).chain(others).map(|name| row(&name)).collect();
    let all = names.len();
    names.sort();
    names.dedup();
    assert_eq!(names.len(), all, "{names:?}");
}

#[test]
fn a_total_is_tied_on_a_day_in_the_form_of_its_reader() {
    let name = RowName::Total(Class::Asset);
    assert_eq!(tie(&name, date!(2026 - 01 - 31), Style::default()), "Total assets, 31 Jan 2026");
    assert_eq!(tie(&name, date!(2026 - 01 - 31), POINTS), "Total assets, 31.01.2026");
}

#[test]
fn results_that_no_account_takes_have_a_name_of_their_own() {
    let line = |account, name: &str| TrialLine {
        account,
        code: String::new(),
        name: name.to_owned(),
        class: Class::Equity,
        amounts: Vec::new(),
    };
    assert_eq!(trial_row(&line(None, "")), EARLIER_RESULTS);
    assert_eq!(trial_row(&line(Some(AccountId(3)), "Reserves")), "Reserves");
}
