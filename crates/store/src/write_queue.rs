//! Whose turn it is to write, within this server.

use std::collections::HashMap;
use std::sync::{Arc, Mutex, PoisonError, Weak};
use tokio::sync::{OwnedRwLockReadGuard, OwnedRwLockWriteGuard, RwLock, Semaphore};
use zf_core::ids::BooksId;

/// What only one, or only those who do not mind each other, write to at a time.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Hash)]
pub(crate) enum Held {
    Books(BooksId),
    Plan(BooksId, i64),
}

/// Whose turn it is within this server. What counts are the locks of the database, which other
/// servers see as well; this only keeps those who wait from holding connections.
#[derive(Clone, Debug)]
pub(crate) struct Turns {
    held: Arc<Mutex<HashMap<Held, Weak<RwLock<()>>>>>,
    pub(crate) writers: Arc<Semaphore>,
}

impl Turns {
    /// Turns for a server that writes on at most so many connections.
    pub(crate) fn new(writers: usize) -> Self {
        Self { held: Arc::default(), writers: Arc::new(Semaphore::new(writers)) }
    }

    /// The queue for something.
    pub(crate) fn queue(&self, held: Held) -> Arc<RwLock<()>> {
        let mut all = self.held.lock().unwrap_or_else(PoisonError::into_inner);
        if let Some(queue) = all.get(&held).and_then(Weak::upgrade) {
            return queue;
        }
        all.retain(|_, queue| queue.strong_count() > 0);
        let queue = Arc::default();
        all.insert(held, Arc::downgrade(&queue));
        queue
    }
}

#[derive(Debug)]
#[expect(dead_code, reason = "held until the transaction ends")]
pub(crate) enum Turn {
    Alone(OwnedRwLockWriteGuard<()>),
    Shared(OwnedRwLockReadGuard<()>),
}
