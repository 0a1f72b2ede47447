//! What the server shows of books: the chart by period, cards, drafts, overrides, the trail.

use crate::site::Site;
use reqwest::Method;
use serde_json::{Value, json};
use time::macros::date;

/// A row of the chart by its code.
fn row<'a>(chart: &'a Value, code: &str) -> &'a Value {
    let rows = chart["rows"].as_array().unwrap();
    rows.iter().find(|row| row["code"] == code).unwrap_or_else(|| panic!("{code} is not shown"))
}

async fn posted() -> Site {
    let site = Site::open().await;
    let books = &site.books;
    let (bank, coal) = (books.id("1010").await, books.id("5010").await);
    books
        .post(&[
            books.entry(date!(2025 - 11 - 05), coal, bank, 1_000),
            books.entry(date!(2026 - 02 - 05), coal, bank, 300),
            books.entry(date!(2026 - 04 - 05), coal, bank, 50),
        ])
        .await;
    site
}

#[tokio::test]
async fn the_chart_shows_balances_by_class_and_changes_by_period() {
    let site = posted().await;
    let ann = site.ann().await;
    let (_, chart) = site.ask(&ann, Method::GET, "BOOKS/chart", Value::Null).await;
    assert_eq!((&chart["currency"], &chart["year_end"]), (&json!("GBP"), &json!("2027-01-31")));
    assert_eq!((&chart["lines"], chart["periods"].as_array().unwrap().len()), (&json!(6), 6));
    let coal = row(&chart, "5010");
    assert_eq!((&coal["balance"], &coal["net_change"]), (&json!("3.50"), &json!("3.50")));
    assert_eq!((&coal["last"], &coal["lines"]), (&json!("2026-04-05"), &json!(3)));
    let bank = row(&chart, "1010");
    assert_eq!((&bank["balance"], &bank["net_change"]), (&json!("-13.50"), &json!("-3.50")));
    let sum = row(&chart, "5099");
    assert_eq!((&sum["kind"], &sum["balance"]), (&json!("sum"), &json!("3.50")));

    let first = chart["periods"][0]["period"].as_i64().unwrap();
    let path = format!("BOOKS/chart?from={first}&to={first}");
    let (_, november) = site.ask(&ann, Method::GET, &path, Value::Null).await;
    let coal = row(&november, "5010");
    assert_eq!((&coal["balance"], &coal["net_change"]), (&json!("3.50"), &json!("10.00")));
}

#[tokio::test]
async fn a_card_tells_years_lines_and_former_codes() {
    let site = posted().await;
    let ann = site.ann().await;
    site.books.apply(site.books.stage("5010 code 5110").await).await.unwrap();
    let id = site.books.id("5110").await;
    let path = format!("BOOKS/accounts/{id}");
    let (_, card) = site.ask(&ann, Method::GET, &path, Value::Null).await;
    let years: Vec<_> =
        card["years"].as_array().unwrap().iter().map(|y| (&y["end"], &y["net"])).collect();
    assert_eq!(
        years,
        [(&json!("2027-01-31"), &json!("3.50")), (&json!("2026-01-31"), &json!("10.00"))]
    );
    assert_eq!(card["years"][1]["months"].as_array().unwrap()[9], 1, "November is the tenth month");
    assert_eq!(card["former"][0]["code"], "5010");
    assert_eq!(
        (&card["former"][0]["from"], card["former"][0]["to"].is_string()),
        (&Value::Null, true)
    );

    let lines = format!("{path}/lines");
    let (_, page) = site.ask(&ann, Method::GET, &lines, Value::Null).await;
    let dates: Vec<_> = page.as_array().unwrap().iter().map(|line| line["date"].clone()).collect();
    assert_eq!(dates, ["2026-04-05", "2026-02-05", "2025-11-05"], "latest first");
    assert!(page.as_array().unwrap().iter().all(|line| line["posted_code"] == "5010"));
    let (_, beyond) = site.ask(&ann, Method::GET, &format!("{lines}?page=9"), Value::Null).await;
    assert_eq!(beyond, json!([]));
    assert_eq!(site.ask(&ann, Method::GET, "BOOKS/accounts/999999", Value::Null).await.0, 404);
}

