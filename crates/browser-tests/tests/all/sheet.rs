//! The sheet by its keys, several rows at a time, and drafts side by side.

use crate::sheet_desk::Desk;
use thirtyfour::prelude::*;

#[tokio::test(flavor = "multi_thread")]
async fn several_rows_are_retired_regrouped_sorted_and_taken_back_at_once() {
    let desk = Desk::open().await;
    desk.at("5010", "fate").await;
    desk.select_down(2).await;
    desk.browser.keys("d").await;
    desk.say_day("2025-12-31").await;
    desk.changes(3).await;
    desk.shows("5030", "fate", "deactivate from 31 Dec 25").await;
    desk.browser.keys(Key::Delete + "").await;
    desk.changes(0).await;

    desk.at("5010", "fate").await;
    desk.select_down(1).await;
    desk.browser.keys("g").await;
    desk.browser.fill("[role=combobox]", "office").await;
    desk.browser.keys(Key::Enter + "").await;
    desk.changes(2).await;
    desk.shows("5020", "fate", "under 6000 Office").await;
    desk.browser.control("z").await;
    desk.changes(0).await;

    desk.at("5010", "fate").await;
    desk.select_down(1).await;
    desk.browser.keys("m").await;
    desk.browser.fill("[role=combobox]", "5030").await;
    desk.browser.keys(Key::Enter + "").await;
    desk.browser.see_text("Which one stays").await;
    desk.browser.keys(Key::Enter + "").await;
    desk.changes(2).await;
    desk.browser.keys(Key::Escape + "").await;
    desk.shows("5010", "name", "5030 Diesel").await;
    desk.shows("5010", "fate", "merge · 2 lines").await;
    desk.browser.control("z").await;

    desk.at("6010", "fate").await;
    desk.browser.keys("s").await;
    // Administrative expenses: no line, and three before it.
    desk.browser.click("#sort-section option:nth-of-type(5)").await;
    desk.browser.click("[role=dialog] button.btn-primary").await;
    desk.shows("6010", "fate", "other class or item").await;
    desk.browser.close().await;
}

#[tokio::test(flavor = "multi_thread")]
async fn cells_are_typed_over_left_pasted_and_refused_with_a_reason() {
    let desk = Desk::open().await;
    desk.at("5010", "name").await;
    desk.browser.keys(TypingData::from("Steam coal") + Key::Escape).await;
    desk.shows("5010", "name", "").await;
    desk.browser.keys(TypingData::from("Steam coal") + Key::Enter).await;
    desk.shows("5010", "name", "Steam coal").await;
    // A cell as today is no change; an empty one takes the change back.
    desk.at("5010", "name").await;
    desk.browser.keys(Key::Enter + "").await;
    desk.browser.control("a").await;
    desk.browser.keys((Key::Delete + "") + Key::Enter).await;
    desk.changes(0).await;

    desk.at("5020", "code").await;
    desk.browser.keys(TypingData::from("into 9999") + Key::Enter).await;
    desk.browser.see_text("1 of 1 cells cannot be taken; they are marked").await;
    let reason = "document.querySelector(\"[data-code='5020'] .refused\").title";
    assert_eq!(desk.browser.ask(reason).await, "no account has, or ever had, the code 9999",);
    desk.at("5020", "code").await;
    desk.browser.keys(Key::Delete + "").await;
    desk.browser.wait_for("!document.querySelector('.refused')", "nothing is refused").await;
    // A code is the same however it is spaced.
    desk.at("5020", "code").await;
    desk.browser.keys(TypingData::from("into 50 10") + Key::Enter).await;
    desk.changes(1).await;
    desk.at("5020", "fate").await;
    desk.browser.keys(Key::Delete + "").await;
    desk.changes(0).await;

    desk.at("5010", "code").await;
    desk.browser.paste("5110\tSteam coal\r\n5120\tLogs\r\n").await;
    desk.changes(2).await;
    desk.shows("5020", "name", "Logs").await;
    desk.at("6010", "code").await;
    desk.browser.paste("6110\n6120\n6130").await;
    desk.browser.see_text("2 pasted rows lie below the last row and were left out").await;
    desk.browser.close().await;
}

