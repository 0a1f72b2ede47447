//! Somebody at the sheet of small books.

use thirtyfour::prelude::*;
use time::macros::date;
use zf_browser_tests::{Browser, Site};
use zf_core::chart::{Account, Class, Kind};
use zf_core::names::Charts;
use zf_core::plan::Field;
use zf_phrases::Say;
use zf_testing::{Books, account};

/// Headings of expense and income with rows under them.
fn chart() -> Vec<Account> {
    let heading = |code, name, class| Account { kind: Kind::Heading, ..account(code, name, class) };
    vec![
        account("1010", "Bank", Class::Asset),
        account("4010", "Tickets", Class::Income),
        heading("5000", "Running", Class::Expense),
        account("5010", "Coal", Class::Expense),
        account("5020", "Wood", Class::Expense),
        account("5030", "Diesel", Class::Expense),
        heading("6000", "Office", Class::Expense),
        account("6010", "Telephone", Class::Expense),
    ]
}

pub(crate) struct Desk {
    pub(crate) browser: Browser,
    pub(crate) books: Books,
}

impl Desk {
    pub(crate) async fn open() -> Self {
        Self::over(chart()).await
    }

    /// The same with more accounts.
    pub(crate) async fn with(accounts: Vec<Account>) -> Self {
        Self::over(chart().into_iter().chain(accounts).collect()).await
    }

    async fn over(accounts: Vec<Account>) -> Self {
        let site = Site::open(&[("ann@books.example", "Ann Tester")]).await;
        let ann = site.store.person_by_email("ann@books.example").await.unwrap().unwrap().id;
        let books = Books::open(site.store.clone(), String::new(), ann, accounts).await;
        let (coal, bank) = (books.id("5010").await, books.id("1010").await);
        let entries = [
            books.entry(date!(2026 - 02 - 10), coal, bank, 10_000),
            books.entry(date!(2026 - 05 - 10), coal, bank, 2_500),
        ];
        books.post(&entries).await;
        let browser = Browser::open(&site).await;
        browser.sign_in("ann@books.example").await;
        browser.go(&format!("/books/{}/chart", books.member.books())).await;
        browser.see("[data-code='5010']").await;
        Self { browser, books }
    }

    /// Answers from which day accounts are retired.
    pub(crate) async fn say_day(&self, day: &str) {
        self.browser.set_day("[role=dialog] input[type=date]", day).await;
        self.browser.click("[role=dialog] button.btn-primary").await;
    }

    /// Puts the cursor into a cell of the After side.
    pub(crate) async fn at(&self, code: &str, column: &str) {
        self.browser.click(&format!("[data-code='{code}'] [data-column='{column}']")).await;
    }

    /// What stands in a cell of the After side.
    pub(crate) async fn shows(&self, code: &str, column: &str, text: &str) {
        let script = format!(
            "document.querySelector(\"[data-code='{code}'] [data-column='{column}']\")?.innerText.trim() === {text:?}"
        );
        self.browser.wait_for(&script, &format!("{text} in {code} {column}")).await;
    }

    /// Finds a row and goes to its last column, by keys alone.
    pub(crate) async fn find(&self, code: &str) {
        self.browser.keys("/").await;
        self.browser.keys(TypingData::from(code) + Key::Enter).await;
        self.browser.wait_for("document.activeElement?.matches('[role=grid]')", "the sheet").await;
        self.browser.keys(Key::Right + Key::Right).await;
    }

    /// Goes to an element by Tab and types there, in place of what is there.
    pub(crate) async fn type_at(&self, css: &str, text: &str) {
        self.browser.tab_to(css).await;
        self.browser.control("a").await;
        self.browser.keys(text).await;
    }

    /// Goes to a button by Tab and presses it.
    pub(crate) async fn press(&self, css: &str) {
        self.browser.tab_to(css).await;
        self.browser.keys(Key::Enter + "").await;
    }

    pub(crate) async fn changes(&self, count: usize) {
        let words = if count == 1 { "1\nchange" } else { &format!("{count}\nchanges") };
        self.browser.see_text(words).await;
    }

    /// Holds Shift and goes down so often.
    pub(crate) async fn select_down(&self, rows: usize) {
        self.browser.shift(Key::Down, rows).await;
    }

    /// What is staged in the draft, as code, field and value, but for the values of fates.
    pub(crate) async fn staged(&self) -> Vec<String> {
        let (store, member) = (&self.books.store, self.books.member);
        let draft = store.plans(member).await.unwrap().remove(0);
        let (_, plan) = store.plan(member, draft.id).await.unwrap();
        let today = store.snapshot(member).await.unwrap().today;
        let names = Charts { today: &today.chart, after: &today.chart };
        let say = Say::plain(&names, today.currency);
        let code = |id| today.chart.get(id).map_or("new", |account| account.code.as_str());
        let edits = plan.targets.iter().flat_map(|(id, target)| {
            let said = target.iter().map(|(field, staged)| match field {
                Field::Fate => format!("{} fate", code(*id)),
                _ => format!("{} {} {}", code(*id), field.key(), say.change(&staged.change)),
            });
            said.collect::<Vec<_>>()
        });
        edits.collect()
    }
}
