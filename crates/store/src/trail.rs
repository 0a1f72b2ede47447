//! The trail: who did what, when. Rows are only ever added.

use crate::StoreError;
use zf_core::ids::BooksId;

/// Notes that somebody did something.
pub(crate) async fn note(
    connection: &mut sqlx::PgConnection,
    books: BooksId,
    person: i64,
    what: &str,
    detail: &str,
    application: Option<i64>,
) -> Result<(), StoreError> {
    sqlx::query!(
        "INSERT INTO trail (books_id, person_id, what, detail, application_id) VALUES ($1, $2, $3, $4, $5)",
        books.0,
        person,
        what,
        detail,
        application
    )
    .execute(connection)
    .await?;
    Ok(())
}
