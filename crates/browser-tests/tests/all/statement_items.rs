//! The statement items in their own place, by keys and by mouse.

use crate::desk::Desk;
use thirtyfour::prelude::*;

const CHART: &str = "Code,Name,Class,Caption\n1010,Bank,Asset,Cash\n1020,Till,Asset,Money at hand\n\
                     5010,Coal,Expense,Running the engines\n5020,Oil,Expense,Running the engines\n";

#[tokio::test(flavor = "multi_thread")]
async fn an_item_is_renamed_and_moved_by_keys_and_merged_by_mouse() {
    let desk = Desk::open("items").await;
    desk.open_books().await;
    desk.choose("chart.csv", CHART).await;
    desk.browser.click_words("Store 4 rows").await;
    desk.browser.see_text("4 rows of chart.csv stored").await;
    let browser = &desk.browser;
    browser.click("nav a[href$='/reports']").await;
    browser.click_words("Statement items").await;
    browser.see_text("Running the engines").await;
    let barriers = browser.barriers().await;
    assert!(barriers.is_empty(), "{barriers:?}");

    // By keys: renamed, and put before the item above it.
    let name = "[aria-label='Running the engines, correct it']";
    browser.tab_to(name).await;
    browser.keys(Key::Enter).await;
    browser.keys(TypingData::from("Engines") + Key::Enter).await;
    browser.see("[aria-label='Engines, correct it']").await;
    browser.tab_to("[aria-label='Engines, correct it']").await;
    browser.held(Key::Alt, Key::Up).await;
    let table = "document.querySelector('#items-expense').closest('table').innerText";
    let above = format!("{table}.indexOf('Engines') < {table}.indexOf('income tax')");
    browser.wait_for(&above, "Engines above income tax").await;

    // By mouse: merged, which the plan stages; what is empty can be retired.
    browser.click("[aria-label='Merge into… Money at hand']").await;
    browser.see_text("1 account will stand under the other item").await;
    browser.click_words("Stage it").await;
    browser.see_text("“Money at hand” goes into").await;
    browser.see_text("empty after the plan").await;
    browser.see_text("1 change").await;
    browser.click("[aria-label='Retire inventories']").await;
    browser.see_text("1 retired item").await;
    desk.close().await;
}
