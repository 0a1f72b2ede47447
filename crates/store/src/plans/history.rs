//! Moving history: reads the lines of accounts that a plan splits and lets the core deal them out, and
//! puts the lines of carved parts on strands of their own.

use crate::books;
use crate::boxed;
use crate::ids::{Counter, take};
use crate::journal::sketches;
use crate::journal::stored_line::StoredLine;
use crate::journal::totals::{self, StrandShares};
use crate::member::Member;
use crate::writing::Writing;
use crate::{Store, StoreError};
use futures_util::TryStreamExt;
use sqlx::PgConnection;
use std::collections::{BTreeMap, BTreeSet};
use time::Date;
use zf_core::activity::{Shares, Slot};
use zf_core::history::cut::{Cuts, Cutter};
use zf_core::history::{Line, Split};
use zf_core::ids::{AccountId, BooksId, StrandId};
use zf_core::plan::Plan;
use zf_core::rehearsal::effects::Effects;

/// The lines of each carved part, by the strand that they are on and the place of the part.
pub(crate) type Taken = BTreeMap<(StrandId, usize), Vec<i64>>;

/// How an account would be split, with the first lines of each part.
#[derive(Debug, Default)]
pub struct Dealt {
    /// What each part takes.
    pub cuts: Cuts,
    /// The identities of the latest lines of each part; of what no part takes under `None`.
    pub samples: BTreeMap<Option<usize>, Vec<i64>>,
    /// How many lines of the account are with each payee.
    pub payees: BTreeMap<String, u64>,
    /// The dimensions of its lines, as stored.
    pub dimensions: BTreeSet<String>,
}

impl Store {
    /// What the parts of a plan's splits take.
    ///
    /// # Errors
    /// When the database fails.
    #[boxed]
    pub async fn cuts(&self, member: Member, plan: &Plan) -> Result<Cuts, StoreError> {
        let mut connection = self.long().await?;
        allocate(&mut connection, member.books(), plan, |_, _, _| {}).await
    }

    /// How an account would be split, with up to `size` lines of each part, the latest first.
    ///
    /// # Errors
    /// When the database fails.
    #[boxed]
    pub async fn deal(
        &self,
        member: Member,
        account: AccountId,
        split: &Split,
        size: usize,
    ) -> Result<Dealt, StoreError> {
        let mut connection = self.long().await?;
        let mut latest: BTreeMap<Option<usize>, Vec<(Date, i64)>> = BTreeMap::new();
        let Dealt { mut cuts, samples: _, mut payees, mut dimensions } = Dealt::default();
        let books = member.books();
        deal_account(&mut connection, books, account, split, true, &mut cuts, |line, part| {
            *payees.entry(line.payee.clone()).or_default() += 1;
            if !dimensions.contains(&line.dimensions) {
                dimensions.insert(line.dimensions.clone());
            }
            let seen = latest.entry(part).or_default();
            seen.push((line.date, line.id));
            if seen.len() >= 2 * size {
                keep_latest(seen, size);
            }
        })
        .await?;
        let samples = latest.into_iter().map(|(part, mut seen)| {
            keep_latest(&mut seen, size);
            (part, seen.into_iter().map(|(_, id)| id).collect())
        });
        Ok(Dealt { cuts, samples: samples.collect(), payees, dimensions })
    }
}

/// How often a part is asked of a line before others have the thread: a millisecond or two.
const ASKED_AT_ONCE: usize = 20_000;

fn keep_latest(lines: &mut Vec<(Date, i64)>, size: usize) {
    lines.sort_by(|a, b| b.cmp(a));
    lines.truncate(size);
}

