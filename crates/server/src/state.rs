//! What every action can reach: the store, and the latest snapshot of each set of books.

use crate::Problem;
use crate::intake::Looked;
use std::collections::HashMap;
use std::sync::{Arc, Mutex, MutexGuard, PoisonError};
use std::time::{Duration, Instant};
use tokio::sync::{Notify, OwnedSemaphorePermit, Semaphore};
use zf_core::chart::Account;
use zf_core::history::Split;
use zf_core::history::cut::Cuts;
use zf_core::ids::{AccountId, BooksId};
use zf_core::plan::Plan;
use zf_core::plan::edit::{Done, Edit};
use zf_core::rehearsal::rehearse;
use zf_store::people::Member;
use zf_store::plans::{Conflict, Draft, Edited};
use zf_store::today::Snapshot;
use zf_store::uploads::Upload;
use zf_store::{Store, StoreError};

/// How many sets of books are kept in memory.
const KEPT: usize = 16;

/// How long what was read of a file waits for somebody to agree to it.
const LOOKED_FOR: Duration = Duration::from_mins(10);

/// The most bytes of a text file that is opened beside others.
const SMALL: usize = 16 << 20;

/// How many passwords are hashed at once: each takes 19 MB and a processor.
const HASHES: usize = 4;

/// What the parts of a plan's splits take, for as long as they and the books stay as they were.
#[derive(Clone, Debug)]
struct KeptCuts {
    revision: i64,
    splits: Vec<(AccountId, Split)>,
    cuts: Cuts,
}

/// The state of a server. Snapshots are only ever used after the database has said that their
/// revision still holds, so any number of servers can share one database.
#[derive(Clone, Debug)]
pub struct App {
    /// The store.
    pub store: Store,
    snapshots: Arc<Mutex<HashMap<BooksId, Arc<Snapshot>>>>,
    cuts: Arc<Mutex<HashMap<(BooksId, i64), KeptCuts>>>,
    jobs: Arc<Notify>,
    looked: Arc<Mutex<Option<(Instant, Looked)>>>,
    hashing: Arc<Semaphore>,
    opening: Arc<Semaphore>,
}

impl App {
    /// The state over a store.
    pub fn new(store: Store) -> Self {
        Self {
            store,
            snapshots: Arc::default(),
            cuts: Arc::default(),
            jobs: Arc::default(),
            looked: Arc::default(),
            hashing: Arc::new(Semaphore::new(HASHES)),
            opening: Arc::new(Semaphore::new(1)),
        }
    }

    /// The books as they stand.
    ///
    /// # Errors
    /// When the store fails.
    pub async fn snapshot(&self, member: Member) -> Result<Arc<Snapshot>, StoreError> {
        let revision = self.store.revision(member).await?;
        let kept = self.kept().get(&member.books()).cloned();
        if let Some(snapshot) = kept.filter(|s| s.books.revision == revision) {
            return Ok(snapshot);
        }
        let snapshot = Arc::new(self.store.snapshot(member).await?);
        let mut kept = self.kept();
        if kept.len() >= KEPT {
            kept.clear();
        }
        kept.insert(member.books(), Arc::clone(&snapshot));
        Ok(snapshot)
    }

    /// A draft by name, with what the parts of its moved histories take. Lines are only gone through
    /// again when those parts, or the books, have changed.
    ///
    /// # Errors
    /// When there is no such draft or the store fails.
    pub(crate) async fn plan(&self, member: Member, id: i64) -> Result<(Draft, Plan), StoreError> {
        let (draft, mut plan) = self.store.plan(member, id).await?;
        let splits: Vec<_> = plan.splits().map(|(account, s)| (account, s.clone())).collect();
        if splits.is_empty() {
            return Ok((draft, plan));
        }
        let revision = self.store.revision(member).await?;
        let key = (member.books(), id);
        let kept = lock(&self.cuts).get(&key).cloned();
        if let Some(kept) = kept.filter(|k| k.revision == revision && k.splits == splits) {
            plan.cuts = kept.cuts;
            return Ok((draft, plan));
        }
        let cuts = self.store.cuts(member, &plan).await?;
        plan.cuts = cuts.clone();
        let mut kept = lock(&self.cuts);
        if kept.len() >= KEPT {
            kept.clear();
        }
        kept.insert(key, KeptCuts { revision, splits, cuts });
        Ok((draft, plan))
    }

