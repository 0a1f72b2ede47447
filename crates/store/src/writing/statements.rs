//! A transaction that writes takes statements as a connection does, with a boundary before each, at which a
//! test can kill the process.

use super::{Writing, pause};
use futures_util::FutureExt;
use futures_util::future::BoxFuture;
use futures_util::stream::BoxStream;
use sqlx::postgres::{PgCopyIn, PgQueryResult, PgRow, PgStatement, PgTypeInfo};
use sqlx::{Describe, Either, Error, Execute, Executor, PgConnection, Postgres};

impl Writing {
    /// The connection, once the boundary before its next statement, or before its end, is passed.
    pub(super) async fn at_boundary(&mut self) -> &mut PgConnection {
        // What holds neither books nor a plan is done in one statement, or can be done again.
        if !self.turns.is_empty() {
            pause::point().await;
        }
        &mut self.tx
    }

    /// Begins to copy rows into a table.
    pub(crate) async fn copy_in(
        &mut self,
        statement: &str,
    ) -> Result<PgCopyIn<&mut PgConnection>, Error> {
        self.at_boundary().await.copy_in_raw(statement).await
    }
}

impl<'c> Executor<'c> for &'c mut Writing {
    type Database = Postgres;

    fn fetch_many<'e, 'q: 'e, E>(
        self,
        query: E,
    ) -> BoxStream<'e, Result<Either<PgQueryResult, PgRow>, Error>>
    where
        'c: 'e,
        E: 'q + Execute<'q, Postgres>,
    {
        let rows = self.at_boundary().map(|connection| connection.fetch_many(query));
        Box::pin(rows.flatten_stream())
    }

    fn fetch_optional<'e, 'q: 'e, E>(self, query: E) -> BoxFuture<'e, Result<Option<PgRow>, Error>>
    where
        'c: 'e,
        E: 'q + Execute<'q, Postgres>,
    {
        Box::pin(async move { self.at_boundary().await.fetch_optional(query).await })
    }

    fn prepare_with<'e, 'q: 'e>(
        self,
        sql: &'q str,
        parameters: &'e [PgTypeInfo],
    ) -> BoxFuture<'e, Result<PgStatement<'q>, Error>>
    where
        'c: 'e,
    {
        self.tx.prepare_with(sql, parameters)
    }

    fn describe<'e, 'q: 'e>(self, sql: &'q str) -> BoxFuture<'e, Result<Describe<Postgres>, Error>>
    where
        'c: 'e,
    {
        self.tx.describe(sql)
    }
}
