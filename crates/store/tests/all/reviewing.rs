//! What people say of the review is kept with the books, and each belongs to its books alone.

use zf_core::chart::Section;
use zf_core::ids::{AccountId, ItemId};
use zf_core::review::dismissed::Subject;
use zf_core::review::remarks::RemarkKind;
use zf_core::statement::Class;
use zf_store::StoreError;
use zf_testing::Books;

#[tokio::test]
async fn what_is_dismissed_is_kept_with_its_reason_until_it_is_taken_back() {
    let books = Books::railway().await;
    let (store, member) = (&books.store, books.member);
    let coal = Subject::Account(books.id("5010").await);
    let snapshot = store.snapshot(member).await.unwrap();
    let line =
        snapshot.today.chart.structure().of_standard(Class::Expense, Section::Staff).unwrap().id;
    for (kind, about, reason) in [
        (RemarkKind::NameForm, Some(coal), "so it stands on the wagons"),
        (RemarkKind::ItemEmpty, Some(Subject::Item(line)), "hired from next year on"),
        (RemarkKind::CodeWidth, None, "two charts were joined"),
    ] {
        store.dismiss(member, kind, about, reason).await.unwrap();
    }
    let kept = store.dismissed(member).await.unwrap();
    let said: Vec<_> = kept.iter().map(|one| (one.kind, one.about, one.reason.as_str())).collect();
    assert_eq!(
        said,
        [
            (RemarkKind::CodeWidth, None, "two charts were joined"),
            (RemarkKind::ItemEmpty, Some(Subject::Item(line)), "hired from next year on"),
            (RemarkKind::NameForm, Some(coal), "so it stands on the wagons"),
        ],
        "the latest first"
    );
    store.forget_dismissed(member, kept[0].id).await.unwrap();
    let gone = store.forget_dismissed(member, kept[0].id).await;
    assert!(matches!(gone, Err(StoreError::NotFound(_))), "{gone:?}");
    assert_eq!(store.dismissed(member).await.unwrap().len(), 2);
    assert_eq!(books.count("dismissed").await, 2);
}

#[tokio::test]
async fn a_kind_that_nobody_knows_is_damage_and_no_remark_about_two_things_is_kept() {
    let books = Books::railway().await;
    let about = Some(Subject::Item(ItemId(1)));
    books.store.dismiss(books.member, RemarkKind::ItemEmpty, about, "x").await.unwrap();
    let both = sqlx::query("UPDATE dismissed SET account_id = 1").execute(books.store.pool()).await;
    assert!(both.is_err(), "an account and a line");
    books.tamper("UPDATE dismissed SET kind = 'unheard_of'").await;
    let read = books.store.dismissed(books.member).await;
    assert!(matches!(read, Err(StoreError::Damaged(_))), "{read:?}");
    let told = [AccountId(1), AccountId(2)];
    books.store.mark_not_duplicates(books.member, &told, "two sheds").await.unwrap();
    let apart = books.store.not_duplicates(books.member).await.unwrap();
    assert_eq!((apart[0].accounts.clone(), apart[0].reason.as_str()), (vec![1, 2], "two sheds"));
}
