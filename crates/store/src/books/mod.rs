//! Sets of books and what they lay down for themselves.

mod ending;
pub mod members;
mod settings;

use crate::boxed;
use crate::chart::structure;
use crate::ids::{Counter, take_one};
use crate::member::{Member, keys, roles};
use crate::trail::{self, Actor, ServerNote};
use crate::writing::Writing;
use crate::{Store, StoreError};
use serde::{Deserialize, Serialize};
use sqlx::types::Json;
use std::collections::BTreeMap;
use time::{Date, OffsetDateTime};
use zf_core::access::Roles;
use zf_core::calendar::{FiscalCalendar, Period};
use zf_core::chart::{Class, Section};
use zf_core::code::Interval;
use zf_core::ids::{BooksId, PersonId, PlanId};
use zf_core::money::Currency;
use zf_core::policy::{Block, CodeFormat, Level, Policy, RelaxableRule};
use zf_core::trail::{Event, Scheme};

/// One set of books.
#[derive(Clone, Debug)]
pub struct Books {
    /// Identity.
    pub id: BooksId,
    /// The company's name.
    pub name: String,
    /// Base currency.
    pub currency: Currency,
    /// Fiscal calendar.
    pub calendar: FiscalCalendar,
    /// Counts every change of chart or journal.
    pub revision: i64,
    /// The last locked period.
    pub locked: Option<Period>,
    /// The last period that counts for balances, when the books lay one down.
    pub as_of: Option<Period>,
    /// Whether a where-used list was ever given.
    pub usage_given: bool,
    /// Whether the journal is complete from the accounts' beginning.
    pub journal_complete: bool,
    /// The first day from which it is complete, when that is not the beginning.
    pub complete_from: Option<Date>,
    /// Since when the books are put away.
    pub archived: Option<OffsetDateTime>,
    /// Code format, blocks, and how strict some rules are.
    pub policy: Policy,
}

/// What a new set of books starts with.
#[derive(Clone, Debug)]
pub struct NewBooks {
    /// The company's name.
    pub name: String,
    /// Base currency.
    pub currency: Currency,
    /// Fiscal calendar.
    pub calendar: FiscalCalendar,
    /// Whether the journal to be brought in is complete from the accounts' beginning.
    pub journal_complete: bool,
    /// Code format, blocks, and how strict some rules are.
    pub policy: Policy,
}

/// A block of the numbering scheme as stored.
#[derive(Clone, Debug, Serialize, Deserialize)]
struct StoredBlock {
    class: String,
    section: Option<String>,
    codes: String,
}

/// A policy as stored.
#[derive(Clone, Debug, Serialize, Deserialize)]
struct StoredPolicy {
    /// The form of codes, in words.
    format: String,
    blocks: Vec<StoredBlock>,
    /// How strict rules are, by their keys; what is missing is as usual.
    #[serde(flatten)]
    levels: BTreeMap<RelaxableRule, Level>,
}

impl From<&Policy> for StoredPolicy {
    fn from(policy: &Policy) -> Self {
        let block = |b: &Block| StoredBlock {
            class: b.class.key().to_owned(),
            section: b.section.map(|section| section.key().to_owned()),
            codes: b.codes.to_string(),
        };
        Self {
            format: policy.format.to_string(),
            blocks: policy.blocks.iter().map(block).collect(),
            levels: policy.levels().collect(),
        }
    }
}

impl TryFrom<StoredPolicy> for Policy {
    type Error = StoreError;

    fn try_from(stored: StoredPolicy) -> Result<Self, StoreError> {
        let mut blocks = Vec::new();
        for StoredBlock { class, section, codes } in &stored.blocks {
            let class = Class::from_key(class).ok_or_else(|| StoreError::damaged(class))?;
            let section = section
                .as_deref()
                .map(|key| Section::from_key(key).ok_or_else(|| StoreError::damaged(key)));
            let section = section.transpose()?;
            let codes = Interval::parse_list(codes).map_err(StoreError::damaged)?;
            blocks.extend(codes.into_iter().map(|codes| Block { class, section, codes }));
        }
        let format = CodeFormat::parse(&stored.format).map_err(StoreError::damaged)?;
        let mut policy = Self::new(format, blocks);
        for (rule, level) in stored.levels {
            policy.take(rule, level);
        }
        Ok(policy)
    }
}

