//! Sets of books: which there are, and new ones.

use crate::extract::Form;
use crate::session::SignedIn;
use crate::{App, Problem};
use axum::Json;
use axum::extract::State;
use axum::http::StatusCode;
use serde::{Deserialize, Serialize};
use zf_core::access::Role;
use zf_core::calendar::FiscalCalendar;
use zf_core::money::Currency;
use zf_core::people;
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
    /// What one is in them.
    roles: Vec<Role>,
    /// The one plan that a guest sees.
    plan: Option<i64>,
    archived: bool,
}

impl From<BooksSummary> for BooksView {
    fn from(summary: BooksSummary) -> Self {
        // A guest is told nothing of the books but their name.
        let told = |count: i64| if summary.plan.is_none() { count } else { 0 };
        Self {
            accounts: told(summary.accounts),
            lines: told(summary.lines),
            roles: summary.roles.iter().collect(),
            plan: summary.plan,
            archived: summary.books.archived.is_some(),
            id: summary.books.id.0,
            name: summary.books.name,
            currency: summary.books.currency.to_string(),
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
    let books = app.store.books_of(signed_in.person.id).await?;
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
