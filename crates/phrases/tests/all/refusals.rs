//! What is said where something cannot be done.

use time::macros::date;
use zf_core::chart::Class;
use zf_core::code::{Code, Interval};
use zf_core::money::Currency;
use zf_core::numbering::pieces::NoSuchPiece;
use zf_core::numbering::rules::NoNewCode;
use zf_core::people::{DateForm, Forms, NumberForm};
use zf_core::rollback::Blocker;
use zf_intake::balances::CannotOpen;
use zf_phrases::Style;
use zf_phrases::intake::cannot_open;
use zf_phrases::numbering::no_new_code;
use zf_phrases::rollback::blocker;

const POINTS: Style = Style(Forms { dates: DateForm::Points, numbers: NumberForm::PointComma });

fn code(text: &str) -> Code {
    Code::parse(text).unwrap()
}

#[test]
fn a_code_that_a_rule_cannot_find_says_what_stopped_it() {
    let counted = no_new_code(&NoNewCode::NotCounted(code("CASH")));
    assert_eq!(counted, "CASH does not end in a number that could be counted up");
    let blocks = vec![
        Interval::new(code("7000"), code("7009")).unwrap(),
        Interval::new(code("7020"), code("7020")).unwrap(),
    ];
    let room = no_new_code(&NoNewCode::NoRoom(blocks));
    assert_eq!(room, "there is no room left for it in 7000 to 7009, 7020");
    let block = no_new_code(&NoNewCode::NoBlock(Class::Asset));
    assert_eq!(block, "the numbering scheme has no block for asset");
    let piece = no_new_code(&NoNewCode::NoPiece(NoSuchPiece::Segment(2)));
    assert_eq!(piece, "it has no segment 2");
}

#[test]
fn balances_that_cannot_open_the_books_say_by_how_much_or_since_when() {
    let euro = Currency::parse("EUR").unwrap();
    let gap = |style| cannot_open(&CannotOpen::Gap(123_456), euro, style);
    assert!(gap(Style::default()).starts_with("debits and credits differ by 1,234.56;"));
    assert!(gap(POINTS).starts_with("debits and credits differ by 1.234,56;"));
    let opened = CannotOpen::Opened(date!(2026 - 01 - 31));
    let opened = |style| cannot_open(&opened, euro, style);
    assert_eq!(opened(Style::default()), "the books were opened as of 31 Jan 2026 before");
    assert_eq!(opened(POINTS), "the books were opened as of 31.01.2026 before");
}

#[test]
fn what_was_built_on_a_file_is_named() {
    let lines = |lines| Blocker::OtherLines { account: "5010 Coal".to_owned(), lines };
    let said = |lines_of, style| blocker(&lines(lines_of), style);
    assert_eq!(said(1, Style::default()), "5010 Coal has 1 line of other files.");
    assert_eq!(said(2_583, Style::default()), "5010 Coal has 2,583 lines of other files.");
    assert_eq!(said(2_583, POINTS), "5010 Coal has 2.583 lines of other files.");
    let applied = Blocker::Applied { plan: "Fuel".to_owned(), account: "5010 Coal".to_owned() };
    assert!(blocker(&applied, POINTS).ends_with("undo it first."), "it says the way out");
}
