//! Empty forms: their rows are read as they stand, and every column is explained.

use crate::books::{account, calendar, gbp};
use std::collections::HashMap;
use zf_core::chart::{Chart, Class, Kind};
use zf_core::file_kind::FileKind;
use zf_core::former::FormerCodes;
use zf_core::overlap::Overlap;
use zf_core::policy::Policy;
use zf_exports::forms::{columns, examples};
use zf_intake::columns::{heading, required};
use zf_intake::layout::possible;
use zf_intake::reading::{Chosen, Reading};
use zf_intake::{Cell, RawRow, Rejected, balances, chart, crosswalk, journal, usage};

/// The accounts that the examples speak of.
fn chart_of_examples() -> Chart {
    let row = |n: i64, name: &str, class| account(n, &n.to_string(), name, class);
    Chart::new([
        row(1010, "Bank, day to day", Class::Asset),
        row(3000, "Members’ funds", Class::Equity),
        row(5010, "Coal", Class::Expense),
    ])
}

/// A form with its examples, as rows of a file.
fn form(kind: FileKind) -> Vec<RawRow> {
    let head = columns(kind).iter().map(|one| heading(kind, one.column)).collect();
    let rows = std::iter::once(head).chain(examples(kind));
    let row = |(number, cells): (u32, Vec<&str>)| RawRow {
        number,
        cells: cells.into_iter().map(Cell::text).collect(),
    };
    (1..).zip(rows).map(row).collect()
}

/// How many rows of a form are ready, and which are not.
fn read(kind: FileKind) -> (usize, Vec<Rejected>) {
    let (rows, own, former) = (form(kind), chart_of_examples(), FormerCodes::default());
    let reading = Reading::of(kind, &rows, gbp(), &Chosen::default()).unwrap();
    let format = Policy::default().format;
    assert!(reading.layout.lacking(kind).is_empty(), "{kind:?}");
    assert_eq!(reading.layout.unused().count(), 0, "{kind:?}: every heading is known");
    match kind {
        FileKind::Chart => {
            let books = chart::ChartContext { chart: &Chart::default(), format, blocks: &[] };
            let read = chart::read(&reading, &rows, &books, own.next_id());
            let kinds: Vec<Kind> = read.intake.ready.iter().map(|(_, a)| a.kind).collect();
            assert_eq!(kinds, [Kind::Heading, Kind::Account]);
            (read.intake.ready_rows, read.intake.rejected)
        }
        FileKind::Journal => {
            let books = journal::JournalContext {
                chart: &own,
                former: &former,
                currency: gbp(),
                calendar: calendar(),
                locked: None,
                overlap: &Overlap::default(),
                then: None,
                said: &HashMap::new(),
                late: &zf_intake::journal::late::Said::default(),
            };
            let read = journal::read(&reading, &rows, &books);
            assert_eq!(read.debits, 25_000);
            (read.ready_rows, read.rejected)
        }
        FileKind::Balances => {
            let read = balances::read(&reading, &rows, &own, &former, gbp());
            assert_eq!(read.ready.iter().map(|b| b.amount).sum::<i64>(), 0);
            (read.ready_rows, read.rejected)
        }
        FileKind::Crosswalk => {
            let books = crosswalk::CrosswalkContext { chart: &own, former: &former, format };
            let read = crosswalk::read(&reading, &rows, &books).intake;
            (read.ready_rows, read.rejected)
        }
        FileKind::Usage => {
            let read = usage::read(&reading, &rows, &own, &former, gbp());
            (read.ready_rows, read.rejected)
        }
    }
}

#[test]
fn the_rows_of_a_form_are_ready_as_they_stand() {
    for kind in FileKind::ALL {
        let (ready, rejected) = read(*kind);
        assert_eq!(rejected, [], "{kind:?}");
        assert_eq!(ready, examples(*kind).len(), "{kind:?}");
    }
}

#[test]
fn every_column_is_explained_and_what_is_needed_is_there() {
    for kind in FileKind::ALL {
        let columns = columns(*kind);
        for one in &columns {
            assert!(possible(*kind).any(|c| c == one.column), "{kind:?} has no {:?}", one.column);
            assert!(one.about.ends_with(['.', '…']), "{kind:?} {:?}: {}", one.column, one.about);
        }
        for column in required(*kind) {
            let own = columns.iter().find(|one| one.column == *column);
            assert!(own.is_some_and(|one| one.is_needed), "{kind:?} {column:?}");
        }
    }
}
