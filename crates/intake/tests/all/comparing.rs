//! A chart from a file beside that of the books, as properties: what is written out comes back the
//! same, and what was edited in between is seen, and nothing else.

use crate::books::{gbp, railway};
use proptest::prelude::*;
use std::collections::{BTreeSet, HashSet};
use zf_core::chart::{Account, Chart, Status};
use zf_core::code::{Code, CodeKey};
use zf_core::file_kind::FileKind;
use zf_core::ids::{AccountId, ImportId};
use zf_core::plan::{Change, Fate, Field, Plan};
use zf_core::policy::Policy;
use zf_core::rehearsal::rehearse;
use zf_core::today::Today;
use zf_exports::chart::{FORM, rows};
use zf_intake::chart::{self, ChartIntake};
use zf_intake::columns::Column;
use zf_intake::compare::{Comparison, MatchedBy, Taken, compare};
use zf_intake::reading::{Chosen, Reading};
use zf_intake::{Cell, RawRow};

/// The chart as it is written out, headings first.
fn written(chart: &Chart) -> Vec<Vec<String>> {
    let head = FORM.headed().into_iter().map(|(heading, _)| heading).collect();
    std::iter::once(head).chain(rows(chart, true)).collect()
}

fn key(code: &str) -> CodeKey {
    Code::parse(code).unwrap().key()
}

fn at(column: Column) -> usize {
    FORM.columns.iter().position(|one| one.column == column).unwrap()
}

fn compared(cells: &[Vec<String>], today: &Chart) -> (Comparison, ChartIntake) {
    let rows: Vec<RawRow> = (1..)
        .zip(cells)
        .map(|(number, row)| RawRow { number, cells: row.iter().map(|c| Cell::text(c)).collect() })
        .collect();
    let reading = Reading::of(FileKind::Chart, &rows, gbp(), &Chosen::default()).unwrap();
    let books = chart::ChartContext { chart: today, format: Policy::default().format, blocks: &[] };
    let read = chart::read(&reading, &rows, &books, today.next_id());
    (compare(&read, &reading, &rows, today), read)
}

fn nothing_but(comparison: &Comparison, same: usize) {
    assert_eq!(
        (comparison.new.len(), comparison.changed.len(), comparison.same, comparison.missing.len()),
        (0, 0, same, 0)
    );
}

/// What the books become when all that is taken is staged and applied.
fn applied(today: &Today, comparison: &Comparison, taken: &Taken) -> Chart {
    let mut plan = Plan::default();
    let far = |id: AccountId| AccountId(id.0 + 10_000);
    for (account, change) in comparison.changes(taken, ImportId(7), far) {
        let base = today.chart.get(account).map(|a| Change::of(a, change.field()));
        plan.stage(account, base, change);
    }
    rehearse(today, &plan).after
}

#[test]
fn what_is_written_out_and_brought_back_is_the_same() {
    let mut today = railway();
    let mut archived = today.chart.by_code(&key("5010")).unwrap().clone();
    archived.status = Status::Archived;
    today.chart.put(archived);
    let (comparison, read) = compared(&written(&today.chart), &today.chart);
    assert!(read.intake.rejected.is_empty());
    nothing_but(&comparison, today.chart.live().count());
}

#[test]
fn new_rows_under_new_headings_are_added_with_where_they_came_from() {
    let today = railway();
    let mut cells = written(&today.chart);
    let mut row = |code: &str, name: &str, kind: &str, parent: &str| {
        let mut row = vec![String::new(); cells[0].len()];
        row[at(Column::Code)] = code.to_owned();
        row[at(Column::Name)] = name.to_owned();
        row[at(Column::Kind)] = kind.to_owned();
        row[at(Column::Class)] = "expense".to_owned();
        row[at(Column::Parent)] = parent.to_owned();
        cells.push(row);
    };
    row("7000", "Fees", "heading", "");
    row("7010", "Audit", "account", "7000");
    let (comparison, _) = compared(&cells, &today.chart);
    assert_eq!((comparison.new.len(), comparison.changed.len()), (2, 0));
    let after = applied(&today, &comparison, &Taken { new: true, ..Taken::default() });
    let [heading, audit] = ["7000", "7010"].map(|code| after.by_code(&key(code)).unwrap());
    assert_eq!(audit.parent, Some(heading.id));
    assert_eq!((audit.origin, heading.origin), (Some(ImportId(7)), Some(ImportId(7))));
    assert_eq!(after.live().count(), today.chart.live().count() + 2);
    // Left out by choice, one row or all.
    let without =
        Taken { new: true, without_rows: HashSet::from([comparison.new[1].0]), ..Taken::default() };
    let after = applied(&today, &comparison, &without);
    assert_eq!(after.live().count(), today.chart.live().count() + 1);
    assert!(comparison.changes(&Taken::default(), ImportId(7), |id| id).is_empty());
}

