//! What a set of books lays down for itself is changed here, and noted.

use super::{Books, StoredPolicy, raise_revision, read};
use crate::boxed;
use crate::member::Member;
use crate::writing::Writing;
use crate::{Store, StoreError, trail};
use sqlx::types::Json;
use zf_core::calendar::{Period, say_day};
use zf_core::entry::JournalSince;
use zf_core::settings::{Changed, SettingChange, Settings};
use zf_core::trail::Event;

impl Books {
    /// What they lay down for themselves.
    pub fn settings(&self) -> Settings {
        Settings {
            name: self.name.clone(),
            currency: self.currency,
            calendar: self.calendar,
            as_of: self.as_of,
            locked: self.locked,
            journal: match (self.journal_complete, self.complete_from) {
                (true, _) => JournalSince::Beginning,
                (false, Some(day)) => JournalSince::Day(day),
                (false, None) => JournalSince::Unknown,
            },
            uses_complete: self.usage_given,
            policy: self.policy.clone(),
        }
    }
}

impl Store {
    /// How many lines the books have.
    ///
    /// # Errors
    /// When the database fails.
    #[boxed]
    pub async fn line_count(&self, member: Member) -> Result<i64, StoreError> {
        let mut connection = self.pool.acquire().await?;
        lines(&mut connection, member).await
    }

    /// Changes a setting of the books; nothing is done or noted when it is so already.
    ///
    /// # Errors
    /// [`StoreError::Refused`] when lines that are there would mean something else; when the database
    /// fails.
    #[boxed]
    pub async fn change_setting(
        &self,
        by: Member,
        change: &SettingChange,
    ) -> Result<(), StoreError> {
        // Whoever applies a plan judged it by what was laid down then.
        let mut tx = self.write_alone(by).await?;
        let books = read(&mut tx, by.books()).await?;
        let count = u64::try_from(lines(&mut tx, by).await?).map_err(StoreError::damaged)?;
        let changed = books.settings().change(change, count);
        let changed = changed.map_err(|why| StoreError::refused(why.to_string()))?;
        let Some(Changed { settings, event, shift }) = changed else { return Ok(()) };
        keep(&mut tx, by, &settings).await?;
        if shift != 0 {
            renumber_periods(&mut tx, by, shift).await?;
        }
        raise_revision(&mut tx, by.books()).await?;
        trail::note(&mut tx, by.books(), by.person(), &event, None).await?;
        tx.commit().await
    }

    /// Locks all periods up to this one, or opens those behind it again, with the reason.
    ///
    /// # Errors
    /// When the database fails.
    #[boxed]
    pub async fn lock_periods(
        &self,
        by: Member,
        until: Option<Period>,
        reason: Option<&str>,
    ) -> Result<(), StoreError> {
        let mut tx = self.write_alone(by).await?;
        let books = read(&mut tx, by.books()).await?;
        let day = |period: Option<Period>| period.map(|p| books.calendar.last_day(p));
        let (from, to) = (day(books.locked), day(until));
        let event = match (reason, from) {
            (Some(reason), _) => Event::Unlocked { from, until: to, reason: reason.to_owned() },
            (None, Some(locked)) if until < books.locked => {
                return Err(StoreError::refused(format!(
                    "the books are locked up to {} by now; to open periods again takes a reason",
                    say_day(locked)
                )));
            }
            (None, _) => Event::Locked { from, until: to },
        };
        sqlx::query!(
            "UPDATE books SET locked_period = $2, revision = revision + 1 WHERE id = $1",
            by.books().0,
            until.map(|p| p.0)
        )
        .execute(&mut tx)
        .await?;
        trail::note(&mut tx, by.books(), by.person(), &event, None).await?;
        tx.commit().await
    }
}

async fn lines(connection: &mut sqlx::PgConnection, member: Member) -> Result<i64, StoreError> {
    let count = sqlx::query_scalar!(
        r#"SELECT COALESCE(sum(lines), 0)::bigint AS "lines!" FROM period_total WHERE books_id = $1"#,
        member.books().0
    );
    Ok(count.fetch_one(connection).await?)
}

async fn keep(tx: &mut Writing, by: Member, settings: &Settings) -> Result<(), StoreError> {
    let from = match settings.journal {
        JournalSince::Day(day) => Some(day),
        JournalSince::Beginning | JournalSince::Unknown => None,
    };
    sqlx::query!(
        "UPDATE books SET name = $2, currency = $3, year_month = $4, year_day = $5, as_of_period = $6,
             locked_period = $7, journal_complete = $8, complete_from = $9, usage_given = $10, policy = $11
         WHERE id = $1",
        by.books().0,
        settings.name,
        settings.currency.as_str(),
        i16::from(settings.calendar.month()),
        i16::from(settings.calendar.day()),
        settings.as_of.map(|period| period.0),
        settings.locked.map(|period| period.0),
        settings.journal == JournalSince::Beginning,
        from,
        settings.uses_complete,
        Json(StoredPolicy::from(&settings.policy)) as _
    )
    .execute(tx)
    .await?;
    Ok(())
}

/// Numbers the periods of totals anew, which count from the start of a year. In two steps, since two
/// periods have the same number meanwhile.
async fn renumber_periods(tx: &mut Writing, by: Member, shift: i32) -> Result<(), StoreError> {
    const AWAY: i32 = 1_000_000;
    for step in [AWAY, shift - AWAY] {
        sqlx::query!(
            "UPDATE strand_total SET period = period + $2 WHERE books_id = $1",
            by.books().0,
            step
        )
        .execute(&mut *tx)
        .await?;
        sqlx::query!(
            "UPDATE period_total SET period = period + $2 WHERE books_id = $1",
            by.books().0,
            step
        )
        .execute(&mut *tx)
        .await?;
    }
    Ok(())
}
