//! Bringing files in as a person does, with files that are not as they should be; and coming and
//! going.

use crate::desk::Desk;
use thirtyfour::prelude::*;
use zf_core::chart::{Class, ControlRole};
use zf_core::code::Interval;
use zf_sheets::{ColumnKind, Format, Table};

#[tokio::test(flavor = "multi_thread")]
async fn files_are_refused_left_and_stored_in_part_by_choice() {
    let desk = Desk::open("importing").await;
    let browser = &desk.browser;
    desk.open_books().await;

    // What cannot be read says why, and nothing waits.
    desk.choose("chart.xlsx", "Code,Name").await;
    browser.see_text("is not what its name says: it holds plain text").await;
    desk.choose("notes.txt", "hello there").await;
    browser.see_text("Nothing can be read yet").await;
    browser.click_words("Leave the file").await;

    // A messy export in another encoding: titles, totals, an unused column, rows that are wrong.
    let chart = "Small books\u{a0}Ltd;;;;\nas of 30.09.2026;;;;\n;;;;\n\
                 Acct no;Account title;Type;Rolls up to;Asked for by\n\
                 1000;Cash;Current assets;;HB\n1010;Bank;Bank;1000;\n1010;Bank again;Bank;1000;MT\n\
                 5010;Coal;Moonbeams;;\n3000;Capital;Owner's equity;;\nTotal;;;;\n";
    desk.choose("chart export.csv", chart).await;
    browser.see_text("Headings in row 4").await;
    browser.see_text("code 1010 is already in row 6").await;
    browser.see_text("it is not one of the classes").await;
    browser.see_text("a row of totals; passed over").await;
    browser.see_text("1\ncolumn not used").await;
    browser.click_words("Leave the file").await;
    browser.see_text("Import a file").await;

    // A wording is settled once, and a cell corrected by keyboard; a reload forgets neither.
    desk.choose("chart export.csv", chart).await;
    browser.click("[data-reading='expense']").await;
    browser.see_text("4\nready").await;
    browser.tab_to("button[aria-label='Row 7, 1010, correct it']").await;
    browser.keys(Key::Enter).await;
    browser.see("input[aria-label='Row 7, 1010, new text']").await;
    browser.keys("1011" + Key::Enter).await;
    browser.see_text("5\nready").await;
    browser.reload().await;
    browser.see_text("1 cell corrected here").await;
    browser.click_words("Store 5 rows").await;
    browser.see_text("5 rows of chart export.csv stored").await;

    // The journal's dates could be read in two ways, which is asked and not guessed.
    let journal = |day: &str| {
        format!("No;Date;Account;Debit;Credit\nA1;{day};1010;1.250,00;\nA1;{day};3000;;1.250,00\n")
    };
    desk.choose("journal.csv", &journal("03/04/2026")).await;
    browser.see_text("can be read in two ways").await;
    let stopped = "document.querySelector('footer .btn-primary').disabled";
    assert_eq!(browser.ask(stopped).await, true, "there is nothing to store");
    browser.click_words("Leave the file").await;
    desk.choose("journal.csv", &journal("03/04/2026")).await;
    browser.click("[data-reading='dmy']").await;
    browser.see_text("Debits\n1,250.00").await;
    browser.click_words("Store 2 rows").await;
    browser.see_text("2 rows of journal.csv stored").await;
    browser.click_words("Look at the chart").await;
    browser.see("[data-code='1010']").await;
    browser.see_text("1,250.00").await;
    desk.close().await;
}

/// A workbook as it comes: notes first, a title, headings in another language, a row of totals.
/// A sheet of a workbook, cells parted by bars.
fn table(name: &str, rows: &[&str]) -> Table {
    let cells = |row: &&str| row.split('|').map(str::to_owned).collect::<Vec<_>>();
    let head = cells(&rows[0]).into_iter().map(|title| (title, ColumnKind::Text)).collect();
    Table::new(name, head, rows[1..].iter().map(cells).collect())
}

