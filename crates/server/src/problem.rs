//! Errors as they leave the server: problem details of RFC 9457, with a stable code, a plain
//! sentence, and what they are about. What happened inside is logged, never sent.

use axum::Extension;
use axum::http::StatusCode;
use axum::response::{IntoResponse, Response};
use serde::Serialize;
use std::sync::Arc;
use zf_core::plan::Change;
use zf_intake::analysis::choices::NotKnown;
use zf_phrases::{Say, Style};
use zf_store::StoreError;
use zf_store::jobs::Failure;
use zf_store::plans::Conflict;
use zf_store::plans::applying::Against;
use zf_store::plans::applying::NotApplied;
use zf_wire::problem::{ConflictTexts, ConflictView, JobProblem, ProblemCode, RefusedField};
use zf_wire::rehearsal::FindingView;

/// Problem details.
#[derive(Debug, Serialize, utoipa::ToSchema)]
pub struct Problem {
    /// The HTTP status.
    pub status: u16,
    /// A stable code.
    pub code: ProblemCode,
    /// What is wrong, and the way out, in a plain sentence.
    pub detail: String,
    /// The fields that cannot be taken, with the reason for each.
    #[serde(skip_serializing_if = "Vec::is_empty")]
    pub refused: Vec<RefusedField>,
    /// The fields in which somebody else was first.
    #[serde(skip_serializing_if = "Vec::is_empty")]
    pub conflicts: Vec<ConflictView>,
    /// The stops or cautions that were found.
    #[serde(skip_serializing_if = "Vec::is_empty")]
    pub findings: Vec<FindingView>,
    /// By which the log of the server knows it.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub request: Option<String>,
    /// What happened inside; logged with the request, and never sent.
    #[serde(skip)]
    pub(crate) cause: Option<String>,
}

/// What is said of faults of the program.
pub(crate) const SORRY: &str =
    "something went wrong here; look whether this was done before you do it again";

impl From<Problem> for JobProblem {
    fn from(problem: Problem) -> Self {
        let Problem { status, code, detail, refused, .. } = problem;
        Self { status, code, detail, refused }
    }
}

impl From<Failure<JobProblem>> for Problem {
    fn from(failure: Failure<JobProblem>) -> Self {
        match failure {
            Failure::GivenUp => {
                let why = "the server stopped twice while it worked on this, so it is not tried again; \
                           nothing was stored";
                Self::new(StatusCode::INTERNAL_SERVER_ERROR, ProblemCode::GivenUp, why)
            }
            Failure::Said(kept) => kept.into(),
        }
    }
}

impl From<JobProblem> for Problem {
    fn from(kept: JobProblem) -> Self {
        let JobProblem { status, code, detail, refused } = kept;
        let (conflicts, findings) = (Vec::new(), Vec::new());
        let (request, cause) = (None, None);
        Self { status, code, detail, refused, conflicts, findings, request, cause }
    }
}

impl Problem {
    /// A problem with a status, a stable code and a sentence.
    pub fn new(status: StatusCode, code: ProblemCode, detail: impl ToString) -> Self {
        Self {
            status: status.as_u16(),
            code,
            detail: detail.to_string(),
            refused: Vec::new(),
            conflicts: Vec::new(),
            findings: Vec::new(),
            request: None,
            cause: None,
        }
    }

    pub(crate) fn internal(error: &dyn std::fmt::Display) -> Self {
        let cause = Some(error.to_string());
        Self { cause, ..Self::new(StatusCode::INTERNAL_SERVER_ERROR, ProblemCode::Internal, SORRY) }
    }

    /// The same for each of many who asked for one thing together.
    pub(crate) fn shared(problem: Arc<Self>) -> Self {
        Arc::try_unwrap(problem).unwrap_or_else(|problem| {
            let Self { status, code, .. } = *problem;
            let (detail, refused) = (problem.detail.clone(), Vec::new());
            let kept = JobProblem { status, code, detail, refused };
            Self { cause: problem.cause.clone(), ..Self::from(kept) }
        })
    }

    pub(crate) fn unreadable(code: ProblemCode, detail: impl ToString) -> Self {
        Self::new(StatusCode::UNPROCESSABLE_ENTITY, code, detail)
    }

    pub(crate) fn refused(refused: Vec<RefusedField>) -> Self {
        let detail = refused.first().map_or_else(String::new, |first| first.reason.clone());
        Self { refused, ..Self::unreadable(ProblemCode::FieldsRefused, detail) }
    }

