//! The trails: who did what, when. Rows are only ever added, each sealed over the one before it.

mod facts;
mod server;

use crate::boxed;
use crate::member::Member;
use crate::writing::Writing;
use crate::{Store, StoreError};
use futures_util::stream::BoxStream;
use futures_util::{Stream, TryStreamExt};
use sqlx::PgConnection;
use time::{Date, OffsetDateTime};
use zf_core::ids::{ApplicationId, BooksId, PersonId};
use zf_core::trail::{Broken, Detail, Event, Following, Head, Record, Seal, TrailAction};

pub use server::{Actor, Astray, ServerNote};
pub(crate) use server::{note_for_server, note_of_books};

/// What of a trail is asked for.
#[derive(Clone, Debug, Default)]
pub struct TrailFilter {
    /// Done by somebody with this in their name, whatever the letters' case.
    pub by: Option<String>,
    /// Of this kind.
    pub action: Option<TrailAction>,
    /// From this day on, in UTC.
    pub from: Option<Date>,
    /// Up to this day, in UTC.
    pub until: Option<Date>,
}

/// Whether a row says what is looked for, once it is in words.
pub type Says<'a> = dyn Fn(&Kept) -> bool + Send + Sync + 'a;

/// A row with the seal that it is kept with.
#[derive(Clone, Debug)]
pub struct Kept {
    /// The row.
    pub record: Record,
    /// What it tells, when this program knows it as facts.
    pub event: Option<Event>,
    /// Its seal.
    pub seal: Seal,
}

/// A trail, or a page of it, latest first.
#[derive(Clone, Debug)]
pub struct TrailPage {
    /// The rows.
    pub rows: Vec<Kept>,
    /// How many rows there are of what was asked for.
    pub matching: i64,
    /// Where the chain ends.
    pub head: Head,
}

/// Which page of a trail is asked for.
#[derive(Clone, Copy, Debug)]
pub struct TrailSlice {
    /// Counted from 0.
    pub page: i64,
    /// How many rows one has.
    pub size: i64,
}

impl TrailSlice {
    /// How many rows the database hands out, and behind how many: all, when they are looked through.
    fn in_database(self, says: Option<&Says<'_>>) -> (Option<i64>, i64) {
        match says {
            Some(_) => (None, 0),
            None => (Some(self.size), self.page * self.size),
        }
    }

    /// The rows of the page, of `matching` that the database has.
    async fn take(
        self,
        rows: impl Stream<Item = sqlx::Result<TrailRow>>,
        says: Option<&Says<'_>>,
        matching: i64,
    ) -> Result<TrailPage, StoreError> {
        let mut rows = std::pin::pin!(rows);
        let (first, last) = (self.page * self.size, (self.page + 1) * self.size);
        let (mut shown, mut found) = (Vec::new(), 0);
        while let Some(row) = rows.try_next().await? {
            let row = Kept::try_from(row)?;
            let Some(says) = says else {
                shown.push(row);
                continue;
            };
            if says(&row) {
                if (first..last).contains(&found) {
                    shown.push(row);
                }
                found += 1;
            }
        }
        let matching = if says.is_some() { found } else { matching };
        Ok(TrailPage { rows: shown, matching, head: Head::NONE })
    }
}

/// What was found by following a chain from its first row to its head.
pub type Followed = Result<Head, Broken>;

pub(crate) struct TrailRow {
    pub(crate) books_id: Option<i64>,
    pub(crate) number: i64,
    pub(crate) at: OffsetDateTime,
    pub(crate) person_id: Option<i64>,
    pub(crate) person_name: String,
    pub(crate) what: String,
    pub(crate) detail: Option<String>,
    pub(crate) facts: Option<String>,
    pub(crate) application_id: Option<i64>,
    pub(crate) seal: Vec<u8>,
}

impl TryFrom<TrailRow> for Kept {
    type Error = StoreError;

    fn try_from(row: TrailRow) -> Result<Self, StoreError> {
        let event = row.facts.as_deref().and_then(|facts| facts::read(&row.what, facts));
        let detail = row.detail.map(Detail::Sentence).or(row.facts.map(Detail::Facts));
        let record = Record {
            books: row.books_id.map(BooksId),
            number: row.number,
            at: row.at,
            person: row.person_id.map(PersonId),
            by: row.person_name,
            what: row.what,
            detail: detail.ok_or_else(|| StoreError::damaged("a row of a trail tells nothing"))?,
            application: row.application_id.map(ApplicationId),
        };
        Ok(Self { record, event, seal: seal(&row.seal)? })
    }
}

pub(crate) fn seal(bytes: &[u8]) -> Result<Seal, StoreError> {
    Seal::from_bytes(bytes).ok_or_else(|| StoreError::damaged("a seal has not 32 bytes"))
}

impl Store {
    /// The trail of the books, latest first, a page at a time; with `says`, of the rows that say what is looked for.
    ///
    /// # Errors
    /// When the database fails.
    #[boxed]
    pub async fn trail(
        &self,
        member: Member,
        wanted: &TrailFilter,
        says: Option<&Says<'_>>,
        page: TrailSlice,
    ) -> Result<TrailPage, StoreError> {
        let mut tx = self.at_one_instant().await?;
        let matching = sqlx::query_scalar!(
            r#"SELECT count(*) AS "count!" FROM trail WHERE books_id = $1
                 AND ($2::text IS NULL OR strpos(lower(person_name), lower($2)) > 0) AND ($3::text IS NULL OR what = $3)
                 AND ($4::date IS NULL OR at >= $4::date::timestamp AT TIME ZONE 'UTC')
                 AND ($5::date IS NULL OR at < ($5::date + 1)::timestamp AT TIME ZONE 'UTC')"#,
            member.books().0,
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
            r#"SELECT books_id AS "books_id?", number, at, person_id AS "person_id?", person_name, what, detail, facts,
                      application_id, seal
               FROM trail WHERE books_id = $1
                 AND ($2::text IS NULL OR strpos(lower(person_name), lower($2)) > 0) AND ($3::text IS NULL OR what = $3)
                 AND ($4::date IS NULL OR at >= $4::date::timestamp AT TIME ZONE 'UTC')
                 AND ($5::date IS NULL OR at < ($5::date + 1)::timestamp AT TIME ZONE 'UTC')
               ORDER BY number DESC LIMIT $6 OFFSET $7"#,
            member.books().0,
            wanted.by.as_deref(),
            wanted.action.map(TrailAction::key),
            wanted.from,
            wanted.until,
            limit,
            offset
        );
        let found = page.take(rows.fetch(&mut *tx), says, matching).await?;
        Ok(TrailPage { head: head(&mut tx, member.books()).await?, ..found })
    }

