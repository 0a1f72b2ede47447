//! What people do to the lines of the statements, and what a list of them asks for.

use crate::books::railway;
use proptest::prelude::*;
use std::collections::BTreeSet;
use zf_core::chart::{Chart, Class};
use zf_core::ids::LineId;
use zf_core::lines::listed::{Asked, Listed, asked};
use zf_core::lines::{LineEdit, NotALine, carry_out, merged, standing};
use zf_core::plan::Change;
use zf_core::statement::{LineKind, Operand, StatementLine, Structure, Term};

/// The lines of a chart that accounts can stand under or did, with class and name.
fn named(structure: &Structure) -> Vec<(Class, String)> {
    let own = structure.lines().filter(|line| line.kind == LineKind::Line);
    own.map(|line| (line.class, line.name.clone())).collect()
}

fn ids(structure: &Structure) -> BTreeSet<LineId> {
    structure.lines().map(|line| line.id).collect()
}

fn line(chart: &Chart, name: &str) -> LineId {
    let found = chart.structure().lines().find(|line| line.name == name);
    found.unwrap().id
}

/// Any edit of a line that is there, or of a new one.
fn edit(lines: Vec<LineId>) -> impl Strategy<Value = LineEdit> {
    let line = prop::sample::select(lines.clone());
    let before = prop::option::of(prop::sample::select(lines.clone()));
    let name = "[A-Z][a-z]{2,8}";
    let class = prop::sample::select(Class::ALL.to_vec());
    let of = prop::sample::select(lines);
    let term = (of, any::<bool>(), any::<bool>()).prop_map(|(line, taken_off, whole)| Term {
        of: if whole { Operand::Class(Class::Asset) } else { Operand::Line(line) },
        taken_off,
    });
    let terms = prop::collection::vec(term, 1..3);
    let any = (0..8, line, before, name, class, terms);
    any.prop_map(|(what, line, before, name, class, terms)| match what {
        0 => LineEdit::Add { class, name, before },
        1 => LineEdit::Rename { line, name },
        2 => LineEdit::Move { line, before },
        3 => LineEdit::Retire { line },
        4 => LineEdit::AddReckoned { class, name, before, ratio: terms.len() == 2, terms },
        5 => LineEdit::Reckon { line, terms },
        6 => LineEdit::NameOtherSide { line, other: before },
        _ => LineEdit::Restore { line },
    })
}

fn edits() -> impl Strategy<Value = Vec<LineEdit>> {
    let chart = railway().chart;
    let mut lines: Vec<_> = chart.structure().captions().map(|line| line.id).collect();
    // Some that are added before they are named.
    lines.extend((0..3).map(|n| LineId(chart.structure().next_id().0 + n)));
    prop::collection::vec(edit(lines), 1..12)
}

/// Whether all that a line is reckoned from ends with lines and classes.
fn leads_to_lines(structure: &Structure, line: &StatementLine) -> bool {
    let mut next: Vec<(&StatementLine, usize)> = vec![(line, 0)];
    while let Some((line, depth)) = next.pop() {
        for term in &line.terms {
            let Operand::Line(id) = term.of else { continue };
            let Some(of) = structure.lines().find(|line| line.id == id) else { return false };
            if depth > structure.lines().count() {
                return false;
            }
            next.push((of, depth + 1));
        }
    }
    true
}

