//! What the review looks at beside the snapshot of the books, and what people have said of it.

use crate::boxed;
use crate::journal::sketches;
use crate::member::Member;
use crate::{Store, StoreError, trail};
use std::collections::HashMap;
use time::OffsetDateTime;
use zf_core::ids::{AccountId, ItemId};
use zf_core::review::dismissed::Subject;
use zf_core::review::remarks::RemarkKind;
use zf_core::review::sketch::{Sketches, of_accounts};
use zf_core::trail::Event;

/// Accounts that a person has said are not the same thing.
#[derive(Clone, Debug)]
pub struct MarkedNotDuplicates {
    /// Identity.
    pub id: i64,
    /// The accounts.
    pub accounts: Vec<i64>,
    /// Why.
    pub reason: String,
    /// Who said so.
    pub person: String,
    /// When.
    pub at: OffsetDateTime,
}

/// What a person has said is right in these books.
#[derive(Clone, Debug)]
pub struct DismissedRemark {
    /// Identity.
    pub id: i64,
    /// Which kind of remark.
    pub kind: RemarkKind,
    /// What it is about; none when all of the kind are dismissed.
    pub about: Option<Subject>,
    /// Why.
    pub reason: String,
    /// Who said so.
    pub person: String,
    /// When.
    pub at: OffsetDateTime,
}

impl Store {
    /// What of the review people have dismissed, the latest first.
    ///
    /// # Errors
    /// When the database fails, or holds a kind of remark that nobody knows.
    #[boxed]
    pub async fn dismissed(&self, member: Member) -> Result<Vec<DismissedRemark>, StoreError> {
        let rows = sqlx::query!(
            "SELECT d.id, d.kind, d.account_id, d.line_id, d.reason, p.name AS person, d.at
             FROM dismissed d JOIN person p ON p.id = d.person_id WHERE d.books_id = $1 ORDER BY d.id DESC",
            member.books().0
        );
        let rows = rows.fetch_all(&self.pool).await?;
        let dismissed = rows.into_iter().map(|row| {
            let unknown = || StoreError::damaged("a remark of a kind that nobody knows");
            Ok(DismissedRemark {
                id: row.id,
                kind: RemarkKind::from_key(&row.kind).ok_or_else(unknown)?,
                about: row
                    .account_id
                    .map(|id| Subject::Account(AccountId(id)))
                    .or_else(|| row.line_id.map(|id| Subject::Item(ItemId(id)))),
                reason: row.reason,
                person: row.person,
                at: row.at,
            })
        });
        dismissed.collect()
    }

    /// Remembers that a remark is right in these books, or all of a kind.
    ///
    /// # Errors
    /// When the database fails.
    #[boxed]
    pub async fn dismiss(
        &self,
        member: Member,
        kind: RemarkKind,
        about: Option<Subject>,
        reason: &str,
    ) -> Result<(), StoreError> {
        let (account, line) = match about {
            Some(Subject::Account(id)) => (Some(id.0), None),
            Some(Subject::Item(id)) => (None, Some(id.0)),
            None => (None, None),
        };
        let mut tx = self.write().await?;
        sqlx::query!(
            "INSERT INTO dismissed (books_id, kind, account_id, line_id, reason, person_id)
             VALUES ($1, $2, $3, $4, $5, $6)",
            member.books().0,
            kind.key(),
            account,
            line,
            reason,
            member.person().0
        )
        .execute(&mut tx)
        .await?;
        let event = Event::Dismissed { kind, all: about.is_none(), reason: reason.to_owned() };
        trail::note(&mut tx, member.books(), member.person(), &event, None).await?;
        tx.commit().await
    }

    /// Shows again what was dismissed.
    ///
    /// # Errors
    /// [`StoreError::NotFound`] when nobody dismissed it.
    #[boxed]
    pub async fn forget_dismissed(&self, member: Member, id: i64) -> Result<(), StoreError> {
        let query = sqlx::query!(
            "DELETE FROM dismissed WHERE books_id = $1 AND id = $2",
            member.books().0,
            id
        );
        match query.execute(&self.pool).await?.rows_affected() {
            0 => Err(StoreError::NotFound("remark")),
            _ => Ok(()),
        }
    }

