//! The trail of the server itself: sign-ins, people, and what became of books.

use super::{
    Followed, Kept, Rows, Says, TrailFilter, TrailPage, TrailRow, TrailSlice, facts, followed,
    kept, seal,
};
use crate::boxed;
use crate::writing::Writing;
use crate::{Store, StoreError};
use sqlx::PgConnection;
use std::collections::BTreeMap;
use std::fmt;
use zf_core::ids::{BooksId, PersonId};
use zf_core::trail::{Detail, Event, Head, Record, TrailAction};

/// Who did something to the server.
#[derive(Clone, Debug)]
pub enum Actor {
    /// Somebody who is known.
    Person(PersonId),
    /// Somebody who gave this address, or whoever runs the server.
    Called(String),
}

impl Actor {
    /// Whoever runs the server, and does something to it by a command.
    pub fn command_line() -> Self {
        Self::Called("the command line".to_owned())
    }
}

/// Something to note in the trail of the server.
#[derive(Clone, Debug)]
pub struct ServerNote<'a> {
    /// By whom.
    pub by: Actor,
    /// What.
    pub event: &'a Event,
}

/// Books that are not as the chain of the server has it.
#[derive(Clone, Debug, PartialEq, Eq)]
pub enum Astray {
    /// They were opened, nobody deleted them, and they are not there.
    Gone {
        /// Which.
        books: BooksId,
        /// What they were called when they were opened.
        name: String,
    },
    /// They are there, and nobody opened them.
    Unknown {
        /// Which.
        books: BooksId,
        /// What they are called.
        name: String,
    },
}

impl fmt::Display for Astray {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        match self {
            Self::Gone { books, name } => write!(
                f,
                "books {books}, opened as “{name}”, are gone, and the trail of the server has no row that deletes them"
            ),
            Self::Unknown { books, name } => write!(
                f,
                "books {books}, “{name}”, are there, and the trail of the server has no row that opens them"
            ),
        }
    }
}

impl Store {
    /// The trail of the server, latest first, a page at a time; with `says`, of the rows that say what is looked for.
    ///
    /// # Errors
    /// When the database fails.
    #[boxed]
    pub async fn server_trail(
        &self,
        wanted: &TrailFilter,
        says: Option<&Says<'_>>,
        page: TrailSlice,
    ) -> Result<TrailPage, StoreError> {
        let mut tx = self.at_one_instant().await?;
        let matching = sqlx::query_scalar!(
            r#"SELECT count(*) AS "count!" FROM server_trail WHERE
                     ($1::text IS NULL OR strpos(lower(person_name), lower($1)) > 0) AND ($2::text IS NULL OR what = $2)
                 AND ($3::date IS NULL OR at >= $3::date::timestamp AT TIME ZONE 'UTC')
                 AND ($4::date IS NULL OR at < ($4::date + 1)::timestamp AT TIME ZONE 'UTC')"#,
            wanted.by.as_deref(),
            wanted.action.map(TrailAction::key),
            wanted.from,
            wanted.until,
        )
        .fetch_one(&mut *tx)
        .await?;
        let (limit, offset) = page.in_database(says);
        let rows = sqlx::query_as!(
            TrailRow,
            r#"SELECT about_books AS books_id, number, at, person_id, person_name, what, detail, facts,
                      NULL::bigint AS application_id, seal
               FROM server_trail WHERE
                     ($1::text IS NULL OR strpos(lower(person_name), lower($1)) > 0) AND ($2::text IS NULL OR what = $2)
                 AND ($3::date IS NULL OR at >= $3::date::timestamp AT TIME ZONE 'UTC')
                 AND ($4::date IS NULL OR at < ($4::date + 1)::timestamp AT TIME ZONE 'UTC')
               ORDER BY number DESC LIMIT $5 OFFSET $6"#,
            wanted.by.as_deref(),
            wanted.action.map(TrailAction::key),
            wanted.from,
            wanted.until,
            limit,
            offset
        );
        let found = page.take(rows.fetch(&mut *tx), says, matching).await?;
        Ok(TrailPage { head: head(&mut tx).await?, ..found })
    }

    /// The whole trail of the server, first row first, as it is handed out.
    ///
    /// # Errors
    /// When the database fails.
    #[boxed]
    pub async fn whole_server_trail(&self) -> Result<Vec<Kept>, StoreError> {
        let mut connection = self.long().await?;
        kept(following(&mut connection)).await
    }

    /// Follows the chain of the server from its first row to its head.
    ///
    /// # Errors
    /// When the database fails; what is wrong with the chain is answered.
    #[boxed]
    pub async fn follow_server_trail(&self) -> Result<Followed, StoreError> {
        let mut tx = self.at_one_instant().await?;
        let head = head(&mut tx).await?;
        followed(following(&mut tx), head).await
    }

