//! From a statement to an entry and back, by keys and by mouse.

use crate::desk::Desk;
use thirtyfour::prelude::*;
use zf_browser_tests::Browser;

const CHART: &str = "Code,Name,Class,Caption\n1010,Bank,Asset,Cash\n4010,Fares,Income,Revenue\n\
                     5010,Coal,Expense,Running the engines\n5020,Oil,Expense,Running the engines\n";

const JOURNAL: &str = "Entry,Date,Code,Debit,Credit,Payee\nT1,2025-03-04,1010,90.00,,Day trippers\n\
                       T1,2025-03-04,4010,,90.00,Day trippers\nC1,2026-02-03,5010,25.00,,Hollin\n\
                       C1,2026-02-03,1010,,25.00,Hollin\nC2,2026-03-03,5020,5.00,,Brae\n\
                       C2,2026-03-03,1010,,5.00,Brae\n";

#[tokio::test(flavor = "multi_thread")]
async fn a_line_opens_to_its_accounts_and_their_entries() {
    let desk = Desk::open("statements").await;
    desk.open_books().await;
    desk.choose("chart.csv", CHART).await;
    desk.browser.click_words("Store 4 rows").await;
    desk.browser.see_text("4 rows of chart.csv stored").await;
    desk.choose("journal.csv", JOURNAL).await;
    desk.browser.click_words("Store 6 rows").await;
    desk.browser.see_text("6 rows of journal.csv stored").await;
    let browser = &desk.browser;
    browser.click("nav a[href$='/reports']").await;
    browser.see_text("Total expenses").await;
    browser.see_text("−30.00").await;
    let barriers = browser.barriers().await;
    assert!(barriers.is_empty(), "{barriers:?}");

    // By keys: the line opens, and an amount leads to the entries that make it up.
    browser.tab_to("tr.of-item [data-stop]").await;
    browser.keys(Key::Down + "").await;
    browser.keys(Key::Right + "").await;
    browser.see_text("Coal").await;
    browser.tab_to("a[title^='The entries of Coal']").await;
    browser.keys(Key::Enter + "").await;
    browser.see_text("Entries with lines of 5010 Coal").await;
    browser.see_text("Hollin").await;
    assert!(!browser.text().await.contains("Brae"), "of another account");
    browser.go_back().await;
    browser.see_text("Total expenses").await;

    // By mouse: the balance sheet of two months, and from a line of an entry to its account.
    browser.click_words("Balance sheet").await;
    browser.see_text("Assets less liabilities and equity").await;
    browser.select("[aria-label='Span']", "month").await;
    browser.see_text("28 February 2026").await;
    browser.click_words("Open all items").await;
    browser.click("a[title^='The entries of Bank']").await;
    browser.see_text("Day trippers").await;
    let barriers = browser.barriers().await;
    assert!(barriers.is_empty(), "{barriers:?}");
    browser.click("a[title='Entries of this account'][href*='account=']").await;
    browser.see_text("Entries with lines of").await;
    browser.fill("input[type='search']", "day trip").await;
    browser.keys(Key::Enter + "").await;
    browser.see_text("No entry is like that").await;
    browser.click_words("All entries").await;
    browser.see_text("3 entries shown").await;
    desk.close().await;
}

/// Three years of two lines that should be one.
const OIL: &str = "Entry,Date,Code,Debit,Credit\nA1,2024-05-03,5010,11.00,\nA1,2024-05-03,1010,,11.00\n\
                   A2,2025-05-03,5010,12.00,\nA2,2025-05-03,1010,,12.00\n\
                   A3,2026-03-03,5020,7.00,\nA3,2026-03-03,1010,,7.00\n\
                   A4,2025-06-03,5020,5.00,\nA4,2025-06-03,1010,,5.00\n";

/// Books with two lines that should be one.
pub(crate) async fn oiled(name: &str) -> Desk {
    let desk = Desk::open(name).await;
    desk.open_books().await;
    let chart = "Code,Name,Class,Caption\n1010,Bank,Asset,Cash\n5010,Oil,Expense,Oil and grease\n\
                 5020,Grease,Expense,Oil & grease\n";
    desk.choose("chart.csv", chart).await;
    desk.browser.click_words("Store 3 rows").await;
    desk.browser.see_text("3 rows of chart.csv stored").await;
    desk.choose("journal.csv", OIL).await;
    desk.browser.click_words("Store 8 rows").await;
    desk.browser.see_text("8 rows of journal.csv stored").await;
    desk
}

/// Marks the first two lines of the income statement by keys, and stages that they are merged.
pub(crate) async fn merge_lines(browser: &Browser) {
    browser.click("nav a[href$='/reports']").await;
    browser.see_text("Oil & grease").await;
    browser.tab_to("tr.of-item [data-stop]").await;
    browser.keys(" ").await;
    browser.see_text("Mark another to merge them").await;
    browser.keys(Key::Down + "").await;
    browser.keys(" ").await;
    browser.see_text("2 items marked").await;
    browser.click_words("Merge them…").await;
    browser.see_text("Which item stays?").await;
    let barriers = browser.barriers().await;
    assert!(barriers.is_empty(), "{barriers:?}");
    browser.click_words("Stage it").await;
    browser.see_text("What the plan moves").await;
}

