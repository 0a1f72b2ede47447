//! The journal, entry by entry, and what closing entries put on accounts.

use time::macros::date;
use zf_core::entry::EntryKind;
use zf_core::ids::ImportId;
use zf_store::journal::entries::{EntryFilter, EntryRow};
use zf_testing::Books;

/// Three entries of coal and wood, the last one a closing entry.
async fn posted() -> Books {
    let books = Books::railway().await;
    let [bank, coal, wood] =
        [books.id("1010").await, books.id("5010").await, books.id("5020").await];
    let mut entries = [
        books.entry(date!(2026 - 03 - 02), coal, bank, 150),
        books.entry(date!(2026 - 03 - 02), wood, bank, 250),
        books.entry(date!(2026 - 04 - 02), coal, bank, 350),
    ];
    entries[0].lines[0].payee = "Hollin Coal".to_owned();
    entries[1].lines[1].memo = "100% birch_logs".to_owned();
    entries[2].kind = EntryKind::Closing;
    books.post(&entries).await;
    books
}

async fn found(books: &Books, filter: &EntryFilter) -> Vec<EntryRow> {
    books.store.entries(books.member, filter, None, 10).await.unwrap()
}

fn amounts(entries: &[EntryRow]) -> Vec<i64> {
    entries.iter().map(|entry| entry.lines.iter().map(|line| line.amount).max().unwrap()).collect()
}

#[tokio::test]
async fn entries_are_found_by_account_day_text_and_amount_with_all_their_lines() {
    let books = posted().await;
    let since = EntryFilter { from: Some(date!(2026 - 03 - 01)), ..EntryFilter::default() };
    let all = found(&books, &since).await;
    assert_eq!(amounts(&all), [350, 250, 150], "the latest first");
    assert!(all.iter().all(|entry| entry.lines.len() == 2 && !entry.source.is_empty()));
    assert_eq!(all[0].kind, "closing");
    let is = |filter: EntryFilter, expected: &'static [i64]| {
        let (books, since) = (&books, since.clone());
        async move {
            let filter = EntryFilter { from: since.from, ..filter };
            assert_eq!(amounts(&found(books, &filter).await), expected, "{filter:?}");
        }
    };
    let wood = vec![books.id("5020").await];
    is(EntryFilter { accounts: wood.clone(), ..EntryFilter::default() }, &[250]).await;
    let under = |code: &str| EntryFilter {
        accounts: wood.clone(),
        posted_code: Some(code.to_owned()),
        ..EntryFilter::default()
    };
    is(under("5020"), &[250]).await;
    is(under("5010"), &[]).await;
    is(EntryFilter { import: Some(all[0].import), ..EntryFilter::default() }, &[350, 250, 150])
        .await;
    is(EntryFilter { import: Some(ImportId(0)), ..EntryFilter::default() }, &[]).await;
    is(EntryFilter { to: Some(date!(2026 - 03 - 02)), ..EntryFilter::default() }, &[250, 150])
        .await;
    is(EntryFilter { amount: Some(350), ..EntryFilter::default() }, &[350]).await;
    // What stands for anything elsewhere stands for itself here.
    for (text, expected) in
        [("hollin", &[150][..]), ("0% B", &[250]), ("h_l", &[250]), ("%", &[250]), ("peat", &[])]
    {
        is(EntryFilter { text: Some(text.to_owned()), ..EntryFilter::default() }, expected).await;
    }
}

#[tokio::test]
async fn pages_of_entries_follow_each_other_without_a_gap() {
    let books = posted().await;
    let all = found(&books, &EntryFilter::default()).await;
    let (mut paged, mut behind) = (Vec::new(), None);
    loop {
        let page =
            books.store.entries(books.member, &EntryFilter::default(), behind, 2).await.unwrap();
        let Some(last) = page.last() else { break };
        behind = Some((last.date, last.id));
        paged.extend(page.into_iter().map(|entry| entry.id));
    }
    assert_eq!(paged, all.iter().map(|entry| entry.id).collect::<Vec<_>>());
}

#[tokio::test]
async fn what_closing_entries_put_on_accounts_is_known_by_period() {
    let books = posted().await;
    let today = books.store.snapshot(books.member).await.unwrap().today;
    let coal = books.id("5010").await;
    let strands = today.activity.strands().filter(|(strand, ..)| strand.account == coal);
    let closed = strands.filter_map(|(strand, ..)| today.activity.closings(strand.id));
    let closed: Vec<_> = closed.flatten().map(|(period, net)| (*period, *net)).collect();
    assert_eq!(closed, [(today.calendar.period_of(date!(2026 - 04 - 02)), 350)]);
}
