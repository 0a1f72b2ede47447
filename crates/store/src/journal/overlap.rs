//! Which entries of a file the journal has already. They are looked for here, so that nobody has to hold
//! the numbers of a whole journal.

use crate::boxed;
use crate::journal::lines::{LineRow, lines_of};
use crate::journal::today::Snapshot;
use crate::member::Member;
use crate::{Store, StoreError};
use sqlx::PgConnection;
use std::collections::HashMap;
use time::Date;
use zf_core::chart::Chart;
use zf_core::code::Code;
use zf_core::entry::NewLine;
use zf_core::former::{Finder, Found};
use zf_core::ids::{AccountId, BooksId};
use zf_core::overlap::{Compared, FileEntry, Overlap, PostedEntry, SHOWN, mark_of, mark_of_code};

/// How many entries are compared at a time.
const AT_ONCE: usize = 4_096;

/// The entries of a file, as they are looked for.
pub struct FileSide<'a> {
    /// All of them, in their order.
    pub entries: Vec<FileEntry<'a>>,
    /// What its lines are compared by.
    pub compared: Compared,
    /// Its first and its last day.
    pub days: Option<(Date, Date)>,
}

impl Store {
    /// Compares the entries of a file with those of the journal that have the same numbers. An entry is
    /// the same when its lines are, on the accounts that hold them today or on those that the codes stand
    /// for under which they were posted: a plan may have moved them since.
    ///
    /// # Errors
    /// When the database fails.
    #[boxed]
    pub async fn overlap(
        &self,
        member: Member,
        seen: &Snapshot,
        file: &FileSide<'_>,
    ) -> Result<Overlap, StoreError> {
        let mut overlap = Overlap::default();
        // The first journal of books has nothing to be compared with.
        if seen.today.activity.strands().next().is_none() {
            return Ok(overlap);
        }
        let mut tx = self.at_one_instant().await?;
        let books = member.books();
        let marks = Marks::of(seen);
        for (piece, entries) in file.entries.chunks(AT_ONCE).enumerate() {
            let places: HashMap<&str, usize> = entries
                .iter()
                .enumerate()
                .map(|(at, entry)| (entry.number, piece * AT_ONCE + at))
                .collect();
            let numbers: Vec<String> =
                entries.iter().map(|entry| entry.number.to_owned()).collect();
            for entry in posted(lines_of(&mut tx, books, &numbers).await?) {
                let Some(at) = places.get(entry.number.as_str()) else { continue };
                let Some(mark) = file.entries[*at].mark else { continue };
                let lines: Vec<_> = entry.lines(file.compared).collect();
                let sum = |code: &dyn Fn(&(NewLine, String)) -> i64| {
                    let marks = lines.iter().map(|line| mark_of(&line.0, code(line), entry.date));
                    marks.fold(0, u64::wrapping_add)
                };
                let today = |(line, _): &(NewLine, String)| marks.of_account(line.account);
                let then = |(line, code): &(NewLine, String)| marks.of_code(code, line.account);
                if [sum(&today), sum(&then)].contains(&mark) {
                    overlap.same.insert(*at);
                } else {
                    let shown = overlap.changed.len() < SHOWN;
                    overlap.changed.insert(*at, shown.then(|| entry.shown(file.compared)));
                }
            }
        }
        if let (false, Some(days)) = (overlap.is_empty(), file.days) {
            let numbers: Vec<String> =
                file.entries.iter().map(|entry| entry.number.to_owned()).collect();
            let gone = vanished(&mut tx, books, &numbers, days).await?;
            overlap.vanished_count = gone.len();
            let shown = posted(lines_of(&mut tx, books, &gone[..gone.len().min(SHOWN)]).await?);
            overlap.vanished = shown.iter().map(|entry| entry.shown(file.compared)).collect();
        }
        Ok(overlap)
    }

    /// Whether the journal has an entry of a number.
    ///
    /// # Errors
    /// When the database fails.
    #[boxed]
    pub async fn has_entry(&self, member: Member, number: &str) -> Result<bool, StoreError> {
        let found = sqlx::query_scalar!(
            r#"SELECT EXISTS (SELECT 1 FROM entry WHERE books_id = $1 AND number = $2) AS "is!""#,
            member.books().0,
            number
        );
        Ok(found.fetch_one(&self.pool).await?)
    }
}

/// The numbers of entries that came with the same files as some of these, on days of theirs, and are none
/// of them.
async fn vanished(
    connection: &mut PgConnection,
    books: BooksId,
    numbers: &[String],
    (first, last): (Date, Date),
) -> Result<Vec<String>, StoreError> {
    let gone = sqlx::query_scalar!(
        "SELECT e.number FROM entry e
         WHERE e.books_id = $1 AND e.date BETWEEN $3 AND $4
           AND e.import_id IN (SELECT k.import_id FROM entry k WHERE k.books_id = $1 AND k.number = ANY($2))
           AND NOT EXISTS (SELECT 1 FROM unnest($2::text[]) AS f (number) WHERE f.number = e.number)
         ORDER BY e.date, e.id",
        books.0,
        numbers,
        first,
        last
    );
    Ok(gone.fetch_all(connection).await?)
}

/// An entry with its rows.
struct Posted {
    number: String,
    date: Date,
    rows: Vec<LineRow>,
}

impl Posted {
    /// Its lines with the code that each was posted under, as far as a file can say the same.
    fn lines(&self, compared: Compared) -> impl Iterator<Item = (NewLine, String)> {
        self.rows.iter().map(move |row| {
            let line = NewLine {
                account: AccountId(row.account),
                amount: row.amount,
                foreign: row.foreign().map(|(currency, amount)| (amount, currency)),
                payee: row.payee.clone(),
                memo: row.memo.clone(),
                reference: row.reference.clone(),
                dimensions: row.dimensions.clone(),
                cleared: row.cleared,
            };
            (compared.only(line), row.posted_code.clone())
        })
    }

    fn shown(&self, compared: Compared) -> PostedEntry {
        let lines = self.lines(compared).map(|(line, _)| line).collect();
        PostedEntry { number: self.number.clone(), date: self.date, lines }
    }
}

/// Puts rows together that follow each other and are of one entry.
fn posted(rows: Vec<LineRow>) -> Vec<Posted> {
    let mut entries: Vec<Posted> = Vec::new();
    for row in rows {
        match entries.last_mut().filter(|entry| entry.number == row.entry) {
            Some(entry) => entry.rows.push(row),
            None => {
                let (number, date) = (row.entry.clone(), row.date);
                entries.push(Posted { number, date, rows: vec![row] });
            }
        }
    }
    entries
}

/// What tells accounts from each other, as the lines of a file are marked.
struct Marks<'a> {
    chart: &'a Chart,
    finder: Finder<'a>,
}

impl<'a> Marks<'a> {
    fn of(seen: &'a Snapshot) -> Self {
        let chart = &seen.today.chart;
        Self { chart, finder: Finder::of(chart, &seen.today.former) }
    }

    fn of_account(&self, id: AccountId) -> i64 {
        self.chart.get(id).map_or(0, |account| mark_of_code(account.code.as_str()))
    }

    /// That of the account which a code stands for that was posted under; of the one that has the line,
    /// if that is not certain.
    fn of_code(&self, code: &str, holder: AccountId) -> i64 {
        let key = Code::parse(code).map(|code| code.key());
        match key.map(|key| self.finder.by_code(&key)) {
            Ok(Found::Current(account) | Found::Former(account)) => self.of_account(account.id),
            _ => self.of_account(holder),
        }
    }
}