#[tokio::test(flavor = "multi_thread")]
async fn quick_edits_go_one_after_another_into_one_plan() {
    let desk = Desk::open().await;
    let held = zf_testing::hold_plans(&desk.books.store).await;
    // Nothing is answered yet, not even the plan that the first of them begins.
    desk.at("5010", "name").await;
    desk.browser.keys(TypingData::from("Steam coal") + Key::Enter).await;
    desk.at("5020", "name").await;
    desk.browser.keys(TypingData::from("Firewood") + Key::Enter).await;
    desk.at("5010", "name").await;
    desk.browser.keys(TypingData::from("Best coal") + Key::Enter).await;
    held.rollback().await.unwrap();
    desk.shows("5010", "name", "Best coal").await;
    desk.shows("5020", "name", "Firewood").await;
    desk.changes(2).await;
    assert_eq!(desk.books.count("plan").await, 1);
    assert_eq!(desk.browser.ask("document.querySelectorAll('[role=dialog]').length").await, 0);
    // Taken back one after another, each to what was there before it.
    desk.browser.control("z").await;
    desk.shows("5010", "name", "Steam coal").await;
    desk.browser.control("z").await;
    desk.browser.control("z").await;
    desk.changes(0).await;
    desk.browser.close().await;
}

#[tokio::test(flavor = "multi_thread")]
async fn the_as_of_date_is_shown_and_another_is_laid_down() {
    let desk = Desk::open().await;
    desk.browser.see_text("as of 31 May 2026").await;
    desk.browser.click("header button[title^='Choose up to which day']").await;
    desk.browser.see_text("The last day that counts").await;
    assert_eq!(desk.browser.barriers().await, [""; 0]);
    desk.browser.select("[role=dialog] select", "2026-02-28").await;
    // To only look lays nothing down, and is left again.
    desk.browser.click_words("Only look").await;
    desk.browser.see_text("shown as of 28 February 2026").await;
    desk.browser.reload().await;
    desk.browser.see_text("shown as of 28 February 2026").await;
    desk.browser.click_words("back to the books").await;
    desk.browser.see_text("as of 31 May 2026").await;
    desk.browser.click("header button[title^='Choose up to which day']").await;
    desk.browser.select("[role=dialog] select", "2026-02-28").await;
    desk.browser.click_words("Set the day").await;
    desk.browser.see_text("as of 28 February 2026").await;
    desk.browser.see_text("2 lines dated ahead").await;
    desk.browser.close().await;
}

#[tokio::test(flavor = "multi_thread")]
async fn rows_are_added_found_folded_and_shown_by_class_and_period() {
    let desk = Desk::open().await;
    desk.at("5000", "code").await;
    desk.browser.keys("+").await;
    desk.browser.fill("#add-code", "5010").await;
    desk.browser.see_text("belongs to Coal").await;
    desk.browser.fill("#add-code", "5040").await;
    desk.browser.see_text("free, between").await;
    desk.browser.fill("#add-name", "Gas").await;
    desk.browser.click("[role=dialog] button.btn-primary").await;
    desk.browser.see_text("not in today’s chart").await;
    desk.changes(1).await;

    desk.at("5000", "code").await;
    desk.browser.keys(" ").await;
    desk.browser.keys("?").await;
    desk.browser.see_text("Fill down; codes count on").await;
    desk.browser.keys(Key::Escape + "").await;
    desk.browser.click("[aria-label='Class'] option[value='income']").await;
    desk.browser
        .wait_for("document.querySelectorAll('[role=row][data-code]').length === 1", "income")
        .await;
    desk.browser.click("[aria-label='Class'] option[value='']").await;

    // The period of the net change is chosen; the balance is not touched by it.
    let figures = "[...document.querySelectorAll(\"[data-code='5010'] .num\")].map((n) => n.innerText.trim()).slice(-2).join(' ')";
    assert_eq!(desk.browser.ask(figures).await, "125.00 125.00");
    desk.browser.click_words("Net change").await;
    desk.browser.click("#from option:last-child").await;
    desk.browser.wait_for(&format!("{figures} === '125.00 25.00'"), "May alone").await;
    desk.browser.close().await;
}

#[tokio::test(flavor = "multi_thread")]
async fn drafts_stand_side_by_side() {
    let desk = Desk::open().await;
    desk.at("5010", "name").await;
    desk.browser.keys(TypingData::from("Steam coal") + Key::Enter).await;
    desk.changes(1).await;
    desk.browser.click("footer [aria-haspopup=menu]").await;
    desk.browser.click_words("Begin a plan").await;
    desk.browser.fill("[aria-label='Name of the plan']", "Winter").await;
    desk.browser.click("[role=dialog] button.btn-primary").await;
    desk.browser.see_text("“Winter”").await;
    desk.changes(0).await;
    desk.browser.click("footer [aria-haspopup=menu]").await;
    desk.browser.click_words("Rename this plan").await;
    desk.browser.fill("[aria-label='Name of the plan']", "Summer").await;
    desk.browser.click("[role=dialog] button.btn-primary").await;
    desk.browser.see_text("“Summer”").await;
    desk.browser.click("footer [aria-haspopup=menu]").await;
    desk.browser.click_words("First draft").await;
    desk.changes(1).await;
    // The draft that was open is open again after a reload.
    desk.browser.go(&format!("/books/{}/chart", desk.books.member.books())).await;
    desk.changes(1).await;
    desk.browser.click("footer [aria-haspopup=menu]").await;
    desk.browser.click_words("Discard this plan").await;
    desk.browser.see_text("Everything staged in “First draft” is dropped").await;
    desk.browser.click("[role=dialog] button.btn-primary").await;
    desk.browser.see_text("“Summer”").await;
    let plans = desk.books.store.plans(desk.books.member).await.unwrap();
    assert_eq!(plans.iter().map(|p| p.name.as_str()).collect::<Vec<_>>(), ["Summer"]);
    desk.browser.close().await;
}

