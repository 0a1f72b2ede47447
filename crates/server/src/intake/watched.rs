//! Rows that tell how far somebody is with them.

use std::sync::Arc;
use zf_intake::rows::{Rows, Walk};
use zf_store::jobs::{Phase, Progress};

#[derive(Debug)]
struct Watched {
    rows: Box<dyn Rows>,
    phase: Phase,
    progress: Arc<Progress>,
}

/// Makes rows tell how far somebody is with them; they end early once the work was stopped.
pub(super) fn watch(rows: &mut Box<dyn Rows>, phase: Phase, progress: &Arc<Progress>) {
    let inner = std::mem::replace(rows, Box::new(Vec::new()));
    *rows = Box::new(Watched { rows: inner, phase, progress: Arc::clone(progress) });
}

impl Rows for Watched {
    fn walk(&self) -> Walk<'_> {
        let rows = (1..).zip(self.rows.walk()).take_while(|_| !self.progress.is_stopped());
        Box::new(rows.map(|(n, row)| {
            self.progress.reach(self.phase, n);
            row
        }))
    }

    fn count(&self) -> usize {
        self.rows.count()
    }
}
