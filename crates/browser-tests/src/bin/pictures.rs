//! Makes the pictures of the documentation: drives the real interface over the demo books.

#![allow(clippy::unwrap_used, reason = "without its picture the command has failed")]

use std::path::{Path, PathBuf};
use thirtyfour::prelude::*;
use zf_browser_tests::{Browser, Site, scenario_files};

struct Album {
    browser: Browser,
    folder: PathBuf,
}

impl Album {
    async fn take(&self, name: &str) {
        // Fonts and the last change of the page are drawn.
        self.browser.wait_for("document.fonts.status === 'loaded'", "fonts").await;
        tokio::time::sleep(std::time::Duration::from_millis(500)).await;
        self.browser.picture(&self.folder.join(format!("{name}.png"))).await;
    }

    /// Puts the cursor on the row of a code, with the filter given.
    async fn row(&self, code: &str, filter: &str) {
        self.browser.fill("header input", filter).await;
        self.browser.click(&format!("[data-code='{code}'] [data-column='code']")).await;
    }

    /// Types into the cells of a row from the cursor on, each ended by Tab.
    async fn stage(&self, code: &str, typed: &str) {
        self.row(code, code).await;
        self.browser.keys(TypingData::from(typed) + Key::Enter).await;
        self.browser.wait_for("!document.body.innerText.includes('rehearsing')", "rehearsed").await;
    }

    /// A rule on the number map, with a block for each class.
    async fn renumber(&self) {
        let browser = &self.browser;
        browser.click("nav a[href$='/chart']").await;
        browser.click_words("Renumber…").await;
        browser.click_words("Numbering scheme…").await;
        browser.click_words("Four digits, a block for each class").await;
        browser.click_words("Set the scheme").await;
        browser.see_text("of 4,000").await;
        browser.wait_for("!document.querySelector('[role=dialog]')", "the scheme kept").await;
        browser.select("[aria-label='Whom the rule is for']", "codes").await;
        browser.fill("[aria-label='Codes']", "6000 to 6299, 1995, 4890").await;
        browser.fill("[aria-label='Start at']", "6000").await;
        browser.fill("[aria-label='Step']", "3").await;
        browser.see_text("comes into its block").await;
        self.take("renumber").await;
    }

    /// An account split by date and by site.
    async fn move_history(&self) {
        let browser = &self.browser;
        self.row("5210", "5210").await;
        browser.keys((Key::Right + "") + Key::Right + "h").await;
        browser.see_text("Both sides, year by year").await;
        let until = browser.see("[aria-label='Until']").await;
        until.send_keys("06302023").await.unwrap();
        browser.click_words("choose an account").await;
        browser.fill("[role=combobox]", "5215").await;
        browser.keys(Key::Enter + "").await;
        browser.click_words("Another part").await;
        browser.fill("li:nth-child(2) [aria-label='Payee contains']", "Dairy").await;
        browser.click_words("choose an account").await;
        browser.fill("[role=combobox]", "5220").await;
        browser.keys(Key::Enter + "").await;
        browser.see_text("fit part 1 and part 2").await;
        browser.click("section [type=checkbox]").await;
        browser.wait_for("!document.body.innerText.includes('choose an account')", "chosen").await;
        self.take("move").await;
    }
}

impl Album {
    /// The statement items, with a subtotal and a ratio of one's own.
    async fn items(&self) {
        let browser = &self.browser;
        browser.click_words("Statement items").await;
        browser.see_text("property, plant and equipment").await;
        for (nth, name, rows) in [
            (1, "Gross profit", ["Total income", "cost of sales"]),
            (2, "Gross margin", ["Gross profit", "Total income"]),
        ] {
            let of_expenses = "[aria-labelledby='items-expense'] form button";
            browser.click(&format!("{of_expenses}:nth-of-type({nth})")).await;
            browser.fill("[role=dialog] input", name).await;
            if nth == 1 {
                browser.click_words("One more row").await;
            }
            for (at, row) in (1..).zip(rows) {
                browser.select_words(&format!("[aria-label='Row {at}']"), row).await;
            }
            browser.click_words("Add it").await;
            browser.wait_for("!document.querySelector('[role=dialog]')", "added").await;
        }
        browser.see_text("Gross profit in % of Total income").await;
        self.take("items").await;
    }

