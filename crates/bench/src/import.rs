//! Imports as the jobs of a process of their own: a journal of a million lines from CSV against COPY
//! of the same rows into a table with the same indexes and keys, with the most memory it takes; what
//! a kill in the middle leaves behind; and a workbook against reading it with the library alone.

use crate::worker::{Worker, done, until};
use crate::{Measured, Peak, large, timed};
use anyhow::{Context, ensure};
use calamine::{Reader, Xlsx};
use futures_util::TryStreamExt;
use std::io::Cursor;
use std::time::Duration;
use time::Date;
use zf_core::entry::{EntryKind, NewEntry, NewLine};
use zf_core::file_kind::FileKind;
use zf_core::ids::{AccountId, ImportId};
use zf_sheets::{ColumnKind, Format, Table};
use zf_store::jobs::Step;
use zf_testing::Books;

pub(crate) const ACCOUNTS: usize = 500;
pub(crate) const LINES: usize = 1_000_000;
const WORKBOOK_LINES: usize = 200_000;

/// After how many stored lines a process is killed.
const KILLED_AT: i64 = 300_000;

/// How much is handed to PostgreSQL in one piece.
const PIECE: usize = 1 << 20;

/// A journal of a million lines.
pub(crate) async fn measure() -> anyhow::Result<(Measured, Peak)> {
    let books = large::books(ACCOUNTS, ACCOUNTS, 0).await?;
    let id = upload(&books, "journal.csv", &journal(LINES).write(Format::Csv)?).await?;
    let worker = Worker::start(&books)?;
    let (ours, peak) = bring(&books, id, &worker, LINES).await?;
    let name = "journal of 1 million lines from CSV, looked at and stored";
    let measured =
        Measured::new(name, ours, "COPY of the same rows", copy(&books, LINES).await?, 1.0 / 1.5);
    Ok((measured, Peak::new("memory of the process that did it", peak, 200)))
}

/// A workbook, against reading it with the library and storing what stands in it.
pub(crate) async fn measure_workbook() -> anyhow::Result<Measured> {
    let books = large::books(ACCOUNTS, ACCOUNTS, 0).await?;
    let content = journal(WORKBOOK_LINES).write(Format::Xlsx)?;
    let id = upload(&books, "journal.xlsx", &content).await?;
    let worker = Worker::start(&books)?;
    let (ours, _) = bring(&books, id, &worker, WORKBOOK_LINES).await?;
    drop(worker);

    let again = large::books(ACCOUNTS, ACCOUNTS, 0).await?;
    let entries = entries(WORKBOOK_LINES, &large::ids(&again).await?);
    let bare = async {
        let read = tokio::task::spawn_blocking(move || {
            Xlsx::new(Cursor::new(content))?.worksheet_range_at(0).context("no sheet")
        });
        let range = read.await??.context("the sheet cannot be read")?;
        again.post(&entries).await;
        anyhow::Ok(range.height())
    };
    let (bare, rows) = timed(bare).await;
    ensure!(rows? == WORKBOOK_LINES + 1, "not every row was read");
    let name = "journal of 200,000 lines from XLSX, looked at and stored";
    let baseline = "reading it with the library, and storing the same lines";
    Ok(Measured::new(name, ours, baseline, bare, 1.0 / 1.5))
}

/// Kills the process that stores a million lines in the middle of it. Nothing of them is there then,
/// and the next process stores them all.
pub(crate) async fn kill() -> anyhow::Result<&'static str> {
    let books = large::books(ACCOUNTS, ACCOUNTS, 0).await?;
    let id = upload(&books, "journal.csv", &journal(LINES).write(Format::Csv)?).await?;
    let worker = Worker::start(&books)?;
    let halfway = until(&books, id, Step::Store, |job| job.rows[2] >= KILLED_AT).await?;
    ensure!(halfway.stored.is_none(), "it was stored before it could be killed");
    drop(worker);
    for table in ["entry", "line", "strand", "strand_total", "line_cleared"] {
        let left = books.count(table).await;
        ensure!(left == 0, "{left} rows of {table} were left behind");
    }
    let _next = Worker::start(&books)?;
    let lines = loop {
        let job = books.store.job::<serde_json::Value>(books.member, ImportId(id)).await?;
        if let Some(stored) = job.stored {
            break stored;
        }
        tokio::time::sleep(Duration::from_secs(1)).await;
    };
    ensure!(usize::try_from(lines)? == LINES, "the next process stored {lines} lines");
    books.must_recount().await;
    Ok("killed after 300,000 of 1 million lines: nothing left; the next process stored all of them")
}

