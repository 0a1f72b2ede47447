//! What a plan moves from one line of the statements to another, and what of earlier years it changes thereby.

use super::columns::Months;
use super::pieces::pieces;
use super::statement::{Place, Row, RowKind, Statement, place_of};
use crate::ids::AccountId;
use crate::rehearsal::Rehearsal;
use crate::today::Today;
use std::collections::{BTreeMap, BTreeSet};

/// Amounts that stand on another line After.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct Moved {
    /// The account that bears them today.
    pub from_account: AccountId,
    /// The account that bears them After.
    pub to_account: AccountId,
    /// Where they stand today.
    pub from: Place,
    /// Where they stand After.
    pub to: Place,
    /// Minor units of the base currency in each column, debits less credits, as the line that they leave has them.
    pub amounts: Vec<i128>,
    /// How many lines of the journal they are.
    pub lines: u64,
}

/// From where to where, and of which accounts.
type Way = (Place, Place, AccountId, AccountId);

/// What stands on another line After, by account.
pub fn moved(today: &Today, rehearsal: &Rehearsal, columns: &[Months]) -> Vec<Moved> {
    let mut all: BTreeMap<Way, (Vec<i128>, u64)> = BTreeMap::new();
    for piece in pieces(&today.activity, &rehearsal.effects) {
        let before = today.chart.get(piece.strand.account);
        let after = rehearsal.after.get(piece.after);
        let Some((before, after)) = before.zip(after) else { continue };
        let (from, to) = (place_of(before), place_of(after));
        if from == to {
            continue;
        }
        let amounts = match from.class.on_balance_sheet() {
            true => piece.balances(columns),
            false => piece.results(columns),
        };
        let none = (vec![0; columns.len()], 0);
        let sums = all.entry((from, to, before.id, after.id)).or_insert(none);
        sums.0.iter_mut().zip(amounts).for_each(|(sum, amount)| *sum += amount);
        sums.1 += piece.lines(columns);
    }
    let moved = all.into_iter().map(|((from, to, from_account, to_account), (amounts, lines))| {
        Moved { from_account, to_account, from, to, amounts, lines }
    });
    moved.collect()
}

/// How many lines, results and totals of the columns behind the latest differ between two readings.
pub fn earlier_changes(one: &[Statement], other: &[Statement]) -> usize {
    let (one, other) = (by_place(one), by_place(other));
    let places: BTreeSet<_> = one.keys().chain(other.keys()).collect();
    let earlier = |amounts: Option<&Vec<i128>>, n: usize| {
        amounts.and_then(|amounts| amounts.get(n)).copied().unwrap_or_default()
    };
    let columns =
        one.values().chain(other.values()).map(|amounts| amounts.len()).max().unwrap_or(0);
    let differs = |place: &&Key| {
        let (a, b) = (one.get(*place), other.get(*place));
        (1..columns).any(|n| earlier(a.copied(), n) != earlier(b.copied(), n))
    };
    places.into_iter().filter(differs).count()
}

/// What tells a row from the others of the statements.
type Key = (usize, RowKind, Option<Place>, String);

fn by_place(statements: &[Statement]) -> BTreeMap<Key, &Vec<i128>> {
    let rows =
        statements.iter().enumerate().flat_map(|(at, of)| of.rows.iter().map(move |row| (at, row)));
    let compared = rows.filter(|(_, row)| row.kind != RowKind::Heading);
    let key = |(at, row): (usize, &Row)| {
        let place = row.class.map(|class| Place { class, line: row.line });
        let label = if row.line.is_some() { String::new() } else { row.label.clone() };
        (at, row.kind, place, label)
    };
    compared.map(|(at, row)| (key((at, row)), &row.amounts)).collect()
}
