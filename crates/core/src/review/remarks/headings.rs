//! Headings with little or nothing under them, and lines of the statements without accounts.

use super::books::Books;
use super::remark::{Remark, RemarkKind, Seen};
use crate::chart::{Account, Kind};
use crate::ids::{AccountId, LineId};
use std::collections::{HashMap, HashSet};

/// Headings with so many rows under them.
fn with_rows<'a>(books: &Books<'a>, count: usize) -> Vec<(&'a Account, Vec<&'a Account>)> {
    let mut under: HashMap<AccountId, Vec<&Account>> = HashMap::new();
    for row in &books.rows {
        if let Some(parent) = row.parent {
            under.entry(parent).or_default().push(row);
        }
    }
    let headings = books.rows.iter().filter(|row| row.kind == Kind::Heading);
    let with = headings.map(|row| (*row, under.remove(&row.id).unwrap_or_default()));
    with.filter(|(_, rows)| rows.len() == count).collect()
}

/// Headings without rows under them.
pub(super) fn empty(books: &Books<'_>) -> Vec<Remark> {
    let remark = |(heading, _): (&Account, _)| Remark::of(heading, Seen::HeadingEmpty);
    with_rows(books, 0).into_iter().map(remark).collect()
}

/// Headings that add up one row.
pub(super) fn lone_children(books: &Books<'_>) -> Vec<Remark> {
    let remark =
        |heading: &Account, row: &Account| Remark::of(heading, Seen::LoneChild { row: row.id });
    let alone = with_rows(books, 1).into_iter();
    alone.filter_map(|(heading, rows)| Some(remark(heading, rows.first()?))).collect()
}

/// Lines of the statements without an account, where the chart stands on lines at all.
pub(super) fn empty_lines(books: &Books<'_>) -> Vec<Remark> {
    let used: HashSet<LineId> = books.rows.iter().filter_map(|row| row.place().1).collect();
    if used.is_empty() {
        return Vec::new();
    }
    let lines = books.today.chart.structure().captions().filter(|line| !used.contains(&line.id));
    let remark = |line: &crate::statement::StatementLine| Remark {
        kind: RemarkKind::LineEmpty,
        accounts: Vec::new(),
        line: Some(line.id),
        seen: Seen::LineEmpty { class: line.class },
        proposed: None,
        score: None,
    };
    lines.map(remark).collect()
}
