//! The journal to be read: entries with all their lines, the latest first, a page at a time.

use crate::boxed;
use crate::journal::lines::{LineRow, lines_of_entries};
use crate::member::Member;
use crate::{Store, StoreError};
use std::collections::HashMap;
use time::Date;
use zf_core::ids::{AccountId, ImportId};

/// Which entries.
#[derive(Clone, Debug, Default, PartialEq, Eq)]
pub struct EntryFilter {
    /// Those with lines that one of these accounts presents; any when there is none.
    pub accounts: Vec<AccountId>,
    /// Of those lines the ones that were posted under this code.
    pub posted_code: Option<String>,
    /// Those that came with this import.
    pub import: Option<ImportId>,
    /// The first day.
    pub from: Option<Date>,
    /// The last day.
    pub to: Option<Date>,
    /// What stands in the number, or in the payee, memo or reference of a line; in any case of letters.
    pub text: Option<String>,
    /// What a line amounts to on either side, in minor units of the base currency.
    pub amount: Option<i64>,
}

/// An entry with all its lines.
#[derive(Clone, Debug)]
pub struct EntryRow {
    /// Identity.
    pub id: i64,
    /// Its number.
    pub number: String,
    /// The day it was posted for.
    pub date: Date,
    /// Its kind, as a key.
    pub kind: String,
    /// The import it came with.
    pub import: ImportId,
    /// The file of that.
    pub source: String,
    /// Its lines, as they were posted.
    pub lines: Vec<LineRow>,
}

impl Store {
    /// The entries that a filter takes, the latest first, from the one behind `after`: its day and identity.
    ///
    /// # Errors
    /// When the database fails.
    #[boxed]
    pub async fn entries(
        &self,
        member: Member,
        filter: &EntryFilter,
        after: Option<(Date, i64)>,
        size: i64,
    ) -> Result<Vec<EntryRow>, StoreError> {
        let heads = sqlx::query!(
            "SELECT e.id, e.number, e.date, e.kind, e.import_id, i.file_name
             FROM entry e JOIN import i ON i.books_id = e.books_id AND i.id = e.import_id
             WHERE e.books_id = $1
               AND ($2::date IS NULL OR e.date >= $2) AND ($3::date IS NULL OR e.date <= $3)
               AND (cardinality($4::bigint[]) = 0 OR e.id IN (
                   SELECT l.entry_id FROM strand s JOIN line l ON l.books_id = s.books_id AND l.strand_id = s.id
                   WHERE s.books_id = $1 AND s.account_id = ANY($4)
                     AND ($10::text IS NULL OR s.posted_code = $10)))
               AND ($11::bigint IS NULL OR e.import_id = $11)
               AND ($5::text IS NULL OR position(lower($5) IN lower(e.number)) > 0 OR e.id IN (
                   SELECT l.entry_id FROM line l WHERE l.books_id = $1
                     AND position(lower($5) IN lower(concat_ws(E'\n', l.payee, l.memo, l.reference))) > 0))
               AND ($6::bigint IS NULL OR e.id IN (
                   SELECT l.entry_id FROM line l WHERE l.books_id = $1 AND abs(l.amount) = $6))
               AND ($7::date IS NULL OR (e.date, e.id) < ($7, $8))
             ORDER BY e.date DESC, e.id DESC LIMIT $9",
            member.books().0,
            filter.from,
            filter.to,
            &filter.accounts.iter().map(|account| account.0).collect::<Vec<_>>(),
            filter.text,
            filter.amount,
            after.map(|(day, _)| day),
            after.map_or(0, |(_, id)| id),
            size,
            filter.posted_code,
            filter.import.map(|id| id.0)
        )
        .fetch_all(&self.pool)
        .await?;
        let ids: Vec<i64> = heads.iter().map(|head| head.id).collect();
        let mut lines: HashMap<i64, Vec<LineRow>> = HashMap::new();
        for line in lines_of_entries(&self.pool, member.books(), &ids).await? {
            lines.entry(line.entry_id).or_default().push(line);
        }
        let entry = heads.into_iter().map(|head| EntryRow {
            lines: lines.remove(&head.id).unwrap_or_default(),
            id: head.id,
            number: head.number,
            date: head.date,
            kind: head.kind,
            import: ImportId(head.import_id),
            source: head.file_name,
        });
        Ok(entry.collect())
    }
}
