//! Strands as they are kept, and those that no line is left of.

use crate::StoreError;
use crate::writing::Writing;
use sqlx::PgConnection;
use zf_core::activity::{Posted, Strand};
use zf_core::ids::{AccountId, BooksId, ItemId, StrandId};
use zf_core::statement::Class;

/// Reads all strands of the books.
pub(crate) async fn read(
    connection: &mut PgConnection,
    books: BooksId,
) -> Result<Vec<Strand>, StoreError> {
    let rows = sqlx::query!(
        "SELECT id, account_id, posted_code, posted_name, posted_class, posted_caption, posted_parent,
                posted_contra, carved_from
         FROM strand WHERE books_id = $1",
        books.0
    )
    .fetch_all(connection)
    .await?;
    let strands = rows.into_iter().map(|row| {
        let class = &row.posted_class;
        Ok(Strand {
            id: StrandId(row.id),
            account: AccountId(row.account_id),
            posted: Posted {
                code: row.posted_code,
                name: row.posted_name,
                class: StoreError::known(Class::from_key(class), class)?,
                caption: row.posted_caption.map(ItemId),
                parent: row.posted_parent.map(AccountId),
                contra: row.posted_contra,
            },
            carved_from: row.carved_from.map(StrandId),
        })
    });
    strands.collect()
}

/// Writes strands that are opened.
pub(crate) async fn write(
    tx: &mut Writing,
    books: BooksId,
    strands: &[Strand],
) -> Result<(), StoreError> {
    let posted = || strands.iter().map(|strand| &strand.posted);
    sqlx::query!(
        "INSERT INTO strand (books_id, id, account_id, posted_code, posted_name, posted_class, posted_caption,
                             posted_parent, posted_contra)
         SELECT $1, n.* FROM unnest($2::bigint[], $3::bigint[], $4::text[], $5::text[], $6::text[], $7::bigint[],
                                    $8::bigint[], $9::boolean[]) AS n",
        books.0,
        &strands.iter().map(|strand| strand.id.0).collect::<Vec<_>>(),
        &strands.iter().map(|strand| strand.account.0).collect::<Vec<_>>(),
        &posted().map(|p| p.code.clone()).collect::<Vec<_>>(),
        &posted().map(|p| p.name.clone()).collect::<Vec<_>>(),
        &posted().map(|p| p.class.key().to_owned()).collect::<Vec<_>>(),
        &posted().map(|p| p.caption.map(|line| line.0)).collect::<Vec<_>>() as &[Option<i64>],
        &posted().map(|p| p.parent.map(|id| id.0)).collect::<Vec<_>>() as &[Option<i64>],
        &posted().map(|p| p.contra).collect::<Vec<_>>(),
    )
    .execute(tx)
    .await?;
    Ok(())
}

/// Drops all strands of some accounts that hold no line.
pub(crate) async fn drop_empty_of(
    tx: &mut Writing,
    books: BooksId,
    accounts: &[i64],
) -> Result<(), StoreError> {
    let strands = sqlx::query_scalar!(
        "SELECT id FROM strand WHERE books_id = $1 AND account_id = ANY($2)",
        books.0,
        accounts
    );
    let strands = strands.fetch_all(&mut *tx).await?;
    drop_empty(tx, books, &strands).await
}

/// Drops those of some strands that hold no line, as where a file was taken back.
pub(crate) async fn drop_empty(
    tx: &mut Writing,
    books: BooksId,
    strands: &[i64],
) -> Result<(), StoreError> {
    let empty = sqlx::query_scalar!(
        "SELECT s.id FROM strand s WHERE s.books_id = $1 AND s.id = ANY($2) AND NOT EXISTS (
             SELECT FROM line l WHERE l.books_id = s.books_id AND l.strand_id = s.id)",
        books.0,
        strands
    )
    .fetch_all(&mut *tx)
    .await?;
    sqlx::query!(
        "UPDATE account SET open_strand = NULL WHERE books_id = $1 AND open_strand = ANY($2)",
        books.0,
        &empty
    )
    .execute(&mut *tx)
    .await?;
    // What was carved from one of them stands for itself from now on.
    sqlx::query!(
        "UPDATE strand SET carved_from = NULL WHERE books_id = $1 AND carved_from = ANY($2)",
        books.0,
        &empty
    )
    .execute(&mut *tx)
    .await?;
    sqlx::query!("DELETE FROM strand WHERE books_id = $1 AND id = ANY($2)", books.0, &empty)
        .execute(tx)
        .await?;
    Ok(())
}
