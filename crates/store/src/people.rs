//! People, and which books they are members of.

use crate::{Store, StoreError};
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
    /// Adds a person; of somebody who is there already the name and password are replaced.
    ///
    /// # Errors
    /// When the database fails.
    pub async fn add_person(&self, email: &str, name: &str, hash: &str) -> Result<i64, StoreError> {
        let id = sqlx::query_scalar!(
            "INSERT INTO person (email, name, password_hash) VALUES (lower($1), $2, $3)
             ON CONFLICT (email) DO UPDATE SET name = EXCLUDED.name, password_hash = EXCLUDED.password_hash
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
            "SELECT id, email, name, password_hash FROM person WHERE email = lower($1)",
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
            "SELECT id, email, name, password_hash FROM person WHERE id = $1",
            id
        );
        Ok(person.fetch_optional(&self.pool).await?)
    }

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

    /// Lets a person into a set of books.
    ///
    /// # Errors
    /// When the database fails.
    pub async fn admit(&self, by: Member, person: i64, reviewer: bool) -> Result<(), StoreError> {
        sqlx::query!(
            "INSERT INTO membership (books_id, person_id, reviewer) VALUES ($1, $2, $3)
             ON CONFLICT (books_id, person_id) DO UPDATE SET reviewer = EXCLUDED.reviewer",
            by.books.0,
            person,
            reviewer
        )
        .execute(&self.pool)
        .await?;
        Ok(())
    }

    /// Notes a failed sign-in; forgets those older than 15 minutes.
    ///
    /// # Errors
    /// When the database fails.
    pub async fn note_failed_sign_in(&self, email: &str) -> Result<(), StoreError> {
        sqlx::query!("DELETE FROM sign_in_failure WHERE at < now() - interval '15 minutes'")
            .execute(&self.pool)
            .await?;
        sqlx::query!("INSERT INTO sign_in_failure (email) VALUES (lower($1))", email)
            .execute(&self.pool)
            .await?;
        Ok(())
    }

    /// How many sign-ins for an address failed within 15 minutes.
    ///
    /// # Errors
    /// When the database fails.
    pub async fn failed_sign_ins(&self, email: &str) -> Result<i64, StoreError> {
        let count = sqlx::query_scalar!(
            r#"SELECT count(*) AS "count!" FROM sign_in_failure
               WHERE email = lower($1) AND at > now() - interval '15 minutes'"#,
            email
        );
        Ok(count.fetch_one(&self.pool).await?)
    }
}
