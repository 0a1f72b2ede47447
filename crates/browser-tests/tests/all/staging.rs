//! What is staged begins with what is, says what it means, and is undone from anywhere.

use crate::sheet_desk::Desk;
use thirtyfour::prelude::*;
use zf_core::chart::{Account, Class, ControlRole, Section};
use zf_testing::account;

#[tokio::test(flavor = "multi_thread")]
async fn class_and_section_begin_with_what_is_and_only_what_is_touched_is_staged() {
    let desk = Desk::open().await;
    let browser = &desk.browser;
    let chart = desk.books.store.snapshot(desk.books.member).await.unwrap().today.chart;
    let cost = chart.structure().of_standard(Class::Expense, Section::CostOfSales).unwrap().id;
    desk.books.apply(desk.books.stage("5010 caption cost_of_sales").await).await.unwrap();
    browser.reload().await;
    let values = "[...document.querySelectorAll('[role=dialog] select')].map((s) => s.value)";
    desk.at("5010", "fate").await;
    browser.keys("s").await;
    browser.see("#sort-section").await;
    assert_eq!(browser.ask(values).await, serde_json::json!(["expense", cost.to_string()]));
    let disabled = "document.querySelector('[role=dialog] .btn-primary').disabled";
    assert_eq!(browser.ask(disabled).await, true, "nothing is touched");
    browser.select("#sort-section", "none").await;
    browser.see_text("It would have no statement item").await;
    browser.click("[role=dialog] .btn-primary").await;
    browser.see_text("1\ncaution").await;
    browser.control("z").await;
    desk.changes(0).await;

    // Several rows that differ: each stays as it is, but for what is chosen.
    desk.at("4010", "fate").await;
    desk.select_down(2).await;
    browser.keys("s").await;
    let as_it_is = serde_json::json!(["as it is", "as it is"]);
    browser.see("#sort-section").await;
    assert_eq!(browser.ask(values).await, as_it_is);
    assert_eq!(browser.barriers().await, [""; 0]);
    browser.select("#sort-class", "expense").await;
    browser.click("[role=dialog] .btn-primary").await;
    desk.changes(1).await;
    assert!(desk.staged().await.iter().any(|one| one == "4010 class expense"));
    assert!(!desk.staged().await.iter().any(|one| one.starts_with("5010")));
    desk.browser.close().await;
}

#[tokio::test(flavor = "multi_thread")]
async fn what_was_added_is_undone_after_a_reload_and_left_as_it_is_by_its_row() {
    let desk = Desk::open().await;
    let browser = &desk.browser;
    let add = async |code: &str, name: &str| {
        desk.at("5000", "code").await;
        browser.keys("+").await;
        browser.fill("#add-code", code).await;
        browser.fill("#add-name", name).await;
        browser.click("[role=dialog] button.btn-primary").await;
        browser.see(&format!("[data-code='{code}']")).await;
    };
    desk.at("5010", "name").await;
    browser.keys(TypingData::from("Steam coal") + Key::Enter).await;
    desk.shows("5010", "name", "Steam coal").await;
    add("5015", "Coke").await;
    browser.reload().await;
    browser.see("[data-code='5015']").await;
    desk.at("5010", "code").await;
    browser.control("z").await;
    browser.gone("[data-code='5015']").await;
    desk.shows("5010", "name", "Steam coal").await;
    browser.control("y").await;
    browser.see("[data-code='5015']").await;
    // Left as it is, it is not added.
    desk.at("5015", "fate").await;
    browser.keys(Key::Delete + "").await;
    browser.gone("[data-code='5015']").await;
    desk.changes(1).await;
    // And so from the plan's own page.
    add("5016", "Peat").await;
    browser.click("nav a[href$='/plan']").await;
    browser.see_text("5016").await;
    browser.see_text("The difference is 0.00").await;
    let back = "[...document.querySelectorAll('tr')].find((row) => row.innerText.includes('5016')) \
                .querySelector('button').click() ?? true";
    browser.ask(back).await;
    browser.wait_for("!document.querySelector('main').innerText.includes('5016')", "no 5016").await;
    desk.browser.close().await;
}

