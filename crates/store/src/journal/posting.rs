//! Posting: entries, lines and totals, written together. Lines go to the open strand of their
//! account; the first line after a change of what it is posted under, or after a merge, opens a new one.

use crate::StoreError;
use crate::books::Books;
use crate::ids::{Counter, take};
use crate::jobs::{Phase, Progress};
use crate::journal::copying::CopyIn;
use crate::journal::dimensions::Sets;
use crate::journal::totals::{self, StrandShares};
use crate::journal::{sketches, strands};
use crate::writing::Writing;
use indexmap::IndexMap;
use std::collections::BTreeSet;
use time::Date;
use zf_core::activity::{Share, Slot, Strand};
use zf_core::chart::Chart;
use zf_core::entry::{Entries, NewLine};
use zf_core::ids::{AccountId, BooksId, ImportId, StrandId};
use zf_core::review::sketch::{Sketch, Sketching};

/// After how many lines it is told how far things are.
const STEP: i64 = 4_096;

/// What entries are posted with.
pub(crate) struct Posting<'a> {
    pub(crate) books: &'a Books,
    pub(crate) chart: &'a Chart,
    pub(crate) import: ImportId,
    pub(crate) progress: &'a Progress,
}

impl Posting<'_> {
    /// Writes entries, lines, marks and totals. Lines are written as they come, so that they need
    /// not be held in memory.
    pub(crate) async fn post(
        &self,
        tx: &mut Writing,
        entries: &dyn Entries,
    ) -> Result<(), StoreError> {
        let books = self.books.id;
        let mut line_ids = take(tx, Counter::Line, entries.line_count()).await?;
        let strands = open_strands(tx, books, self.chart, &entries.accounts()).await?;
        let written = self.write_entries(tx, entries).await?;
        let mut lines = Lines {
            books: self.books,
            strands,
            entries: written,
            additions: StrandShares::new(),
            cleared: Vec::new(),
            sets: Sets::read(tx, books).await?,
            sketching: Sketching::default(),
            placed: Vec::with_capacity(entries.line_count()),
        };
        let mut rows = CopyIn::begin(tx, LINES).await?;
        for (done, (at, line)) in (1..).zip(entries.lines()) {
            lines.write(&mut rows, line_ids.one()?, at, &line).await?;
            if done % STEP == 0 {
                self.progress.reach(Phase::Store, done);
                self.progress.go_on()?;
            }
        }
        rows.finish().await?;
        let mut marks = CopyIn::begin(tx, "line_cleared (books_id, line_id)").await?;
        for line in &lines.cleared {
            marks.row([&books.0, line]).await?;
        }
        marks.finish().await?;
        sketches::add(tx, books, lines.drawn()).await?;
        lines.sets.write(tx, books).await?;
        totals::add(tx, books, &lines.additions).await?;
        Ok(())
    }

    /// Writes the entries; their identities and dates are returned in their order.
    async fn write_entries(
        &self,
        tx: &mut Writing,
        entries: &dyn Entries,
    ) -> Result<Vec<(i64, Date)>, StoreError> {
        let mut ids = take(tx, Counter::Entry, entries.count()).await?;
        let mut written = Vec::with_capacity(entries.count());
        let table = "entry (books_id, id, number, date, kind, import_id)";
        let mut rows = CopyIn::begin(tx, table).await?;
        for entry in entries.heads() {
            let id = ids.one()?;
            written.push((id, entry.date));
            let (books, kind) = (self.books.id.0, entry.kind.key());
            rows.row([&books, &id, &entry.number, &entry.date, &kind, &self.import.0]).await?;
            self.progress.go_on()?;
        }
        rows.finish().await?;
        Ok(written)
    }
}

const LINES: &str = "line (books_id, id, entry_id, date, strand_id, amount, foreign_amount, currency, \
                     payee, memo, reference, dimensions, dimension_set_id)";

/// What becomes of lines as they are written.
struct Lines<'a> {
    books: &'a Books,
    strands: IndexMap<AccountId, i64>,
    /// The identities and dates of the entries.
    entries: Vec<(i64, Date)>,
    additions: StrandShares,
    /// The lines that are cleared.
    cleared: Vec<i64>,
    /// The sets of dimension values.
    sets: Sets,
    sketching: Sketching,
    /// The lines so far: those of an entry may stand far from each other.
    placed: Vec<Placed>,
}

