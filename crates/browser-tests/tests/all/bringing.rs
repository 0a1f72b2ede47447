//! Files beside books that are there already, as a person goes about it: compared, mapped, typed over,
//! and taken back.

use crate::desk::Desk;
use thirtyfour::prelude::*;

const CHART: &str = "Code,Name,Class,Control role\n1010,Bank,Asset,bank\n3000,Capital,Equity,\n\
                     3090,Unexplained,Equity,opening difference\n5010,Coal,Expense,\n5020,Oil,Expense,\n";

const JOURNAL: &str = "Entry,Date,Code,Name,Debit,Credit\nA1,2026-04-03,1010,,1250,\n\
                       A1,2026-04-03,3000,,,1250\nA2,2026-04-05,5010,,52,\nA2,2026-04-05,1010,,,52\n";

/// Books with a chart of five accounts.
async fn desk(name: &str) -> Desk {
    let desk = Desk::open(name).await;
    desk.open_books().await;
    desk.choose("chart.csv", CHART).await;
    desk.browser.click_words("Store 5 rows").await;
    desk.browser.see_text("5 rows of chart.csv stored").await;
    desk
}

async fn pick_kind(browser: &zf_browser_tests::Browser, kind: &str) {
    browser.click(&format!("input[type=radio][value={kind}]")).await;
}

#[tokio::test(flavor = "multi_thread")]
async fn a_pasted_chart_is_compared_with_the_books_and_staged_in_part() {
    let desk = desk("comparing").await;
    let browser = &desk.browser;
    pick_kind(browser, "chart").await;
    // A block copied from a spreadsheet: one renamed, one new, one gone, one with a wrong class.
    browser
        .paste("Code\tName\tClass\n1010\tBank\tAsset\n3000\tCapital\tEquity\n3090\tUnexplained\tEquity\n5010\tSteam coal\tExpense\n5030\tDiesel\tExpense\n5040\tTar\tGoo")
        .await;
    browser.see_text("1 account changed in the file").await;
    browser.see_text("1 account new in the file").await;
    browser.see_text("1 account not in the file").await;
    browser.see_text("Steam coal").await;
    let barriers = browser.barriers().await;
    assert!(barriers.is_empty(), "{barriers:?}");
    let stage = "document.querySelector('footer .btn-primary').disabled";
    assert_eq!(browser.ask(stage).await, true, "the rejected row is left out by choice only");
    browser.click_words("leave the 1 rejected row out").await;
    browser
        .select("[aria-label='What becomes of accounts that are not in the file']", "deactivate")
        .await;
    browser.see_text("Stage 3 accounts").await;
    // The new one is not wanted after all.
    browser.click("[aria-label='Take row 6']").await;
    browser.click_words("Stage 2 accounts").await;
    browser.see_text("pasted block").await;
    browser.see_text("Steam coal").await;
    browser.see_text("Deactivated").await;
    assert!(!browser.text().await.contains("Diesel"));
    desk.close().await;
}

#[tokio::test(flavor = "multi_thread")]
async fn codes_nobody_bears_are_mapped_or_added_and_the_file_is_taken_back() {
    let desk = desk("mapping").await;
    let browser = &desk.browser;
    let journal =
        JOURNAL.replace("5010,", "9100,Peat").replace("A1,2026-04-03,3000", "A1,2026-04-03,3001");
    desk.choose("april.csv", journal.clone()).await;
    browser.see_text("2 codes nobody bears").await;
    // By keyboard: it stands for an account that is found by its name.
    browser.tab_to("li button.btn-quiet").await;
    browser.keys(Key::Enter).await;
    browser.see("input[role=combobox]").await;
    browser.keys("capital" + Key::Enter).await;
    browser.see_text("1 code nobody bears").await;
    browser.select("[aria-label='Add 9100 as a new account']", "expense").await;
    browser.see_text("4\nready").await;
    browser.see_text("new: Peat, expense").await;
    let barriers = browser.barriers().await;
    assert!(barriers.is_empty(), "{barriers:?}");
    browser.click_words("Store 4 rows").await;
    browser.see_text("4 rows of april.csv stored").await;

    // The same lines are not stored twice unseen.
    let again = journal.replace("A1,", "B1,").replace("A2,", "B2,");
    desk.choose("again.csv", again).await;
    browser.see_text("The same lines were stored before").await;
    let stopped = "document.querySelector('footer .btn-primary').disabled";
    assert_eq!(browser.ask(stopped).await, true);
    browser.click_words("Leave the file").await;

    browser.see_text("Imported before").await;
    browser.click_words("Undo import…").await;
    browser.see_text("2 entries with 4 lines and 1 account").await;
    browser.click_words("Undo the import").await;
    browser.see_text("undone").await;
    // Its chart is still leant on by nothing, and the codes it mapped are remembered.
    desk.choose("april.csv", JOURNAL).await;
    browser.see_text("Debits\n1,302.00").await;
    desk.close().await;
}