/// Deals out the lines of every account of which a plan moves some but not all. `took` is told of
/// each line that a part takes: its strand, the place of the part, and the line.
pub(crate) async fn allocate(
    connection: &mut PgConnection,
    books: BooksId,
    plan: &Plan,
    mut took: impl FnMut(StrandId, usize, i64),
) -> Result<Cuts, StoreError> {
    let mut cuts = Cuts::default();
    for (account, split) in plan.splits().filter(|(_, split)| split.moves_all().is_none()) {
        deal_account(connection, books, account, split, false, &mut cuts, |line, part| {
            if let Some(part) = part {
                took(StrandId(line.strand_id), part, line.id);
            }
        })
        .await?;
    }
    Ok(cuts)
}

/// Goes through the lines of an account; through `all`, or those of the periods in which a part could
/// take one.
async fn deal_account(
    connection: &mut PgConnection,
    books: BooksId,
    account: AccountId,
    split: &Split,
    all: bool,
    cuts: &mut Cuts,
    mut dealt: impl FnMut(&StoredLine, Option<usize>),
) -> Result<(), StoreError> {
    let settings = books::read(connection, books).await?;
    // Whole periods are gone through or not, so that what is left of one is always known.
    let (first, last) = if all { (None, None) } else { split.span(settings.calendar) };
    let numbers = entry_numbers(connection, books, split).await?;
    let mut cutter = Cutter::new(account, split, settings.calendar, settings.currency, cuts);
    let mut rows = sqlx::query_as!(
        StoredLine,
        r#"SELECT l.id, l.entry_id, l.date, l.strand_id, l.amount, l.foreign_amount, l.currency, l.payee,
                  l.memo, l.reference, l.dimensions, c.line_id IS NOT NULL AS "cleared!"
           FROM strand s JOIN line l ON l.books_id = s.books_id AND l.strand_id = s.id
           LEFT JOIN line_cleared c ON c.books_id = l.books_id AND c.line_id = l.id
           WHERE s.books_id = $1 AND s.account_id = $2
             AND ($3::date IS NULL OR l.date >= $3) AND ($4::date IS NULL OR l.date <= $4)"#,
        books.0,
        account.0,
        first,
        last
    )
    .fetch(connection);
    // Whoever else waits for the thread has it in between, and whoever left is not worked for any longer.
    let at_once = (ASKED_AT_ONCE / split.parts.len().max(1)).max(1);
    let mut seen = 0_usize;
    while let Some(line) = rows.try_next().await? {
        seen += 1;
        if seen.is_multiple_of(at_once) {
            tokio::task::yield_now().await;
        }
        let part = cutter.see(&Line {
            content: line.content()?,
            strand: StrandId(line.strand_id),
            entry: numbers.get(&line.entry_id).map(String::as_str).unwrap_or_default(),
            cleared: line.cleared,
        });
        dealt(&line, part);
    }
    cutter.finish();
    Ok(())
}

/// The numbers of the entries that a split names, by identity; no other number is asked for.
async fn entry_numbers(
    connection: &mut PgConnection,
    books: BooksId,
    split: &Split,
) -> Result<BTreeMap<i64, String>, StoreError> {
    let named: Vec<String> =
        split.parts.iter().flat_map(|part| part.which.entries.iter().cloned()).collect();
    if named.is_empty() {
        return Ok(BTreeMap::new());
    }
    let rows = sqlx::query!(
        "SELECT id, number FROM entry WHERE books_id = $1 AND number = ANY($2)",
        books.0,
        &named
    )
    .fetch_all(connection)
    .await?;
    Ok(rows.into_iter().map(|row| (row.id, row.number)).collect())
}

