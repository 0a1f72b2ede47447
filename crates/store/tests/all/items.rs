//! The statement items as they are kept: what was done to them lasts, and nothing stands under a
//! item that was retired behind somebody's back.

use zf_core::ids::ItemId;
use zf_core::items::{ItemEdit, carry_out, standing};
use zf_core::statement::{Class, ItemKind, Operand, Section, Term};
use zf_store::StoreError;
use zf_testing::Books;

/// Carries edits out on the books as they stand.
async fn edit(books: &Books, edits: &[ItemEdit]) -> Result<(), StoreError> {
    let seen = books.store.snapshot(books.member).await?;
    let (wanted, done) = carry_out(edits, &seen.today.chart).unwrap();
    books.store.keep_items(books.member, &seen, &wanted, &done).await.map(drop)
}

/// The items of a class that accounts can be put under, by name.
async fn open(books: &Books, class: Class) -> Vec<String> {
    let today = books.store.snapshot(books.member).await.unwrap().today;
    let items = today.chart.structure().captions().filter(|item| item.class == class);
    items.map(|item| item.name.clone()).collect()
}

async fn item(books: &Books, class: Class, standard: Section) -> ItemId {
    let today = books.store.snapshot(books.member).await.unwrap().today;
    today.chart.structure().of_standard(class, standard).unwrap().id
}

#[tokio::test]
async fn items_are_added_renamed_moved_and_retired_for_good() {
    let books = Books::railway().await;
    let before = open(&books, Class::Expense).await;
    let staff = item(&books, Class::Expense, Section::Staff).await;
    let tax = item(&books, Class::Expense, Section::IncomeTax).await;
    let edits = [
        ItemEdit::Add { class: Class::Expense, name: "Engines".to_owned(), before: Some(staff) },
        ItemEdit::Rename { item: staff, name: "Crews".to_owned() },
        ItemEdit::Move { item: tax, before: Some(staff) },
        ItemEdit::Retire { item: item(&books, Class::Expense, Section::OtherExpense).await },
    ];
    edit(&books, &edits).await.unwrap();
    let after = open(&books, Class::Expense).await;
    let at = |name: &str| after.iter().position(|own| own == name).unwrap();
    assert_eq!((at("Engines") + 1, at("income tax") + 1), (at("income tax"), at("Crews")));
    assert_eq!(after.len(), before.len(), "one was added, one retired");
    assert!(!after.contains(&"other expenses".to_owned()));
    // The item is the standard one still, whatever it is called.
    assert_eq!(item(&books, Class::Expense, Section::Staff).await, staff);
    let trail = books.done_last(9).await;
    assert!(trail[..4].iter().all(|row| row.what == "changed_lines"));
    let told = trail.iter().take(4).filter_map(|row| row.detail.split(':').next());
    let done: Vec<_> = told.collect();
    assert_eq!(done, ["retired an item", "moved an item", "renamed an item", "added an item"]);
    let retired = item(&books, Class::Expense, Section::OtherExpense).await;
    edit(&books, &[ItemEdit::Restore { item: retired }]).await.unwrap();
    assert_eq!(open(&books, Class::Expense).await.len(), before.len() + 1);
}

#[tokio::test]
async fn what_is_calculated_and_the_other_side_are_kept_with_the_identities_that_items_have_for_good()
 {
    let books = Books::railway().await;
    let [cash, loans] = [(Class::Asset, Section::Cash), (Class::Liability, Section::Borrowings)];
    let (cash, loans) = (item(&books, cash.0, cash.1).await, item(&books, loans.0, loans.1).await);
    let seen = books.store.snapshot(books.member).await.unwrap();
    let assets = Term { of: Operand::Class(Class::Asset), taken_off: false };
    let debts = Term { of: Operand::Item(loans), taken_off: true };
    let first = seen.today.chart.structure().next_id();
    let calculated = |name: &str, ratio, terms: &[Term]| ItemEdit::AddCalculated {
        class: Class::Liability,
        name: name.to_owned(),
        before: None,
        ratio,
        terms: terms.to_vec(),
    };
    let edits = [
        ItemEdit::NameOtherSide { item: cash, other: Some(loans) },
        calculated("Without loans", false, &[assets, debts]),
        calculated(
            "Of assets",
            true,
            &[Term { of: Operand::Item(first), taken_off: false }, assets],
        ),
    ];
    edit(&books, &edits).await.unwrap();
    let kept = async |name: &str| {
        let today = books.store.snapshot(books.member).await.unwrap().today;
        today.chart.structure().items().find(|item| item.name == name).unwrap().clone()
    };
    let (sum, ratio) = (kept("Without loans").await, kept("Of assets").await);
    assert_eq!((sum.kind, &*sum.terms), (ItemKind::Subtotal, &[assets, debts][..]));
    assert_eq!(ratio.terms[0].of, Operand::Item(sum.id), "the identity it has for good");
    let today = books.store.snapshot(books.member).await.unwrap().today;
    assert_eq!(today.chart.structure().caption(cash).unwrap().other_side, Some(loans));
    let anew = ItemEdit::Calculate { item: sum.id, terms: vec![assets] };
    edit(&books, &[anew, ItemEdit::NameOtherSide { item: cash, other: None }]).await.unwrap();
    assert_eq!(kept("Without loans").await.terms, [assets], "not beside what it was");
}

#[tokio::test]
async fn a_line_that_a_draft_names_is_not_retired_and_an_undo_finds_it() {
    let books = Books::railway().await;
    let other = item(&books, Class::Expense, Section::OtherExpense).await;
    let retire = [ItemEdit::Retire { item: other }];
    let plan = books.stage("5010 caption other_expense").await;
    let refused = edit(&books, &retire).await;
    assert!(matches!(&refused, Err(StoreError::Refused(why)) if why.contains("to be retired")));
    let first = books.apply(plan).await.unwrap();
    // Now an account stands under it, and it is the core that refuses.
    let today = books.store.snapshot(books.member).await.unwrap().today;
    assert_eq!(standing(&today.chart)[&other], 1);
    assert!(carry_out(&retire, &today.chart).is_err());
    // It leaves again; the item is retired, and the undo puts the account back under it all the same.
    let second = books.apply(books.stage("5010 caption cost_of_sales").await).await.unwrap();
    edit(&books, &retire).await.unwrap();
    books.undo(second).await.unwrap();
    let today = books.store.snapshot(books.member).await.unwrap().today;
    let coal = today.chart.get(books.id("5010").await).unwrap();
    assert_eq!(coal.caption.as_ref().map(|item| (item.id, item.retired)), Some((other, true)));
    books.undo(first).await.unwrap();
    books.must_recount().await;
}

#[tokio::test]
async fn whoever_saw_older_items_changes_none() {
    let books = Books::railway().await;
    let seen = books.store.snapshot(books.member).await.unwrap();
    let add =
        |name: &str| [ItemEdit::Add { class: Class::Income, name: name.to_owned(), before: None }];
    edit(&books, &add("Tickets")).await.unwrap();
    let (wanted, done) = carry_out(&add("Hire"), &seen.today.chart).unwrap();
    let late = books.store.keep_items(books.member, &seen, &wanted, &done).await;
    assert!(matches!(late, Err(StoreError::Taken(_))), "{late:?}");
    let income = open(&books, Class::Income).await;
    assert!(income.contains(&"Tickets".to_owned()) && !income.contains(&"Hire".to_owned()));
}
