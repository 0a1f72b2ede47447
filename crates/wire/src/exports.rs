//! What is asked of a file that is handed out.

use serde::Deserialize;
use zf_core::ids::PlanId;

/// Which part of a journal, or which plan.
#[derive(Deserialize, utoipa::IntoParams)]
#[into_params(parameter_in = Query)]
pub struct ExportQuery {
    /// The account whose lines are wanted; all when missing.
    pub account: Option<i64>,
    /// The first day.
    pub from: Option<String>,
    /// The last day.
    pub to: Option<String>,
    /// The draft whose crosswalk is wanted.
    #[param(value_type = Option<i64>)]
    pub plan: Option<PlanId>,
    /// Whether a chart is wanted with the codes that are only proposed; with them when missing.
    pub proposed: Option<bool>,
}
