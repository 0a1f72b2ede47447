//! Large books: many accounts, many lines, posted the way an import posts them.

use time::Duration;
use time::macros::date;
use zf_core::chart::Class;
use zf_core::ids::AccountId;
use zf_server::Config;
use zf_store::Store;
use zf_testing::{Books, account, fresh_database};

/// Entries posted at a time.
const BATCH: usize = 100_000;

/// Two years of days.
const DAYS: usize = 730;

/// A server on loopback that sends no letters.
pub(crate) fn running() -> anyhow::Result<Config> {
    Ok(Config::on_loopback(0, &std::env::temp_dir().join("zerofold-bench-letters"))?)
}

/// Books with so many accounts of expense, and so many lines on the first `used` of them.
pub(crate) async fn books(accounts: usize, used: usize, lines: usize) -> anyhow::Result<Books> {
    let url = fresh_database().await;
    let store = Store::connect(&url).await?;
    let person = store.add_person("ann@books.example", "Ann Tester", "-").await?;
    let rows = (0..accounts)
        .map(|n| account(&format!("{}", 100_000 + n), &format!("Account {n}"), Class::Expense));
    let books = Books::open(store, url, person, rows.collect()).await;
    let ids = ids(&books).await?;
    let mut posted = 0;
    while posted < lines / 2 {
        let batch = BATCH.min(lines / 2 - posted);
        let entries: Vec<_> = (posted..posted + batch)
            .map(|n| {
                let day = date!(2025 - 02 - 01) + Duration::days((n % DAYS) as i64);
                let (debit, credit) = (ids[n % used], ids[(n + 1 + n / used) % used]);
                books.entry(day, debit, credit, 100 + (n % 9_000) as i64)
            })
            .collect();
        books.post(&entries).await;
        posted += batch;
    }
    books.tamper("VACUUM ANALYZE").await;
    Ok(books)
}

/// The accounts by code.
pub(crate) async fn ids(books: &Books) -> anyhow::Result<Vec<AccountId>> {
    let chart = books.store.snapshot(books.member).await?.today.chart;
    Ok(chart.outline().into_iter().map(|(account, _)| account.id).collect())
}
