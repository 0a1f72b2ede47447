//! A journal of a million lines from CSV, against COPY of the same rows into a table with the same
//! indexes and keys; and the most memory that takes.

use crate::{Measured, Peak, large, timed};
use anyhow::{Context, anyhow};
use futures_util::TryStreamExt;
use std::fmt::Write;
use std::time::Duration;
use zf_core::intake::columns::FileKind;
use zf_server::{App, intake};
use zf_testing::Books;

const ACCOUNTS: usize = 500;
const LINES: usize = 1_000_000;

/// How much is handed to PostgreSQL in one piece.
const PIECE: usize = 1 << 20;

pub(crate) async fn measure() -> anyhow::Result<(Measured, Peak)> {
    let books = large::books(ACCOUNTS, ACCOUNTS, 0).await?;
    let (store, member) = (&books.store, books.member);
    let app = App::new(store.clone());
    let id = store.keep_upload(member, FileKind::Journal, "journal.csv", &journal()?).await?;
    Peak::forget()?;
    let import = async {
        let upload = store.upload(member, id).await?;
        let refused = |problem: zf_server::Problem| anyhow!(problem.detail);
        let looked = intake::look(&app, member, upload).await.map_err(refused)?;
        anyhow::ensure!(looked.rejected.is_empty(), "a row was rejected");
        let agreed = intake::Agreed::default();
        intake::store(&app, member, id, looked, &agreed).await.map_err(refused)
    };
    let (ours, rows) = timed(import).await;
    anyhow::ensure!(rows? == LINES, "not every line was stored");
    let peak = Peak::so_far("memory of importing 1 million lines", 300)?;
    let name = "journal of 1 million lines from CSV, read, checked, indexed and totalled";
    let measured = Measured::new(name, ours, "COPY of the same rows", copy(&books).await?, 0.5);
    Ok((measured, peak))
}

/// Half a million entries of two lines, in the order of their dates.
fn journal() -> anyhow::Result<Vec<u8>> {
    let mut text = "Entry,Date,Code,Debit,Credit,Payee,Details,Reference\n".to_owned();
    for n in 0..LINES / 2 {
        let (month, day) = (n * 12 / (LINES / 2) + 1, n % 28 + 1);
        let (debit, credit) = (100_000 + n % ACCOUNTS, 100_000 + (n + 1 + n / ACCOUNTS) % ACCOUNTS);
        let amount = format!("{}.{:02}", 1 + n % 900, n % 100);
        let head = format!("J{n:07},2025-{month:02}-{day:02}");
        let tail = format!("Hollin Coal Merchants,Delivery {n},HC-{n}");
        writeln!(text, "{head},{debit},{amount},,{tail}")?;
        writeln!(text, "{head},{credit},,{amount},{tail}")?;
    }
    Ok(text.into_bytes())
}

async fn copy(books: &Books) -> anyhow::Result<Duration> {
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
    anyhow::ensure!(done? == LINES as u64, "not every row was copied");
    Ok(time)
}
