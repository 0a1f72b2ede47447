//! The recount: totals and digests worked out again from the lines themselves, and compared with
//! those that reports read. It finds whatever was lost, doubled, changed or misplaced.

use crate::boxed;
use crate::jobs::{Job, Phase, Progress, Recount};
use crate::journal::ledger::read_totals;
use crate::journal::sketches;
use crate::journal::stored_line::StoredLine;
use crate::member::Member;
use crate::{Store, StoreError};
use futures_util::TryStreamExt;
use std::collections::{BTreeMap, BTreeSet};
use time::Date;
use zf_core::activity::{Share, Slot, Totals};
use zf_core::ids::BooksId;

/// After how many lines it is told how far things are.
const STEP: u64 = 4_096;

impl Store {
    /// Recounts the books now.
    ///
    /// # Errors
    /// When the database fails.
    #[boxed]
    pub async fn recount(&self, member: Member) -> Result<Recount, StoreError> {
        self.recount_of(member.books()).await
    }

    /// Recounts books now, for whoever runs the server.
    ///
    /// # Errors
    /// When the database fails.
    #[boxed]
    pub async fn recount_of(&self, books: BooksId) -> Result<Recount, StoreError> {
        self.recount_books(books, &Progress::default()).await
    }

    /// Carries out a recount that was taken up.
    ///
    /// # Errors
    /// [`StoreError::Stopped`] when it is somebody else's by now, or the database fails.
    #[boxed]
    pub async fn recount_for(&self, job: &Job, progress: &Progress) -> Result<Recount, StoreError> {
        self.recount_books(job.books, progress).await
    }

    async fn recount_books(
        &self,
        books: BooksId,
        progress: &Progress,
    ) -> Result<Recount, StoreError> {
        // Lines and totals must be of one instant, or a posting in between would look like a miss.
        let mut tx = self.at_one_instant().await?;
        let settings = crate::books::read(&mut tx, books).await?;
        let mut counted: BTreeMap<(i64, Slot), (Totals, Date)> = BTreeMap::new();
        let mut entries: BTreeMap<i64, i128> = BTreeMap::new();
        let mut lines = 0;
        let mut rows = sqlx::query_as!(
            StoredLine,
            r#"SELECT id, entry_id, date, strand_id, amount, foreign_amount, currency, payee, memo,
                      reference, dimensions, false AS "cleared!" FROM line WHERE books_id = $1"#,
            books.0
        )
        .fetch(&mut *tx);
        while let Some(line) = rows.try_next().await? {
            let (slot, Share { totals, .. }) = line.share(&settings)?;
            let sum =
                counted.entry((line.strand_id, slot)).or_insert((Totals::default(), line.date));
            sum.0 += totals;
            sum.1 = sum.1.max(line.date);
            *entries.entry(line.entry_id).or_default() += i128::from(line.amount);
            lines += 1;
            if lines % STEP == 0 {
                progress.reach(Phase::Check, i64::try_from(lines).unwrap_or(i64::MAX));
                progress.go_on()?;
            }
        }
        drop(rows);
        let mut misses = compare(&mut tx, books, counted).await?;
        misses.extend(
            entries
                .into_iter()
                .filter(|(_, sum)| *sum != 0)
                .map(|(entry, _)| format!("the lines of entry {entry} do not balance")),
        );
        misses.extend(compare_entries(&mut tx, books).await?);
        misses.extend(sketches::misses(&mut tx, books).await?);
        tx.commit().await?;
        Ok(Recount { lines, misses })
    }
}

/// Entries and cleared marks against what the totals say of them.
async fn compare_entries(
    connection: &mut sqlx::PgConnection,
    books: BooksId,
) -> Result<Vec<String>, StoreError> {
    let empty = sqlx::query_scalar!(
        "SELECT number FROM entry e WHERE books_id = $1 AND NOT EXISTS
             (SELECT FROM line l WHERE l.books_id = e.books_id AND l.entry_id = e.id)",
        books.0
    )
    .fetch_all(&mut *connection)
    .await?;
    let cleared = sqlx::query!(
        r#"SELECT (SELECT count(*) FROM line_cleared WHERE books_id = $1) AS "marks!",
                  (SELECT COALESCE(sum(cleared), 0)::bigint FROM strand_total WHERE books_id = $1) AS "totals!""#,
        books.0
    )
    .fetch_one(&mut *connection)
    .await?;
    let periods = sqlx::query_scalar!(
        r#"SELECT COALESCE(t.period, p.period) AS "period!" FROM
               (SELECT period, sum(lines) AS lines FROM strand_total WHERE books_id = $1 GROUP BY period) t
               FULL JOIN (SELECT period, lines FROM period_total WHERE books_id = $1) p ON p.period = t.period
           WHERE t.lines IS DISTINCT FROM p.lines"#,
        books.0
    )
    .fetch_all(connection)
    .await?;
    let mut misses: Vec<_> = empty.iter().map(|n| format!("entry {n} has no lines left")).collect();
    if cleared.marks != cleared.totals {
        misses.push(format!(
            "{} lines are cleared, the totals say {}",
            cleared.marks, cleared.totals
        ));
    }
    misses.extend(periods.iter().map(|p| format!("the number of lines of period {p} is wrong")));
    Ok(misses)
}

async fn compare(
    connection: &mut sqlx::PgConnection,
    books: BooksId,
    mut counted: BTreeMap<(i64, Slot), (Totals, Date)>,
) -> Result<Vec<String>, StoreError> {
    let mut wrong = BTreeSet::new();
    for row in read_totals(connection, books).await? {
        let (owner, slot) = (row.owner, row.slot()?);
        let found = counted.remove(&(owner, slot));
        if found != Some((row.totals()?, row.last_date)) {
            let lines = found.map_or(0, |(totals, _)| totals.lines);
            let kind = if i64::try_from(lines) == Ok(row.lines) { "content" } else { "number" };
            wrong.insert(format!(
                "strand {owner}, period {}, {}: the {kind} of its {lines} lines is not what its totals say",
                slot.period.0, slot.currency
            ));
        }
    }
    wrong.extend(counted.into_iter().map(|((owner, slot), (totals, _))| {
        format!("strand {owner}, period {}: {} lines have no totals", slot.period.0, totals.lines)
    }));
    Ok(wrong.into_iter().collect())
}