    /// A problem with one field of a form.
    pub(crate) fn field(field: &str, reason: impl ToString) -> Self {
        let (field, reason) = (field.to_owned(), reason.to_string());
        Self::refused(vec![RefusedField { account: None, field, reason }])
    }

    /// Fields in which somebody else was first.
    pub(crate) fn conflicts(conflicts: Vec<Conflict>, say: &Say<'_>) -> Self {
        let words = |change: &Option<Change>| change.as_ref().map(|change| say.change(change));
        let view = |Conflict { about, by }: Conflict| ConflictView {
            texts: ConflictTexts {
                mine: words(&about.mine),
                theirs: words(&about.theirs),
                today: words(&about.today),
            },
            account: about.account.0,
            field: about.field,
            mine: about.mine,
            theirs: about.theirs,
            by,
            today: about.today,
        };
        let conflicts = conflicts.into_iter().map(view).collect();
        let detail = "somebody else changed this since you looked; nothing of yours was stored yet";
        Self { conflicts, ..Self::new(StatusCode::CONFLICT, ProblemCode::EditConflict, detail) }
    }
}

impl From<NotKnown> for Problem {
    fn from(choice: NotKnown) -> Self {
        Self::field(choice.field, choice.reason)
    }
}

impl From<StoreError> for Problem {
    fn from(error: StoreError) -> Self {
        match error {
            StoreError::NotFound(_) => {
                Self::new(StatusCode::NOT_FOUND, ProblemCode::NotFound, error)
            }
            StoreError::Refused(_) | StoreError::Taken(_) => {
                Self::new(StatusCode::CONFLICT, ProblemCode::Refused, error)
            }
            StoreError::Stays(blocker) => {
                let why = zf_phrases::rollback::blocker(&blocker, Style::default());
                Self::new(StatusCode::CONFLICT, ProblemCode::Refused, why)
            }
            StoreError::Busy(_) => Self::new(StatusCode::CONFLICT, ProblemCode::Busy, error),
            StoreError::Crowded => {
                Self::new(StatusCode::SERVICE_UNAVAILABLE, ProblemCode::Crowded, error)
            }
            StoreError::Ended(_) => Self::new(StatusCode::CONFLICT, ProblemCode::PlanEnded, error),
            StoreError::Stopped => {
                Self::new(StatusCode::CONFLICT, ProblemCode::StoppedByHand, error)
            }
            StoreError::StoredMeanwhile { .. } => {
                Self::new(StatusCode::CONFLICT, ProblemCode::StoredMeanwhile, error)
            }
            StoreError::Unstorable(_) => Self::unreadable(ProblemCode::Unstorable, error),
            StoreError::Away | StoreError::Broken => {
                Self::new(StatusCode::SERVICE_UNAVAILABLE, ProblemCode::DatabaseAway, error)
            }
            StoreError::Unknown => {
                Self::new(StatusCode::SERVICE_UNAVAILABLE, ProblemCode::OutcomeUnknown, error)
            }
            StoreError::Damaged(_)
            | StoreError::Database(_)
            | StoreError::Io(_)
            | StoreError::Migration(_) => Self::internal(&error),
        }
    }
}

fn worded(against: &Against) -> Vec<FindingView> {
    let names = against.names();
    let say = Say::to(against.forms, &names, against.today().currency);
    against.findings.iter().map(|finding| FindingView::of(finding, &say)).collect()
}

impl From<NotApplied> for Problem {
    fn from(error: NotApplied) -> Self {
        let detail = error.to_string();
        let conflict =
            |code, findings| Self { findings, ..Self::new(StatusCode::CONFLICT, code, &detail) };
        match error {
            NotApplied::Stopped(against) => conflict(ProblemCode::Stopped, worded(&against)),
            NotApplied::Changed => conflict(ProblemCode::ChangedSince, Vec::new()),
            NotApplied::Unread(against) => conflict(ProblemCode::CautionsUnread, worded(&against)),
            NotApplied::Nothing => conflict(ProblemCode::NothingToApply, Vec::new()),
            NotApplied::NotProved(_) => {
                let cause = Some("an application was rolled back".to_owned());
                Self {
                    cause,
                    ..Self::new(StatusCode::INTERNAL_SERVER_ERROR, ProblemCode::NotProved, detail)
                }
            }
            NotApplied::Store(error) => error.into(),
        }
    }
}

/// The answer is made whole, with the number of its request, on its way out.
impl IntoResponse for Problem {
    fn into_response(self) -> Response {
        let status = StatusCode::from_u16(self.status).unwrap_or(StatusCode::INTERNAL_SERVER_ERROR);
        (status, Extension(Arc::new(self))).into_response()
    }
}
