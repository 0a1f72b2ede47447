//! What the books lay down for themselves, over HTTP: changed, tried, locked, put away and deleted, each
//! with its row in the trail; and a trail that was touched is found out.

use crate::site::{PASSWORD, Site};
use reqwest::Method;
use serde_json::{Value, json};
use time::macros::date;
use zf_core::access::Role;
use zf_core::ids::PlanId;
use zf_core::trail::Broken;
use zf_store::plans::applying::Agreement;

impl Site {
    /// The latest row of the trail, in words.
    async fn noted(&self) -> String {
        let row = self.books.done_last(1).await.remove(0);
        format!("{} {}", row.what, row.detail)
    }
}

#[tokio::test]
async fn each_setting_is_changed_once_and_noted_with_old_and_new() {
    let site = Site::open().await;
    let ann = site.ann().await;
    let put = async |body: Value| site.ask(&ann, Method::PUT, "BOOKS/settings", body).await.0;
    for (change, noted) in [
        (json!({ "name": "Larger books" }), "renamed_books from Small books to Larger books"),
        (json!({ "currency": "EUR" }), "changed_currency from GBP to EUR"),
        (
            json!({ "year": { "year_month": 4, "year_day": 6 } }),
            "changed_year from years from 1 February to years from 6 April",
        ),
        (
            json!({ "journal": { "day": "2020-04-06" } }),
            "changed_journal from the beginning to 6 Apr 2020",
        ),
        (json!({ "uses_complete": true }), "changed_usage from not complete to complete"),
        (
            json!({ "rule": { "rule": "reused_code", "level": "stop" } }),
            "changed_policy A code that another account used to bear is not given out again: from caution to stop",
        ),
        (
            json!({ "as_of": { "date": "2026-05-05" } }),
            "changed_as_of from the latest period with its usual lines to 5 May 2026",
        ),
    ] {
        assert_eq!(put(change.clone()).await, 204, "{change}");
        assert_eq!(site.noted().await, noted);
        let rows = site.books.count("trail").await;
        assert_eq!(put(change).await, 204, "to say it again is no change");
        assert_eq!(site.books.count("trail").await, rows);
    }
    let (_, shown) = site.ask(&ann, Method::GET, "BOOKS/settings", Value::Null).await;
    assert_eq!(
        (&shown["name"], &shown["currency"], &shown["journal"], &shown["as_of"]),
        (
            &json!("Larger books"),
            &json!("EUR"),
            &json!({ "day": "2020-04-06" }),
            &json!("2026-05-05")
        )
    );
    for (wrong, status) in [
        (json!({ "name": " " }), 422),
        (json!({ "currency": "pounds" }), 422),
        (json!({ "year": { "year_month": 13, "year_day": 1 } }), 422),
        (json!({ "rule": { "rule": "gravity", "level": "off" } }), 422),
    ] {
        assert_eq!(put(wrong.clone()).await, status, "{wrong}");
    }
}

#[tokio::test]
async fn another_fiscal_year_is_tried_first_and_moves_no_line() {
    let site = Site::open().await;
    let ann = site.ann().await;
    let (bank, coal) = (site.books.id("1010").await, site.books.id("5010").await);
    let days = [date!(2025 - 12 - 10), date!(2026 - 01 - 20), date!(2026 - 03 - 05)];
    let entries: Vec<_> = days
        .iter()
        .zip([100, 20, 3])
        .map(|(day, n)| site.books.entry(*day, coal, bank, n))
        .collect();
    site.books.post(&entries).await;
    site.ask(&ann, Method::PUT, "BOOKS/lock", json!({ "until": "2026-01-31" })).await;
    let year = json!({ "year": { "year_month": 1, "year_day": 1 } });
    let (status, tried) = site.ask(&ann, Method::POST, "BOOKS/settings", year.clone()).await;
    assert_eq!(status, 200, "{tried}");
    let year_of = |which: &str| (tried[which]["first"].clone(), tried[which]["net"].clone());
    assert_eq!(year_of("year_before"), (json!("2026-02-01"), json!("-0.03")));
    assert_eq!(year_of("year_after"), (json!("2026-01-01"), json!("-0.23")));
    assert_eq!(tried["accounts"], 1);
    let balance = async || {
        let (_, chart) = site.ask(&ann, Method::GET, "BOOKS/chart", Value::Null).await;
        let rows = chart["rows"].as_array().unwrap();
        rows.iter().find(|row| row["code"] == "5010").unwrap()["balance"].clone()
    };
    assert_eq!(balance().await, "0.03", "to try it changes nothing");
    assert_eq!(site.ask(&ann, Method::PUT, "BOOKS/settings", year).await.0, 204);
    assert_eq!(balance().await, "0.23");
    site.books.must_recount().await;
    let (_, shown) = site.ask(&ann, Method::GET, "BOOKS/settings", Value::Null).await;
    assert_eq!(shown["locked"], "2026-01-31", "what was locked stays locked");
    // What is fixed once there are lines says why.
    for fixed in
        [json!({ "currency": "EUR" }), json!({ "year": { "year_month": 1, "year_day": 6 } })]
    {
        let (status, answered) = site.ask(&ann, Method::PUT, "BOOKS/settings", fixed).await;
        assert_eq!((status, &answered["code"]), (409, &json!("refused")));
        assert!(answered["detail"].as_str().unwrap().contains("fixed once there are lines"));
    }
}