#[tokio::test]
async fn new_books_are_checked_field_by_field_and_opened_empty() {
    let site = Site::open().await;
    let ann = site.ann().await;
    let form = |name: &str, currency: &str, month: u8, day: u8| json!({ "name": name, "currency": currency, "year_month": month, "year_day": day });
    for (body, field) in [
        (form(" ", "GBP", 2, 1), "name"),
        (form("New", "pounds", 2, 1), "currency"),
        (form("New", "GBP", 2, 30), "year_day"),
        (form("New", "GBP", 13, 1), "year_day"),
    ] {
        let (status, problem) = site.ask(&ann, Method::POST, "/api/books", body).await;
        assert_eq!((status, problem["refused"][0]["field"].as_str()), (422, Some(field)));
    }
    let (status, created) =
        site.ask(&ann, Method::POST, "/api/books", form("New", "eur", 4, 6)).await;
    assert_eq!(status, 201);
    let (_, list) = site.ask(&ann, Method::GET, "/api/books", Value::Null).await;
    let new = list.as_array().unwrap().iter().find(|b| b["id"] == created["id"]).unwrap();
    assert_eq!(
        (&new["currency"], &new["accounts"], &new["lines"]),
        (&json!("EUR"), &json!(0), &json!(0))
    );
    let path = format!("/api/books/{}/chart", created["id"]);
    let (_, chart) = site.ask(&ann, Method::GET, &path, Value::Null).await;
    assert_eq!((&chart["rows"], &chart["year_end"]), (&json!([]), &Value::Null));
}

#[tokio::test]
async fn a_stop_is_overridden_with_a_typed_reason_and_that_can_be_taken_back() {
    let site = posted().await;
    let ann = site.ann().await;
    let plan = format!("BOOKS/plans/{}", site.books.stage("5010 class asset").await);
    let (_, view) = site.ask(&ann, Method::GET, &plan, Value::Null).await;
    let stop = &view["report"]["findings"][0];
    assert_eq!((&stop["rule"], &stop["can_override"]), (&json!("class_across"), &json!(true)));
    let path = format!("{plan}/override");
    let with = |reason: Value| json!({ "finding": stop["key"], "reason": reason });
    let (status, problem) = site.ask(&ann, Method::PUT, &path, with(json!("  "))).await;
    assert_eq!((status, problem["refused"][0]["field"].as_str()), (422, Some("reason")));
    let (_, view) =
        site.ask(&ann, Method::PUT, &path, with(json!("restated by the auditor"))).await;
    assert_eq!(view["report"]["findings"][0]["overridden"], "restated by the auditor");
    let (_, view) = site.ask(&ann, Method::PUT, &path, with(Value::Null)).await;
    assert_eq!(view["report"]["findings"][0]["overridden"], Value::Null);
}

#[tokio::test]
async fn the_trail_names_who_did_what() {
    let site = posted().await;
    let ann = site.ann().await;
    let applied = site.books.apply(site.books.stage("5030 fate deactivate").await).await.unwrap();
    site.books.undo(applied).await.unwrap();
    let (_, trail) = site.ask(&ann, Method::GET, "BOOKS/trail", Value::Null).await;
    let rows = trail["rows"].as_array().unwrap();
    let actions: Vec<_> = rows.iter().map(|t| t["action"].clone()).collect();
    assert_eq!(actions, ["undid", "applied", "imported", "imported", "opened_books"]);
    // Each row has the name of its day.
    assert!(rows.iter().all(|t| t["person"].as_str().unwrap().starts_with("Ann")));
    assert_eq!(rows[1]["application"], applied.0);
    assert_eq!(
        site.ask(&ann, Method::GET, "BOOKS/trail?page=7", Value::Null).await.1["rows"],
        json!([])
    );
}

