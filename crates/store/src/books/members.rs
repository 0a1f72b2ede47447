//! Who is a member of a set of books, and as what.

use crate::boxed;
use crate::member::{Member, keys, roles};
use crate::people::links::Admission;
use crate::trail::{self, Actor, ServerNote};
use crate::writing::Writing;
use crate::{Store, StoreError};
use time::OffsetDateTime;
use zf_core::access::{Role, Roles};
use zf_core::ids::{BooksId, PersonId};
use zf_core::trail::{Admitted, Event};

/// Somebody whom a letter goes to.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct Addressee {
    /// Their name.
    pub name: String,
    /// Their address.
    pub email: String,
}

/// A member of a set of books.
#[derive(Clone, Debug)]
pub struct Membership {
    /// The person.
    pub person: PersonId,
    /// Their address.
    pub email: String,
    /// Their name.
    pub name: String,
    /// As what.
    pub roles: Roles,
    /// The one plan of a guest, with its name.
    pub plan: Option<(i64, String)>,
    /// Until when.
    pub until: Option<OffsetDateTime>,
}

impl Store {
    /// All sets of books, by name, as who runs the server can see them.
    ///
    /// # Errors
    /// When the database fails.
    #[boxed]
    pub async fn all_books(&self) -> Result<Vec<(BooksId, String)>, StoreError> {
        let rows = sqlx::query!("SELECT id, name FROM books ORDER BY name, id");
        let rows = rows.fetch_all(&self.pool).await?;
        Ok(rows.into_iter().map(|row| (BooksId(row.id), row.name)).collect())
    }

    /// The members of a set of books, by name, with those whose time is over.
    ///
    /// # Errors
    /// When the database fails.
    #[boxed]
    pub async fn members(&self, books: BooksId) -> Result<Vec<Membership>, StoreError> {
        let rows = sqlx::query!(
            r#"SELECT p.id, p.email, p.name, m.roles, m.until, m.plan_id, l.name AS "plan?"
               FROM membership m JOIN person p ON p.id = m.person_id
               LEFT JOIN plan l ON l.books_id = m.books_id AND l.id = m.plan_id
               WHERE m.books_id = $1 ORDER BY p.name, p.id"#,
            books.0
        )
        .fetch_all(&self.pool)
        .await?;
        let member = rows.into_iter().map(|row| {
            Ok(Membership {
                person: PersonId(row.id),
                email: row.email,
                name: row.name,
                roles: roles(&row.roles)?,
                plan: row.plan_id.zip(row.plan),
                until: row.until,
            })
        });
        member.collect()
    }

    /// Lets a person into a set of books, or changes as what they are there.
    ///
    /// # Errors
    /// When that would leave the books without an owner, or there is no such plan; when the database
    /// fails.
    #[boxed]
    pub async fn admit(
        &self,
        by: Member,
        person: PersonId,
        admission: &Admission,
    ) -> Result<(), StoreError> {
        let mut tx = self.write_around(by).await?;
        let name = sqlx::query_scalar!(
            "SELECT name FROM person WHERE id = $1 AND removed_at IS NULL",
            person.0
        );
        let name = name.fetch_optional(&mut tx).await?.ok_or(StoreError::NotFound("person"))?;
        let event = put(&mut tx, person, &name, admission, Admitted::ByMember).await?;
        trail::note(&mut tx, by.books(), by.person(), &event, None).await?;
        tx.commit().await
    }

    /// Lets a member out.
    ///
    /// # Errors
    /// When they are the last owner, or no member; when the database fails.
    #[boxed]
    pub async fn remove_member(&self, by: Member, person: PersonId) -> Result<(), StoreError> {
        let mut tx = self.write_around(by).await?;
        let before = standing(&mut tx, by.books(), person).await?;
        let (name, before) = before.ok_or(StoreError::NotFound("member"))?;
        if before.hold(Role::Owner) {
            others_own(&mut tx, by.books(), person).await?;
        }
        sqlx::query!(
            "DELETE FROM membership WHERE books_id = $1 AND person_id = $2",
            by.books().0,
            person.0
        )
        .execute(&mut tx)
        .await?;
        let event = Event::RemovedMember { person: name, roles: before };
        trail::note(&mut tx, by.books(), by.person(), &event, None).await?;
        tx.commit().await
    }

