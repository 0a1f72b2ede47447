//! Figures open what they are made of, wherever they stand; and places that say how to begin.

use crate::statements::{merge_lines, oiled};
use thirtyfour::prelude::*;

#[tokio::test(flavor = "multi_thread")]
async fn a_plan_is_begun_from_its_place_and_its_proof_stands_there_once_it_is_applied() {
    let desk = oiled("a plan from its place").await;
    let browser = &desk.browser;
    browser.click("nav a[href$='/plan']").await;
    browser.see_text("No plan is open").await;
    browser.see_text("The proof of every plan that is applied will stand here").await;
    let barriers = browser.barriers().await;
    assert!(barriers.is_empty(), "{barriers:?}");
    browser.fill("main [aria-label='Name of the plan']", "Autumn").await;
    browser.keys(Key::Enter + "").await;
    browser.see_text("Nothing is staged yet").await;
    merge_lines(browser).await;

    // The start page says what is open and who is in it, and leads to the plan.
    browser.go("/").await;
    browser.see_text("Ann Tester").await;
    browser.see_text("1 change").await;
    browser.see_text("31 March 2026").await;
    let barriers = browser.barriers().await;
    assert!(barriers.is_empty(), "{barriers:?}");
    browser.click("a[href*='/plan?plan=']").await;
    browser.see_text("rows of the chart become").await;
    // A figure of the plan opens its entries, and the browser's own button leads back.
    browser.click("a[title='The entries of Grease that make it up']").await;
    browser.see_text("Entries with lines of 5020 Grease").await;
    browser.go_back().await;
    browser.see_text("rows of the chart become").await;

    browser.click_words("Apply 1 change").await;
    if browser.ask("!!document.querySelector('[role=dialog] [type=checkbox]')").await == true {
        browser.click("[role=dialog] [type=checkbox]").await;
    }
    browser.click("[role=dialog] button.btn-primary").await;
    browser.see_text("Proof of “Autumn”").await;
    // So does a figure of the proof.
    browser.click_words("every account").await;
    browser.click("a[title='The entries of Oil that make it up'], a[title='The entries of Grease that make it up']").await;
    browser.see_text("Entries with lines of").await;
    browser.go_back().await;
    browser.see_text("Proof of “Autumn”").await;
    browser.click("nav a[href$='/plan']").await;
    browser.see_text("Applied so far").await;
    browser.click_words("Its proof").await;
    browser.see_text("Proof of “Autumn”").await;
    desk.close().await;
}

#[tokio::test(flavor = "multi_thread")]
async fn a_figure_of_the_sheet_and_of_a_card_opens_its_entries() {
    let desk = oiled("figures").await;
    let browser = &desk.browser;
    browser.click("nav a[href$='/chart']").await;
    browser.click("[data-code='1010'] a[title='The entries of Bank that make it up']").await;
    browser.see_text("Entries with lines of 1010 Bank").await;
    browser.see_text("4 entries shown").await;
    // All that came with one file, and a line of an entry to its account.
    browser.click("a[title='All that came with this file']").await;
    browser.see_text("Every entry with all its lines").await;
    browser.see_text("4 entries shown").await;
    browser.go_back().await;
    browser.go_back().await;

    // The card has an address, says which line the account stands on, and opens its years and entries.
    let grease = "document.querySelector(\"[data-code='5020'] a[href*='account=']\").href.match(/account=(\\d+)/)[1]";
    let grease = browser.ask(grease).await;
    let chart = browser.ask("location.pathname").await;
    let address = format!("{}?account={}", chart.as_str().unwrap(), grease.as_str().unwrap());
    browser.go(&address).await;
    browser.see_text("Stands under “Oil & grease” of the income statement").await;
    let barriers = browser.barriers().await;
    assert!(barriers.is_empty(), "{barriers:?}");
    browser.click("aside a[title='The entry with all its lines']").await;
    browser.see_text("1 entry shown").await;
    browser.see_text("A3").await;
    browser.go_back().await;
    browser.see_text("Stands under").await;
    browser.click("aside a[title='The entries of Grease that make it up']").await;
    browser.see_text("Entries with lines of 5020 Grease").await;
    browser.go_back().await;
    browser.click("aside button[aria-label='Close']").await;

    // The address of a trial balance shows it, whichever of its answers comes first.
    browser
        .go(&format!(
            "{}?statement=trial_balance",
            chart.as_str().unwrap().replace("/chart", "/reports")
        ))
        .await;
    browser.see_text("All accounts").await;
    browser.click("a[title='The entries of Grease that make it up']").await;
    browser.see_text("Entries with lines of 5020 Grease").await;
    browser.click("nav a[href$='/chart']").await;

    // A new account is told which item it will stand under, and what that holds.
    browser.click("[data-code='5020'] [data-column='code']").await;
    browser.keys("+").await;
    browser
        .see_text("It will stand under “Oil & grease”, where 1 account comes to −7.00 today")
        .await;
    desk.close().await;
}