/// Puts the lines of every carved part on a strand of its own, with its totals, and answers how many
/// lines and rows of totals were written. The parts learn which strand they became.
pub(crate) async fn carve(
    tx: &mut Writing,
    books: BooksId,
    effects: &mut Effects,
    taken: &Taken,
) -> Result<Written, StoreError> {
    let mut written = Written::default();
    if effects.carvings.is_empty() {
        return Ok(written);
    }
    let mut ids = take(tx, Counter::Strand, effects.carves().count()).await?;
    for (strand, carving) in &mut effects.carvings {
        for part in &mut carving.parts {
            let carved = StrandId(ids.one()?);
            sqlx::query!(
                "INSERT INTO strand (books_id, id, account_id, posted_code, posted_name, posted_class,
                                     posted_caption, posted_parent, posted_contra, dimension_set_id,
                                     carved_from)
                 SELECT books_id, $3, $4, posted_code, posted_name, posted_class, posted_caption, posted_parent,
                        posted_contra, dimension_set_id, id
                 FROM strand WHERE books_id = $1 AND id = $2",
                books.0,
                strand.0,
                carved.0,
                part.to.0
            )
            .execute(&mut *tx)
            .await?;
            let lines = taken.get(&(*strand, part.part)).map(Vec::as_slice).unwrap_or_default();
            let moved = sqlx::query!(
                "UPDATE line SET strand_id = $3 WHERE books_id = $1 AND strand_id = $2 AND id = ANY($4)",
                books.0,
                strand.0,
                carved.0,
                lines
            )
            .execute(&mut *tx)
            .await?;
            written.lines += i64::try_from(moved.rows_affected()).map_err(StoreError::damaged)?;
            written.totals += totals::add(tx, books, &on(carved, &part.shares)).await?;
            // What then is left must be what was predicted from the lines, or the proof fails.
            let last = |(_, slot): &(i64, Slot)| carving.left.get(slot).map(|share| share.last);
            let gone = on(*strand, &part.shares);
            written.totals += totals::take_off(tx, books, &gone, last).await?;
            part.carved = Some(carved);
        }
    }
    let carved: Vec<i64> = effects.carvings.keys().map(|strand| strand.0).collect();
    sketches::drop(tx, books, &carved).await?;
    Ok(written)
}

fn on(strand: StrandId, shares: &Shares) -> StrandShares {
    shares.iter().map(|(slot, share)| ((strand.0, *slot), *share)).collect()
}

/// How many rows of the journal an application wrote.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq)]
pub(crate) struct Written {
    pub(crate) lines: i64,
    pub(crate) totals: i64,
}

/// Carved parts whose lines, read anew, are not as many or do not add up to what their totals say.
pub(crate) async fn misses(
    tx: &mut PgConnection,
    books: BooksId,
    effects: &Effects,
) -> Result<Vec<String>, StoreError> {
    let touched = effects.carvings.keys().copied();
    let touched: Vec<i64> =
        touched.chain(effects.carves().filter_map(|c| c.carved)).map(|strand| strand.0).collect();
    if touched.is_empty() {
        return Ok(Vec::new());
    }
    let wrong = sqlx::query!(
        r#"SELECT s.id AS "strand!", COALESCE(l.lines, 0) AS "lines!", COALESCE(t.lines, 0) AS "predicted!"
           FROM unnest($2::bigint[]) AS s (id)
           LEFT JOIN (SELECT strand_id, count(*) AS lines, sum(amount) AS net, sum(abs(amount)) AS turnover
                      FROM line WHERE books_id = $1 AND strand_id = ANY($2) GROUP BY strand_id) l
                  ON l.strand_id = s.id
           LEFT JOIN (SELECT strand_id, sum(lines)::bigint AS lines, sum(debit - credit) AS net,
                             sum(debit + credit) AS turnover
                      FROM strand_total WHERE books_id = $1 AND strand_id = ANY($2) GROUP BY strand_id) t
                  ON t.strand_id = s.id
           WHERE (l.lines, l.net, l.turnover) IS DISTINCT FROM (t.lines, t.net, t.turnover)"#,
        books.0,
        &touched
    )
    .fetch_all(tx)
    .await?;
    let words = wrong.iter().map(|row| {
        format!(
            "strand {} has {} lines and its totals say {}, or they add up to something else",
            row.strand, row.lines, row.predicted
        )
    });
    Ok(words.collect())
}
