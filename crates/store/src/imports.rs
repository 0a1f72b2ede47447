//! Imports: an uploaded file waits here until a person agrees to what was read from it, and then
//! all of it is stored or nothing.

use crate::books::{hold_for_posting, raise_revision};
use crate::ids::{Counter, take};
use crate::people::Member;
use crate::today::Snapshot;
use crate::{Store, StoreError, chart_rows, pause, posting, trail};
use std::collections::HashSet;
use zf_core::chart::Account;
use zf_core::ids::AccountId;
use zf_core::intake::columns::FileKind;
use zf_core::intake::journal::NewEntry;
use zf_core::intake::usage::NewUse;

/// A file that waits to be stored.
#[derive(Clone, Debug)]
pub struct Upload {
    /// Identity.
    pub id: i64,
    /// What it is to bring in.
    pub kind: FileKind,
    /// Its name.
    pub file_name: String,
    /// Its bytes.
    pub content: Vec<u8>,
}

/// What is to be stored of a file.
#[derive(Debug)]
pub enum Ready<'a> {
    /// Accounts, with identities from [`Store::take_account_ids`].
    Chart(&'a [Account]),
    /// Entries.
    Journal(&'a [NewEntry]),
    /// Uses.
    Usage(&'a [NewUse]),
}

impl Ready<'_> {
    fn rows(&self) -> usize {
        match self {
            Self::Chart(accounts) => accounts.len(),
            Self::Journal(entries) => entries.iter().map(|e| e.lines.len()).sum(),
            Self::Usage(uses) => uses.len(),
        }
    }
}

impl Store {
    /// Keeps a file for a day, until a person agrees to it. Files whose time is up are dropped.
    ///
    /// # Errors
    /// When the database fails.
    pub async fn keep_upload(
        &self,
        member: Member,
        kind: FileKind,
        file_name: &str,
        content: &[u8],
    ) -> Result<i64, StoreError> {
        let id = take(&self.pool, Counter::Import, 1).await?;
        sqlx::query!(
            "DELETE FROM import WHERE stored_at IS NULL AND uploaded_at < now() - interval '1 day'"
        )
        .execute(&self.pool)
        .await?;
        sqlx::query!(
            "INSERT INTO import (books_id, id, kind, file_name, content, person_id) VALUES ($1, $2, $3, $4, $5, $6)",
            member.books().0,
            id,
            kind.key(),
            file_name,
            content,
            member.person()
        )
        .execute(&self.pool)
        .await?;
        Ok(id)
    }

    /// A file that waits.
    ///
    /// # Errors
    /// [`StoreError::NotFound`] when it was stored, dropped, or never there.
    pub async fn upload(&self, member: Member, id: i64) -> Result<Upload, StoreError> {
        let row = sqlx::query!(
            r#"SELECT kind, file_name, content AS "content!" FROM import
               WHERE books_id = $1 AND id = $2 AND stored_at IS NULL AND content IS NOT NULL"#,
            member.books().0,
            id
        )
        .fetch_optional(&self.pool)
        .await?
        .ok_or(StoreError::NotFound("waiting import"))?;
        let kind = FileKind::from_key(&row.kind).ok_or_else(|| StoreError::damaged(&row.kind))?;
        Ok(Upload { id, kind, file_name: row.file_name, content: row.content })
    }

    /// Drops a file that waits.
    ///
    /// # Errors
    /// When the database fails.
    pub async fn drop_upload(&self, member: Member, id: i64) -> Result<(), StoreError> {
        sqlx::query!(
            "DELETE FROM import WHERE books_id = $1 AND id = $2 AND stored_at IS NULL",
            member.books().0,
            id
        )
        .execute(&self.pool)
        .await?;
        Ok(())
    }

    /// Takes identities for accounts and returns the first.
    ///
    /// # Errors
    /// When the database fails.
    pub async fn take_account_ids(&self, count: usize) -> Result<AccountId, StoreError> {
        Ok(AccountId(take(&self.pool, Counter::Account, count).await?))
    }

    /// The numbers of all entries of the books.
    ///
    /// # Errors
    /// When the database fails.
    pub async fn entry_numbers(&self, member: Member) -> Result<HashSet<String>, StoreError> {
        let numbers =
            sqlx::query_scalar!("SELECT number FROM entry WHERE books_id = $1", member.books().0);
        Ok(numbers.fetch_all(&self.pool).await?.into_iter().collect())
    }

    /// Stores what was read of a waiting file, all of it or nothing. `seen` is the snapshot that
    /// it was read against.
    ///
    /// # Errors
    /// [`StoreError::Refused`] when the books changed since, so that the file must be read again.
    pub async fn commit_import(
        &self,
        member: Member,
        import: i64,
        seen: &Snapshot,
        ready: Ready<'_>,
    ) -> Result<(), StoreError> {
        let books = member.books();
        let mut tx = self.pool.begin().await?;
        hold_for_posting(&mut tx, books).await?;
        pause::point().await;
        let rows = i64::try_from(ready.rows()).map_err(StoreError::damaged)?;
        // The row lock keeps the same file from being stored twice at once.
        let stored = sqlx::query!(
            "UPDATE import SET stored_at = now(), stored_rows = $3, content = NULL
             WHERE books_id = $1 AND id = $2 AND stored_at IS NULL RETURNING file_name, kind",
            books.0,
            import,
            rows
        )
        .fetch_optional(&mut *tx)
        .await?
        .ok_or(StoreError::NotFound("waiting import"))?;
        let revision = sqlx::query_scalar!("SELECT revision FROM books WHERE id = $1", books.0)
            .fetch_one(&mut *tx)
            .await?;
        if revision != seen.books.revision {
            let again = "the books changed while the file was looked at; look at it again";
            return Err(StoreError::Refused(again.to_owned()));
        }
        pause::point().await;
        match ready {
            Ready::Chart(accounts) => {
                let accounts: Vec<&Account> = accounts.iter().collect();
                chart_rows::write(&mut tx, books, &accounts, Some(import)).await?;
                pause::point().await;
                chart_rows::begin_code_use(&mut tx, books, &accounts, false).await?;
            }
            Ready::Journal(entries) => {
                posting::post(self, &mut tx, &seen.books, &seen.today.chart, entries, import)
                    .await?;
            }
            Ready::Usage(uses) => {
                sqlx::query!(
                    "INSERT INTO account_use (books_id, account_id, used_by, label, import_id)
                     SELECT $1, u.account, u.used_by, u.label, $2
                     FROM unnest($3::bigint[], $4::text[], $5::text[]) AS u (account, used_by, label)",
                    books.0,
                    import,
                    &uses.iter().map(|u| u.account.0).collect::<Vec<_>>(),
                    &uses.iter().map(|u| u.used_by.clone()).collect::<Vec<_>>(),
                    &uses.iter().map(|u| u.label.clone()).collect::<Vec<_>>(),
                )
                .execute(&mut *tx)
                .await?;
                sqlx::query!("UPDATE books SET usage_given = true WHERE id = $1", books.0)
                    .execute(&mut *tx)
                    .await?;
            }
        }
        pause::point().await;
        raise_revision(&mut tx, books).await?;
        let kind = FileKind::from_key(&stored.kind).map_or("file", FileKind::words);
        let detail = format!("{kind} from {}, {rows} rows", stored.file_name);
        trail::note(&mut tx, books, member.person(), "imported", &detail, None).await?;
        pause::point().await;
        tx.commit().await?;
        Ok(())
    }
}
