//! Posting: entries, lines and totals, written together. Lines go to the open strand of their
//! account; the first line after a change of code or name, or after a merge, opens a new one.

use crate::books::Books;
use crate::ids::{Counter, take};
use crate::{Store, StoreError, pause};
use sqlx::{PgConnection, PgPool};
use std::collections::{BTreeMap, BTreeSet, HashMap};
use time::Date;
use zf_core::activity::{LineContent, Slot, Totals};
use zf_core::chart::Chart;
use zf_core::ids::{AccountId, BooksId};
use zf_core::intake::journal::NewEntry;

/// How much is handed to PostgreSQL in one piece.
const PIECE: usize = 1 << 20;

/// Totals to be added to a strand, with the latest date and the cleared lines.
struct Addition {
    totals: Totals,
    last: Date,
    cleared: i64,
}

pub(crate) async fn post(
    store: &Store,
    connection: &mut PgConnection,
    books: &Books,
    chart: &Chart,
    entries: &[NewEntry],
    import: i64,
) -> Result<(), StoreError> {
    let line_count = entries.iter().map(|e| e.lines.len()).sum();
    let first_entry = take(&store.pool, Counter::Entry, entries.len()).await?;
    let first_line = take(&store.pool, Counter::Line, line_count).await?;
    let accounts: BTreeSet<AccountId> =
        entries.iter().flat_map(|e| &e.lines).map(|line| line.account).collect();
    let strands = open_strands(&store.pool, connection, books.id, chart, &accounts).await?;
    pause::point().await;

    let mut entry_rows = Copy::new();
    let mut line_rows = Copy::new();
    let mut cleared_rows = Copy::new();
    let mut additions: BTreeMap<(i64, Slot), Addition> = BTreeMap::new();
    let id = books.id.0.to_string();
    let mut line_id = first_line;
    for (entry_id, entry) in (first_entry..).zip(entries) {
        let date = entry.date.to_string();
        let entry_text = entry_id.to_string();
        entry_rows.row([
            &id,
            &entry_text,
            &entry.number,
            &date,
            entry.kind.key(),
            &import.to_string(),
        ])?;
        for line in &entry.lines {
            let strand = *strands
                .get(&line.account)
                .ok_or_else(|| StoreError::damaged("an account has no strand to post to"))?;
            let foreign = line.foreign.map(|(amount, _)| amount.to_string()).unwrap_or_default();
            let currency =
                line.foreign.map(|(_, currency)| currency.to_string()).unwrap_or_default();
            line_rows.row([
                &id,
                &line_id.to_string(),
                &entry_text,
                &date,
                &strand.to_string(),
                &line.amount.to_string(),
                &foreign,
                &currency,
                &line.payee,
                &line.memo,
                &line.reference,
                &line.dimensions,
            ])?;
            if line.cleared {
                cleared_rows.row([&id, &line_id.to_string()])?;
            }
            let slot = Slot {
                period: books.calendar.period_of(entry.date),
                currency: line.foreign.map_or(books.currency, |(_, currency)| currency),
            };
            let addition = additions.entry((strand, slot)).or_insert(Addition {
                totals: Totals::default(),
                last: entry.date,
                cleared: 0,
            });
            addition.totals += Totals::of_line(&LineContent {
                id: line_id,
                entry: entry_id,
                date: entry.date,
                amount: line.amount,
                foreign: line.foreign,
                payee: &line.payee,
                memo: &line.memo,
                reference: &line.reference,
                dimensions: &line.dimensions,
            });
            addition.last = addition.last.max(entry.date);
            addition.cleared += i64::from(line.cleared);
            line_id += 1;
        }
    }
    let copies = [
        ("entry (books_id, id, number, date, kind, import_id)", "", entry_rows),
        (
            "line (books_id, id, entry_id, date, strand_id, amount, foreign_amount, currency, payee, memo, reference, dimensions)",
            ", FORCE_NULL (foreign_amount, currency)",
            line_rows,
        ),
        ("line_cleared (books_id, line_id)", "", cleared_rows),
    ];
    for (table, options, rows) in copies {
        rows.send(connection, table, options).await?;
        pause::point().await;
    }
    add_totals(connection, books.id, &additions).await
}

