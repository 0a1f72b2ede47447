//! Merging 500 accounts that hold two million lines, against rewriting those lines.

use crate::{Measured, RUNS, large, median, timed};
use anyhow::Context;
use std::time::Duration;
use zf_core::ids::AccountId;
use zf_core::plan::{Change, Fate};
use zf_testing::{Books, agreement};

const ACCOUNTS: usize = 1_000;
const MERGED: usize = 500;
const LINES: usize = 2_000_000;

pub(crate) async fn measure() -> anyhow::Result<Vec<Measured>> {
    let small = large::books(ACCOUNTS, MERGED, LINES / 10).await?;
    let few = use_case(&small).await?;
    let books = large::books(ACCOUNTS, MERGED, LINES).await?;
    let ours = use_case(&books).await?;
    let repointed = rolled_back(&books, REPOINT).await?;
    let rewritten = rewrite(&books).await?;
    let rewriting = "rewriting the lines";
    Ok(vec![
        Measured::new(
            "merge 500 accounts over 2 million lines, whole use case",
            ours,
            rewriting,
            rewritten,
            30.0,
        ),
        Measured::new("the same, repointing alone", repointed, rewriting, rewritten, 200.0),
        // Not to be more than 1.5 times slower than with a tenth of the lines.
        Measured::new(
            "the same, against a tenth of the lines",
            ours,
            "at 200 thousand lines",
            few,
            1.0 / 1.5,
        ),
    ])
}

/// Lock, rehearse, write, read back, check, trail, commit; undone after each run.
async fn use_case(books: &Books) -> anyhow::Result<Duration> {
    let ids = large::ids(books).await?;
    let mut times = Vec::new();
    for _ in 0..RUNS {
        let plan = books.store.create_plan(books.member, "Merge").await?;
        let merge = |n: usize| (ids[n], Change::Fate(Fate::MergeInto { into: survivor(&ids, n) }));
        books.stage_changes(plan, (0..MERGED).map(merge).collect()).await;
        let agreed = agreement(&books.rehearse(plan).await);
        let (time, applied) = timed(books.store.apply(books.member, plan, &agreed)).await;
        times.push(time);
        books.undo(applied?).await?;
    }
    Ok(median(times))
}

fn survivor(ids: &[AccountId], n: usize) -> AccountId {
    ids[MERGED + n]
}

/// The strands of each account that is merged, with the account it goes to.
const REPOINT: &str = "UPDATE strand s SET account_id = s.account_id + 500
    FROM account a WHERE a.books_id = s.books_id AND a.id = s.account_id AND a.code < '100500'";

async fn rolled_back(books: &Books, sql: &str) -> anyhow::Result<Duration> {
    let mut times = Vec::new();
    for _ in 0..RUNS {
        let mut tx = books.store.pool().begin().await?;
        let (time, done) = timed(sqlx::query(sql).execute(&mut *tx)).await;
        anyhow::ensure!(done.context("repointing")?.rows_affected() == MERGED as u64);
        times.push(time);
        tx.rollback().await?;
    }
    Ok(median(times))
}

/// One UPDATE that puts every line of the merged accounts on a strand of its survivor, in the same
/// table with the same indexes, there and back in turn.
async fn rewrite(books: &Books) -> anyhow::Result<Duration> {
    books
        .tamper(
            "CREATE TABLE pairs AS SELECT id AS old, id + 1000000 AS new FROM strand;
             INSERT INTO strand (books_id, id, account_id, posted_code, posted_name, posted_class, posted_contra)
             SELECT books_id, id + 1000000, account_id + 500, posted_code, posted_name, posted_class, posted_contra
             FROM strand",
        )
        .await;
    books.tamper("VACUUM ANALYZE").await;
    let mut times = Vec::new();
    for run in 0..RUNS {
        let (from, to) = if run % 2 == 0 { ("old", "new") } else { ("new", "old") };
        let sql = format!(
            "UPDATE line SET strand_id = p.{to} FROM pairs p WHERE line.strand_id = p.{from}"
        );
        let (time, done) = timed(sqlx::query(&sql).execute(books.store.pool())).await;
        anyhow::ensure!(done.context("rewriting")?.rows_affected() == LINES as u64);
        times.push(time);
        books.tamper("VACUUM line").await;
    }
    Ok(median(times))
}
