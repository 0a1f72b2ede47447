//! Imports: upload a file, see what it would bring in, agree or not.

use super::plans::{self, PlanView};
use crate::intake::{Looked, look, not_taken, stage as stage_crosswalk, store};
use crate::session::In;
use crate::{App, Problem};
use axum::Json;
use axum::extract::{Multipart, Path, State};
use axum::http::StatusCode;
use serde::{Deserialize, Serialize};
use zf_core::intake::columns::FileKind;
use zf_core::intake::layout::ColumnFound;

/// The most rejected rows that are listed.
const LISTED: usize = 500;

/// What a file would bring in.
#[derive(Serialize, utoipa::ToSchema)]
pub(crate) struct ImportView {
    id: i64,
    kind: &'static str,
    file_name: String,
    /// The sheet of a workbook that is read; empty for a text file.
    sheet: String,
    header_row: u32,
    columns: Vec<ColumnView>,
    unused: Vec<String>,
    sample: Vec<SampleRow>,
    ready_rows: usize,
    rejected_rows: usize,
    /// The first of the rejected rows.
    rejected: Vec<RejectedView>,
    /// Rows that were passed over, or taken with something worth knowing.
    warnings: Vec<WarningView>,
    notes: Vec<String>,
}

/// A recognised column.
#[derive(Serialize, utoipa::ToSchema)]
pub(crate) struct ColumnView {
    /// Where it stands, counted from 0.
    at: usize,
    /// What it means.
    meaning: String,
    /// What its heading says.
    heading: String,
}

/// A row of the file as it is.
#[derive(Serialize, utoipa::ToSchema)]
pub(crate) struct SampleRow {
    row: u32,
    cells: Vec<String>,
}

/// A row that cannot be taken.
#[derive(Serialize, utoipa::ToSchema)]
pub(crate) struct RejectedView {
    row: u32,
    column: Option<String>,
    value: String,
    /// The stable key of the reason.
    reason: &'static str,
    /// The reason in a plain sentence.
    message: String,
}

/// A row with something worth knowing.
#[derive(Serialize, utoipa::ToSchema)]
pub(crate) struct WarningView {
    row: u32,
    reason: &'static str,
    message: String,
}

fn view(id: i64, kind: FileKind, file_name: String, looked: Looked) -> ImportView {
    let layout = looked.reading.layout;
    let heading = |field| {
        let column = layout.columns.iter().find(|column| column.field == Some(field));
        column.map(|column| column.heading.clone())
    };
    let rejected = looked.rejected.iter().take(LISTED).map(|r| RejectedView {
        row: r.row,
        column: r.field.and_then(heading),
        value: r.value.clone(),
        reason: r.reason.key(),
        message: r.message.clone(),
    });
    let warnings = looked.warnings.iter().take(LISTED).map(|w| WarningView {
        row: w.row,
        reason: w.reason.key(),
        message: w.message.clone(),
    });
    let meaning = |column: &ColumnFound| match (column.field, &column.dimension) {
        (Some(field), _) => Some(field.words().to_owned()),
        (None, Some(name)) => Some(format!("Dimension {name}")),
        (None, None) => None,
    };
    let columns = layout.columns.iter().filter_map(|column| {
        let (at, heading) = (column.at, column.heading.clone());
        meaning(column).map(|meaning| ColumnView { at, meaning, heading })
    });
    ImportView {
        id,
        kind: kind.key(),
        file_name,
        sheet: looked.sheet,
        header_row: layout.header_row,
        columns: columns.collect(),
        unused: layout.unused().map(str::to_owned).collect(),
        sample: looked
            .sample
            .into_iter()
            .map(|row| SampleRow {
                row: row.number,
                cells: row.cells.into_iter().map(|cell| cell.text).collect(),
            })
            .collect(),
        ready_rows: looked.ready_rows,
        rejected_rows: looked.rejected.len(),
        rejected: rejected.collect(),
        warnings: warnings.collect(),
        notes: looked.notes,
    }
}

async fn show_upload(
    app: &App,
    member: zf_store::people::Member,
    id: i64,
) -> Result<ImportView, Problem> {
    let upload = app.store.upload(member, id).await?;
    let (kind, file_name) = (upload.kind, upload.file_name.clone());
    let looked = look(app, member, upload).await?;
    Ok(view(id, kind, file_name, looked))
}

/// A file with what it is.
#[derive(utoipa::ToSchema)]
#[expect(dead_code, reason = "only describes the form to the OpenAPI document")]
pub(crate) struct UploadForm {
    /// chart, journal or usage.
    kind: String,
    #[schema(format = Binary)]
    file: String,
}

