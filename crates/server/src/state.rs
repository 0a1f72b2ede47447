//! What every action can reach: the store, and the latest snapshot of each set of books.

use crate::Problem;
use crate::boxed;
use crate::cache::{At, CachedCuts, CachedPlan, Kept, Rehearsed};
use crate::config::Config;
use crate::metrics::Metrics;
use crate::waiting_file::WaitingFile;
use std::sync::atomic::{AtomicUsize, Ordering};
use std::sync::{Arc, Mutex, MutexGuard, PoisonError};
use std::time::{Duration, Instant};
use tokio::sync::{Notify, OwnedSemaphorePermit, Semaphore};
use zf_core::chart::Chart;
use zf_core::ids::PlanId;
use zf_core::plan::edit::{Done, Edit};
use zf_core::plan::steps::Way;
use zf_phrases::Say;
use zf_store::imports::uploads::Upload;
use zf_store::journal::today::Snapshot;
use zf_store::member::Member;
use zf_store::plans::{Conflict, DraftPlan, Edited};
use zf_store::{Store, StoreError};

/// How long what was read of a file waits for somebody to agree to it.
const LOOKED_FOR: Duration = Duration::from_mins(10);

/// The most bytes of a text file that is opened beside others.
const SMALL: usize = 16 << 20;

/// How long one stands in line for a file that is large.
const IN_LINE: Duration = Duration::from_mins(4);

/// How many passwords are hashed at once: each takes 19 MB and a processor.
const HASHES: usize = 4;

/// The state of a server.
#[derive(Clone, Debug)]
pub struct App {
    /// The store.
    pub store: Store,
    pub(crate) config: Config,
    pub(crate) kept: Kept,
    pub(crate) metrics: Metrics,
    workers: Arc<AtomicUsize>,
    jobs: Arc<Notify>,
    looked: Arc<Mutex<Option<(Instant, WaitingFile)>>>,
    hashing: Arc<Semaphore>,
    opening: Arc<Semaphore>,
    writing: Arc<Semaphore>,
}

impl App {
    /// The state over a store, run in this way.
    pub fn new(store: Store, config: Config) -> Self {
        Self {
            store,
            config,
            kept: Kept::default(),
            metrics: Metrics::default(),
            workers: Arc::default(),
            jobs: Arc::default(),
            looked: Arc::default(),
            hashing: Arc::new(Semaphore::new(HASHES)),
            opening: Arc::new(Semaphore::new(1)),
            writing: Arc::new(Semaphore::new(1)),
        }
    }

    /// Whether somebody takes up jobs here.
    pub(crate) fn has_workers(&self) -> bool {
        self.workers.load(Ordering::Relaxed) > 0
    }

    /// Counts one who takes up jobs, until it is dropped.
    pub(crate) fn at_work(&self) -> AtWork {
        self.workers.fetch_add(1, Ordering::Relaxed);
        AtWork(Arc::clone(&self.workers))
    }

    /// The address that browsers reach the server at.
    pub fn url(&self) -> &str {
        self.config.url()
    }

    /// The books as they stand.
    ///
    /// # Errors
    /// When the store fails.
    #[boxed]
    pub async fn snapshot(&self, member: Member) -> Result<Arc<Snapshot>, StoreError> {
        let revision = self.store.revision(member).await?;
        self.kept.snapshot(member.books(), revision, self.store.snapshot(member)).await
    }

    /// A draft with what is staged in it, and what the parts of its moved histories take. Lines are only
    /// gone through again when those parts, or the books, have changed.
    ///
    /// # Errors
    /// When there is no such draft or the store fails.
    pub(crate) async fn plan(
        &self,
        member: Member,
        id: PlanId,
    ) -> Result<Arc<CachedPlan>, StoreError> {
        let key = (member.books(), id);
        let draft = self.store.draft(member, id).await?;
        let kept = self.kept.plans.get(&key).await;
        let kept = match kept.filter(|kept| kept.draft.revision == draft.revision) {
            // It may have been given another name, which is no change of what is staged.
            Some(kept) if kept.draft == draft => kept,
            Some(kept) => Arc::new(CachedPlan { draft, plan: kept.plan.clone() }),
            None => {
                let (draft, plan) = self.store.plan(member, id).await?;
                Arc::new(CachedPlan { draft, plan })
            }
        };
        let kept = self.with_cuts(member, id, kept).await?;
        self.kept.plans.insert(key, Arc::clone(&kept)).await;
        Ok(kept)
    }

    async fn with_cuts(
        &self,
        member: Member,
        id: PlanId,
        kept: Arc<CachedPlan>,
    ) -> Result<Arc<CachedPlan>, StoreError> {
        let splits: Vec<_> = kept.plan.splits().map(|(id, split)| (id, split.clone())).collect();
        if splits.is_empty() {
            return Ok(kept);
        }
        let (key, revision) = ((member.books(), id), self.store.revision(member).await?);
        let before = self.kept.cuts.get(&key).await;
        let cuts = match before.filter(|cut| cut.revision == revision && cut.splits == splits) {
            Some(cut) => cut,
            None => {
                let cuts = self.store.cuts(member, &kept.plan).await?;
                let cut = Arc::new(CachedCuts { revision, splits, cuts });
                self.kept.cuts.insert(key, Arc::clone(&cut)).await;
                cut
            }
        };
        if kept.plan.cuts == cuts.cuts {
            return Ok(kept);
        }
        let mut plan = kept.plan.clone();
        plan.cuts = cuts.cuts.clone();
        Ok(Arc::new(CachedPlan { draft: kept.draft.clone(), plan }))
    }

