//! The trial balance of 5,000 accounts at two million lines, against the bare sum over the lines.

use crate::{Measured, RUNS, large, median, timed};

const ACCOUNTS: usize = 5_000;
const LINES: usize = 2_000_000;

pub(crate) async fn measure() -> anyhow::Result<Measured> {
    let books = large::books(ACCOUNTS, ACCOUNTS, LINES).await?;
    let (mut ours, mut bare) = (Vec::new(), Vec::new());
    for _ in 0..RUNS {
        let (time, trial) = timed(books.store.trial_balance(books.member)).await;
        anyhow::ensure!(trial?.total() == 0, "the trial balance is not zero");
        ours.push(time);
        let sum = "SELECT s.account_id, sum(l.amount)::bigint FROM line l
                   JOIN strand s ON s.books_id = l.books_id AND s.id = l.strand_id
                   WHERE l.books_id = $1 GROUP BY s.account_id";
        let query = sqlx::query(sum).bind(books.member.books().0).fetch_all(books.store.pool());
        let (time, rows) = timed(query).await;
        anyhow::ensure!(rows?.len() == ACCOUNTS, "not every account was summed");
        bare.push(time);
    }
    let name = "trial balance of 5,000 accounts at 2 million lines";
    Ok(Measured::new(name, median(ours), "bare sum over the lines", median(bare), 5.0))
}
