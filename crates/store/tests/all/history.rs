//! Moving history on a real database: what is carved, what stays, and what has to be rehearsed anew.

use time::macros::date;
use zf_core::ids::AccountId;
use zf_core::rehearsal::rule::Rule;
use zf_store::plans::applying::NotApplied;
use zf_testing::{Books, agreement};

/// Three entries on coal, two of them with one on the bank; a third of the lines are cleared.
async fn posted() -> Books {
    let books = Books::railway().await;
    let (bank, till, coal) =
        (books.id("1010").await, books.id("1020").await, books.id("5010").await);
    books
        .post(&[
            books.entry(date!(2025 - 11 - 05), coal, bank, 300),
            books.entry(date!(2026 - 02 - 05), coal, bank, 500),
            books.entry(date!(2026 - 04 - 05), coal, till, 700),
        ])
        .await;
    books
}

/// The codes that the lines of an account were posted under, with their amounts, the latest first.
async fn lines(books: &Books, code: &str) -> Vec<(String, i64)> {
    let id = books.id(code).await;
    let rows = books.store.account_lines(books.member, id, 0, 100).await.unwrap();
    rows.into_iter().map(|row| (row.posted_code, row.amount)).collect()
}

fn under(code: &str, amounts: &[i64]) -> Vec<(String, i64)> {
    amounts.iter().map(|amount| (code.to_owned(), *amount)).collect()
}

#[tokio::test]
async fn lines_keep_the_code_they_were_posted_under() {
    let books = posted().await;
    let plan = books.stage("5010 history to 5020, until 2026-01-31 | to 5030, memo for 7").await;
    books.apply(plan).await.unwrap();
    assert_eq!(lines(&books, "5010").await, under("5010", &[500]));
    assert_eq!(lines(&books, "5020").await, under("5010", &[300]));
    assert_eq!(lines(&books, "5030").await, under("5010", &[700]));
    books.must_recount().await;
    let carved = books.count("strand WHERE carved_from IS NOT NULL").await;
    assert_eq!((carved, books.count("line").await), (2, 6));
}

#[tokio::test]
async fn all_of_a_history_moves_without_a_line_being_written() {
    let books = posted().await;
    let before = books.count("strand").await;
    books.apply(books.stage("5010 history to 5020").await).await.unwrap();
    assert_eq!(lines(&books, "5020").await, under("5010", &[700, 500, 300]));
    assert_eq!(books.count("strand").await, before, "strands were repointed, not carved");
    // What is posted from now on is told apart from what came before.
    let (bank, coal) = (books.id("1010").await, books.id("5010").await);
    books.post(&[books.entry(date!(2026 - 05 - 01), coal, bank, 900)]).await;
    assert_eq!(lines(&books, "5010").await, under("5010", &[900]));
    assert_eq!(lines(&books, "5020").await.len(), 3);
    books.must_recount().await;
}

#[tokio::test]
async fn a_part_that_takes_a_whole_strand_is_not_carved() {
    let books = posted().await;
    books.apply(books.stage("5010 history to 5020, payee harrock").await).await.unwrap();
    assert_eq!(books.count("strand WHERE carved_from IS NOT NULL").await, 0);
    assert_eq!(lines(&books, "5020").await.len(), 3);
}

#[tokio::test]
async fn chosen_entries_move_with_all_their_lines_of_the_account() {
    let books = posted().await;
    books.apply(books.stage("1010 history to 1020, entry J2").await).await.unwrap();
    assert_eq!(lines(&books, "1010").await, under("1010", &[-300]));
    assert_eq!(lines(&books, "1020").await, [("1020".to_owned(), -700), ("1010".to_owned(), -500)]);
    books.must_recount().await;
}

#[tokio::test]
async fn what_is_posted_before_applying_must_be_seen_first() {
    let books = posted().await;
    let plan = books.stage("5010 history to 5020, until 2026-01-31").await;
    let agreed = agreement(&books.rehearse(plan).await);
    let (bank, coal) = (books.id("1010").await, books.id("5010").await);
    books.post(&[books.entry(date!(2025 - 12 - 01), coal, bank, 100)]).await;
    let refused = books.store.apply(books.member, plan, &agreed).await;
    assert!(matches!(refused, Err(NotApplied::Changed)), "{refused:?}");
    books.apply(plan).await.unwrap();
    assert_eq!(lines(&books, "5020").await, under("5010", &[100, 300]));
    books.must_recount().await;
}

#[tokio::test]
async fn undo_leaves_later_lines_alone_and_names_later_plans() {
    let books = posted().await;
    let (bank, coal, wood) =
        (books.id("1010").await, books.id("5010").await, books.id("5020").await);
    let split = books.stage("5010 history to 5020, until 2026-01-31").await;
    let split = books.apply(split).await.unwrap();
    books
        .post(&[
            books.entry(date!(2026 - 05 - 01), coal, bank, 11),
            books.entry(date!(2026 - 05 - 02), wood, bank, 22),
        ])
        .await;
    let later = books.apply(books.stage("5020 name Logs").await).await.unwrap();
    let Err(NotApplied::Stopped(stops)) = books.undo(split).await else {
        panic!("a plan that was built on was undone");
    };
    assert_eq!(stops.findings[0].rule(), Rule::UndoLater);
    books.undo(later).await.unwrap();
    books.undo(split).await.unwrap();
    assert_eq!(lines(&books, "5010").await, under("5010", &[11, 700, 500, 300]));
    assert_eq!(lines(&books, "5020").await, under("5020", &[22]));
    books.must_recount().await;
}

#[tokio::test]
async fn a_strand_is_carved_again_and_all_of_it_comes_back() {
    let books = posted().await;
    let first = books.apply(books.stage("5010 history to 5020, until 2026-03-01").await).await;
    let second = books.apply(books.stage("5020 history to 5030, until 2026-01-01").await).await;
    assert_eq!(lines(&books, "5030").await, under("5010", &[300]));
    books.undo(second.unwrap()).await.unwrap();
    books.undo(first.unwrap()).await.unwrap();
    assert_eq!(lines(&books, "5010").await, under("5010", &[700, 500, 300]));
    books.must_recount().await;
}

#[tokio::test]
async fn a_file_is_taken_back_once_the_split_of_its_lines_was_undone() {
    let books = posted().await;
    let split = books.apply(books.stage("5010 history to 5020, until 2026-01-31").await).await;
    let journal = books.store.stored_files(books.member).await.unwrap()[0].id;
    assert!(books.store.roll_back(books.member, journal).await.is_err(), "a plan stands on it");
    books.undo(split.unwrap()).await.unwrap();
    books.store.roll_back(books.member, journal).await.unwrap();
    assert_eq!(books.count("line").await, 0);
    books.must_recount().await;
}

#[tokio::test]
async fn cleared_marks_go_with_their_lines() {
    let books = posted().await;
    let cleared = async |code: &str| {
        let id: AccountId = books.id(code).await;
        books.store.snapshot(books.member).await.unwrap().today.figures_of(id).cleared
    };
    assert_eq!(cleared("5010").await, 1, "the one of 300");
    books.apply(books.stage("5010 history to 5020, until 2026-01-31").await).await.unwrap();
    assert_eq!((cleared("5010").await, cleared("5020").await), (0, 1));
    books.must_recount().await;
}