#[tokio::test]
async fn locked_months_are_opened_by_an_owner_with_a_reason_only() {
    let site = Site::open().await;
    let ann = site.ann().await;
    let sly = site.books.store.person_by_email("sly@books.example").await.unwrap().unwrap().id;
    site.books.add_member(sly, &[Role::Reviewer]).await;
    let (reviewer, _) = site.sign_in("sly@books.example", PASSWORD).await;
    let until = |day: &str| json!({ "until": day });
    assert_eq!(site.ask(&reviewer, Method::PUT, "BOOKS/lock", until("2026-03-15")).await.0, 204);
    assert_eq!(site.noted().await, "locked from no day to 31 Mar 2026");
    let (status, answered) = site.ask(&ann, Method::PUT, "BOOKS/lock", until("2026-02-01")).await;
    assert!(
        status == 409 && answered["detail"].as_str().unwrap().contains("takes a reason"),
        "{answered}"
    );
    let open = |reason: &str| json!({ "until": "2026-01-31", "reason": reason });
    let path = "BOOKS/lock";
    assert_eq!(site.ask(&reviewer, Method::POST, path, open("late invoice")).await.0, 403);
    let (status, answered) = site.ask(&ann, Method::POST, path, open("  ")).await;
    assert_eq!((status, &answered["refused"][0]["field"]), (422, &json!("reason")));
    assert_eq!(site.ask(&ann, Method::POST, path, open("late invoice")).await.0, 204);
    assert_eq!(
        site.noted().await,
        "unlocked from 31 Mar 2026 to 31 Jan 2026. Because: late invoice"
    );
}

#[tokio::test]
async fn books_that_were_put_away_are_looked_at_and_not_changed() {
    let site = Site::open().await;
    let ann = site.ann().await;
    let plan = site.draft(&ann).await;
    let away = |archived: bool| json!({ "archived": archived });
    assert_eq!(site.ask(&ann, Method::PUT, "BOOKS/archived", away(true)).await.0, 204);
    for (method, path, body) in [
        (Method::POST, "BOOKS/plans".to_owned(), json!({ "name": "x" })),
        (Method::PUT, format!("BOOKS/plans/{plan}"), json!({ "name": "x" })),
        (Method::PUT, "BOOKS/settings".to_owned(), json!({ "name": "x" })),
    ] {
        let (status, answered) = site.ask(&ann, method, &path, body).await;
        assert_eq!((status, &answered["code"]), (403, &json!("not_yours")), "{path}");
        assert!(answered["detail"].as_str().unwrap().contains("archived"), "{answered}");
    }
    // Whoever had a right in hand already is stopped where it is written.
    let refused = site.books.store.apply(site.books.member, PlanId(1), &Agreement::default()).await;
    assert!(refused.unwrap_err().to_string().contains("archived"));
    for path in ["BOOKS/chart", "BOOKS/exports/chart.csv", "BOOKS/trail/trail.jsonl"] {
        let answer = ann.get(site.at(path)).send().await.unwrap();
        assert_eq!(answer.status(), 200, "{path}");
    }
    assert_eq!(site.ask(&ann, Method::PUT, "BOOKS/archived", away(false)).await.0, 204);
    assert_eq!(site.ask(&ann, Method::POST, "BOOKS/plans", json!({ "name": "x" })).await.0, 201);
}

#[tokio::test]
async fn deleted_books_leave_nothing_but_where_their_trail_ended() {
    let site = Site::open().await;
    let ann = site.ann().await;
    site.books.post_coal_and_wood().await;
    let plan = site.books.stage("5020 fate merge 5010").await;
    site.books.apply(plan).await.unwrap();
    site.upload(&ann, "crosswalk", "x.csv", "Code,New code\n5010,5110\n").await;
    let head = site.books.store.follow_trail(site.books.member.books()).await.unwrap().unwrap();
    let delete = |name: &str| json!({ "name": name });
    let (status, _) = site.ask(&ann, Method::POST, "BOOKS/deletion", delete("small books")).await;
    assert_eq!(status, 409, "the name is typed as it is");
    assert_eq!(site.ask(&ann, Method::POST, "BOOKS/deletion", delete("Small books")).await.0, 204);
    assert_eq!(site.ask(&ann, Method::GET, "BOOKS/chart", Value::Null).await.0, 404);
    let keyed = "SELECT table_name::text FROM information_schema.columns
                 WHERE table_schema = 'public' AND column_name = 'books_id'";
    let tables = site.books.names(keyed).await;
    assert!(tables.len() > 25);
    for table in tables {
        assert_eq!(site.books.count(&table).await, 0, "{table} holds nothing of them");
    }
    let (_, trail) =
        site.ask(&ann, Method::GET, "/api/trail?action=deleted_books", Value::Null).await;
    let answered = trail["rows"][0]["detail"].as_str().unwrap();
    assert!(
        answered.contains("“Small books”") && answered.contains(&head.seal.to_string()),
        "{answered}"
    );
    assert!(site.books.store.follow_server_trail().await.unwrap().is_ok());
}