#[tokio::test]
async fn words_that_are_no_json_and_forms_that_lack_fields_are_refused() {
    let site = Site::open().await;
    let ann = site.ann().await;
    let (status, _) = site.ask(&ann, Method::POST, "BOOKS/plans", json!({ "title": "x" })).await;
    assert_eq!(status, 422);
    let answer = ann.post(site.at("BOOKS/plans")).body("nonsense").send().await.unwrap();
    assert!(answer.status().is_client_error());
    let long = "x".repeat(81);
    let (status, problem) =
        site.ask(&ann, Method::POST, "BOOKS/plans", json!({ "name": long })).await;
    assert_eq!((status, problem["refused"][0]["field"].as_str()), (422, Some("name")));
    assert_eq!(site.ask(&ann, Method::GET, "/api/books/nonsense/chart", Value::Null).await.0, 404);
}

#[tokio::test]
async fn what_did_not_change_since_one_asked_is_not_answered_again() {
    let site = posted().await;
    let ann = site.ann().await;
    let draft = site.books.stage("5010 code 5110; 5020 name Firewood").await;
    let plan = format!("BOOKS/plans/{draft}");
    let ask = async |path: &str, tag: &str| {
        let asked = ann.get(site.at(path)).header("if-none-match", tag);
        let answer = asked.send().await.unwrap();
        let tag = answer.headers()["etag"].to_str().unwrap().to_owned();
        assert_eq!(answer.headers()["cache-control"], "no-store");
        (answer.status().as_u16(), tag, answer.text().await.unwrap())
    };
    let paths = ["crosswalk", "trial-balances"].map(|of| format!("{plan}/{of}"));
    for path in paths.iter().map(String::as_str).chain(["BOOKS/review"]) {
        let (status, tag, first) = ask(path, "W/\"other\"").await;
        assert_eq!((status, first.is_empty()), (200, false), "{path}");
        assert_eq!(ask(path, &tag).await, (304, tag.clone(), String::new()), "{path}");
        let (_, next, beyond) = ask(&format!("{path}?page=9"), &tag).await;
        assert_ne!(next, tag, "another page is another answer: {beyond}");
    }
    let tags = async || {
        let (review, crosswalk) = (ask("BOOKS/review", "").await.1, ask(&paths[0], "").await.1);
        (review, crosswalk)
    };
    let before = tags().await;
    let name = json!({ "stage": { "field": "name", "value": "Logs" } });
    let wood = site.books.id("5020").await.0;
    let seen = json!({ "field": "name", "value": "Firewood" });
    let edit = json!({ "account": wood, "seen": seen, "wanted": name });
    let edits = json!({ "edits": [edit] });
    let (status, left) = site.ask(&ann, Method::POST, &format!("{plan}/edits"), edits).await;
    assert_eq!(status, 200, "{left}");
    let after = tags().await;
    assert_eq!(after.0, before.0, "a plan changes nothing of the books");
    assert_ne!(after.1, before.1);
}

#[tokio::test]
async fn the_trial_balance_of_a_plan_adds_up_on_both_sides() {
    let site = posted().await;
    let ann = site.ann().await;
    let plan = format!("BOOKS/plans/{}", site.books.stage("5010 code 5110").await);
    let (_, shown) = site.ask(&ann, Method::GET, &plan, Value::Null).await;
    let all = json!({ "today": "0.00", "after": "0.00", "difference": "0.00" });
    assert_eq!(shown["report"]["all"], all);
    let path = format!("{plan}/trial-balances");
    let (_, trial) = site.ask(&ann, Method::GET, &path, Value::Null).await;
    let side = |line: &Value, side: &str| line[side].as_str().map(str::to_owned);
    let lines: Vec<_> = trial["lines"].as_array().unwrap().iter().collect();
    let of = |code: &str| lines.iter().find(|line| line["code"] == code).unwrap();
    assert_eq!((side(of("5010"), "today"), side(of("5010"), "after")), (Some("3.50".into()), None));
    assert_eq!((side(of("5110"), "today"), side(of("5110"), "after")), (None, Some("3.50".into())));
    for at in ["today", "after"] {
        let minor = |line: &&Value| side(line, at)?.replace('.', "").parse::<i64>().ok();
        assert_eq!(lines.iter().filter_map(minor).sum::<i64>(), 0, "{at}");
    }
}