    /// The whole trail of the books, first row first, as it is handed out.
    ///
    /// # Errors
    /// When the database fails.
    #[boxed]
    pub async fn whole_trail(&self, member: Member) -> Result<Vec<Kept>, StoreError> {
        let mut connection = self.long().await?;
        kept(following(&mut connection, member.books())).await
    }

    /// Follows the chain of the books from its first row to its head.
    ///
    /// # Errors
    /// When the database fails; what is wrong with the chain is answered.
    #[boxed]
    pub async fn follow_trail(&self, books: BooksId) -> Result<Followed, StoreError> {
        let mut tx = self.at_one_instant().await?;
        let head = head(&mut tx, books).await?;
        followed(following(&mut tx, books), head).await
    }
}

/// The rows of a trail, first row first.
type Rows<'a> = BoxStream<'a, sqlx::Result<TrailRow>>;

async fn kept(rows: Rows<'_>) -> Result<Vec<Kept>, StoreError> {
    let rows: Vec<_> = rows.try_collect().await?;
    rows.into_iter().map(Kept::try_from).collect()
}

/// Follows a chain from its first row to its head.
async fn followed(mut rows: Rows<'_>, head: Head) -> Result<Followed, StoreError> {
    let mut following = Following::default();
    while let Some(row) = rows.try_next().await? {
        let Kept { record, seal, .. } = row.try_into()?;
        if let Err(broken) = following.take(&record, seal) {
            return Ok(Err(broken));
        }
    }
    Ok(following.ends_at(head).map(|()| head))
}

fn following(connection: &mut PgConnection, books: BooksId) -> Rows<'_> {
    sqlx::query_as!(
        TrailRow,
        r#"SELECT books_id AS "books_id?", number, at, person_id AS "person_id?", person_name, what, detail, facts,
                  application_id, seal
           FROM trail WHERE books_id = $1 ORDER BY number"#,
        books.0
    )
    .fetch(connection)
}

/// Where the chain of the books ends.
pub(crate) async fn head(
    connection: &mut PgConnection,
    books: BooksId,
) -> Result<Head, StoreError> {
    let row = sqlx::query!("SELECT rows, seal FROM trail_head WHERE books_id = $1", books.0)
        .fetch_one(connection)
        .await?;
    Ok(Head { rows: row.rows, seal: seal(&row.seal)? })
}

/// Begins the chain of new books.
pub(crate) async fn begin(tx: &mut Writing, books: BooksId) -> Result<(), StoreError> {
    sqlx::query!("INSERT INTO trail_head (books_id) VALUES ($1)", books.0).execute(tx).await?;
    Ok(())
}

/// Notes in the trails of all books that a person is in what somebody did about the person's account, since
/// whoever takes an account takes what it opens.
pub(crate) async fn note_around(
    tx: &mut Writing,
    person: PersonId,
    by: PersonId,
    event: &Event,
) -> Result<(), StoreError> {
    let books = sqlx::query_scalar!(
        "SELECT books_id FROM membership WHERE person_id = $1 ORDER BY books_id",
        person.0
    );
    for books in books.fetch_all(&mut *tx).await? {
        note(tx, BooksId(books), by, event, None).await?;
    }
    Ok(())
}

/// Notes that somebody did something. The head of the trail is held from here to the end of the
/// transaction, so this comes last in it: locks are taken in the order books, plan, head of the trail.
pub(crate) async fn note(
    tx: &mut Writing,
    books: BooksId,
    person: PersonId,
    event: &Event,
    application: Option<ApplicationId>,
) -> Result<(), StoreError> {
    let before = sqlx::query!(
        r#"UPDATE trail_head SET rows = rows + 1 WHERE books_id = $1
           RETURNING rows, seal, clock_timestamp() AS "at!", (SELECT name FROM person WHERE id = $2) AS "name!""#,
        books.0,
        person.0
    )
    .fetch_one(&mut *tx)
    .await?;
    let facts = facts::sealed(event).map_err(StoreError::damaged)?;
    let record = Record {
        books: Some(books),
        number: before.rows,
        at: before.at,
        person: Some(person),
        by: before.name,
        what: event.action().key().to_owned(),
        detail: Detail::Facts(facts.clone()),
        application,
    };
    let sealed = record.seal(seal(&before.seal)?);
    sqlx::query!(
        "WITH head AS (UPDATE trail_head SET seal = $8 WHERE books_id = $1)
         INSERT INTO trail (books_id, number, at, person_id, person_name, what, facts, application_id, seal)
         VALUES ($1, $2, $3, $4, $5, $6, $7, $9, $8)",
        books.0,
        record.number,
        record.at,
        person.0,
        record.by,
        record.what,
        facts,
        sealed.bytes(),
        application.map(|id| id.0)
    )
    .execute(tx)
    .await?;
    Ok(())
}
