//! Taking a stored file back: all that it brought goes, and the totals with it, or nothing.

use crate::books::raise_revision;
use crate::boxed;
use crate::journal::sketches;
use crate::journal::stored_line::StoredLine;
use crate::journal::totals::{self, StrandShares};
use crate::journal::{strands, today};
use crate::member::Member;
use crate::plans::applying::applications_since;
use crate::writing::Writing;
use crate::{Store, StoreError, trail};
use futures_util::TryStreamExt;
use sqlx::PgConnection;
use std::collections::{BTreeMap, BTreeSet};
use time::OffsetDateTime;
use zf_core::activity::Slot;
use zf_core::ids::{AccountId, BooksId, ImportId, StrandId};
use zf_core::rollback::{Blocker, Brought, blockers};
use zf_core::trail::Event;

/// A file that was stored or staged.
#[derive(Clone, Debug)]
pub struct StoredFile {
    /// Identity.
    pub id: ImportId,
    /// What it brought, as a key.
    pub kind: String,
    /// Its name.
    pub file_name: String,
    /// Who stored it.
    pub person: String,
    /// When.
    pub stored_at: OffsetDateTime,
    /// How many rows.
    pub rows: i64,
    /// When it was taken back, if it was.
    pub rolled_back_at: Option<OffsetDateTime>,
}

impl Store {
    /// The files that were stored or staged, the latest first.
    ///
    /// # Errors
    /// When the database fails.
    #[boxed]
    pub async fn stored_files(&self, member: Member) -> Result<Vec<StoredFile>, StoreError> {
        let files = sqlx::query_as!(
            StoredFile,
            r#"SELECT i.id, i.kind, i.file_name, p.name AS person, i.stored_at AS "stored_at!",
                      COALESCE(i.stored_rows, 0) AS "rows!", i.rolled_back_at
               FROM import i JOIN person p ON p.id = i.person_id
               WHERE i.books_id = $1 AND i.stored_at IS NOT NULL ORDER BY i.id DESC LIMIT 200"#,
            member.books().0
        );
        Ok(files.fetch_all(&self.pool).await?)
    }

    /// What a stored file brought, and what stands in the way of taking it back.
    ///
    /// # Errors
    /// [`StoreError::NotFound`] when there is no such file, or it was taken back.
    #[boxed]
    pub async fn rollback_preview(
        &self,
        member: Member,
        id: ImportId,
    ) -> Result<(Brought, Vec<Blocker>), StoreError> {
        let mut tx = self.at_one_instant().await?;
        let Undoing { brought, blockers, .. } = look(&mut tx, member.books(), id).await?;
        Ok((brought, blockers))
    }

    /// Takes a stored file back: its entries with their lines, its where-used entries, its accounts.
    ///
    /// # Errors
    /// [`StoreError::Stays`] when something was built on it; nothing is changed then.
    #[boxed]
    pub async fn roll_back(&self, member: Member, id: ImportId) -> Result<(), StoreError> {
        let books = member.books();
        let mut tx = self.write_alone(member).await?;
        let Undoing { brought, going, blockers } = look(&mut tx, books, id).await?;
        if let Some(blocker) = blockers.into_iter().next() {
            return Err(StoreError::Stays(blocker));
        }
        remove_lines(&mut tx, books, id, &going).await?;
        // An empty strand goes with its last line.
        let strands: BTreeSet<i64> = going.keys().map(|(strand, _)| *strand).collect();
        let strands: Vec<i64> = strands.into_iter().collect();
        sketches::drop(&mut tx, books, &strands).await?;
        strands::drop_empty(&mut tx, books, &strands).await?;
        remove_rest(&mut tx, books, id, &brought).await?;
        let file_name = sqlx::query_scalar!(
            "UPDATE import SET rolled_back_at = now(), digest = NULL
             WHERE books_id = $1 AND id = $2 RETURNING file_name",
            books.0,
            id.0
        )
        .fetch_one(&mut tx)
        .await?;
        raise_revision(&mut tx, books).await?;
        let event = Event::RolledBack { file: file_name, entries: brought.entries };
        trail::note(&mut tx, books, member.person(), &event, None).await?;
        tx.commit().await?;
        self.analyze().await
    }
}

/// What taking a file back would do.
struct Undoing {
    brought: Brought,
    /// What goes off the totals.
    going: StrandShares,
    /// What stands in the way.
    blockers: Vec<Blocker>,
}

async fn look(
    connection: &mut PgConnection,
    books: BooksId,
    id: ImportId,
) -> Result<Undoing, StoreError> {
    let stored_at = sqlx::query_scalar!(
        r#"SELECT stored_at AS "stored_at!" FROM import
           WHERE books_id = $1 AND id = $2 AND stored_at IS NOT NULL AND rolled_back_at IS NULL"#,
        books.0,
        id.0
    )
    .fetch_optional(&mut *connection)
    .await?
    .ok_or(StoreError::NotFound("stored file"))?;
    let snapshot = today::read(connection, books).await?;
    let since = applications_since(connection, books, stored_at).await?;
    let going = lines_of(connection, books, id, &snapshot).await?;
    let counts = sqlx::query!(
        r#"SELECT (SELECT count(*) FROM entry WHERE books_id = $1 AND import_id = $2) AS "entries!",
                  (SELECT count(*) FROM account_use WHERE books_id = $1 AND import_id = $2) AS "uses!""#,
        books.0,
        id.0
    )
    .fetch_one(&mut *connection)
    .await?;
    let used_elsewhere = sqlx::query_scalar!(
        r#"SELECT DISTINCT u.account_id AS "account_id!" FROM account_use u
         JOIN account a ON a.books_id = u.books_id AND a.id = u.account_id
         WHERE u.books_id = $1 AND u.import_id <> $2 AND a.import_id = $2"#,
        books.0,
        id.0
    )
    .fetch_all(connection)
    .await?;
    let mut lines: BTreeMap<StrandId, u64> = BTreeMap::new();
    for ((strand, _), going) in &going {
        *lines.entry(StrandId(*strand)).or_default() += going.totals.lines;
    }
    let own = snapshot.today.chart.iter().filter(|a| a.origin.is_some_and(|o| o == id));
    let brought = Brought {
        accounts: own.map(|account| account.id).collect(),
        lines,
        entries: u64::try_from(counts.entries).map_err(StoreError::damaged)?,
        uses: u64::try_from(counts.uses).map_err(StoreError::damaged)?,
        used_elsewhere: used_elsewhere.into_iter().map(AccountId).collect(),
        first: going.keys().map(|(_, slot)| slot.period).min(),
    };
    let blockers = blockers(&brought, &since, &snapshot.today);
    Ok(Undoing { brought, going, blockers })
}

