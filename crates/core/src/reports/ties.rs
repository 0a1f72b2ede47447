//! What every total is tied to: the trial balance of the same day, which is drawn up without looking at lines of
//! statements, and zero, which the books add up to.

use super::reading::{Read, Reading, add_to, place_by_side};
use super::statement::{RowKind, RowName, Statement, StatementKind};
use crate::chart::Class;
use crate::trial_balance::balance_of;
use time::Date;

/// A total and what it should be.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct Tie {
    /// Of what.
    pub name: RowName,
    /// On which day.
    pub day: Date,
    /// By how much the total is more, in minor units of the base currency.
    pub difference: i128,
}

/// The ties of statements to the trial balance of the chart that they were read under. Income and expenses tie in the
/// columns that hold a fiscal year up to a day, together with what closing entries took out of the accounts. No trial
/// balance is kept under what lines were posted under: there only the whole is tied to zero.
pub fn ties(read: &Read<'_>, statements: &[Statement]) -> Vec<Tie> {
    let mut ties = Vec::new();
    let (trials, closed) = (trials(read), closed(read));
    for (at, (column, trial)) in read.columns.iter().zip(trials).enumerate() {
        let day = read.today.calendar.last_day(column.last);
        for statement in statements {
            for row in statement.rows.iter().filter(|row| row.kind == RowKind::Total) {
                let amount = row.amounts.get(at).copied().unwrap_or_default();
                let expected = match (statement.kind, row.class) {
                    (StatementKind::BalanceSheet, None) => 0,
                    _ if read.reading == Reading::AsPosted => continue,
                    (StatementKind::BalanceSheet, Some(Class::Equity)) => {
                        trial[Class::Equity as usize]
                            + trial[Class::Income as usize]
                            + trial[Class::Expense as usize]
                    }
                    (StatementKind::BalanceSheet, Some(class)) => trial[class as usize],
                    (StatementKind::IncomeStatement, Some(class)) if column.is_year_to_date() => {
                        trial[class as usize] - closed[class as usize][at]
                    }
                    (StatementKind::IncomeStatement, _) => continue,
                };
                let name = row.name.clone();
                ties.push(Tie { name, day, difference: amount - expected });
            }
        }
    }
    ties
}

/// What each class adds up to in the trial balance of the last day of each column: equity with the results of earlier
/// years, and a balance on the other side in the class of the line that is named for it.
fn trials(read: &Read<'_>) -> Vec<[i128; 5]> {
    let ends: Vec<_> = read.columns.iter().map(|column| column.last).collect();
    let (activity, chart) = (&read.today.activity, read.chart());
    let nets = match read.reading {
        Reading::AsPlanned => read.rehearsal.effects.nets_at(activity, &ends),
        Reading::AsPosted | Reading::AsItIs => activity.nets_at(&ends),
    };
    let has_sides = chart.structure().names_other_sides();
    let mut trials = vec![[0; 5]; ends.len()];
    for account in chart.live() {
        for (trial, net) in trials.iter_mut().zip(nets.get(&account.id).into_iter().flatten()) {
            let balance = balance_of(account, *net);
            let class = match account.class.on_balance_sheet() && has_sides {
                true => place_by_side(account, chart, balance).class,
                false => account.class,
            };
            trial[class as usize] += balance;
            trial[Class::Equity as usize] += net.to_date - balance;
        }
    }
    trials
}

/// What closing entries put on the accounts of each class in the months of each column.
fn closed(read: &Read<'_>) -> [Vec<i128>; 5] {
    let mut closed = std::array::from_fn(|_| vec![0; read.columns.len()]);
    for (piece, at) in &read.pieces {
        if let Some(account) = read.chart().get(read.bearers[*at].account) {
            add_to(&mut closed[account.class as usize], &piece.closed(read.columns));
        }
    }
    closed
}
