//! Strands and their totals.

use crate::StoreError;
use crate::journal::strands;
use sqlx::PgConnection;
use std::collections::BTreeMap;
use zf_core::activity::{Activity, Closings, Openings, Share, Shares, Slot, Strand, Totals};
use zf_core::calendar::{FiscalCalendar, Period};
use zf_core::ids::{BooksId, StrandId};
use zf_core::money::Currency;

/// Totals as stored: amounts are minor units, the digest is a decimal text.
pub(crate) struct TotalsRow {
    pub(crate) owner: i64,
    pub(crate) period: i32,
    pub(crate) currency: String,
    pub(crate) debit: i64,
    pub(crate) credit: i64,
    pub(crate) foreign_debit: i64,
    pub(crate) foreign_credit: i64,
    pub(crate) lines: i64,
    pub(crate) digest: String,
    pub(crate) last_date: time::Date,
    pub(crate) cleared: i64,
}

impl TotalsRow {
    pub(crate) fn slot(&self) -> Result<Slot, StoreError> {
        let currency = Currency::parse(&self.currency).map_err(StoreError::damaged)?;
        Ok(Slot { period: Period(self.period), currency })
    }

    pub(crate) fn totals(&self) -> Result<Totals, StoreError> {
        Ok(Totals {
            debit: self.debit.into(),
            credit: self.credit.into(),
            foreign_debit: self.foreign_debit.into(),
            foreign_credit: self.foreign_credit.into(),
            lines: u64::try_from(self.lines).map_err(StoreError::damaged)?,
            digest: self.digest.parse().map_err(StoreError::damaged)?,
        })
    }
}

/// The totals of every strand of the books.
pub(crate) async fn read_totals(
    connection: &mut PgConnection,
    books: BooksId,
) -> Result<Vec<TotalsRow>, StoreError> {
    let rows = sqlx::query_as!(
        TotalsRow,
        r#"SELECT strand_id AS owner, period, currency AS "currency!", debit, credit, foreign_debit, foreign_credit,
                  lines, digest::text AS "digest!", last_date, cleared
           FROM strand_total WHERE books_id = $1"#,
        books.0
    );
    Ok(rows.fetch_all(connection).await?)
}

/// Every strand of the books with its totals.
pub(crate) async fn read_activity(
    connection: &mut PgConnection,
    books: BooksId,
) -> Result<Activity, StoreError> {
    let strands = strands::read(&mut *connection, books).await?.into_iter();
    let mut by_strand: BTreeMap<i64, (Strand, Shares)> =
        strands.map(|strand| (strand.id.0, (strand, Shares::new()))).collect();
    for row in read_totals(connection, books).await? {
        let Some((_, activity)) = by_strand.get_mut(&row.owner) else {
            continue;
        };
        let cleared = u64::try_from(row.cleared).map_err(StoreError::damaged)?;
        let share = Share { totals: row.totals()?, last: row.last_date, cleared };
        activity.insert(row.slot()?, share);
    }
    Ok(Activity::new(by_strand.into_values()))
}

/// What opening entries put on each strand.
pub(crate) async fn read_openings(
    connection: &mut PgConnection,
    books: BooksId,
    calendar: FiscalCalendar,
) -> Result<Openings, StoreError> {
    let rows = sqlx::query!(
        r#"SELECT l.strand_id, l.date, count(*) AS "lines!",
                  coalesce(sum(l.amount) FILTER (WHERE l.amount > 0), 0)::text AS "debit!",
                  coalesce(-sum(l.amount) FILTER (WHERE l.amount < 0), 0)::text AS "credit!"
           FROM entry e JOIN line l ON l.books_id = e.books_id AND l.entry_id = e.id
           WHERE e.books_id = $1 AND e.kind = 'opening' GROUP BY l.strand_id, l.date"#,
        books.0
    );
    let mut openings = Openings::default();
    for row in rows.fetch_all(connection).await? {
        let of_strand = openings.entry(StrandId(row.strand_id)).or_default();
        *of_strand.entry(calendar.period_of(row.date)).or_default() += Totals {
            debit: row.debit.parse().map_err(StoreError::damaged)?,
            credit: row.credit.parse().map_err(StoreError::damaged)?,
            lines: u64::try_from(row.lines).map_err(StoreError::damaged)?,
            ..Totals::default()
        };
    }
    Ok(openings)
}

/// What closing entries put on each strand.
pub(crate) async fn read_closings(
    connection: &mut PgConnection,
    books: BooksId,
    calendar: FiscalCalendar,
) -> Result<Closings, StoreError> {
    let rows = sqlx::query!(
        r#"SELECT l.strand_id, l.date, sum(l.amount)::text AS "net!"
           FROM entry e JOIN line l ON l.books_id = e.books_id AND l.entry_id = e.id
           WHERE e.books_id = $1 AND e.kind = 'closing' GROUP BY l.strand_id, l.date"#,
        books.0
    );
    let mut closings = Closings::default();
    for row in rows.fetch_all(connection).await? {
        let of_strand = closings.entry(StrandId(row.strand_id)).or_default();
        let net: i128 = row.net.parse().map_err(StoreError::damaged)?;
        *of_strand.entry(calendar.period_of(row.date)).or_default() += net;
    }
    Ok(closings)
}
