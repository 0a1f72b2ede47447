//! The statements of 10,000 accounts in eight columns at two million lines, from the totals that are kept, against the
//! bare sums over the lines; and one that is read as it was posted, against one that is read as it is.

use crate::{Measured, RUNS, large, median, timed};
use anyhow::{Context, ensure};
use std::time::Instant;
use zf_core::plan::Plan;
use zf_core::rehearsal::rehearse;
use zf_core::reports::columns::{Beside, Columns, MOST, Months, Span};
use zf_core::reports::draw;
use zf_core::reports::reading::{Read, Reading};
use zf_core::reports::ties::ties;
use zf_core::today::Today;

const ACCOUNTS: usize = 10_000;
const LINES: usize = 2_000_000;

pub(crate) async fn measure() -> anyhow::Result<[Measured; 2]> {
    let books = large::books(ACCOUNTS, ACCOUNTS, LINES).await?;
    // As a server has them while they are open: the totals are read once for each revision of the books.
    let today = books.store.snapshot(books.member).await?.today;
    let columns = columns(&today)?;
    let rehearsal = rehearse(&today, &Plan::default());
    let (mut ours, mut bare) = (Vec::new(), Vec::new());
    for _ in 0..RUNS {
        let began = Instant::now();
        let read = Read::new(&today, &rehearsal, Reading::AsItIs, &columns);
        let ties = ties(&read, &draw(&read));
        ours.push(began.elapsed());
        ensure!(ties.iter().all(|tie| tie.difference == 0), "the statements do not tie");
        let sums = "SELECT s.account_id, date_trunc('month', l.date) AS month, sum(l.amount)::bigint FROM line l
                    JOIN strand s ON s.books_id = l.books_id AND s.id = l.strand_id
                    WHERE l.books_id = $1 GROUP BY s.account_id, month";
        let query = sqlx::query(sums).bind(books.member.books().0).fetch_all(books.store.pool());
        let (time, rows) = timed(query).await;
        ensure!(rows?.len() >= ACCOUNTS, "not every account was summed");
        bare.push(time);
    }
    let read = |reading| {
        let times = (0..RUNS).map(|_| {
            let began = Instant::now();
            let statements = draw(&Read::new(&today, &rehearsal, reading, &columns));
            assert!(!statements[1].rows.is_empty());
            began.elapsed()
        });
        median(times.collect())
    };
    let name = "statements of 10,000 accounts in eight columns at 2 million lines, tied";
    let (posted, is) = (read(Reading::AsPosted), read(Reading::AsItIs));
    Ok([
        Measured::new(name, median(ours), "bare sums over the lines", median(bare), 10.0),
        Measured::new("the same as posted", posted, "as it is", is, 1.0 / 1.5),
    ])
}

fn columns(today: &Today) -> anyhow::Result<Vec<Months>> {
    let last = today.activity.last().context("nothing was posted")?;
    let columns = Columns { last, span: Span::Month, beside: Beside::Before, count: MOST };
    let months = columns.months(today.activity.first());
    ensure!(months.len() == MOST, "there are fewer columns");
    Ok(months)
}
