//! Journal lines, a page at a time: of an account with the code each was posted under, or of all.

use crate::boxed;
use crate::journal::today::{self, Snapshot};
use crate::member::Member;
use crate::{Store, StoreError};
use sqlx::{PgConnection, PgPool, Postgres, Transaction};
use time::Date;
use zf_core::ids::{AccountId, BooksId};
use zf_core::money::Currency;

/// Which lines of a journal.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq)]
pub struct JournalFilter {
    /// The account that presents them; all when missing.
    pub account: Option<AccountId>,
    /// The first day.
    pub from: Option<Date>,
    /// The last day.
    pub to: Option<Date>,
}

/// What a journal holds in all.
#[derive(Clone, Copy, Debug)]
pub struct JournalSummary {
    /// How many entries.
    pub entries: usize,
    /// The first and the last day.
    pub days: Option<(Date, Date)>,
    /// Today, as the database has it.
    pub now: Date,
}

/// A line as shown and handed over.
#[derive(Clone, Debug)]
pub struct LineRow {
    /// Identity.
    pub id: i64,
    /// The identity of its entry.
    pub entry_id: i64,
    /// The number of its entry.
    pub entry: String,
    /// The kind of its entry, as a key.
    pub entry_kind: String,
    /// The day it was posted for.
    pub date: Date,
    /// The account that presents it.
    pub account: i64,
    /// The code it was posted under.
    pub posted_code: String,
    /// Signed minor units of the base currency.
    pub amount: i64,
    /// Signed minor units of another currency.
    pub foreign_amount: Option<i64>,
    /// That currency.
    pub currency: Option<String>,
    /// Who was paid or paid.
    pub payee: String,
    /// What it was for.
    pub memo: String,
    /// The number of the document.
    pub reference: String,
    /// Dimension values.
    pub dimensions: String,
    /// Whether it was cleared in a bank reconciliation.
    pub cleared: bool,
}

impl LineRow {
    /// The amount in another currency, in its minor units.
    pub fn foreign(&self) -> Option<(Currency, i64)> {
        let currency = self.currency.as_deref().and_then(|code| Currency::parse(code).ok());
        currency.zip(self.foreign_amount)
    }
}

/// Asks for lines as they are shown, those that a condition with its order takes.
macro_rules! lines_that {
    ($condition:literal, $($value:expr),+) => {
        sqlx::query_as!(
            LineRow,
            r#"SELECT l.id, l.entry_id, e.number AS entry, e.kind AS entry_kind, l.date, s.account_id AS account,
                      s.posted_code, l.amount, l.foreign_amount, l.currency, l.payee, l.memo,
                      l.reference, l.dimensions, c.line_id IS NOT NULL AS "cleared!"
               FROM line l
               JOIN strand s ON s.books_id = l.books_id AND s.id = l.strand_id
               JOIN entry e ON e.books_id = l.books_id AND e.id = l.entry_id
               LEFT JOIN line_cleared c ON c.books_id = l.books_id AND c.line_id = l.id
               WHERE "# + $condition,
            $($value),+
        )
    };
}

impl Store {
    /// Begins to read the journal, all of it as it stands at one instant.
    ///
    /// # Errors
    /// When the database fails.
    #[boxed]
    pub async fn read_journal(&self, member: Member) -> Result<JournalReading, StoreError> {
        let tx = self.long_at_one_instant().await?;
        Ok(JournalReading { tx, books: member.books() })
    }

    /// The lines of an account, latest first.
    ///
    /// # Errors
    /// When the database fails.
    #[boxed]
    pub async fn account_lines(
        &self,
        member: Member,
        account: AccountId,
        page: i64,
        size: i64,
    ) -> Result<Vec<LineRow>, StoreError> {
        let rows = lines_that!(
            "l.books_id = $1 AND s.account_id = $2
               ORDER BY l.date DESC, l.id DESC LIMIT $3 OFFSET $4",
            member.books().0,
            account.0,
            size,
            page * size
        );
        Ok(rows.fetch_all(&self.pool).await?)
    }

