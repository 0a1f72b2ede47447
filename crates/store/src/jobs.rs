//! Jobs: what is to be done behind the requests, with a waiting file or after a plan was applied. A job is
//! a row that any server takes up; it says there how far it is, and stops when somebody else took it up or
//! a person stopped it. A server that died is missed by its beat, and the next one begins anew: what the
//! first had not committed is not there.

use crate::boxed;
use crate::ids::{Counter, take_one};
use crate::member::Member;
use crate::writing::Writing;
use crate::{Store, StoreError};
use serde::Serialize;
use serde::de::DeserializeOwned;
use serde_json::Value;
use sqlx::types::Json;
use std::sync::atomic::{AtomicBool, AtomicI64, Ordering};
use time::OffsetDateTime;
use zf_core::file_kind::FileKind;
use zf_core::ids::{BooksId, ImportId, PersonId};

/// How many servers may die of one job before nobody takes it up any more.
const MAX_TRIES: i32 = 2;

/// What is done with a file.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum Step {
    /// It is read and checked, for a person to see.
    Look,
    /// What is ready of it is stored.
    Store,
}

impl Step {
    const fn key(self) -> &'static str {
        match self {
            Self::Look => "look",
            Self::Store => "store",
        }
    }

    fn from_key(key: &str) -> Result<Self, StoreError> {
        match key {
            "look" => Ok(Self::Look),
            "store" => Ok(Self::Store),
            _ => Err(StoreError::damaged(key)),
        }
    }
}

/// What rows are gone through for.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum Phase {
    /// To find out how they are read.
    Read,
    /// To check them against the books.
    Check,
    /// To store them.
    Store,
}

/// How many rows were gone through, and whether to go on. Whoever does the work writes it, and
/// whoever watches over it reads it.
#[derive(Debug, Default)]
pub struct Progress {
    rows: [AtomicI64; 3],
    stopped: AtomicBool,
}

impl Progress {
    /// Says how far a phase is. One that goes through the rows twice counts them once.
    pub fn reach(&self, phase: Phase, rows: i64) {
        self.rows[phase as usize].fetch_max(rows, Ordering::Relaxed);
    }

    fn rows(&self, phase: Phase) -> i64 {
        self.rows[phase as usize].load(Ordering::Relaxed)
    }

    /// Says that the work is to end.
    pub fn stop(&self) {
        self.stopped.store(true, Ordering::Relaxed);
    }

    /// Whether the work is to end.
    pub fn is_stopped(&self) -> bool {
        self.stopped.load(Ordering::Relaxed)
    }

    /// Goes on, if nobody stopped the work.
    ///
    /// # Errors
    /// [`StoreError::Stopped`] when somebody did.
    pub fn go_on(&self) -> Result<(), StoreError> {
        if self.is_stopped() { Err(StoreError::Stopped) } else { Ok(()) }
    }
}

/// What is to be done.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum Task {
    /// Something with a waiting file.
    File {
        /// The file.
        import: ImportId,
        /// What.
        step: Step,
    },
    /// All lines are counted again.
    Recount {
        /// The application after which they are.
        application: i64,
    },
}

/// A job that was taken up.
#[derive(Clone, Debug)]
pub struct Job {
    /// What is to be done.
    pub task: Task,
    agreed: Value,
    pub(crate) books: BooksId,
    id: i64,
    person: PersonId,
    turn: i64,
}

impl Job {
    /// To what the person agreed.
    ///
    /// # Errors
    /// When it is of a form that is not known.
    pub fn agreed<A: DeserializeOwned>(&self) -> Result<A, StoreError> {
        A::deserialize(&self.agreed).map_err(StoreError::damaged)
    }
}

/// What came of a job that was done.
#[derive(Debug)]
pub enum Outcome<'a> {
    /// A file was stored.
    Stored,
    /// Lines were counted again.
    Recounted(&'a Recount),
}

/// What a recount found.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct Recount {
    /// How many lines were read.
    pub lines: u64,
    /// Where the lines and their totals disagree; empty when all is well.
    pub misses: Vec<String>,
}

/// Why a job failed.
#[derive(Clone, Debug, PartialEq, Eq)]
pub enum Failure<P> {
    /// Servers stopped while they were at it, so often that nobody tries again. Nothing was stored.
    GivenUp,
    /// What whoever did it said.
    Said(P),
}

