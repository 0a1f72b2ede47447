//! The trial balance as it is shown.

use serde::Serialize;
use zf_core::chart::Class;
use zf_core::reports::reading::{Read, Reading};
use zf_core::reports::trial::{TrialColumn, TrialFigure, TrialForm, TrialLine, trial};
use zf_core::today::Today;

/// A trial balance.
#[derive(Serialize, utoipa::ToSchema)]
pub(crate) struct TrialView {
    form: TrialForm,
    reading: Reading,
    /// None when nothing was posted.
    columns: Vec<TrialColumnView>,
    rows: Vec<TrialRowView>,
    /// What each class adds up to in each column.
    classes: Vec<TrialClassView>,
    /// What each column adds up to.
    totals: Vec<String>,
    /// How many accounts are left out because nothing stands there.
    left_out: usize,
}

/// What a class adds up to.
#[derive(Serialize, utoipa::ToSchema)]
pub(crate) struct TrialClassView {
    class: Class,
    amounts: Vec<String>,
}

/// A column of a trial balance.
#[derive(Serialize, utoipa::ToSchema)]
pub(crate) struct TrialColumnView {
    figure: TrialFigure,
    /// The first day of what moved; none of what stands there.
    from: Option<String>,
    /// The last day that counts.
    until: String,
    /// The day from which income and expenses count.
    since: String,
}

/// An account of a trial balance.
#[derive(Serialize, utoipa::ToSchema)]
pub(crate) struct TrialRowView {
    /// None for the results of earlier years.
    account: Option<i64>,
    code: String,
    name: String,
    class: Class,
    /// Debits are positive; of a column of credits, credits.
    amounts: Vec<String>,
}

impl TrialView {
    pub(super) fn of(read: &Read<'_>, form: TrialForm, zeros: bool) -> Self {
        let today = read.today();
        let trial = trial(read, form, zeros);
        let say = |amounts: &[i128]| amounts.iter().map(|a| today.currency.format(*a)).collect();
        let row = |row: TrialLine| TrialRowView {
            account: row.account.map(|account| account.0),
            amounts: say(&row.amounts),
            code: row.code,
            name: row.name,
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
    fn of(today: &Today, column: &TrialColumn) -> Self {
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
