//! The trails: of a set of books, and of the server itself.

use crate::extract::Query;
use crate::files::trail_file;
use crate::session::{In, SignedIn};
use crate::values::{checked_page, day};
use crate::{App, Problem};
use axum::Json;
use axum::extract::State;
use axum::response::Response;
use zf_core::trail::TrailAction;
use zf_phrases::Style;
use zf_phrases::trail::{self, listed, words_of};
use zf_store::trail::{Kept, Says, TrailFilter, TrailPage, TrailSlice};
use zf_wire::trail::{ActionView, TrailOf, TrailQuery, TrailView};
use zf_wire::values::instant;

/// How many rows a page has.
const PAGE: i64 = 100;

fn parse_query(query: TrailQuery) -> Result<Asked, Problem> {
    let said = |text: Option<String>| text.filter(|text| !text.trim().is_empty());
    let page = checked_page(query.page)?.into();
    let filter = TrailFilter {
        by: said(query.by),
        action: query.action,
        from: day("from", query.from.as_deref())?,
        until: day("until", query.until.as_deref())?,
    };
    let text = said(query.text).map(|text| text.to_lowercase());
    Ok(Asked { filter, text, page: TrailSlice { page, size: PAGE } })
}

/// What of a trail is asked for, as it was understood.
struct Asked {
    filter: TrailFilter,
    /// In lower case.
    text: Option<String>,
    page: TrailSlice,
}

/// Whether a row says a text, in the forms of whoever looks for it.
fn says(text: Option<String>, style: Style) -> Option<impl Fn(&Kept) -> bool> {
    text.map(|text| {
        move |row: &Kept| {
            words_of(&row.record.detail, row.event.as_ref(), style).to_lowercase().contains(&text)
        }
    })
}

fn trail_view(Kept { record, event, seal }: Kept, style: Style) -> TrailView {
    let action = TrailAction::from_key(&record.what);
    let detail = words_of(&record.detail, event.as_ref(), style);
    TrailView {
        number: record.number,
        at: instant(record.at),
        person: record.by,
        what: action.map_or(record.what, |action| trail::action(action).to_owned()),
        action,
        detail,
        application: record.application.map(|id| id.0),
        seal: seal.to_string(),
    }
}

fn trail_of(page: TrailPage, actions: &[TrailAction], style: Style) -> TrailOf {
    let action = |action: &TrailAction| ActionView { action: *action, words: listed(*action) };
    TrailOf {
        actions: actions.iter().map(action).collect(),
        rows: page.rows.into_iter().map(|row| trail_view(row, style)).collect(),
        matching: page.matching,
        all: page.head.rows,
        head: page.head.seal.to_string(),
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
    let Asked { filter, text, page } = parse_query(query)?;
    let style = Style(member.forms());
    let says = says(text, style);
    let says = says.as_ref().map(|says| says as &Says<'_>);
    let page = app.store.trail(member, &filter, says, page).await?;
    Ok(Json(trail_of(page, TrailAction::OF_BOOKS, style)))
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
    SignedIn { person, .. }: SignedIn,
    Query(query): Query<TrailQuery>,
) -> Result<Json<TrailOf>, Problem> {
    let Asked { filter, text, page } = parse_query(query)?;
    let style = Style(person.forms);
    let says = says(text, style);
    let says = says.as_ref().map(|says| says as &Says<'_>);
    let page = app.store.server_trail(&filter, says, page).await?;
    Ok(Json(trail_of(page, TrailAction::OF_SERVER, style)))
}

/// Hands the whole trail of the server out, as `zerofold verify --trail` reads it.
#[utoipa::path(get, operation_id = "server_trail_file", path = "/api/trail/trail.jsonl",
    responses((status = 200, content_type = "application/jsonl"), (status = "4XX", body = Problem)))]
pub(crate) async fn server_file(State(app): State<App>) -> Result<Response, Problem> {
    trail_file("trail-server.jsonl", app.store.whole_server_trail().await?).await
}