    /// What the lines of each account speak of, as it was written with them; what was dropped since is drawn anew.
    ///
    /// # Errors
    /// When the database fails.
    #[boxed]
    pub async fn sketches(&self, member: Member) -> Result<Sketches, StoreError> {
        let books = member.books();
        let mut connection = self.pool.acquire().await?;
        let missing = sketches::missing(&mut connection, books, None).await?;
        if !missing.is_empty() {
            let mut tx = self.write_alone(member).await?;
            let missing = sketches::missing(&mut tx, books, None).await?;
            sketches::draw(&mut tx, books, &missing).await?;
            tx.commit().await?;
        }
        let of_strands = sketches::read(&mut connection, books, None).await?;
        let presented =
            sqlx::query!("SELECT id, account_id FROM strand WHERE books_id = $1", books.0);
        let presented = presented.fetch_all(&mut *connection).await?;
        let account: HashMap<i64, i64> =
            presented.into_iter().map(|row| (row.id, row.account_id)).collect();
        Ok(of_accounts(of_strands, |strand| account.get(&strand).copied()))
    }

    /// What people have told apart, the latest first.
    ///
    /// # Errors
    /// When the database fails.
    #[boxed]
    pub async fn not_duplicates(
        &self,
        member: Member,
    ) -> Result<Vec<MarkedNotDuplicates>, StoreError> {
        let marked = sqlx::query_as!(
            MarkedNotDuplicates,
            "SELECT t.id, t.accounts, t.reason, p.name AS person, t.at
             FROM told_apart t JOIN person p ON p.id = t.person_id WHERE t.books_id = $1 ORDER BY t.id DESC",
            member.books().0
        );
        Ok(marked.fetch_all(&self.pool).await?)
    }

    /// Remembers that some accounts are not the same thing.
    ///
    /// # Errors
    /// When the database fails.
    #[boxed]
    pub async fn mark_not_duplicates(
        &self,
        member: Member,
        accounts: &[AccountId],
        reason: &str,
    ) -> Result<(), StoreError> {
        let mut tx = self.write().await?;
        sqlx::query!(
            "INSERT INTO told_apart (books_id, accounts, reason, person_id) VALUES ($1, $2, $3, $4)",
            member.books().0,
            &accounts.iter().map(|id| id.0).collect::<Vec<_>>(),
            reason,
            member.person().0
        )
        .execute(&mut tx)
        .await?;
        let event = Event::MarkedNotDuplicates {
            accounts: accounts.len() as u64,
            reason: reason.to_owned(),
        };
        trail::note(&mut tx, member.books(), member.person(), &event, None).await?;
        tx.commit().await
    }

    /// Forgets that accounts were told apart.
    ///
    /// # Errors
    /// [`StoreError::NotFound`] when nobody told them apart.
    #[boxed]
    pub async fn unmark_not_duplicates(&self, member: Member, id: i64) -> Result<(), StoreError> {
        let query = sqlx::query!(
            "DELETE FROM told_apart WHERE books_id = $1 AND id = $2",
            member.books().0,
            id
        );
        match query.execute(&self.pool).await?.rows_affected() {
            0 => Err(StoreError::NotFound("remark")),
            _ => Ok(()),
        }
    }

    /// The accounts that the member follows.
    ///
    /// # Errors
    /// When the database fails.
    #[boxed]
    pub async fn followed(&self, member: Member) -> Result<Vec<i64>, StoreError> {
        let followed = sqlx::query_scalar!(
            "SELECT account_id FROM followed WHERE books_id = $1 AND person_id = $2 ORDER BY account_id",
            member.books().0,
            member.person().0
        );
        Ok(followed.fetch_all(&self.pool).await?)
    }

    /// Follows an account, or no longer.
    ///
    /// # Errors
    /// [`StoreError::NotFound`] when there is no such account.
    #[boxed]
    pub async fn follow(
        &self,
        member: Member,
        account: AccountId,
        follows: bool,
    ) -> Result<(), StoreError> {
        let (books, person) = (member.books().0, member.person());
        if !follows {
            sqlx::query!(
                "DELETE FROM followed WHERE books_id = $1 AND person_id = $2 AND account_id = $3",
                books,
                person.0,
                account.0
            )
            .execute(&self.pool)
            .await?;
            return Ok(());
        }
        let followed = sqlx::query!(
            "INSERT INTO followed (books_id, person_id, account_id)
             SELECT books_id, $2, id FROM account WHERE books_id = $1 AND id = $3
             ON CONFLICT (books_id, person_id, account_id) DO UPDATE SET account_id = EXCLUDED.account_id",
            books,
            person.0,
            account.0
        );
        match followed.execute(&self.pool).await?.rows_affected() {
            0 => Err(StoreError::NotFound("account")),
            _ => Ok(()),
        }
    }
}
