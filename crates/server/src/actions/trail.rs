//! The trail.

use crate::door::Query;
use crate::session::In;
use crate::values::{PageOf, instant};
use crate::{App, Problem};
use axum::Json;
use axum::extract::State;
use serde::Serialize;

/// How many rows a page has.
const PAGE: i64 = 100;

/// One thing that was done.
#[derive(Serialize, utoipa::ToSchema)]
pub(crate) struct TrailView {
    at: String,
    person: String,
    what: String,
    detail: String,
    application: Option<i64>,
}

/// Lists what was done, latest first.
#[utoipa::path(get, operation_id = "trail_list", path = "/api/books/{books}/trail", params(("books" = i64, Path), PageOf),
    responses((status = 200, body = Vec<TrailView>), (status = "4XX", body = Problem)))]
pub(crate) async fn list(
    State(app): State<App>,
    In(member): In,
    Query(page): Query<PageOf>,
) -> Result<Json<Vec<TrailView>>, Problem> {
    let rows = app.store.trail(member, page.checked()?.into(), PAGE).await?;
    let view = |row: zf_store::trail::TrailRow| TrailView {
        at: instant(row.at),
        person: row.person,
        what: row.what,
        detail: row.detail,
        application: row.application,
    };
    Ok(Json(rows.into_iter().map(view).collect()))
}
