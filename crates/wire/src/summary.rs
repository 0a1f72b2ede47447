//! What there is to do in the books.

use serde::Serialize;

/// What one wants to know of a set of books before opening it.
#[derive(Serialize, utoipa::ToSchema)]
pub struct SummaryView {
    /// The day up to which figures are shown; none while nothing is posted.
    pub as_of: Option<String>,
    /// The day of the latest line.
    pub last_posted: Option<String>,
    pub plans: Vec<OpenPlanView>,
    /// How many groups of look-alikes the review finds that are worth a look, or more.
    pub look_alikes: usize,
    /// How many accounts it finds that are not used and can go.
    pub unused: usize,
    /// What else it finds and nobody said is right.
    pub remarks: usize,
    /// Who may see the books.
    pub people: Vec<String>,
}

/// A plan that is open.
#[derive(Serialize, utoipa::ToSchema)]
pub struct OpenPlanView {
    pub id: i64,
    pub name: String,
    pub person: String,
    /// How many accounts it changes.
    pub changes: usize,
    /// What stands in its way.
    pub stops: usize,
}
