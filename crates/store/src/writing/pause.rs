//! A hook for tests that kill the process between two statements: with `ZEROFOLD_PAUSE_AT=n` the
//! n-th pass of [`point`] says so on standard error and then waits for ever.

use std::sync::OnceLock;
use std::sync::atomic::{AtomicU64, Ordering};

static PASSED: AtomicU64 = AtomicU64::new(0);

fn pause_at() -> Option<u64> {
    static AT: OnceLock<Option<u64>> = OnceLock::new();
    *AT.get_or_init(|| std::env::var("ZEROFOLD_PAUSE_AT").ok()?.parse().ok())
}

/// A boundary between two statements of a transaction that must not be left half done.
pub(crate) async fn point() {
    if let Some(at) = pause_at()
        && PASSED.fetch_add(1, Ordering::SeqCst) + 1 == at
    {
        eprintln!("paused at statement boundary {at}");
        std::future::pending::<()>().await;
    }
}
