//! Two readings of a history side by side, row by row.

use super::statement::{Row, Standing, Statement};
use crate::ids::AccountId;
use std::collections::{HashMap, HashSet};

/// A row of one reading with the same row of another; one of them is there.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct Pair<T> {
    /// As the one has it.
    pub one: Option<T>,
    /// As the other has it.
    pub other: Option<T>,
}

/// The rows of two readings of a statement in one order: that of the one, with what only the other has at its place.
pub fn rows<'a>(one: &'a Statement, other: &'a Statement) -> Vec<Pair<&'a Row>> {
    join(&one.rows, &other.rows, Row::key)
}

/// The accounts of a row under two readings, in one order.
pub fn accounts<'a>(row: &Pair<&'a Row>) -> Vec<Pair<&'a Standing>> {
    let of = |row: Option<&'a Row>| row.map_or(&[] as &[Standing], |row| &row.accounts);
    let key = |standing: &Standing| -> (AccountId, String, String) {
        (standing.account, standing.code.clone(), standing.name.clone())
    };
    join(of(row.one), of(row.other), key)
}

fn join<'a, T, K: Eq + std::hash::Hash>(
    one: &'a [T],
    other: &'a [T],
    key: impl Fn(&T) -> K,
) -> Vec<Pair<&'a T>> {
    let of_one: HashSet<K> = one.iter().map(&key).collect();
    let of_other: HashMap<K, usize> =
        other.iter().enumerate().map(|(at, it)| (key(it), at)).collect();
    let mut pairs = Vec::new();
    let mut done = 0;
    // What only the other has stands before the next row that both have.
    let mut only = |pairs: &mut Vec<Pair<&'a T>>, to: usize| {
        for it in other.get(done..to).unwrap_or_default() {
            if !of_one.contains(&key(it)) {
                pairs.push(Pair { one: None, other: Some(it) });
            }
        }
        done = done.max(to);
    };
    for it in one {
        let beside = of_other.get(&key(it)).copied();
        if let Some(at) = beside {
            only(&mut pairs, at);
        }
        pairs.push(Pair { one: Some(it), other: beside.map(|at| &other[at]) });
    }
    only(&mut pairs, other.len());
    pairs
}