fn messy_workbook() -> Vec<u8> {
    let notes = table("Read me", &["Printed for the treasurer|", "see the second sheet|"]);
    let ledger = [
        "Small books Ltd, spring|||||",
        "|||||",
        "Beleg|Posted|Account|Debit|Credit|Details",
        "V1|03/04/2026|1010|1,250.00||From the members",
        "V1|03/04/2026|3000||1,250.00|",
        "V2|05/04/2026|5O10|40.00||Coal",
        "V2|05/04/2026|1010||40.00|",
        "V3|06/04/2026|5010|12.00||Kindling",
        "V3|06/04/2026|1010||21.00|",
        "Total|||1,302.00|1,311.00|",
    ];
    zf_sheets::write(Format::Xlsx, &[notes, table("Ledger", &ledger)]).unwrap()
}

#[tokio::test(flavor = "multi_thread")]
async fn a_messy_workbook_is_corrected_by_hand_and_ends_with_the_exact_totals() {
    let desk = Desk::open("messy").await;
    let browser = &desk.browser;
    desk.open_books().await;
    let chart = "Code,Name,Class\n1010,Bank,Asset\n3000,Capital,Equity\n5010,Coal,Expense\n";
    desk.choose("chart.csv", chart).await;
    browser.click_words("Store 3 rows").await;
    browser.see_text("3 rows of chart.csv stored").await;

    desk.choose("ledger.xlsx", messy_workbook()).await;
    browser.see_text("Sheet “Ledger”, headings in row 3").await;
    browser.select("[aria-label='What “Beleg” means']", "entry").await;
    browser.see_text("0\ncolumns not used").await;
    browser.click("[data-reading='dmy']").await;
    browser.see_text("Row 6: no account has, or ever had, the code 5O10").await;
    browser.see_text("entry V3 does not balance: its credits are 9.00 too much").await;
    for (row, old, new) in [(6, "5O10", "5010"), (9, "21.00", "12.00")] {
        browser.double_click(&format!("button[aria-label='Row {row}, {old}, correct it']")).await;
        browser.see(&format!("input[aria-label='Row {row}, {old}, new text']")).await;
        browser.keys(new + Key::Enter).await;
        let cells = if row == 6 { "1 cell" } else { "2 cells" };
        browser.see_text(&format!("{cells} corrected here")).await;
    }
    browser.see_text("Debits\n1,302.00").await;
    browser.click_words("Store 6 rows").await;
    browser.see_text("6 rows of ledger.xlsx stored").await;
    browser.click_words("Look at the chart").await;
    browser.see("[data-code='5010']").await;
    for balance in ["1,198.00", "1,250.00", "52.00"] {
        browser.see_text(balance).await;
    }
    desk.close().await;
}

#[tokio::test(flavor = "multi_thread")]
async fn one_comes_in_by_signing_in_and_goes_by_signing_out() {
    let desk = Desk::open("coming").await;
    let browser = &desk.browser;
    desk.open_books().await;
    browser.click("nav a[href$='/chart']").await;
    browser.see_text("These books have no chart yet").await;
    let summary = "header [aria-haspopup=menu]";
    browser.click(summary).await;
    browser.click_words("Lamp light").await;
    let light = "document.documentElement.dataset.theme";
    browser.wait_for(&format!("{light} === 'lamp'"), "lamp light").await;
    // The menu has closed, and the choice outlives a reload.
    browser.wait_for("!document.querySelector('[role=menu]')", "closed").await;
    browser.go("/").await;
    browser.see_text("Small books").await;
    browser.wait_for(&format!("{light} === 'lamp'"), "lamp light").await;
    browser.click_words("Small books").await;
    browser.see_text("Import a file").await;
    browser.click(summary).await;
    browser.keys(Key::Escape + "").await;
    browser.wait_for("!document.querySelector('[role=menu]')", "closed").await;
    browser.click(summary).await;
    browser.click_words("Sign out").await;
    browser.see("input[type=password]").await;
    browser.go("/books/1/chart").await;
    browser.see("input[type=password]").await;
    desk.close().await;
}

