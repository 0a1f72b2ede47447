//! Moving a part of a history, against one bare UPDATE of the same lines.

use crate::{Measured, RUNS, large, median, timed};
use anyhow::Context;
use std::time::Duration;
use time::macros::date;
use time::{Date, Duration as Days};
use zf_core::history::{Part, Split, Which};
use zf_core::ids::AccountId;
use zf_core::plan::Change;
use zf_testing::{Books, agreement};

const ACCOUNTS: usize = 20;
const LINES: usize = 1_000_000;

/// Each run moves other lines, since those of the one before have gone.
const WINDOW: Days = Days::days(120);

pub(crate) async fn measure() -> anyhow::Result<Measured> {
    let books = large::books(ACCOUNTS, ACCOUNTS / 2, LINES).await?;
    let (mut ours, mut bare) = (Vec::new(), Vec::new());
    let mut from = date!(2025 - 02 - 01);
    for _ in 0..RUNS {
        let until = from + WINDOW - Days::DAY;
        bare.push(rewritten(&books, from, until).await?);
        ours.push(moved(&books, from, until).await?);
        from += WINDOW;
    }
    Ok(Measured::new(
        "move a sixth of ten accounts' 1 million lines, whole use case",
        median(ours),
        "one UPDATE of the same lines",
        median(bare),
        1.0 / 1.5,
    ))
}

/// Lock, deal the lines out, rehearse, write, read back, check, trail, commit.
async fn moved(books: &Books, from: Date, until: Date) -> anyhow::Result<Duration> {
    let ids = large::ids(books).await?;
    let plan = books.store.create_plan(books.member, "Move").await?;
    let which = Which { from: Some(from), until: Some(until), ..Which::default() };
    let change = |n: usize| -> (AccountId, Change) {
        let parts = vec![Part { which: which.clone(), to: ids[ACCOUNTS / 2 + n] }];
        (ids[n], Change::History(Split { parts, ranked: false }))
    };
    books.stage_changes(plan, (0..ACCOUNTS / 2).map(change).collect()).await;
    let agreed = agreement(&books.rehearse(plan).await);
    books.tamper("VACUUM ANALYZE line").await;
    let (time, applied) = timed(books.store.apply(books.member, plan, &agreed)).await;
    applied?;
    Ok(time)
}

/// The same lines, put on other strands by one statement, which is taken back again.
async fn rewritten(books: &Books, from: Date, until: Date) -> anyhow::Result<Duration> {
    books.tamper("VACUUM ANALYZE line").await;
    let mut tx = books.store.pool().begin().await?;
    let strands = "INSERT INTO strand (books_id, id, account_id, posted_code, posted_name, posted_class, posted_contra, carved_from)
                   SELECT books_id, id + 1000000, account_id, posted_code, posted_name, posted_class, posted_contra, id FROM strand";
    sqlx::query(strands).execute(&mut *tx).await?;
    let sql = format!(
        "UPDATE line SET strand_id = strand_id + 1000000 WHERE date BETWEEN '{from}' AND '{until}'"
    );
    let (time, done) = timed(sqlx::query(&sql).execute(&mut *tx)).await;
    let rows = done.context("rewriting")?.rows_affected();
    anyhow::ensure!(rows > 0 && rows < LINES as u64, "{rows} lines are not a part");
    tx.rollback().await?;
    Ok(time)
}