/// Where a line was written. Every line of a posting is remembered, so it takes few bytes.
struct Placed {
    /// The place of its entry.
    entry: u32,
    /// The place of its strand.
    strand: u32,
    debit: bool,
}

impl Lines<'_> {
    async fn write(
        &mut self,
        rows: &mut CopyIn<'_>,
        id: i64,
        at: usize,
        line: &NewLine,
    ) -> Result<(), StoreError> {
        let no_entry = || StoreError::damaged("a line has no entry");
        let (entry, date) = *self.entries.get(at).ok_or_else(no_entry)?;
        let (place, _, &strand) = self
            .strands
            .get_full(&line.account)
            .ok_or_else(|| StoreError::damaged("an account has no strand to post to"))?;
        let (foreign, currency) = line.foreign.unzip();
        let set = self.sets.of(&line.dimensions);
        rows.row([
            &self.books.id.0,
            &id,
            &entry,
            &date,
            &strand,
            &line.amount,
            &foreign,
            &currency.map(String::from),
            &line.payee,
            &line.memo,
            &line.reference,
            &line.dimensions,
            &set,
        ])
        .await?;
        self.sketching.line(strand, &line.payee, &line.memo, &line.dimensions);
        self.placed.push(Placed {
            entry: u32::try_from(at).map_err(StoreError::damaged)?,
            strand: u32::try_from(place).map_err(StoreError::damaged)?,
            debit: line.amount >= 0,
        });
        if line.cleared {
            self.cleared.push(id);
        }
        let slot = Slot {
            period: self.books.calendar.period_of(date),
            currency: line.foreign.map_or(self.books.currency, |(_, currency)| currency),
        };
        let share = Share::of_line(&line.content(id, entry, date), line.cleared);
        self.additions.entry((strand, slot)).and_modify(|sum| *sum += share).or_insert(share);
        Ok(())
    }
}

impl Lines<'_> {
    /// What the lines that were written speak of, by strand.
    fn drawn(&mut self) -> impl Iterator<Item = (i64, Sketch)> + use<> {
        let mut sketching = std::mem::take(&mut self.sketching);
        let mut placed = std::mem::take(&mut self.placed);
        placed.sort_unstable_by_key(|line| line.entry);
        let mut entry = Vec::new();
        for of_one in placed.chunk_by(|line, next| line.entry == next.entry) {
            entry.clear();
            entry
                .extend(of_one.iter().map(|line| (self.strands[line.strand as usize], line.debit)));
            sketching.entry(&entry);
        }
        sketching.done()
    }
}

/// The open strand of each account; one is opened where there is none.
async fn open_strands(
    tx: &mut Writing,
    books: BooksId,
    chart: &Chart,
    accounts: &BTreeSet<AccountId>,
) -> Result<IndexMap<AccountId, i64>, StoreError> {
    let ids: Vec<i64> = accounts.iter().map(|id| id.0).collect();
    let fresh = take(tx, Counter::Strand, ids.len()).await?;
    let fresh: Vec<i64> = fresh.take(ids.len()).collect();
    // The row lock of the update makes a posting beside this one wait and then see the strand.
    let opened = sqlx::query!(
        r#"UPDATE account a SET open_strand = n.strand FROM unnest($2::bigint[], $3::bigint[]) AS n (account, strand)
           WHERE a.books_id = $1 AND a.id = n.account AND a.open_strand IS NULL
           RETURNING a.id, a.open_strand AS "strand!""#,
        books.0,
        &ids,
        &fresh
    )
    .fetch_all(&mut *tx)
    .await?;
    let strands: Result<Vec<Strand>, _> = opened
        .iter()
        .map(|row| {
            let account = chart.get(AccountId(row.id)).ok_or(StoreError::NotFound("account"))?;
            Ok::<_, StoreError>(Strand::opened(StrandId(row.strand), account))
        })
        .collect();
    strands::write(tx, books, &strands?).await?;
    let open = sqlx::query!(
        r#"SELECT id, open_strand AS "strand!" FROM account
           WHERE books_id = $1 AND id = ANY($2) AND open_strand IS NOT NULL"#,
        books.0,
        &ids
    )
    .fetch_all(tx)
    .await?;
    Ok(open.into_iter().map(|row| (AccountId(row.id), row.strand)).collect())
}
