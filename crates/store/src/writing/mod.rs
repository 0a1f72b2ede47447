//! Transactions that write: who waits for whom and for how long, and what is true when the line to
//! the database breaks while one ends.
//!
//! Three things are kept here. Whoever waits for the books or a plan waits in memory, without holding
//! a connection, so that those who write to other books are not kept waiting as well. Half of the
//! connections are never given to writers, so that readers are always served. And nobody waits for
//! ever: who waited long enough is told who holds the books. Locks of the database are taken in one
//! order, by everybody: the books, a plan, and last the head of the trail.

mod pause;
mod statements;

use crate::member::Member;
use crate::write_queue::{Held, Turn};
use crate::{Store, StoreError};
use sqlx::{PgConnection, Postgres, Transaction};
use std::ops::{Deref, DerefMut};
use std::sync::Arc;
use std::time::Duration;
use tokio::sync::OwnedSemaphorePermit;
use tokio::time::{Instant, sleep, timeout};
use zf_core::ids::PlanId;

/// How long a person waits for others before they are told who holds the books.
const PATIENCE: Duration = Duration::from_secs(10);

/// How long it is asked what became of a transaction whose end was not heard.
const LOOK_AGAIN: Duration = Duration::from_secs(15);

/// A transaction that writes. Dropped, it is rolled back.
#[derive(Debug)]
pub(crate) struct Writing {
    tx: Transaction<'static, Postgres>,
    /// By which PostgreSQL knows it, also when it has ended.
    number: String,
    store: Store,
    turns: Vec<Turn>,
    _permit: OwnedSemaphorePermit,
}

impl Deref for Writing {
    type Target = PgConnection;

    fn deref(&self) -> &PgConnection {
        &self.tx
    }
}

impl DerefMut for Writing {
    fn deref_mut(&mut self) -> &mut PgConnection {
        &mut self.tx
    }
}

impl Store {
    /// Begins to write something that no books or plan have to be held for.
    pub(crate) async fn write(&self) -> Result<Writing, StoreError> {
        self.begin(Vec::new(), PATIENCE).await
    }

    /// Begins to post: apply and undo wait, other postings do not. A posting waits for as long as it
    /// takes, since it is a job that nobody sits before.
    pub(crate) async fn write_posting(&self, member: Member) -> Result<Writing, StoreError> {
        let turn = self.turns.queue(Held::Books(member.books())).read_owned().await;
        let mut writing = self.begin(vec![Turn::Shared(turn)], Duration::ZERO).await?;
        // `FOR KEY SHARE` lets several postings raise the revision, which `FOR SHARE` would not.
        let books = member.books().0;
        let archived = sqlx::query_scalar!(
            r#"SELECT archived_at IS NOT NULL AS "archived!" FROM books WHERE id = $1 FOR KEY SHARE"#,
            books
        );
        refuse_if(archived.fetch_one(&mut *writing).await?)?;
        writing.sign(member).await?;
        Ok(writing)
    }

    /// Begins to write to books that nobody else writes to meanwhile.
    ///
    /// # Errors
    /// [`StoreError::Busy`] when somebody else holds them for too long, [`StoreError::Refused`] when
    /// they were put away.
    pub(crate) async fn write_alone(&self, member: Member) -> Result<Writing, StoreError> {
        let (writing, archived) = self.hold(member, None).await?;
        refuse_if(archived)?;
        Ok(writing)
    }

    /// Begins to write what may be written to books that were put away, too: who is in them, and that
    /// they are taken up again.
    ///
    /// # Errors
    /// [`StoreError::Busy`] when somebody else holds them for too long.
    pub(crate) async fn write_around(&self, member: Member) -> Result<Writing, StoreError> {
        Ok(self.hold(member, None).await?.0)
    }

    /// Begins to apply a plan: nobody else writes to the books, nor changes the plan.
    ///
    /// # Errors
    /// [`StoreError::Busy`] when somebody else holds either for too long.
    pub(crate) async fn write_applying(
        &self,
        member: Member,
        plan: PlanId,
    ) -> Result<Writing, StoreError> {
        let (writing, archived) = self.hold(member, Some(plan)).await?;
        refuse_if(archived)?;
        Ok(writing)
    }

    /// Holds the books, and a plan when it is to be held; answers whether the books were put away.
    async fn hold(
        &self,
        member: Member,
        plan: Option<PlanId>,
    ) -> Result<(Writing, bool), StoreError> {
        // Who edits the plan waits for it only from when the books are free.
        let mut turns = vec![self.wait_alone(member, Held::Books(member.books())).await?];
        if let Some(plan) = plan {
            turns.push(self.wait_alone(member, Held::Plan(member.books(), plan.0)).await?);
        }
        let mut writing = self.begin(turns, PATIENCE).await?;
        let held = async {
            let books = member.books().0;
            let archived = sqlx::query_scalar!(
                r#"SELECT archived_at IS NOT NULL AS "archived!" FROM books WHERE id = $1 FOR UPDATE"#,
                books
            );
            let archived = archived.fetch_one(&mut *writing).await?;
            if let Some(plan) = plan {
                lock_plan(&mut writing, member, plan).await?;
            }
            writing.sign(member).await?;
            Ok(archived)
        };
        let archived = self.tell_who(member, held.await).await?;
        Ok((writing, archived))
    }

