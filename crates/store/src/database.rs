//! Connections to the database.

use crate::StoreError;
use crate::boxed;
use crate::write_queue::Turns;
use sqlx::migrate::MigrateError;
use sqlx::pool::PoolConnection;
use sqlx::postgres::PgPoolOptions;
use sqlx::{PgPool, Postgres, Transaction};
use std::time::Duration;

/// Where browsers are known by what they show; whose session it is, the rows of `person_session` say.
pub type BrowserSessions = tower_sessions_sqlx_store::PostgresStore;

/// The books in a database.
#[derive(Clone, Debug)]
pub struct Store {
    pub(crate) pool: PgPool,
    /// For reads that go through many rows: they have their own few, and wait in line for them.
    long: PgPool,
    /// For whoever asks whether the database answers, however busy the server is.
    watching: PgPool,
    pub(crate) turns: Turns,
}

/// How many connections a server holds at most.
const CONNECTIONS: u32 = 16;

/// How many long reads there are at once: each may hold a file in memory.
const LONG_READS: u32 = 4;

/// How long one stands in line for a long read.
const IN_LINE: Duration = Duration::from_mins(2);

/// How long a connection is waited for. A database that is away for longer is away.
const CONNECTING: Duration = Duration::from_secs(4);

static MIGRATIONS: sqlx::migrate::Migrator = sqlx::migrate!();

/// Brings the schema up to date, under a lock of the database: of several servers that start at once,
/// one does, and the others wait for it.
async fn migrate(pool: &PgPool) -> Result<(), StoreError> {
    match MIGRATIONS.run(pool).await {
        Err(MigrateError::VersionMissing(version)) => Err(StoreError::refused(format!(
            "this database was used by a later version of the program (schema {version}), and an earlier one would \
             damage it; use that version, or restore a backup from before it"
        ))),
        done => Ok(done?),
    }
}

impl Store {
    /// Connects to PostgreSQL 15 or later and brings its schema up to date.
    ///
    /// # Errors
    /// When the database cannot be reached or a migration fails.
    #[boxed]
    pub async fn connect(url: &str) -> Result<Self, StoreError> {
        Self::connect_on(url, CONNECTIONS).await
    }

    /// The same on at most so many connections, of which half are kept for those who only read.
    ///
    /// # Errors
    /// When the database cannot be reached or a migration fails.
    #[boxed]
    pub async fn connect_on(url: &str, connections: u32) -> Result<Self, StoreError> {
        let options = PgPoolOptions::new().max_connections(connections).acquire_timeout(CONNECTING);
        let pool = options.connect(url).await?;
        migrate(&pool).await?;
        let aside = |most, patience| {
            PgPoolOptions::new().max_connections(most).acquire_timeout(patience).connect_lazy(url)
        };
        let (long, watching) = (aside(LONG_READS, IN_LINE)?, aside(1, CONNECTING)?);
        let writers = usize::try_from(connections / 2).unwrap_or(1).max(1);
        Ok(Self { pool, long, watching, turns: Turns::new(writers) })
    }

    /// A connection for a long read, once those before it are done.
    ///
    /// # Errors
    /// [`StoreError::Crowded`] when that takes too long.
    pub(crate) async fn long(&self) -> Result<PoolConnection<Postgres>, StoreError> {
        self.long.acquire().await.map_err(|error| self.crowded(error))
    }

    /// The same, to read all of it as it stands at one instant.
    ///
    /// # Errors
    /// [`StoreError::Crowded`] when it takes too long until a connection is free.
    pub(crate) async fn long_at_one_instant(
        &self,
    ) -> Result<Transaction<'static, Postgres>, StoreError> {
        let tx = self.long.begin().await.map_err(|error| self.crowded(error))?;
        at_one_instant(tx).await
    }

    /// Where all connections for long reads are in use, it is these that were waited for.
    fn crowded(&self, error: sqlx::Error) -> StoreError {
        let in_use = self.long.size() >= LONG_READS && self.long.num_idle() == 0;
        match error {
            sqlx::Error::PoolTimedOut if in_use => StoreError::Crowded,
            error => error.into(),
        }
    }

    /// Begins to read, all of it as it stands at one instant whatever is committed meanwhile.
    pub(crate) async fn at_one_instant(
        &self,
    ) -> Result<Transaction<'static, Postgres>, StoreError> {
        at_one_instant(self.pool.begin().await?).await
    }

    /// Whether the schema of the database is the one that this program knows.
    ///
    /// # Errors
    /// When the database does not answer.
    #[boxed]
    pub async fn schema_is_known(&self) -> Result<bool, StoreError> {
        let latest = sqlx::query_scalar!(
            r#"SELECT max(version) AS "version?" FROM _sqlx_migrations WHERE success"#
        );
        let latest = latest.fetch_one(&self.watching).await?;
        Ok(latest == MIGRATIONS.iter().map(|migration| migration.version).max())
    }

    /// How many connections are idle, and how many there are.
    pub fn connections(&self) -> (u32, u32) {
        let idle = u32::try_from(self.pool.num_idle()).unwrap_or(u32::MAX);
        (idle, self.pool.size())
    }

    /// What browsers show of sessions, in a table that its library keeps.
    pub fn browser_sessions(&self) -> BrowserSessions {
        BrowserSessions::new(self.pool.clone())
    }

    /// The connections, for tests and measurements that look below what the store answers.
    pub fn pool(&self) -> &PgPool {
        &self.pool
    }
}

async fn at_one_instant(
    mut tx: Transaction<'static, Postgres>,
) -> Result<Transaction<'static, Postgres>, StoreError> {
    sqlx::query!("SET TRANSACTION ISOLATION LEVEL REPEATABLE READ READ ONLY")
        .execute(&mut *tx)
        .await?;
    Ok(tx)
}