/// What the lines of a file add up to, by strand, period and currency.
async fn lines_of(
    connection: &mut PgConnection,
    books: BooksId,
    id: ImportId,
    snapshot: &today::Snapshot,
) -> Result<StrandShares, StoreError> {
    let mut going = StrandShares::new();
    let mut rows = sqlx::query_as!(
        StoredLine,
        r#"SELECT l.id, l.entry_id, l.date, l.strand_id, l.amount, l.foreign_amount, l.currency, l.payee,
                  l.memo, l.reference, l.dimensions, c.line_id IS NOT NULL AS "cleared!"
           FROM line l JOIN entry e ON e.books_id = l.books_id AND e.id = l.entry_id
           LEFT JOIN line_cleared c ON c.books_id = l.books_id AND c.line_id = l.id
           WHERE e.books_id = $1 AND e.import_id = $2"#,
        books.0,
        id.0
    )
    .fetch(connection);
    while let Some(line) = rows.try_next().await? {
        let (slot, share) = line.share(&snapshot.books)?;
        going.entry((line.strand_id, slot)).and_modify(|sum| *sum += share).or_insert(share);
    }
    Ok(going)
}

async fn remove_lines(
    tx: &mut Writing,
    books: BooksId,
    id: ImportId,
    going: &StrandShares,
) -> Result<(), StoreError> {
    sqlx::query!("DELETE FROM entry WHERE books_id = $1 AND import_id = $2", books.0, id.0)
        .execute(&mut *tx)
        .await?;
    // The latest date of a strand in a period may have been that of a line that went.
    totals::take_off(tx, books, going, |_| None).await?;
    refresh_last_dates(tx, books, going).await
}

async fn refresh_last_dates(
    tx: &mut Writing,
    books: BooksId,
    going: &StrandShares,
) -> Result<(), StoreError> {
    let settings = crate::books::read(tx, books).await?;
    let keys: Vec<&(i64, Slot)> = going.keys().collect();
    sqlx::query!(
        "UPDATE strand_total t SET last_date = (
             SELECT max(l.date) FROM line l
             WHERE l.books_id = t.books_id AND l.strand_id = t.strand_id
               AND l.date BETWEEN n.first AND n.last AND COALESCE(l.currency, $2) = t.currency)
         FROM unnest($3::bigint[], $4::integer[], $5::text[], $6::date[], $7::date[])
              AS n (strand, period, currency, first, last)
         WHERE t.books_id = $1 AND t.strand_id = n.strand AND t.period = n.period
           AND t.currency = n.currency",
        books.0,
        settings.currency.to_string(),
        &keys.iter().map(|(strand, _)| *strand).collect::<Vec<_>>(),
        &keys.iter().map(|(_, slot)| slot.period.0).collect::<Vec<_>>(),
        &keys.iter().map(|(_, slot)| slot.currency.to_string()).collect::<Vec<_>>(),
        &keys.iter().map(|(_, s)| settings.calendar.first_day(s.period)).collect::<Vec<_>>(),
        &keys.iter().map(|(_, s)| settings.calendar.last_day(s.period)).collect::<Vec<_>>(),
    )
    .execute(tx)
    .await?;
    Ok(())
}

/// Where-used entries, and accounts with all that hangs on them.
async fn remove_rest(
    tx: &mut Writing,
    books: BooksId,
    id: ImportId,
    brought: &Brought,
) -> Result<(), StoreError> {
    let accounts: Vec<i64> = brought.accounts.iter().map(|account| account.0).collect();
    sqlx::query!("DELETE FROM account_use WHERE books_id = $1 AND import_id = $2", books.0, id.0)
        .execute(&mut *tx)
        .await?;
    sqlx::query!(
        "UPDATE books SET usage_given = EXISTS (SELECT FROM account_use WHERE books_id = $1)
         WHERE id = $1 AND $2",
        books.0,
        brought.uses > 0
    )
    .execute(&mut *tx)
    .await?;
    sqlx::query!(
        "DELETE FROM code_use WHERE books_id = $1 AND account_id = ANY($2)",
        books.0,
        &accounts
    )
    .execute(&mut *tx)
    .await?;
    sqlx::query!(
        "DELETE FROM strand WHERE books_id = $1 AND account_id = ANY($2)",
        books.0,
        &accounts
    )
    .execute(&mut *tx)
    .await?;
    sqlx::query!("DELETE FROM account WHERE books_id = $1 AND id = ANY($2)", books.0, &accounts)
        .execute(tx)
        .await?;
    Ok(())
}
