//! Rows that are gone through again and again, corrected on the way, or made from others.

use crate::books::gbp;
use proptest::prelude::*;
use std::collections::{BTreeMap, BTreeSet};
use zf_core::file_kind::FileKind;
use zf_intake::audit::of_entries;
use zf_intake::reading::Chosen;
use zf_intake::rows::{Corrections, Rows};
use zf_intake::table::Table;
use zf_intake::{Cell, RawRow, Sheet};

fn row(number: u32, cells: &[&str]) -> RawRow {
    RawRow { number, cells: cells.iter().map(|text| Cell::text(text)).collect() }
}

fn texts(rows: &[RawRow]) -> Vec<Vec<&str>> {
    rows.iter().map(|row| row.cells.iter().map(|cell| cell.text.as_str()).collect()).collect()
}

const FRENCH: [&str; 18] = [
    "JournalCode",
    "JournalLib",
    "EcritureNum",
    "EcritureDate",
    "CompteNum",
    "CompteLib",
    "CompAuxNum",
    "CompAuxLib",
    "PieceRef",
    "PieceDate",
    "EcritureLib",
    "Debit",
    "Credit",
    "EcritureLet",
    "DateLet",
    "ValidDate",
    "Montantdevise",
    "Idevise",
];

/// A line of a French file, between two accounts by turns.
fn french(number: u32, amount: u32) -> RawRow {
    let account =
        if number.is_multiple_of(2) { ("512000", "Banque") } else { ("606100", "Charbon") };
    let (debit, credit) = match number % 2 {
        1 => (format!("{amount},00"), "0,00".to_owned()),
        _ => ("0,00".to_owned(), format!("{amount},00")),
    };
    let entry = (number / 2).to_string();
    row(
        number,
        &[
            "AC", "Achats", &entry, "20260403", account.0, account.1, "", "", "F1", "20260403",
            "Charbon", &debit, &credit, "", "", "20260404", "", "",
        ],
    )
}

proptest! {
    #![proptest_config(ProptestConfig { failure_persistence: None, ..ProptestConfig::default() })]

    /// However rows are gone through, they are the same rows; those with certain numbers are those.
    #[test]
    fn rows_can_be_gone_through_any_number_of_times(
        cells in prop::collection::vec(prop::collection::vec("[a-z0-9]{0,3}", 0..4), 0..12),
        gaps in prop::collection::vec(1u32..4, 12),
        wanted in prop::collection::btree_set(0u32..40, 0..6),
        first in 0usize..14,
    ) {
        let mut number = 0;
        let rows: Vec<RawRow> = cells.iter().zip(gaps).map(|(cells, gap)| {
            number += gap;
            row(number, &cells.iter().map(String::as_str).collect::<Vec<_>>())
        }).collect();
        let held: &dyn Rows = &rows;
        prop_assert_eq!(held.count(), rows.len());
        for _ in 0..2 {
            prop_assert_eq!(&held.all(), &rows);
        }
        prop_assert_eq!(held.start(first), rows.iter().take(first).cloned().collect::<Vec<_>>());
        let numbered: BTreeMap<u32, RawRow> = rows
            .iter()
            .filter(|row| wanted.contains(&row.number))
            .map(|row| (row.number, row.clone()))
            .collect();
        prop_assert_eq!(held.numbered(&wanted), numbered);
    }

    /// A correction changes its own cell and nothing else, wherever the row is met.
    #[test]
    fn a_correction_changes_one_cell(at in 0usize..5, number in 1u32..8, text in "[A-Z]{1,4}") {
        let rows: Vec<RawRow> =
            std::iter::once(row(1, &["Code", "Name", "Class"]))
                .chain((2..7).map(|n| row(n, &[&n.to_string(), "Bank", "Asset"])))
                .collect();
        let corrections: Corrections = [((number, at), text.clone())].into();
        let mut sheets = [Sheet::new("", Box::new(rows.clone()))];
        let chosen = Chosen { corrections, ..Chosen::default() };
        let found = Table::find(FileKind::Chart, &mut sheets, gbp(), &chosen).unwrap();
        let after = found.rows.all();
        prop_assert_eq!(after.len(), rows.len());
        for (before, after) in rows.iter().zip(&after) {
            for place in 0..after.cells.len() {
                let old = before.cells.get(place).map_or("", |cell| cell.text.as_str());
                let expected = if (after.number, place) == (number, at) { &text } else { old };
                prop_assert_eq!(after.cells[place].text.as_str(), expected);
            }
        }
        let one = found.rows.numbered(&BTreeSet::from([number]));
        prop_assert_eq!(one.get(&number), after.iter().find(|row| row.number == number));
    }

    /// A French file becomes a journal with a line for each of its rows, and a chart with each account
    /// once, whichever of the two is asked for first and how often.
    #[test]
    fn a_french_file_is_a_journal_and_a_chart(amounts in prop::collection::vec(1u32..9_999, 1..20)) {
        let lines: Vec<RawRow> =
            (2..).zip(&amounts).map(|(number, amount)| french(number, *amount)).collect();
        let rows: Vec<RawRow> = std::iter::once(row(1, &FRENCH)).chain(lines).collect();
        let Ok([journal, chart]) = of_entries(Box::new(rows)) else {
            return Err(TestCaseError::fail("it is one"));
        };
        for _ in 0..2 {
            let read = journal.rows.all();
            prop_assert_eq!(read.len(), amounts.len() + 1);
            prop_assert_eq!(read.last().unwrap().number as usize, amounts.len() + 1);
        }
        let codes: Vec<String> =
            chart.rows.walk().skip(1).map(|row| row.cells[0].text.clone()).collect();
        let known: BTreeSet<&String> = codes.iter().collect();
        prop_assert_eq!(known.len(), codes.len());
        prop_assert_eq!(codes.len(), amounts.len().min(2));
    }
}

#[test]
fn other_rows_are_handed_back_as_they_were() {
    let rows = vec![row(1, &["Code", "Name"]), row(2, &["1010", "Bank"])];
    let Err(back) = of_entries(Box::new(rows)) else { unreachable!("no French file") };
    assert_eq!(texts(&back.all()), [["Code", "Name"], ["1010", "Bank"]]);
}