    /// Lets a person into a set of books from outside of them, as who runs the server can.
    ///
    /// # Errors
    /// When the database fails.
    #[boxed]
    pub async fn add_member(
        &self,
        person: PersonId,
        admission: &Admission,
    ) -> Result<(), StoreError> {
        let mut tx = self.write().await?;
        sqlx::query!("SELECT id FROM books WHERE id = $1 FOR UPDATE", admission.books.0)
            .fetch_optional(&mut tx)
            .await?
            .ok_or(StoreError::NotFound("set of books"))?;
        let name = sqlx::query_scalar!("SELECT name FROM person WHERE id = $1", person.0);
        let name = name.fetch_one(&mut tx).await?;
        let event = put(&mut tx, person, &name, admission, Admitted::ByOperator).await?;
        trail::note(&mut tx, admission.books, person, &event, None).await?;
        let by = Actor::command_line();
        trail::note_for_server(&mut tx, ServerNote { by, event: &event }).await?;
        tx.commit().await
    }
}

/// Why books that have an owner are given to nobody.
const OWNED: &str = "these books have an owner; who is a member is theirs to say";

impl Store {
    /// The books that nobody owns any more, by name.
    ///
    /// # Errors
    /// When the database fails.
    #[boxed]
    pub async fn books_without_owner(&self) -> Result<Vec<(BooksId, String)>, StoreError> {
        let rows = sqlx::query!(
            "SELECT id, name FROM books b WHERE NOT EXISTS (
                 SELECT FROM membership m JOIN person p ON p.id = m.person_id
                 WHERE m.books_id = b.id AND 'owner' = ANY (m.roles) AND (m.until IS NULL OR m.until > now())
                   AND p.removed_at IS NULL)
             ORDER BY name, id"
        );
        let rows = rows.fetch_all(&self.pool).await?;
        Ok(rows.into_iter().map(|row| (BooksId(row.id), row.name)).collect())
    }

    /// Makes a person the owner of books that have none any more, as an administrator may; it stands in both
    /// trails. Answers the name of the books.
    ///
    /// # Errors
    /// When the books have an owner, there are no such books or no such person; when the database fails.
    #[boxed]
    pub async fn give_owner(
        &self,
        by: PersonId,
        books: BooksId,
        person: PersonId,
    ) -> Result<String, StoreError> {
        let mut tx = self.write().await?;
        let name = sqlx::query_scalar!("SELECT name FROM books WHERE id = $1 FOR UPDATE", books.0);
        let books_name =
            name.fetch_optional(&mut tx).await?.ok_or(StoreError::NotFound("set of books"))?;
        let owned = sqlx::query_scalar!(
            r#"SELECT EXISTS (SELECT FROM membership m JOIN person p ON p.id = m.person_id
                              WHERE m.books_id = $1 AND 'owner' = ANY (m.roles)
                                AND (m.until IS NULL OR m.until > now()) AND p.removed_at IS NULL) AS "any!""#,
            books.0
        );
        if owned.fetch_one(&mut tx).await? {
            return Err(StoreError::refused(OWNED));
        }
        let name = sqlx::query_scalar!(
            "SELECT name FROM person WHERE id = $1 AND removed_at IS NULL",
            person.0
        );
        let name = name.fetch_optional(&mut tx).await?.ok_or(StoreError::NotFound("person"))?;
        sqlx::query!(
            "INSERT INTO membership (books_id, person_id, roles) VALUES ($1, $2, '{owner}')
             ON CONFLICT (books_id, person_id) DO UPDATE SET roles = '{owner}', plan_id = NULL, until = NULL",
            books.0,
            person.0
        )
        .execute(&mut tx)
        .await?;
        let event = Event::MadeOwner { person: name.clone(), books: None };
        trail::note(&mut tx, books, by, &event, None).await?;
        let event = Event::MadeOwner { person: name, books: Some(books_name.clone()) };
        trail::note_for_server(&mut tx, ServerNote { by: Actor::Person(by), event: &event })
            .await?;
        tx.commit().await?;
        Ok(books_name)
    }

    /// The name of books, and as what a person is in them.
    ///
    /// # Errors
    /// When they are no member, or the database fails.
    #[boxed]
    pub async fn standing_of(
        &self,
        books: BooksId,
        person: PersonId,
    ) -> Result<(String, Roles), StoreError> {
        let row = sqlx::query!(
            "SELECT b.name, m.roles FROM membership m JOIN books b ON b.id = m.books_id
             WHERE m.books_id = $1 AND m.person_id = $2",
            books.0,
            person.0
        );
        let row = row.fetch_optional(&self.pool).await?.ok_or(StoreError::NotFound("member"))?;
        Ok((row.name, roles(&row.roles)?))
    }

    /// The owners of all books that a person is in, without themselves: who is told of what becomes of their
    /// account.
    ///
    /// # Errors
    /// When the database fails.
    #[boxed]
    pub async fn owners_around(&self, person: PersonId) -> Result<Vec<Addressee>, StoreError> {
        let owners = sqlx::query_as!(
            Addressee,
            "SELECT DISTINCT p.name, p.email FROM membership m JOIN membership o ON o.books_id = m.books_id
             JOIN person p ON p.id = o.person_id
             WHERE m.person_id = $1 AND o.person_id <> $1 AND 'owner' = ANY (o.roles)
               AND (o.until IS NULL OR o.until > now()) AND p.removed_at IS NULL ORDER BY p.email",
            person.0
        );
        Ok(owners.fetch_all(&self.pool).await?)
    }
}

