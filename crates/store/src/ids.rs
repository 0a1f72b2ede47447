//! Identities, handed out in blocks by sequences of PostgreSQL.

use crate::StoreError;
use sqlx::PgConnection;
use std::ops::Range;

/// What identities are counted separately for.
#[derive(Clone, Copy, Debug)]
pub(crate) enum Counter {
    Account,
    Application,
    Books,
    Entry,
    Import,
    Job,
    Line,
    Plan,
    Strand,
    Structure,
    StructureLine,
}

impl Counter {
    /// The sequence, and how many identities one of its values stands for: by so many it steps.
    const fn sequence(self) -> (&'static str, i64) {
        match self {
            Self::Account => ("account_ids", 16),
            Self::Application => ("application_ids", 1),
            Self::Books => ("books_ids", 1),
            Self::Entry => ("entry_ids", 256),
            Self::Import => ("import_ids", 1),
            Self::Job => ("job_ids", 1),
            Self::Line => ("line_ids", 1024),
            Self::Plan => ("plan_ids", 1),
            Self::Strand => ("strand_ids", 16),
            Self::Structure => ("structure_ids", 1),
            Self::StructureLine => ("structure_line_ids", 32),
        }
    }
}

/// Identities that nobody else was given, in rising order.
#[derive(Debug)]
pub(crate) struct Ids {
    blocks: std::vec::IntoIter<Range<i64>>,
    block: Range<i64>,
}

impl Iterator for Ids {
    type Item = i64;

    fn next(&mut self) -> Option<i64> {
        loop {
            if let Some(id) = self.block.next() {
                return Some(id);
            }
            self.block = self.blocks.next()?;
        }
    }
}

impl Ids {
    /// The next one.
    ///
    /// # Errors
    /// When more are asked for than were taken, which is a fault of the program.
    pub(crate) fn one(&mut self) -> Result<i64, StoreError> {
        self.next().ok_or_else(|| StoreError::damaged("more identities are used than were taken"))
    }
}

/// Takes at least `count` identities. Nobody waits for anybody: what is not used in the end, or is
/// rolled back, leaves a gap.
pub(crate) async fn take(
    connection: &mut PgConnection,
    counter: Counter,
    count: usize,
) -> Result<Ids, StoreError> {
    let (sequence, step) = counter.sequence();
    let count = i64::try_from(count).map_err(StoreError::damaged)?;
    let blocks = (count + step - 1) / step;
    let mut firsts = sqlx::query_scalar!(
        r#"SELECT nextval($1::text::regclass) AS "first!" FROM generate_series(1, $2::bigint)"#,
        sequence,
        blocks
    )
    .fetch_all(connection)
    .await?;
    firsts.sort_unstable();
    let blocks: Vec<_> = firsts.into_iter().map(|first| first..first + step).collect();
    Ok(Ids { blocks: blocks.into_iter(), block: 0..0 })
}

/// Takes one identity.
pub(crate) async fn take_one(
    connection: &mut PgConnection,
    counter: Counter,
) -> Result<i64, StoreError> {
    take(connection, counter, 1).await?.one()
}
