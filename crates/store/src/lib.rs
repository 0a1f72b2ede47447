//! The books in PostgreSQL. All SQL lives here and no rule does: the store reads what the core
//! looks at, writes what the core computed, reads it back, and rolls back when it is not the same.
//!
//! Every function on a set of books takes a [`people::Member`], which only the membership table
//! can make.

pub mod applying;
pub mod books;
mod chart_rows;
mod error;
pub mod history;
mod ids;
pub mod imports;
pub mod jobs;
mod ledger;
pub mod lines;
pub mod pause;
pub mod people;
pub mod plans;
mod posting;
pub mod recount;
pub mod review;
mod stored_line;
pub mod taking_back;
pub mod today;
mod totals;
pub mod trail;
mod trial;
pub mod uploads;
mod usage_rows;

pub use error::StoreError;
pub use sqlx::PgPool;

/// The door to the database.
#[derive(Clone, Debug)]
pub struct Store {
    pool: PgPool,
}

impl Store {
    /// Connects to PostgreSQL 15 or later and brings its schema up to date.
    ///
    /// # Errors
    /// When the database cannot be reached or a migration fails.
    pub async fn connect(url: &str) -> Result<Self, StoreError> {
        let pool = sqlx::postgres::PgPoolOptions::new().max_connections(16).connect(url).await?;
        sqlx::migrate!().run(&pool).await?;
        Ok(Self { pool })
    }

    /// The connections, for a session store that keeps its own table.
    pub fn pool(&self) -> &PgPool {
        &self.pool
    }
}
