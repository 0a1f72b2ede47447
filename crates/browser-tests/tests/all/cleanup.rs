//! A whole clean-up of the demo books, as a practitioner does it: a section renumbered, duplicates
//! settled, a history split, unused accounts retired, all of it applied, proved and undone.

use thirtyfour::prelude::*;
use zf_browser_tests::{Browser, Site, scenario_files};

const OWNER: &str = "hazel@larkfell.example";

/// The demo books, brought in from their files.
async fn demo_books() -> Browser {
    let site = Site::open(&[(OWNER, "Hazel Brook")]).await;
    let browser = Browser::open(&site).await;
    let files = scenario_files();
    browser.sign_in(OWNER).await;
    browser.click_words("Open new books").await;
    browser.fill("#name", "Larkfell Valley Railway").await;
    browser.click("select option[value='2']").await;
    browser.click_words("Open the books").await;
    browser.see_text("Import a file").await;
    for (kind, file) in
        [("chart", "chart.csv"), ("journal", "journal.csv"), ("usage", "where-used.csv")]
    {
        browser.click(&format!("input[value='{kind}']")).await;
        browser.choose_file(&files.join(file)).await;
        browser.see_text("nothing is stored yet").await;
        browser.click("footer button.btn-primary").await;
        browser.see_text(&format!("of {file} stored")).await;
    }
    browser
}

async fn find(browser: &Browser, code: &str, column: &str) {
    browser.click("nav a[href$='/chart']").await;
    browser.fill("header input", code).await;
    browser.click(&format!("[data-code='{code}'] [data-column='{column}']")).await;
}

/// The number before a word of the status-bar, as a script.
fn score(word: &str) -> String {
    format!(
        "Number([...document.querySelectorAll('footer .score')].find(s => s.innerText.includes({word:?}))?.querySelector('b').innerText.replace(',', ''))"
    )
}

async fn renumber_a_section(browser: &Browser) {
    find(browser, "1200", "fate").await;
    browser.keys("n").await;
    browser.see_text("Number map").await;
    browser.fill("[aria-label='Start at']", "1200").await;
    browser.fill("[aria-label='Step']", "5").await;
    browser.see_text("1215").await;
    browser.see_text("unchanged").await;
    let barriers = browser.barriers().await;
    assert!(barriers.is_empty(), "{barriers:?}");
    // A start that would collide is told before anything is staged.
    browser.fill("[aria-label='Start at']", "1290").await;
    browser.see_text("Stop: code is taken.").await;
    browser.fill("[aria-label='Start at']", "1200").await;
    browser.wait_for("!document.body.innerText.includes('code is taken')", "no stop").await;
    browser.click("section .btn-primary").await;
    // The accounts, and the sum line that follows.
    browser.wait_for(&format!("{} >= 7", score("change")), "seven changes").await;
}

async fn settle_ten_groups(browser: &Browser) {
    browser.click("nav a[href$='/review']").await;
    browser.see_text("of 100 sure").await;
    let boxes = "section li input[type=checkbox]";
    for n in 0..9 {
        browser.ask(&format!("document.querySelectorAll({boxes:?})[{n}].click()")).await;
    }
    browser.click_words("Stage 9 merges").await;
    browser.see_text("Staged in “First draft”").await;
    // The tenth side by side, with a name that none of them has, by the keyboard.
    browser.ask("[...document.querySelectorAll('nav .entry.group:not(.done)')][0].focus()").await;
    browser.keys(Key::Enter + "").await;
    browser.see_text("Which one stays").await;
    browser.see_text("Together").await;
    let barriers = browser.barriers().await;
    assert!(barriers.is_empty(), "{barriers:?}");
    browser
        .wait_for("document.activeElement.matches('section')", "the focus beside the list")
        .await;
    browser.tab_to("[aria-label='New name']").await;
    browser.keys("One account for both").await;
    browser.tab_to("section .btn-primary").await;
    browser.keys(Key::Enter + "").await;
    browser.see_text("Undo the merge").await;
    // One group is not the same after all; the reason is kept.
    browser.ask("[...document.querySelectorAll('nav .entry.group:not(.done)')][0].click()").await;
    browser.click_words("Not the same, because").await;
    browser.fill("[aria-label='Why they are not the same']", "budgeted apart").await;
    browser.click_words("Remember it").await;
    browser.click_words("Not duplicates").await;
    browser.see_text("“budgeted apart”").await;
}

