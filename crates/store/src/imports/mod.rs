//! Imports: what was read of a waiting file is stored, all of it or nothing; and the files that were
//! stored.

pub mod rollback;
pub mod uploads;

use crate::books::raise_revision;
use crate::boxed;
use crate::chart::{rows, structure, usage};
use crate::ids::{Counter, take, take_one};
use crate::imports::uploads::{forget_content, remember_form};
use crate::jobs::Progress;
use crate::journal::posting::Posting;
use crate::journal::today::Snapshot;
use crate::member::Member;
use crate::plans::{self, DraftPlan, Edited};
use crate::{Store, StoreError, trail};
use std::collections::BTreeSet;
use time::OffsetDateTime;
use zf_core::chart::{Account, Chart, Structure};
use zf_core::entry::Entries;
use zf_core::file_kind::FileKind;
use zf_core::ids::{AccountId, ImportId, PlanId};
use zf_core::names::ArchivedName;
use zf_core::plan::edit::Edit;
use zf_core::trail::Event;
use zf_core::usage::Use;

/// So many rows change what the tables are like.
const MANY: i64 = 1_000;

/// A file that accounts came from.
#[derive(Clone, Debug)]
pub struct Origin {
    /// Identity.
    pub id: ImportId,
    /// Its name.
    pub file_name: String,
    /// When it was stored, or staged in a plan.
    pub stored_at: OffsetDateTime,
}

/// What is to be stored of a file.
#[derive(Clone, Copy)]
pub enum Ready<'a> {
    /// A chart.
    Chart {
        /// Accounts, with identities from [`Store::take_account_ids`].
        accounts: &'a [Account],
        /// The statement items, those too that the file adds. They get their identities here.
        structure: &'a Structure,
    },
    /// Entries.
    Journal {
        /// The entries.
        entries: &'a dyn Entries,
        /// Accounts that come with them, with identities from [`Store::take_account_ids`].
        added: &'a [Account],
        /// Accounts that take lines again, as they are from now on.
        reopened: &'a [Account],
        /// Tells these lines from those of other files.
        digest: Option<u128>,
    },
    /// Uses.
    Usage(&'a [Use]),
}

impl Ready<'_> {
    fn rows(&self) -> usize {
        match self {
            Self::Chart { accounts, .. } => accounts.len(),
            Self::Journal { entries, .. } => entries.line_count(),
            Self::Usage(uses) => uses.len(),
        }
    }
}

/// A file that is staged.
pub struct StagedFile<'a> {
    /// Identity.
    pub import: ImportId,
    /// How many rows are staged.
    pub rows: usize,
    /// Its kind and headings, and how the next of the same form is to be read.
    pub form: Option<(FileKind, &'a [String], &'a serde_json::Value)>,
}

impl Store {
    /// Stages edits in a draft that come from a waiting file, and notes that the file was staged, all
    /// of it or nothing. What the file holds is dropped; the file itself is what accounts say they
    /// came from.
    ///
    /// # Errors
    /// [`StoreError::NotFound`] when the file does not wait any more or there is no such plan,
    /// [`StoreError::Ended`] when the plan is no draft any more.
    #[boxed]
    pub async fn stage_file(
        &self,
        member: Member,
        plan: PlanId,
        chart: &Chart,
        edits: &[Edit],
        file: &StagedFile<'_>,
    ) -> Result<Edited, StoreError> {
        let mut tx = self.write_staging(member, plan).await?;
        let DraftPlan { name: plan_name, .. } = plans::draft(&mut tx, member.books(), plan).await?;
        let edited = plans::stage(&mut tx, member, plan, chart, edits).await?;
        if matches!(edited, Edited::Conflicts(_)) {
            return Ok(edited);
        }
        let file_name = sqlx::query_scalar!(
            "UPDATE import SET stored_at = now(), stored_rows = $3
             WHERE books_id = $1 AND id = $2 AND stored_at IS NULL RETURNING file_name",
            member.books().0,
            file.import.0,
            i64::try_from(file.rows).map_err(StoreError::damaged)?
        )
        .fetch_optional(&mut tx)
        .await?
        .ok_or(StoreError::NotFound("waiting import"))?;
        forget_content(&mut tx, member.books(), file.import).await?;
        if let Some((kind, headings, choices)) = file.form {
            remember_form(&mut tx, member, kind, headings, choices).await?;
        }
        let event = Event::Staged { file: file_name, rows: file.rows as u64, plan: plan_name };
        trail::note(&mut tx, member.books(), member.person(), &event, None).await?;
        tx.commit().await?;
        Ok(edited)
    }

