//! Carries out what is to be done behind the requests, as long as a server runs.

use crate::boxed;
use crate::intake::look;
use crate::intake::settling::store;
use crate::intake::view::import_view;
use crate::metrics::JobOutcome;
use crate::{App, Problem};
use axum::http::StatusCode;
use std::sync::Arc;
use std::time::Duration;
use zf_core::access::Capability;
use zf_core::file_kind::FileKind;
use zf_core::ids::ImportId;
use zf_phrases::Style;
use zf_store::StoreError;
use zf_store::imports::uploads::Upload;
use zf_store::jobs::{Job, Outcome, Progress, State, Step, Task};
use zf_store::member::Member;
use zf_wire::imports::Agreed;
use zf_wire::imports::view::ImportView;
use zf_wire::problem::JobProblem;
use zf_wire::problem::ProblemCode;

/// How often a job says how far it is.
const BEAT: Duration = Duration::from_millis(300);

/// How many jobs a server does at once: one that is large does not keep others waiting.
pub(crate) const WORKERS: usize = 3;

/// The file was stored meanwhile, or removed.
pub(crate) const NO_LONGER: StoreError = StoreError::NotFound("waiting import");

/// Takes up jobs one after another, for as long as the server runs.
pub(crate) async fn run(app: App) {
    let _at_work = app.at_work();
    loop {
        match run_next(&app).await {
            Ok(true) => {}
            Ok(false) => app.wait_for_jobs().await,
            Err(error) => {
                tracing::error!(%error, "a job could not be taken up or ended");
                tokio::time::sleep(Duration::from_secs(5)).await;
            }
        }
    }
}

/// Does the oldest job that nobody is at. Returns whether there was one.
///
/// # Errors
/// When the store fails; what goes wrong with the job itself is kept with it.
#[boxed]
pub async fn run_next(app: &App) -> Result<bool, StoreError> {
    let Some(job) = app.store.take_job().await? else { return Ok(false) };
    let progress = Arc::new(Progress::default());
    let work = carry_out(app, &job, Arc::clone(&progress));
    tokio::pin!(work);
    let mut beats = tokio::time::interval(BEAT);
    let outcome = loop {
        tokio::select! {
            outcome = &mut work => break outcome,
            _ = beats.tick() => match app.store.beat(&job, &progress).await {
                Ok(true) => {}
                // Stopped, or taken for dead and taken over.
                Ok(false) => progress.stop(),
                Err(error) => tracing::warn!(%error, "a job could not say that it lives"),
            },
        }
    };
    app.metrics.job(if outcome.is_ok() { JobOutcome::Done } else { JobOutcome::Failed });
    if let Err(problem) = outcome {
        app.store.fail_job(&job, &JobProblem::from(problem)).await?;
    }
    Ok(true)
}

async fn carry_out(app: &App, job: &Job, progress: Arc<Progress>) -> Result<(), Problem> {
    match job.task {
        Task::File { import, step } => with_file(app, job, import, step, progress).await,
        Task::Recount { .. } => {
            let found = app.store.recount_for(job, &progress).await?;
            Ok(app.store.finish_job(job, &Outcome::Recounted(&found)).await?)
        }
    }
}

async fn with_file(
    app: &App,
    job: &Job,
    import: ImportId,
    step: Step,
    progress: Arc<Progress>,
) -> Result<(), Problem> {
    let member = app.store.member_of(job).await?;
    if !member.may(Capability::Import) {
        let why = "whoever brought this file in may not do so any more";
        return Err(Problem::new(StatusCode::FORBIDDEN, ProblemCode::NotYours, why));
    }
    let upload = match app.store.upload(member, import).await {
        // A server that died behind its commit could not say that it was done.
        Err(StoreError::NotFound(_)) => {
            return Ok(app.store.finish_job(job, &Outcome::Stored).await?);
        }
        upload => upload?,
    };
    match step {
        Step::Look => {
            let new = upload.is_new();
            let shown = show(app, member, upload, progress).await;
            if new && shown.as_ref().is_err_and(|p| p.status == StatusCode::UNPROCESSABLE_ENTITY) {
                app.store.drop_content(member, import).await?;
            }
            let (shown, revision) = shown?;
            Ok(app.store.finish_look(job, &shown, revision).await?)
        }
        Step::Store => {
            let agreed: Agreed = job.agreed()?;
            let looked = match app.looked_before(member, &upload).await? {
                Some(looked) => {
                    looked.count_as_done(&progress);
                    looked
                }
                None => look(app, member, upload, Arc::clone(&progress)).await?,
            };
            store(app, member, import, &looked, &agreed, &progress).await?;
            Ok(app.store.finish_job(job, &Outcome::Stored).await?)
        }
    }
}

/// Looks at a file, and says what is shown of it then and with which revision of the books.
async fn show(
    app: &App,
    member: Member,
    upload: Upload,
    progress: Arc<Progress>,
) -> Result<(ImportView, i64), Problem> {
    let (id, file_name) = (upload.id, upload.file_name.clone());
    let applied = match upload.kind {
        FileKind::Journal => app.store.applications(member).await?,
        _ => Vec::new(),
    };
    let looked = look(app, member, upload, progress).await?;
    let revision = looked.books.books.revision;
    let style = Style(member.forms());
    let view = move || (import_view(id, file_name, &looked, applied, style), looked);
    let (shown, looked) = crate::state::off_thread(view).await?;
    app.keep_looked(looked);
    Ok((shown, revision))
}

/// Looks at a file and stores it, without anybody to ask: every row of it must be ready. Returns how
/// many that were.
///
/// # Errors
/// When a row cannot be taken, or either step fails.
#[boxed]
pub async fn bring(app: &App, member: Member, import: ImportId) -> Result<i64, Problem> {
    do_now(app, member, import, Step::Look).await?;
    let (shown, _) = app.store.shown::<ImportView>(member, import).await?.ok_or(NO_LONGER)?;
    if let Some(rejected) = shown.rejected.first() {
        let message = format!("row {}: {}", rejected.place.row, rejected.message);
        return Err(Problem::unreadable(ProblemCode::RowsRejected, message));
    }
    Ok(do_now(app, member, import, Step::Store).await?.ok_or(NO_LONGER)?)
}

/// Queues a step and does what is queued until it is done, by this server or another. Returns how many rows were
/// stored, if that was the step.
async fn do_now(
    app: &App,
    member: Member,
    import: ImportId,
    step: Step,
) -> Result<Option<i64>, Problem> {
    app.store.queue_job(member, import, step, &Agreed::default()).await?;
    loop {
        if !run_next(app).await? {
            app.wait_for_jobs().await;
        }
        let job = app.store.job::<JobProblem>(member, import).await?;
        match (job.state, job.failure) {
            (State::Underway, _) => {}
            (State::Done, _) => return Ok(job.stored),
            (_, Some(failure)) => return Err(failure.into()),
            (_, None) => return Err(StoreError::Stopped.into()),
        }
    }
}