#[tokio::test(flavor = "multi_thread")]
async fn balances_are_typed_open_the_books_and_agree_with_the_journal() {
    let desk = desk("balances").await;
    let browser = &desk.browser;
    pick_kind(browser, "balances").await;
    browser.click_words("Type them in, account by account").await;
    for (row, at, amount) in [(2, 3, "1,000.00"), (3, 4, "990.00")] {
        let cell =
            format!("table.file tbody tr:nth-child({}) td:nth-child({}) button", row - 1, at + 1);
        browser.double_click(&cell).await;
        browser.see("table.file input").await;
        browser.keys(amount + Key::Enter).await;
        browser.see_text(if row == 2 { "Gap\n1,000.00" } else { "Gap\n10.00" }).await;
    }
    browser.fill("#source-total", "1,000").await;
    browser.see_text("The debits are what the source document says").await;
    browser.fill("#source-total", "999").await;
    browser.see_text("and not what the source document says").await;
    let stopped = "document.querySelector('footer .btn-primary').disabled";
    assert_eq!(
        browser.ask(stopped).await,
        true,
        "a day is missing, and the gap goes nowhere by itself"
    );
    browser.click_words("takes the gap of 10.00").await;
    browser
        .ask("(() => { const d = document.querySelector('input[type=date]'); d.value = '2026-02-01'; d.dispatchEvent(new Event('input', { bubbles: true })); return true })()")
        .await;
    let barriers = browser.barriers().await;
    assert!(barriers.is_empty(), "{barriers:?}");
    browser.click_words("Store 3 opening balances").await;
    browser.see_text("stored").await;

    pick_kind(browser, "balances").await;
    desk.choose("trial.csv", "Code,Debit,Credit\n1010,1000,\n3000,,995\n3090,,10\n").await;
    browser.see_text("2 accounts agree, 1 differs").await;
    browser.see_text("−5.00").await;
    desk.close().await;
}

#[tokio::test(flavor = "multi_thread")]
async fn an_audit_file_brings_its_chart_and_then_its_journal() {
    let desk = Desk::open("audit").await;
    let browser = &desk.browser;
    desk.open_books().await;
    let entries = "JournalCode\tJournalLib\tEcritureNum\tEcritureDate\tCompteNum\tCompteLib\tCompAuxNum\tCompAuxLib\tPieceRef\tPieceDate\tEcritureLib\tDebit\tCredit\tEcritureLet\tDateLet\tValidDate\tMontantdevise\tIdevise\n\
        AC\tAchats\t1\t20260403\t606100\tCharbon\t\t\tF1\t20260402\tDeux tonnes\t1250,00\t0,00\t\t\t20260430\t\t\n\
        AC\tAchats\t1\t20260403\t401000\tFournisseurs\t\t\tF1\t20260402\tDeux tonnes\t0,00\t1250,00\t\t\t20260430\t\t\n";
    desk.choose("entries.txt", entries).await;
    browser.see_text("Sheet “Accounts”").await;
    browser.click_words("Store 2 rows").await;
    browser.see_text("Sheet “Journal”").await;
    browser.see_text("Debits\n1,250.00").await;
    browser.click_words("Store 2 rows").await;
    browser.see_text("2 rows of entries.txt stored").await;
    browser.click_words("Look at the chart").await;
    browser.see("[data-code='606100']").await;
    desk.close().await;
}