    /// The files that accounts came from, the latest first.
    ///
    /// # Errors
    /// When the database fails.
    #[boxed]
    pub async fn origins(&self, member: Member) -> Result<Vec<Origin>, StoreError> {
        let origins = sqlx::query_as!(
            Origin,
            r#"SELECT i.id, i.file_name, i.stored_at AS "stored_at!" FROM import i
               WHERE i.books_id = $1 AND i.stored_at IS NOT NULL AND EXISTS (
                   SELECT 1 FROM account a WHERE a.books_id = i.books_id AND a.import_id = i.id)
               ORDER BY i.id DESC"#,
            member.books().0
        );
        Ok(origins.fetch_all(&self.pool).await?)
    }

    /// The latest file with the same lines, and when it was stored.
    ///
    /// # Errors
    /// When the database fails.
    #[boxed]
    pub async fn stored_before(
        &self,
        member: Member,
        digest: u128,
    ) -> Result<Option<(String, OffsetDateTime)>, StoreError> {
        let before = sqlx::query!(
            r#"SELECT file_name, stored_at AS "stored_at!" FROM import
               WHERE books_id = $1 AND digest = $2::text::numeric AND stored_at IS NOT NULL
               ORDER BY id DESC LIMIT 1"#,
            member.books().0,
            digest.to_string()
        );
        let before = before.fetch_optional(&self.pool).await?;
        Ok(before.map(|row| (row.file_name, row.stored_at)))
    }

    /// Everything that names accounts outside the journal.
    ///
    /// # Errors
    /// When the database fails.
    #[boxed]
    pub async fn uses(&self, member: Member) -> Result<Vec<Use>, StoreError> {
        let mut connection = self.pool.acquire().await?;
        let uses = usage::read(&mut connection, member.books()).await?;
        Ok(uses.into_iter().map(|(_, one)| one).collect())
    }

    /// Takes identities for accounts, in rising order.
    ///
    /// # Errors
    /// When the database fails.
    #[boxed]
    pub async fn take_account_ids(&self, count: usize) -> Result<Vec<AccountId>, StoreError> {
        let mut connection = self.pool.acquire().await?;
        let ids = take(&mut connection, Counter::Account, count).await?;
        Ok(ids.take(count).map(AccountId).collect())
    }

    /// Takes one identity for an account.
    ///
    /// # Errors
    /// When the database fails.
    #[boxed]
    pub async fn take_account_id(&self) -> Result<AccountId, StoreError> {
        let mut connection = self.pool.acquire().await?;
        Ok(AccountId(take_one(&mut connection, Counter::Account).await?))
    }

    /// Stores what was read of a waiting file, all of it or nothing. `seen` is the snapshot that
    /// it was read against.
    ///
    /// # Errors
    /// [`StoreError::Refused`] when the books changed since, so that the file must be read again;
    /// [`StoreError::Stopped`] when somebody stopped it.
    #[boxed]
    pub async fn commit_import(
        &self,
        member: Member,
        import: ImportId,
        seen: &Snapshot,
        ready: &Ready<'_>,
        progress: &Progress,
    ) -> Result<(), StoreError> {
        match self.commit(member, import, seen, *ready, progress).await {
            Err(error @ StoreError::Taken(_)) => {
                Err(self.stored_meanwhile(member, import).await?.unwrap_or(error))
            }
            done => done,
        }
    }

    /// What PostgreSQL knows of the tables is of before a large write, and queries would be planned
    /// for that.
    pub(crate) async fn analyze(&self) -> Result<(), StoreError> {
        let tables =
            sqlx::query!("ANALYZE account, entry, line, line_cleared, strand, strand_total");
        tables.execute(&self.pool).await?;
        Ok(())
    }

