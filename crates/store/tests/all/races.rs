//! Many people at once: nobody waits for what is not theirs, and every answer is true in the end.

use sqlx::{Connection, PgConnection};
use std::sync::Arc;
use std::time::Duration;
use time::macros::date;
use tokio::sync::{Barrier, Notify};
use tokio::task::JoinSet;
use tokio::time::timeout;
use zf_core::chart::Class;
use zf_core::code::Code;
use zf_core::file_kind::FileKind;
use zf_core::ids::ImportId;
use zf_core::plan::edit::{Done, Edit, Wanted};
use zf_core::plan::{Change, Field};
use zf_store::imports::{Ready, StagedFile};
use zf_store::jobs::Progress;
use zf_store::plans::Edited;
use zf_store::plans::applying::{Agreement, NotApplied};
use zf_store::{Store, StoreError};
use zf_testing::races::{Beside, apply_beside};
use zf_testing::{Books, account, agreement, fresh_database};

/// Books of one person in one database, on so few connections that a second one for the same work
/// would be one too many.
async fn cramped(sets: usize) -> Vec<Arc<Books>> {
    let store = Store::connect_on(&fresh_database().await, 4).await.unwrap();
    let person = store.add_person("ann@books.example", "Ann Tester", "-").await.unwrap();
    let mut all = Vec::new();
    for _ in 0..sets {
        all.push(Arc::new(Books::railway_of(store.clone(), person).await));
    }
    all
}

/// A reader that is answered all the while.
async fn read_on(books: Arc<Books>, stop: Arc<Notify>) {
    let mut stopped = std::pin::pin!(stop.notified());
    loop {
        tokio::select! {
            () = &mut stopped => return,
            read = timeout(Duration::from_secs(3), books.store.snapshot(books.member)) => {
                read.expect("a reader waits for writers").unwrap();
            }
        }
        tokio::time::sleep(Duration::from_millis(5)).await;
    }
}

#[tokio::test(flavor = "multi_thread")]
async fn forty_applies_on_four_connections_do_not_stand_in_each_others_way() {
    let all = cramped(8).await;
    let stop = Arc::new(Notify::new());
    let reader = tokio::spawn(read_on(Arc::clone(&all[0]), Arc::clone(&stop)));
    let mut applying = JoinSet::new();
    for books in &all {
        let plan = books.stage("5010 code 5110; 5020 fate merge 5030").await;
        let agreed = agreement(&books.rehearse(plan).await);
        for _ in 0..5 {
            let (books, agreed) = (Arc::clone(books), agreed.clone());
            applying.spawn(async move { books.store.apply(books.member, plan, &agreed).await });
        }
    }
    let done = timeout(Duration::from_secs(60), applying.join_all()).await.expect("they block");
    stop.notify_one();
    reader.await.unwrap();
    assert_eq!(done.iter().filter(|done| done.is_ok()).count(), 8);
    for late in done.iter().filter_map(|done| done.as_ref().err()) {
        let told = late.to_string();
        assert!(told.starts_with("“Tidy up” was applied already, by Ann Tester on "), "{told}");
    }
    for books in &all {
        books.must_recount().await;
    }
}

#[tokio::test(flavor = "multi_thread")]
async fn forty_people_post_in_other_books_while_an_import_is_open() {
    let all = cramped(41).await;
    let (open, others) = all.split_first().unwrap();
    // The import waits here in the middle of its transaction.
    let mut outside = PgConnection::connect(&database_of(&open.store).await).await.unwrap();
    let mut held = outside.begin().await.unwrap();
    sqlx::query("SELECT 1 FROM account WHERE books_id = $1 FOR UPDATE")
        .bind(open.member.books().0)
        .execute(&mut *held)
        .await
        .unwrap();
    let importing = tokio::spawn(post_once(Arc::clone(open)));
    tokio::time::sleep(Duration::from_millis(200)).await;
    let mut posting = JoinSet::new();
    for books in others {
        posting.spawn(post_once(Arc::clone(books)));
    }
    timeout(Duration::from_secs(60), posting.join_all()).await.expect("they block");
    assert!(!importing.is_finished());
    // Whoever would apply in those books is told who holds them, and readers are served.
    let plan = open.stage("5010 code 5110").await;
    let refused = open.apply(plan).await.unwrap_err().to_string();
    assert!(refused.starts_with("Ann Tester is changing these books just now"), "{refused}");
    held.rollback().await.unwrap();
    importing.await.unwrap();
    open.apply(plan).await.unwrap();
    for books in &all {
        books.must_recount().await;
    }
}

async fn post_once(books: Arc<Books>) {
    let (bank, coal) = (books.id("1010").await, books.id("5010").await);
    books.post(&[books.entry(date!(2026 - 05 - 01), coal, bank, 100)]).await;
}