    /// Begins to stage in a plan that nobody else changes meanwhile.
    ///
    /// # Errors
    /// [`StoreError::Busy`] when somebody else holds it for too long.
    pub(crate) async fn write_staging(
        &self,
        member: Member,
        plan: PlanId,
    ) -> Result<Writing, StoreError> {
        let turn = self.wait_alone(member, Held::Plan(member.books(), plan.0)).await?;
        let mut writing = self.begin(vec![turn], PATIENCE).await?;
        let held = async {
            // Before the plan, as whoever applies one has it.
            let archived = sqlx::query_scalar!(
                r#"SELECT archived_at IS NOT NULL AS "archived!" FROM books WHERE id = $1 FOR KEY SHARE"#,
                member.books().0
            );
            refuse_if(archived.fetch_one(&mut *writing).await?)?;
            lock_plan(&mut writing, member, plan).await
        };
        let held = held.await;
        self.tell_who(member, held).await?;
        Ok(writing)
    }

    async fn wait_alone(&self, member: Member, held: Held) -> Result<Turn, StoreError> {
        match timeout(PATIENCE, self.turns.queue(held).write_owned()).await {
            Ok(turn) => Ok(Turn::Alone(turn)),
            Err(_) => Err(self.busy(member).await),
        }
    }

    async fn begin(&self, turns: Vec<Turn>, patience: Duration) -> Result<Writing, StoreError> {
        let permit = Arc::clone(&self.turns.writers).acquire_owned().await;
        let permit = permit.map_err(StoreError::damaged)?;
        let mut tx = self.pool.begin().await?;
        let number = sqlx::query_scalar!(
            r#"SELECT pg_current_xact_id()::text AS "number!"
               FROM set_config('lock_timeout', $1, true)"#,
            patience.as_millis().to_string()
        )
        .fetch_one(&mut *tx)
        .await?;
        Ok(Writing { tx, number, store: self.clone(), turns, _permit: permit })
    }

    async fn tell_who<T>(
        &self,
        member: Member,
        held: Result<T, StoreError>,
    ) -> Result<T, StoreError> {
        match held {
            Err(StoreError::Busy(_)) => Err(self.busy(member).await),
            held => held,
        }
    }

    /// That somebody holds the books, with their names. Whoever holds them has signed for it with a
    /// lock that nobody waits for, which PostgreSQL shows to others, and drops when they are gone.
    async fn busy(&self, member: Member) -> StoreError {
        let (books, _) = signature(member);
        let names = sqlx::query_scalar!(
            "SELECT DISTINCT p.name FROM pg_locks l JOIN person p ON p.id::integer::oid = l.objid
             WHERE l.locktype = 'advisory' AND l.objsubid = 2 AND l.classid = $1::integer::oid AND l.granted
               AND l.database = (SELECT oid FROM pg_database WHERE datname = current_database())
             ORDER BY p.name",
            books
        );
        match names.fetch_all(&self.pool).await {
            Ok(names) => StoreError::Busy(names),
            Err(error) => error.into(),
        }
    }

    /// Whether a transaction was kept whose end was not heard.
    async fn was_kept(&self, number: &str) -> Result<bool, StoreError> {
        let until = Instant::now() + LOOK_AGAIN;
        while Instant::now() < until {
            let status = sqlx::query_scalar!("SELECT pg_xact_status($1::text::xid8)", number);
            match status.fetch_one(&self.pool).await {
                Ok(Some(status)) if status == "committed" => return Ok(true),
                Ok(Some(status)) if status == "aborted" => return Ok(false),
                // It goes on, or the database is not back yet.
                Ok(_) | Err(_) => sleep(Duration::from_millis(100)).await,
            }
        }
        Err(StoreError::Unknown)
    }
}

impl Writing {
    /// Says to others who holds the books.
    async fn sign(&mut self, member: Member) -> Result<(), StoreError> {
        let (books, person) = signature(member);
        sqlx::query!("SELECT pg_advisory_xact_lock_shared($1, $2)", books, person)
            .execute(&mut *self.tx)
            .await?;
        Ok(())
    }

    /// Keeps what was written. When the line breaks meanwhile, it is asked what became of it.
    ///
    /// # Errors
    /// [`StoreError::Unknown`] when that cannot be found out; with every other error nothing was kept.
    pub(crate) async fn commit(mut self) -> Result<(), StoreError> {
        self.at_boundary().await;
        match self.tx.commit().await {
            Ok(()) => Ok(()),
            // PostgreSQL itself said no.
            Err(error @ sqlx::Error::Database(_)) => Err(error.into()),
            Err(error) => {
                tracing::warn!(%error, "the line to the database broke in a commit");
                let kept = self.store.was_kept(&self.number).await?;
                if kept { Ok(()) } else { Err(StoreError::Away) }
            }
        }
    }
}

/// Nothing is changed in books that were put away.
fn refuse_if(archived: bool) -> Result<(), StoreError> {
    if archived {
        return Err(StoreError::refused(
            "these books are archived; an owner can restore them in their settings",
        ));
    }
    Ok(())
}

/// What one signs with: two numbers as PostgreSQL takes them for such a lock.
fn signature(member: Member) -> (i32, i32) {
    let short = |id: i64| i32::try_from(id & i64::from(i32::MAX)).unwrap_or_default();
    (short(member.books().0), short(member.person().0))
}

async fn lock_plan(
    connection: &mut PgConnection,
    member: Member,
    plan: PlanId,
) -> Result<(), StoreError> {
    sqlx::query!(
        "SELECT id FROM plan WHERE books_id = $1 AND id = $2 FOR UPDATE",
        member.books().0,
        plan.0
    )
    .fetch_optional(connection)
    .await?
    .ok_or(StoreError::NotFound("plan"))?;
    Ok(())
}
