//! People who can sign in, what each lays down for themselves, and how they are let in.

pub mod account;
pub mod factor;
pub mod links;
pub mod sessions;
pub mod tries;

use crate::boxed;
use crate::member::forms;
use crate::trail::{Actor, ServerNote, note_for_server};
use crate::writing::Writing;
use crate::{Store, StoreError};
use time::OffsetDateTime;
use zf_core::ids::PersonId;
use zf_core::people::Forms;
use zf_core::trail::Event;

/// Somebody who can sign in.
#[derive(Clone, Debug)]
pub struct Person {
    /// Identity.
    pub id: PersonId,
    /// E-mail address, in small letters: what one signs in with.
    pub email: String,
    /// Name as shown.
    pub name: String,
    /// Argon2 hash of the password.
    pub password_hash: String,
    /// Whether they administer the server: people, and new books.
    pub administrator: bool,
    /// How they like dates and numbers written.
    pub forms: Forms,
    /// Since when a second factor is asked for.
    pub factor_since: Option<OffsetDateTime>,
}

/// Somebody in the list of all.
#[derive(Clone, Debug)]
pub struct Listed {
    /// The person.
    pub person: Person,
    /// How many sets of books they are a member of.
    pub books: i64,
    /// When a session of theirs was last used.
    pub seen_at: Option<OffsetDateTime>,
}

struct PersonRow {
    id: PersonId,
    email: String,
    name: String,
    password_hash: String,
    administrator: bool,
    date_form: String,
    number_form: String,
    factor_since: Option<OffsetDateTime>,
}

impl TryFrom<PersonRow> for Person {
    type Error = StoreError;

    fn try_from(row: PersonRow) -> Result<Self, StoreError> {
        Ok(Self {
            id: row.id,
            email: row.email,
            name: row.name,
            password_hash: row.password_hash,
            administrator: row.administrator,
            forms: forms(&row.date_form, &row.number_form)?,
            factor_since: row.factor_since,
        })
    }
}

impl Store {
    /// Adds a person; of somebody who is there already the name and password are replaced.
    ///
    /// # Errors
    /// When the database fails.
    #[boxed]
    pub async fn add_person(
        &self,
        email: &str,
        name: &str,
        hash: &str,
    ) -> Result<PersonId, StoreError> {
        let mut tx = self.write().await?;
        let id = add(&mut tx, email, name, hash, false).await?;
        let by = Actor::command_line();
        let event = Event::AddedPerson { person: name.to_owned(), email: email.to_owned() };
        note_for_server(&mut tx, ServerNote { by, event: &event }).await?;
        tx.commit().await?;
        Ok(id)
    }

    /// The person with an e-mail address.
    ///
    /// # Errors
    /// When the database fails.
    #[boxed]
    pub async fn person_by_email(&self, email: &str) -> Result<Option<Person>, StoreError> {
        let person = sqlx::query_as!(
            PersonRow,
            "SELECT id, email, name, password_hash, administrator, date_form, number_form, factor_since
             FROM person WHERE email = lower($1) AND removed_at IS NULL",
            email
        );
        person.fetch_optional(&self.pool).await?.map(Person::try_from).transpose()
    }

    /// The person with an identity.
    ///
    /// # Errors
    /// When the database fails.
    #[boxed]
    pub async fn person(&self, id: PersonId) -> Result<Option<Person>, StoreError> {
        let person = sqlx::query_as!(
            PersonRow,
            "SELECT id, email, name, password_hash, administrator, date_form, number_form, factor_since
             FROM person WHERE id = $1 AND removed_at IS NULL",
            id.0
        );
        person.fetch_optional(&self.pool).await?.map(Person::try_from).transpose()
    }

    /// Whether there is anybody who can sign in.
    ///
    /// # Errors
    /// When the database fails.
    #[boxed]
    pub async fn has_people(&self) -> Result<bool, StoreError> {
        let any = sqlx::query_scalar!(
            r#"SELECT EXISTS (SELECT FROM person WHERE removed_at IS NULL) AS "any!""#
        );
        Ok(any.fetch_one(&self.pool).await?)
    }

    /// Everybody who can sign in, by e-mail address.
    ///
    /// # Errors
    /// When the database fails.
    #[boxed]
    pub async fn people(&self) -> Result<Vec<Listed>, StoreError> {
        let rows = sqlx::query!(
            r#"SELECT id, email, name, administrator, date_form, number_form, factor_since,
                      (SELECT count(*) FROM membership m WHERE m.person_id = p.id) AS "books!",
                      (SELECT max(used_at) FROM person_session s WHERE s.person_id = p.id) AS seen_at
               FROM person p WHERE removed_at IS NULL ORDER BY email"#
        )
        .fetch_all(&self.pool)
        .await?;
        let listed = rows.into_iter().map(|row| {
            let person = PersonRow {
                id: PersonId(row.id),
                email: row.email,
                name: row.name,
                password_hash: String::new(),
                administrator: row.administrator,
                date_form: row.date_form,
                number_form: row.number_form,
                factor_since: row.factor_since,
            };
            Ok(Listed { person: person.try_into()?, books: row.books, seen_at: row.seen_at })
        });
        listed.collect()
    }

