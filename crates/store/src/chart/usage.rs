//! Where-used entries in the database.

use crate::StoreError;
use crate::writing::Writing;
use sqlx::PgConnection;
use sqlx::types::Json;
use time::Date;
use zf_core::code::Interval;
use zf_core::ids::{AccountId, BooksId, ImportId, ReportLineId};
use zf_core::rehearsal::effects::Rewriting;
use zf_core::usage::{Named, Use};

/// All entries with their identities, in a lasting order.
pub(crate) async fn read(
    connection: &mut PgConnection,
    books: BooksId,
) -> Result<Vec<(ReportLineId, Use)>, StoreError> {
    let rows = sqlx::query!(
        r#"SELECT id, account_id, intervals AS "intervals: Json<Vec<Interval>>", used_by, label, month, amount
           FROM account_use WHERE books_id = $1 ORDER BY used_by, label, id"#,
        books.0
    )
    .fetch_all(connection)
    .await?;
    let uses = rows.into_iter().map(|row| {
        let names = match row.account_id {
            Some(account) => Named::Account(AccountId(account)),
            None => Named::Stretches(row.intervals.map_or_else(Vec::new, |kept| kept.0)),
        };
        let (used_by, label) = (row.used_by, row.label);
        let one = Use { names, used_by, label, budget: row.month.zip(row.amount) };
        Ok((ReportLineId(row.id), one))
    });
    uses.collect()
}

/// Stores the entries of a file.
pub(crate) async fn add(
    tx: &mut Writing,
    books: BooksId,
    import: ImportId,
    uses: &[Use],
) -> Result<(), StoreError> {
    let (accounts, stretches): (Vec<_>, Vec<_>) = uses
        .iter()
        .map(|one| match &one.names {
            Named::Account(account) => (Some(account.0), None),
            Named::Stretches(intervals) => (None, Some(Json(intervals))),
        })
        .unzip();
    sqlx::query!(
        "INSERT INTO account_use (books_id, import_id, account_id, intervals, used_by, label, month, amount)
         SELECT $1, $2, u.account, u.intervals, u.used_by, u.label, u.month, u.amount
         FROM unnest($3::bigint[], $4::jsonb[], $5::text[], $6::text[], $7::date[], $8::bigint[])
              AS u (account, intervals, used_by, label, month, amount)",
        books.0,
        import.0,
        &accounts as &[Option<i64>],
        &stretches as _,
        &uses.iter().map(|one| one.used_by.clone()).collect::<Vec<_>>(),
        &uses.iter().map(|one| one.label.clone()).collect::<Vec<_>>(),
        &uses.iter().map(|one| one.budget.map(|b| b.0)).collect::<Vec<_>>() as &[Option<Date>],
        &uses.iter().map(|one| one.budget.map(|b| b.1)).collect::<Vec<_>>() as &[Option<i64>],
    )
    .execute(tx)
    .await?;
    Ok(())
}

/// Writes what lines of reports add up After.
pub(crate) async fn rewrite(
    tx: &mut Writing,
    books: BooksId,
    rewritings: &[Rewriting],
) -> Result<(), StoreError> {
    sqlx::query!(
        "UPDATE account_use u SET intervals = r.intervals
         FROM unnest($2::bigint[], $3::jsonb[]) AS r (id, intervals)
         WHERE u.books_id = $1 AND u.id = r.id AND u.intervals IS NOT NULL",
        books.0,
        &rewritings.iter().map(|r| r.line.0).collect::<Vec<_>>(),
        &rewritings.iter().map(|r| Json(&r.to)).collect::<Vec<_>>() as _,
    )
    .execute(tx)
    .await?;
    Ok(())
}

/// What of the rewriting cannot be read back, in words.
pub(crate) async fn misses(
    connection: &mut PgConnection,
    books: BooksId,
    rewritings: &[Rewriting],
) -> Result<Vec<String>, StoreError> {
    if rewritings.is_empty() {
        return Ok(Vec::new());
    }
    let rows = read(connection, books).await?;
    let is_written = |rewriting: &&Rewriting| {
        let wanted = Named::Stretches(rewriting.to.clone());
        rows.iter().any(|(id, one)| *id == rewriting.line && one.names == wanted)
    };
    let missed = rewritings.iter().filter(|rewriting| !is_written(rewriting));
    Ok(missed.map(|r| format!("{}: it does not add up what it should", r.name)).collect())
}