#[tokio::test(flavor = "multi_thread")]
async fn two_lines_that_should_be_one_are_merged_from_the_statement_and_three_years_compared() {
    let desk = oiled("lines that look alike").await;
    let browser = &desk.browser;
    merge_lines(browser).await;
    // Three years: what each was together stands on the line that stays, and every total ties.
    for sum in ["−7.00", "−17.00", "−11.00"] {
        browser.see_text(sum).await;
    }
    browser.select("[aria-label='Reading beside it']", "as_it_is").await;
    browser.see_text("as planned").await;
    browser.see("td.differs").await;
    let text = browser.text().await;
    assert!(text.contains("−12.00") && text.contains("−5.00"), "as it is stands beside it: {text}");
    assert!(!text.contains(" out\n"), "{text}");
    let barriers = browser.barriers().await;
    assert!(barriers.is_empty(), "{barriers:?}");

    // The months of an account, and the trial balance that all of it ties to.
    browser.click_words("Open all items").await;
    browser.click("button[title='Its months']").await;
    browser.see_text("March").await;
    // By keys: a month opens to its entries, in place.
    browser.tab_to("button[title^='The entries of']").await;
    browser.keys(Key::Enter + "").await;
    browser.see_text("In the journal").await;
    browser.see_text("A2").await;
    let barriers = browser.barriers().await;
    assert!(barriers.is_empty(), "{barriers:?}");

    // A subtotal of one's own, and in thousands what is left over.
    browser.click_words("Statement items").await;
    browser.click("[aria-labelledby='items-expense'] form button:nth-of-type(1)").await;
    browser.fill("[role=dialog] input", "Oiled").await;
    browser.see_text("Total expenses").await;
    let barriers = browser.barriers().await;
    assert!(barriers.is_empty(), "{barriers:?}");
    browser.click_words("Add it").await;
    browser.see_text("Edit calculation").await;
    browser.select_words("[aria-label^='Balances on the other side of cash']", "borrowings").await;
    browser.click("nav a[href$='/reports']").await;
    browser.see_text("Oiled").await;
    browser.click_words("Balance sheet").await;
    // The bank is overdrawn in every year, so that it is owed.
    browser.see_text("borrowings").await;
    browser.select("[aria-label='Figures']", "thousands").await;
    browser.see_text("Assets less liabilities and equity").await;
    assert!(!browser.text().await.contains(" out\n"));

    browser.click_words("Trial balance").await;
    browser.select("[aria-label='Form']", "roll").await;
    browser.see_text("opening balance on").await;
    browser.see_text("All accounts").await;
    let barriers = browser.barriers().await;
    assert!(barriers.is_empty(), "{barriers:?}");
    desk.close().await;
}

#[tokio::test(flavor = "multi_thread")]
async fn a_printed_statement_says_on_each_sheet_what_it_is() {
    let desk = Desk::open("printed").await;
    desk.open_books().await;
    let numbers = 5_001..5_101;
    let accounts = numbers.clone().map(|n| format!("{n},Cost {n},Expense,Running the engines\n"));
    let chart: String = accounts.collect();
    let lines = numbers.map(|n| format!("E{n},2026-03-03,{n},5.00,\nE{n},2026-03-03,1010,,5.00\n"));
    let journal: String = lines.collect();
    desk.choose("chart.csv", format!("Code,Name,Class,Caption\n1010,Bank,Asset,Cash\n{chart}"))
        .await;
    desk.browser.click_words("Store 101 rows").await;
    desk.browser.see_text("101 rows of chart.csv stored").await;
    desk.choose("journal.csv", format!("Entry,Date,Code,Debit,Credit\n{journal}")).await;
    desk.browser.click_words("Store 200 rows").await;
    desk.browser.see_text("200 rows of journal.csv stored").await;
    desk.browser.click("nav a[href$='/reports']").await;
    desk.browser.click_words("Open all items").await;
    desk.browser.see_text("Cost 5100").await;
    let sheets = desk.browser.printed().await;
    assert!((2..=4).contains(&sheets.len()), "{} sheets", sheets.len());
    for (n, sheet) in (1..).zip(&sheets) {
        for said in ["Small books: Income statement", "printed by Ann Tester", "31 March 2026"] {
            assert!(sheet.contains(said), "{said}: {sheet}");
        }
        let number = format!("{n} of {}", sheets.len());
        assert!(sheet.contains(&number), "{number}: {sheet}");
        for button in ["Open all", "Journal", "Export", "Apply"] {
            assert!(!sheet.contains(button), "{button}: {sheet}");
        }
    }
    let all = sheets.concat();
    let found = (5_001..5_101).filter(|n| all.contains(&format!("Cost {n}"))).count();
    assert_eq!(found, 100, "no account is cut off between two sheets");
    assert!(all.contains("−500.00"), "{all}");
    desk.close().await;
}

#[tokio::test(flavor = "multi_thread")]
async fn nothing_acts_on_half_a_date() {
    let desk = oiled("half").await;
    let browser = &desk.browser;
    for (place, field) in
        [("reports", "[aria-label='Last day']"), ("journal", "[aria-label='From']")]
    {
        browser.click(&format!("nav a[href$='/{place}']")).await;
        let given = browser.see(field).await.prop("value").await.unwrap().unwrap();
        let before = browser.ask("location.search").await;
        browser.tab_to(field).await;
        for key in "0430202".chars() {
            browser.keys(key.to_string()).await;
            assert_eq!(browser.ask("location.search").await, before, "{place}, at {key}");
        }
        // Whoever turns away in the middle meant nothing.
        browser.keys(Key::Tab + Key::Tab).await;
        let left = browser.see(field).await.prop("value").await.unwrap().unwrap();
        assert_eq!(left, given, "{place}");
        assert_eq!(browser.ask("location.search").await, before, "{place}");
        browser.tab_to(field).await;
        browser.keys(TypingData::from("04302026") + Key::Enter).await;
        browser.wait_for("location.search.includes('2026-04-30')", "the day is asked for").await;
    }
    desk.browser.close().await;
}