    /// Which file was stored last while this one waited, and by whom.
    async fn stored_meanwhile(
        &self,
        member: Member,
        import: ImportId,
    ) -> Result<Option<StoreError>, StoreError> {
        let last = sqlx::query!(
            "SELECT i.file_name, p.name FROM import i JOIN person p ON p.id = i.person_id
             JOIN import this ON this.books_id = i.books_id AND this.id = $2
             WHERE i.books_id = $1 AND i.id <> $2 AND i.stored_at > this.uploaded_at
             ORDER BY i.stored_at DESC LIMIT 1",
            member.books().0,
            import.0
        );
        let last = last.fetch_optional(&self.pool).await?;
        Ok(last
            .map(|row| StoreError::StoredMeanwhile { file_name: row.file_name, person: row.name }))
    }

    async fn commit(
        &self,
        member: Member,
        import: ImportId,
        seen: &Snapshot,
        ready: Ready<'_>,
        progress: &Progress,
    ) -> Result<(), StoreError> {
        let books = member.books();
        // Two charts are never stored side by side: one would not know of the other's codes.
        let mut tx = match ready {
            Ready::Chart { .. } => self.write_alone(member).await?,
            Ready::Journal { .. } | Ready::Usage(_) => self.write_posting(member).await?,
        };
        let rows = i64::try_from(ready.rows()).map_err(StoreError::damaged)?;
        // The row lock keeps the same file from being stored twice at once.
        let stored = sqlx::query!(
            "UPDATE import SET stored_at = now(), stored_rows = $3
             WHERE books_id = $1 AND id = $2 AND stored_at IS NULL RETURNING file_name, kind",
            books.0,
            import.0,
            rows
        )
        .fetch_optional(&mut tx)
        .await?
        .ok_or(StoreError::NotFound("waiting import"))?;
        let revision = sqlx::query_scalar!("SELECT revision FROM books WHERE id = $1", books.0)
            .fetch_one(&mut tx)
            .await?;
        if revision != seen.books.revision {
            let again = "the books changed while the file was looked at; look at it again";
            return Err(StoreError::Taken(again));
        }
        forget_content(&mut tx, books, import).await?;
        match ready {
            Ready::Chart { accounts, structure: wanted } => {
                let known = seen.today.chart.structure();
                let lines = structure::keep(&mut tx, books, known, wanted).await?;
                let accounts: Vec<Account> =
                    accounts.iter().map(|account| account.clone().under_items(&lines)).collect();
                let accounts: Vec<&Account> = accounts.iter().collect();
                rows::write(&mut tx, books, &accounts, &BTreeSet::new()).await?;
                rows::begin_code_use(&mut tx, books, &accounts, false).await?;
            }
            Ready::Journal { entries, added, reopened, digest } => {
                let mut chart = seen.today.chart.clone();
                if !added.is_empty() {
                    let added: Vec<&Account> = added.iter().collect();
                    rows::write(&mut tx, books, &added, &BTreeSet::new()).await?;
                    rows::begin_code_use(&mut tx, books, &added, false).await?;
                    added.iter().for_each(|account| chart.put((*account).clone()));
                }
                if !reopened.is_empty() {
                    let rows: Vec<&Account> = reopened.iter().collect();
                    rows::write(&mut tx, books, &rows, &BTreeSet::new()).await?;
                    reopened.iter().for_each(|account| chart.put(account.clone()));
                }
                let posting = Posting { books: &seen.books, chart: &chart, import, progress };
                posting.post(&mut tx, entries).await?;
                sqlx::query!(
                    "UPDATE import SET digest = $3::text::numeric WHERE books_id = $1 AND id = $2",
                    books.0,
                    import.0,
                    digest.map(|digest| digest.to_string())
                )
                .execute(&mut tx)
                .await?;
            }
            Ready::Usage(uses) => {
                usage::add(&mut tx, books, import, uses).await?;
                sqlx::query!("UPDATE books SET usage_given = true WHERE id = $1", books.0)
                    .execute(&mut tx)
                    .await?;
            }
        }
        raise_revision(&mut tx, books).await?;
        let reactivated = match ready {
            Ready::Journal { reopened, .. } => reopened,
            _ => &[],
        };
        let event = Event::Imported {
            kind: FileKind::from_key(&stored.kind),
            file: stored.file_name,
            rows,
            reactivated: reactivated.iter().map(|row| ArchivedName::of(row.called())).collect(),
        };
        trail::note(&mut tx, books, member.person(), &event, None).await?;
        progress.go_on()?;
        tx.commit().await?;
        if rows >= MANY {
            self.analyze().await?;
        }
        Ok(())
    }
}
