//! Totals of strands: added to when lines are posted or carved, and taken off when lines go.

use crate::StoreError;
use crate::writing::Writing;
use std::collections::BTreeMap;
use time::Date;
use zf_core::activity::{Share, Slot};
use zf_core::ids::BooksId;

/// What some lines add up to, by strand, period and currency. In the order of their keys, so that two
/// who write totals never wait for each other in a circle.
pub(crate) type StrandShares = BTreeMap<(i64, Slot), Share>;

/// The same as it is handed to PostgreSQL, a column each.
struct Columns {
    strands: Vec<i64>,
    periods: Vec<i32>,
    currencies: Vec<String>,
    debit: Vec<i64>,
    credit: Vec<i64>,
    foreign_debit: Vec<i64>,
    foreign_credit: Vec<i64>,
    lines: Vec<i64>,
    digests: Vec<String>,
    cleared: Vec<i64>,
}

/// PostgreSQL says the same of a sum that becomes too large where it is kept.
const TOO_MUCH: StoreError = StoreError::Unstorable(
    "what one account holds in one month adds up to more than can be kept; is the currency right?",
);

impl Columns {
    fn of(shares: &StrandShares) -> Result<Self, StoreError> {
        let column = |f: &dyn Fn(&Share) -> i128| -> Result<Vec<i64>, StoreError> {
            let kept = |share| i64::try_from(f(share)).map_err(|_| TOO_MUCH);
            shares.values().map(kept).collect()
        };
        Ok(Self {
            strands: shares.keys().map(|(strand, _)| *strand).collect(),
            periods: shares.keys().map(|(_, slot)| slot.period.0).collect(),
            currencies: shares.keys().map(|(_, slot)| slot.currency.to_string()).collect(),
            debit: column(&|s| s.totals.debit)?,
            credit: column(&|s| s.totals.credit)?,
            foreign_debit: column(&|s| s.totals.foreign_debit)?,
            foreign_credit: column(&|s| s.totals.foreign_credit)?,
            lines: column(&|s| s.totals.lines.into())?,
            digests: shares.values().map(|s| s.totals.digest.to_string()).collect(),
            cleared: column(&|s| s.cleared.into())?,
        })
    }
}

/// Adds to the totals, and answers how many rows were written.
pub(crate) async fn add(
    tx: &mut Writing,
    books: BooksId,
    shares: &StrandShares,
) -> Result<i64, StoreError> {
    let columns = Columns::of(shares)?;
    let written = sqlx::query!(
        "INSERT INTO strand_total (books_id, strand_id, period, currency, debit, credit, foreign_debit,
                                   foreign_credit, lines, digest, last_date, cleared)
         SELECT $1, n.strand, n.period, n.currency, n.debit, n.credit, n.foreign_debit, n.foreign_credit,
                n.lines, n.digest::numeric, n.last_date, n.cleared
         FROM unnest($2::bigint[], $3::integer[], $4::text[], $5::bigint[], $6::bigint[], $7::bigint[],
                     $8::bigint[], $9::bigint[], $10::text[], $11::date[], $12::bigint[])
              AS n (strand, period, currency, debit, credit, foreign_debit, foreign_credit, lines, digest,
                    last_date, cleared)
         ON CONFLICT (books_id, strand_id, period, currency) DO UPDATE SET
             debit = strand_total.debit + EXCLUDED.debit,
             credit = strand_total.credit + EXCLUDED.credit,
             foreign_debit = strand_total.foreign_debit + EXCLUDED.foreign_debit,
             foreign_credit = strand_total.foreign_credit + EXCLUDED.foreign_credit,
             lines = strand_total.lines + EXCLUDED.lines,
             digest = strand_total.digest + EXCLUDED.digest,
             last_date = greatest(strand_total.last_date, EXCLUDED.last_date),
             cleared = strand_total.cleared + EXCLUDED.cleared",
        books.0,
        &columns.strands,
        &columns.periods,
        &columns.currencies,
        &columns.debit,
        &columns.credit,
        &columns.foreign_debit,
        &columns.foreign_credit,
        &columns.lines,
        &columns.digests,
        &shares.values().map(|share| share.last).collect::<Vec<_>>(),
        &columns.cleared,
    )
    .execute(&mut *tx)
    .await?;
    let (periods, lines) = lines_by_period(shares)?;
    sqlx::query!(
        "INSERT INTO period_total AS t (books_id, period, lines)
         SELECT $1, n.period, n.lines FROM unnest($2::integer[], $3::bigint[]) AS n (period, lines)
         ON CONFLICT (books_id, period) DO UPDATE SET lines = t.lines + EXCLUDED.lines",
        books.0,
        &periods,
        &lines
    )
    .execute(tx)
    .await?;
    i64::try_from(written.rows_affected()).map_err(StoreError::damaged)
}

