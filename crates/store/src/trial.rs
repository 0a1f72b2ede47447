//! The trial balance straight from the totals, without the rest of the snapshot.

use crate::people::Member;
use crate::{Store, StoreError, books};
use zf_core::activity::{Figures, Totals};
use zf_core::calendar::Period;
use zf_core::chart::{Account, Chart, Class};
use zf_core::code::Code;
use zf_core::ids::{AccountId, ById};
use zf_core::trial_balance::{TrialBalance, trial_balance};

impl Store {
    /// The trial balance at the end of the latest period that anything was posted in.
    ///
    /// # Errors
    /// When the database fails.
    pub async fn trial_balance(&self, member: Member) -> Result<TrialBalance, StoreError> {
        let mut tx = self.pool.begin().await?;
        // Chart and totals must be of one instant.
        sqlx::query!("SET TRANSACTION ISOLATION LEVEL REPEATABLE READ READ ONLY")
            .execute(&mut *tx)
            .await?;
        let books = books::read(&mut tx, member.books()).await?;
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
        let latest = sqlx::query_scalar!(
            "SELECT max(period) FROM strand_total WHERE books_id = $1",
            books.id.0
        )
        .fetch_one(&mut *tx)
        .await?;
        let year = Period(latest.unwrap_or(0)).year_start();
        let rows = sqlx::query!(
            r#"SELECT s.account_id, sum(t.debit)::bigint AS "debit!", sum(t.credit)::bigint AS "credit!",
                      sum(t.year_debit)::bigint AS "year_debit!", sum(t.year_credit)::bigint AS "year_credit!"
               FROM (SELECT strand_id, sum(debit) AS debit, sum(credit) AS credit,
                            COALESCE(sum(debit) FILTER (WHERE period >= $2), 0) AS year_debit,
                            COALESCE(sum(credit) FILTER (WHERE period >= $2), 0) AS year_credit
                     FROM strand_total WHERE books_id = $1 GROUP BY strand_id) t
               JOIN strand s ON s.books_id = $1 AND s.id = t.strand_id
               GROUP BY s.account_id"#,
            books.id.0,
            year.0
        )
        .fetch_all(&mut *tx)
        .await?;
        tx.commit().await?;
        let sums = |debit: i64, credit: i64| Totals {
            debit: debit.into(),
            credit: credit.into(),
            ..Totals::default()
        };
        let figures: ById<Figures> = rows
            .into_iter()
            .map(|row| {
                let all = sums(row.debit, row.credit);
                let this_year = sums(row.year_debit, row.year_credit);
                (AccountId(row.account_id), Figures { all, this_year, ..Figures::default() })
            })
            .collect();
        Ok(trial_balance(&chart, &figures))
    }
}