    /// How the books that the chain of the server knows differ from those that are there. The chain must be
    /// sound for that to prove anything.
    ///
    /// # Errors
    /// When the database fails.
    #[boxed]
    pub async fn books_beside_trail(&self) -> Result<Vec<Astray>, StoreError> {
        let mut tx = self.at_one_instant().await?;
        let rows = sqlx::query!(
            r#"SELECT about_books AS "books_id!", what, detail, facts FROM server_trail
               WHERE about_books IS NOT NULL ORDER BY number"#
        );
        let mut known: BTreeMap<i64, String> = BTreeMap::new();
        for row in rows.fetch_all(&mut *tx).await? {
            match TrailAction::from_key(&row.what) {
                Some(TrailAction::DeletedBooks) => drop(known.remove(&row.books_id)),
                Some(TrailAction::OpenedBooks | TrailAction::FoundBooks) => {
                    let event = row.facts.and_then(|facts| facts::read(&row.what, &facts));
                    let name = match event {
                        Some(Event::OpenedBooks { name } | Event::FoundBooks { name }) => name,
                        _ => {
                            row.detail.ok_or_else(|| StoreError::damaged("books without a name"))?
                        }
                    };
                    drop(known.insert(row.books_id, name));
                }
                _ => {}
            }
        }
        let there = sqlx::query!("SELECT id, name FROM books").fetch_all(&mut *tx).await?;
        let there: BTreeMap<i64, String> =
            there.into_iter().map(|row| (row.id, row.name)).collect();
        let gone = known.iter().filter(|(id, _)| !there.contains_key(id));
        let unknown = there.iter().filter(|(id, _)| !known.contains_key(id));
        let gone = gone.map(|(id, name)| Astray::Gone { books: BooksId(*id), name: name.clone() });
        let unknown =
            unknown.map(|(id, name)| Astray::Unknown { books: BooksId(*id), name: name.clone() });
        Ok(gone.chain(unknown).collect())
    }
}

fn following(connection: &mut PgConnection) -> Rows<'_> {
    sqlx::query_as!(
        TrailRow,
        r#"SELECT about_books AS books_id, number, at, person_id, person_name, what, detail, facts,
                  NULL::bigint AS application_id, seal
           FROM server_trail ORDER BY number"#
    )
    .fetch(connection)
}

async fn head(connection: &mut PgConnection) -> Result<Head, StoreError> {
    let row =
        sqlx::query!("SELECT rows, seal FROM server_trail_head").fetch_one(connection).await?;
    Ok(Head { rows: row.rows, seal: seal(&row.seal)? })
}

/// Notes what was done to the server, last in a transaction as [`super::note`] is, and behind it.
pub(crate) async fn note_for_server(
    tx: &mut Writing,
    note: ServerNote<'_>,
) -> Result<(), StoreError> {
    put(tx, None, note).await
}

/// Notes that books came to be, or are no more: by that the chain of the server knows which there must be.
pub(crate) async fn note_of_books(
    tx: &mut Writing,
    books: BooksId,
    note: ServerNote<'_>,
) -> Result<(), StoreError> {
    put(tx, Some(books.0), note).await
}

async fn put(tx: &mut Writing, books: Option<i64>, note: ServerNote<'_>) -> Result<(), StoreError> {
    let (person, called) = match note.by {
        Actor::Person(id) => (Some(id), None),
        Actor::Called(name) => (None, Some(name)),
    };
    let before = sqlx::query!(
        r#"UPDATE server_trail_head SET rows = rows + 1
           RETURNING rows, seal, clock_timestamp() AS "at!",
                     COALESCE($2, (SELECT name FROM person WHERE id = $1)) AS "name!""#,
        person.map(|id| id.0),
        called
    )
    .fetch_one(&mut *tx)
    .await?;
    let facts = facts::sealed(note.event).map_err(StoreError::damaged)?;
    let record = Record {
        books: books.map(BooksId),
        number: before.rows,
        at: before.at,
        person,
        by: before.name,
        what: note.event.action().key().to_owned(),
        detail: Detail::Facts(facts.clone()),
        application: None,
    };
    let sealed = record.seal(seal(&before.seal)?);
    sqlx::query!(
        "WITH head AS (UPDATE server_trail_head SET seal = $7)
         INSERT INTO server_trail (number, at, person_id, person_name, what, facts, seal, about_books)
         VALUES ($1, $2, $3, $4, $5, $6, $7, $8)",
        record.number,
        record.at,
        person.map(|id| id.0),
        record.by,
        record.what,
        facts,
        sealed.bytes(),
        books
    )
    .execute(tx)
    .await?;
    Ok(())
}
