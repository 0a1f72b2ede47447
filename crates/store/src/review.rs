//! What the review looks at beside the snapshot of the books, and what people have said of it.

use crate::member::Member;
use crate::{Store, StoreError, trail};
use time::OffsetDateTime;
use zf_core::ids::AccountId;
use zf_core::review::Sketches;
use zf_core::text::counted;

/// Accounts that a person has said are not the same thing.
#[derive(Clone, Debug)]
pub struct ToldApart {
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

impl Store {
    /// With whom the lines of each account are, and what they say. What only one line says is left
    /// out: it tells nothing of the account.
    ///
    /// # Errors
    /// When the database fails.
    pub async fn sketches(&self, member: Member) -> Result<Sketches, StoreError> {
        let books = member.books().0;
        let payees = sqlx::query!(
            r#"SELECT s.account_id, l.payee, count(*) AS "lines!"
               FROM line l JOIN strand s ON s.books_id = l.books_id AND s.id = l.strand_id
               WHERE l.books_id = $1 AND l.payee <> '' GROUP BY s.account_id, l.payee"#,
            books
        );
        let memos = sqlx::query!(
            r#"SELECT s.account_id, l.memo, count(*) AS "lines!"
               FROM line l JOIN strand s ON s.books_id = l.books_id AND s.id = l.strand_id
               WHERE l.books_id = $1 AND l.memo <> '' GROUP BY s.account_id, l.memo HAVING count(*) > 1"#,
            books
        );
        let lines = |count: i64| u32::try_from(count).unwrap_or(u32::MAX);
        let mut sketches = Sketches::default();
        for row in payees.fetch_all(&self.pool).await? {
            let sketch = sketches.entry(AccountId(row.account_id)).or_default();
            sketch.see(&row.payee, lines(row.lines));
        }
        for row in memos.fetch_all(&self.pool).await? {
            let sketch = sketches.entry(AccountId(row.account_id)).or_default();
            sketch.read(&row.memo, lines(row.lines));
        }
        Ok(sketches)
    }

    /// What people have told apart, the latest first.
    ///
    /// # Errors
    /// When the database fails.
    pub async fn told_apart(&self, member: Member) -> Result<Vec<ToldApart>, StoreError> {
        let told = sqlx::query_as!(
            ToldApart,
            "SELECT t.id, t.accounts, t.reason, p.name AS person, t.at
             FROM told_apart t JOIN person p ON p.id = t.person_id WHERE t.books_id = $1 ORDER BY t.id DESC",
            member.books().0
        );
        Ok(told.fetch_all(&self.pool).await?)
    }

    /// Remembers that some accounts are not the same thing.
    ///
    /// # Errors
    /// When the database fails.
    pub async fn tell_apart(
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
            member.person()
        )
        .execute(&mut tx)
        .await?;
        let detail = format!("{}: {reason}", counted(accounts.len(), "account"));
        trail::note(&mut tx, member.books(), member.person(), "told apart", &detail, None).await?;
        tx.commit().await
    }

    /// Forgets that accounts were told apart.
    ///
    /// # Errors
    /// [`StoreError::NotFound`] when nobody told them apart.
    pub async fn forget_apart(&self, member: Member, id: i64) -> Result<(), StoreError> {
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
    pub async fn followed(&self, member: Member) -> Result<Vec<i64>, StoreError> {
        let followed = sqlx::query_scalar!(
            "SELECT account_id FROM followed WHERE books_id = $1 AND person_id = $2 ORDER BY account_id",
            member.books().0,
            member.person()
        );
        Ok(followed.fetch_all(&self.pool).await?)
    }

    /// Follows an account, or no longer.
    ///
    /// # Errors
    /// [`StoreError::NotFound`] when there is no such account.
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
                person,
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
            person,
            account.0
        );
        match followed.execute(&self.pool).await?.rows_affected() {
            0 => Err(StoreError::NotFound("account")),
            _ => Ok(()),
        }
    }
}