impl<P: DeserializeOwned> Failure<P> {
    /// A job that was given up says nothing, since nobody was left to say it.
    fn read(said: Option<Value>) -> Result<Self, StoreError> {
        let Some(said) = said else { return Ok(Self::GivenUp) };
        P::deserialize(said).map(Self::Said).map_err(StoreError::damaged)
    }
}

/// How the recount stands that an application queued.
#[derive(Clone, Debug, PartialEq, Eq)]
pub enum RecountState<P> {
    /// It waits or runs.
    Waiting,
    /// It was done.
    Done {
        /// When.
        at: OffsetDateTime,
        /// Where lines and totals disagree; empty when all is well.
        misses: Vec<String>,
    },
    /// It could not be done.
    Failed {
        /// When that was found.
        at: OffsetDateTime,
        /// Why.
        why: Failure<P>,
    },
}

/// Queues a recount after an application.
pub(crate) async fn queue_recount(
    tx: &mut Writing,
    member: Member,
    application: i64,
) -> Result<(), StoreError> {
    let id = take_one(tx, Counter::Job).await?;
    sqlx::query!(
        "INSERT INTO job (books_id, id, task, application_id, state, person_id, agreed)
         VALUES ($1, $2, 'recount', $3, 'queued', $4, 'null')",
        member.books().0,
        id,
        application,
        member.person().0
    )
    .execute(tx)
    .await?;
    Ok(())
}

/// Where a job stands.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum State {
    /// It waits for a server, or one is at it.
    Underway,
    /// It was done.
    Done,
    /// It failed.
    Failed,
    /// A person stopped it.
    Cancelled,
}

/// What is known of a job.
#[derive(Clone, Debug)]
pub struct JobState<P> {
    /// What the file brings in.
    pub kind: FileKind,
    /// What the file is called.
    pub file_name: String,
    /// What is done.
    pub step: Step,
    /// Where it stands.
    pub state: State,
    /// How many rows were read, checked and stored.
    pub rows: [i64; 3],
    /// Why it failed, if it did.
    pub failure: Option<Failure<P>>,
    /// How many rows of the file are stored for good, once they are.
    pub stored: Option<i64>,
}

impl Store {
    /// Queues what is to be done with a waiting file, in place of what was before.
    ///
    /// # Errors
    /// [`StoreError::Refused`] while the file is being stored.
    pub async fn queue_job(
        &self,
        member: Member,
        import: ImportId,
        step: Step,
        agreed: &(impl Serialize + Sync),
    ) -> Result<(), StoreError> {
        let agreed = serde_json::to_value(agreed)?;
        let id = take_one(&mut *self.pool.acquire().await?, Counter::Job).await?;
        let queued = sqlx::query!(
            "INSERT INTO job (books_id, id, import_id, task, state, person_id, agreed)
             VALUES ($1, $2, $3, $4, 'queued', $5, $6)
             ON CONFLICT (import_id, books_id) DO UPDATE SET
                 task = EXCLUDED.task, state = 'queued', person_id = EXCLUDED.person_id, agreed = EXCLUDED.agreed,
                 queued_at = now(), turn = job.turn + 1, tries = 0, beat = NULL,
                 rows_read = 0, rows_checked = 0, rows_stored = 0, shown = NULL, revision = NULL, problem = NULL,
                 finished_at = NULL
             WHERE NOT (job.task = 'store' AND job.state IN ('queued', 'running'))",
            member.books().0,
            id,
            import.0,
            step.key(),
            member.person().0,
            agreed
        )
        .execute(&self.pool)
        .await?;
        if queued.rows_affected() == 0 {
            return Err(StoreError::refused("the file is being stored just now"));
        }
        Ok(())
    }

