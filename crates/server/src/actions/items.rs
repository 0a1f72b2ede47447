//! The items of the books' own statements: a place to add, rename, order, retire and merge them.

use super::plans::stage;
use crate::extract::Form;
use crate::session::In;
use crate::state::off_thread;
use crate::{App, Problem};
use axum::Json;
use axum::extract::{Multipart, Path, State};
use std::collections::BTreeMap;
use zf_core::ids::{BooksId, PlanId};
use zf_core::items::listed::asked;
use zf_core::items::{NotAnItem, carry_out, merged};
use zf_core::plan::edit::{Edit, Wanted};
use zf_core::today::Today;
use zf_intake::items::read;
use zf_phrases::intake::not_listed;
use zf_sheets::How;
use zf_wire::items::{
    ItemEditsForm, ItemListForm, ItemListView, ItemMerge, ItemMerges, RefusedRow,
    StatementItemsView,
};
use zf_wire::plans::EditedView;
use zf_wire::problem::ProblemCode;

/// Shows the statement items, retired ones too.
#[utoipa::path(get, operation_id = "items_show", path = "/api/books/{books}/items", params(("books" = i64, Path)),
    responses((status = 200, body = StatementItemsView), (status = "4XX", body = Problem)))]
pub(crate) async fn show(
    State(app): State<App>,
    In(member): In,
) -> Result<Json<StatementItemsView>, Problem> {
    let snapshot = app.snapshot(member).await?;
    Ok(Json(StatementItemsView::of(&snapshot.today)))
}

/// Changes the statement items. No account is put under another item by this.
#[utoipa::path(post, operation_id = "items_change", path = "/api/books/{books}/items", params(("books" = i64, Path)),
    request_body = ItemEditsForm,
    responses((status = 200, body = StatementItemsView), (status = "4XX", body = Problem)))]
pub(crate) async fn change(
    State(app): State<App>,
    In(member): In,
    Form(form): Form<ItemEditsForm>,
) -> Result<Json<StatementItemsView>, Problem> {
    let snapshot = app.snapshot(member).await?;
    let chart = &snapshot.today.chart;
    let (wanted, done) = carry_out(&form.edits, chart).map_err(cannot)?;
    app.store.keep_items(member, &snapshot, &wanted, &done).await?;
    show(State(app), In(member)).await
}

fn cannot(why: NotAnItem) -> Problem {
    Problem::unreadable(ProblemCode::Refused, why)
}

/// Reads a list of items from a file, and says what it asks for. Nothing is changed.
#[utoipa::path(post, operation_id = "items_read_list", path = "/api/books/{books}/items/list", params(("books" = i64, Path)),
    request_body(content = ItemListForm, content_type = "multipart/form-data"),
    responses((status = 200, body = ItemListView), (status = "4XX", body = Problem)))]
pub(crate) async fn read_list(
    State(app): State<App>,
    In(member): In,
    mut form: Multipart,
) -> Result<Json<ItemListView>, Problem> {
    let unread = |e: axum::extract::multipart::MultipartError| {
        Problem::new(e.status(), ProblemCode::UploadUnreadable, e.body_text())
    };
    while let Some(field) = form.next_field().await.map_err(unread)? {
        if field.name() != Some("file") {
            continue;
        }
        let name = field.file_name().unwrap_or("file").to_owned();
        let content = field.bytes().await.map_err(unread)?.to_vec();
        let snapshot = app.snapshot(member).await?;
        return off_thread(move || asked_of(&snapshot.today, &name, content)).await?.map(Json);
    }
    Err(Problem::field("file", "choose a file"))
}

fn asked_of(today: &Today, name: &str, content: Vec<u8>) -> Result<ItemListView, Problem> {
    let opened = zf_sheets::read(name, content, &How::default())
        .map_err(|e| Problem::unreadable(ProblemCode::FileUnreadable, e))?;
    let list = opened.sheets.iter().find_map(|sheet| read(&sheet.rows.all()));
    let list = list.ok_or_else(|| {
        let why = "no row of it has the headings “Class” and “Item”; export the list first";
        Problem::unreadable(ProblemCode::NotLaidOut, why)
    })?;
    let (numbers, rows): (Vec<u32>, Vec<_>) = list.rows.into_iter().unzip();
    let asked = asked(&rows, &today.chart);
    let unread = list.rejected.iter().map(|(row, why)| (*row, not_listed(why)));
    let unfollowed = asked.refused.iter().map(|(at, why)| (numbers[*at], why.to_string()));
    let refused: BTreeMap<u32, String> = unread.chain(unfollowed).collect();
    let (_, done) = carry_out(&asked.edits, &today.chart).map_err(cannot)?;
    Ok(ItemListView {
        summary: done.iter().map(zf_phrases::trail::item).collect(),
        edits: asked.edits,
        merges: asked.merges.into_iter().map(|(item, into)| ItemMerge { item, into }).collect(),
        refused: refused.into_iter().map(|(row, reason)| RefusedRow { row, reason }).collect(),
    })
}

/// Stages that items are merged: their accounts come to stand under others.
#[utoipa::path(post, operation_id = "items_merge", path = "/api/books/{books}/plans/{plan}/items",
    params(("books" = i64, Path), ("plan" = i64, Path)), request_body = ItemMerges,
    responses((status = 200, body = EditedView), (status = "4XX", body = Problem)))]
pub(crate) async fn merge(
    State(app): State<App>,
    In(member): In,
    Path((_, id)): Path<(BooksId, PlanId)>,
    Form(form): Form<ItemMerges>,
) -> Result<Json<EditedView>, Problem> {
    let (snapshot, kept, rehearsed) = app.rehearsed(member, id).await?;
    let after = &rehearsed.rehearsal.after;
    let mut edits = Vec::new();
    for ItemMerge { item, into } in form.merges {
        let changes = merged(after, item, into).map_err(cannot)?;
        edits.extend(
            changes
                .into_iter()
                .map(|(account, change)| Edit::over(&kept.plan, account, Wanted::Stage(change))),
        );
    }
    stage(&app, member, id, &snapshot.today.chart, &edits, Vec::new(), None).await
}