pub(crate) async fn upload(books: &Books, name: &str, content: &[u8]) -> anyhow::Result<i64> {
    let (store, member) = (&books.store, books.member);
    let id = store.begin_upload(member, FileKind::Journal, name).await?;
    for (number, piece) in (0..).zip(content.chunks(PIECE)) {
        store.add_piece(member, id, number, piece).await?;
    }
    Ok(id.0)
}

/// Has a file looked at and stored; with the most memory that took, in megabytes.
pub(crate) async fn bring(
    books: &Books,
    id: i64,
    worker: &Worker,
    lines: usize,
) -> anyhow::Result<(Duration, u64)> {
    let (ours, rows) = timed(async {
        done(books, id, Step::Look).await?;
        done(books, id, Step::Store).await
    })
    .await;
    ensure!(usize::try_from(rows?)? == lines, "not every line was stored");
    Ok((ours, worker.peak()?))
}

/// What an entry says.
pub(crate) struct Said {
    pub(crate) number: String,
    pub(crate) day: String,
    /// The places of its accounts, debit before credit.
    pub(crate) accounts: [usize; 2],
    /// In minor units.
    pub(crate) amount: i64,
}

impl Said {
    /// Entry `n` of so many, which lie over the months of a year.
    pub(crate) fn of(n: usize, count: usize) -> Self {
        let (month, day) = (n * 12 / count + 1, n % 28 + 1);
        Self {
            number: format!("J{n:07}"),
            day: format!("2025-{month:02}-{day:02}"),
            accounts: [n % ACCOUNTS, (n + 1 + n / ACCOUNTS) % ACCOUNTS],
            amount: ((1 + n % 900) * 100 + n % 100) as i64,
        }
    }
}

/// The code of the account at a place.
pub(crate) fn code(at: usize) -> String {
    format!("{}", 100_000 + at)
}

/// Entries of two lines, in the order of their dates.
fn journal(lines: usize) -> Table {
    let columns = ["Entry", "Date", "Code", "Debit", "Credit", "Payee", "Details", "Reference"];
    let kind = |name: &str| match name {
        "Debit" | "Credit" => ColumnKind::Money,
        _ => ColumnKind::Text,
    };
    let columns = columns.map(|name| (name.to_owned(), kind(name))).to_vec();
    let rows = (0..lines / 2).flat_map(|n| {
        let Said { number, day, accounts, amount } = Said::of(n, lines / 2);
        let amount = format!("{}.{:02}", amount / 100, amount % 100);
        let row = |account: usize, debit: &str, credit: &str| {
            let payee = "Hollin Coal Merchants";
            let (memo, reference) = (format!("Delivery {n}"), format!("HC-{n}"));
            [&number, &day, &code(account), debit, credit, payee, &memo, &reference]
                .map(str::to_owned)
                .to_vec()
        };
        [row(accounts[0], &amount, ""), row(accounts[1], "", &amount)]
    });
    Table::new("Journal", columns, rows.collect())
}

/// The same entries as they are stored.
fn entries(lines: usize, ids: &[AccountId]) -> Vec<NewEntry> {
    let entry = |n: usize| {
        let Said { number, day, accounts, amount } = Said::of(n, lines / 2);
        let format = time::macros::format_description!("[year]-[month]-[day]");
        let line = |account: usize, amount: i64| NewLine {
            account: ids[account],
            amount,
            foreign: None,
            payee: "Hollin Coal Merchants".to_owned(),
            memo: format!("Delivery {n}"),
            reference: format!("HC-{n}"),
            dimensions: String::new(),
            cleared: false,
        };
        Date::parse(&day, &format).ok().map(|date| NewEntry {
            number,
            date,
            kind: EntryKind::Ordinary,
            lines: vec![line(accounts[0], amount), line(accounts[1], -amount)],
        })
    };
    (0..lines / 2).filter_map(entry).collect()
}

pub(crate) async fn copy(books: &Books, lines: usize) -> anyhow::Result<Duration> {
    books
        .tamper(
            "CREATE TABLE line_again (LIKE line INCLUDING ALL);
             ALTER TABLE line_again ADD FOREIGN KEY (books_id, entry_id) REFERENCES entry (books_id, id);
             ALTER TABLE line_again ADD FOREIGN KEY (books_id, strand_id) REFERENCES strand (books_id, id)",
        )
        .await;
    let mut connection = books.store.pool().acquire().await?;
    let out = connection.copy_out_raw("COPY line TO STDOUT (FORMAT csv)").await?;
    let rows: Vec<_> = out.try_collect().await?;
    let rows = rows.concat();
    let (time, done) = timed(async {
        let mut copy = connection.copy_in_raw("COPY line_again FROM STDIN (FORMAT csv)").await?;
        for piece in rows.chunks(PIECE) {
            copy.send(piece).await?;
        }
        copy.finish().await.context("the rows were refused")
    })
    .await;
    ensure!(done? == lines as u64, "not every row was copied");
    Ok(time)
}