    /// Takes up the oldest job that nobody is at.
    ///
    /// # Errors
    /// When the database fails.
    #[boxed]
    pub async fn take_job(&self) -> Result<Option<Job>, StoreError> {
        sqlx::query!(
            "UPDATE job SET state = 'failed', turn = turn + 1, problem = NULL, finished_at = now()
             WHERE state = 'running' AND tries >= $1 AND beat < now() - interval '15 seconds'",
            MAX_TRIES
        )
        .execute(&self.pool)
        .await?;
        let job = sqlx::query!(
            "UPDATE job j SET state = 'running', turn = j.turn + 1, tries = j.tries + 1, beat = now(),
                 rows_read = 0, rows_checked = 0, rows_stored = 0
             FROM (SELECT books_id, id FROM job
                   WHERE state = 'queued' OR (state = 'running' AND beat < now() - interval '15 seconds')
                   ORDER BY queued_at LIMIT 1 FOR UPDATE SKIP LOCKED) q
             WHERE j.books_id = q.books_id AND j.id = q.id
             RETURNING j.books_id, j.id, j.import_id, j.application_id, j.task, j.agreed, j.person_id, j.turn"
        );
        let Some(row) = job.fetch_optional(&self.pool).await? else { return Ok(None) };
        let task = match (row.import_id, row.application_id) {
            (Some(import), _) => {
                Task::File { import: ImportId(import), step: Step::from_key(&row.task)? }
            }
            (None, Some(application)) => Task::Recount { application },
            (None, None) => return Err(StoreError::damaged("a job is about nothing")),
        };
        let (books, agreed) = (BooksId(row.books_id), row.agreed);
        Ok(Some(Job {
            task,
            agreed,
            books,
            id: row.id,
            person: PersonId(row.person_id),
            turn: row.turn,
        }))
    }

    /// How many jobs of all servers are not done yet.
    ///
    /// # Errors
    /// When the database fails.
    #[boxed]
    pub async fn jobs_waiting(&self) -> Result<i64, StoreError> {
        let waiting = sqlx::query_scalar!(
            r#"SELECT count(*) AS "count!" FROM job WHERE state IN ('queued', 'running')"#
        );
        Ok(waiting.fetch_one(&self.pool).await?)
    }

    /// On whose behalf a job is done.
    ///
    /// # Errors
    /// [`StoreError::NotFound`] when the person is no longer a member.
    #[boxed]
    pub async fn member_of(&self, job: &Job) -> Result<Member, StoreError> {
        self.member(job.person, job.books).await
    }

    /// Says how far a job is and that its server lives. Returns whether it is still to be done by
    /// this one.
    ///
    /// # Errors
    /// When the database fails.
    #[boxed]
    pub async fn beat(&self, job: &Job, progress: &Progress) -> Result<bool, StoreError> {
        let beat = sqlx::query!(
            "UPDATE job SET beat = now(), rows_read = $4, rows_checked = $5, rows_stored = $6
             WHERE books_id = $1 AND id = $2 AND turn = $3",
            job.books.0,
            job.id,
            job.turn,
            progress.rows(Phase::Read),
            progress.rows(Phase::Check),
            progress.rows(Phase::Store)
        );
        Ok(beat.execute(&self.pool).await?.rows_affected() > 0)
    }

    /// Ends a job that was done, with what came of it.
    ///
    /// # Errors
    /// When the database fails.
    #[boxed]
    pub async fn finish_job(&self, job: &Job, outcome: &Outcome<'_>) -> Result<(), StoreError> {
        let recount = match outcome {
            Outcome::Stored => None,
            Outcome::Recounted(found) => Some(found),
        };
        let lines = recount.map(|found| i64::try_from(found.lines)).transpose();
        sqlx::query!(
            "UPDATE job SET state = 'done', finished_at = now(), lines = $4, misses = $5
             WHERE books_id = $1 AND id = $2 AND turn = $3",
            job.books.0,
            job.id,
            job.turn,
            lines.map_err(StoreError::damaged)?,
            recount.map(|found| Json(&found.misses)) as _
        )
        .execute(&self.pool)
        .await?;
        Ok(())
    }

    /// Ends a look at a file with what is shown of it, and the revision of the books that it was read against.
    ///
    /// # Errors
    /// When the database fails.
    pub async fn finish_look(
        &self,
        job: &Job,
        shown: &(impl Serialize + Sync),
        revision: i64,
    ) -> Result<(), StoreError> {
        sqlx::query!(
            "UPDATE job SET state = 'done', finished_at = now(), shown = $4, revision = $5
             WHERE books_id = $1 AND id = $2 AND turn = $3",
            job.books.0,
            job.id,
            job.turn,
            Json(shown) as _,
            revision
        )
        .execute(&self.pool)
        .await?;
        Ok(())
    }

