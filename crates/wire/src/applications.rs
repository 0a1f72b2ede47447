//! Plans that were applied, with their proofs.

use crate::plans::report::ReportView;
use crate::rehearsal::ChangeCount;
use serde::{Deserialize, Serialize};

/// What one saw and agrees to.
#[derive(Deserialize, utoipa::ToSchema)]
pub struct AgreementForm {
    /// The fingerprint of the rehearsal.
    pub fingerprint: String,
    /// The keys of the cautions that one has read.
    pub acknowledged: Vec<String>,
    /// The revision of the plan that one saw; an undo has none.
    pub revision: Option<i64>,
}

/// The proof of an applied plan.
#[derive(Serialize, utoipa::ToSchema)]
pub struct ProofView {
    pub id: i64,
    pub name: String,
    pub person: String,
    pub applied_at: String,
    pub undo_of: Option<i64>,
    pub undone_by: Option<i64>,
    /// When all lines were recounted; none while that goes on.
    pub recounted_at: Option<String>,
    /// What the recount found wrong.
    pub recount_misses: Vec<String>,
    /// How many accounts changed in each way.
    pub counts: Vec<ChangeCount>,
    pub report: ReportView,
}

/// A rehearsed undo.
#[derive(Serialize, utoipa::ToSchema)]
pub struct UndoView {
    pub fingerprint: String,
    pub report: ReportView,
}
