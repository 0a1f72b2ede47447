//! Rows of a trial balance that only add up others: headings of the chart, codes that others begin with,
//! names over indented ones. What they say is in the file twice, and never added twice.

use super::balance::NewBalance;
use crate::columns::Column;
use crate::reading::Reading;
use crate::{Cell, RawRow};
use std::collections::{HashMap, HashSet};
use zf_core::chart::{Account, Chart, Kind};
use zf_core::ids::AccountId;

/// A balance with where it stands.
struct Placed<'a> {
    balance: &'a NewBalance,
    account: &'a Account,
    /// How many spaces stand before its name.
    indent: usize,
}

/// The rows, by number, whose amounts other rows add up to.
pub(super) fn of(
    reading: &Reading,
    rows: &[&RawRow],
    read: &[NewBalance],
    chart: &Chart,
) -> Vec<u32> {
    let indents: HashMap<u32, usize> =
        rows.iter().map(|row| (row.number, indent(reading, row))).collect();
    let placed: Vec<Placed<'_>> = read
        .iter()
        .filter_map(|balance| {
            let account = chart.get(balance.account)?;
            let indent = indents.get(&balance.row).copied().unwrap_or(0);
            Some(Placed { balance, account, indent })
        })
        .collect();
    let headings = by_headings(&placed, chart);
    let sum = |left_out: &[u32]| -> i128 {
        let left = read.iter().filter(|balance| !left_out.contains(&balance.row));
        left.map(|balance| i128::from(balance.amount)).sum()
    };
    // What looks like a subtotal is one where all that look so add up, or when the file comes closer to
    // zero without it.
    let whole = sum(&headings).abs();
    let guesses = [by_codes(&placed), by_indent(&placed)];
    let better = guesses.into_iter().filter_map(|Guess { rows: mut guess, all }| {
        guess.retain(|row| !headings.contains(row));
        let certain = all && guess.len() > 1;
        guess.extend(&headings);
        let rest = sum(&guess).abs();
        (rest < whole || rest == whole && certain).then_some((rest, guess))
    });
    better.min_by_key(|(rest, _)| *rest).map_or(headings, |(_, guess)| guess)
}

/// Rows that may be subtotals.
struct Guess {
    rows: Vec<u32>,
    /// Whether every row that stands over others adds them up.
    all: bool,
}

impl Guess {
    fn of(found: Vec<(u32, bool)>) -> Self {
        let all = found.iter().all(|(_, adds_up)| *adds_up);
        let rows = found.into_iter().filter(|(_, adds_up)| *adds_up).map(|(row, _)| row);
        Self { rows: rows.collect(), all }
    }
}

fn indent(reading: &Reading, row: &RawRow) -> usize {
    let fields = [Column::Name, Column::CodeAndName, Column::Code];
    let cell = fields.iter().find_map(|field| reading.layout.raw(row, *field));
    cell.map_or(0, Cell::indentation)
}

/// Headings and sum lines of the chart that say what accounts under them in the file come to.
fn by_headings(placed: &[Placed<'_>], chart: &Chart) -> Vec<u32> {
    let mut under: HashMap<AccountId, i128> = HashMap::new();
    for one in placed.iter().filter(|one| one.account.kind == Kind::Account) {
        for above in chart.above(one.account) {
            *under.entry(above.id).or_default() += i128::from(one.balance.amount);
        }
    }
    let adds_up = |one: &&Placed<'_>| match one.account.kind {
        Kind::Account => false,
        Kind::Heading => under.get(&one.account.id) == Some(&i128::from(one.balance.amount)),
        // A sum line holds nothing of its own.
        Kind::Sum => true,
    };
    placed.iter().filter(adds_up).map(|one| one.balance.row).collect()
}

fn code_of<'a>(one: &Placed<'a>) -> &'a str {
    one.account.code.as_str()
}

/// Codes that longer ones begin with, whose amounts come to the same.
fn by_codes(placed: &[Placed<'_>]) -> Guess {
    let mut sorted: Vec<&Placed<'_>> = placed.iter().collect();
    sorted.sort_by_key(|one| code_of(one));
    // The longest come first: what they add up to is left out of what stands over them.
    let mut order: Vec<&Placed<'_>> = placed.iter().collect();
    order.sort_by_key(|one| std::cmp::Reverse(code_of(one).len()));
    let mut over = Over::default();
    for one in order {
        let own = code_of(one);
        let begins = own.trim_end_matches('0');
        if begins.is_empty() {
            continue;
        }
        let from = sorted.partition_point(|other| code_of(other) < begins);
        let begun = sorted[from..].iter().take_while(|other| code_of(other).starts_with(begins));
        let below =
            begun.filter(|other| code_of(other).len() >= own.len() && code_of(other) != own);
        over.look(one, below.copied());
    }
    Guess::of(over.found)
}

/// Names over others that stand further in and come to the same.
fn by_indent(placed: &[Placed<'_>]) -> Guess {
    let mut over = Over::default();
    for (at, one) in placed.iter().enumerate().rev() {
        over.look(one, placed[at + 1..].iter().take_while(|other| other.indent > one.indent));
    }
    Guess::of(over.found)
}

/// Rows that stand over others, with whether they add them up.
#[derive(Default)]
struct Over {
    found: Vec<(u32, bool)>,
    adding_up: HashSet<u32>,
}

impl Over {
    /// Looks at a row and at those below it, of which those that add up others are left out.
    fn look<'a>(&mut self, one: &Placed<'_>, below: impl Iterator<Item = &'a Placed<'a>>) {
        let leaves = below.filter(|other| !self.adding_up.contains(&other.balance.row));
        let sum = leaves.map(|other| i128::from(other.balance.amount)).reduce(|a, b| a + b);
        let Some(sum) = sum else { return };
        let row = one.balance.row;
        let adds_up = sum == i128::from(one.balance.amount);
        self.found.push((row, adds_up));
        if adds_up {
            self.adding_up.insert(row);
        }
    }
}
