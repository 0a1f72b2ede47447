//! Sets of books: which there are, and new ones.

use crate::door::Form;
use crate::session::{In, SignedIn};
use crate::values::{day, within};
use crate::{App, Problem};
use axum::Json;
use axum::extract::State;
use axum::http::StatusCode;
use serde::{Deserialize, Serialize};
use zf_core::calendar::{FiscalCalendar, Period};
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

/// The day up to which figures are shown.
#[derive(Deserialize, utoipa::ToSchema)]
pub(crate) struct AsOfForm {
    /// A day of the last period that counts; without one it is told from the lines.
    date: Option<String>,
}

/// Lays down up to which day figures are shown.
#[utoipa::path(put, operation_id = "books_lay_down_as_of", path = "/api/books/{books}/as-of",
    params(("books" = i64, Path)), request_body = AsOfForm,
    responses((status = 204), (status = "4XX", body = Problem)))]
pub(crate) async fn lay_down_as_of(
    State(app): State<App>,
    In(member): In,
    Form(form): Form<AsOfForm>,
) -> Result<StatusCode, Problem> {
    let date = day("date", form.date.as_deref())?;
    let calendar = app.snapshot(member).await?.today.calendar;
    let period =
        date.map(|date| within("date", calendar.period_of(date).0, Period::NUMBERS)).transpose()?;
    app.store.lay_down_as_of(member, period.map(Period)).await?;
    Ok(StatusCode::NO_CONTENT)
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