    /// Stages edits, all or none of them.
    ///
    /// # Errors
    /// When somebody else was first in a field, which is said in words; when the store fails.
    pub(crate) async fn edit_plan(
        &self,
        member: Member,
        plan: i64,
        edits: &[Edit],
    ) -> Result<Vec<Done>, Problem> {
        let snapshot = self.snapshot(member).await?;
        match self.store.edit_plan(member, plan, &snapshot.today.chart, edits).await? {
            Edited::Done(done) => Ok(done),
            Edited::Conflicts(conflicts) => Err(self.in_words(member, plan, conflicts).await?),
        }
    }

    /// Fields in which somebody else was first, in words.
    ///
    /// # Errors
    /// When the store fails.
    pub(crate) async fn in_words(
        &self,
        member: Member,
        plan: i64,
        conflicts: Vec<Conflict>,
    ) -> Result<Problem, StoreError> {
        let (_, plan) = self.plan(member, plan).await?;
        let after = rehearse(&self.snapshot(member).await?.today, &plan).after;
        let label = |id| after.get(id).map_or_else(|| "a new account".to_owned(), Account::label);
        Ok(Problem::conflicts(conflicts, after.structure(), label))
    }

    /// Hashes a password, once those before it are done.
    ///
    /// # Errors
    /// When the work panicked.
    pub(crate) async fn hashing<T: Send + 'static>(
        &self,
        work: impl FnOnce() -> T + Send + 'static,
    ) -> Result<T, Problem> {
        let _place = self.hashing.acquire().await.map_err(|e| Problem::internal(&e))?;
        off_thread(work).await
    }

    /// Waits until a file can be opened that takes much memory, as long texts do, and workbooks and
    /// audit files, which are held as a whole: one at a time, and what was kept of the one before is
    /// let go.
    ///
    /// # Errors
    /// Never, as long as the server runs.
    pub(crate) async fn open_large(
        &self,
        upload: &Upload,
    ) -> Result<Option<OwnedSemaphorePermit>, Problem> {
        lock(&self.looked).take();
        if upload.size <= SMALL && zf_sheets::is_read_as_it_comes(&upload.file_name) {
            return Ok(None);
        }
        let place = Arc::clone(&self.opening).acquire_owned().await;
        place.map(Some).map_err(|e| Problem::internal(&e))
    }

    /// Says that there is a job, so that nobody here sleeps on.
    pub(crate) fn wake(&self) {
        self.jobs.notify_one();
    }

    /// Waits until there may be a job: one of this server is told at once, one of another, or of a
    /// server that died, is found within a second.
    pub(crate) async fn wait_for_jobs(&self) {
        let _ = tokio::time::timeout(Duration::from_secs(1), self.jobs.notified()).await;
        lock(&self.looked).take_if(|(since, _)| since.elapsed() > LOOKED_FOR);
    }

    /// Keeps what was read last for whoever agrees to it next. One large file is enough to hold.
    pub(crate) fn keep_looked(&self, looked: Looked) {
        *lock(&self.looked) = Some((Instant::now(), looked));
    }

    /// What was read of a file before, if reading it once more would come to the same.
    ///
    /// # Errors
    /// When the store fails.
    pub(crate) async fn looked_before(
        &self,
        member: Member,
        upload: &Upload,
    ) -> Result<Option<Looked>, StoreError> {
        let revision = self.store.revision(member).await?;
        let kept = lock(&self.looked).take_if(|(_, looked)| looked.still_holds(upload, revision));
        Ok(kept.map(|(_, looked)| looked))
    }

    fn kept(&self) -> MutexGuard<'_, HashMap<BooksId, Arc<Snapshot>>> {
        lock(&self.snapshots)
    }
}

/// A panic elsewhere cannot leave what is locked here half changed: each change is one call.
fn lock<T>(mutex: &Mutex<T>) -> MutexGuard<'_, T> {
    mutex.lock().unwrap_or_else(PoisonError::into_inner)
}

/// Runs work that would keep the server from answering others.
///
/// # Errors
/// When the work panicked.
pub(crate) async fn off_thread<T: Send + 'static>(
    work: impl FnOnce() -> T + Send + 'static,
) -> Result<T, Problem> {
    tokio::task::spawn_blocking(work).await.map_err(|error| Problem::internal(&error))
}
