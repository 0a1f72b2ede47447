//! The door to the database.

use crate::StoreError;
use crate::turns::Turns;
use sqlx::postgres::PgPoolOptions;
use sqlx::{PgPool, Postgres, Transaction};
use std::time::Duration;

/// The door to the database.
#[derive(Clone, Debug)]
pub struct Store {
    pub(crate) pool: PgPool,
    pub(crate) turns: Turns,
}

/// How many connections a server holds at most.
const CONNECTIONS: u32 = 16;

/// How long a connection is waited for. A database that is away for longer is away.
const CONNECTING: Duration = Duration::from_secs(4);

impl Store {
    /// Connects to PostgreSQL 15 or later and brings its schema up to date.
    ///
    /// # Errors
    /// When the database cannot be reached or a migration fails.
    pub async fn connect(url: &str) -> Result<Self, StoreError> {
        Self::connect_on(url, CONNECTIONS).await
    }

    /// The same on at most so many connections, of which half are kept for those who only read.
    ///
    /// # Errors
    /// When the database cannot be reached or a migration fails.
    pub async fn connect_on(url: &str, connections: u32) -> Result<Self, StoreError> {
        let options = PgPoolOptions::new().max_connections(connections).acquire_timeout(CONNECTING);
        let pool = options.connect(url).await?;
        sqlx::migrate!().run(&pool).await?;
        let writers = usize::try_from(connections / 2).unwrap_or(1).max(1);
        Ok(Self { pool, turns: Turns::new(writers) })
    }

    /// Begins to read, all of it as it stands at one instant whatever is committed meanwhile.
    pub(crate) async fn at_one_instant(
        &self,
    ) -> Result<Transaction<'static, Postgres>, StoreError> {
        let mut tx = self.pool.begin().await?;
        sqlx::query!("SET TRANSACTION ISOLATION LEVEL REPEATABLE READ READ ONLY")
            .execute(&mut *tx)
            .await?;
        Ok(tx)
    }

    /// The connections, for a session store that keeps its own table.
    pub fn pool(&self) -> &PgPool {
        &self.pool
    }
}
