//! Files of other shapes, brought in by mouse and by keys: a ledger grouped by account, a wide trial balance,
//! a crosswalk with ranges and actions.

use crate::desk::Desk;
use thirtyfour::prelude::*;

const CHART: &str = "Code,Name,Class\n1000,Bank,Asset\n3000,Capital,Equity\n4000,Sales,Income\n\
                     5000,Coal,Expense\n5010,Wood,Expense\n5020,Peat,Expense\n6000,Rent,Expense\n";

const LEDGER: &str = "Date,Number,Description,Debit,Credit,Balance\n1000 Bank,,,,,\n\
                      ,,Opening balance,,,500.00\n2026-01-03,J1,Sale of tickets,100.00,,600.00\n\
                      2026-01-05,J2,Coal,,40.00,560.00\nTotal 1000 Bank,,,100.00,40.00,\n\
                      3000 Capital,,,,,\n,,Opening balance,,,-500.00\n4000 Sales,,,,,\n\
                      2026-01-03,J1,Sale of tickets,,100.00,-100.00\n5000 Coal,,,,,\n\
                      2026-01-05,J2,Coal,40.00,,40.00\n";

const BALANCES: &str = "Code,Name,Opening Dr,Opening Cr,Movement Dr,Movement Cr,Closing Dr,Closing Cr\n\
     1000,Bank,500.00,,60.00,,560.00,\n3000,Capital,,500.00,,,,500.00\n\
     4000,Sales,,,,100.00,,100.00\n5000,Coal,,,40.00,,40.00,\n";

const CROSSWALK: &str = "Old code,Action,New code,New name\n5000-5020,Merge,5500,\n\
                         6000,Rename,,Rent of the sheds\n3000,Keep,,\n4000,Gruntle,,\n";

#[tokio::test(flavor = "multi_thread")]
async fn a_ledger_with_openings_and_a_wide_trial_balance_come_in() {
    let desk = Desk::open("shapes").await;
    desk.open_books().await;
    let browser = &desk.browser;
    desk.choose("chart.csv", CHART).await;
    browser.click_words("Store 7 rows").await;
    browser.see_text("7 rows of chart.csv stored").await;

    // By mouse: what was there before the lines becomes an opening entry.
    desk.choose("ledger.csv", LEDGER).await;
    browser.see_text("2 accounts have a balance before the lines").await;
    let barriers = browser.barriers().await;
    assert!(barriers.is_empty(), "{barriers:?}");
    browser.click_words("they are an opening entry").await;
    browser.click_words("Store 6 rows").await;
    browser.see_text("6 rows of ledger.csv stored").await;

    // By keys: the closing figures are those of the books.
    browser.click("input[type=radio][value=balances]").await;
    desk.choose("balances.csv", BALANCES).await;
    browser.see_text("Which figures say what the accounts stand at?").await;
    browser.see_text("4 accounts agree").await;
    browser.see_text("debits 500.00, credits 500.00").await;
    browser.tab_to("section[aria-label='Questions'] button, aside button").await;
    browser.keys(Key::Enter).await;
    browser.see_text("differ").await;
    desk.close().await;
}

#[tokio::test(flavor = "multi_thread")]
async fn a_journal_that_overlaps_says_what_is_known_what_changed_and_what_is_gone() {
    let desk = Desk::open("overlap").await;
    desk.open_books().await;
    let browser = &desk.browser;
    desk.choose("chart.csv", CHART).await;
    browser.click_words("Store 7 rows").await;
    browser.see_text("7 rows of chart.csv stored").await;
    let journal = |entries: &[(&str, &str)]| {
        let lines = entries.iter().map(|(number, amount)| {
            format!("{number},2026-01-03,1000,{amount},\n{number},2026-01-03,4000,,{amount}\n")
        });
        format!("Entry,Date,Code,Debit,Credit\n{}", lines.collect::<String>())
    };
    desk.choose("january.csv", &journal(&[("J1", "5.00"), ("J2", "6.00"), ("J3", "7.00")])).await;
    browser.click_words("Store 6 rows").await;
    browser.see_text("6 rows of january.csv stored").await;

    // Handed over again: one entry is the same, one has another amount, one is missing, one is new.
    let again = journal(&[("J1", "5.00"), ("J2", "6.50"), ("J4", "8.00")]);
    desk.choose("january again.csv", &again).await;
    browser.see_text("2 rows are there already, just so").await;
    browser.see_text("1 entry is there otherwise").await;
    browser.see_text("1 entry of the journal is not in the file").await;
    let barriers = browser.barriers().await;
    assert!(barriers.is_empty(), "{barriers:?}");
    browser.tab_to("button.btn-primary").await;
    browser.keys(Key::Enter).await;
    browser.see_text("2 rows of january again.csv stored").await;
    desk.close().await;
}

#[tokio::test(flavor = "multi_thread")]
async fn a_crosswalk_of_ranges_and_actions_says_what_each_row_will_do() {
    let desk = Desk::open("actions").await;
    desk.open_books().await;
    let browser = &desk.browser;
    desk.choose("chart.csv", CHART).await;
    browser.click_words("Store 7 rows").await;
    browser.see_text("7 rows of chart.csv stored").await;
    browser.click("input[type=radio][value=crosswalk]").await;
    desk.choose("crosswalk.csv", CROSSWALK).await;
    browser.see_text("What does “Gruntle” ask for?").await;
    browser.see_text("5010 Wood").await;
    browser.see_text("merged into 5000 Coal").await;
    browser.see_text("renamed Rent of the sheds").await;
    browser.click_words("it is archived").await;
    browser.see_text("archived").await;
    browser.click_words("Stage 4 rows").await;
    browser.see_text("Rent of the sheds").await;
    browser.see_text("Archived").await;
    desk.close().await;
}
