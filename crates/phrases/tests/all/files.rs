//! What became of the rows of a file, and what those of a crosswalk do.

use std::collections::BTreeSet;
use zf_core::chart::{Account, Chart, Class};
use zf_core::code::Code;
use zf_core::ids::AccountId;
use zf_core::plan::Fate;
use zf_core::plan::texts::NotAText;
use zf_intake::crosswalk::Crossing;
use zf_intake::items::NotListed;
use zf_intake::reason::Reason;
use zf_intake::row_kind::RowKind;
use zf_intake::rows::Place;
use zf_intake::zero::LeftOut;
use zf_phrases::intake::{crossing, kind, left_out, not_listed, place, title};

fn code(text: &str) -> Code {
    Code::parse(text).unwrap()
}

fn chart() -> Chart {
    let account = |id, text: &str, name: &str| {
        Account::new(AccountId(id), code(text), name.to_owned(), Class::Expense)
    };
    Chart::new([account(1, "5010", "Coal"), account(2, "5020", "Firewood")])
}

/// A row of a crosswalk for the first account, that asks for nothing.
fn stays() -> Crossing {
    Crossing {
        row: 2,
        account: AccountId(1),
        code: code("5010"),
        new_code: code("5010"),
        new_name: None,
        into: None,
        fate: None,
    }
}

#[test]
fn a_row_of_a_crosswalk_says_what_it_does() {
    let says = |row: Crossing| crossing(&row, &chart());
    assert_eq!(says(stays()), "stays as it is");
    let named = Some("Fuel".to_owned());
    assert_eq!(says(Crossing { new_name: named.clone(), ..stays() }), "renamed Fuel");
    let moved = Crossing { new_code: code("6010"), ..stays() };
    assert_eq!(says(moved.clone()), "becomes 6010");
    assert_eq!(says(Crossing { new_name: named, ..moved.clone() }), "becomes 6010, called Fuel");
    // What it goes into counts before the code that it would have.
    let merged = Crossing { into: Some(AccountId(2)), ..moved };
    assert_eq!(says(merged), "merged into 5020 Firewood");
    let fates = [
        (Fate::Delete, "deleted"),
        (Fate::archive(), "archived"),
        (Fate::deactivate(), "deactivated"),
        (Fate::Restore, "active again"),
    ];
    for (fate, words) in fates {
        assert_eq!(says(Crossing { fate: Some(fate), ..stays() }), words);
    }
}

#[test]
fn kinds_of_rows_and_reasons_are_told_apart_by_their_words() {
    let kinds: BTreeSet<&str> = RowKind::ALL.iter().map(|of| kind(*of)).collect();
    assert_eq!(kinds.len(), RowKind::ALL.len());
    let titles: BTreeSet<&str> = Reason::ALL.iter().map(|of| title(*of)).collect();
    assert_eq!(titles.len(), Reason::ALL.len());
}

#[test]
fn an_amount_is_left_out_for_what_its_row_is_or_was_rejected_for() {
    for of in RowKind::ALL {
        assert_eq!(left_out(LeftOut::Row(*of)), kind(*of));
    }
    for reason in Reason::ALL {
        assert_eq!(left_out(LeftOut::Rejected(*reason)), title(*reason));
    }
    let others = [LeftOut::NoAmount, LeftOut::Unused, LeftOut::Rate, LeftOut::Balance];
    let others: BTreeSet<&str> = others.into_iter().map(left_out).collect();
    assert_eq!(others.len(), 4);
}

#[test]
fn a_place_names_its_sheet_where_there_are_several() {
    assert_eq!(place(&Place { sheet: None, row: 12 }), "row 12");
    assert_eq!(place(&Place { sheet: Some("May".to_owned()), row: 12 }), "row 12 of “May”");
}

#[test]
fn a_row_of_a_list_of_items_says_which_cell_is_wrong() {
    let unknown = NotListed::ClassUnknown("Moonbeams".to_owned());
    assert_eq!(not_listed(&unknown), "“Moonbeams” is no class");
    let neither = NotListed::NeitherYesNorNo("perhaps".to_owned());
    assert_eq!(not_listed(&neither), "“perhaps” is neither yes nor no");
    assert_eq!(not_listed(&NotListed::ClassMissing), "the class is missing");
    assert_eq!(not_listed(&NotListed::Name(NotAText::EmptyName)), "the name is empty");
}
