//! From files to a proved zero and back, once by mouse and once without a single mouse event, and
//! two people in one plan.

use thirtyfour::prelude::*;
use time::macros::date;
use zf_browser_tests::{Browser, Site, scenario_files};
use zf_core::access::Role;
use zf_core::chart::{Account, Class};
use zf_core::code::Code;
use zf_core::history::{Part, Split, Which};
use zf_core::plan::Change;
use zf_testing::{Books, account};

/// The cell on the After side of the row of a code.
fn cell(code: &str, column: &str) -> String {
    format!("[data-code='{code}'] [data-column='{column}']")
}

async fn find(browser: &Browser, text: &str) {
    browser.fill("header input", text).await;
    browser.see(&cell(text, "code")).await;
}

#[tokio::test(flavor = "multi_thread")]
async fn by_mouse() {
    let files = scenario_files();
    let site = Site::open(&[("ann@books.example", "Ann Tester")]).await;
    let browser = Browser::open(&site).await;
    browser.go("/").await;
    browser.fill("input[type=email]", "ann@books.example").await;
    browser.fill("input[type=password]", "wrong").await;
    browser.click_words("Sign in").await;
    browser.see_text("The e-mail address or the password is wrong").await;
    browser.sign_in("ann@books.example").await;

    // New books, a chart with a heading that nothing recognises, a journal and the uses.
    browser.click_words("Open new books").await;
    browser.fill("#name", "Larkfell Valley Railway").await;
    browser.fill("#day", "1").await;
    browser.click("select option[value='2']").await;
    browser.click_words("Open the books").await;
    browser.see_text("Import a file").await;
    browser.choose_file(&files.join("chart.xlsx")).await;
    browser.see_text("Asked for by").await;
    browser.click_words("Store 690 rows").await;
    browser.see_text("690 rows of chart.xlsx stored").await;
    browser.choose_file(&files.join("journal.csv")).await;
    browser.see_text("What it comes to").await;
    browser.click_words("Store 1").await;
    browser.see_text("of journal.csv stored").await;
    browser.click("input[value='usage']").await;
    browser.choose_file(&files.join("where-used.csv")).await;
    browser.click_words("Store").await;
    browser.see_text("of where-used.csv stored").await;
    browser.click_words("Look at the chart").await;

    // Rename in place, merge by the menu, and the stop that a taken code is.
    find(&browser, "5010").await;
    browser.double_click(&cell("5010", "name")).await;
    browser.keys(TypingData::from(" and briquettes") + Key::Enter).await;
    browser.see_text("1 change").await;
    find(&browser, "5012").await;
    browser.double_click(&cell("5012", "fate")).await;
    browser.click_words("Merge into another account").await;
    browser.fill("[role=combobox]", "5010").await;
    browser.click("[role=option]").await;
    browser.see_text("Which one stays").await;
    browser.click_words("Stage this merge").await;
    browser.see_text("Staged in").await;
    browser.click("nav a[href$='/chart']").await;
    browser.see_text("↳ into").await;
    find(&browser, "5020").await;
    browser.retype(&cell("5020", "code"), "5025").await;
    browser.see_text("code is taken").await;
    browser.click(&cell("5020", "code")).await;
    browser.click_words("Use 5026").await;
    browser.see_text("0\nstops").await;
    browser.fill("header input", "").await;
    browser.click("nav a[href$='/plan']").await;
    browser.see_text("Nothing. The difference is 0.00.").await;
    browser.see_text("Coal & firewood").await;
    browser.click_words("Trial balance, today and after").await;
    browser.see_text("All accounts").await;

    // Apply, proof, and the way back.
    browser.click_words("Apply 3 changes").await;
    browser.click("[role=dialog] [type=checkbox]").await;
    browser.click("[role=dialog] button.btn-primary").await;
    browser.see_text("Proof of “First draft”").await;
    let green = browser.see(".text-success").await.text().await.unwrap();
    assert_eq!(green, "0.00");
    browser.wait_for("!document.body.innerText.includes('not yet')", "recounted").await;
    let download = "fetch(document.querySelector('a[download]').href).then(r => r.blob()).then(b => window.size = b.size)";
    browser.ask(download).await;
    browser.wait_for("window.size > 5000", "a workbook").await;

    // The old code finds the survivor, whose card tells what was posted under which code.
    browser.click("nav a[href$='/chart']").await;
    browser.fill("header input", "5012").await;
    browser.see(&cell("5010", "code")).await;
    browser.double_click("[data-code='5010'] [role=gridcell]:nth-child(3)").await;
    browser.see_text("Former codes").await;
    for page in 2..=4 {
        browser.click_words("Earlier").await;
        browser.see_text(&format!("page {page} of")).await;
    }
    browser.see_text("posted under 5012").await;
    browser.click("aside button[aria-label='Close']").await;
    browser.click("nav a[href$='/trail']").await;
    browser.see_text("applied “First draft”").await;
    browser.click_words("Proof").await;
    browser.click_words("Rehearse the undo").await;
    browser.click_words("Undo the plan").await;
    browser.see_text("Proof of “Undo of “First draft””").await;
    browser.click("nav a[href$='/trail']").await;
    browser.see_text("undid “First draft”").await;
    browser.close().await;
}

