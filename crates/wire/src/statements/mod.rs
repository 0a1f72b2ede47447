//! Statements and the trial balance.

pub mod trial;
pub mod view;

use serde::Deserialize;
use zf_core::reports::columns::{Beside, Span};
use zf_core::reports::reading::Reading;
use zf_core::reports::trial::TrialForm;

/// Which form of the trial balance.
#[derive(Deserialize, utoipa::IntoParams)]
#[into_params(parameter_in = Query)]
pub struct TrialQuery {
    /// The form; balances when it is not said.
    pub form: Option<TrialForm>,
    /// Whether accounts are listed on which nothing stands.
    pub zeros: Option<bool>,
}

/// Which columns, and how the history is read.
#[derive(Deserialize, utoipa::IntoParams)]
#[into_params(parameter_in = Query)]
pub struct StatementsQuery {
    /// The plan that is looked at; without one After is as today.
    pub plan: Option<i64>,
    /// Under what the history is read: as the plan would leave it when there is one and nothing is said.
    pub reading: Option<Reading>,
    /// A reading that stands beside it.
    pub against: Option<Reading>,
    /// How much time a column holds; a fiscal year when it is not said.
    pub span: Option<Span>,
    /// What stands beside the latest; those before it when it is not said.
    pub beside: Option<Beside>,
    /// How many columns, 3 when it is not said.
    pub count: Option<usize>,
    /// The last day: the end of its period. The as-of date of the books when it is not said.
    pub until: Option<String>,
    /// Whether figures are in thousands, each rounded from the exact one.
    pub in_thousands: Option<bool>,
}
