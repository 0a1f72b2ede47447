//! What every total is tied to: the trial balance of the same day, which is drawn up without looking at lines of
//! statements, and zero, which the books add up to.

use super::reading::{Read, Reading, add_to, place_by_side};
use super::statement::{RowKind, Statement, StatementKind};
use crate::calendar::say_day;
use crate::chart::Class;
use crate::trial_balance::{TrialBalance, trial_balance};

/// A total and what it should be.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct Tie {
    /// Of what, and on which day.
    pub name: String,
    /// By how much the total is more, in minor units of the base currency.
    pub difference: i128,
}

/// The ties of statements to the trial balance of the chart that they were read under. Income and expenses tie in the
/// columns that hold a fiscal year up to a day, together with what closing entries took out of the accounts. No trial
/// balance is kept under what lines were posted under: there only the whole is tied to zero.
pub fn ties(read: &Read<'_>, statements: &[Statement]) -> Vec<Tie> {
    let mut ties = Vec::new();
    let closed = closed(read);
    for (at, column) in read.columns.iter().enumerate() {
        let trial = trial(read, at);
        let other_side = other_side(read, &trial);
        let day = say_day(read.today.calendar.last_day(column.last));
        for statement in statements {
            for row in statement.rows.iter().filter(|row| row.kind == RowKind::Total) {
                let amount = row.amounts.get(at).copied().unwrap_or_default();
                let expected = match (statement.kind, row.class) {
                    (StatementKind::BalanceSheet, None) => 0,
                    _ if read.reading == Reading::AsPosted => continue,
                    (StatementKind::BalanceSheet, Some(Class::Equity)) => {
                        let results = trial.class(Class::Income) + trial.class(Class::Expense);
                        let equity =
                            trial.class(Class::Equity) + other_side[Class::Equity as usize];
                        equity + results
                    }
                    (StatementKind::BalanceSheet, Some(class)) => {
                        trial.class(class) + other_side[class as usize]
                    }
                    (StatementKind::IncomeStatement, Some(class)) if column.is_year_to_date() => {
                        trial.class(class) - closed[class as usize][at]
                    }
                    (StatementKind::IncomeStatement, _) => continue,
                };
                let name = format!("{}, {day}", row.label);
                ties.push(Tie { name, difference: amount - expected });
            }
        }
    }
    ties
}

fn trial(read: &Read<'_>, at: usize) -> TrialBalance {
    let (activity, last) = (&read.today.activity, read.columns[at].last);
    let figures = match read.reading {
        Reading::AsPlanned => read.rehearsal.effects.figures_to(activity, last),
        Reading::AsPosted | Reading::AsItIs => activity.figures_to(last),
    };
    trial_balance(read.chart(), &figures)
}

/// What comes to each class because a balance is on the other side than its line is for.
fn other_side(read: &Read<'_>, trial: &TrialBalance) -> [i128; 5] {
    let mut comes = [0; 5];
    for row in trial.rows.iter().filter(|row| row.class.on_balance_sheet()) {
        if let Some(account) = read.chart().get(row.account) {
            let place = place_by_side(account, read.chart(), row.balance);
            comes[row.class as usize] -= row.balance;
            comes[place.class as usize] += row.balance;
        }
    }
    comes
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
