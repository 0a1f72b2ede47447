//! What is written: no column is left out, and each side of an amount stands where it belongs.

use crate::books::{account, gbp};
use std::collections::BTreeSet;
use time::macros::date;
use zf_core::chart::{Account, Chart, Class, ControlRole, Kind, Status};
use zf_core::code::Interval;
use zf_core::ids::AccountId;
use zf_core::money::Currency;
use zf_core::usage::{Named, Use};
use zf_exports::journal::{self, JournalRow};
use zf_exports::{chart, usage};

/// An account of which every setting is made.
fn settled() -> Account {
    let parent = AccountId(1);
    Account {
        parent: Some(parent),
        role: Some(ControlRole::Bank),
        contra: true,
        currency: Some(gbp()),
        description: "Bills are paid from it.".to_owned(),
        tax_code: Some("ST".to_owned()),
        intervals: Interval::parse_list("1000 to 1999").unwrap(),
        status: Status::Deactivated,
        status_from: Some(date!(2026 - 03 - 31)),
        caption: zf_core::statement::Structure::default()
            .of_standard(Class::Asset, zf_core::chart::Section::Cash),
        ..account(2, "1010", "Bank", Class::Asset)
    }
}

fn line<'a>(amount: i64) -> JournalRow<'a> {
    JournalRow {
        entry: "J1",
        date: date!(2026 - 09 - 24),
        code: "5010",
        name: "Coal",
        amount,
        base: gbp(),
        foreign: Some((Currency::parse("EUR").unwrap(), amount)),
        payee: "Hollin",
        memo: "Two tonnes",
        reference: "HC-118",
        entry_kind: "ordinary",
        cleared: true,
        dimensions: "site=Mossdale",
        posted_code: "5000",
    }
}

#[test]
fn every_setting_of_an_account_stands_in_its_row() {
    let heading = Account { kind: Kind::Heading, ..account(1, "1000", "Cash", Class::Asset) };
    let rows = chart::rows(&Chart::new([heading, settled()]), true);
    assert_eq!(rows[1].len(), chart::FORM.columns.len());
    for (one, cell) in chart::FORM.columns.iter().zip(&rows[1]) {
        assert!(!cell.is_empty(), "{:?} is not written", one.column);
    }
}

#[test]
fn a_code_that_was_only_proposed_can_be_left_out_and_its_heading_is_named() {
    let proposed = |account: Account| Account { code_proposed: true, ..account };
    let heading = Account { kind: Kind::Heading, ..account(1, "1000", "Cash", Class::Asset) };
    let chart = Chart::new([proposed(heading), settled()]);
    let cells = |proposed: bool| {
        let rows = chart::rows(&chart, proposed);
        (rows[0][0].clone(), rows[1][5].clone())
    };
    assert_eq!(cells(true), ("1000".to_owned(), "1000".to_owned()));
    assert_eq!(cells(false), (String::new(), "Cash".to_owned()));
}

#[test]
fn an_amount_stands_on_its_side_and_nothing_is_a_debit_of_nothing() {
    let sites: BTreeSet<String> = ["site".to_owned()].into();
    let heads = journal::headed(&sites);
    for (amount, debit, credit) in [(250, "2.50", ""), (-250, "", "2.50"), (0, "0.00", "")] {
        let row = journal::row(&line(amount), &sites);
        assert_eq!(row.len(), heads.len());
        assert_eq!((&*row[4], &*row[5]), (debit, credit), "{amount}");
        assert_eq!(row[row.len() - 2..], ["Mossdale", "5000"]);
        let blank = row.iter().filter(|cell| cell.is_empty()).count();
        assert_eq!(blank, 1, "all but one side: {row:?}");
    }
}

#[test]
fn uses_name_whom_an_account_went_to_or_the_codes_they_add_up() {
    let chart = Chart::new([account(2, "1010", "Bank", Class::Asset)]);
    let of = |names: Named| Use {
        names,
        used_by: "bank rule".to_owned(),
        label: "Fees".to_owned(),
        budget: Some((date!(2026 - 03 - 01), 1500)),
    };
    let stretches = Interval::parse_list("5000 to 5099").unwrap();
    let uses = [
        of(Named::Account(AccountId(2))),
        of(Named::Account(AccountId(9))),
        of(Named::Stretches(stretches)),
    ];
    let table = usage::table(&chart, &uses, gbp());
    let first = ["1010", "Bank", "bank rule", "Fees", "2026-03", "15.00"];
    let last = ["5000 to 5099", "", "bank rule", "Fees", "2026-03", "15.00"];
    assert_eq!(table.rows, [first, last], "one names an account that is gone");
}