    /// These lines, the latest first.
    ///
    /// # Errors
    /// When the database fails.
    #[boxed]
    pub async fn lines(&self, member: Member, ids: &[i64]) -> Result<Vec<LineRow>, StoreError> {
        let rows = lines_that!(
            "l.books_id = $1 AND l.id = ANY($2) ORDER BY l.date DESC, l.id DESC",
            member.books().0,
            ids
        );
        Ok(rows.fetch_all(&self.pool).await?)
    }
}

/// The lines of the entries with certain numbers, entry by entry.
pub(crate) async fn lines_of(
    connection: &mut PgConnection,
    books: BooksId,
    numbers: &[String],
) -> Result<Vec<LineRow>, StoreError> {
    let rows = lines_that!(
        "l.books_id = $1 AND e.number = ANY($2) ORDER BY l.entry_id, l.id",
        books.0,
        numbers
    );
    Ok(rows.fetch_all(connection).await?)
}

/// The lines of entries, entry by entry.
pub(crate) async fn lines_of_entries(
    pool: &PgPool,
    books: BooksId,
    entries: &[i64],
) -> Result<Vec<LineRow>, StoreError> {
    let rows = lines_that!(
        "l.books_id = $1 AND l.entry_id = ANY($2) ORDER BY l.entry_id, l.id",
        books.0,
        entries
    );
    Ok(rows.fetch_all(pool).await?)
}

/// A journal being read, as it stood when that began.
pub struct JournalReading {
    tx: Transaction<'static, Postgres>,
    books: BooksId,
}

impl JournalReading {
    /// The books at the same instant.
    ///
    /// # Errors
    /// When the database fails.
    #[boxed]
    pub async fn snapshot(&mut self) -> Result<Snapshot, StoreError> {
        today::read(&mut self.tx, self.books).await
    }

    /// Lines that pass a filter, entry by entry, from the one after `after`: its entry and itself.
    ///
    /// # Errors
    /// When the database fails.
    #[boxed]
    pub async fn lines(
        &mut self,
        filter: &JournalFilter,
        after: (i64, i64),
        size: i64,
    ) -> Result<Vec<LineRow>, StoreError> {
        let rows = lines_that!(
            "l.books_id = $1 AND (l.entry_id, l.id) > ($2, $7)
                 AND ($3::bigint IS NULL OR s.account_id = $3)
                 AND ($4::date IS NULL OR l.date >= $4) AND ($5::date IS NULL OR l.date <= $5)
               ORDER BY l.entry_id, l.id LIMIT $6",
            self.books.0,
            after.0,
            filter.account.map(|account| account.0),
            filter.from,
            filter.to,
            size,
            after.1
        );
        Ok(rows.fetch_all(&mut *self.tx).await?)
    }

    /// What the journal holds in all.
    ///
    /// # Errors
    /// When the database fails.
    #[boxed]
    pub async fn summary(&mut self) -> Result<JournalSummary, StoreError> {
        let row = sqlx::query!(
            r#"SELECT count(*) AS "entries!", min(date) AS first, max(date) AS last,
                      current_date AS "now!" FROM entry WHERE books_id = $1"#,
            self.books.0
        )
        .fetch_one(&mut *self.tx)
        .await?;
        let entries = usize::try_from(row.entries).map_err(StoreError::damaged)?;
        Ok(JournalSummary { entries, days: row.first.zip(row.last), now: row.now })
    }

    /// Everybody who is named in the journal as paid or paying, each once.
    ///
    /// # Errors
    /// When the database fails.
    #[boxed]
    pub async fn payees(&mut self) -> Result<Vec<String>, StoreError> {
        let payees = sqlx::query_scalar!(
            "SELECT DISTINCT payee FROM line WHERE books_id = $1 ORDER BY payee",
            self.books.0
        );
        Ok(payees.fetch_all(&mut *self.tx).await?)
    }

    /// All dimension values of the journal, each once.
    ///
    /// # Errors
    /// When the database fails.
    #[boxed]
    pub async fn dimensions(&mut self) -> Result<Vec<String>, StoreError> {
        let values = sqlx::query_scalar!(
            "SELECT DISTINCT dimensions FROM line WHERE books_id = $1",
            self.books.0
        );
        Ok(values.fetch_all(&mut *self.tx).await?)
    }
}
