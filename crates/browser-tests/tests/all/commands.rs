//! What can be done is found by its name, from anywhere, and says why where it cannot be done.

use crate::sheet_desk::Desk;
use thirtyfour::prelude::*;

const LIST: &str = "[role=dialog] [role=listbox]";

#[tokio::test(flavor = "multi_thread")]
async fn a_command_is_found_by_its_name_and_does_what_its_key_does() {
    let desk = Desk::open().await;
    let browser = &desk.browser;
    desk.at("5020", "code").await;
    browser.control("k").await;
    browser.see(LIST).await;
    let barriers = browser.barriers().await;
    assert!(barriers.is_empty(), "{barriers:?}");
    browser.keys("merge another").await;
    browser.keys(Key::Enter + "").await;
    browser.see("[aria-label='Account that stays']").await;
    browser.keys(Key::Escape + "").await;
    browser.gone("[role=dialog]").await;
    // The focus is where it was, and keys are those of the sheet.
    browser.keys(Key::Right + "").await;
    browser.keys(Key::Right + "").await;
    browser.keys("m").await;
    browser.see("[aria-label='Account that stays']").await;
    browser.keys(Key::Escape + "").await;

    // Elsewhere rows cannot be selected, which is said; what can be done goes where it is done.
    browser.click("nav a[href$='/journal']").await;
    browser.wait_for("location.pathname.endsWith('/journal')", "the journal").await;
    browser.click_words("Do…").await;
    browser.see_text("select rows on the Chart first").await;
    browser.keys("new account").await;
    browser.keys(Key::Enter + "").await;
    browser.see_text("Add to the chart").await;
    assert!(browser.ask("location.pathname.endsWith('/chart')").await == true);
    browser.keys(Key::Escape + "").await;
    browser.control("k").await;
    browser.keys("xyzzy").await;
    browser.see_text("Nothing that can be done here is called so").await;
    desk.browser.close().await;
}

#[tokio::test(flavor = "multi_thread")]
async fn the_latest_change_is_undone_by_its_key_from_any_page() {
    let desk = Desk::open().await;
    let browser = &desk.browser;
    desk.at("5020", "name").await;
    browser.keys(TypingData::from("Till at the gate") + Key::Enter).await;
    desk.changes(1).await;
    browser.click("nav a[href$='/reports']").await;
    browser.wait_for("location.pathname.endsWith('/reports')", "the reports").await;
    browser.control("z").await;
    desk.changes(0).await;
    browser.control("y").await;
    desk.changes(1).await;
    desk.browser.close().await;
}

#[tokio::test(flavor = "multi_thread")]
async fn plans_are_renamed_and_applied_by_name_from_pages_without_a_status_bar() {
    let desk = Desk::open().await;
    let browser = &desk.browser;
    desk.at("5020", "name").await;
    browser.keys(TypingData::from("Till at the gate") + Key::Enter).await;
    desk.changes(1).await;
    browser.click("nav a[href$='/journal']").await;
    browser.wait_for("location.pathname.endsWith('/journal')", "the journal").await;
    browser.control("k").await;
    browser.see(LIST).await;
    browser.keys("rename this").await;
    browser.keys(Key::Enter + "").await;
    browser.fill("[role=dialog] [aria-label='Name of the plan']", "Gate").await;
    browser.keys(Key::Enter + "").await;
    browser.gone("[role=dialog]").await;
    browser.control("k").await;
    browser.see(LIST).await;
    browser.keys("apply this").await;
    browser.keys(Key::Enter + "").await;
    browser.see_text("Apply “Gate”?").await;
    // Whoever goes on to another page has not answered.
    browser.go_back().await;
    browser.wait_for("location.pathname.endsWith('/chart')", "the chart").await;
    browser.gone("[role=dialog]").await;
    desk.changes(1).await;
    desk.browser.close().await;
}
