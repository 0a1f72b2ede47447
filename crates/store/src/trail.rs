//! The trail: who did what, when. Rows are only ever added.

use crate::member::Member;
use crate::writing::Writing;
use crate::{Store, StoreError};
use time::OffsetDateTime;
use zf_core::ids::BooksId;

/// One thing that was done.
#[derive(Clone, Debug)]
pub struct TrailRow {
    /// When.
    pub at: OffsetDateTime,
    /// By whom.
    pub person: String,
    /// What was done.
    pub what: String,
    /// To what.
    pub detail: String,
    /// The application whose proof tells more.
    pub application: Option<i64>,
}

impl Store {
    /// The trail of the books, latest first, a page at a time.
    ///
    /// # Errors
    /// When the database fails.
    pub async fn trail(
        &self,
        member: Member,
        page: i64,
        size: i64,
    ) -> Result<Vec<TrailRow>, StoreError> {
        let rows = sqlx::query_as!(
            TrailRow,
            "SELECT t.at, p.name AS person, t.what, t.detail, t.application_id AS application
             FROM trail t JOIN person p ON p.id = t.person_id
             WHERE t.books_id = $1 ORDER BY t.id DESC LIMIT $2 OFFSET $3",
            member.books().0,
            size,
            page * size
        );
        Ok(rows.fetch_all(&self.pool).await?)
    }
}

/// Notes that somebody did something.
pub(crate) async fn note(
    tx: &mut Writing,
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
    .execute(tx)
    .await?;
    Ok(())
}
