//! Sketches of strands: written with the lines, and the same as they are drawn anew from them.

use time::macros::date;
use zf_core::entry::NewEntry;
use zf_core::history::{Part, Split, Which};
use zf_core::ids::AccountId;
use zf_core::plan::Change;
use zf_core::review::sketch::Sketches;
use zf_testing::Books;

async fn sketches(books: &Books) -> Sketches {
    books.store.sketches(books.member).await.unwrap()
}

/// What is drawn when nothing is kept.
async fn drawn(books: &Books) -> Sketches {
    books.tamper("DELETE FROM strand_sketch").await;
    sketches(books).await
}

fn says(mut entry: NewEntry, payee: &str, memo: &str) -> NewEntry {
    for line in &mut entry.lines {
        (line.payee, line.memo) = (payee.to_owned(), memo.to_owned());
        line.dimensions = format!("site={payee} works");
    }
    entry
}

/// Two files with lines of the same accounts.
async fn posted() -> (Books, [AccountId; 3]) {
    let books = Books::railway().await;
    let [bank, coal, wood] =
        [books.id("1010").await, books.id("5010").await, books.id("5020").await];
    for (month, payee) in [(time::Month::March, "Hollin"), (time::Month::April, "Brae")] {
        let day = |n| time::Date::from_calendar_date(2026, month, n).unwrap();
        let entries = (1..20).map(|n| {
            let debit = if n % 3 == 0 { wood } else { coal };
            says(books.entry(day(n), debit, bank, 100), payee, &format!("Delivery of sacks {n}"))
        });
        books.post(&entries.collect::<Vec<_>>()).await;
    }
    (books, [bank, coal, wood])
}

#[tokio::test]
async fn what_is_written_with_the_lines_is_what_is_drawn_from_them() {
    let (books, [bank, coal, wood]) = posted().await;
    let written = sketches(&books).await;
    let of_coal = &written[&coal];
    assert_eq!(of_coal.payees.get(&"Hollin".to_owned()), 13);
    assert_eq!(of_coal.phrases.get(&"delivery sacks".to_owned()), 26);
    assert_eq!(of_coal.dimensions.get(&"site=Brae works".to_owned()), 13);
    assert_eq!(of_coal.counters.get(&bank.0), 26);
    assert_eq!(written[&bank].counters.get(&wood.0), 12);
    books.must_recount().await;
    assert_eq!(drawn(&books).await, written);
}

#[tokio::test]
async fn parts_that_move_and_files_that_go_take_their_sketches_along() {
    let (books, [bank, coal, wood]) = posted().await;
    let plan = books.store.create_plan(books.member, "Move").await.unwrap();
    let which = Which { until: Some(date!(2026 - 03 - 31)), ..Which::default() };
    let split = Split { parts: vec![Part { which, to: wood }], ranked: false };
    books.stage_changes(plan, vec![(coal, Change::History(split))]).await;
    books.apply(plan).await.unwrap();
    let moved = sketches(&books).await;
    assert_eq!(moved[&coal].payees.get(&"Hollin".to_owned()), 0);
    assert_eq!(moved[&wood].payees.get(&"Hollin".to_owned()), 19);
    assert_eq!(moved[&bank].counters.get(&wood.0), 25, "what was against coal is against wood");
    books.must_recount().await;
    assert_eq!(drawn(&books).await, moved);

    let (other, [_, coal, _]) = posted().await;
    let files = other.store.stored_files(other.member).await.unwrap();
    let last = files.into_iter().map(|file| file.id).max().unwrap();
    other.store.roll_back(other.member, last).await.unwrap();
    let left = sketches(&other).await;
    assert_eq!(left[&coal].payees.iter().count(), 1, "those of the file that is left");
    other.must_recount().await;
}

#[tokio::test]
async fn a_sketch_that_says_too_much_is_found_by_the_recount() {
    let (books, _) = posted().await;
    let kinds = [
        ("payee_lines", "payees"),
        ("phrase_lines", "phrases"),
        ("dimension_lines", "dimension values"),
        ("counter_lines", "what stands against lines"),
    ];
    for (column, what) in kinds {
        let more = format!("UPDATE strand_sketch SET {column}[1] = {column}[1] + 1");
        books.tamper(&more).await;
        let misses = books.store.recount(books.member).await.unwrap().misses;
        let said = format!("its sketch says of {what} what");
        assert!(misses.iter().all(|miss| miss.contains(&said)), "{misses:?}");
        assert_eq!(misses.len(), 3);
        drawn(&books).await;
    }
}
