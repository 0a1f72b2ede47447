//! Imports: upload a file, see what it would bring in, agree or not.

pub(crate) mod following;

use super::plans::{self};
use crate::extract::Form;
use crate::files::saved;
use crate::intake::{Wanted, choose_anew, look, stage as stage_file};
use crate::session::In;
use crate::values::{accounts_of, day};
use crate::{App, Problem};
use axum::Json;
use axum::extract::multipart::{Field as FormField, MultipartError};
use axum::extract::{Multipart, Path, State};
use axum::http::StatusCode;
use axum::response::Response;
use following::{Answer, follow, look_at};
use std::collections::BTreeSet;
use std::error::Error;
use std::iter::successors;
use std::sync::Arc;
use tower_http::timeout::TimeoutError;
use zf_core::chart::Chart;
use zf_core::file_kind::FileKind;
use zf_core::ids::{BooksId, ImportId, PlanId};
use zf_core::plan::Fate;
use zf_core::text;
use zf_exports::rejected;
use zf_intake::analysis::choices::Choices;
use zf_intake::compare::Taken;
use zf_intake::rows::Rows;
use zf_phrases::{Style, rollback};
use zf_sheets::Format;
use zf_store::jobs::{State as JobStands, Step};
use zf_store::member::Member;
use zf_wire::imports::view::ImportView;
use zf_wire::imports::{
    AgreeForm, Agreed, ProgressView, RollbackView, StageForm, StoredFileView, StoredView,
    UploadForm,
};
use zf_wire::plans::PlanView;
use zf_wire::problem::ProblemCode;
use zf_wire::values::instant;

/// How much of a file is kept in one piece.
const PIECE: usize = 1 << 20;

/// Uploads a file and shows what it would bring in. Nothing is stored in the books.
#[utoipa::path(post, operation_id = "imports_upload", path = "/api/books/{books}/imports", params(("books" = i64, Path)),
    request_body(content = UploadForm, content_type = "multipart/form-data"),
    responses((status = 200, body = ImportView), (status = 202, body = ProgressView), (status = "4XX", body = Problem)))]
pub(crate) async fn upload(
    State(app): State<App>,
    In(member): In,
    mut form: Multipart,
) -> Result<Answer, Problem> {
    let (mut kind, most) = (None, app.config.upload());
    let unreadable = |error| unreadable(&error, most);
    while let Some(field) = form.next_field().await.map_err(unreadable)? {
        match field.name() {
            Some("kind") => kind = FileKind::from_key(&field.text().await.map_err(unreadable)?),
            Some("file") => {
                let kind =
                    kind.ok_or_else(|| Problem::field("kind", "say what the file is to import"))?;
                let name = text::file_name(field.file_name().unwrap_or_default())
                    .map_err(|why| Problem::field("file", why))?;
                let id = app.store.begin_upload(member, kind, &name).await?;
                let mut coming = Coming { app: app.clone(), member, id, ended: false };
                let shown = coming.take_in(field).await;
                if shown.is_err() {
                    app.store.drop_upload(member, id).await?;
                }
                coming.ended = true;
                return shown;
            }
            _ => {}
        }
    }
    Err(Problem::field("file", "choose a file"))
}

/// What is wrong with an upload that may have so many bytes.
fn unreadable(error: &MultipartError, most: usize) -> Problem {
    match error.status() {
        StatusCode::PAYLOAD_TOO_LARGE => {
            let limit = format!("the file is larger than {} MB; split it", most >> 20);
            Problem::new(StatusCode::PAYLOAD_TOO_LARGE, ProblemCode::UploadTooLarge, limit)
        }
        // Whoever sends it stopped or left, which is no fault of the server.
        _ if stalled(error) => {
            let late = "nothing came of the file for too long; send it again";
            Problem::new(StatusCode::REQUEST_TIMEOUT, ProblemCode::TooSlow, late)
        }
        status if status.is_server_error() => {
            let broken = "the file did not arrive whole; send it again";
            Problem::new(StatusCode::BAD_REQUEST, ProblemCode::UploadUnreadable, broken)
        }
        status => Problem::new(status, ProblemCode::UploadUnreadable, error.body_text()),
    }
}