#[tokio::test(flavor = "multi_thread")]
async fn accounts_tell_where_they_came_from_and_files_of_a_form_are_known_again() {
    let desk = desk("origins").await;
    let browser = &desk.browser;
    // A form of its own, read as a person says it is.
    let ledger = |n: usize| {
        format!(
            "Beleg;Posted;Konto;Soll;Haben\nV{n};03/04/2026;9100;5,00;\nV{n};03/04/2026;1010;;5,00\n"
        )
    };
    desk.choose("ledger.csv", ledger(1)).await;
    browser.select("[aria-label='What “Beleg” means']", "entry").await;
    browser.click("[data-reading='dmy']").await;
    browser.select("[aria-label='Add 9100 as a new account']", "expense").await;
    browser.see_text("2\nready").await;
    browser.click_words("Store 2 rows").await;
    browser.see_text("2 rows of ledger.csv stored").await;
    desk.choose("next.csv", ledger(2)).await;
    browser.see_text("2\nready").await;
    browser.see_text("0\ncolumns not used").await;
    let dates = "document.querySelector(\"[aria-label='Dates']\").value";
    assert_eq!(browser.ask(dates).await, "dmy", "nothing is asked twice");
    browser.click_words("Leave the file").await;

    browser.see_text("Imported before").await;
    browser.click("nav a[href$='/chart']").await;
    browser.see("[data-code='9100']").await;
    let origins = "[aria-label='Where accounts came from']";
    let option =
        "[...document.querySelectorAll(\"[aria-label='Where accounts came from'] option\")]";
    let names = browser.ask(&format!("{option}.map((o) => o.textContent)")).await;
    assert_eq!(names.as_array().unwrap().len(), 3, "{names}");
    let of_ledger = format!("{option}.find((o) => o.textContent.includes('ledger')).value");
    let value = browser.ask(&of_ledger).await;
    browser.select(origins, value.as_str().unwrap()).await;
    browser
        .wait_for("!document.querySelector(\"[data-code='1010']\")", "only what came with it")
        .await;
    browser.click("[data-code='9100'] [data-column='code']").await;
    browser.keys(" ").await;
    browser.see_text("came with ledger.csv").await;
    let barriers = browser.barriers().await;
    assert!(barriers.is_empty(), "{barriers:?}");
    desk.close().await;
}

#[tokio::test(flavor = "multi_thread")]
async fn choices_made_in_one_breath_do_not_undo_each_other() {
    let desk = desk("breath").await;
    let browser = &desk.browser;
    pick_kind(browser, "journal").await;
    let ledger =
        "Beleg;Posted;Konto;Soll;Haben\nV1;03/04/2026;5010;5,00;\nV1;03/04/2026;1010;;5,00\n";
    desk.choose("ledger.csv", ledger).await;
    browser.see("[data-reading='dmy']").await;
    // Faster than any answer can come.
    let pick = |label: &str, value: &str| {
        format!(
            "{{ const s = document.querySelector(\"[aria-label='{label}']\"); s.value = '{value}';
                s.dispatchEvent(new Event('change', {{ bubbles: true }})); }}"
        )
    };
    let both = pick("What “Beleg” means", "entry")
        + "document.querySelector(\"[data-reading='dmy']\").click();";
    browser.ask(&format!("(() => {{ {both} return 1; }})()")).await;
    browser.see_text("2\nready").await;
    desk.close().await;
}

#[tokio::test(flavor = "multi_thread")]
async fn what_takes_long_says_how_far_it_is_and_can_be_stopped() {
    let desk = desk("underway").await;
    let browser = &desk.browser;
    pick_kind(browser, "journal").await;
    desk.choose("april.csv", JOURNAL).await;
    browser.see_text("Store 4 rows").await;
    // Somebody else keeps the books to themselves for a while.
    let held = zf_testing::hold(&desk.store).await;
    browser.click_words("Store 4 rows").await;
    browser.see_text("Storing april.csv").await;
    browser.see_text("rows checked").await;
    let barriers = browser.barriers().await;
    assert!(barriers.is_empty(), "{barriers:?}");
    browser.reload().await;
    browser.see_text("Storing april.csv").await;
    browser.click_words("Stop it").await;
    browser.see_text("Stopped; nothing of it was stored").await;
    held.rollback().await.unwrap();
    // It waits on, and can be stored after all.
    browser.click_words("Store 4 rows").await;
    browser.see_text("4 rows of april.csv stored").await;
    desk.close().await;
}
