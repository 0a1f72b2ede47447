//! From a statement to an entry and back, by keys and by mouse.

use crate::desk::Desk;
use thirtyfour::prelude::*;

const CHART: &str = "Code,Name,Class,Caption\n1010,Bank,Asset,Cash\n4010,Fares,Income,Revenue\n\
                     5010,Coal,Expense,Running the engines\n5020,Oil,Expense,Running the engines\n";

const JOURNAL: &str = "Entry,Date,Code,Debit,Credit,Payee\nT1,2025-03-04,1010,90.00,,Day trippers\n\
                       T1,2025-03-04,4010,,90.00,Day trippers\nC1,2026-02-03,5010,25.00,,Hollin\n\
                       C1,2026-02-03,1010,,25.00,Hollin\nC2,2026-03-03,5020,5.00,,Brae\n\
                       C2,2026-03-03,1010,,5.00,Brae\n";

#[tokio::test(flavor = "multi_thread")]
async fn a_line_opens_to_its_accounts_and_their_entries() {
    let desk = Desk::open("statements").await;
    desk.open_books().await;
    desk.choose("chart.csv", CHART).await;
    desk.browser.click_words("Store 4 rows").await;
    desk.browser.see_text("4 rows of chart.csv stored").await;
    desk.choose("journal.csv", JOURNAL).await;
    desk.browser.click_words("Store 6 rows").await;
    desk.browser.see_text("6 rows of journal.csv stored").await;
    let browser = &desk.browser;
    browser.click("nav a[href$='/reports']").await;
    browser.see_text("Total expenses").await;
    browser.see_text("−30.00").await;
    let barriers = browser.barriers().await;
    assert!(barriers.is_empty(), "{barriers:?}");

    // By keys: the line opens, and an amount leads to the entries that make it up.
    browser.tab_to("tr.of-line [data-stop]").await;
    browser.keys(Key::Down + "").await;
    browser.keys(Key::Right + "").await;
    browser.see_text("Coal").await;
    browser.tab_to("a[title^='The entries of Coal']").await;
    browser.keys(Key::Enter + "").await;
    browser.see_text("Entries with lines of 5010 Coal").await;
    browser.see_text("Hollin").await;
    assert!(!browser.text().await.contains("Brae"), "of another account");
    browser.go_back().await;
    browser.see_text("Total expenses").await;

    // By mouse: the balance sheet of two months, and from a line of an entry to its account.
    browser.click_words("Balance sheet").await;
    browser.see_text("Assets less liabilities and equity").await;
    browser.select("[aria-label='Span']", "month").await;
    browser.see_text("28 February 2026").await;
    browser.click_words("Open all lines").await;
    browser.click("a[title^='The entries of Bank']").await;
    browser.see_text("Day trippers").await;
    let barriers = browser.barriers().await;
    assert!(barriers.is_empty(), "{barriers:?}");
    browser.click("a[title='Entries of this account'][href*='account=']").await;
    browser.see_text("Entries with lines of").await;
    browser.fill("input[type='search']", "day trip").await;
    browser.keys(Key::Enter + "").await;
    browser.see_text("No entry is like that").await;
    browser.click_words("All entries").await;
    browser.see_text("3 entries shown").await;
    desk.close().await;
}