/// Who somebody is in the books, with their name.
async fn standing(
    tx: &mut Writing,
    books: BooksId,
    person: PersonId,
) -> Result<Option<(String, Roles)>, StoreError> {
    let row = sqlx::query!(
        "SELECT p.name, m.roles FROM membership m JOIN person p ON p.id = m.person_id
         WHERE m.books_id = $1 AND m.person_id = $2",
        books.0,
        person.0
    );
    let row = row.fetch_optional(tx).await?;
    row.map(|row| Ok((row.name, roles(&row.roles)?))).transpose()
}

/// Writes a membership down, and answers what is to be noted of it.
async fn put(
    tx: &mut Writing,
    person: PersonId,
    name: &str,
    admission: &Admission,
    way: Admitted,
) -> Result<Event, StoreError> {
    let Admission { books, roles, plan, until } = admission;
    let before = standing(tx, *books, person).await?.map(|(_, roles)| roles);
    // Who owns the books for a time only is not enough for them.
    let stays = roles.hold(Role::Owner) && until.is_none();
    if before.as_ref().is_some_and(|before| before.hold(Role::Owner)) && !stays {
        others_own(tx, *books, person).await?;
    }
    sqlx::query!(
        "INSERT INTO membership (books_id, person_id, roles, plan_id, until) VALUES ($1, $2, $3, $4, $5)
         ON CONFLICT (books_id, person_id) DO UPDATE SET
             roles = EXCLUDED.roles, plan_id = EXCLUDED.plan_id, until = EXCLUDED.until",
        books.0,
        person.0,
        &keys(roles),
        plan.map(|id| id.0),
        *until
    )
    .execute(tx)
    .await?;
    let (person, until, roles) = (name.to_owned(), until.map(|until| until.date()), roles.clone());
    Ok(match before {
        Some(from) => Event::ChangedRoles { person, from, to: roles, until, way },
        None => Event::AddedMember { person, roles, until, way },
    })
}

/// That somebody else answers for the books, whose row is held.
async fn others_own(tx: &mut Writing, books: BooksId, person: PersonId) -> Result<(), StoreError> {
    let others = sqlx::query_scalar!(
        r#"SELECT EXISTS (SELECT FROM membership WHERE books_id = $1 AND person_id <> $2
                          AND 'owner' = ANY (roles) AND until IS NULL) AS "any!""#,
        books.0,
        person.0
    );
    if others.fetch_one(tx).await? {
        return Ok(());
    }
    Err(StoreError::refused(
        "these books would be left without an owner whose time does not end; make somebody else one first",
    ))
}