#[tokio::test(flavor = "multi_thread")]
async fn a_chart_without_codes_comes_in_by_mouse() {
    let desk = Desk::open("codeless").await;
    let browser = &desk.browser;
    desk.open_books().await;
    let chart =
        "Account,Type\nTravel,Expense\nTravel:Hotels,Expense\nTravel:Rail,Expense\nFees,Income\n";
    desk.choose("names only.csv", chart).await;
    browser.see_text("4 codes proposed").await;
    // One is typed over before anything is stored.
    browser.double_click("button[aria-label^='Row 4, proposed code']").await;
    browser.see("input[aria-label^='Row 4, proposed code']").await;
    browser.control("a").await;
    browser.keys(TypingData::from("5900") + Key::Enter).await;
    browser.see_text("3 codes proposed").await;
    let barriers = browser.barriers().await;
    assert!(barriers.is_empty(), "{barriers:?}");
    browser.click_words("Store 4 rows").await;
    browser.see_text("4 rows of names only.csv stored").await;
    browser.click_words("Look at the chart").await;
    browser.see("[data-code='5900']").await;
    browser.click_words("3 proposed codes").await;
    browser.wait_for("!document.querySelector(\"[data-code='5900']\")", "only the proposed").await;
    browser.see_text("Hotels").await;
    desk.close().await;
}

#[tokio::test(flavor = "multi_thread")]
async fn a_chart_with_captions_of_its_own_comes_in_by_keys() {
    let desk = Desk::open("captions").await;
    let browser = &desk.browser;
    desk.open_books().await;
    let chart = "Code,Name,Type,Category,Balance\n1300,Herd,Asset,Biological assets,40.00\n\
                 1310,Young stock,Asset,Biological assets,2.50\n5000,Feed,Running,,-42.50\n";
    desk.choose("farm.csv", chart).await;
    browser.see_text("Which class is “Running”?").await;
    browser.see_text("1\nleft out").await;
    browser.tab_to("[data-reading='expense']").await;
    browser.keys(Key::Enter).await;
    browser.see_text("3\nready").await;
    browser.see_text("1 statement item added").await;
    browser.see_text("Biological assets").await;
    browser.see_text("a chart takes no balances, 3").await;
    browser.see_text("4 = 4").await;
    let barriers = browser.barriers().await;
    assert!(barriers.is_empty(), "{barriers:?}");
    browser.tab_to("footer button.btn-primary").await;
    browser.keys(Key::Enter).await;
    browser.see_text("3 rows of farm.csv stored").await;
    let member = desk.member().await;
    let chart = desk.store.snapshot(member).await.unwrap().today.chart;
    let captions: Vec<_> = chart.live().map(|a| a.caption_words().to_owned()).collect();
    assert_eq!(captions, ["Biological assets", "Biological assets", "expense"]);
    desk.close().await;
}

#[tokio::test(flavor = "multi_thread")]
async fn sheets_of_one_form_come_in_as_one_table_with_totals_and_roles() {
    let desk = Desk::open("sheets").await;
    let browser = &desk.browser;
    desk.open_books().await;
    let assets = ["Code|Name", "1000|Till", "1010|Bank", "|Total assets"];
    let income = ["Code|Name", "4000|Fees", "4010|Hire"];
    let sheets = [table("Assets", &assets), table("Income", &income)];
    desk.choose("by class.xlsx", zf_sheets::write(Format::Xlsx, &sheets).unwrap()).await;
    browser.see_text("have the same columns. Are they one table?").await;
    browser.tab_to("[data-reading='*']").await;
    browser.keys(Key::Enter).await;
    browser.see_text("4\nready").await;
    browser.wait_for("!document.querySelector('[data-reading]')", "nothing is asked").await;
    browser.select("select[aria-label='Totals']", "sum_lines").await;
    browser.see_text("5\nready").await;
    browser.click_words("Give them these roles").await;
    browser.see_text("They come in with these roles").await;
    let barriers = browser.barriers().await;
    assert!(barriers.is_empty(), "{barriers:?}");
    browser.click_words("Store 5 rows").await;
    browser.see_text("5 rows of by class.xlsx stored").await;
    let chart = desk.store.snapshot(desk.member().await).await.unwrap().today.chart;
    let of = |name: &str| chart.live().find(|account| account.name == name).unwrap().clone();
    assert_eq!(of("Bank").role, Some(ControlRole::Bank));
    assert_eq!(of("Hire").class, Class::Income);
    assert_eq!(Interval::format_list(&of("Total assets").intervals), "1000 to 1010");
    desk.close().await;
}