/// Whether an upload ended because nothing came of it any more.
fn stalled(error: &MultipartError) -> bool {
    let first: Option<&(dyn Error + 'static)> = Some(error);
    successors(first, |error| (*error).source()).any(|error| error.is::<TimeoutError>())
}

/// A file that is on its way. What came of it is dropped when the client goes before it is answered.
struct Coming {
    app: App,
    member: Member,
    id: ImportId,
    ended: bool,
}

impl Coming {
    /// Keeps the file as it comes, piece by piece, and has it looked at.
    async fn take_in(&self, mut file: FormField<'_>) -> Result<Answer, Problem> {
        let Self { app, member, id, .. } = self;
        let mut piece = Vec::with_capacity(PIECE);
        let mut pieces = 0..;
        let mut keep = async |piece: &[u8]| {
            let number = pieces.next().unwrap_or(i32::MAX);
            app.store.add_piece(*member, *id, number, piece).await
        };
        while let Some(chunk) =
            file.chunk().await.map_err(|e| unreadable(&e, app.config.upload()))?
        {
            piece.extend_from_slice(&chunk);
            if piece.len() >= PIECE {
                keep(&piece).await?;
                piece.clear();
            }
        }
        keep(&piece).await?;
        look_at(app, *member, *id).await
    }
}

impl Drop for Coming {
    fn drop(&mut self) {
        if self.ended {
            return;
        }
        let (app, member, id) = (self.app.clone(), self.member, self.id);
        tokio::spawn(async move {
            if let Err(error) = app.store.drop_upload(member, id).await {
                tracing::warn!(%error, "a file that did not come whole could not be dropped");
            }
        });
    }
}

/// Shows again what a waiting file would bring in.
#[utoipa::path(get, operation_id = "imports_show", path = "/api/books/{books}/imports/{import}",
    params(("books" = i64, Path), ("import" = i64, Path)),
    responses((status = 200, body = ImportView), (status = 202, body = ProgressView), (status = "4XX", body = Problem)))]
pub(crate) async fn show(
    State(app): State<App>,
    In(member): In,
    Path((_, id)): Path<(BooksId, ImportId)>,
) -> Result<Answer, Problem> {
    // That it is there is said before anything else.
    app.store.upload(member, id).await?;
    let shown = app.store.shown(member, id).await?;
    if let Some((shown, revision)) = shown
        && revision == app.store.revision(member).await?
    {
        return Ok(Answer::Shown(Box::new(shown)));
    }
    match app.store.job(member, id).await {
        Ok(job) if job.state == JobStands::Underway && job.step == Step::Store => {
            Ok(Answer::underway(id, job))
        }
        Ok(job) if job.state == JobStands::Underway => follow(&app, member, id).await,
        // Whoever wants it read again says how, by choosing.
        Ok(job) if job.state == JobStands::Failed && job.step == Step::Look => {
            follow(&app, member, id).await
        }
        _ => look_at(&app, member, id).await,
    }
}

/// Chooses how a waiting file is read, and shows what it would bring in then.
#[utoipa::path(put, operation_id = "imports_choose", path = "/api/books/{books}/imports/{import}",
    params(("books" = i64, Path), ("import" = i64, Path)), request_body = Choices,
    responses((status = 200, body = ImportView), (status = 202, body = ProgressView), (status = "4XX", body = Problem)))]
pub(crate) async fn choose(
    State(app): State<App>,
    In(member): In,
    Path((_, id)): Path<(BooksId, ImportId)>,
    Form(choices): Form<Choices>,
) -> Result<Answer, Problem> {
    let upload = app.store.upload(member, id).await?;
    choose_anew(&app, member, &upload, choices).await?;
    look_at(&app, member, id).await
}

/// Hands over the rows that cannot be taken, with the reasons, to be corrected in a spreadsheet and
/// brought in again.
#[utoipa::path(get, operation_id = "imports_rejected", path = "/api/books/{books}/imports/{import}/rejected.xlsx",
    params(("books" = i64, Path), ("import" = i64, Path)),
    responses((status = 200, content_type = "application/octet-stream"), (status = "4XX", body = Problem)))]
pub(crate) async fn rejected(
    State(app): State<App>,
    In(member): In,
    Path((_, id)): Path<(BooksId, ImportId)>,
) -> Result<Response, Problem> {
    let upload = app.store.upload(member, id).await?;
    let name = upload.file_name.rsplit_once('.').map_or(&*upload.file_name, |(stem, _)| stem);
    let name = format!("{name}, rejected rows");
    let looked = look(&app, member, upload, Arc::default()).await?;
    let tables = rejected::tables(&looked.table, &looked.analysis.rejected);
    saved(&name, Format::Xlsx, tables).await
}

fn agreed_of(form: &AgreeForm) -> Result<Agreed, Problem> {
    let date = day("date", form.date.as_deref())?;
    Ok(Agreed { again: form.again, date, take_gap: form.take_gap })
}

/// Agrees to a file: all that is ready is stored, or nothing.
#[utoipa::path(post, operation_id = "imports_agree", path = "/api/books/{books}/imports/{import}",
    params(("books" = i64, Path), ("import" = i64, Path)), request_body = AgreeForm,
    responses((status = 200, body = StoredView), (status = 202, body = ProgressView), (status = "4XX", body = Problem)))]
pub(crate) async fn agree(
    State(app): State<App>,
    In(member): In,
    Path((_, id)): Path<(BooksId, ImportId)>,
    Form(form): Form<AgreeForm>,
) -> Result<Answer, Problem> {
    app.store.upload(member, id).await?;
    app.store.queue_job(member, id, Step::Store, &agreed_of(&form)?).await?;
    app.wake();
    follow(&app, member, id).await
}

