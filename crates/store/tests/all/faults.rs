//! Planted faults: each is something that would lose, double, change or misplace history, and each
//! must be caught, either before the commit or by the recount.

use zf_store::plans::applying::NotApplied;
use zf_testing::Books;

async fn posted() -> Books {
    let books = Books::railway().await;
    books.post_coal_and_wood().await;
    books.must_recount().await;
    books
}

macro_rules! recount_finds {
    ($($name:ident: $sql:literal => $says:literal;)+) => {$(
        #[tokio::test]
        async fn $name() {
            let books = posted().await;
            books.tamper($sql).await;
            let misses = books.store.recount(books.member).await.unwrap().misses;
            assert!(misses.iter().any(|miss| miss.contains($says)), "{misses:?}");
        }
    )+};
}

recount_finds! {
    a_line_on_a_wrong_strand_is_found:
        "UPDATE line SET strand_id = (SELECT min(id) FROM strand) WHERE amount = 500" => "number";
    a_lost_line_is_found: "DELETE FROM line WHERE amount = 500" => "do not balance";
    a_lost_entry_is_found: "DELETE FROM line WHERE abs(amount) = 500" => "has no lines left";
    a_changed_memo_is_found: "UPDATE line SET memo = 'x' WHERE amount = 500" => "content";
    a_changed_date_is_found: "UPDATE line SET date = date + 1 WHERE amount = 500" => "content";
    a_doubled_total_is_found: "UPDATE strand_total SET debit = debit * 2" => "content";
    a_lost_total_is_found: "DELETE FROM strand_total WHERE debit = 500" => "have no totals";
    a_wrong_count_of_a_period_is_found:
        "UPDATE period_total SET lines = lines + 1" => "number of lines of period";
    a_lost_cleared_mark_is_found: "DELETE FROM line_cleared" => "are cleared";
}

/// A trigger that does harm whenever something is written.
fn harm(whenever: &str, body: &str) -> String {
    format!(
        "CREATE FUNCTION harm() RETURNS trigger LANGUAGE plpgsql AS $$ BEGIN {body} RETURN NEW; END $$;
         CREATE TRIGGER harm BEFORE {whenever} FOR EACH ROW EXECUTE FUNCTION harm();"
    )
}

macro_rules! apply_refuses {
    ($plan:literal, $table:literal, $event:literal; $($name:ident: $harm:literal => $says:literal;)+) => {$(
        #[tokio::test]
        async fn $name() {
            let books = posted().await;
            books.tamper(&harm(concat!($event, " ON ", $table), $harm)).await;
            let plan = books.stage($plan).await;
            let Err(NotApplied::NotProved(misses)) = books.apply(plan).await else {
                panic!("the fault went through");
            };
            assert!(misses.iter().any(|miss| miss.contains($says)), "{misses:?}");
            books.tamper(concat!("DROP TRIGGER harm ON ", $table)).await;
            books.must_recount().await;
            books.apply(plan).await.unwrap();
            books.must_recount().await;
        }
    )+};
}

apply_refuses! {
    "5020 fate merge 5010", "strand", "UPDATE";
    a_strand_that_does_not_move_rolls_back: "NEW.account_id := OLD.account_id;" => "5020 Coal and firewood";
    a_line_that_changes_rolls_back: "UPDATE line SET memo = 'x';" => "written to";
    a_line_that_goes_rolls_back: "DELETE FROM line_cleared; DELETE FROM line;" => "written to";
    a_total_that_doubles_rolls_back: "UPDATE strand_total SET debit = debit * 2;" => "do not add up";
    an_account_that_is_renamed_rolls_back: "UPDATE account SET name = 'x' WHERE code = '6010';" => "otherwise than written";
}

apply_refuses! {
    "1010 history to 1020, until 2026-03-31", "line", "UPDATE";
    a_line_that_stays_behind_rolls_back: "RETURN NULL;" => "has 0 lines and its totals say 1";
    a_line_that_is_changed_on_its_way_rolls_back: "NEW.amount := NEW.amount + 1;" => "add up to something else";
    a_line_that_goes_elsewhere_rolls_back: "NEW.strand_id := OLD.strand_id;" => "has 0 lines and its totals say 1";
}

apply_refuses! {
    "1010 history to 1020, until 2026-03-31", "strand_total", "INSERT";
    a_carved_total_that_doubles_rolls_back: "NEW.credit := 2 * NEW.credit;" => "1020 Till";
    a_mark_that_is_lost_on_the_way_rolls_back: "DELETE FROM line_cleared;" => "written to";
}

apply_refuses! {
    "1010 history to 1020, until 2026-03-31", "strand", "INSERT";
    a_carved_strand_of_another_account_rolls_back: "NEW.account_id := (SELECT max(id) FROM account);" => "1020 Till";
}

#[tokio::test]
async fn totals_that_were_wrong_before_are_not_carried_on() {
    let books = posted().await;
    books.tamper("UPDATE strand_total SET credit = credit + 1 WHERE credit > 0").await;
    let plan = books.stage("1010 history to 1020, until 2026-03-31").await;
    let refused = books.apply(plan).await;
    assert!(matches!(refused, Err(NotApplied::NotProved(_))), "{refused:?}");
}
