//! The trial balance straight from the totals, without the rest of the snapshot.

use crate::books::{self, Books};
use crate::boxed;
use crate::journal::today;
use crate::member::Member;
use crate::{Store, StoreError};
use sqlx::PgConnection;
use std::collections::BTreeMap;
use zf_core::activity::{Figures, Totals};
use zf_core::calendar::Period;
use zf_core::chart::{Account, Chart, Class};
use zf_core::code::Code;
use zf_core::ids::{AccountId, BooksId, ById};
use zf_core::money::Currency;
use zf_core::trial_balance::{TrialBalance, trial_balance};

impl Store {
    /// The trial balance at the as-of date of the books.
    ///
    /// # Errors
    /// When the database fails.
    #[boxed]
    pub async fn trial_balance(&self, member: Member) -> Result<TrialBalance, StoreError> {
        Ok(self.trial_balance_of(member.books()).await?.0)
    }

    /// The same of books, with their currency, for whoever runs the server.
    ///
    /// # Errors
    /// When the database fails.
    #[boxed]
    pub async fn trial_balance_of(
        &self,
        books: BooksId,
    ) -> Result<(TrialBalance, Currency), StoreError> {
        // Chart and totals must be of one instant.
        let mut tx = self.at_one_instant().await?;
        let books = books::read(&mut tx, books).await?;
        // Of an account a trial balance shows little: not all of it is read.
        let rows = sqlx::query!(
            "SELECT id, code, class FROM account WHERE books_id = $1 AND status <> 'merged'",
            books.id.0
        )
        .fetch_all(&mut *tx)
        .await?;
        let accounts: Result<Vec<Account>, StoreError> = rows
            .into_iter()
            .map(|row| {
                let code = Code::parse(&row.code).map_err(StoreError::damaged)?;
                let class = Class::from_key(&row.class);
                let class = class.ok_or_else(|| StoreError::damaged(&row.class))?;
                Ok(Account::new(AccountId(row.id), code, String::new(), class))
            })
            .collect();
        let chart = Chart::new(accounts?);
        let last = last_period(&mut tx, &books).await?;
        let figures = match last {
            Some(last) => figures(&mut tx, books.id, last).await?,
            None => ById::default(),
        };
        tx.commit().await?;
        Ok((trial_balance(&chart, &figures), books.currency))
    }
}

/// The last period that counts.
async fn last_period(
    connection: &mut PgConnection,
    books: &Books,
) -> Result<Option<Period>, StoreError> {
    let rows =
        sqlx::query!("SELECT period, lines FROM period_total WHERE books_id = $1", books.id.0)
            .fetch_all(&mut *connection)
            .await?;
    let lines = rows.into_iter().map(|row| {
        Ok((Period(row.period), u64::try_from(row.lines).map_err(StoreError::damaged)?))
    });
    let lines: BTreeMap<_, _> = lines.collect::<Result<_, StoreError>>()?;
    today::last_period(connection, books, &lines).await
}

/// What each account adds up to at the end of a period, whose fiscal year counts as this year.
async fn figures(
    connection: &mut PgConnection,
    books: BooksId,
    last: Period,
) -> Result<ById<Figures>, StoreError> {
    // Added up by strand alone, of which there are as many as accounts; their accounts are looked up once.
    let rows = sqlx::query!(
        r#"SELECT s.account_id AS "account_id?", t.debit AS "debit!", t.credit AS "credit!",
                  t.year_debit AS "year_debit!", t.year_credit AS "year_credit!"
           FROM (SELECT strand_id, sum(debit)::bigint AS debit, sum(credit)::bigint AS credit,
                        COALESCE(sum(debit) FILTER (WHERE period >= $3), 0)::bigint AS year_debit,
                        COALESCE(sum(credit) FILTER (WHERE period >= $3), 0)::bigint AS year_credit
                 FROM strand_total WHERE books_id = $1 AND period <= $2 GROUP BY strand_id) t
           LEFT JOIN strand s ON s.books_id = $1 AND s.id = t.strand_id"#,
        books.0,
        last.0,
        last.0.div_euclid(12) * 12
    )
    .fetch_all(connection)
    .await?;
    let mut figures: ById<Figures> = ById::default();
    for row in rows {
        let account = row
            .account_id
            .ok_or_else(|| StoreError::damaged("totals of a strand that is not there"))?;
        let sums = |debit: i64, credit: i64| Totals {
            debit: debit.into(),
            credit: credit.into(),
            ..Totals::default()
        };
        let own = figures.entry(AccountId(account)).or_default();
        own.to_date += sums(row.debit, row.credit);
        own.this_year += sums(row.year_debit, row.year_credit);
    }
    Ok(figures)
}
