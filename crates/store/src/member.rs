//! The right of a person to a set of books: the only key to them.

use crate::{Store, StoreError};
use zf_core::ids::BooksId;

/// Somebody's right to a set of books. Only [`Store::member`] makes one.
#[derive(Clone, Copy, Debug)]
pub struct Member {
    person: i64,
    books: BooksId,
    reviewer: bool,
}

impl Member {
    /// The person.
    pub fn person(self) -> i64 {
        self.person
    }

    /// The books.
    pub fn books(self) -> BooksId {
        self.books
    }

    /// Whether the person may go on in spite of some stops.
    pub fn is_reviewer(self) -> bool {
        self.reviewer
    }
}

impl Store {
    /// Somebody's right to a set of books.
    ///
    /// # Errors
    /// [`StoreError::NotFound`] when the person is not a member, as if there were no such books.
    pub async fn member(&self, person: i64, books: BooksId) -> Result<Member, StoreError> {
        let reviewer = sqlx::query_scalar!(
            "SELECT reviewer FROM membership WHERE books_id = $1 AND person_id = $2",
            books.0,
            person
        )
        .fetch_optional(&self.pool)
        .await?
        .ok_or(StoreError::NotFound("set of books"))?;
        Ok(Member { person, books, reviewer })
    }
}
