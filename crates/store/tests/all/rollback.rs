//! A stored file is taken back, whole and to the last figure, as long as nothing was built on it.

use time::macros::date;
use zf_core::chart::Class;
use zf_core::entry::NewEntry;
use zf_core::file_kind::FileKind;
use zf_core::ids::{AccountId, ImportId};
use zf_core::rollback::Blocker;
use zf_core::today::Today;
use zf_core::usage::{Named, Use};
use zf_store::StoreError;
use zf_store::imports::Ready;
use zf_store::jobs::Progress;
use zf_testing::{Books, account};

async fn today(books: &Books) -> Today {
    books.store.snapshot(books.member).await.unwrap().today
}

/// Stores entries as a file of their own.
async fn bring(books: &Books, entries: &[NewEntry]) -> ImportId {
    let (store, member) = (&books.store, books.member);
    let id = store.keep_upload(member, FileKind::Journal, "may.csv", b"").await.unwrap();
    let seen = store.snapshot(member).await.unwrap();
    let ready =
        Ready::Journal { entries: &entries.to_vec(), added: &[], reopened: &[], digest: Some(77) };
    store.commit_import(member, id, &seen, &ready, &Progress::default()).await.unwrap();
    id
}

async fn reasons(books: &Books, id: ImportId) -> Vec<Blocker> {
    books.store.rollback_preview(books.member, id).await.unwrap().1
}

#[tokio::test]
async fn a_journal_goes_and_leaves_every_figure_as_it_was() {
    let books = Books::railway().await;
    let (coal, bank) = (books.id("5010").await, books.id("1010").await);
    bring(&books, &[books.entry(date!(2026 - 03 - 01), coal, bank, 100)]).await;
    let before = today(&books).await;
    let mut cleared = books.entry(date!(2026 - 03 - 30), coal, bank, 250);
    cleared.lines[0].cleared = true;
    let entries = [cleared, books.entry(date!(2026 - 04 - 02), coal, bank, 40)];
    let id = bring(&books, &entries).await;
    let (brought, blockers) = books.store.rollback_preview(books.member, id).await.unwrap();
    assert_eq!((brought.entries, brought.lines.values().sum::<u64>()), (2, 4));
    assert!(blockers.is_empty());
    assert!(books.store.stored_before(books.member, 77).await.unwrap().is_some());

    books.store.roll_back(books.member, id).await.unwrap();
    let after = today(&books).await;
    assert_eq!(after.figures(), before.figures(), "the last date and the cleared marks as well");
    assert_eq!(after.activity.by_slot(), before.activity.by_slot());
    books.must_recount().await;
    let files = books.store.stored_files(books.member).await.unwrap();
    assert!(files.iter().find(|file| file.id == id).unwrap().rolled_back_at.is_some());
    let trail = books.done_last(1).await.remove(0);
    assert_eq!(
        (trail.what.as_str(), trail.detail.as_str()),
        ("took_back", "may.csv, with 2 entries")
    );
    // Once only; and the same lines may come again.
    let again = books.store.roll_back(books.member, id).await;
    assert!(matches!(again, Err(StoreError::NotFound(_))), "{again:?}");
    bring(&books, &entries).await;
    books.must_recount().await;
}

#[tokio::test]
async fn what_a_plan_built_on_it_is_named_and_an_undo_frees_it() {
    let books = Books::railway().await;
    let (coal, bank) = (books.id("5010").await, books.id("1010").await);
    let id = bring(&books, &[books.entry(date!(2026 - 03 - 01), coal, bank, 100)]).await;
    // A plan that touches none of its accounts does not stand in the way.
    books.apply(books.stage("6010 name Telephones").await).await.unwrap();
    assert!(reasons(&books, id).await.is_empty());
    let merged = books.apply(books.stage("5010 fate merge 5020").await).await.unwrap();
    let why = reasons(&books, id).await;
    assert_eq!(why.len(), 1);
    assert!(matches!(&why[0], Blocker::Applied { plan, .. } if plan == "Tidy up"), "{why:?}");
    let refused = books.store.roll_back(books.member, id).await;
    assert!(matches!(refused, Err(StoreError::Stays(_))), "{refused:?}");
    assert_eq!(today(&books).await.figures().len(), 2);

    books.undo(merged).await.unwrap();
    assert!(reasons(&books, id).await.is_empty());
    books.store.roll_back(books.member, id).await.unwrap();
    books.must_recount().await;
}

#[tokio::test]
async fn accounts_go_unless_others_lean_on_them() {
    let books = Books::railway().await;
    let (store, member) = (&books.store, books.member);
    let id = store.keep_upload(member, FileKind::Chart, "fees.csv", b"").await.unwrap();
    let first = store.take_account_id().await.unwrap();
    let mut fees = account("7010", "Fees", Class::Expense);
    (fees.id, fees.origin) = (first, Some(id));
    let seen = store.snapshot(member).await.unwrap();
    store
        .commit_import(
            member,
            id,
            &seen,
            &Ready::Chart { accounts: &[fees], structure: seen.today.chart.structure() },
            &Progress::default(),
        )
        .await
        .unwrap();

    let bank = books.id("1010").await;
    let journal = bring(&books, &[books.entry(date!(2026 - 03 - 01), first, bank, 5)]).await;
    let used = [Use {
        names: Named::Account(first),
        used_by: "item".to_owned(),
        label: "x".to_owned(),
        budget: None,
    }];
    let uses = books.use_list(&used).await;
    let why = reasons(&books, id).await;
    assert_eq!(
        why,
        [
            Blocker::OtherLines { account: "7010 Fees".to_owned(), lines: 1 },
            Blocker::UsedElsewhere { account: "7010 Fees".to_owned() },
        ]
    );
    store.roll_back(member, journal).await.unwrap();
    assert!(today(&books).await.usage.given);
    store.roll_back(member, ImportId(uses)).await.unwrap();
    assert!(!today(&books).await.usage.given, "no list is left");
    store.roll_back(member, id).await.unwrap();
    assert!(today(&books).await.chart.get(AccountId(first.0)).is_none());
    books.must_recount().await;
}
