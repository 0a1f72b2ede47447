//! What one waits for in the browser: the first rows of a large chart, and the rows that fit as one types.

use crate::{Measured, RUNS, median};
use anyhow::Context;
use std::time::Duration;
use zf_browser_tests::{Browser, Site};

/// Whether rows of the chart are there.
const ROWS: &str = "!!document.querySelector('[role=grid] [role=row] [role=gridcell]')";

/// Types a key into the filter, and answers how long it took until the rows that fit were drawn.
const TYPED: &str = "(async () => {
    const input = document.querySelector('header label input');
    const began = performance.now();
    input.value += KEY;
    input.dispatchEvent(new InputEvent('input', { bubbles: true }));
    await new Promise((drawn) => requestAnimationFrame(() => setTimeout(drawn)));
    return performance.now() - began;
})()";

/// Opens the chart of books, and types into its filter.
pub(crate) async fn measure(site: &Site, email: &str, books: i64) -> anyhow::Result<[Measured; 2]> {
    let browser = Browser::open(site).await;
    browser.sign_in(email).await;
    let (mut opened, mut typed) = (Vec::new(), Vec::new());
    for _ in 0..RUNS {
        // From the page before: what is measured is the page with its rows, and not the browser.
        browser.go("/").await;
        browser.see_text("Your books").await;
        browser.go(&format!("/books/{books}/chart")).await;
        browser.wait_for(ROWS, "rows").await;
        let since = browser.ask("performance.now()").await;
        opened.push(milliseconds(&since)?);
        browser.wait_for("document.readyState === 'complete'", "the page").await;
        for key in ["1", "0", "5"] {
            let took = browser.ask(&TYPED.replace("KEY", &format!("'{key}'"))).await;
            typed.push(milliseconds(&took)?);
        }
    }
    browser.close().await;
    let limit = Duration::from_millis;
    Ok([
        Measured::within(
            "open_rows: first rows of the chart in Chromium",
            median(opened),
            limit(1_000),
        ),
        Measured::within("filter_key: a key in the filter", median(typed), limit(50)),
    ])
}

fn milliseconds(measured: &serde_json::Value) -> anyhow::Result<Duration> {
    Ok(Duration::from_secs_f64(measured.as_f64().context("the browser tells the time")? / 1_000.0))
}