    /// Ends a job that failed, with why.
    ///
    /// # Errors
    /// When the database fails.
    pub async fn fail_job(
        &self,
        job: &Job,
        problem: &(impl Serialize + Sync),
    ) -> Result<(), StoreError> {
        sqlx::query!(
            "UPDATE job SET state = 'failed', finished_at = now(), problem = $4
             WHERE books_id = $1 AND id = $2 AND turn = $3",
            job.books.0,
            job.id,
            job.turn,
            Json(problem) as _
        )
        .execute(&self.pool)
        .await?;
        Ok(())
    }

    /// Stops what is being done with a file. Nothing is stored of it, unless that was done already.
    ///
    /// # Errors
    /// When the database fails.
    #[boxed]
    pub async fn cancel_job(&self, member: Member, import: ImportId) -> Result<(), StoreError> {
        sqlx::query!(
            "UPDATE job SET state = 'cancelled', turn = turn + 1
             WHERE books_id = $1 AND import_id = $2 AND state IN ('queued', 'running')",
            member.books().0,
            import.0
        )
        .execute(&self.pool)
        .await?;
        Ok(())
    }

    /// Where the job of a file stands.
    ///
    /// # Errors
    /// [`StoreError::NotFound`] when nothing was ever to be done with such a file.
    pub async fn job<P: DeserializeOwned>(
        &self,
        member: Member,
        import: ImportId,
    ) -> Result<JobState<P>, StoreError> {
        let row = sqlx::query!(
            "SELECT j.task, j.state, j.rows_read, j.rows_checked, j.rows_stored, j.problem, i.kind,
                    i.file_name, i.stored_rows
             FROM job j JOIN import i ON i.books_id = j.books_id AND i.id = j.import_id
             WHERE j.books_id = $1 AND j.import_id = $2",
            member.books().0,
            import.0
        )
        .fetch_optional(&self.pool)
        .await?
        .ok_or(StoreError::NotFound("waiting import"))?;
        // A server that died behind its commit could not say that it was done.
        let state = match row.state.as_str() {
            _ if row.stored_rows.is_some() => State::Done,
            "done" => State::Done,
            "failed" => State::Failed,
            "cancelled" => State::Cancelled,
            _ => State::Underway,
        };
        Ok(JobState {
            kind: FileKind::from_key(&row.kind).ok_or_else(|| StoreError::damaged(&row.kind))?,
            file_name: row.file_name,
            step: Step::from_key(&row.task)?,
            state,
            rows: [row.rows_read, row.rows_checked, row.rows_stored],
            failure: match state {
                State::Failed => Some(Failure::read(row.problem)?),
                _ => None,
            },
            stored: row.stored_rows,
        })
    }

    /// What is shown of a file that was looked at, and the revision of the books that it was read
    /// against. What a program of another version shows is not known, so the file is to be looked at anew.
    ///
    /// # Errors
    /// When the database fails.
    pub async fn shown<V: DeserializeOwned>(
        &self,
        member: Member,
        import: ImportId,
    ) -> Result<Option<(V, i64)>, StoreError> {
        let shown = sqlx::query!(
            r#"SELECT shown AS "shown!", revision AS "revision!" FROM job
               WHERE books_id = $1 AND import_id = $2 AND state = 'done' AND shown IS NOT NULL"#,
            member.books().0,
            import.0
        );
        let row = shown.fetch_optional(&self.pool).await?;
        Ok(row.and_then(|row| Some((V::deserialize(row.shown).ok()?, row.revision))))
    }

    /// How the recount stands that an application queued.
    ///
    /// # Errors
    /// When the database fails.
    pub async fn recount_state<P: DeserializeOwned>(
        &self,
        member: Member,
        application: i64,
    ) -> Result<Option<RecountState<P>>, StoreError> {
        let row = sqlx::query!(
            r#"SELECT finished_at, misses AS "misses: Json<Vec<String>>", problem
               FROM job WHERE books_id = $1 AND application_id = $2"#,
            member.books().0,
            application
        )
        .fetch_optional(&self.pool)
        .await?;
        let Some(row) = row else { return Ok(None) };
        Ok(Some(match (row.finished_at, row.misses) {
            (None, _) => RecountState::Waiting,
            (Some(at), Some(Json(misses))) => RecountState::Done { at, misses },
            (Some(at), None) => RecountState::Failed { at, why: Failure::read(row.problem)? },
        }))
    }
}