fn wanted_of(form: StageForm, chart: &Chart, rows: &dyn Rows) -> Result<Wanted, Problem> {
    let left_out = accounts_of(chart, "without_accounts", form.without_accounts)?;
    let without_rows: BTreeSet<u32> = form.without_rows.into_iter().collect();
    let there = rows.numbered(&without_rows);
    if let Some(row) = without_rows.iter().find(|row| !there.contains_key(row)) {
        return Err(Problem::field("without_rows", format!("the file has no row {row}")));
    }
    let taken = Taken {
        new: form.new,
        changed: form.changed,
        missing: form.missing.map(Fate::from),
        without_rows: without_rows.into_iter().collect(),
        without_accounts: left_out.into_iter().collect(),
    };
    Ok(Wanted { plan: PlanId(form.plan), leave_out: form.leave_out, moves: form.moves, taken })
}

/// Stages a waiting crosswalk, or what a chart says otherwise than the books, in a draft.
#[utoipa::path(post, operation_id = "imports_stage", path = "/api/books/{books}/imports/{import}/stage",
    params(("books" = i64, Path), ("import" = i64, Path)), request_body = StageForm,
    responses((status = 200, body = PlanView), (status = "4XX", body = Problem)))]
pub(crate) async fn stage(
    State(app): State<App>,
    In(member): In,
    Path((_, id)): Path<(BooksId, ImportId)>,
    Form(form): Form<StageForm>,
) -> Result<Json<PlanView>, Problem> {
    let upload = app.store.upload(member, id).await?;
    let looked = look(&app, member, upload, Arc::default()).await?;
    let wanted = wanted_of(form, &looked.books.today.chart, &*looked.table.rows)?;
    stage_file(&app, member, id, &looked, &wanted).await?;
    plans::view(&app, member, wanted.plan).await
}

/// Lists the files that were stored or staged, the latest first.
#[utoipa::path(get, operation_id = "imports_list", path = "/api/books/{books}/imports", params(("books" = i64, Path)),
    responses((status = 200, body = Vec<StoredFileView>), (status = "4XX", body = Problem)))]
pub(crate) async fn list(
    State(app): State<App>,
    In(member): In,
) -> Result<Json<Vec<StoredFileView>>, Problem> {
    let files = app.store.stored_files(member).await?.into_iter().map(|file| StoredFileView {
        id: file.id.0,
        kind: FileKind::from_key(&file.kind).map_or("file", FileKind::words),
        file_name: file.file_name,
        person: file.person,
        at: instant(file.stored_at),
        rows: file.rows,
        rolled_back_at: file.rolled_back_at.map(instant),
    });
    Ok(Json(files.collect()))
}

/// Shows what taking a stored file back would take, and what stands in the way.
#[utoipa::path(get, operation_id = "imports_rollback_preview", path = "/api/books/{books}/imports/{import}/rollback",
    params(("books" = i64, Path), ("import" = i64, Path)),
    responses((status = 200, body = RollbackView), (status = "4XX", body = Problem)))]
pub(crate) async fn rollback_preview(
    State(app): State<App>,
    In(member): In,
    Path((_, id)): Path<(BooksId, ImportId)>,
) -> Result<Json<RollbackView>, Problem> {
    let (brought, blockers) = app.store.rollback_preview(member, id).await?;
    let style = Style(member.forms());
    Ok(Json(RollbackView {
        accounts: brought.accounts.len(),
        entries: brought.entries,
        lines: brought.lines.values().sum(),
        uses: brought.uses,
        blockers: blockers.iter().map(|blocker| rollback::blocker(blocker, style)).collect(),
    }))
}

/// Takes a stored file back, if nothing was built on it.
#[utoipa::path(delete, operation_id = "imports_roll_back", path = "/api/books/{books}/imports/{import}/rollback",
    params(("books" = i64, Path), ("import" = i64, Path)),
    responses((status = 204), (status = "4XX", body = Problem)))]
pub(crate) async fn roll_back(
    State(app): State<App>,
    In(member): In,
    Path((_, id)): Path<(BooksId, ImportId)>,
) -> Result<StatusCode, Problem> {
    app.store.roll_back(member, id).await?;
    Ok(StatusCode::NO_CONTENT)
}

/// Drops a waiting file, with whatever is being done with it.
#[utoipa::path(delete, operation_id = "imports_discard", path = "/api/books/{books}/imports/{import}",
    params(("books" = i64, Path), ("import" = i64, Path)),
    responses((status = 204), (status = "4XX", body = Problem)))]
pub(crate) async fn discard(
    State(app): State<App>,
    In(member): In,
    Path((_, id)): Path<(BooksId, ImportId)>,
) -> Result<StatusCode, Problem> {
    app.store.drop_upload(member, id).await?;
    Ok(StatusCode::NO_CONTENT)
}