#[tokio::test]
async fn a_row_that_was_touched_behind_the_programs_back_is_found() {
    let site = Site::open().await;
    let ann = site.ann().await;
    for name in ["Second", "Third", "Fourth"] {
        site.ask(&ann, Method::PUT, "BOOKS/settings", json!({ "name": name })).await;
    }
    let books = site.books.member.books();
    let follow = async || site.books.store.follow_trail(books).await.unwrap();
    assert!(follow().await.is_ok());
    // As somebody with the keys of the database could.
    let tamper = async |sql: &str| {
        let off =
            "ALTER TABLE trail DISABLE TRIGGER ALL; ALTER TABLE server_trail DISABLE TRIGGER ALL;";
        site.books.tamper(&format!("{off} {sql}")).await;
    };
    let (_, shown) = site.ask(&ann, Method::GET, "BOOKS/trail", Value::Null).await;
    let last = shown["all"].as_i64().unwrap();
    tamper(&format!("UPDATE trail SET facts = facts || ' ' WHERE number = {}", last - 1)).await;
    assert_eq!(follow().await, Err(Broken::Changed(last - 1)));
    tamper(&format!("UPDATE trail SET facts = rtrim(facts) WHERE number = {}", last - 1)).await;
    assert!(follow().await.is_ok());
    tamper(&format!("DELETE FROM trail WHERE number = {}", last - 1)).await;
    assert_eq!(follow().await, Err(Broken::Missing { expected: last - 1, found: last }));
    tamper(&format!("DELETE FROM trail WHERE number = {last}")).await;
    assert_eq!(follow().await, Err(Broken::Ended { expected: last, found: last - 2 }));
    tamper("UPDATE server_trail SET person_name = 'Nobody' WHERE number = 1").await;
    let server = site.books.store.follow_server_trail().await.unwrap();
    assert_eq!(server, Err(Broken::Changed(1)));
}

#[tokio::test]
async fn a_trail_is_narrowed_down_and_handed_out_whole() {
    let site = Site::open().await;
    let ann = site.ann().await;
    for name in ["Second", "Third"] {
        site.ask(&ann, Method::PUT, "BOOKS/settings", json!({ "name": name })).await;
    }
    let count = async |query: &str| {
        site.ask(&ann, Method::GET, &format!("BOOKS/trail?{query}"), Value::Null).await.1["matching"].clone()
    };
    assert_eq!(count("action=renamed_books").await, 2);
    assert_eq!(count("text=THIRD").await, 1);
    assert_eq!(count("from=2020-01-01&until=2020-12-31").await, 0);
    assert_eq!(count("by=nobody").await, 0);
    assert_eq!(site.ask(&ann, Method::GET, "BOOKS/trail?action=flew", Value::Null).await.0, 422);
    let (_, shown) = site.ask(&ann, Method::GET, "BOOKS/trail", Value::Null).await;
    let file =
        ann.get(site.at("BOOKS/trail/trail.jsonl")).send().await.unwrap().text().await.unwrap();
    assert_eq!(file.lines().count() as i64, shown["all"].as_i64().unwrap());
    assert!(file.lines().last().unwrap().contains(shown["head"].as_str().unwrap()));
    // A row is handed out as facts, and shown and looked for in words.
    let last: Value = serde_json::from_str(file.lines().last().unwrap()).unwrap();
    assert_eq!(last["detail"], json!({ "from": "Second", "to": "Third" }));
    assert_eq!(shown["rows"][0]["detail"], "from Second to Third");
    assert_eq!(count("text=second%20to").await, 1);
    let offered = json!({ "action": "renamed_books", "words": "renamed the books" });
    assert!(shown["actions"].as_array().unwrap().contains(&offered));
    // Days are written, and looked for, in the forms of whoever reads.
    let day = json!({ "as_of": { "date": "2026-05-31" } });
    site.ask(&ann, Method::PUT, "BOOKS/settings", day).await;
    assert_eq!(count("text=31%20may%202026").await, 1);
    let forms = json!({ "dates": "iso", "numbers": "point_comma" });
    site.ask(&ann, Method::PUT, "/api/account/forms", forms).await;
    assert_eq!(
        (count("text=31%20may%202026").await, count("text=2026-05-31").await),
        (json!(0), json!(1))
    );
}