    /// People, one's own account by lamp light, and the settings of the books.
    async fn people(&self) {
        let browser = &self.browser;
        browser.click("nav a[href='/people']").await;
        browser.see_text("Member of").await;
        self.take("people").await;
        browser.click("nav a[href='/account']").await;
        browser.see_text("Where you are signed in").await;
        browser.ask("(document.documentElement.dataset.theme = 'lamp')").await;
        self.take("account-dark").await;
        browser.ask("delete document.documentElement.dataset.theme").await;
        browser.go_back().await;
        browser.go_back().await;
        browser.see_text("unused accounts").await;
        browser.click_words("Larkfell").await;
        browser.see_text("lines accounted for").await;
        browser.click("nav a[href$='/settings']").await;
        browser.see_text("Settings of the books").await;
        browser.see_text("owner, reviewer, preparer").await;
        self.take("settings").await;
        for _ in 0..2 {
            browser.go_back().await;
        }
        browser.see_text("unused accounts").await;
    }

    /// A statement that is opened down to its accounts, the trial balance and the journal.
    async fn statements(&self) {
        let browser = &self.browser;
        browser.click("nav a[href$='/reports']").await;
        browser.click_words("cost of sales").await;
        browser.click_words("5000 Running the railway").await;
        browser.see_text("takes ").await;
        self.take("reports").await;
        browser.click("a[title^='The entries of Locomotive coal']").await;
        browser.see_text("Entries with lines of").await;
        self.take("journal").await;
        browser.go_back().await;
        browser.see_text("Income statement").await;
        browser.click_words("Trial balance").await;
        browser.select("[aria-label='Form']", "roll").await;
        browser.see_text("opening balance on").await;
        self.take("trial-balance").await;
        browser.go("/").await;
        browser.see_text("unused accounts").await;
        self.take("books").await;
        self.people().await;
        browser.go_back().await;
        browser.see_text("opening balance on").await;
    }

    /// A ledger grouped by account, with what is asked of it.
    async fn ask(&self, files: &Path) {
        let ledger = files.join("ledger.csv");
        std::fs::write(&ledger, LEDGER).unwrap();
        self.browser.click("input[value='journal']").await;
        self.browser.choose_file(&ledger).await;
        self.browser.see_text("have a balance before the lines").await;
        self.take("questions").await;
        self.browser.click_words("Leave the file").await;
        self.browser.see_text("Import a file").await;
    }
}

/// A ledger as a program prints it.
const LEDGER: &str = "General ledger,,,,,\nLarkfell Valley Railway,,,,,\n,,,,,\n\
    Date,Number,Description,Debit,Credit,Balance\n1010 Bank day to day,,,,,\n\
    ,,Balance brought forward,,,\"12,480.00\"\n2026-09-03,8801,Tickets by card,640.00,,\"13,120.00\"\n\
    2026-09-05,8802,Coal from the pit,,410.00,\"12,710.00\"\nTotal 1010 Bank day to day,,,640.00,410.00,\n\
    5010 Locomotive coal,,,,,\n,,Balance brought forward,,,\"3,905.00\"\n\
    2026-09-05,8802,Coal from the pit,410.00,,\"4,315.00\"\nTotal 5010 Locomotive coal,,,410.00,0.00,\n\
    4010 Tickets,,,,,\n2026-09-03,8801,Tickets by card,,640.00,-640.00\n";