    /// A draft as it is rehearsed on the books as they stand; what was rehearsed before is not again.
    ///
    /// # Errors
    /// When there is no such draft or the store fails.
    pub(crate) async fn rehearsed(
        &self,
        member: Member,
        id: PlanId,
    ) -> Result<(Arc<Snapshot>, Arc<CachedPlan>, Arc<Rehearsed>), Problem> {
        let snapshot = self.snapshot(member).await?;
        let kept = self.plan(member, id).await?;
        let at = At::of(member, &snapshot, id, kept.draft.revision);
        let (books, staged) = (Arc::clone(&snapshot), Arc::clone(&kept));
        let metrics = self.metrics.clone();
        let rehearse = move || {
            let began = Instant::now();
            let rehearsed = Arc::new(Rehearsed::of(&books.today, &staged.plan));
            // Its words are read next, and are put together here, off the threads that answer.
            rehearsed.report(member.forms());
            metrics.rehearsed(began.elapsed());
            rehearsed
        };
        let rehearsed = self.kept.rehearsals.try_get_with(at, off_thread(rehearse)).await;
        Ok((snapshot, kept, rehearsed.map_err(Problem::shared)?))
    }

    /// The books as they stand, with the rehearsal of a plan when one is asked for.
    ///
    /// # Errors
    /// When there is no such draft or the store fails.
    pub(crate) async fn looked_at(
        &self,
        member: Member,
        plan: Option<PlanId>,
    ) -> Result<(Arc<Snapshot>, Option<Arc<Rehearsed>>), Problem> {
        Ok(match plan {
            Some(plan) => {
                let (snapshot, _, rehearsed) = self.rehearsed(member, plan).await?;
                (snapshot, Some(rehearsed))
            }
            None => (self.snapshot(member).await?, None),
        })
    }

    /// Stages edits of the chart as it stands, all or none of them.
    ///
    /// # Errors
    /// When somebody else was first in a field, which is said in words; when the store fails.
    pub(crate) async fn edit_plan(
        &self,
        member: Member,
        plan: PlanId,
        chart: &Chart,
        edits: &[Edit],
    ) -> Result<Vec<Done>, Problem> {
        match self.store.edit_plan(member, plan, chart, edits).await? {
            Edited::Done(done, revision) => {
                self.carry_out(member, plan, &done, revision).await;
                Ok(done)
            }
            Edited::Conflicts(conflicts) => Err(self.in_words(member, plan, conflicts).await?),
        }
    }

    /// Undoes or redoes a step of the member in a draft; answers what it did and how many fields stay as somebody
    /// left them since, or `None` when there is no such step.
    ///
    /// # Errors
    /// When the store fails.
    pub(crate) async fn step_plan(
        &self,
        member: Member,
        plan: PlanId,
        chart: &Chart,
        way: Way,
    ) -> Result<Option<(Vec<Done>, usize)>, Problem> {
        let Some(stepped) = self.store.step_plan(member, plan, chart, way).await? else {
            return Ok(None);
        };
        self.carry_out(member, plan, &stepped.done, stepped.revision).await;
        Ok(Some((stepped.done, stepped.stay)))
    }

    /// Does to the plan that is kept what was done to the stored one, if it is the one of just before.
    async fn carry_out(&self, member: Member, id: PlanId, done: &[Done], revision: i64) {
        let key = (member.books(), id);
        let kept = self.kept.plans.get(&key).await;
        if let Some(kept) = kept.filter(|kept| kept.draft.revision + 1 == revision) {
            let mut plan = kept.plan.clone();
            plan.carry_out(done);
            let draft = DraftPlan { revision, ..kept.draft.clone() };
            self.kept.plans.insert(key, Arc::new(CachedPlan { draft, plan })).await;
        }
    }

    /// Fields in which somebody else was first, in words.
    ///
    /// # Errors
    /// When the store fails.
    pub(crate) async fn in_words(
        &self,
        member: Member,
        plan: PlanId,
        conflicts: Vec<Conflict>,
    ) -> Result<Problem, Problem> {
        let (snapshot, _, rehearsed) = self.rehearsed(member, plan).await?;
        let names = rehearsed.names();
        let say = Say::to(member.forms(), &names, snapshot.today.currency);
        Ok(Problem::conflicts(conflicts, &say))
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

    /// Waits in line until a file of a whole journal can be written, which is held in memory as it grows: one
    /// at a time.
    ///
    /// # Errors
    /// [`StoreError::Crowded`] when that takes too long.
    pub(crate) async fn write_large(&self) -> Result<OwnedSemaphorePermit, Problem> {
        let place = Arc::clone(&self.writing).acquire_owned();
        match tokio::time::timeout(IN_LINE, place).await {
            Ok(place) => place.map_err(|error| Problem::internal(&error)),
            Err(_) => Err(StoreError::Crowded.into()),
        }
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
    pub(crate) fn keep_looked(&self, looked: WaitingFile) {
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
    ) -> Result<Option<WaitingFile>, StoreError> {
        let revision = self.store.revision(member).await?;
        let kept = lock(&self.looked).take_if(|(_, looked)| looked.still_holds(upload, revision));
        Ok(kept.map(|(_, looked)| looked))
    }
}

/// One who takes up jobs.
pub(crate) struct AtWork(Arc<AtomicUsize>);

impl Drop for AtWork {
    fn drop(&mut self) {
        self.0.fetch_sub(1, Ordering::Relaxed);
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
