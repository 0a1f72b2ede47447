//! What the lines of strands speak of: written with the lines, dropped where lines change otherwise, and drawn anew
//! from the lines when somebody asks.

use crate::StoreError;
use crate::writing::Writing;
use futures_util::{Stream, TryStreamExt};
use sqlx::PgConnection;
use std::collections::{BTreeMap, BTreeSet};
use zf_core::ids::BooksId;
use zf_core::review::sketch::{Shares, Sketch, Sketching};

/// The sketches of some strands, or of all.
pub(crate) async fn read(
    connection: &mut PgConnection,
    books: BooksId,
    strands: Option<&[i64]>,
) -> Result<BTreeMap<i64, Sketch>, StoreError> {
    let rows = sqlx::query!(
        "SELECT strand_id, payees, payee_lines, phrases, phrase_lines, dimensions, dimension_lines, counters, counter_lines
         FROM strand_sketch WHERE books_id = $1 AND ($2::bigint[] IS NULL OR strand_id = ANY($2))",
        books.0,
        strands
    );
    let rows = rows.fetch_all(connection).await?;
    let sketch = rows.into_iter().map(|row| {
        let sketch = Sketch {
            payees: shares(row.payees, &row.payee_lines),
            phrases: shares(row.phrases, &row.phrase_lines),
            dimensions: shares(row.dimensions, &row.dimension_lines),
            counters: shares(row.counters, &row.counter_lines),
        };
        (row.strand_id, sketch)
    });
    Ok(sketch.collect())
}

fn shares<K: Ord>(of: Vec<K>, lines: &[i32]) -> Shares<K> {
    of.into_iter().zip(lines.iter().map(|n| u32::try_from(*n).unwrap_or_default())).collect()
}

/// Adds what new lines of strands speak of.
pub(crate) async fn add(
    tx: &mut Writing,
    books: BooksId,
    drawn: impl Iterator<Item = (i64, Sketch)>,
) -> Result<(), StoreError> {
    let mut sketches: BTreeMap<i64, Sketch> = drawn.collect();
    let strands: Vec<i64> = sketches.keys().copied().collect();
    // Who posts to the same strands beside this one waits, and then adds to what was written here.
    sqlx::query!(
        "SELECT id FROM strand WHERE books_id = $1 AND id = ANY($2) ORDER BY id FOR NO KEY UPDATE",
        books.0,
        &strands
    )
    .fetch_all(&mut *tx)
    .await?;
    // What has lines and no sketch gets one of all its lines when it is asked for.
    let missing: BTreeSet<i64> = missing(tx, books, Some(&strands)).await?.into_iter().collect();
    sketches.retain(|strand, _| !missing.contains(strand));
    for (strand, before) in read(tx, books, Some(&strands)).await? {
        if let Some(sketch) = sketches.get_mut(&strand) {
            sketch.add(&before);
            sketch.cut();
        }
    }
    write(tx, books, &sketches).await
}

/// Those of some strands, or of all, whose totals say that they have lines, and that have no sketch.
pub(crate) async fn missing(
    connection: &mut PgConnection,
    books: BooksId,
    strands: Option<&[i64]>,
) -> Result<Vec<i64>, StoreError> {
    let missing = sqlx::query_scalar!(
        r#"SELECT DISTINCT t.strand_id AS "strand!" FROM strand_total t
           WHERE t.books_id = $1 AND ($2::bigint[] IS NULL OR t.strand_id = ANY($2)) AND NOT EXISTS (
               SELECT FROM strand_sketch s WHERE s.books_id = t.books_id AND s.strand_id = t.strand_id)"#,
        books.0,
        strands
    );
    Ok(missing.fetch_all(connection).await?)
}

/// Drops the sketches of strands whose lines changed, and of those that say such stand against their lines.
pub(crate) async fn drop(
    tx: &mut Writing,
    books: BooksId,
    strands: &[i64],
) -> Result<(), StoreError> {
    sqlx::query!(
        "DELETE FROM strand_sketch WHERE books_id = $1 AND (strand_id = ANY($2) OR counters && $2)",
        books.0,
        strands
    )
    .execute(tx)
    .await?;
    Ok(())
}

