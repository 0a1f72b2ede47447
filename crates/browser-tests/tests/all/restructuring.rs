//! Merging by hand, numbering schemes and the map, new accounts, and what is retired or followed.

use crate::sheet_desk::Desk;
use thirtyfour::prelude::*;
use zf_core::chart::Class;

async fn has_no_barriers(desk: &Desk) {
    let barriers = desk.browser.barriers().await;
    assert!(barriers.is_empty(), "{barriers:?}");
}

#[tokio::test(flavor = "multi_thread")]
async fn a_merge_keeps_what_was_picked_of_each_and_goes_back_whole() {
    let desk = Desk::open().await;
    let browser = &desk.browser;
    desk.at("5010", "fate").await;
    desk.select_down(2).await;
    browser.keys("m").await;
    browser.fill("[role=combobox]", "6010").await;
    browser.keys(Key::Enter + "").await;
    browser.see_text("Which one stays").await;
    browser.see_text("3 accounts would go into 6010").await;
    has_no_barriers(&desk).await;
    // One of them is left out, the code of another is kept, and a name that none has.
    browser.click("[aria-label='5030 is part of the merge']").await;
    browser.see_text("2 accounts would go into 6010").await;
    browser.click("[title='Keep this code'][aria-pressed=false]").await;
    browser.fill("[aria-label='New name']", "Fuel and wood").await;
    browser.click_words("Stage this merge").await;
    browser.see_text("Staged in “First draft”").await;
    desk.changes(3).await;
    let edits = desk.staged().await;
    assert_eq!(edits, ["5010 fate", "5020 fate", "6010 code 5010", "6010 name Fuel and wood"]);
    browser.click_words("Undo the merge").await;
    desk.changes(0).await;
    assert_eq!(desk.staged().await, [""; 0], "the code and the name went with it");
    desk.browser.close().await;
}

#[tokio::test(flavor = "multi_thread")]
async fn a_merge_of_nothing_yet_asks_for_the_first_account() {
    let desk = Desk::open().await;
    let browser = &desk.browser;
    browser.go(&format!("/books/{}/merge", desk.books.member.books().0)).await;
    browser.see_text("No accounts are chosen yet").await;
    has_no_barriers(&desk).await;
    browser.click_words("Choose the first…").await;
    browser.see_text("Which account?").await;
    browser.fill("[role=combobox]", "6010").await;
    browser.keys(Key::Enter + "").await;
    browser.see_text("Which one stays").await;
    browser.click_words("Another account…").await;
    browser.see_text("Which account as well?").await;
    desk.browser.close().await;
}

#[tokio::test(flavor = "multi_thread")]
async fn a_scheme_is_laid_down_and_accounts_are_fitted_into_it_from_the_map() {
    let desk = Desk::open().await;
    let browser = &desk.browser;
    browser.click_words("Renumber").await;
    browser.see_text("Number map").await;
    browser.click_words("Numbering scheme").await;
    browser.see_text("Set the scheme").await;
    // Two blocks that claim the same codes are refused by their names.
    for n in 1.. {
        if browser.ask("document.querySelectorAll('[aria-label^=Remove]').length").await == 0 {
            break;
        }
        assert!(n < 40, "blocks stay");
        browser.click("[aria-label='Remove block 1']").await;
    }
    let blocks =
        [("asset", "1000 to 1999"), ("income", "4000 to 4999"), ("expense", "4900 to 7999")];
    for (n, (class, codes)) in (1..).zip(blocks) {
        browser.click_words("Another block").await;
        browser.select(&format!("[aria-label='Class of block {n}']"), class).await;
        browser.fill(&format!("[aria-label='Codes of block {n}']"), codes).await;
    }
    browser.click_words("Set the scheme").await;
    browser.see_text("4000 to 4999 for income and 4900 to 7999 for expense overlap").await;
    browser.fill("[aria-label='Codes of block 3']", "7000 to 7999").await;
    has_no_barriers(&desk).await;
    browser.click_words("Set the scheme").await;
    browser.wait_for("!document.querySelector('[role=dialog]')", "the dialog closed").await;
    let policy = desk.books.store.snapshot(desk.books.member).await.unwrap().today.policy;
    assert_eq!(policy.blocks_of(Class::Expense, None)[0].to_string(), "7000 to 7999");

    browser.select("[aria-label='Whom the rule is for']", "class").await;
    browser.select("[aria-label='Class']", "expense").await;
    browser.select("[aria-label='Rule']", "fit").await;
    browser.see_text("6 strays would come home").await;
    browser.click("section .btn-primary").await;
    desk.changes(6).await;
    let edits = desk.staged().await;
    assert!(edits.iter().all(|edit| edit.contains(" code 7")), "{edits:?}");
    desk.browser.close().await;
}

#[tokio::test(flavor = "multi_thread")]
async fn a_new_account_is_told_what_is_free_and_who_stands_beside_it() {
    let desk = Desk::open().await;
    let browser = &desk.browser;
    desk.at("5010", "name").await;
    browser.keys("+").await;
    browser.see_text("Add to the chart").await;
    browser.fill("#add-code", "5020").await;
    browser.see_text("belongs to Wood").await;
    browser.fill("#add-code", "5015").await;
    browser.see_text("free, between 5010 Coal and 5020 Wood").await;
    browser.fill("#add-name", "Peat").await;
    browser.fill("#add-description", "Cut on the moor").await;
    has_no_barriers(&desk).await;
    browser.click_words("Stage the new row").await;
    desk.changes(1).await;
    // It can be picked at once, and says what it is for.
    desk.at("5010", "fate").await;
    browser.keys("h").await;
    browser.see_text("Both sides, year by year").await;
    browser.click("button[aria-label^='Part 1 goes to']").await;
    browser.fill("[role=combobox]", "Peat").await;
    browser.see_text("Cut on the moor").await;
    desk.browser.close().await;
}

#[tokio::test(flavor = "multi_thread")]
async fn what_is_retired_leaves_the_lists_but_is_found_and_restored() {
    let desk = Desk::open().await;
    let browser = &desk.browser;
    let plan = desk.books.stage("5020 fate archive; 5030 fate deactivate").await;
    desk.books.apply(plan).await.unwrap();
    browser.reload().await;
    browser.see_text("2 retired").await;
    let rows = "document.querySelectorAll('[data-code=\"5020\"], [data-code=\"5030\"]').length";
    assert_eq!(browser.ask(rows).await, 0);
    // A picker says of them why not.
    desk.at("5010", "fate").await;
    browser.keys("m").await;
    browser.fill("[role=combobox]", "50").await;
    browser.see_text("archived; restore it first").await;
    let open = "!document.querySelector('[role=option]:not([data-disabled])')";
    browser.wait_for(open, "nobody to merge with").await;
    browser.keys(Key::Escape + "").await;
    // A search finds them, told apart by a word, and so does a switch.
    browser.fill("header input", "5020").await;
    browser.see_text("archived").await;
    browser.fill("header input", "").await;
    browser.click("input[type=checkbox]").await;
    browser.see("[data-code='5030']").await;
    desk.at("5030", "fate").await;
    browser.keys("r").await;
    desk.shows("5030", "fate", "restore").await;
    // Somebody keeps an eye on another.
    desk.at("5010", "fate").await;
    browser.keys(" ").await;
    browser.click_words("Follow").await;
    browser.see_text("Follow no longer").await;
    let followed = desk.books.store.followed(desk.books.member).await.unwrap();
    assert_eq!(followed, [desk.books.id("5010").await.0]);
    desk.browser.close().await;
}
