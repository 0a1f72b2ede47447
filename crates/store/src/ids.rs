//! Identities, handed out in blocks.

use crate::StoreError;
use sqlx::PgPool;

/// What identities are counted separately for.
#[derive(Clone, Copy, Debug)]
pub(crate) enum Counter {
    Account,
    Application,
    Books,
    Entry,
    Import,
    Line,
    Plan,
    Recount,
    Strand,
}

impl Counter {
    fn key(self) -> &'static str {
        match self {
            Self::Account => "account",
            Self::Application => "application",
            Self::Books => "books",
            Self::Entry => "entry",
            Self::Import => "import",
            Self::Line => "line",
            Self::Plan => "plan",
            Self::Recount => "job",
            Self::Strand => "strand",
        }
    }
}

/// Takes `count` consecutive identities and returns the first. Runs outside of any transaction, so
/// that nobody waits for another's commit; what is not used in the end leaves a gap.
pub(crate) async fn take(pool: &PgPool, counter: Counter, count: usize) -> Result<i64, StoreError> {
    let count = i64::try_from(count).map_err(StoreError::damaged)?;
    let first = sqlx::query_scalar!(
        r#"UPDATE id_counter SET next = next + $2 WHERE kind = $1 RETURNING next - $2 AS "first!""#,
        counter.key(),
        count,
    )
    .fetch_one(pool)
    .await?;
    Ok(first)
}
