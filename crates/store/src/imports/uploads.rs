//! Files that wait: an upload is kept in pieces, with how it is to be read, until a person agrees to
//! what was read from it.

use crate::boxed;
use crate::ids::{Counter, take_one};
use crate::member::Member;
use crate::writing::Writing;
use crate::{Store, StoreError};
use futures_util::TryStreamExt;
use zf_core::file_kind::FileKind;
use zf_core::ids::{BooksId, ImportId};

/// How many files of one person may wait in one set of books, and how many bytes of them. A file
/// waits for a day at the most, so nobody who works comes near it.
const MAX_WAITING: i64 = 100;
const MAX_WAITING_BYTES: i64 = 2 << 30;

/// How many forms of files are looked through for one that was met before.
const MAX_FORMS: i64 = 200;

/// A file that waits to be stored.
#[derive(Clone, Debug)]
pub struct Upload {
    /// Identity.
    pub id: ImportId,
    /// What it is to bring in.
    pub kind: FileKind,
    /// Its name.
    pub file_name: String,
    /// What a person chose of how it is read.
    pub choices: serde_json::Value,
    /// How many bytes it has.
    pub size: usize,
}

/// How a file was read that had these headings.
#[derive(Clone, Debug)]
pub struct FileForm {
    /// The headings, from left to right.
    pub headings: Vec<String>,
    /// What a person chose then.
    pub choices: serde_json::Value,
}

impl Upload {
    /// Whether nothing was chosen yet of how it is read.
    pub fn is_new(&self) -> bool {
        self.choices.as_object().is_none_or(serde_json::Map::is_empty)
    }
}

impl Store {
    /// Begins to keep a file for a day, until a person agrees to it. Files whose time is up are
    /// dropped.
    ///
    /// # Errors
    /// [`StoreError::Refused`] when too much of this person waits in these books.
    #[boxed]
    pub async fn begin_upload(
        &self,
        member: Member,
        kind: FileKind,
        file_name: &str,
    ) -> Result<ImportId, StoreError> {
        let mut connection = self.pool.acquire().await?;
        let id = take_one(&mut connection, Counter::Import).await?;
        sqlx::query!(
            "DELETE FROM import WHERE stored_at IS NULL AND uploaded_at < now() - interval '1 day'"
        )
        .execute(&mut *connection)
        .await?;
        let waiting = sqlx::query!(
            r#"SELECT count(DISTINCT i.id) AS "files!", COALESCE(sum(octet_length(p.content)), 0)::bigint AS "bytes!"
               FROM import i LEFT JOIN import_piece p ON p.books_id = i.books_id AND p.import_id = i.id
               WHERE i.books_id = $1 AND i.person_id = $2 AND i.stored_at IS NULL"#,
            member.books().0,
            member.person().0
        )
        .fetch_one(&mut *connection)
        .await?;
        if waiting.files >= MAX_WAITING || waiting.bytes >= MAX_WAITING_BYTES {
            return Err(StoreError::refused(format!(
                "{} files of yours wait in these books already; store or drop some first, or wait: each is \
                 dropped after a day",
                waiting.files
            )));
        }
        sqlx::query!(
            "INSERT INTO import (books_id, id, kind, file_name, person_id) VALUES ($1, $2, $3, $4, $5)",
            member.books().0,
            id,
            kind.key(),
            file_name,
            member.person().0
        )
        .execute(&mut *connection)
        .await?;
        Ok(ImportId(id))
    }

    /// Adds to a file what comes next of it.
    ///
    /// # Errors
    /// When the file was dropped or the database fails.
    #[boxed]
    pub async fn add_piece(
        &self,
        member: Member,
        id: ImportId,
        number: i32,
        content: &[u8],
    ) -> Result<(), StoreError> {
        sqlx::query!(
            "INSERT INTO import_piece (books_id, import_id, number, content) VALUES ($1, $2, $3, $4)",
            member.books().0,
            id.0,
            number,
            content
        )
        .execute(&self.pool)
        .await?;
        Ok(())
    }

    /// Keeps a small file at once.
    ///
    /// # Errors
    /// When the database fails.
    #[boxed]
    pub async fn keep_upload(
        &self,
        member: Member,
        kind: FileKind,
        file_name: &str,
        content: &[u8],
    ) -> Result<ImportId, StoreError> {
        let id = self.begin_upload(member, kind, file_name).await?;
        self.add_piece(member, id, 0, content).await?;
        Ok(id)
    }

    /// A file that waits.
    ///
    /// # Errors
    /// [`StoreError::NotFound`] when it was stored, dropped, or never there.
    #[boxed]
    pub async fn upload(&self, member: Member, id: ImportId) -> Result<Upload, StoreError> {
        let row = sqlx::query!(
            r#"SELECT kind, file_name, choices,
                      (SELECT COALESCE(sum(octet_length(content)), 0)::bigint FROM import_piece p
                       WHERE p.books_id = i.books_id AND p.import_id = i.id) AS "size!"
               FROM import i WHERE books_id = $1 AND id = $2 AND stored_at IS NULL"#,
            member.books().0,
            id.0
        )
        .fetch_optional(&self.pool)
        .await?
        .ok_or(StoreError::NotFound("waiting import"))?;
        let kind = FileKind::from_key(&row.kind).ok_or_else(|| StoreError::damaged(&row.kind))?;
        let size = usize::try_from(row.size).map_err(StoreError::damaged)?;
        Ok(Upload { id, kind, file_name: row.file_name, choices: row.choices, size })
    }

