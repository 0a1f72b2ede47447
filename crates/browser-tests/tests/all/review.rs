//! The review in the browser: duplicates settled, unused accounts staged together, and all of it taken
//! back, while the counts keep up.

use crate::desk::Desk;
use std::time::SystemTime;
use thirtyfour::Key;

const CHART: &str = "Code,Name,Class\n1010,Bank,Asset\n3000,Capital,Equity\n5010,Lamp oil,Expense\n\
                     5011,LAMP OIL,Expense\n5012,Wicks,Expense\n5013,Globes,Expense\n5014,Chimneys,Expense\n";

/// THIS is the year of the clock, which the review goes by.
const JOURNAL: &str = "Entry,Date,Code,Debit,Credit\n1,2022-03-01,1010,900,\n1,2022-03-01,3000,,900\n\
                       2,2022-04-01,5011,5,\n2,2022-04-01,1010,,5\n3,THIS-01-02,5010,7,\n3,THIS-01-02,1010,,7\n\
                       4,THIS-01-03,5014,3,\n4,THIS-01-03,1010,,3\n";

fn journal() -> String {
    let since_1970 = SystemTime::now().duration_since(SystemTime::UNIX_EPOCH).unwrap();
    JOURNAL.replace("THIS", &(1970 + since_1970.as_secs() / 31_556_952).to_string())
}

/// The count beside the name of a view.
async fn left(browser: &zf_browser_tests::Browser, view: &str) -> String {
    let script = format!(
        "[...document.querySelectorAll('nav .entry')].find(entry => entry.innerText.includes({view:?})).querySelector('b').innerText"
    );
    browser.ask(&script).await.as_str().unwrap_or_default().to_owned()
}

async fn wait_left(browser: &zf_browser_tests::Browser, view: &str, count: &str) {
    for _ in 0..600 {
        if left(browser, view).await == count {
            return;
        }
        tokio::time::sleep(std::time::Duration::from_millis(50)).await;
    }
    panic!("{view} does not come to {count}: {}", browser.text().await);
}

#[tokio::test(flavor = "multi_thread")]
async fn what_the_review_finds_is_staged_and_counts_down() {
    let desk = Desk::open("review").await;
    let browser = &desk.browser;
    desk.open_books().await;
    for (name, content, rows) in [("chart.csv", CHART.to_owned(), 7), ("journal.csv", journal(), 8)]
    {
        desk.choose(name, content).await;
        browser.click_words(&format!("Store {rows} rows")).await;
        browser.see_text(&format!("{rows} rows of {name} stored")).await;
    }
    browser.click_words("Review").await;
    browser.see_text("“Lamp oil” and “LAMP OIL” have the same words.").await;
    browser.see_text("5011 was last posted to on 1 Apr 2022; 5010 starts after that.").await;
    wait_left(browser, "Look-alikes", "1").await;
    let barriers = browser.barriers().await;
    assert!(barriers.is_empty(), "{barriers:?}");
    // The other one is kept after all.
    browser.click("[aria-label='Keep 5011 LAMP OIL']").await;
    browser.click_words("Merge into 5011").await;
    browser.see_text("Staged in “First draft”").await;
    wait_left(browser, "Look-alikes", "0").await;
    browser.click_words("Undo the merge").await;
    wait_left(browser, "Look-alikes", "1").await;

    // 5011 is long unused; 5012 and 5013 were never used; 3000 was not posted to for years.
    browser.click_words("Not used").await;
    browser.see_text("It was never posted to.").await;
    wait_left(browser, "Not used", "4").await;
    let barriers = browser.barriers().await;
    assert!(barriers.is_empty(), "{barriers:?}");
    browser.click("[aria-label='Pick 5012 Wicks']").await;
    browser.click("[aria-label='Pick 5013 Globes']").await;
    browser.click_words("Stage 2 accounts").await;
    wait_left(browser, "Not used", "2").await;
    // Names are mended in one go.
    browser.click_words("written otherwise").await;
    browser.see_text("The name of 5011 LAMP OIL is written in capitals.").await;
    wait_left(browser, "ritten otherwise", "1").await;
    // Or it is right as it is in these books, until somebody thinks otherwise.
    browser.click_words("Not in these books…").await;
    browser.see("[aria-label='Why it is right in these books']").await;
    let barriers = browser.barriers().await;
    assert!(barriers.is_empty(), "{barriers:?}");
    browser.wait_for("document.activeElement.matches('form input')", "the focus in the form").await;
    browser.keys("so it stands on the invoices" + Key::Enter).await;
    wait_left(browser, "Not in these books", "1").await;
    browser.click("nav > .entry:last-child").await;
    browser.see_text("“so it stands on the invoices”").await;
    browser.click_words("Remark on it again").await;
    wait_left(browser, "Not in these books", "0").await;
    browser.click_words("written otherwise").await;
    browser.click_words("Write “Lamp oil”").await;
    wait_left(browser, "ritten otherwise", "0").await;
    browser.click_words("Show the row").await;
    browser.see("[role=grid]").await;
    browser.click_words("Plan").await;
    browser.see_text("5013").await;
    browser.see_text("deleted").await;
    desk.close().await;
}
