//! What every total is tied to: the trial balance of the same day, which is drawn up without looking at lines of
//! statements, and zero, which the books add up to.

use super::columns::Months;
use super::pieces::pieces;
use super::statement::{Reading, RowKind, Statement, StatementKind, chart_of};
use crate::calendar::say_day;
use crate::chart::Class;
use crate::rehearsal::Rehearsal;
use crate::today::Today;
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
pub fn ties(
    today: &Today,
    rehearsal: &Rehearsal,
    reading: Reading,
    statements: &[Statement],
    columns: &[Months],
) -> Vec<Tie> {
    let mut ties = Vec::new();
    for (at, column) in columns.iter().enumerate() {
        let trial = trial(today, rehearsal, reading, column);
        let day = say_day(today.calendar.last_day(column.last));
        let closed = closed(today, rehearsal, reading, column);
        for statement in statements {
            for row in statement.rows.iter().filter(|row| row.kind == RowKind::Total) {
                let amount = row.amounts.get(at).copied().unwrap_or_default();
                let (name, expected) = match (statement.kind, row.class) {
                    (StatementKind::BalanceSheet, None) => (row.label.clone(), 0),
                    _ if reading == Reading::AsPosted => continue,
                    (StatementKind::BalanceSheet, Some(Class::Equity)) => {
                        let results = trial.class(Class::Income) + trial.class(Class::Expense);
                        (row.label.clone(), trial.class(Class::Equity) + results)
                    }
                    (StatementKind::BalanceSheet, Some(class)) => {
                        (row.label.clone(), trial.class(class))
                    }
                    (StatementKind::IncomeStatement, Some(class)) if column.is_year_to_date() => {
                        (row.label.clone(), trial.class(class) - closed[class as usize])
                    }
                    (StatementKind::IncomeStatement, _) => continue,
                };
                ties.push(Tie { name: format!("{name}, {day}"), difference: amount - expected });
            }
        }
    }
    ties
}

fn trial(today: &Today, rehearsal: &Rehearsal, reading: Reading, column: &Months) -> TrialBalance {
    let figures = match reading {
        Reading::AsPlanned => rehearsal.effects.figures_to(&today.activity, column.last),
        Reading::AsPosted | Reading::AsItIs => today.activity.figures_to(column.last),
    };
    trial_balance(chart_of(today, rehearsal, reading), &figures)
}

/// What closing entries put on the accounts of each class in the months of a column.
fn closed(today: &Today, rehearsal: &Rehearsal, reading: Reading, column: &Months) -> [i128; 5] {
    let mut closed = [0; 5];
    let chart = chart_of(today, rehearsal, reading);
    for piece in pieces(&today.activity, &rehearsal.effects) {
        let id = match reading {
            Reading::AsPlanned => piece.after,
            Reading::AsPosted | Reading::AsItIs => piece.strand.account,
        };
        if let Some(account) = chart.get(id) {
            closed[account.class as usize] += piece.closed(&[*column])[0];
        }
    }
    closed
}