#[tokio::main]
async fn main() {
    let folder =
        PathBuf::from(std::env::args().nth(1).unwrap_or_else(|| "docs/screenshots".to_owned()));
    std::fs::create_dir_all(&folder).unwrap();
    let site = Site::open(&[("hazel@larkfell.example", "Hazel Brook")]).await;
    let files = scenario_files();
    let album = Album { browser: Browser::open(&site).await, folder };
    let browser = &album.browser;
    browser.go("/sign-in").await;
    browser.see_text("prove that nothing was lost").await;
    browser.sign_in("hazel@larkfell.example").await;
    browser.click_words("Open new books").await;
    browser.fill("#name", zf_scenario::NAME).await;
    browser.click("select option[value='2']").await;
    browser.click_words("Open the books").await;
    browser.see_text("Import a file").await;
    for (file, kind) in
        [("chart.xlsx", "chart"), ("journal.csv", "journal"), ("where-used.csv", "usage")]
    {
        browser.click(&format!("input[value='{kind}']")).await;
        browser.choose_file(&files.join(file)).await;
        browser.see_text("nothing is stored yet").await;
        if kind == "journal" {
            album.take("import").await;
        }
        browser.click("footer button.btn-primary").await;
        browser.see_text(&format!("of {file} stored")).await;
    }
    album.ask(&files).await;
    browser.click("nav a[href$='/chart']").await;
    for (code, typed) in [
        ("5012", "into 5010"),
        ("5014", "into 5010"),
        ("5021", "into 5020"),
        ("5031", "5081"),
        ("5032", "5082"),
        ("5034", "5083"),
        ("5042", "5041"),
    ] {
        album.stage(code, typed).await;
    }
    for (code, name) in [
        ("5031", "Track and permanent way materials"),
        ("5025", "Boiler water treatment and testing"),
    ] {
        album.row(code, code).await;
        browser.keys((Key::Right + "") + name + Key::Enter).await;
    }
    album.row("5070", "5070").await;
    browser.keys((Key::Right + "") + Key::Right + "d").await;
    browser.see("[role=dialog] input[type=date]").await;
    browser.keys(Key::Enter + "").await;
    browser.gone("[role=dialog]").await;
    browser.fill("header input", "").await;
    browser.click("nav a[href$='/plan']").await;
    browser.see_text("Every change").await;
    album.take("plan").await;
    browser.click("nav a[href$='/review']").await;
    browser.see_text("of 100 sure").await;
    album.take("review").await;
    browser.click_words("Volunteers' travel").await;
    browser.see_text("Which one stays").await;
    album.take("merge").await;
    album.renumber().await;
    album.move_history().await;
    browser.click("nav a[href$='/reports']").await;
    browser.see_text("Income statement").await;
    album.items().await;
    album.statements().await;
    browser.click("nav a[href$='/chart']").await;
    album.stage("5060", "5055").await;
    browser.see_text("code is taken").await;
    browser.fill("header input", "").await;
    browser.click("select option[value='expense']").await;
    browser.click("[data-code='5060'] [data-column='code']").await;
    album.take("chart").await;
    browser.click("[data-code='5010'] [data-column='code']").await;
    browser.keys(" ").await;
    browser.see_text("Years").await;
    album.take("card").await;
    browser.keys(Key::Escape + "").await;
    browser.click("[data-code='5060'] [data-column='code']").await;
    browser.keys(Key::Delete + "").await;
    browser
        .wait_for("!document.body.innerText.includes('code is taken')", "the stop is gone")
        .await;
    browser.click("footer button.btn-primary").await;
    if browser.ask("!!document.querySelector('[role=dialog] [type=checkbox]')").await == true {
        browser.click("[role=dialog] [type=checkbox]").await;
    }
    browser.click("[role=dialog] button.btn-primary").await;
    browser.see_text("Proof of").await;
    browser.wait_for("!document.body.innerText.includes('not yet')", "recounted").await;
    browser.wait_for("!document.body.innerText.includes('is read…')", "the crosswalk").await;
    album.take("proof").await;
    browser.click("nav a[href$='/trail']").await;
    browser.see_text("applied").await;
    album.take("trail").await;
    album.browser.close().await;
}
