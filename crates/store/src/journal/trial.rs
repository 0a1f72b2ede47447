//! The trial balance straight from the totals, without the rest of the snapshot.

use crate::books;
use crate::journal::today;
use crate::member::Member;
use crate::{Store, StoreError};
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
    pub async fn trial_balance(&self, member: Member) -> Result<TrialBalance, StoreError> {
        Ok(self.trial_balance_of(member.books()).await?.0)
    }

    /// The same of books, with their currency, for whoever runs the server.
    ///
    /// # Errors
    /// When the database fails.
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
        let periods = sqlx::query!(
            r#"SELECT period, sum(lines)::bigint AS "lines!" FROM strand_total WHERE books_id = $1 GROUP BY period"#,
            books.id.0
        )
        .fetch_all(&mut *tx)
        .await?;
        let lines = periods.into_iter().map(|row| {
            Ok((Period(row.period), u64::try_from(row.lines).map_err(StoreError::damaged)?))
        });
        let lines = lines.collect::<Result<_, StoreError>>()?;
        let last = today::last_period(&mut tx, &books, &lines).await?;
        let rows = sqlx::query!(
            r#"SELECT s.account_id, t.year AS "year!", sum(t.debit)::bigint AS "debit!", sum(t.credit)::bigint AS "credit!"
               FROM (SELECT strand_id, period / 12 AS year, sum(debit) AS debit, sum(credit) AS credit
                     FROM strand_total WHERE books_id = $1 AND period <= $2 GROUP BY strand_id, period / 12) t
               JOIN strand s ON s.books_id = $1 AND s.id = t.strand_id
               GROUP BY s.account_id, t.year"#,
            books.id.0,
            last.map_or(i32::MAX, |last| last.0)
        )
        .fetch_all(&mut *tx)
        .await?;
        tx.commit().await?;
        let this_year = last.map(|last| last.0.div_euclid(12));
        let mut figures: ById<Figures> = ById::default();
        for row in rows {
            let (debit, credit) = (row.debit.into(), row.credit.into());
            let sums = Totals { debit, credit, ..Totals::default() };
            let own = figures.entry(AccountId(row.account_id)).or_default();
            own.to_date += sums;
            if Some(row.year) == this_year {
                own.this_year += sums;
            }
        }
        Ok((trial_balance(&chart, &figures), books.currency))
    }
}