    /// Makes somebody an administrator, or an ordinary person again.
    ///
    /// # Errors
    /// When they are the last administrator, or the database fails.
    #[boxed]
    pub async fn administer(
        &self,
        by: Actor,
        id: PersonId,
        whether: bool,
    ) -> Result<(), StoreError> {
        let mut tx = self.write().await?;
        let person = lock(&mut tx, id).await?;
        if person.administrator == whether {
            return Ok(());
        }
        if !whether {
            others_administer(&mut tx, id).await?;
        }
        sqlx::query!("UPDATE person SET administrator = $2 WHERE id = $1", id.0, whether)
            .execute(&mut tx)
            .await?;
        let person = person.name;
        let event = match whether {
            true => Event::MadeAdministrator { person },
            false => Event::MadeOrdinary { person },
        };
        note_for_server(&mut tx, ServerNote { by, event: &event }).await?;
        tx.commit().await
    }

    /// Removes somebody: they sign in no more and are a member of no books, and nobody follows a link
    /// any more that they made. Their name stays where the trails have it.
    ///
    /// # Errors
    /// When they are the last administrator, or the last who answers for some books; when the
    /// database fails.
    #[boxed]
    pub async fn remove_person(&self, by: Actor, id: PersonId) -> Result<(), StoreError> {
        let mut tx = self.write().await?;
        let person = lock(&mut tx, id).await?;
        if person.administrator {
            others_administer(&mut tx, id).await?;
        }
        let orphan = sqlx::query_scalar!(
            "SELECT b.name FROM membership m JOIN books b ON b.id = m.books_id
             WHERE m.person_id = $1 AND 'owner' = ANY (m.roles) AND NOT EXISTS (
                 SELECT FROM membership o WHERE o.books_id = m.books_id AND o.person_id <> $1
                     AND 'owner' = ANY (o.roles) AND o.until IS NULL)
             ORDER BY b.name LIMIT 1",
            id.0
        );
        if let Some(books) = orphan.fetch_optional(&mut tx).await? {
            return Err(StoreError::refused(format!(
                "{} is the only owner of “{books}”; make somebody else an owner first",
                person.name
            )));
        }
        sqlx::query!("DELETE FROM membership WHERE person_id = $1", id.0).execute(&mut tx).await?;
        sqlx::query!("DELETE FROM known_device WHERE person_id = $1", id.0)
            .execute(&mut tx)
            .await?;
        sqlx::query!("DELETE FROM person_session WHERE person_id = $1", id.0)
            .execute(&mut tx)
            .await?;
        let withdrawn =
            sqlx::query!("DELETE FROM one_time_link WHERE person_id = $1 OR made_by = $1", id.0);
        let withdrawn = withdrawn.execute(&mut tx).await?.rows_affected();
        sqlx::query!("DELETE FROM recovery_code WHERE person_id = $1", id.0)
            .execute(&mut tx)
            .await?;
        sqlx::query!(
            "UPDATE person SET removed_at = now(), password_hash = '', administrator = false,
                 factor_secret = NULL, factor_since = NULL WHERE id = $1",
            id.0
        )
        .execute(&mut tx)
        .await?;
        let (person, email, links) = (person.name, person.email, withdrawn > 0);
        let event = Event::RemovedPerson { person, email, links };
        note_for_server(&mut tx, ServerNote { by, event: &event }).await?;
        tx.commit().await
    }
}

async fn add(
    tx: &mut Writing,
    email: &str,
    name: &str,
    hash: &str,
    administrator: bool,
) -> Result<PersonId, StoreError> {
    let id = sqlx::query_scalar!(
        "INSERT INTO person (email, name, password_hash, administrator) VALUES (lower($1), $2, $3, $4)
         ON CONFLICT (email) DO UPDATE SET name = EXCLUDED.name, password_hash = EXCLUDED.password_hash,
             administrator = person.administrator OR EXCLUDED.administrator, removed_at = NULL
         RETURNING id",
        email,
        name,
        hash,
        administrator
    )
    .fetch_one(tx)
    .await?;
    Ok(PersonId(id))
}

/// Somebody whom nobody else changes meanwhile.
async fn lock(tx: &mut Writing, id: PersonId) -> Result<Person, StoreError> {
    let row = sqlx::query_as!(
        PersonRow,
        "SELECT id, email, name, password_hash, administrator, date_form, number_form, factor_since
         FROM person WHERE id = $1 AND removed_at IS NULL FOR UPDATE",
        id.0
    );
    let row = row.fetch_optional(tx).await?;
    row.ok_or(StoreError::NotFound("person"))?.try_into()
}

/// That somebody else can still do what an administrator does.
async fn others_administer(tx: &mut Writing, id: PersonId) -> Result<(), StoreError> {
    // Two who end each other's administration at once must not both succeed.
    sqlx::query!("SELECT id FROM person WHERE administrator ORDER BY id FOR UPDATE")
        .fetch_all(&mut *tx)
        .await?;
    let others = sqlx::query_scalar!(
        r#"SELECT EXISTS (SELECT FROM person WHERE administrator AND removed_at IS NULL AND id <> $1) AS "any!""#,
        id.0
    );
    if others.fetch_one(tx).await? {
        return Ok(());
    }
    Err(StoreError::refused("this is the only administrator; make somebody else one first"))
}
