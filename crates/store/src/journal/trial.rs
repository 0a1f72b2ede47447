//! The trial balance straight from the totals, without the rest of the snapshot.

use crate::books;
use crate::journal::today;
use crate::member::Member;
use crate::{Store, StoreError};
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
        // Once through the totals: by account and year, and how many lines each period has, which tells the as-of date.
        let rows = sqlx::query!(
            r#"SELECT s.account_id AS "account_id?", t.year AS "year?", t.period AS "period?",
                      t.debit AS "debit!", t.credit AS "credit!", t.lines AS "lines!"
               FROM (SELECT strand_id, period / 12 AS year, period, sum(lines)::bigint AS lines,
                            CASE GROUPING(period) WHEN 1 THEN sum(debit) ELSE 0 END::bigint AS debit,
                            CASE GROUPING(period) WHEN 1 THEN sum(credit) ELSE 0 END::bigint AS credit
                     FROM strand_total WHERE books_id = $1
                     GROUP BY GROUPING SETS ((strand_id, period / 12), (period))) t
               LEFT JOIN strand s ON s.books_id = $1 AND s.id = t.strand_id"#,
            books.id.0
        )
        .fetch_all(&mut *tx)
        .await?;
        let mut lines = BTreeMap::new();
        let mut sums: Vec<OfYear> = Vec::with_capacity(rows.len());
        for row in rows {
            match (row.period, row.account_id, row.year) {
                (Some(period), ..) => {
                    let count = u64::try_from(row.lines).map_err(StoreError::damaged)?;
                    lines.insert(Period(period), count);
                }
                (None, Some(account), Some(year)) => {
                    sums.push(OfYear { account, year, debit: row.debit, credit: row.credit });
                }
                _ => return Err(StoreError::damaged("totals of a strand that is not there")),
            }
        }
        let last = today::last_period(&mut tx, &books, &lines).await?;
        // What lies after that date does not count; mostly there is nothing.
        let later = lines.keys().next_back().copied().filter(|latest| Some(*latest) > last);
        let later = match (last, later) {
            (Some(last), Some(_)) => {
                let later = sqlx::query_as!(
                    OfYear,
                    r#"SELECT s.account_id AS account, t.period / 12 AS "year!", t.debit, t.credit
                       FROM strand_total t JOIN strand s ON s.books_id = t.books_id AND s.id = t.strand_id
                       WHERE t.books_id = $1 AND t.period > $2"#,
                    books.id.0,
                    last.0
                );
                later.fetch_all(&mut *tx).await?
            }
            _ => Vec::new(),
        };
        tx.commit().await?;
        let this_year = last.map(|last| last.0.div_euclid(12));
        let mut figures: ById<Figures> = ById::default();
        let later = later.into_iter().map(|of| (of, true));
        for (of, later) in sums.into_iter().map(|of| (of, false)).chain(later) {
            let (mut debit, mut credit) = (i128::from(of.debit), i128::from(of.credit));
            if later {
                (debit, credit) = (-debit, -credit);
            }
            let sums = Totals { debit, credit, ..Totals::default() };
            let own = figures.entry(AccountId(of.account)).or_default();
            own.to_date += sums;
            if Some(of.year) == this_year {
                own.this_year += sums;
            }
        }
        Ok((trial_balance(&chart, &figures), books.currency))
    }
}

/// What a strand comes to in a year.
struct OfYear {
    account: i64,
    year: i32,
    debit: i64,
    credit: i64,
}
