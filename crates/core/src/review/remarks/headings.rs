//! Headings with little or nothing under them, and statement items without accounts.

use super::books::RemarkContext;
use super::remark::{Remark, RemarkKind, Seen};
use crate::chart::{Account, Kind};
use crate::ids::{AccountId, ItemId};
use std::collections::{HashMap, HashSet};

/// Headings with so many rows under them.
fn with_rows<'a>(books: &RemarkContext<'a>, count: usize) -> Vec<(&'a Account, Vec<&'a Account>)> {
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
pub(super) fn empty(books: &RemarkContext<'_>) -> Vec<Remark> {
    let remark = |(heading, _): (&Account, _)| Remark::of(heading, Seen::HeadingEmpty);
    with_rows(books, 0).into_iter().map(remark).collect()
}

/// Headings that add up one row.
pub(super) fn lone_children(books: &RemarkContext<'_>) -> Vec<Remark> {
    let remark =
        |heading: &Account, row: &Account| Remark::of(heading, Seen::LoneChild { row: row.id });
    let alone = with_rows(books, 1).into_iter();
    alone.filter_map(|(heading, rows)| Some(remark(heading, rows.first()?))).collect()
}

/// Statement items without an account, where the chart stands items at all.
pub(super) fn empty_items(books: &RemarkContext<'_>) -> Vec<Remark> {
    let used: HashSet<ItemId> = books.rows.iter().filter_map(|row| row.place().1).collect();
    if used.is_empty() {
        return Vec::new();
    }
    let items = books.today.chart.structure().captions().filter(|item| !used.contains(&item.id));
    let remark = |item: &crate::statement::StatementItem| Remark {
        kind: RemarkKind::ItemEmpty,
        accounts: Vec::new(),
        item: Some(item.id),
        seen: Seen::ItemEmpty { class: item.class },
        proposed: None,
        score: None,
    };
    items.map(remark).collect()
}
