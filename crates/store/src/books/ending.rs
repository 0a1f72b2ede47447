//! Books that are put away, taken up again, or deleted.

use super::read;
use crate::boxed;
use crate::member::Member;
use crate::trail::{self, Actor, ServerNote};
use crate::{Store, StoreError};
use zf_core::trail::Event;

impl Store {
    /// Puts the books away, so that nothing is changed in them, or takes them up again.
    ///
    /// # Errors
    /// When the database fails.
    #[boxed]
    pub async fn archived(&self, by: Member, away: bool) -> Result<(), StoreError> {
        let mut tx = self.write_around(by).await?;
        let changed = sqlx::query!(
            "UPDATE books SET archived_at = CASE WHEN $2 THEN now() END, revision = revision + 1
             WHERE id = $1 AND (archived_at IS NOT NULL) <> $2",
            by.books().0,
            away
        );
        if changed.execute(&mut tx).await?.rows_affected() == 0 {
            return Ok(());
        }
        let event = if away { Event::ArchivedBooks {} } else { Event::RestoredBooks {} };
        trail::note(&mut tx, by.books(), by.person(), &event, None).await?;
        tx.commit().await
    }

    /// Deletes the books with all that is in them, by their name as it was typed. What is left is a row
    /// in the trail of the server: who, when, and where the trail of the books ended.
    ///
    /// # Errors
    /// When the name is another, or the database fails.
    #[boxed]
    pub async fn delete_books(&self, by: Member, typed: &str) -> Result<(), StoreError> {
        let mut tx = self.write_around(by).await?;
        let books = read(&mut tx, by.books()).await?;
        if books.name != typed.trim() {
            return Err(StoreError::refused(format!(
                "these books are called “{}”; type that to delete them",
                books.name
            )));
        }
        let id = by.books().0;
        let head = trail::head(&mut tx, by.books()).await?;
        // Children before their parents, as the foreign keys have it.
        sqlx::query!("DELETE FROM job WHERE books_id = $1", id).execute(&mut tx).await?;
        sqlx::query!(
            "DELETE FROM one_time_link WHERE hash IN (SELECT link_hash FROM invited WHERE books_id = $1)",
            id
        )
        .execute(&mut tx)
        .await?;
        sqlx::query!("DELETE FROM membership WHERE books_id = $1", id).execute(&mut tx).await?;
        sqlx::query!("DELETE FROM line_cleared WHERE books_id = $1", id).execute(&mut tx).await?;
        sqlx::query!("DELETE FROM line WHERE books_id = $1", id).execute(&mut tx).await?;
        sqlx::query!("DELETE FROM entry WHERE books_id = $1", id).execute(&mut tx).await?;
        sqlx::query!("DELETE FROM strand_total WHERE books_id = $1", id).execute(&mut tx).await?;
        sqlx::query!("DELETE FROM period_total WHERE books_id = $1", id).execute(&mut tx).await?;
        sqlx::query!("DELETE FROM strand WHERE books_id = $1", id).execute(&mut tx).await?;
        sqlx::query!("DELETE FROM account_use WHERE books_id = $1", id).execute(&mut tx).await?;
        sqlx::query!("DELETE FROM application WHERE books_id = $1", id).execute(&mut tx).await?;
        sqlx::query!("DELETE FROM account WHERE books_id = $1", id).execute(&mut tx).await?;
        sqlx::query!("DELETE FROM import WHERE books_id = $1", id).execute(&mut tx).await?;
        sqlx::query!("DELETE FROM structure_term WHERE books_id = $1", id).execute(&mut tx).await?;
        sqlx::query!("DELETE FROM structure WHERE books_id = $1", id).execute(&mut tx).await?;
        sqlx::query!("DELETE FROM dimension_set WHERE books_id = $1", id).execute(&mut tx).await?;
        sqlx::query!("DELETE FROM dimension WHERE books_id = $1", id).execute(&mut tx).await?;
        // With them go the plans, whose edits are kept as long as there are books.
        sqlx::query!("DELETE FROM books WHERE id = $1", id).execute(&mut tx).await?;
        let event = Event::DeletedBooks {
            books: id,
            name: books.name,
            rows: head.rows,
            seal: head.seal.to_string(),
        };
        let note = ServerNote { by: Actor::Person(by.person()), event: &event };
        trail::note_of_books(&mut tx, by.books(), note).await?;
        tx.commit().await
    }
}