#[tokio::test(flavor = "multi_thread")]
async fn without_a_mouse() {
    let files = scenario_files();
    let site = Site::open(&[("ann@books.example", "Ann Tester")]).await;
    let browser = Browser::open(&site).await;
    browser.sign_in("ann@books.example").await;
    let watch = "(sessionStorage.mouse ??= '0', addEventListener('pointerdown', () => sessionStorage.mouse++, true))";
    browser.ask(watch).await;
    browser.tab_to("main button").await;
    browser.keys(Key::Enter + "").await;
    browser.see("#name").await;
    browser.keys("Larkfell").await;
    browser.tab_to("select").await;
    browser.keys("February").await;
    browser.tab_to("[role=dialog] button.btn-primary").await;
    browser.keys(Key::Enter + "").await;
    browser.see_text("Import a file").await;
    for (file, kind) in [("chart.csv", "chart"), ("journal.csv", "journal")] {
        browser.see(&format!("input[value='{kind}']:checked")).await;
        browser.choose_file(&files.join(file)).await;
        browser.see_text("nothing is stored yet").await;
        browser.tab_to("footer button.btn-primary").await;
        browser.keys(Key::Enter + "").await;
        browser.see_text(&format!("of {file} stored")).await;
    }
    browser.tab_to("nav a[href$='/chart']").await;
    browser.keys(Key::Enter + "").await;
    browser.see("[role=grid]").await;
    let to = async |code: &str| {
        browser.keys("/").await;
        browser.control("a").await;
        browser.keys(code).await;
        browser.see(&cell(code, "code")).await;
        browser.keys(Key::Enter + "").await;
        browser.wait_for("document.activeElement.matches('[role=grid]')", "the sheet").await;
    };
    to("5010").await;
    browser.keys(TypingData::from("5011") + Key::Enter).await;
    browser.see_text("1\nchange").await;
    to("5012").await;
    browser.keys(TypingData::from("into 5010") + Key::Enter).await;
    browser.see_text("2\nchanges").await;
    to("1250").await;
    browser.keys((Key::Right + "") + Key::Right + "x").await;
    browser.see_text("3\nchanges").await;
    browser.control("z").await;
    browser.see_text("2\nchanges").await;

    // A block of 500 names, of which two cannot be taken; they are marked and explained.
    browser.keys("/").await;
    browser.control("a").await;
    browser.keys(Key::Delete + "").await;
    browser.keys(Key::Enter + "").await;
    browser.wait_for("document.activeElement.matches('[role=grid]')", "the sheet").await;
    let chain = [Key::Left, Key::Left, Key::Right, Key::Down];
    for key in chain {
        browser.keys(key + "").await;
    }
    let long = "x".repeat(201);
    let names: Vec<String> = (0..500)
        .map(|n| if n % 250 == 3 { long.clone() } else { format!("Renamed {n}") })
        .collect();
    browser.paste(&names.join("\n")).await;
    browser.see_text("2 of 500 cells cannot be taken; they are marked").await;
    browser.see_text("498\nchanges").await;
    browser.control(Key::Home + "").await;
    browser.see(".cell.refused").await;
    browser.control("z").await;
    browser.see_text("2\nchanges").await;

    // Fill down: codes count on.
    browser.keys("/").await;
    browser.control("a").await;
    browser.keys("Dog").await;
    browser.see(&cell("4040", "code")).await;
    browser.keys(Key::Enter + "").await;
    browser.keys(Key::Left + "").await;
    browser.keys(Key::Left + "").await;
    browser.keys(TypingData::from("4090") + Key::Enter).await;
    browser.see_text("3\nchanges").await;

    browser.tab_to("footer button.btn-primary").await;
    browser.keys(Key::Enter + "").await;
    browser.see("[role=dialog] [type=checkbox]").await;
    browser.tab_to("[role=dialog] [type=checkbox]").await;
    browser.keys(" ").await;
    browser.tab_to("[role=dialog] button.btn-primary").await;
    browser.keys(Key::Enter + "").await;
    browser.see_text("Proof of “First draft”").await;
    browser.tab_to("aside button").await;
    browser.keys(Key::Enter + "").await;
    browser.see_text("Undo “First draft”?").await;
    browser.tab_to("[role=dialog] button.btn-primary").await;
    browser.keys(Key::Enter + "").await;
    browser.see_text("Proof of “Undo of “First draft””").await;
    assert_eq!(browser.ask("sessionStorage.mouse").await, "0", "not a single mouse event");
    browser.close().await;
}

