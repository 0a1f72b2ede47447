//! Deleting asks everything that points at an account, and never fails in the database.

use time::macros::date;
use zf_core::chart::Class;
use zf_core::code::Code;
use zf_core::ids::{AccountId, ApplicationId, ImportId};
use zf_core::plan::{Change, Fate};
use zf_core::rehearsal::cause::{Cause, Since};
use zf_core::usage::{Named, Use};
use zf_store::plans::applying::NotApplied;
use zf_testing::Books;

#[tokio::test]
async fn an_account_that_others_were_merged_into_is_not_deleted() {
    let books = Books::railway().await;
    let (account, merged) = (books.id("5010").await, books.id("5020").await);
    books.apply(books.stage("5020 fate merge 5010").await).await.unwrap();
    let plan = books.stage("5010 fate delete").await;
    let Err(NotApplied::Stopped(stops)) = books.apply(plan).await else {
        panic!("what leads to others was deleted");
    };
    assert_eq!(stops.findings[0].cause, Cause::DeleteMerged { account, merged });
}

#[tokio::test]
async fn an_account_whose_only_file_was_taken_back_can_be_deleted() {
    let books = Books::railway().await;
    let (bank, oil) = (books.id("1010").await, books.id("5040").await);
    books.post(&[books.entry(date!(2026 - 05 - 01), oil, bank, 100)]).await;
    let journal = books.ask("SELECT max(id) FROM import").await;
    books.store.roll_back(books.member, ImportId(journal)).await.unwrap();
    assert_eq!(books.count("strand").await, 0, "an empty strand goes with its last line");
    books.apply(books.stage("5040 fate delete").await).await.unwrap();
}

#[tokio::test]
async fn an_empty_strand_of_old_does_not_keep_an_account_from_being_deleted() {
    let books = Books::railway().await;
    let oil = books.id("5040").await;
    let left = format!(
        "INSERT INTO strand (books_id, id, account_id, posted_code, posted_name, posted_class, posted_contra)
         VALUES ({}, 999, {oil}, '5040', 'Oil', 'expense', false); UPDATE account SET open_strand = 999 WHERE id = {oil}",
        books.member.books()
    );
    books.tamper(&left).await;
    books.apply(books.stage("5040 fate delete").await).await.unwrap();
    books.must_recount().await;
}

/// A plan that adds 6030 Wireless, and renames 5010 so that there is something to undo.
async fn adding_wireless(books: &Books) -> (AccountId, ApplicationId) {
    let plan = books.store.create_plan(books.member, "Add").await.unwrap();
    let new = books.store.take_account_id().await.unwrap();
    let changes = [
        Change::Fate(Fate::Add),
        Change::Code(Code::parse("6030").unwrap()),
        Change::Name("Wireless".to_owned()),
        Change::Class(Class::Expense),
    ];
    let coal = books.id("5010").await;
    let renamed = (coal, Change::Name("Steam coal".to_owned()));
    let changes = changes.map(|change| (new, change)).into_iter().chain([renamed]);
    books.stage_changes(plan, changes.collect()).await;
    (new, books.apply(plan).await.unwrap())
}

/// Undoes a plan whose added account has to stay, and says why it has to.
async fn undo_that_keeps(books: &Books, new: AccountId, applied: ApplicationId) -> Since {
    let (_, undo) = books.store.rehearse_undo(books.member, applied.0).await.unwrap();
    let kept: Vec<_> = undo.cautions().collect();
    assert_eq!(kept.iter().map(|c| c.rule().key()).collect::<Vec<_>>(), ["undo_kept"]);
    let Cause::UndoKept { since, .. } = kept[0].cause.clone() else { panic!("{kept:?}") };
    books.undo(applied).await.unwrap();
    assert_eq!(books.id("6030").await, new);
    since
}

#[tokio::test]
async fn an_account_that_a_plan_added_stays_when_something_names_it_since() {
    let books = Books::railway().await;
    let (new, applied) = adding_wireless(&books).await;
    let named = Use {
        names: Named::Account(new),
        used_by: "bank rule".to_owned(),
        label: "Wireless".to_owned(),
        budget: None,
    };
    books.use_list(&[named]).await;
    let since = undo_that_keeps(&books, new, applied).await;
    assert_eq!(since, Since::Named("bank rule “Wireless”".to_owned()));
}

#[tokio::test]
async fn an_account_that_a_plan_added_stays_when_an_open_plan_names_it() {
    let books = Books::railway().await;
    let (new, applied) = adding_wireless(&books).await;
    let open = books.store.create_plan(books.member, "Into wireless").await.unwrap();
    let merge = Change::Fate(Fate::MergeInto { into: new });
    books.stage_changes(open, vec![(books.id("6010").await, merge)]).await;
    let since = undo_that_keeps(&books, new, applied).await;
    assert_eq!(since, Since::Named("the plan “Into wireless”".to_owned()));
}