proptest! {
    #[test]
    fn no_line_is_ever_lost_and_none_with_accounts_is_retired(edits in edits()) {
        let chart = railway().chart;
        let standing = standing(&chart);
        let mut lines = Structure::clone(chart.structure());
        for edit in &edits {
            let used = |line| standing.get(&line).copied().unwrap_or(0);
            let Ok(after) = edit.carry_out(&lines, used) else { continue };
            prop_assert!(ids(&lines).is_subset(&ids(&after)));
            let more = usize::from(matches!(edit, LineEdit::Add { .. } | LineEdit::AddReckoned { .. }));
            prop_assert_eq!(ids(&after).len(), ids(&lines).len() + more);
            // Lines of a class stay together, in the order of the classes.
            let classes: Vec<Class> = after.lines().map(|line| line.class).collect();
            prop_assert!(classes.is_sorted());
            // Of the lines of a class that accounts can be put under no two are called the same.
            let open: Vec<_> = after.captions().map(|l| (l.class, l.name.to_lowercase())).collect();
            prop_assert_eq!(open.iter().collect::<BTreeSet<_>>().len(), open.len());
            // What is reckoned leads to lines that are there, and never back to itself.
            prop_assert!(after.lines().all(|line| leads_to_lines(&after, line)));
            let gone = |line: &StatementLine| line.retired && standing.contains_key(&line.id);
            prop_assert!(!after.lines().any(gone));
            lines = after;
        }
    }

    #[test]
    fn a_list_in_any_order_is_what_the_lines_become(seed in any::<u64>(), new in "[A-Z][a-z]{9}") {
        let chart = railway().chart;
        let mut list = named(chart.structure());
        list.push((Class::Expense, new));
        // A shuffle that a seed tells.
        list.sort_by_key(|(class, name)| {
            name.bytes().fold(seed ^ (*class as u64), |hash, b| hash.wrapping_mul(31) ^ u64::from(b))
        });
        let rows: Vec<Listed> = list
            .iter()
            .map(|(class, name)| Listed {
                class: *class, name: name.clone(), new_name: None, retired: None,
            })
            .collect();
        let Asked { edits, merges, refused } = asked(&rows, &chart);
        prop_assert!(merges.is_empty() && refused.is_empty());
        let (after, said) = carry_out(&edits, &chart).unwrap();
        prop_assert_eq!(said.len(), edits.len());
        list.sort_by_key(|(class, _)| *class);
        prop_assert_eq!(named(&after), list);
        // What is that way already asks for nothing.
        let same = Chart::under(after, chart.iter().cloned());
        prop_assert!(asked(&rows, &same).edits.is_empty());
    }
}

#[test]
fn a_list_renames_merges_and_retires() {
    let chart = railway().chart;
    let row = |name: &str, new_name: Option<&str>, retired| Listed {
        class: Class::Asset,
        name: name.to_owned(),
        new_name: new_name.map(str::to_owned),
        retired,
    };
    let list = [
        row("cash and cash equivalents", None, Some(true)),
        row("cash and cash equivalents", Some("Cash"), None),
        row("inventories", Some("prepayments"), None),
        row("intangible assets", None, Some(true)),
    ];
    let asked = asked(&list, &chart);
    let line = |name| line(&chart, name);
    assert_eq!(
        asked.edits,
        [
            LineEdit::Rename { line: line("cash and cash equivalents"), name: "Cash".to_owned() },
            LineEdit::Retire { line: line("intangible assets") },
        ]
    );
    assert_eq!(asked.merges, [(line("inventories"), line("prepayments"))]);
    let name = "cash and cash equivalents".to_owned();
    let accounts = standing(&chart)[&line(&name)];
    assert_eq!(asked.refused, [(0, NotALine::Used { name, accounts })]);
}

#[test]
fn a_merge_puts_each_account_under_the_other_line() {
    let chart = railway().chart;
    let (from, into) = (line(&chart, "cash and cash equivalents"), line(&chart, "inventories"));
    let changes = merged(&chart, from, into).unwrap();
    assert_eq!(changes.len(), standing(&chart)[&from]);
    for (account, change) in changes {
        assert_eq!(chart.get(account).unwrap().place().1, Some(from));
        assert_eq!(change, Change::Caption(Some(into)));
    }
    assert_eq!(merged(&chart, from, from), Err(NotALine::Itself));
    let foreign = line(&chart, "revenue");
    assert!(matches!(merged(&chart, from, foreign), Err(NotALine::OtherClass(_))));
    let empty = line(&chart, "intangible assets");
    assert!(matches!(merged(&chart, empty, into), Err(NotALine::Empty(_))));
    assert_eq!(merged(&chart, LineId(-1), into), Err(NotALine::Unknown));
}