async fn split_a_history(browser: &Browser) {
    find(browser, "5210", "fate").await;
    browser.keys("h").await;
    browser.see_text("Both sides, year by year").await;
    for (part, until, to) in [(0, "06302023", "5215"), (1, "01312025", "5220")] {
        if part > 0 {
            browser.click_words("Another part").await;
        }
        let field = format!("ol li:nth-child({}) [aria-label='Until']", part + 1);
        browser.see(&field).await.send_keys(until).await.unwrap();
        browser.click_words("choose an account").await;
        browser.fill("[role=combobox]", to).await;
        browser.keys(Key::Enter + "").await;
    }
    browser.see_text("fit part 1 and part 2").await;
    let barriers = browser.barriers().await;
    assert!(barriers.is_empty(), "{barriers:?}");
    browser.click("section [type=checkbox]").await;
    browser.click("section .btn-primary").await;
    browser.see_text("staged in “First draft”").await;
}

async fn retire_thirty(browser: &Browser) {
    browser.click("nav a[href$='/review']").await;
    browser.click_words("Not used").await;
    browser.see_text("It was never posted to.").await;
    let script = "[...document.querySelectorAll('tbody input[type=checkbox]:not(:disabled)')].slice(0, 30).map(box => box.click()).length";
    assert_eq!(browser.ask(script).await, 30);
    browser.click_words("Stage 30 accounts").await;
    browser.see_text("staged").await;
}

#[tokio::test(flavor = "multi_thread")]
async fn a_chart_is_cleaned_up_proved_and_given_back() {
    let browser = demo_books().await;
    renumber_a_section(&browser).await;
    settle_ten_groups(&browser).await;
    split_a_history(&browser).await;
    retire_thirty(&browser).await;
    browser.click("nav a[href$='/plan']").await;
    browser.see_text("History moved").await;
    browser.see_text("Merged").await;
    browser.wait_for(&format!("{} > 45", score("change")), "all changes").await;
    assert_eq!(browser.ask(&score("stop")).await, 0, "{}", browser.text().await);
    browser.click("footer button.btn-primary").await;
    browser.click("[role=dialog] [type=checkbox]").await;
    browser.click("[role=dialog] button.btn-primary").await;
    browser.see_text("Proof of “First draft”").await;
    browser.see_text("lines moved").await;
    browser
        .wait_for("document.querySelector('main .text-success')?.innerText === '0.00'", "0.00")
        .await;
    browser.wait_for("!document.body.innerText.includes('not yet')", "recounted").await;
    // Every account stands on its line, and every total is tied.
    browser.click("nav a[href$='/reports']").await;
    browser.see_text("Income statement").await;
    browser.click_words("Open all items").await;
    browser.see_text("5010").await;
    let barriers = browser.barriers().await;
    assert!(barriers.is_empty(), "{barriers:?}");
    browser.go_back().await;
    browser.click_words("Rehearse the undo").await;
    browser.see_text("Undo “First draft”?").await;
    browser.click("[role=dialog] button.btn-primary").await;
    browser.see_text("Proof of “Undo of “First draft””").await;
    browser.wait_for("!document.body.innerText.includes('not yet')", "recounted").await;
    // As it was: the old code, the old name, and the lines under it.
    find(&browser, "1215", "code").await;
    browser.see_text("Shop stock").await;
    browser.keys(" ").await;
    browser.see_text("Years").await;
    browser.close().await;
}
