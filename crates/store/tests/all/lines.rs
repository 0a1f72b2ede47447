//! The lines of the statements as they are kept: what was done to them lasts, and nothing stands under a
//! line that was retired behind somebody's back.

use zf_core::ids::LineId;
use zf_core::lines::{LineEdit, carry_out, standing};
use zf_core::statement::{Class, LineKind, Operand, Section, Term};
use zf_store::StoreError;
use zf_testing::Books;

/// Carries edits out on the books as they stand.
async fn edit(books: &Books, edits: &[LineEdit]) -> Result<(), StoreError> {
    let seen = books.store.snapshot(books.member).await?;
    let (wanted, done) = carry_out(edits, &seen.today.chart).unwrap();
    books.store.keep_lines(books.member, &seen, &wanted, &done).await.map(drop)
}

/// The lines of a class that accounts can be put under, by name.
async fn open(books: &Books, class: Class) -> Vec<String> {
    let today = books.store.snapshot(books.member).await.unwrap().today;
    let lines = today.chart.structure().captions().filter(|line| line.class == class);
    lines.map(|line| line.name.clone()).collect()
}

async fn line(books: &Books, class: Class, standard: Section) -> LineId {
    let today = books.store.snapshot(books.member).await.unwrap().today;
    today.chart.structure().of_standard(class, standard).unwrap().id
}

#[tokio::test]
async fn lines_are_added_renamed_moved_and_retired_for_good() {
    let books = Books::railway().await;
    let before = open(&books, Class::Expense).await;
    let staff = line(&books, Class::Expense, Section::Staff).await;
    let tax = line(&books, Class::Expense, Section::IncomeTax).await;
    let edits = [
        LineEdit::Add { class: Class::Expense, name: "Engines".to_owned(), before: Some(staff) },
        LineEdit::Rename { line: staff, name: "Crews".to_owned() },
        LineEdit::Move { line: tax, before: Some(staff) },
        LineEdit::Retire { line: line(&books, Class::Expense, Section::OtherExpense).await },
    ];
    edit(&books, &edits).await.unwrap();
    let after = open(&books, Class::Expense).await;
    let at = |name: &str| after.iter().position(|own| own == name).unwrap();
    assert_eq!((at("Engines") + 1, at("income tax") + 1), (at("income tax"), at("Crews")));
    assert_eq!(after.len(), before.len(), "one was added, one retired");
    assert!(!after.contains(&"other expenses".to_owned()));
    // The line is the standard one still, whatever it is called.
    assert_eq!(line(&books, Class::Expense, Section::Staff).await, staff);
    let trail = books.done_last(9).await;
    assert!(trail[..4].iter().all(|row| row.what == "changed_lines"));
    let told = trail.iter().take(4).filter_map(|row| row.detail.split(':').next());
    let done: Vec<_> = told.collect();
    assert_eq!(done, ["retired a line", "moved a line", "renamed a line", "added a line"]);
    let retired = line(&books, Class::Expense, Section::OtherExpense).await;
    edit(&books, &[LineEdit::Restore { line: retired }]).await.unwrap();
    assert_eq!(open(&books, Class::Expense).await.len(), before.len() + 1);
}

#[tokio::test]
async fn what_is_reckoned_and_the_other_side_are_kept_with_the_identities_that_lines_have_for_good()
{
    let books = Books::railway().await;
    let [cash, loans] = [(Class::Asset, Section::Cash), (Class::Liability, Section::Borrowings)];
    let (cash, loans) = (line(&books, cash.0, cash.1).await, line(&books, loans.0, loans.1).await);
    let seen = books.store.snapshot(books.member).await.unwrap();
    let assets = Term { of: Operand::Class(Class::Asset), taken_off: false };
    let debts = Term { of: Operand::Line(loans), taken_off: true };
    let first = seen.today.chart.structure().next_id();
    let reckoned = |name: &str, ratio, terms: &[Term]| LineEdit::AddReckoned {
        class: Class::Liability,
        name: name.to_owned(),
        before: None,
        ratio,
        terms: terms.to_vec(),
    };
    let edits = [
        LineEdit::NameOtherSide { line: cash, other: Some(loans) },
        reckoned("Without loans", false, &[assets, debts]),
        reckoned("Of assets", true, &[Term { of: Operand::Line(first), taken_off: false }, assets]),
    ];
    edit(&books, &edits).await.unwrap();
    let kept = async |name: &str| {
        let today = books.store.snapshot(books.member).await.unwrap().today;
        today.chart.structure().lines().find(|line| line.name == name).unwrap().clone()
    };
    let (sum, ratio) = (kept("Without loans").await, kept("Of assets").await);
    assert_eq!((sum.kind, &*sum.terms), (LineKind::Subtotal, &[assets, debts][..]));
    assert_eq!(ratio.terms[0].of, Operand::Line(sum.id), "the identity it has for good");
    let today = books.store.snapshot(books.member).await.unwrap().today;
    assert_eq!(today.chart.structure().caption(cash).unwrap().other_side, Some(loans));
    let anew = LineEdit::Reckon { line: sum.id, terms: vec![assets] };
    edit(&books, &[anew, LineEdit::NameOtherSide { line: cash, other: None }]).await.unwrap();
    assert_eq!(kept("Without loans").await.terms, [assets], "not beside what it was");
}

#[tokio::test]
async fn a_line_that_a_draft_names_is_not_retired_and_an_undo_finds_it() {
    let books = Books::railway().await;
    let other = line(&books, Class::Expense, Section::OtherExpense).await;
    let retire = [LineEdit::Retire { line: other }];
    let plan = books.stage("5010 caption other_expense").await;
    let refused = edit(&books, &retire).await;
    assert!(matches!(&refused, Err(StoreError::Refused(why)) if why.contains("to be retired")));
    let first = books.apply(plan).await.unwrap();
    // Now an account stands under it, and it is the core that refuses.
    let today = books.store.snapshot(books.member).await.unwrap().today;
    assert_eq!(standing(&today.chart)[&other], 1);
    assert!(carry_out(&retire, &today.chart).is_err());
    // It leaves again; the line is retired, and the undo puts the account back under it all the same.
    let second = books.apply(books.stage("5010 caption cost_of_sales").await).await.unwrap();
    edit(&books, &retire).await.unwrap();
    books.undo(second).await.unwrap();
    let today = books.store.snapshot(books.member).await.unwrap().today;
    let coal = today.chart.get(books.id("5010").await).unwrap();
    assert_eq!(coal.caption.as_ref().map(|line| (line.id, line.retired)), Some((other, true)));
    books.undo(first).await.unwrap();
    books.must_recount().await;
}

#[tokio::test]
async fn whoever_saw_older_lines_changes_none() {
    let books = Books::railway().await;
    let seen = books.store.snapshot(books.member).await.unwrap();
    let add =
        |name: &str| [LineEdit::Add { class: Class::Income, name: name.to_owned(), before: None }];
    edit(&books, &add("Tickets")).await.unwrap();
    let (wanted, done) = carry_out(&add("Hire"), &seen.today.chart).unwrap();
    let late = books.store.keep_lines(books.member, &seen, &wanted, &done).await;
    assert!(matches!(late, Err(StoreError::Taken(_))), "{late:?}");
    let income = open(&books, Class::Income).await;
    assert!(income.contains(&"Tickets".to_owned()) && !income.contains(&"Hire".to_owned()));
}
