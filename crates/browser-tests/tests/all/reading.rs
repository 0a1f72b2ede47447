//! Everybody can read it: every view, by day and by lamp light, on narrow windows, and with a chart
//! of ten thousand accounts.

use thirtyfour::prelude::*;
use zf_browser_tests::{Browser, Site};
use zf_core::chart::{Account, Class, Kind};
use zf_testing::Books;

struct Desk {
    browser: Browser,
    books: Books,
    found: Vec<String>,
}

impl Desk {
    /// Small books with lines, a plan that has a stop and a caution, and an applied plan.
    async fn open() -> Self {
        let site = Site::open(&[("ann@books.example", "Ann Tester")]).await;
        let ann = site.store.person_by_email("ann@books.example").await.unwrap().unwrap().id;
        let books = Books::railway_of(site.store.clone(), ann).await;
        let (coal, bank) = (books.id("5010").await, books.id("1010").await);
        let day = time::macros::date!(2026 - 05 - 01);
        books.post(&[books.entry(day, coal, bank, 12_345)]).await;
        books.apply(books.stage("5040 name Oils").await).await.unwrap();
        books.stage("5020 code 5010; 6010 fate merge 5030; 5040 fate deactivate").await;
        Self { browser: Browser::open(&site).await, books, found: Vec::new() }
    }

    fn path(&self, place: &str) -> String {
        format!("/books/{}/{place}", self.books.member.books())
    }

    /// Looks at what is on the screen by both lights.
    async fn look(&mut self, view: &str) {
        for light in ["paper", "lamp"] {
            let script = format!("(document.documentElement.dataset.theme = '{light}')");
            self.browser.ask(&script).await;
            let barriers = self.browser.barriers().await;
            self.found.extend(barriers.into_iter().map(|b| format!("{view}, {light}: {b}")));
        }
    }
}

#[tokio::test(flavor = "multi_thread")]
async fn no_view_puts_a_barrier_up() {
    let mut desk = Desk::open().await;
    desk.browser.go("/sign-in").await;
    desk.browser.see("input[type=password]").await;
    desk.look("sign-in").await;
    desk.browser.sign_in("ann@books.example").await;
    desk.look("books").await;
    desk.browser.click_words("Open new books").await;
    desk.browser.see("#name").await;
    desk.look("new books").await;

    desk.browser.go(&desk.path("import")).await;
    desk.browser.see_text("Import a file").await;
    desk.look("import").await;

    desk.browser.go(&desk.path("chart")).await;
    desk.browser.see("[data-code='5020'] .stopped").await;
    desk.look("chart").await;
    desk.browser.click("[data-code='5020'] [data-column='code']").await;
    desk.browser.see(".pop").await;
    desk.look("way out").await;
    desk.browser.keys(" ").await;
    desk.browser.see_text("Nothing was ever posted here").await;
    desk.look("card").await;
    desk.browser.keys(Key::Escape + "").await;
    for (key, shows) in [
        ("+", "Add to the chart"),
        ("?", "What can be done here"),
        ("m", "Account that stays"),
        ("s", "Class and"),
    ] {
        desk.browser.click("[data-code='1020'] [data-column='fate']").await;
        desk.browser.keys(key).await;
        desk.browser.see("[role=dialog]").await;
        desk.look(shows).await;
        desk.browser.keys(Key::Escape + "").await;
        desk.browser.wait_for("!document.querySelector('[role=dialog]')", "closed").await;
    }

    desk.browser.go(&desk.path("plan")).await;
    desk.browser.see_text("Every change").await;
    desk.look("plan").await;
    desk.browser.click_words("Trial balance, today and after").await;
    desk.browser.see_text("All accounts").await;
    desk.look("trial balance").await;
    desk.browser.go(&desk.path("reports")).await;
    desk.browser.see_text("Income statement").await;
    desk.look("reports").await;
    desk.browser.go(&desk.path("trail")).await;
    desk.browser.see_text("applied").await;
    desk.look("trail").await;
    desk.browser.click_words("Proof").await;
    desk.browser.see_text("Proof of").await;
    desk.look("proof").await;
    desk.browser.click_words("Rehearse the undo").await;
    desk.browser.see_text("are accounted").await;
    desk.look("undo").await;
    desk.browser.close().await;
    assert!(desk.found.is_empty(), "{}", desk.found.join("\n\n"));
}

#[tokio::test(flavor = "multi_thread")]
async fn narrow_windows_and_large_print_hide_nothing() {
    let desk = Desk::open().await;
    desk.browser.sign_in("ann@books.example").await;
    for (place, shows) in [
        ("import", "Import a file"),
        ("chart", "After"),
        ("plan", "Every change"),
        ("reports", "Income statement"),
        ("trail", "applied"),
    ] {
        desk.browser.go(&desk.path(place)).await;
        desk.browser.see_text(shows).await;
        // 1024 pixels, and 1280 at 200 percent.
        for (width, height) in [(1024, 768), (640, 400)] {
            desk.browser.resize(width, height).await;
            let wide = "document.documentElement.scrollWidth > innerWidth";
            assert_eq!(desk.browser.ask(wide).await, false, "{place} at {width} pixels");
            let cut = "[...document.querySelectorAll('footer button, footer a, header a')] \
                .filter((e) => e.checkVisibility()).map((e) => [e.innerText, e.getBoundingClientRect()]) \
                .filter(([, r]) => r.right > innerWidth + 1 || r.left < -1 || r.bottom > innerHeight + 1) \
                .map(([text]) => text)";
            assert_eq!(desk.browser.ask(cut).await, serde_json::json!([]), "{place} at {width}");
        }
        desk.browser.resize(1280, 800).await;
    }
    desk.browser.close().await;
}

#[tokio::test(flavor = "multi_thread")]
async fn ten_thousand_accounts_are_drawn_a_screen_at_a_time() {
    let site = Site::open(&[("ann@books.example", "Ann Tester")]).await;
    let ann = site.store.person_by_email("ann@books.example").await.unwrap().unwrap().id;
    let rows = (0..10_000).map(|n| {
        let mut row = zf_testing::account(
            &format!("{}", 100_000 + n),
            &format!("Account {n}"),
            Class::Expense,
        );
        if n % 100 == 0 {
            row.kind = Kind::Heading;
        }
        row
    });
    let rows: Vec<Account> = rows.collect();
    let books = Books::open(site.store.clone(), String::new(), ann, rows).await;
    let browser = Browser::open(&site).await;
    browser.sign_in("ann@books.example").await;
    browser.go(&format!("/books/{}/chart", books.member.books())).await;
    browser.see("[data-code='100001']").await;
    // With the row that names the columns.
    assert_eq!(browser.ask("document.querySelector('[role=grid]').ariaRowCount").await, "10001");
    let drawn = "document.querySelectorAll('[role=row][data-code]').length";
    assert!(browser.ask(drawn).await.as_u64().unwrap() < 80);
    browser.control(Key::End + "").await;
    browser.see("[data-code='109999']").await;
    assert!(browser.ask(drawn).await.as_u64().unwrap() < 80);
    browser.keys(Key::Up + "").await;
    browser.keys(TypingData::from("109990x") + Key::Enter).await;
    browser.see_text("1\nchange").await;
    browser.fill("header input", "7777").await;
    browser.see("[data-code='107777']").await;
    browser.close().await;
}
