//! What is being done with a waiting file: how far it is, and what came of it.

use crate::jobs::NO_LONGER;
use crate::session::In;
use crate::{App, Problem};
use axum::Json;
use axum::extract::{Path, State};
use axum::http::StatusCode;
use axum::response::{IntoResponse, Response};
use std::time::Duration;
use tokio::time::Instant;
use zf_core::ids::{BooksId, ImportId};
use zf_store::jobs::{Failure, JobState, State as Stands, Step};
use zf_store::member::Member;
use zf_wire::imports::view::ImportView;
use zf_wire::imports::{ProgressState, ProgressView, StoredView};
use zf_wire::problem::JobProblem;
use zf_wire::problem::ProblemCode;

/// How long an answer waits for what is being done: a small file is answered at once, and of a large
/// one the page shows how far it is.
const PATIENCE: Duration = Duration::from_millis(1_500);

/// How often it is looked whether it was done.
const POLL: Duration = Duration::from_millis(20);

/// What came of something that is done with a file, or how far it is.
pub(crate) enum Answer {
    Shown(Box<ImportView>),
    Stored(StoredView),
    Underway(Box<ProgressView>),
}

impl Answer {
    pub(super) fn underway(id: ImportId, job: JobState<JobProblem>) -> Self {
        Self::Underway(Box::new(progress_view(id, job)))
    }
}

impl IntoResponse for Answer {
    fn into_response(self) -> Response {
        match self {
            Self::Shown(view) => Json(view).into_response(),
            Self::Stored(view) => Json(view).into_response(),
            Self::Underway(progress) => (StatusCode::ACCEPTED, Json(progress)).into_response(),
        }
    }
}

fn progress_view(id: ImportId, job: JobState<JobProblem>) -> ProgressView {
    let [rows_read, rows_checked, rows_stored] = job.rows;
    ProgressView {
        id: id.0,
        kind: job.kind,
        file_name: job.file_name,
        storing: job.step == Step::Store,
        state: match job.state {
            Stands::Underway => ProgressState::Underway,
            Stands::Done => ProgressState::Done,
            Stands::Failed => ProgressState::Failed,
            Stands::Cancelled => ProgressState::Cancelled,
        },
        rows_read,
        rows_checked,
        rows_stored,
        stored: job.stored,
        message: job.failure.map(|failure| Problem::from(failure).detail),
    }
}

/// Has a file looked at.
pub(super) async fn look_at(app: &App, member: Member, id: ImportId) -> Result<Answer, Problem> {
    app.store.queue_job(member, id, Step::Look, &()).await?;
    app.wake();
    follow(app, member, id).await
}

/// Waits a little for what is being done with a file.
pub(super) async fn follow(app: &App, member: Member, id: ImportId) -> Result<Answer, Problem> {
    let until = Instant::now() + PATIENCE;
    loop {
        let job = app.store.job::<JobProblem>(member, id).await?;
        match job.state {
            Stands::Underway if Instant::now() < until => tokio::time::sleep(POLL).await,
            Stands::Underway => return Ok(Answer::underway(id, job)),
            Stands::Failed => return Err(job.failure.unwrap_or(Failure::GivenUp).into()),
            Stands::Cancelled => {
                let stopped = "it was stopped; nothing of it was stored";
                return Err(Problem::new(
                    StatusCode::CONFLICT,
                    ProblemCode::StoppedByHand,
                    stopped,
                ));
            }
            Stands::Done if job.step == Step::Store => {
                let rows = job.stored.ok_or(NO_LONGER)?;
                return Ok(Answer::Stored(StoredView { rows }));
            }
            Stands::Done => {
                let (shown, _) = app.store.shown(member, id).await?.ok_or(NO_LONGER)?;
                return Ok(Answer::Shown(Box::new(shown)));
            }
        }
    }
}

/// Says how far things are with a file.
#[utoipa::path(get, operation_id = "imports_progress", path = "/api/books/{books}/imports/{import}/progress",
    params(("books" = i64, Path), ("import" = i64, Path)),
    responses((status = 200, body = ProgressView), (status = "4XX", body = Problem)))]
pub(crate) async fn progress(
    State(app): State<App>,
    In(member): In,
    Path((_, id)): Path<(BooksId, ImportId)>,
) -> Result<Json<ProgressView>, Problem> {
    Ok(Json(progress_view(id, app.store.job(member, id).await?)))
}

/// Stops what is being done with a file. Nothing is stored of it, unless that was done already; the
/// file waits on.
#[utoipa::path(delete, operation_id = "imports_cancel", path = "/api/books/{books}/imports/{import}/progress",
    params(("books" = i64, Path), ("import" = i64, Path)),
    responses((status = 204), (status = "4XX", body = Problem)))]
pub(crate) async fn cancel(
    State(app): State<App>,
    In(member): In,
    Path((_, id)): Path<(BooksId, ImportId)>,
) -> Result<StatusCode, Problem> {
    app.store.cancel_job(member, id).await?;
    Ok(StatusCode::NO_CONTENT)
}
