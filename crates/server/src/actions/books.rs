//! Sets of books: which there are, and new ones.

use crate::extract::Form;
use crate::session::SignedIn;
use crate::{App, Problem};
use axum::Json;
use axum::extract::State;
use axum::http::StatusCode;
use zf_core::calendar::FiscalCalendar;
use zf_core::money::Currency;
use zf_core::people;
use zf_core::policy::Policy;
use zf_store::books::{BooksSummary, NewBooks};
use zf_wire::books::{BooksView, Created, NewBooksForm};

fn books_view(summary: BooksSummary) -> BooksView {
    // A guest is told nothing of the books but their name.
    let visible = |count: i64| if summary.plan.is_none() { count } else { 0 };
    BooksView {
        accounts: visible(summary.accounts),
        lines: visible(summary.lines),
        roles: summary.roles.iter().collect(),
        plan: summary.plan.map(|id| id.0),
        archived: summary.books.archived.is_some(),
        id: summary.books.id.0,
        name: summary.books.name,
        currency: summary.books.currency.to_string(),
    }
}

/// Lists the books that one is a member of.
#[utoipa::path(get, operation_id = "books_list", path = "/api/books",
    responses((status = 200, body = Vec<BooksView>), (status = "4XX", body = Problem)))]
pub(crate) async fn list(
    State(app): State<App>,
    signed_in: SignedIn,
) -> Result<Json<Vec<BooksView>>, Problem> {
    let books = app.store.books_of(signed_in.person.id).await?;
    Ok(Json(books.into_iter().map(books_view).collect()))
}

/// Opens new books.
#[utoipa::path(post, operation_id = "books_create", path = "/api/books", request_body = NewBooksForm,
    responses((status = 201, body = Created), (status = "4XX", body = Problem)))]
pub(crate) async fn create(
    State(app): State<App>,
    signed_in: SignedIn,
    Form(form): Form<NewBooksForm>,
) -> Result<(StatusCode, Json<Created>), Problem> {
    let new = NewBooks {
        name: people::name(&form.name).map_err(|why| Problem::field("name", why))?,
        currency: Currency::parse(&form.currency).map_err(|e| Problem::field("currency", e))?,
        calendar: FiscalCalendar::starting(form.year_month, form.year_day)
            .map_err(|e| Problem::field("year_day", e))?,
        journal_complete: false,
        policy: Policy::default(),
    };
    let member = app.store.create_books(signed_in.person.id, &new).await?;
    Ok((StatusCode::CREATED, Json(Created { id: member.books().0 })))
}