#[tokio::test(flavor = "multi_thread")]
async fn two_people_in_one_plan_see_each_others_changes_before_anything_is_overwritten() {
    let site =
        Site::open(&[("ann@books.example", "Ann Tester"), ("bob@books.example", "Bob Tester")])
            .await;
    let ann = site.store.person_by_email("ann@books.example").await.unwrap().unwrap().id;
    let bob = site.store.person_by_email("bob@books.example").await.unwrap().unwrap().id;
    let books = Books::railway_of(site.store.clone(), ann).await;
    books.add_member(bob, &[Role::Preparer]).await;
    let plan = books.stage("5030 name Gas oil").await;
    let path = format!("/books/{}/chart", books.member.books());
    let (first, second) = (Browser::open(&site).await, Browser::open(&site).await);
    for (browser, email) in [(&first, "ann@books.example"), (&second, "bob@books.example")] {
        browser.sign_in(email).await;
        browser.go(&path).await;
        browser.see(&cell("5010", "code")).await;
    }
    for (browser, code) in [(&first, "5110"), (&second, "5120")] {
        browser.retype(&cell("5010", "code"), code).await;
        if code == "5110" {
            // The sum line follows.
            browser.see_text("3\nchanges").await;
        }
    }
    second.see_text("Somebody else changed this too").await;
    let shown = second.see("[role=dialog] tbody").await.text().await.unwrap();
    for value in ["5010", "5110", "5120", "Ann"] {
        assert!(shown.contains(value), "{value} is not in: {shown}");
    }
    second.click_words("Use mine").await;
    second.wait_for("document.querySelector(\"[data-code='5010'] [data-column='code']\").innerText === '5120'", "5120").await;

    // Merges and parts of histories are said in words as well.
    for (browser, typed) in [(&first, "into 5010"), (&second, "into 5040")] {
        browser.retype(&cell("5020", "code"), typed).await;
        if typed == "into 5010" {
            let merges =
                "document.querySelector(\"[data-code='5020']\").innerText.includes('merge')";
            browser.wait_for(merges, "5020 is merged").await;
        }
    }
    second.see_text("merge into 5120 Coal").await;
    second.see_text("merge into 5040 Oil").await;
    second.click_words("Keep theirs").await;
    let oil = books.id("5040").await;
    second.go(&format!("/books/{}/move/{oil}", books.member.books())).await;
    second.see_text("No line stays behind").await;
    let which = Which { until: Some(date!(2026 - 03 - 31)), ..Which::default() };
    let parts = vec![Part { which, to: books.id("5030").await }];
    let split = Change::History(Split { parts, ranked: false });
    books.stage_changes(plan, vec![(oil, split)]).await;
    second.click("button[aria-label^='Part 1 goes to']").await;
    second.fill("[role=combobox]", "6010").await;
    second.keys(Key::Enter + "").await;
    second.click("section .btn-primary").await;
    second.see_text("until 31 Mar 2026 to 5030 Gas oil").await;
    second.see_text("all lines to 6010 Telephone").await;
    assert_eq!(second.barriers().await, [""; 0]);
    first.close().await;
    second.close().await;
}

#[tokio::test(flavor = "multi_thread")]
async fn a_crosswalk_of_several_pages_is_shown_whole_in_plan_and_proof() {
    const ROWS: usize = 450;
    let site = Site::open(&[("ann@books.example", "Ann Tester")]).await;
    let ann = site.store.person_by_email("ann@books.example").await.unwrap().unwrap().id;
    let code = |n: usize| (1000 + n).to_string();
    let accounts =
        (0..ROWS).map(|n| account(&code(n), &format!("Shed {n}"), Class::Asset)).collect();
    let books = Books::open(site.store.clone(), String::new(), ann, accounts).await;
    let chart = books.store.snapshot(books.member).await.unwrap().today.chart;
    let renumbered = |a: &Account| Code::parse(&format!("7{}", a.code)).unwrap();
    let changes = chart.live().map(|a| (a.id, Change::Code(renumbered(a)))).collect();
    let plan = books.store.create_plan(books.member, "Move up").await.unwrap();
    books.stage_changes(plan, changes).await;

    let browser = Browser::open(&site).await;
    browser.sign_in("ann@books.example").await;
    browser.go(&format!("/books/{}/plan", books.member.books())).await;
    let last = format!("document.body.innerText.includes('7{}')", code(ROWS - 1));
    browser.wait_for(&last, "the last row of the plan").await;
    browser.click_words("Apply 450 changes").await;
    browser.click("[role=dialog] button.btn-primary").await;
    browser.see_text("Proof of “Move up”").await;
    browser.wait_for(&last, "the last row of the proof").await;
    let rows = "[...document.querySelectorAll('td:nth-child(3)')].filter(td => td.innerText.startsWith('71')).length";
    assert_eq!(browser.ask(rows).await, ROWS);
    browser.close().await;
}