pub(crate) struct BooksRow {
    pub(crate) id: i64,
    pub(crate) name: String,
    pub(crate) currency: String,
    pub(crate) year_month: i16,
    pub(crate) year_day: i16,
    pub(crate) revision: i64,
    pub(crate) locked_period: Option<i32>,
    pub(crate) as_of_period: Option<i32>,
    pub(crate) usage_given: bool,
    pub(crate) journal_complete: bool,
    pub(crate) complete_from: Option<Date>,
    pub(crate) archived_at: Option<OffsetDateTime>,
    pub(crate) policy: Json<serde_json::Value>,
}

impl TryFrom<BooksRow> for Books {
    type Error = StoreError;

    fn try_from(row: BooksRow) -> Result<Self, StoreError> {
        let start = |n: i16| u8::try_from(n).map_err(StoreError::damaged);
        let policy: StoredPolicy = serde_json::from_value(row.policy.0)?;
        Ok(Self {
            id: BooksId(row.id),
            name: row.name,
            currency: Currency::parse(&row.currency).map_err(StoreError::damaged)?,
            calendar: FiscalCalendar::starting(start(row.year_month)?, start(row.year_day)?)
                .map_err(StoreError::damaged)?,
            revision: row.revision,
            locked: row.locked_period.map(Period),
            as_of: row.as_of_period.map(Period),
            usage_given: row.usage_given,
            journal_complete: row.journal_complete,
            complete_from: row.complete_from,
            archived: row.archived_at,
            policy: policy.try_into()?,
        })
    }
}

/// A set of books in a list.
#[derive(Clone, Debug)]
pub struct BooksSummary {
    /// The books.
    pub books: Books,
    /// How many rows the chart has.
    pub accounts: i64,
    /// How many lines the journal has.
    pub lines: i64,
    /// What the person is in them.
    pub roles: Roles,
    /// The one plan of a guest.
    pub plan: Option<PlanId>,
}

impl Store {
    /// Lays another numbering scheme down: the form of codes, and the blocks they belong to.
    ///
    /// # Errors
    /// When the database fails.
    #[boxed]
    pub async fn lay_down_scheme(
        &self,
        member: Member,
        format: CodeFormat,
        blocks: Vec<Block>,
    ) -> Result<(), StoreError> {
        // Whoever applies a plan judged it by the scheme that was there.
        let mut tx = self.write_alone(member).await?;
        let books = read(&mut tx, member.books()).await?;
        let scheme =
            |policy: &Policy| Scheme { format: policy.format, blocks: policy.blocks.len() as u64 };
        let before = scheme(&books.policy);
        let mut policy = books.policy;
        (policy.format, policy.blocks) = (format, blocks);
        sqlx::query!(
            "UPDATE books SET policy = $2 WHERE id = $1",
            member.books().0,
            Json(StoredPolicy::from(&policy)) as _
        )
        .execute(&mut tx)
        .await?;
        raise_revision(&mut tx, member.books()).await?;
        let event = Event::SetScheme { from: before, to: scheme(&policy) };
        trail::note(&mut tx, member.books(), member.person(), &event, None).await?;
        tx.commit().await
    }

