//! Sets of books: which there are, and new ones.

use crate::door::Form;
use crate::session::SignedIn;
use crate::{App, Problem};
use axum::Json;
use axum::extract::State;
use axum::http::StatusCode;
use serde::{Deserialize, Serialize};
use zf_core::calendar::FiscalCalendar;
use zf_core::money::Currency;
use zf_core::policy::Policy;
use zf_store::books::{BooksSummary, NewBooks};

/// A set of books in a list.
#[derive(Serialize, utoipa::ToSchema)]
pub(crate) struct BooksView {
    id: i64,
    name: String,
    currency: String,
    accounts: i64,
    lines: i64,
}

impl From<BooksSummary> for BooksView {
    fn from(summary: BooksSummary) -> Self {
        Self {
            id: summary.books.id.0,
            name: summary.books.name,
            currency: summary.books.currency.to_string(),
            accounts: summary.accounts,
            lines: summary.lines,
        }
    }
}

/// Lists the books that one is a member of.
#[utoipa::path(get, operation_id = "books_list", path = "/api/books",
    responses((status = 200, body = Vec<BooksView>), (status = "4XX", body = Problem)))]
pub(crate) async fn list(
    State(app): State<App>,
    signed_in: SignedIn,
) -> Result<Json<Vec<BooksView>>, Problem> {
    let books = app.store.books_of(signed_in.person).await?;
    Ok(Json(books.into_iter().map(BooksView::from).collect()))
}

/// New books.
#[derive(Deserialize, utoipa::ToSchema)]
pub(crate) struct NewBooksForm {
    name: String,
    /// Three letters of ISO 4217.
    currency: String,
    /// The month in which fiscal years start, 1 to 12.
    year_month: u8,
    /// The day of that month, 1 to 28.
    year_day: u8,
}

/// The identity of something new.
#[derive(Serialize, utoipa::ToSchema)]
pub(crate) struct Created {
    pub(crate) id: i64,
}

/// Opens new books.
#[utoipa::path(post, operation_id = "books_create", path = "/api/books", request_body = NewBooksForm,
    responses((status = 201, body = Created), (status = "4XX", body = Problem)))]
pub(crate) async fn create(
    State(app): State<App>,
    signed_in: SignedIn,
    Form(form): Form<NewBooksForm>,
) -> Result<(StatusCode, Json<Created>), Problem> {
    let name = form.name.trim();
    if name.is_empty() || name.chars().count() > 120 {
        return Err(Problem::field("name", "give the books a name of at most 120 characters"));
    }
    let new = NewBooks {
        name: name.to_owned(),
        currency: Currency::parse(&form.currency).map_err(|e| Problem::field("currency", e))?,
        calendar: FiscalCalendar::starting(form.year_month, form.year_day)
            .map_err(|e| Problem::field("year_day", e))?,
        journal_complete: false,
        policy: Policy::default(),
    };
    let member = app.store.create_books(signed_in.person, &new).await?;
    Ok((StatusCode::CREATED, Json(Created { id: member.books().0 })))
}
