//! What stands on one line of the statements under one reading of a history and on another under the other, and what of
//! earlier years differs thereby.

use super::reading::{Place, Read, add_to};
use super::statement::{RowKey, RowKind, Statement, StatementKind};
use crate::ids::AccountId;
use std::collections::{BTreeMap, BTreeSet};

/// Amounts that stand on another line under the other reading.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct Moved {
    /// The account that bears them under the one reading.
    pub from_account: AccountId,
    /// The account that bears them under the other.
    pub to_account: AccountId,
    /// Where they stand under the one.
    pub from: Place,
    /// Where they stand under the other.
    pub to: Place,
    /// Minor units of the base currency in each column, debits less credits, as the line that they leave has them.
    pub leaves: Vec<i128>,
    /// The same as the line that they come to has them: other than what leaves where one is a line of the balance sheet
    /// and the other of the income statement.
    pub comes: Vec<i128>,
    /// How many lines of the journal they are.
    pub lines: u64,
}

/// From where to where, and of which accounts.
type Way = (Place, Place, AccountId, AccountId);

/// What stands on another line under the other reading, by account. Both are readings of the same books and plan in the
/// same columns. What the one says, less what leaves, with what comes, is what the other says.
pub fn moved(one: &Read<'_>, other: &Read<'_>) -> Vec<Moved> {
    let mut all: BTreeMap<Way, Moved> = BTreeMap::new();
    for ((piece, from), (_, to)) in one.pieces.iter().zip(&other.pieces) {
        let (from, to) = (&one.bearers[*from], &other.bearers[*to]);
        let mut ways: BTreeMap<(Place, Place), Vec<usize>> = BTreeMap::new();
        for at in 0..one.columns.len() {
            let way = (from.place(at), to.place(at));
            if way.0 != way.1 {
                ways.entry(way).or_default().push(at);
            }
        }
        for ((leaves, comes), columns) in ways {
            let months: Vec<_> = columns.iter().map(|at| one.columns[*at]).collect();
            let within = |amounts: Vec<i128>| {
                let within = |(at, amount)| if columns.contains(&at) { amount } else { 0 };
                amounts.into_iter().enumerate().map(within).collect::<Vec<_>>()
            };
            let way = (leaves, comes, from.account, to.account);
            let moved = all.entry(way).or_insert_with(|| Moved {
                from_account: from.account,
                to_account: to.account,
                from: leaves,
                to: comes,
                leaves: vec![0; one.columns.len()],
                comes: vec![0; one.columns.len()],
                lines: 0,
            });
            add_to(&mut moved.leaves, &within(piece.on(leaves.class, one.columns)));
            add_to(&mut moved.comes, &within(piece.on(comes.class, one.columns)));
            moved.lines +=
                piece.lines(leaves.class, &months).max(piece.lines(comes.class, &months));
        }
    }
    let has_amount = |moved: &Moved| moved.leaves.iter().chain(&moved.comes).any(|sum| *sum != 0);
    all.into_values().filter(|moved| moved.lines > 0 || has_amount(moved)).collect()
}

/// How many lines, results and totals of the columns behind the latest differ between two readings.
pub fn earlier_changes(one: &[Statement], other: &[Statement]) -> usize {
    let (one, other) = (by_row(one), by_row(other));
    let rows: BTreeSet<_> = one.keys().chain(other.keys()).collect();
    let earlier = |amounts: Option<&&[i128]>, n: usize| {
        amounts.and_then(|amounts| amounts.get(n)).copied().unwrap_or_default()
    };
    let columns = one.values().chain(other.values()).map(|amounts| amounts.len()).max();
    let differs = |row: &&(StatementKind, RowKey)| {
        let (a, b) = (one.get(*row), other.get(*row));
        (1..columns.unwrap_or(0)).any(|n| earlier(a, n) != earlier(b, n))
    };
    rows.into_iter().filter(differs).count()
}

fn by_row(statements: &[Statement]) -> BTreeMap<(StatementKind, RowKey), &[i128]> {
    let rows = statements.iter().flat_map(|of| of.rows.iter().map(move |row| (of.kind, row)));
    let compared = rows.filter(|(_, row)| row.kind != RowKind::Heading);
    compared.map(|(kind, row)| ((kind, row.key()), &*row.amounts)).collect()
}