    /// Opens new books, with the person as their first member, who holds all roles.
    ///
    /// # Errors
    /// When the database fails.
    #[boxed]
    pub async fn create_books(
        &self,
        person: PersonId,
        new: &NewBooks,
    ) -> Result<Member, StoreError> {
        // Books without a member could never be opened again.
        let mut tx = self.write().await?;
        let id = take_one(&mut tx, Counter::Books).await?;
        sqlx::query!(
            "INSERT INTO books (id, name, currency, year_month, year_day, journal_complete, policy)
             VALUES ($1, $2, $3, $4, $5, $6, $7)",
            id,
            new.name,
            new.currency.as_str(),
            i16::from(new.calendar.month()),
            i16::from(new.calendar.day()),
            new.journal_complete,
            serde_json::to_value(StoredPolicy::from(&new.policy))?,
        )
        .execute(&mut tx)
        .await?;
        structure::begin(&mut tx, BooksId(id)).await?;
        sqlx::query!(
            "INSERT INTO membership (books_id, person_id, roles) VALUES ($1, $2, $3)",
            id,
            person.0,
            &keys(&Roles::alone())
        )
        .execute(&mut tx)
        .await?;
        trail::begin(&mut tx, BooksId(id)).await?;
        let event = Event::OpenedBooks { name: new.name.clone() };
        trail::note(&mut tx, BooksId(id), person, &event, None).await?;
        let note = ServerNote { by: Actor::Person(person), event: &event };
        trail::note_of_books(&mut tx, BooksId(id), note).await?;
        tx.commit().await?;
        self.member(person, BooksId(id)).await
    }

    /// The books a person is a member of, by name.
    ///
    /// # Errors
    /// When the database fails.
    #[boxed]
    pub async fn books_of(&self, person: PersonId) -> Result<Vec<BooksSummary>, StoreError> {
        let rows = sqlx::query_as!(
            BooksRow,
            r#"SELECT b.id, name, currency AS "currency!", year_month, year_day, revision, locked_period, as_of_period,
                      usage_given, journal_complete, complete_from, archived_at, policy AS "policy: Json<serde_json::Value>"
               FROM books b JOIN membership m ON m.books_id = b.id
               WHERE m.person_id = $1 AND (m.until IS NULL OR m.until > now()) ORDER BY name, b.id"#,
            person.0
        )
        .fetch_all(&self.pool)
        .await?;
        let mut list = Vec::with_capacity(rows.len());
        for row in rows {
            let counts = sqlx::query!(
                r#"SELECT (SELECT count(*) FROM account WHERE books_id = $1 AND status <> 'merged') AS "accounts!",
                          (SELECT COALESCE(sum(lines), 0)::bigint FROM period_total WHERE books_id = $1) AS "lines!""#,
                row.id
            )
            .fetch_one(&self.pool)
            .await?;
            let held = sqlx::query!(
                "SELECT roles, plan_id FROM membership WHERE books_id = $1 AND person_id = $2",
                row.id,
                person.0
            )
            .fetch_one(&self.pool)
            .await?;
            let roles = roles(&held.roles)?;
            let (accounts, lines) = (counts.accounts, counts.lines);
            let books = row.try_into()?;
            list.push(BooksSummary {
                books,
                accounts,
                lines,
                roles,
                plan: held.plan_id.map(PlanId),
            });
        }
        Ok(list)
    }

    /// The books of a member.
    ///
    /// # Errors
    /// When the database fails.
    #[boxed]
    pub async fn books(&self, member: Member) -> Result<Books, StoreError> {
        let mut connection = self.pool.acquire().await?;
        read(&mut connection, member.books()).await
    }
}

pub(crate) async fn read(
    connection: &mut sqlx::PgConnection,
    books: BooksId,
) -> Result<Books, StoreError> {
    sqlx::query_as!(
        BooksRow,
        r#"SELECT id, name, currency AS "currency!", year_month, year_day, revision, locked_period, as_of_period, usage_given,
                  journal_complete, complete_from, archived_at, policy AS "policy: Json<serde_json::Value>"
           FROM books WHERE id = $1"#,
        books.0
    )
    .fetch_one(connection)
    .await?
    .try_into()
}

pub(crate) async fn revision(
    connection: &mut sqlx::PgConnection,
    books: BooksId,
) -> Result<i64, StoreError> {
    let revision = sqlx::query_scalar!("SELECT revision FROM books WHERE id = $1", books.0);
    Ok(revision.fetch_one(connection).await?)
}

pub(crate) async fn raise_revision(tx: &mut Writing, books: BooksId) -> Result<(), StoreError> {
    sqlx::query!("UPDATE books SET revision = revision + 1 WHERE id = $1", books.0)
        .execute(tx)
        .await?;
    Ok(())
}