async fn database_of(store: &Store) -> String {
    let name: String =
        sqlx::query_scalar("SELECT current_database()").fetch_one(store.pool()).await.unwrap();
    let url = std::env::var("DATABASE_URL").unwrap();
    format!("{}/{name}", url.rsplit_once('/').unwrap().0)
}

#[tokio::test(flavor = "multi_thread")]
async fn an_edit_beside_an_apply_is_in_the_plan_or_is_told_that_it_is_not() {
    let tally = apply_beside(Beside::Edit, 10).await;
    assert_eq!(tally.first + tally.refused, 10);
}

#[tokio::test(flavor = "multi_thread")]
async fn a_discard_beside_an_apply_is_done_or_is_told_that_it_is_not() {
    let tally = apply_beside(Beside::Discard, 10).await;
    assert_eq!(tally.first + tally.refused, 10);
}

#[tokio::test(flavor = "multi_thread")]
async fn the_loser_of_two_applies_learns_that_it_was_applied() {
    let tally = apply_beside(Beside::Apply, 10).await;
    assert_eq!(tally.first + tally.refused, 10);
}

#[tokio::test]
async fn an_applied_plan_takes_no_override_and_keeps_the_reasons_it_had() {
    let books = Books::railway().await;
    let plan = books.stage("5010 code 5110").await;
    let say = async |reason| {
        books.store.override_stop(books.member, plan, "merge_class:1", Some(reason)).await
    };
    say("as agreed with the client").await.unwrap();
    books.apply(plan).await.unwrap();
    let late = say("another reason").await;
    assert!(matches!(late, Err(StoreError::Ended(_))), "{late:?}");
    let kept: Vec<String> = sqlx::query_scalar("SELECT reason FROM plan_override")
        .fetch_all(books.store.pool())
        .await
        .unwrap();
    assert_eq!(kept, ["as agreed with the client"]);
}

#[tokio::test]
async fn a_plan_that_changed_since_it_was_seen_is_not_applied() {
    let books = Books::railway().await;
    let plan = books.stage("5010 code 5110").await;
    let (draft, _) = books.store.plan(books.member, plan).await.unwrap();
    let seen =
        Agreement { revision: Some(draft.revision - 1), ..agreement(&books.rehearse(plan).await) };
    let refused = books.store.apply(books.member, plan, &seen).await;
    assert!(matches!(refused, Err(NotApplied::Changed)), "{refused:?}");
    let seen = Agreement { revision: Some(draft.revision), ..seen };
    books.store.apply(books.member, plan, &seen).await.unwrap();
}

#[tokio::test]
async fn an_edit_says_what_it_did_and_what_was_there_before() {
    let books = Books::railway().await;
    let plan = books.stage("5010 code 5110").await;
    let account = books.id("5010").await;
    let edit = |seen: &str, value: Option<&str>| Edit {
        account,
        seen: Some(coded(seen)),
        wanted: value.map_or(Wanted::Unstage(Field::Code), |value| Wanted::Stage(coded(value))),
    };
    let chart = books.store.snapshot(books.member).await.unwrap().today.chart;
    let stage =
        async |edits: &[Edit]| books.store.edit_plan(books.member, plan, &chart, edits).await;
    let done = |before: &str, after: Option<&str>, revision| {
        let (before, after, base) = (Some(coded(before)), after.map(coded), Some(coded("5010")));
        Edited::Done(vec![Done { account, field: Field::Code, before, after, base }], revision)
    };
    let again = stage(&[edit("5110", Some("5120"))]).await.unwrap();
    assert_eq!(again, done("5110", Some("5120"), 2));
    assert_eq!(stage(&[edit("5120", None)]).await.unwrap(), done("5120", None, 3));
    let twice = stage(&[edit("5120", None), edit("5120", Some("5130"))]).await;
    assert!(matches!(twice, Err(StoreError::Refused(_))), "{twice:?}");
}

#[tokio::test]
async fn a_commit_whose_answer_is_lost_is_looked_up_and_told_as_it_is() {
    let (books, line) = Books::railway_on_a_line().await;
    for round in 0..5 {
        let plan = books.stage(&format!("{} code 51{round}0", code(round))).await;
        let agreed = agreement(&books.rehearse(plan).await);
        line.break_in_commit(true);
        let applied = books.store.apply(books.member, plan, &agreed).await;
        line.break_in_commit(false);
        assert_eq!(line.broken(), round + 1, "the line broke where it was to break");
        applied.unwrap();
        let ended = books.store.plan(books.member, plan).await.unwrap_err();
        assert!(matches!(ended, StoreError::Ended(_)), "{ended:?}");
    }
    books.must_recount().await;
}

