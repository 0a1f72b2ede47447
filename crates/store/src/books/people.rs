//! People, and which books they are members of.

use crate::member::Member;
use crate::{Store, StoreError, trail};
use zf_core::ids::BooksId;

/// Somebody who can sign in.
#[derive(Clone, Debug)]
pub struct Person {
    /// Identity.
    pub id: i64,
    /// E-mail address, in small letters: what one signs in with.
    pub email: String,
    /// Name as shown.
    pub name: String,
    /// Argon2 hash of the password.
    pub password_hash: String,
}

impl Store {
    /// Adds a person; of somebody who is there already the name and password are replaced.
    ///
    /// # Errors
    /// When the database fails.
    pub async fn add_person(&self, email: &str, name: &str, hash: &str) -> Result<i64, StoreError> {
        let id = sqlx::query_scalar!(
            "INSERT INTO person (email, name, password_hash) VALUES (lower($1), $2, $3)
             ON CONFLICT (email) DO UPDATE SET name = EXCLUDED.name, password_hash = EXCLUDED.password_hash,
                 removed_at = NULL
             RETURNING id",
            email,
            name,
            hash,
        )
        .fetch_one(&self.pool)
        .await?;
        Ok(id)
    }

    /// The person with an e-mail address.
    ///
    /// # Errors
    /// When the database fails.
    pub async fn person_by_email(&self, email: &str) -> Result<Option<Person>, StoreError> {
        let person = sqlx::query_as!(
            Person,
            "SELECT id, email, name, password_hash FROM person WHERE email = lower($1) AND removed_at IS NULL",
            email
        );
        Ok(person.fetch_optional(&self.pool).await?)
    }

    /// The person with an identity.
    ///
    /// # Errors
    /// When the database fails.
    pub async fn person(&self, id: i64) -> Result<Option<Person>, StoreError> {
        let person = sqlx::query_as!(
            Person,
            "SELECT id, email, name, password_hash FROM person WHERE id = $1 AND removed_at IS NULL",
            id
        );
        Ok(person.fetch_optional(&self.pool).await?)
    }

    /// Lets a person into a set of books.
    ///
    /// # Errors
    /// When the database fails.
    pub async fn admit(&self, by: Member, person: i64, reviewer: bool) -> Result<(), StoreError> {
        sqlx::query!(
            "INSERT INTO membership (books_id, person_id, reviewer) VALUES ($1, $2, $3)
             ON CONFLICT (books_id, person_id) DO UPDATE SET reviewer = EXCLUDED.reviewer",
            by.books().0,
            person,
            reviewer
        )
        .execute(&self.pool)
        .await?;
        Ok(())
    }

    /// Everybody who can sign in, by e-mail address, with how many books each is a member of.
    ///
    /// # Errors
    /// When the database fails.
    pub async fn people(&self) -> Result<Vec<(Person, i64)>, StoreError> {
        let rows = sqlx::query!(
            r#"SELECT id, email, name, password_hash,
                      (SELECT count(*) FROM membership m WHERE m.person_id = p.id) AS "books!"
               FROM person p WHERE removed_at IS NULL ORDER BY email"#
        )
        .fetch_all(&self.pool)
        .await?;
        let person = rows.into_iter().map(|row| {
            let (email, name) = (row.email, row.name);
            (Person { id: row.id, email, name, password_hash: row.password_hash }, row.books)
        });
        Ok(person.collect())
    }

    /// Removes somebody: they sign in no more and are a member of no books. Their name stays where
    /// the trail has it.
    ///
    /// # Errors
    /// When the database fails.
    pub async fn remove_person(&self, id: i64) -> Result<(), StoreError> {
        let mut tx = self.write().await?;
        sqlx::query!("DELETE FROM membership WHERE person_id = $1", id).execute(&mut tx).await?;
        sqlx::query!("DELETE FROM known_device WHERE person_id = $1", id).execute(&mut tx).await?;
        sqlx::query!("UPDATE person SET removed_at = now(), password_hash = '' WHERE id = $1", id)
            .execute(&mut tx)
            .await?;
        tx.commit().await
    }

    /// All sets of books, by name.
    ///
    /// # Errors
    /// When the database fails.
    pub async fn all_books(&self) -> Result<Vec<(BooksId, String)>, StoreError> {
        let rows = sqlx::query!("SELECT id, name FROM books ORDER BY name, id");
        let rows = rows.fetch_all(&self.pool).await?;
        Ok(rows.into_iter().map(|row| (BooksId(row.id), row.name)).collect())
    }

    /// The members of a set of books, by name, with whether each is a reviewer.
    ///
    /// # Errors
    /// When the database fails.
    pub async fn members(&self, books: BooksId) -> Result<Vec<(Person, bool)>, StoreError> {
        let rows = sqlx::query!(
            "SELECT p.id, p.email, p.name, p.password_hash, m.reviewer
             FROM membership m JOIN person p ON p.id = m.person_id WHERE m.books_id = $1 ORDER BY p.name, p.id",
            books.0
        )
        .fetch_all(&self.pool)
        .await?;
        let member = rows.into_iter().map(|row| {
            let (email, name) = (row.email, row.name);
            (Person { id: row.id, email, name, password_hash: row.password_hash }, row.reviewer)
        });
        Ok(member.collect())
    }

    /// Lets a person into a set of books from outside of them, as who runs the server can.
    ///
    /// # Errors
    /// When the database fails.
    pub async fn let_in(
        &self,
        books: BooksId,
        person: i64,
        reviewer: bool,
    ) -> Result<(), StoreError> {
        let mut tx = self.write().await?;
        sqlx::query!(
            "INSERT INTO membership (books_id, person_id, reviewer) VALUES ($1, $2, $3)
             ON CONFLICT (books_id, person_id) DO UPDATE SET reviewer = EXCLUDED.reviewer",
            books.0,
            person,
            reviewer
        )
        .execute(&mut tx)
        .await?;
        let detail = if reviewer { "as a reviewer" } else { "" };
        trail::note(&mut tx, books, person, "was let into the books", detail, None).await?;
        tx.commit().await
    }
}
