//! The books as they stand: all that a rehearsal looks at, read in one go.

use crate::books::{self, Books};
use crate::boxed;
use crate::chart::{rows, usage};
use crate::journal::ledger;
use crate::member::Member;
use crate::{Store, StoreError};
use sqlx::PgConnection;
use std::collections::BTreeMap;
use zf_core::activity::usual_as_of;
use zf_core::calendar::Period;
use zf_core::chart::Chart;
use zf_core::code::Code;
use zf_core::former::{CodeUse, FormerCodes};
use zf_core::ids::{AccountId, BooksId};
use zf_core::today::Today;
use zf_core::usage::Usage;

/// The books with everything that is looked at together.
#[derive(Clone, Debug)]
pub struct Snapshot {
    /// The books.
    pub books: Books,
    /// What a rehearsal looks at.
    pub today: Today,
    /// Which codes were borne when.
    pub code_uses: Vec<CodeUse>,
}

impl Store {
    /// Reads the books as they stand, all at one instant.
    ///
    /// # Errors
    /// When the database fails.
    #[boxed]
    pub async fn snapshot(&self, member: Member) -> Result<Snapshot, StoreError> {
        // Without one instant for all statements, a plan applied in between would tear the picture.
        let mut tx = self.at_one_instant().await?;
        let snapshot = read(&mut tx, member.books()).await?;
        tx.commit().await?;
        Ok(snapshot)
    }

    /// The revision of the books: a snapshot of the same revision still holds.
    ///
    /// # Errors
    /// When the database fails.
    #[boxed]
    pub async fn revision(&self, member: Member) -> Result<i64, StoreError> {
        books::revision(&mut *self.pool.acquire().await?, member.books()).await
    }
}

pub(crate) async fn read(
    connection: &mut PgConnection,
    id: BooksId,
) -> Result<Snapshot, StoreError> {
    let books = books::read(connection, id).await?;
    let chart = rows::read(connection, id).await?;
    let closings = ledger::read_closings(connection, id, books.calendar).await?;
    let openings = ledger::read_openings(connection, id, books.calendar).await?;
    let activity = ledger::read_activity(connection, id).await?;
    let mut activity = activity.with_closings(closings).with_openings(openings);
    let lines = activity.lines_by_period();
    if let Some(last) = last_period(connection, &books, &lines).await? {
        activity = activity.as_of(last);
    }
    let code_uses = read_code_uses(connection, id).await?;
    let usage = read_usage(connection, &books, &chart).await?;
    let past = code_uses.iter().filter(|u| u.to.is_some());
    let former: FormerCodes = past.collect();
    let today = Today {
        chart,
        activity,
        usage,
        former,
        policy: books.policy.clone(),
        currency: books.currency,
        calendar: books.calendar,
        locked: books.locked,
    };
    Ok(Snapshot { books, today, code_uses })
}

/// The last period that counts for balances: what the books lay down, or what the lines tell.
pub(crate) async fn last_period(
    connection: &mut PgConnection,
    books: &Books,
    lines: &BTreeMap<Period, u64>,
) -> Result<Option<Period>, StoreError> {
    if books.as_of.is_some() {
        return Ok(books.as_of);
    }
    let now = sqlx::query_scalar!(r#"SELECT current_date AS "now!""#).fetch_one(connection).await?;
    Ok(usual_as_of(lines, books.calendar.period_of(now)))
}

async fn read_code_uses(
    connection: &mut PgConnection,
    books: BooksId,
) -> Result<Vec<CodeUse>, StoreError> {
    let rows = sqlx::query!(
        "SELECT account_id, code, name, used_from, used_to FROM code_use WHERE books_id = $1 ORDER BY id",
        books.0
    )
    .fetch_all(connection)
    .await?;
    rows.into_iter()
        .map(|row| {
            Ok(CodeUse {
                account: AccountId(row.account_id),
                code: Code::parse(&row.code).map_err(StoreError::damaged)?,
                name: row.name,
                from: row.used_from,
                to: row.used_to,
            })
        })
        .collect()
}

/// What names each account; what named one that was merged names the one that holds its history.
async fn read_usage(
    connection: &mut PgConnection,
    books: &Books,
    chart: &Chart,
) -> Result<Usage, StoreError> {
    let mut usage = Usage {
        given: books.usage_given,
        journal_complete: books.journal_complete,
        complete_from: books.complete_from,
        ..Usage::default()
    };
    let holder = |account| chart.holder(account).map_or(account, |holder| holder.id);
    for (id, one) in usage::read(connection, books.id).await? {
        usage.note(id, one, holder);
    }
    Ok(usage)
}
