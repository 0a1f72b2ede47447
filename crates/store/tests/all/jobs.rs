//! Jobs on a real database: each is done by one server at a time, stopped at will, taken up again when
//! its server died, and given up when it kills every server.

use serde_json::{Value, json};
use time::macros::date;
use zf_core::entry::NewEntry;
use zf_core::file_kind::FileKind;
use zf_core::ids::ImportId;
use zf_store::StoreError;
use zf_store::imports::Ready;
use zf_store::jobs::{Failure, Outcome, Phase, Progress, RecountState, State, Step, Task};
use zf_testing::Books;

async fn waiting(books: &Books) -> ImportId {
    books.store.keep_upload(books.member, FileKind::Journal, "may.csv", b"a,b").await.unwrap()
}

async fn state(books: &Books, id: ImportId) -> State {
    books.store.job::<Value>(books.member, id).await.unwrap().state
}

/// As if the server that is at it had not been heard of for a minute.
async fn silence(books: &Books) {
    books.tamper("UPDATE job SET beat = now() - interval '1 minute'").await;
}

#[tokio::test]
async fn a_job_is_done_by_one_server_and_says_how_far_it_is() {
    let books = Books::railway().await;
    let (store, member) = (&books.store, books.member);
    let id = waiting(&books).await;
    assert!(matches!(store.job::<Value>(member, id).await, Err(StoreError::NotFound(_))));
    store.queue_job(member, id, Step::Look, &Value::Null).await.unwrap();
    let job = store.take_job().await.unwrap().unwrap();
    assert_eq!(job.task, Task::File { import: id, step: Step::Look });
    assert!(store.take_job().await.unwrap().is_none(), "nobody else is given it");
    let progress = Progress::default();
    progress.reach(Phase::Read, 30);
    progress.reach(Phase::Check, 20);
    progress.reach(Phase::Check, 10);
    assert!(store.beat(&job, &progress).await.unwrap());
    assert_eq!(
        store.job::<Value>(member, id).await.unwrap().rows,
        [30, 20, 0],
        "it never goes back"
    );
    let shown = json!({ "ready_rows": 3 });
    store.finish_look(&job, &shown, 7).await.unwrap();
    assert_eq!(state(&books, id).await, State::Done);
    assert_eq!(store.shown::<Value>(member, id).await.unwrap(), Some((shown, 7)));
    // What is asked anew is not answered with what was shown before.
    store.queue_job(member, id, Step::Look, &Value::Null).await.unwrap();
    assert_eq!(store.shown::<Value>(member, id).await.unwrap(), None);
}

#[tokio::test]
async fn who_was_stopped_or_taken_for_dead_has_no_say_any_more() {
    let books = Books::railway().await;
    let (store, member) = (&books.store, books.member);
    let id = waiting(&books).await;
    store.queue_job(member, id, Step::Store, &json!({})).await.unwrap();
    let first = store.take_job().await.unwrap().unwrap();
    let twice = store.queue_job(member, id, Step::Look, &Value::Null).await;
    assert!(matches!(twice, Err(StoreError::Refused(_))), "{twice:?}");
    silence(&books).await;
    let second = store.take_job().await.unwrap().unwrap();
    assert_eq!(second.task, Task::File { import: id, step: Step::Store });
    assert!(!store.beat(&first, &Progress::default()).await.unwrap());
    store.fail_job(&first, &json!({})).await.unwrap();
    assert_eq!(state(&books, id).await, State::Underway);
    store.cancel_job(member, id).await.unwrap();
    assert!(!store.beat(&second, &Progress::default()).await.unwrap());
    store.finish_job(&second, &Outcome::Stored).await.unwrap();
    assert_eq!(state(&books, id).await, State::Cancelled);
    assert!(store.take_job().await.unwrap().is_none());
    assert_eq!(store.content(member, id).await.unwrap(), b"a,b", "the file waits on");
}

#[tokio::test]
async fn a_job_that_no_server_survives_is_given_up() {
    let books = Books::railway().await;
    let (store, member) = (&books.store, books.member);
    let id = waiting(&books).await;
    store.queue_job(member, id, Step::Look, &Value::Null).await.unwrap();
    for _ in 0..2 {
        assert!(store.take_job().await.unwrap().is_some());
        silence(&books).await;
    }
    assert!(store.take_job().await.unwrap().is_none());
    let job = store.job::<Value>(member, id).await.unwrap();
    assert_eq!(job.state, State::Failed);
    assert_eq!(job.failure, Some(Failure::GivenUp));
}

#[tokio::test]
async fn a_file_is_put_together_from_its_pieces_and_goes_with_whatever_is_done_with_it() {
    let books = Books::railway().await;
    let (store, member) = (&books.store, books.member);
    let id = store.begin_upload(member, FileKind::Journal, "may.csv").await.unwrap();
    for (number, piece) in (0..).zip([&b"Entry,"[..], b"Date", b"", b"\n1,2\n"]) {
        store.add_piece(member, id, number, piece).await.unwrap();
    }
    assert_eq!(store.content(member, id).await.unwrap(), b"Entry,Date\n1,2\n");
    store.queue_job(member, id, Step::Look, &Value::Null).await.unwrap();
    let job = store.take_job().await.unwrap().unwrap();
    store.drop_upload(member, id).await.unwrap();
    assert!(!store.beat(&job, &Progress::default()).await.unwrap());
    assert!(store.content(member, id).await.unwrap().is_empty());
    assert!(matches!(store.job::<Value>(member, id).await, Err(StoreError::NotFound(_))));
}

#[tokio::test]
async fn what_is_stopped_while_it_is_stored_leaves_nothing() {
    let books = Books::railway().await;
    let (store, member) = (&books.store, books.member);
    let (bank, coal) = (books.id("1010").await, books.id("5010").await);
    let entries: Vec<NewEntry> = vec![books.entry(date!(2026 - 05 - 01), coal, bank, 100)];
    let id = waiting(&books).await;
    let seen = store.snapshot(member).await.unwrap();
    let progress = Progress::default();
    progress.stop();
    let ready = Ready::Journal { entries: &entries, added: &[], reopened: &[], digest: None };
    let stopped = store.commit_import(member, id, &seen, &ready, &progress).await;
    assert!(matches!(stopped, Err(StoreError::Stopped)), "{stopped:?}");
    assert_eq!(store.snapshot(member).await.unwrap().today.activity.strands().count(), 0);
    assert_eq!(store.content(member, id).await.unwrap(), b"a,b", "the file waits on");
    books.must_recount().await;
}

#[tokio::test]
async fn a_recount_that_no_server_survives_says_so_in_the_proof() {
    let books = Books::railway().await;
    let applied = books.apply(books.stage("5010 code 5110").await).await.unwrap();
    for _ in 0..2 {
        let job = books.store.take_job().await.unwrap().unwrap();
        assert_eq!(job.task, Task::Recount { application: applied.0 });
        silence(&books).await;
    }
    assert!(books.store.take_job().await.unwrap().is_none());
    let state = books.store.recount_state::<Value>(books.member, applied.0).await.unwrap().unwrap();
    assert!(matches!(state, RecountState::Failed { why: Failure::GivenUp, .. }), "{state:?}");
}