/// Uploads a file and shows what it would bring in. Nothing is stored in the books.
#[utoipa::path(post, operation_id = "imports_upload", path = "/api/books/{books}/imports", params(("books" = i64, Path)),
    request_body(content = UploadForm, content_type = "multipart/form-data"),
    responses((status = 200, body = ImportView), (status = "4XX", body = Problem)))]
pub(crate) async fn upload(
    State(app): State<App>,
    In(member): In,
    mut form: Multipart,
) -> Result<Json<ImportView>, Problem> {
    let unreadable = |e: axum::extract::multipart::MultipartError| {
        let status = e.status();
        Problem::new(status, "upload_unreadable", e.body_text())
    };
    let (mut kind, mut file) = (None, None);
    while let Some(field) = form.next_field().await.map_err(unreadable)? {
        match field.name() {
            Some("kind") => kind = FileKind::from_key(&field.text().await.map_err(unreadable)?),
            Some("file") => {
                let name = field.file_name().unwrap_or("file").to_owned();
                file = Some((name, field.bytes().await.map_err(unreadable)?));
            }
            _ => {}
        }
    }
    let kind = kind.ok_or_else(|| Problem::field("kind", "say what the file is to bring in"))?;
    if kind == FileKind::Balances {
        return Err(not_taken());
    }
    let (name, content) = file.ok_or_else(|| Problem::field("file", "choose a file"))?;
    let id = app.store.keep_upload(member, kind, &name, &content).await?;
    let shown = show_upload(&app, member, id).await;
    if shown.is_err() {
        app.store.drop_upload(member, id).await?;
    }
    Ok(Json(shown?))
}

/// Shows again what a waiting file would bring in.
#[utoipa::path(get, operation_id = "imports_show", path = "/api/books/{books}/imports/{import}",
    params(("books" = i64, Path), ("import" = i64, Path)),
    responses((status = 200, body = ImportView), (status = "4XX", body = Problem)))]
pub(crate) async fn show(
    State(app): State<App>,
    In(member): In,
    Path((_, id)): Path<(i64, i64)>,
) -> Result<Json<ImportView>, Problem> {
    Ok(Json(show_upload(&app, member, id).await?))
}

/// What was stored.
#[derive(Serialize, utoipa::ToSchema)]
pub(crate) struct StoredView {
    rows: usize,
}

/// Agrees to a file: all that is ready is stored, or nothing.
#[utoipa::path(post, operation_id = "imports_agree", path = "/api/books/{books}/imports/{import}",
    params(("books" = i64, Path), ("import" = i64, Path)),
    responses((status = 200, body = StoredView), (status = "4XX", body = Problem)))]
pub(crate) async fn agree(
    State(app): State<App>,
    In(member): In,
    Path((_, id)): Path<(i64, i64)>,
) -> Result<Json<StoredView>, Problem> {
    let upload = app.store.upload(member, id).await?;
    let looked = look(&app, member, upload).await?;
    let rows = store(&app, member, id, looked).await?;
    Ok(Json(StoredView { rows }))
}

/// Which draft a crosswalk is staged in.
#[derive(Deserialize, utoipa::ToSchema)]
pub(crate) struct StageForm {
    plan: i64,
    /// Whether rows that are misfits are left out.
    leave_out: bool,
}

/// Stages a waiting crosswalk in a draft, and drops it.
#[utoipa::path(post, operation_id = "imports_stage", path = "/api/books/{books}/imports/{import}/stage",
    params(("books" = i64, Path), ("import" = i64, Path)), request_body = StageForm,
    responses((status = 200, body = PlanView), (status = "4XX", body = Problem)))]
pub(crate) async fn stage(
    State(app): State<App>,
    In(member): In,
    Path((_, id)): Path<(i64, i64)>,
    Json(form): Json<StageForm>,
) -> Result<Json<PlanView>, Problem> {
    let upload = app.store.upload(member, id).await?;
    let looked = look(&app, member, upload).await?;
    stage_crosswalk(&app, member, looked, form.plan, form.leave_out).await?;
    app.store.drop_upload(member, id).await?;
    plans::view(&app, member, form.plan).await
}

/// Drops a waiting file.
#[utoipa::path(delete, operation_id = "imports_discard", path = "/api/books/{books}/imports/{import}",
    params(("books" = i64, Path), ("import" = i64, Path)),
    responses((status = 204), (status = "4XX", body = Problem)))]
pub(crate) async fn discard(
    State(app): State<App>,
    In(member): In,
    Path((_, id)): Path<(i64, i64)>,
) -> Result<StatusCode, Problem> {
    app.store.drop_upload(member, id).await?;
    Ok(StatusCode::NO_CONTENT)
}
