//! The trails: of a set of books, and of the server itself.

use crate::extract::Query;
use crate::files::trail_file;
use crate::session::In;
use crate::values::{PageOf, day, instant};
use crate::{App, Problem};
use axum::Json;
use axum::extract::State;
use axum::response::Response;
use serde::{Deserialize, Serialize};
use zf_core::trail::TrailAction;
use zf_store::trail::{Kept, TrailFilter, TrailPage};

/// How many rows a page has.
const PAGE: i64 = 100;

/// What of a trail is asked for.
#[derive(Deserialize, utoipa::IntoParams)]
#[into_params(parameter_in = Query)]
pub(crate) struct TrailQuery {
    /// Counted from 0.
    page: Option<u32>,
    /// Done by somebody with this in their name.
    by: Option<String>,
    /// Of this kind.
    #[param(inline)]
    action: Option<TrailAction>,
    /// From this day on.
    from: Option<String>,
    /// Up to this day.
    until: Option<String>,
    /// With this in what is told of it.
    text: Option<String>,
}

impl TrailQuery {
    fn wanted(self) -> Result<(TrailFilter, i64), Problem> {
        let said = |text: Option<String>| text.filter(|text| !text.trim().is_empty());
        let page = PageOf::at(self.page).checked()?.into();
        let wanted = TrailFilter {
            by: said(self.by),
            action: self.action,
            from: day("from", self.from.as_deref())?,
            until: day("until", self.until.as_deref())?,
            text: said(self.text),
        };
        Ok((wanted, page))
    }
}

/// One thing that was done.
#[derive(Serialize, utoipa::ToSchema)]
pub(crate) struct TrailView {
    number: i64,
    at: String,
    person: String,
    /// The kind of what was done; none when a later program wrote it.
    action: Option<TrailAction>,
    what: String,
    detail: String,
    application: Option<i64>,
    /// The seal of the row, 64 hexadecimal digits.
    seal: String,
}

impl From<Kept> for TrailView {
    fn from(Kept { record, seal }: Kept) -> Self {
        let action = TrailAction::from_key(&record.what);
        Self {
            number: record.number,
            at: instant(record.at),
            person: record.by,
            what: action.map_or(record.what, |action| action.words().to_owned()),
            action,
            detail: record.detail,
            application: record.application,
            seal: seal.to_string(),
        }
    }
}

/// A page of a trail, and where its chain ends.
#[derive(Serialize, utoipa::ToSchema)]
pub(crate) struct TrailOf {
    rows: Vec<TrailView>,
    /// How many rows there are of what was asked for.
    matching: i64,
    /// How many rows the whole trail has.
    all: i64,
    /// The seal of its last row.
    head: String,
}

impl From<TrailPage> for TrailOf {
    fn from(page: TrailPage) -> Self {
        Self {
            rows: page.rows.into_iter().map(TrailView::from).collect(),
            matching: page.matching,
            all: page.head.rows,
            head: page.head.seal.to_string(),
        }
    }
}

/// Lists what was done to the books, latest first.
#[utoipa::path(get, operation_id = "trail_list", path = "/api/books/{books}/trail", params(("books" = i64, Path), TrailQuery),
    responses((status = 200, body = TrailOf), (status = "4XX", body = Problem)))]
pub(crate) async fn list(
    State(app): State<App>,
    In(member): In,
    Query(query): Query<TrailQuery>,
) -> Result<Json<TrailOf>, Problem> {
    let (wanted, page) = query.wanted()?;
    Ok(Json(app.store.trail(member, &wanted, page, PAGE).await?.into()))
}

/// Hands the whole trail of the books out, as `zerofold verify --trail` reads it.
#[utoipa::path(get, operation_id = "trail_file", path = "/api/books/{books}/trail/trail.jsonl", params(("books" = i64, Path)),
    responses((status = 200, content_type = "application/jsonl"), (status = "4XX", body = Problem)))]
pub(crate) async fn file(State(app): State<App>, In(member): In) -> Result<Response, Problem> {
    let name = format!("trail-{}.jsonl", member.books());
    trail_file(&name, app.store.whole_trail(member).await?).await
}

/// Lists what was done to the server: sign-ins, people, and what became of books; latest first.
#[utoipa::path(get, operation_id = "server_trail_list", path = "/api/trail", params(TrailQuery),
    responses((status = 200, body = TrailOf), (status = "4XX", body = Problem)))]
pub(crate) async fn server_list(
    State(app): State<App>,
    Query(query): Query<TrailQuery>,
) -> Result<Json<TrailOf>, Problem> {
    let (wanted, page) = query.wanted()?;
    Ok(Json(app.store.server_trail(&wanted, page, PAGE).await?.into()))
}

/// Hands the whole trail of the server out, as `zerofold verify --trail` reads it.
#[utoipa::path(get, operation_id = "server_trail_file", path = "/api/trail/trail.jsonl",
    responses((status = 200, content_type = "application/jsonl"), (status = "4XX", body = Problem)))]
pub(crate) async fn server_file(State(app): State<App>) -> Result<Response, Problem> {
    trail_file("trail-server.jsonl", app.store.whole_server_trail().await?).await
}