    /// The bytes of a file that waits.
    ///
    /// # Errors
    /// When the database fails.
    #[boxed]
    pub async fn content(&self, member: Member, id: ImportId) -> Result<Vec<u8>, StoreError> {
        let size = sqlx::query_scalar!(
            r#"SELECT COALESCE(sum(octet_length(content)), 0)::bigint AS "size!" FROM import_piece
               WHERE books_id = $1 AND import_id = $2"#,
            member.books().0,
            id.0
        )
        .fetch_one(&self.pool)
        .await?;
        let mut content = Vec::with_capacity(usize::try_from(size).map_err(StoreError::damaged)?);
        let mut pieces = sqlx::query_scalar!(
            "SELECT content FROM import_piece WHERE books_id = $1 AND import_id = $2 ORDER BY number",
            member.books().0,
            id.0
        )
        .fetch(&self.pool);
        while let Some(piece) = pieces.try_next().await? {
            content.extend_from_slice(&piece);
        }
        Ok(content)
    }

    /// Drops what a file holds that cannot be read.
    ///
    /// # Errors
    /// When the database fails.
    #[boxed]
    pub async fn drop_content(&self, member: Member, id: ImportId) -> Result<(), StoreError> {
        let mut tx = self.write().await?;
        forget_content(&mut tx, member.books(), id).await?;
        tx.commit().await
    }

    /// Keeps with a waiting file how it is to be read.
    ///
    /// # Errors
    /// When the database fails.
    #[boxed]
    pub async fn choose(
        &self,
        member: Member,
        id: ImportId,
        choices: &serde_json::Value,
    ) -> Result<(), StoreError> {
        sqlx::query!(
            "UPDATE import SET choices = $3 WHERE books_id = $1 AND id = $2 AND stored_at IS NULL",
            member.books().0,
            id.0,
            choices
        )
        .execute(&self.pool)
        .await?;
        Ok(())
    }

    /// How earlier files of a kind were read, the latest first.
    ///
    /// # Errors
    /// When the database fails.
    #[boxed]
    pub async fn file_forms(
        &self,
        member: Member,
        kind: FileKind,
    ) -> Result<Vec<FileForm>, StoreError> {
        let forms = sqlx::query_as!(
            FileForm,
            "SELECT headings, choices FROM file_form WHERE books_id = $1 AND kind = $2
             ORDER BY met_at DESC LIMIT $3",
            member.books().0,
            kind.key(),
            MAX_FORMS
        );
        Ok(forms.fetch_all(&self.pool).await?)
    }

    /// Remembers how a file with these headings was read.
    ///
    /// # Errors
    /// When the database fails.
    #[boxed]
    pub async fn remember_form(
        &self,
        member: Member,
        kind: FileKind,
        headings: &[String],
        choices: &serde_json::Value,
    ) -> Result<(), StoreError> {
        let mut tx = self.write().await?;
        remember_form(&mut tx, member, kind, headings, choices).await?;
        tx.commit().await
    }

    /// Drops a file that waits, with whatever is being done with it.
    ///
    /// # Errors
    /// When the database fails.
    #[boxed]
    pub async fn drop_upload(&self, member: Member, id: ImportId) -> Result<(), StoreError> {
        // Whoever stores it right now gives up, and with that the row that is deleted here.
        self.cancel_job(member, id).await?;
        sqlx::query!(
            "DELETE FROM import WHERE books_id = $1 AND id = $2 AND stored_at IS NULL",
            member.books().0,
            id.0
        )
        .execute(&self.pool)
        .await?;
        Ok(())
    }
}

/// Drops what a file holds.
pub(crate) async fn forget_content(
    tx: &mut Writing,
    books: BooksId,
    import: ImportId,
) -> Result<(), StoreError> {
    sqlx::query!(
        "DELETE FROM import_piece WHERE books_id = $1 AND import_id = $2",
        books.0,
        import.0
    )
    .execute(tx)
    .await?;
    Ok(())
}

/// Remembers how a file with these headings was read.
pub(crate) async fn remember_form(
    tx: &mut Writing,
    member: Member,
    kind: FileKind,
    headings: &[String],
    choices: &serde_json::Value,
) -> Result<(), StoreError> {
    sqlx::query!(
        "INSERT INTO file_form (books_id, kind, headings, choices) VALUES ($1, $2, $3, $4)
         ON CONFLICT (books_id, kind, headings)
         DO UPDATE SET choices = EXCLUDED.choices, met_at = now()",
        member.books().0,
        kind.key(),
        headings,
        choices
    )
    .execute(tx)
    .await?;
    Ok(())
}
