//! What every action can reach: the store, and the latest snapshot of each set of books.

use crate::Problem;
use std::collections::HashMap;
use std::sync::{Arc, Mutex, PoisonError};
use std::time::Duration;
use tokio::sync::Notify;
use zf_core::ids::BooksId;
use zf_store::people::Member;
use zf_store::today::Snapshot;
use zf_store::{Store, StoreError};

/// How many sets of books are kept in memory.
const KEPT: usize = 16;

/// The state of a server. Snapshots are only ever used after the database has said that their
/// revision still holds, so any number of servers can share one database.
#[derive(Clone, Debug)]
pub struct App {
    /// The store.
    pub store: Store,
    snapshots: Arc<Mutex<HashMap<BooksId, Arc<Snapshot>>>>,
    jobs: Arc<Notify>,
}

impl App {
    /// The state over a store.
    pub fn new(store: Store) -> Self {
        Self { store, snapshots: Arc::default(), jobs: Arc::default() }
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

    /// Says that there is a job, so that nobody here sleeps on.
    pub(crate) fn wake(&self) {
        self.jobs.notify_one();
    }

    /// Waits until there may be a job: one of this server is told at once, one of another, or of a
    /// server that died, is found within a second.
    pub(crate) async fn wait_for_jobs(&self) {
        let _ = tokio::time::timeout(Duration::from_secs(1), self.jobs.notified()).await;
    }

    fn kept(&self) -> std::sync::MutexGuard<'_, HashMap<BooksId, Arc<Snapshot>>> {
        // A panic elsewhere cannot leave the map half changed: each change is one call.
        self.snapshots.lock().unwrap_or_else(PoisonError::into_inner)
    }
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
