//! What is said of files follows the forms of whoever imports them.

use time::macros::date;
use zf_core::chart::Status;
use zf_core::money::Currency;
use zf_core::people::{DateForm, Forms, NumberForm};
use zf_intake::cause::Cause;
use zf_intake::question::{Asks, Explained, Gives};
use zf_intake::rows::Place;
use zf_phrases::Style;
use zf_phrases::intake::{gives, question, sentence};

const POINTS: Style = Style(Forms { dates: DateForm::Points, numbers: NumberForm::PointComma });

fn euro() -> Currency {
    Currency::parse("EUR").unwrap()
}

#[test]
fn days_amounts_and_counts_are_written_as_their_reader_has_chosen() {
    let gap = Cause::EntryUnbalanced { entry: "J-1".to_owned(), gap: -123_456, currency: euro() };
    let late = Cause::AccountRetired {
        account: "5010 Coal".to_owned(),
        status: Status::Archived,
        from: date!(2026 - 05 - 31),
        left_out: true,
    };
    let said = |style| {
        let rows = gives(&Gives::Rows(2_583), style);
        format!("{}|{}|{rows}", sentence(&gap, style), sentence(&late, style))
    };
    assert_eq!(
        said(Style::default()),
        "entry J-1 does not balance: its credits are 1,234.56 too much|\
         5010 Coal is archived from 31 May 2026; left out, as you said|2,583 rows"
    );
    assert_eq!(
        said(POINTS),
        "entry J-1 does not balance: its credits are 1.234,56 too much|\
         5010 Coal is archived from 31.05.2026; left out, as you said|2.583 rows"
    );
}

#[test]
fn one_row_is_said_otherwise_than_several() {
    let first = || Place { sheet: Some("2026".to_owned()), row: 7 };
    let hidden = |rows| sentence(&Cause::HiddenRows { first: first(), rows }, Style::default());
    assert!(hidden(1).starts_with("row 7 of “2026” is hidden"), "{}", hidden(1));
    assert!(hidden(2).starts_with("2 rows, from row 7 of “2026” on, are hidden"), "{}", hidden(2));
    let from = |accounts| question(&Asks::StatusFrom(accounts), Style::default());
    assert!(from(1).starts_with("1 account is in"), "{}", from(1));
    assert!(from(2).starts_with("2 accounts are in"), "{}", from(2));
}

#[test]
fn a_difference_says_which_side_is_too_much_and_all_that_may_explain_it() {
    let row = |number| vec![(Place { sheet: None, row: number }, "1010 Bank".to_owned())];
    let asked = |gap, explained| {
        question(&Asks::Difference { gap, currency: euro(), explained }, Style::default())
    };
    assert_eq!(
        asked(-900, Vec::new()),
        "The credits are 9.00 too much. Nothing in the file explains it by itself."
    );
    let both = asked(900, vec![Explained::WrongSide(row(4)), Explained::Swapped]);
    assert_eq!(
        both,
        "The debits are 9.00 too much. row 4 (1010 Bank) has half of it, and may stand on the wrong \
         side. It can be divided by nine, as after two digits that were swapped."
    );
}

#[test]
fn of_many_sheets_the_first_are_named() {
    let asked = |names: &[&str]| {
        let names = names.iter().map(|name| (*name).to_owned()).collect();
        question(&Asks::Sheets(names), Style::default())
    };
    assert!(asked(&["A", "B", "C", "D"]).starts_with("The sheets “A”, “B”, “C”, “D” have"));
    assert!(asked(&["A", "B", "C", "D", "E"]).starts_with("The sheets “A”, “B”, “C”, 2 more have"));
}
