//! Strands that no line is left of.

use crate::StoreError;
use sqlx::PgConnection;
use zf_core::ids::BooksId;

/// Drops all strands of some accounts that hold no line.
pub(crate) async fn drop_empty_of(
    connection: &mut PgConnection,
    books: BooksId,
    accounts: &[i64],
) -> Result<(), StoreError> {
    let strands = sqlx::query_scalar!(
        "SELECT id FROM strand WHERE books_id = $1 AND account_id = ANY($2)",
        books.0,
        accounts
    );
    let strands = strands.fetch_all(&mut *connection).await?;
    drop_empty(connection, books, &strands).await
}

/// Drops those of some strands that hold no line, as where a file was taken back.
pub(crate) async fn drop_empty(
    connection: &mut PgConnection,
    books: BooksId,
    strands: &[i64],
) -> Result<(), StoreError> {
    let empty = sqlx::query_scalar!(
        "SELECT s.id FROM strand s WHERE s.books_id = $1 AND s.id = ANY($2) AND NOT EXISTS (
             SELECT FROM line l WHERE l.books_id = s.books_id AND l.strand_id = s.id)",
        books.0,
        strands
    )
    .fetch_all(&mut *connection)
    .await?;
    sqlx::query!(
        "UPDATE account SET open_strand = NULL WHERE books_id = $1 AND open_strand = ANY($2)",
        books.0,
        &empty
    )
    .execute(&mut *connection)
    .await?;
    // What was carved from one of them stands for itself from now on.
    sqlx::query!(
        "UPDATE strand SET carved_from = NULL WHERE books_id = $1 AND carved_from = ANY($2)",
        books.0,
        &empty
    )
    .execute(&mut *connection)
    .await?;
    sqlx::query!("DELETE FROM strand WHERE books_id = $1 AND id = ANY($2)", books.0, &empty)
        .execute(connection)
        .await?;
    Ok(())
}