fn coded(code: &str) -> Change {
    Change::Code(Code::parse(code).unwrap())
}

/// The code of the account before a round.
fn code(round: usize) -> String {
    round.checked_sub(1).map_or_else(|| "5010".to_owned(), |last| format!("51{last}0"))
}

#[tokio::test]
async fn a_database_that_is_away_is_said_to_be_away_before_long() {
    let (books, line) = Books::railway_on_a_line().await;
    line.take_away();
    let began = tokio::time::Instant::now();
    let mut answers = Vec::new();
    // What was connected breaks at once; what is not is not waited for much longer.
    for _ in 0..3 {
        answers.push(books.store.snapshot(books.member).await.unwrap_err());
    }
    let known = |e: &StoreError| matches!(e, StoreError::Away | StoreError::Broken);
    assert!(answers.iter().all(known), "{answers:?}");
    assert!(began.elapsed() < Duration::from_secs(20), "{:?}", began.elapsed());
}

#[tokio::test(flavor = "multi_thread")]
async fn of_two_who_store_the_same_at_once_one_learns_that_it_is_stored_already() {
    for round in 0..10 {
        let books = Arc::new(Books::railway().await);
        let (bank, coal) = (books.id("1010").await, books.id("5010").await);
        let mut tea = account("7010", "Tea", Class::Expense);
        let barrier = Arc::new(Barrier::new(2));
        let mut storing = JoinSet::new();
        for n in 0..2 {
            tea.id = books.store.take_account_id().await.unwrap();
            let kind = if round % 2 == 0 { FileKind::Chart } else { FileKind::Journal };
            let id = books.store.keep_upload(books.member, kind, &format!("{n}.csv"), b"").await;
            let (id, tea) = (id.unwrap(), tea.clone());
            let mut entry = books.entry(date!(2026 - 05 - 01), coal, bank, 100);
            entry.number = "J1".to_owned();
            let (books, barrier) = (Arc::clone(&books), Arc::clone(&barrier));
            storing.spawn(async move {
                let seen = books.store.snapshot(books.member).await.unwrap();
                let (entries, charts) = (vec![entry], [tea]);
                let ready = match kind {
                    FileKind::Chart => {
                        Ready::Chart { accounts: &charts, structure: seen.today.chart.structure() }
                    }
                    _ => Ready::Journal {
                        entries: &entries,
                        added: &[],
                        reopened: &[],
                        digest: Some(1),
                    },
                };
                barrier.wait().await;
                let progress = Progress::default();
                books.store.commit_import(books.member, id, &seen, &ready, &progress).await
            });
        }
        let done = storing.join_all().await;
        let late: Vec<_> = done.iter().filter_map(|done| done.as_ref().err()).collect();
        let [StoreError::StoredMeanwhile { file_name, person }] = late[..] else {
            panic!("one of two is told: {late:?}");
        };
        assert_eq!((&**person, file_name.len()), ("Ann Tester", "0.csv".len()));
        books.must_recount().await;
    }
}

#[tokio::test]
async fn a_file_is_staged_with_what_it_stages_or_not_at_all() {
    let books = Books::railway().await;
    let plan = books.stage("5020 code 5120").await;
    let account = books.id("5010").await;
    let edit = |value| Edit { account, seen: None, wanted: Wanted::Stage(coded(value)) };
    let chart = books.store.snapshot(books.member).await.unwrap().today.chart;
    let file = |import| StagedFile { import, rows: 1, form: None };
    let stage = async |edits: &[Edit], import| {
        books.store.stage_file(books.member, plan, &chart, edits, &file(import)).await
    };
    // A file that does not wait any more: what it would have staged is not staged.
    let gone = stage(&[edit("5110")], ImportId(999)).await;
    assert!(matches!(gone, Err(StoreError::NotFound(_))), "{gone:?}");
    let (_, staged) = books.store.plan(books.member, plan).await.unwrap();
    assert!(!staged.targets.contains_key(&account));
    // Edits that conflict leave the file waiting.
    let kept = books.store.keep_upload(books.member, FileKind::Crosswalk, "x.csv", b"a").await;
    let kept = kept.unwrap();
    books.stage_changes(plan, vec![(account, coded("5130"))]).await;
    let conflicts = stage(&[edit("5110")], kept).await.unwrap();
    assert!(matches!(conflicts, Edited::Conflicts(_)), "{conflicts:?}");
    assert_eq!(books.store.content(books.member, kept).await.unwrap(), b"a");
    let seen = Edit { seen: Some(coded("5130")), ..edit("5110") };
    let done = stage(&[seen], kept).await.unwrap();
    assert!(matches!(done, Edited::Done(..)), "{done:?}");
    assert!(books.store.upload(books.member, kept).await.is_err(), "it is staged now");
}