/// How many lines there are by period, a column each.
fn lines_by_period(shares: &StrandShares) -> Result<(Vec<i32>, Vec<i64>), StoreError> {
    let mut lines: BTreeMap<i32, u64> = BTreeMap::new();
    for ((_, slot), share) in shares {
        *lines.entry(slot.period.0).or_default() += share.totals.lines;
    }
    let counts = lines.values().map(|lines| i64::try_from(*lines).map_err(|_| TOO_MUCH));
    Ok((lines.keys().copied().collect(), counts.collect::<Result<_, _>>()?))
}

/// Takes lines off the totals, drops those that no line is left of, and answers how many rows were
/// written. `last` is the latest date of what is left, where it is known.
pub(crate) async fn take_off(
    tx: &mut Writing,
    books: BooksId,
    shares: &StrandShares,
    last: impl Fn(&(i64, Slot)) -> Option<Date>,
) -> Result<i64, StoreError> {
    let columns = Columns::of(shares)?;
    let changed = sqlx::query!(
        "UPDATE strand_total t SET debit = t.debit - n.debit, credit = t.credit - n.credit,
                foreign_debit = t.foreign_debit - n.foreign_debit,
                foreign_credit = t.foreign_credit - n.foreign_credit, lines = t.lines - n.lines,
                digest = t.digest - n.digest::numeric, last_date = COALESCE(n.last_date, t.last_date),
                cleared = t.cleared - n.cleared
         FROM unnest($2::bigint[], $3::integer[], $4::text[], $5::bigint[], $6::bigint[], $7::bigint[],
                     $8::bigint[], $9::bigint[], $10::text[], $11::date[], $12::bigint[])
              AS n (strand, period, currency, debit, credit, foreign_debit, foreign_credit, lines, digest,
                    last_date, cleared)
         WHERE t.books_id = $1 AND t.strand_id = n.strand AND t.period = n.period AND t.currency = n.currency",
        books.0,
        &columns.strands,
        &columns.periods,
        &columns.currencies,
        &columns.debit,
        &columns.credit,
        &columns.foreign_debit,
        &columns.foreign_credit,
        &columns.lines,
        &columns.digests,
        &shares.keys().map(last).collect::<Vec<_>>() as &[Option<Date>],
        &columns.cleared,
    )
    .execute(&mut *tx)
    .await?;
    let emptied = sqlx::query!(
        "DELETE FROM strand_total WHERE books_id = $1 AND strand_id = ANY($2) AND lines = 0",
        books.0,
        &columns.strands
    )
    .execute(&mut *tx)
    .await?;
    let (periods, lines) = lines_by_period(shares)?;
    sqlx::query!(
        "UPDATE period_total t SET lines = t.lines - n.lines
         FROM unnest($2::integer[], $3::bigint[]) AS n (period, lines)
         WHERE t.books_id = $1 AND t.period = n.period",
        books.0,
        &periods,
        &lines
    )
    .execute(&mut *tx)
    .await?;
    sqlx::query!("DELETE FROM period_total WHERE books_id = $1 AND lines = 0", books.0)
        .execute(tx)
        .await?;
    i64::try_from(changed.rows_affected() + emptied.rows_affected()).map_err(StoreError::damaged)
}