#[tokio::test(flavor = "multi_thread")]
async fn names_and_codes_that_look_like_slips_and_accounts_in_use_are_cautioned() {
    let till = account("1020", "Till", Class::Asset);
    let desk = Desk::with(vec![Account { role: Some(ControlRole::Bank), ..till }]).await;
    let browser = &desk.browser;
    let till = desk.books.id("1020").await;
    let ticket = desk.books.id("4010").await;
    let day = time::macros::date!(2026 - 05 - 20);
    desk.books.post(&[desk.books.entry(day, till, ticket, 700)]).await;
    browser.reload().await;
    desk.at("5030", "name").await;
    browser.keys(TypingData::from("coal") + Key::Enter).await;
    desk.at("5030", "name").await;
    browser.see_text("5030 coal and 5010 Coal would be called the same").await;
    browser.click_words("Merge 5030 into 5010 Coal").await;
    desk.shows("5030", "fate", "merge · 0 lines").await;
    desk.at("6010", "code").await;
    browser.keys(TypingData::from("7#/?2..") + Key::Enter).await;
    desk.at("6010", "code").await;
    browser.see_text("no code of these books has the form").await;
    desk.at("1020", "fate").await;
    browser.keys("d").await;
    browser.click("[role=dialog] .btn-primary").await;
    for says in ["balance of 7.00", "books’ bank account", "has 1 line this year"] {
        browser.see_text(says).await;
    }
    desk.browser.close().await;
}

#[tokio::test(flavor = "multi_thread")]
async fn what_is_sought_is_found_however_it_is_written_and_keys_go_where_one_works() {
    let long = account("5012-0400-220", "Café takings of the summer", Class::Expense);
    let desk = Desk::with(vec![long]).await;
    let browser = &desk.browser;
    desk.books
        .apply(desk.books.stage("5020 name Firewood; 5030 fate deactivate").await)
        .await
        .unwrap();
    browser.reload().await;
    let found = async |text: &str, code: &str| {
        browser.fill("header input", text).await;
        browser.see(&format!("[data-code='{code}']")).await;
        browser.gone("[data-code='4010']").await;
    };
    found("cafe", "5012-0400-220").await;
    // The column of codes is as wide as the longest of them.
    let overlaps = "(() => { const [code, name] = [2, 3].map((n) => \
        document.querySelector(`[data-code='5012-0400-220'] .today > :nth-child(${n})`)); \
        const range = document.createRange(); range.selectNodeContents(code); \
        return range.getBoundingClientRect().right > name.getBoundingClientRect().left; })()";
    assert_eq!(browser.ask(overlaps).await, false);
    found("wood", "5020").await;
    found("5030", "5030").await;
    // A filter that leaves out what is sought says so.
    browser.select("select[aria-label='Class']", "income").await;
    browser.see_text("1 row with that code or name is left out by the filters").await;
    browser.click_words("Show them").await;
    browser.see("[data-code='5030']").await;
    // A rename while the search still had the focus: Ctrl Z is of the plan.
    browser.fill("header input", "coal").await;
    browser.see("[data-code='5010']").await;
    desk.at("5010", "name").await;
    browser.keys(TypingData::from("Steam coal") + Key::Enter).await;
    desk.shows("5010", "name", "Steam coal").await;
    browser.control("z").await;
    desk.changes(0).await;
    // The letter of the menu is not typed into what it opens.
    desk.at("5010", "fate").await;
    browser.keys(Key::Enter + "").await;
    browser.see("[role=menu]").await;
    browser.keys("m").await;
    browser.see("[role=combobox]").await;
    assert_eq!(browser.ask("document.querySelector('[role=combobox]').value").await, "");
    browser.fill("[role=combobox]", "5030").await;
    browser.see_text("deactivated; restore it first").await;
    browser.keys(Key::Escape + "").await;
    browser.fill("header input", "").await;
    browser.click("input[type=checkbox]").await;
    desk.at("5030", "fate").await;
    browser.keys("r").await;
    desk.shows("5030", "fate", "restore").await;
    desk.at("6010", "fate").await;
    browser.keys("x").await;
    desk.at("5010", "fate").await;
    browser.keys("m").await;
    browser.fill("[role=combobox]", "6010").await;
    browser.see_text("is to be deleted").await;
    browser.fill("[role=combobox]", "5030").await;
    browser.keys(Key::Enter + "").await;
    browser.see_text("Which one stays").await;
    desk.browser.close().await;
}