#[tokio::test(flavor = "multi_thread")]
async fn a_crosswalk_from_a_spreadsheet_fills_the_plan() {
    let desk = Desk::open().await;
    let folder = std::env::temp_dir().join(format!("zerofold-crosswalk-{}", std::process::id()));
    std::fs::create_dir_all(&folder).unwrap();
    let file = folder.join("autumn-map.csv");
    let text = "Our new codes;;\nOld code;New code;New name\n5010;5020;\n5020;5010;Logs\n5030;5020;\n4711;1;\n";
    std::fs::write(&file, text).unwrap();
    desk.browser.go(&format!("/books/{}/import", desk.books.member.books())).await;
    desk.browser.click("input[value='crosswalk']").await;
    desk.browser.choose_file(&file).await;
    desk.browser.see_text("no account has, or ever had, the code 4711").await;
    desk.browser.see_text("Headings in row 2").await;
    let stopped = "document.querySelector('footer .btn-primary').disabled";
    assert_eq!(desk.browser.ask(stopped).await, true, "misfits are left out by choice only");
    desk.browser.click("footer [type=checkbox]").await;
    desk.browser.click_words("Stage 3 rows").await;
    desk.browser.see_text("autumn-map").await;
    desk.browser.see_text("Every change").await;
    desk.browser.click("nav a[href$='/chart']").await;
    desk.shows("5010", "code", "5020").await;
    desk.shows("5020", "name", "Logs").await;
    desk.shows("5030", "name", "5020 Coal").await;
    desk.browser.close().await;
    std::fs::remove_dir_all(folder).unwrap();
}

#[tokio::test(flavor = "multi_thread")]
async fn a_chart_is_restructured_by_keys_alone() {
    let desk = Desk::open().await;
    let browser = &desk.browser;
    // Three rows that are found together, from another start.
    desk.find("50").await;
    browser.keys(Key::Down + "").await;
    desk.select_down(2).await;
    browser.keys("n").await;
    browser.see_text("Number map").await;
    desk.type_at("[aria-label='Start at']", "5110").await;
    browser.see_text("5130").await;
    desk.press("section .btn-primary").await;
    desk.changes(3).await;

    // What was posted until March goes to another account.
    desk.find("5010").await;
    browser.keys("h").await;
    browser.see_text("Both sides, year by year").await;
    browser.tab_to("[aria-label='Until']").await;
    browser.keys("03312026").await;
    desk.press("button[aria-label^='Part 1 goes to']").await;
    browser.wait_for("document.activeElement?.matches('[role=combobox]')", "the picker").await;
    browser.keys(TypingData::from("5020") + Key::Enter).await;
    browser.see_text("1 line").await;
    desk.press("section .btn-primary").await;
    browser.see_text("staged in").await;

    // Two that are not used go.
    desk.find("5030").await;
    browser.keys("d").await;
    browser.see("[role=dialog] input[type=date]").await;
    browser.keys(Key::Enter + "").await;
    browser.gone("[role=dialog]").await;
    desk.find("6010").await;
    browser.keys("x").await;
    // Four rows and a part of a history.
    desk.changes(5).await;

    desk.press("footer button.btn-primary").await;
    browser.wait_for("!!document.querySelector('[role=dialog]')", "the dialog").await;
    browser.tab_to("[role=dialog] [type=checkbox]").await;
    browser.keys(" ").await;
    desk.press("[role=dialog] button.btn-primary").await;
    browser.see_text("Proof of “First draft”").await;
    browser.see_text("History moved").await;
    let presents = |code: &'static str| async {
        let today = desk.books.store.snapshot(desk.books.member).await.unwrap().today;
        today.figures_of(desk.books.id(code).await).all.net()
    };
    assert_eq!((presents("5110").await, presents("5120").await), (2_500, 10_000));
    desk.books.must_recount().await;

    // Every year as it is now, with the retired account's in its place.
    desk.press("nav a[href$='/reports']").await;
    browser.see_text("Income statement").await;
    browser.click_words("Open all items").await;
    browser.see_text("5120").await;
    assert_eq!(browser.barriers().await, [""; 0]);
    desk.browser.close().await;
}
