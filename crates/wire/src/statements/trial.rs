//! The trial balance in the columns of the statements.

use serde::Serialize;
use zf_core::chart::Class;
use zf_core::reports::reading::{Read, Reading};
use zf_core::reports::trial::{TrialColumn, TrialFigure, TrialForm, TrialLine, trial};
use zf_core::today::Today;
use zf_phrases::reports;

/// A trial balance.
#[derive(Serialize, utoipa::ToSchema)]
pub struct TrialView {
    pub form: TrialForm,
    pub reading: Reading,
    /// None when nothing was posted.
    pub columns: Vec<TrialColumnView>,
    pub rows: Vec<TrialRowView>,
    /// What each class adds up to in each column.
    pub classes: Vec<TrialClassView>,
    /// What each column adds up to.
    pub totals: Vec<String>,
    /// How many accounts are left out because nothing stands there.
    pub left_out: usize,
}

/// What a class adds up to.
#[derive(Serialize, utoipa::ToSchema)]
pub struct TrialClassView {
    pub class: Class,
    pub amounts: Vec<String>,
}

/// A column of a trial balance.
#[derive(Serialize, utoipa::ToSchema)]
pub struct TrialColumnView {
    pub figure: TrialFigure,
    /// The first day of what moved; none of what stands there.
    pub from: Option<String>,
    /// The last day that counts.
    pub until: String,
    /// The day from which income and expenses count.
    pub since: String,
}

/// An account of a trial balance.
#[derive(Serialize, utoipa::ToSchema)]
pub struct TrialRowView {
    /// None for the results of earlier years.
    pub account: Option<i64>,
    pub code: String,
    pub name: String,
    pub class: Class,
    /// Debits are positive; of a column of credits, credits.
    pub amounts: Vec<String>,
}

impl TrialView {
    pub fn of(read: &Read<'_>, form: TrialForm, zeros: bool) -> Self {
        let today = read.today();
        let trial = trial(read, form, zeros);
        let say = |amounts: &[i128]| amounts.iter().map(|a| today.currency.format(*a)).collect();
        let row = |row: TrialLine| TrialRowView {
            account: row.account.map(|account| account.0),
            amounts: say(&row.amounts),
            name: reports::trial_row(&row).to_owned(),
            code: row.code,
            class: row.class,
        };
        Self {
            form,
            reading: read.reading(),
            columns: trial
                .columns
                .iter()
                .map(|column| TrialColumnView::of(today, column))
                .collect(),
            totals: say(&trial.totals),
            classes: trial
                .classes
                .iter()
                .map(|(class, amounts)| TrialClassView { class: *class, amounts: say(amounts) })
                .collect(),
            rows: trial.rows.into_iter().map(row).collect(),
            left_out: trial.left_out,
        }
    }
}

impl TrialColumnView {
    pub fn of(today: &Today, column: &TrialColumn) -> Self {
        let first = |period| today.calendar.first_day(period).to_string();
        let TrialColumn { figure, months, since } = *column;
        let moves =
            matches!(figure, TrialFigure::Debits | TrialFigure::Credits | TrialFigure::Movement);
        Self {
            figure,
            from: moves.then(|| first(months.first)),
            until: today.calendar.last_day(column.until()).to_string(),
            since: first(since),
        }
    }
}