/// Draws the sketches of strands from their lines.
pub(crate) async fn draw(
    tx: &mut Writing,
    books: BooksId,
    strands: &[i64],
) -> Result<(), StoreError> {
    let lines = sqlx::query_as!(
        Spoken,
        "SELECT entry_id, strand_id, amount, payee, memo, dimensions FROM line
         WHERE books_id = $1 AND entry_id IN (
             SELECT entry_id FROM line WHERE books_id = $1 AND strand_id = ANY($2))
         ORDER BY entry_id",
        books.0,
        strands
    );
    let mut drawn = of_lines(lines.fetch(&mut **tx)).await?;
    let wanted: BTreeSet<i64> = strands.iter().copied().collect();
    drawn.retain(|strand, _| wanted.contains(strand));
    write(tx, books, &drawn).await
}

/// A line, as far as a sketch goes.
struct Spoken {
    entry_id: i64,
    strand_id: i64,
    amount: i64,
    payee: String,
    memo: String,
    dimensions: String,
}

/// What lines speak of, those of an entry behind each other, by strand.
async fn of_lines(
    mut lines: impl Stream<Item = Result<Spoken, sqlx::Error>> + Unpin,
) -> Result<BTreeMap<i64, Sketch>, StoreError> {
    let mut sketching = Sketching::default();
    let mut entry: (i64, Vec<(i64, bool)>) = (0, Vec::new());
    while let Some(line) = lines.try_next().await? {
        if line.entry_id != entry.0 {
            sketching.entry(&entry.1);
            entry = (line.entry_id, Vec::new());
        }
        sketching.line(line.strand_id, &line.payee, &line.memo, &line.dimensions);
        entry.1.push((line.strand_id, line.amount >= 0));
    }
    sketching.entry(&entry.1);
    Ok(sketching.done().collect())
}

async fn write(
    tx: &mut Writing,
    books: BooksId,
    sketches: &BTreeMap<i64, Sketch>,
) -> Result<(), StoreError> {
    for (strand, sketch) in sketches {
        let (payees, payee_lines) = columns(&sketch.payees);
        let (phrases, phrase_lines) = columns(&sketch.phrases);
        let (dimensions, dimension_lines) = columns(&sketch.dimensions);
        let (counters, counter_lines) = columns(&sketch.counters);
        sqlx::query!(
            "INSERT INTO strand_sketch (books_id, strand_id, payees, payee_lines, phrases, phrase_lines, dimensions,
                                        dimension_lines, counters, counter_lines)
             VALUES ($1, $2, $3, $4, $5, $6, $7, $8, $9, $10)
             ON CONFLICT (books_id, strand_id) DO UPDATE SET
                 payees = EXCLUDED.payees, payee_lines = EXCLUDED.payee_lines, phrases = EXCLUDED.phrases,
                 phrase_lines = EXCLUDED.phrase_lines, dimensions = EXCLUDED.dimensions,
                 dimension_lines = EXCLUDED.dimension_lines, counters = EXCLUDED.counters,
                 counter_lines = EXCLUDED.counter_lines",
            books.0,
            strand,
            &payees,
            &payee_lines,
            &phrases,
            &phrase_lines,
            &dimensions,
            &dimension_lines,
            &counters,
            &counter_lines
        )
        .execute(&mut *tx)
        .await?;
    }
    Ok(())
}

fn columns<K: Ord + Clone + std::hash::Hash>(shares: &Shares<K>) -> (Vec<K>, Vec<i32>) {
    shares.iter().map(|(of, n)| (of.clone(), i32::try_from(n).unwrap_or(i32::MAX))).unzip()
}

/// Sketches that say something else than the lines do.
pub(crate) async fn misses(
    connection: &mut PgConnection,
    books: BooksId,
) -> Result<Vec<String>, StoreError> {
    let lines = sqlx::query_as!(
        Spoken,
        "SELECT entry_id, strand_id, amount, payee, memo, dimensions FROM line WHERE books_id = $1 ORDER BY entry_id",
        books.0
    );
    let drawn = of_lines(lines.fetch(&mut *connection)).await?;
    let none = Sketch::default();
    let kept = read(connection, books, None).await?;
    let wrong = kept.into_iter().filter_map(|(strand, sketch)| {
        let what = sketch.differs(drawn.get(&strand).unwrap_or(&none))?;
        Some(format!("strand {strand}: its sketch says of {what} what its lines do not"))
    });
    Ok(wrong.collect())
}