/// The open strand of each account; one is opened where there is none.
async fn open_strands(
    pool: &PgPool,
    connection: &mut PgConnection,
    books: BooksId,
    chart: &Chart,
    accounts: &BTreeSet<AccountId>,
) -> Result<HashMap<AccountId, i64>, StoreError> {
    let ids: Vec<i64> = accounts.iter().map(|id| id.0).collect();
    let first = take(pool, Counter::Strand, ids.len()).await?;
    let fresh: Vec<i64> = (first..).take(ids.len()).collect();
    // The row lock of the update makes a posting beside this one wait and then see the strand.
    let opened = sqlx::query!(
        r#"UPDATE account a SET open_strand = n.strand FROM unnest($2::bigint[], $3::bigint[]) AS n (account, strand)
           WHERE a.books_id = $1 AND a.id = n.account AND a.open_strand IS NULL
           RETURNING a.id, a.open_strand AS "strand!""#,
        books.0,
        &ids,
        &fresh
    )
    .fetch_all(&mut *connection)
    .await?;
    let label = |id: i64| chart.get(AccountId(id)).map(|a| (a.code.to_string(), a.name.clone()));
    let labels: Vec<_> = opened.iter().map(|row| label(row.id).unwrap_or_default()).collect();
    sqlx::query!(
        "INSERT INTO strand (books_id, id, account_id, posted_code, posted_name)
         SELECT $1, n.id, n.account, n.code, n.name
         FROM unnest($2::bigint[], $3::bigint[], $4::text[], $5::text[]) AS n (id, account, code, name)",
        books.0,
        &opened.iter().map(|row| row.strand).collect::<Vec<_>>(),
        &opened.iter().map(|row| row.id).collect::<Vec<_>>(),
        &labels.iter().map(|l| l.0.clone()).collect::<Vec<_>>(),
        &labels.iter().map(|l| l.1.clone()).collect::<Vec<_>>(),
    )
    .execute(&mut *connection)
    .await?;
    let open = sqlx::query!(
        r#"SELECT id, open_strand AS "strand!" FROM account
           WHERE books_id = $1 AND id = ANY($2) AND open_strand IS NOT NULL"#,
        books.0,
        &ids
    )
    .fetch_all(connection)
    .await?;
    Ok(open.into_iter().map(|row| (AccountId(row.id), row.strand)).collect())
}

/// Adds to the totals in the order of their keys, so that two postings never wait for each other
/// in a circle.
async fn add_totals(
    connection: &mut PgConnection,
    books: BooksId,
    additions: &BTreeMap<(i64, Slot), Addition>,
) -> Result<(), StoreError> {
    let column = |f: &dyn Fn(&Addition) -> i128| -> Result<Vec<i64>, StoreError> {
        additions.values().map(|a| i64::try_from(f(a)).map_err(StoreError::damaged)).collect()
    };
    sqlx::query!(
        "INSERT INTO strand_total (books_id, strand_id, period, currency, debit, credit, foreign_debit,
                                   foreign_credit, lines, digest, last_date, cleared)
         SELECT $1, n.strand, n.period, n.currency, n.debit, n.credit, n.foreign_debit, n.foreign_credit,
                n.lines, n.digest::numeric, n.last_date, n.cleared
         FROM unnest($2::bigint[], $3::integer[], $4::text[], $5::bigint[], $6::bigint[], $7::bigint[],
                     $8::bigint[], $9::bigint[], $10::text[], $11::date[], $12::bigint[])
              AS n (strand, period, currency, debit, credit, foreign_debit, foreign_credit, lines, digest,
                    last_date, cleared)
         ON CONFLICT (books_id, strand_id, period, currency) DO UPDATE SET
             debit = strand_total.debit + EXCLUDED.debit,
             credit = strand_total.credit + EXCLUDED.credit,
             foreign_debit = strand_total.foreign_debit + EXCLUDED.foreign_debit,
             foreign_credit = strand_total.foreign_credit + EXCLUDED.foreign_credit,
             lines = strand_total.lines + EXCLUDED.lines,
             digest = strand_total.digest + EXCLUDED.digest,
             last_date = greatest(strand_total.last_date, EXCLUDED.last_date),
             cleared = strand_total.cleared + EXCLUDED.cleared",
        books.0,
        &additions.keys().map(|(strand, _)| *strand).collect::<Vec<_>>(),
        &additions.keys().map(|(_, slot)| slot.period.0).collect::<Vec<_>>(),
        &additions.keys().map(|(_, slot)| slot.currency.to_string()).collect::<Vec<_>>(),
        &column(&|a| a.totals.debit)?,
        &column(&|a| a.totals.credit)?,
        &column(&|a| a.totals.foreign_debit)?,
        &column(&|a| a.totals.foreign_credit)?,
        &column(&|a| a.totals.lines.into())?,
        &additions.values().map(|a| a.totals.digest.to_string()).collect::<Vec<_>>(),
        &additions.values().map(|a| a.last).collect::<Vec<_>>(),
        &column(&|a| a.cleared.into())?,
    )
    .execute(connection)
    .await?;
    pause::point().await;
    Ok(())
}

/// Rows for `COPY ... FROM STDIN (FORMAT csv)`. Every field is quoted, so that an empty text is
/// not taken for null.
struct Copy {
    writer: csv::Writer<Vec<u8>>,
}

impl Copy {
    fn new() -> Self {
        let writer =
            csv::WriterBuilder::new().quote_style(csv::QuoteStyle::Always).from_writer(Vec::new());
        Self { writer }
    }

    fn row<const N: usize>(&mut self, fields: [&str; N]) -> Result<(), StoreError> {
        self.writer.write_record(fields).map_err(StoreError::damaged)
    }

    async fn send(
        self,
        connection: &mut PgConnection,
        table: &str,
        options: &str,
    ) -> Result<(), StoreError> {
        let bytes = self.writer.into_inner().map_err(StoreError::damaged)?;
        let statement = format!("COPY {table} FROM STDIN (FORMAT csv{options})");
        let mut copy = connection.copy_in_raw(&statement).await?;
        for piece in bytes.chunks(PIECE) {
            copy.send(piece).await?;
        }
        copy.finish().await?;
        Ok(())
    }
}