#[test]
fn rows_that_cannot_be_taken_are_not_missing() {
    let today = railway();
    let mut cells = written(&today.chart);
    let place = cells.iter().position(|row| row[0] == "5010").unwrap();
    cells[place][at(Column::Currency)] = "thing".to_owned();
    let gone = cells.iter().position(|row| row[0] == "5020").unwrap();
    cells.remove(gone);
    let (comparison, read) = compared(&cells, &today.chart);
    assert_eq!(read.intake.rejected.len(), 1);
    let missing: Vec<_> =
        comparison.missing.iter().map(|id| today.chart.get(*id).unwrap().code.as_str()).collect();
    assert_eq!(missing, ["5020"]);
    let taken = Taken { missing: Some(Fate::deactivate()), ..Taken::default() };
    let after = applied(&today, &comparison, &taken);
    assert_eq!(after.get(comparison.missing[0]).unwrap().status, Status::Deactivated);
    let kept = Taken { without_accounts: comparison.missing.iter().copied().collect(), ..taken };
    assert!(comparison.changes(&kept, ImportId(7), |id| id).is_empty());
}

#[test]
fn a_file_without_a_column_says_nothing_of_it() {
    let today = railway();
    let with_class: Vec<Vec<String>> = written(&today.chart)
        .into_iter()
        .map(|row| [&row[..2], &row[at(Column::Class)..=at(Column::Class)]].concat())
        .collect();
    let (comparison, read) = compared(&with_class, &today.chart);
    assert!(read.intake.rejected.is_empty());
    let fields: BTreeSet<Field> =
        comparison.changed.iter().flat_map(|c| c.changes.iter().map(Change::field)).collect();
    assert!(fields.iter().all(|field| *field == Field::Parent), "{fields:?}");
}

proptest! {
    #![proptest_config(ProptestConfig { failure_persistence: None, ..ProptestConfig::default() })]

    /// Whatever is edited in one column of a file is what the comparison finds, and once it is
    /// staged and applied the file and the books are the same.
    #[test]
    fn exactly_the_edits_are_found_and_applying_them_leaves_none(
        picks in prop::collection::btree_set(0usize..40, 0..6),
        column in prop::sample::select(vec![Column::Name, Column::Code, Column::Description, Column::Tax]),
    ) {
        let today = railway();
        let mut cells = written(&today.chart);
        let mut edited = BTreeSet::new();
        for pick in picks {
            let row = 1 + pick % (cells.len() - 1);
            if edited.insert(row) {
                let cell = &mut cells[row][at(column)];
                *cell = match column {
                    Column::Code => format!("9{row:03}"),
                    _ => format!("{cell} edited {row}"),
                };
            }
        }
        // A heading that bears another code is named by it from then on.
        if column == Column::Code {
            let before = written(&today.chart);
            for row in &edited {
                let (old, new) = (before[*row][0].clone(), cells[*row][0].clone());
                for cell in cells.iter_mut().skip(1) {
                    if cell[at(Column::Parent)] == old {
                        cell[at(Column::Parent)] = new.clone();
                    }
                }
            }
        }
        let (comparison, read) = compared(&cells, &today.chart);
        prop_assert!(read.intake.rejected.is_empty());
        prop_assert_eq!(comparison.changed.len(), edited.len());
        prop_assert_eq!(comparison.same, today.chart.live().count() - edited.len());
        let by_code = column != Column::Code;
        for changed in &comparison.changed {
            prop_assert!(edited.contains(&(changed.row as usize - 1)));
            prop_assert_eq!(changed.by == MatchedBy::Code, by_code);
            prop_assert_eq!(changed.changes.len(), 1);
        }
        let after = applied(&today, &comparison, &Taken { changed: true, ..Taken::default() });
        // Sum lines follow a renumbering by themselves, as the file does not.
        let plain = |chart: &Chart| Chart::new(chart.iter().map(|a| Account { intervals: Vec::new(), ..a.clone() }));
        let without_sums: Vec<Vec<String>> = cells
            .iter()
            .enumerate()
            .map(|(n, row)| {
                let mut row = row.clone();
                if n > 0 { row[at(Column::Intervals)].clear(); }
                row
            })
            .filter(|row| row[at(Column::Kind)] != "sum line")
            .collect();
        let (again, _) = compared(&without_sums, &plain(&after));
        prop_assert!(again.changed.is_empty() && again.new.is_empty(), "{:?}", again.changed);
    }
}
