//! The server over real HTTP: who may ask, what is refused and how it is said, and that nothing is
//! stored when it is.

use crate::site::{PASSWORD, Site};
use reqwest::{Client, Method, StatusCode};
use serde_json::{Value, json};

/// Everything of a set of books that can be read.
const READS: [&str; 15] = [
    "BOOKS/chart",
    "BOOKS/accounts/1",
    "BOOKS/accounts/1/lines",
    "BOOKS/plans",
    "BOOKS/plans/1",
    "BOOKS/applications/1",
    "BOOKS/applications/1/undo",
    "BOOKS/applications/1/proof.xlsx",
    "BOOKS/trail",
    "BOOKS/imports",
    "BOOKS/imports/1/rollback",
    "BOOKS/imports/1/rejected.xlsx",
    "BOOKS/exports/chart.csv",
    "BOOKS/exports/journal.xlsx",
    "BOOKS/exports/books.xml",
];

#[tokio::test]
async fn who_is_not_signed_in_sees_nothing() {
    let site = Site::open().await;
    for path in READS.iter().chain(&["/api/books", "/api/session", "BOOKS/imports/1"]) {
        let answer = Client::new().get(site.at(path)).send().await.unwrap();
        assert_eq!(answer.status(), StatusCode::UNAUTHORIZED, "{path}");
        assert_eq!(answer.headers()["content-type"], "application/problem+json");
        assert_eq!(answer.json::<Value>().await.unwrap()["code"], "signed_out");
    }
}

#[tokio::test]
async fn who_is_no_member_sees_and_changes_nothing() {
    let site = Site::open().await;
    let plan = site.books.stage("5010 name Steam coal").await;
    let (sly, _) = site.sign_in("sly@books.example", PASSWORD).await;
    for path in READS {
        let (status, _) = site.ask(&sly, Method::GET, path, Value::Null).await;
        assert_eq!(status, 404, "{path}");
    }
    let changes = [
        (Method::POST, "BOOKS/plans".to_owned(), json!({ "name": "x" })),
        (Method::DELETE, format!("BOOKS/plans/{plan}"), Value::Null),
        (Method::PUT, "BOOKS/imports/1".to_owned(), json!({})),
        (Method::POST, "BOOKS/imports/1".to_owned(), json!({})),
        (Method::DELETE, "BOOKS/imports/1/rollback".to_owned(), Value::Null),
        (Method::POST, format!("BOOKS/plans/{plan}/edits"), json!({ "edits": [] })),
        (
            Method::POST,
            format!("BOOKS/plans/{plan}/apply"),
            json!({ "fingerprint": "", "acknowledged": [] }),
        ),
        (
            Method::PUT,
            format!("BOOKS/plans/{plan}/override"),
            json!({ "finding": "x", "reason": "y" }),
        ),
    ];
    for (method, path, body) in changes {
        let (status, _) = site.ask(&sly, method, &path, body).await;
        assert_eq!(status, 404, "{path}");
    }
    assert_eq!(site.upload(&sly, "chart", "a.csv", "Code,Name\n1,x").await.0, 404);
    assert_eq!(site.ask(&sly, Method::GET, "/api/books", Value::Null).await.1, json!([]));
}

#[tokio::test]
async fn sessions_are_kept_by_the_server_and_end() {
    let site = Site::open().await;
    let (client, answer) = site.sign_in("ANN@books.example", PASSWORD).await;
    let cookie = answer.headers()["set-cookie"].to_str().unwrap().to_owned();
    assert!(cookie.contains("HttpOnly") && cookie.contains("SameSite=Strict"), "{cookie}");
    let name = site.ask(&client, Method::GET, "/api/session", Value::Null).await.1;
    assert_eq!(name["name"], "Ann");
    assert_eq!(site.ask(&client, Method::DELETE, "/api/session", Value::Null).await.0, 204);
    assert_eq!(site.ask(&client, Method::GET, "/api/books", Value::Null).await.0, 401);
    // The old cookie is worth nothing, even when somebody kept it.
    let kept = cookie.split(';').next().unwrap();
    let again =
        Client::new().get(site.at("/api/books")).header("cookie", kept).send().await.unwrap();
    assert_eq!(again.status(), StatusCode::UNAUTHORIZED);
}

#[tokio::test]
async fn guessing_passwords_is_slowed_down() {
    let site = Site::open().await;
    for _ in 0..8 {
        let (_, answer) = site.sign_in("ann@books.example", "guess").await;
        assert_eq!(answer.status(), StatusCode::UNAUTHORIZED);
    }
    let (_, answer) = site.sign_in("ann@books.example", PASSWORD).await;
    assert_eq!(answer.status(), StatusCode::TOO_MANY_REQUESTS);
    let (_, other) = site.sign_in("sly@books.example", PASSWORD).await;
    assert_eq!(other.status(), StatusCode::OK, "others are not kept out");
    let (_, nobody) = site.sign_in("nobody@books.example", "x").await;
    let (_, wrong) = site.sign_in("sly@books.example", "x").await;
    let said = async |answer: reqwest::Response| -> Value {
        let mut said: Value = answer.json().await.unwrap();
        said["request"].take();
        said
    };
    assert_eq!(said(nobody).await, said(wrong).await, "nobody learns who there is");
}

#[tokio::test]
async fn every_answer_carries_the_security_headers() {
    let site = Site::open().await;
    for path in ["/", "/books/1/chart", "/api/session", "/icon.svg"] {
        let answer = Client::new().get(site.at(path)).send().await.unwrap();
        let policy = answer.headers()["content-security-policy"].to_str().unwrap();
        assert!(
            policy.contains("default-src 'none'") && !policy.contains("unsafe-inline"),
            "{policy}"
        );
        assert_eq!(answer.headers()["x-content-type-options"], "nosniff", "{path}");
        assert_eq!(answer.headers()["x-frame-options"], "DENY", "{path}");
    }
    let unknown = Client::new().get(site.at("/api/nothing")).send().await.unwrap();
    assert_eq!(unknown.status(), StatusCode::NOT_FOUND);
}

#[tokio::test]
async fn files_that_cannot_be_read_are_refused_and_nothing_is_kept() {
    let site = Site::open().await;
    let ann = site.ann().await;
    for (name, content, code) in [
        ("chart.pdf", "x", "file_unreadable"),
        ("chart.xlsx", "not a workbook", "file_unreadable"),
        ("chart.csv", "a\0b", "file_unreadable"),
        ("chart.csv", "", "file_unreadable"),
        ("chart.csv", "\n\n", "not_laid_out"),
    ] {
        let (status, problem) = site.upload(&ann, "chart", name, content).await;
        assert_eq!((status, problem["code"].as_str()), (422, Some(code)), "{name}");
    }
    let (status, problem) = site.upload(&ann, "poem", "a.csv", "x").await;
    assert_eq!((status, problem["refused"][0]["field"].as_str()), (422, Some("kind")));
    let large = "x".repeat(201 << 20);
    let (status, problem) = site.upload(&ann, "chart", "a.csv", large).await;
    assert_eq!((status, &problem["code"]), (413, &json!("upload_too_large")));
    assert_eq!(problem["detail"], "the file is larger than 200 MB; split it");
    assert_eq!(site.books.count("import_piece").await, 0);
}

#[tokio::test]
async fn a_journal_is_shown_first_and_stored_when_agreed_to() {
    let site = Site::open().await;
    let ann = site.ann().await;
    let journal = "Entry,Date,Code,Debit,Credit,Colour\n\
                   1,2026-03-01,5010,12.00,,red\n1,2026-03-01,1010,,12.00,\n\
                   2,2026-03-01,5010,12.00,,\n2,2026-03-01,1010,,11.00,\n\
                   3,2026-03-01,9999,1.00,,\n";
    let (status, shown) = site.upload(&ann, "journal", "march.csv", journal).await;
    assert_eq!(status, 200);
    assert_eq!((&shown["ready_rows"], &shown["rejected_rows"]), (&json!(2), &json!(3)));
    let colour = json!({ "at": 5, "heading": "Colour", "field": null, "meaning": null });
    assert_eq!(shown["columns"][5], colour);
    assert_eq!(shown["rejected"][2]["message"], "no account has, or ever had, the code 9999");
    assert_eq!(site.lines().await, 0, "nothing is stored before somebody agrees");
    let path = format!("BOOKS/imports/{}", shown["id"]);
    assert_eq!(site.ask(&ann, Method::GET, &path, Value::Null).await.1, shown);
    assert_eq!(site.ask(&ann, Method::POST, &path, json!({})).await, (200, json!({ "rows": 2 })));
    assert_eq!(site.lines().await, 2);
    assert_eq!(site.ask(&ann, Method::POST, &path, json!({})).await.0, 404, "it is stored once");
    let (_, again) = site.upload(&ann, "journal", "march.csv", journal).await;
    assert_eq!(again["ready_rows"], 0);
    let path = format!("BOOKS/imports/{}", again["id"]);
    assert_eq!(site.ask(&ann, Method::POST, &path, json!({})).await.1["code"], "nothing_ready");
    assert_eq!(site.ask(&ann, Method::DELETE, &path, Value::Null).await.0, 204);
    assert_eq!(site.ask(&ann, Method::GET, &path, Value::Null).await.0, 404);
    let trail = site.ask(&ann, Method::GET, "BOOKS/trail", Value::Null).await.1;
    assert_eq!(trail["rows"][0]["detail"], "journal from march.csv, 2 rows");
}

#[tokio::test]
async fn what_cannot_be_staged_is_named_and_nothing_else_is_staged() {
    let site = Site::open().await;
    let ann = site.ann().await;
    let (coal, oil) = (site.books.id("5010").await.0, site.books.id("5040").await.0);
    let (_, created) =
        site.ask(&ann, Method::POST, "BOOKS/plans", json!({ "name": "Spring" })).await;
    let plan = format!("BOOKS/plans/{}", created["id"]);
    let edit = |account: i64, field: &str, value: &str| {
        let wanted = json!({ "stage": { "field": field, "value": value } });
        json!({ "account": account, "seen": null, "wanted": wanted })
    };
    let edits = json!({ "edits": [edit(coal, "name", "Steam coal"), edit(oil, "code", " ")] });
    let (status, problem) = site.ask(&ann, Method::POST, &format!("{plan}/edits"), edits).await;
    assert_eq!((status, problem["code"].as_str()), (422, Some("fields_refused")));
    assert_eq!(
        problem["refused"],
        json!([{ "account": oil, "field": "code", "reason": "the code is empty" }])
    );
    let (_, view) = site.ask(&ann, Method::GET, &plan, Value::Null).await;
    assert_eq!(view["staged"], json!([]));

    // What is as today is no change; what is new is answered with its rehearsal.
    let edits = json!({ "edits": [edit(coal, "name", "Coal"), edit(oil, "name", "Oils")] });
    let (status, view) = site.ask(&ann, Method::POST, &format!("{plan}/edits"), edits).await;
    assert_eq!((status, view["plan"]["whole"]["staged"].as_array().unwrap().len()), (200, 1));
    assert_eq!(view["done"][1]["after"]["value"], "Oils");
    assert_eq!(site.crosswalk(&ann, &plan).await[0]["new_name"], "Oils");
    let account = json!({ "code": "5050", "name": "Gas", "kind": "account", "class": "expense",
                          "section": null, "parent": null });
    let (status, view) = site.ask(&ann, Method::POST, &format!("{plan}/accounts"), account).await;
    assert_eq!(
        (status, view["plan"]["whole"]["report"]["accounts_after"].as_u64()),
        (200, Some(10))
    );
    for (class, fields) in [("expense", vec!["code", "name"]), ("x", vec!["class"])] {
        let wrong = json!({ "code": "", "name": "", "kind": "account", "class": class });
        let path = format!("{plan}/accounts");
        let (status, problem) = site.ask(&ann, Method::POST, &path, wrong).await;
        let refused = problem["refused"].as_array().unwrap();
        let named: Vec<_> = refused.iter().map(|field| field["field"].as_str().unwrap()).collect();
        assert_eq!((status, named), (422, fields), "{problem}");
    }

    let renamed = site.ask(&ann, Method::PUT, &plan, json!({ "name": "Summer" })).await;
    assert_eq!(renamed.0, 204);
    let (_, plans) = site.ask(&ann, Method::GET, "BOOKS/plans", Value::Null).await;
    assert_eq!((&plans[0]["name"], &plans[0]["accounts"]), (&json!("Summer"), &json!(2)));
    assert_eq!(site.ask(&ann, Method::DELETE, &plan, Value::Null).await.0, 204);
    let (status, answered) = site.ask(&ann, Method::GET, &plan, Value::Null).await;
    assert_eq!((status, &answered["code"]), (409, &json!("plan_ended")));
    let said = answered["detail"].as_str().unwrap();
    assert!(said.starts_with("“Summer” was discarded already, by Ann on "), "{said}");
}

#[tokio::test]
async fn a_plan_is_applied_proved_handed_over_and_undone() {
    let site = Site::open().await;
    let ann = site.ann().await;
    let (bank, wood) = (site.books.id("1010").await, site.books.id("5020").await);
    let day = time::macros::date!(2026 - 03 - 01);
    site.books.post(&[site.books.entry(day, wood, bank, 700)]).await;
    let plan =
        format!("BOOKS/plans/{}", site.books.stage("5020 fate merge 5010; 5030 code 5031").await);
    let (_, view) = site.ask(&ann, Method::GET, &plan, Value::Null).await;
    let stale = json!({ "fingerprint": "something else", "acknowledged": [] });
    let (status, problem) = site.ask(&ann, Method::POST, &format!("{plan}/apply"), stale).await;
    assert_eq!((status, problem["code"].as_str()), (409, Some("changed_since")));
    let agreed = json!({ "fingerprint": view["fingerprint"], "acknowledged": [] });
    let (status, applied) = site.ask(&ann, Method::POST, &format!("{plan}/apply"), agreed).await;
    assert_eq!(status, 201, "{applied}");
    let proof = format!("BOOKS/applications/{}", applied["id"]);
    let (_, shown) = site.ask(&ann, Method::GET, &proof, Value::Null).await;
    let report = &shown["report"];
    assert_eq!((&report["lines"], &report["accounted"]), (&json!(2), &json!(2)));
    assert_eq!(
        (report["difference"].as_str(), report["debits"].as_str()),
        (Some("0.00"), Some("7.00"))
    );

    let book = ann
        .get(site.at(&format!("{proof}/proof.xlsx")))
        .send()
        .await
        .unwrap()
        .bytes()
        .await
        .unwrap();
    let rows = zf_sheets::read("proof.xlsx", book, &zf_sheets::How::default()).unwrap();
    let rows = rows.sheets[0].rows.all();
    assert!(rows.iter().any(|row| row.cells.iter().any(|cell| cell.text == "2 = 2")), "{rows:?}");

    let id = site.books.id("5010").await;
    let (_, card) = site.ask(&ann, Method::GET, &format!("BOOKS/accounts/{id}"), Value::Null).await;
    assert_eq!((&card["former"][0]["code"], &card["lines"]), (&json!("5020"), &json!(1)));
    assert!(card["former"][0]["to"].is_string() && card["former"][0]["from"].is_null());
    let (_, lines) =
        site.ask(&ann, Method::GET, &format!("BOOKS/accounts/{id}/lines"), Value::Null).await;
    assert_eq!((&lines[0]["posted_code"], &lines[0]["amount"]), (&json!("5020"), &json!("7.00")));
    let (_, chart) = site.ask(&ann, Method::GET, "BOOKS/chart", Value::Null).await;
    let row = chart["rows"].as_array().unwrap().iter().find(|row| row["code"] == "5010").unwrap();
    assert_eq!((&row["former"], &row["net_change"]), (&json!(["5020"]), &json!("7.00")));

    let (_, undo) = site.ask(&ann, Method::GET, &format!("{proof}/undo"), Value::Null).await;
    let agreed = json!({ "fingerprint": undo["fingerprint"], "acknowledged": [] });
    let (status, undone) = site.ask(&ann, Method::POST, &format!("{proof}/undo"), agreed).await;
    assert_eq!(status, 201);
    let (_, shown) = site.ask(&ann, Method::GET, &proof, Value::Null).await;
    assert_eq!(shown["undone_by"], undone["id"]);
    site.books.must_recount().await;
    assert_eq!(site.books.id("5020").await, wood);
}

#[tokio::test]
async fn new_books_say_which_field_is_wrong() {
    let site = Site::open().await;
    let ann = site.ann().await;
    let form = |name: &str, currency: &str, day: u8| json!({ "name": name, "currency": currency, "year_month": 4, "year_day": day });
    for (body, field) in [
        (form(" ", "GBP", 6), "name"),
        (form("A", "pounds", 6), "currency"),
        (form("A", "GBP", 31), "year_day"),
    ] {
        let (status, problem) = site.ask(&ann, Method::POST, "/api/books", body).await;
        assert_eq!((status, problem["refused"][0]["field"].as_str()), (422, Some(field)));
    }
    let (status, _) = site.ask(&ann, Method::POST, "/api/books", form("Alpha", "jpy", 6)).await;
    assert_eq!(status, 201);
    let (_, list) = site.ask(&ann, Method::GET, "/api/books", Value::Null).await;
    assert_eq!((&list[0]["name"], &list[0]["currency"]), (&json!("Alpha"), &json!("JPY")));
}

#[tokio::test]
async fn a_crosswalk_is_judged_as_a_whole_and_staged_in_a_plan() {
    let site = Site::open().await;
    let ann = site.ann().await;
    let (_, created) =
        site.ask(&ann, Method::POST, "BOOKS/plans", json!({ "name": "Autumn" })).await;
    let crosswalk = "Old code,New code,New name\n5010,5020,\n5020,5010,\n5040,5030,\n9999,1,\n";
    let (status, shown) = site.upload(&ann, "crosswalk", "map.csv", crosswalk).await;
    assert_eq!(
        (status, &shown["ready_rows"], &shown["rejected_rows"]),
        (200, &json!(3), &json!(1))
    );
    assert_eq!(shown["rejected"][0]["reason"], "account_unknown");
    let import = format!("BOOKS/imports/{}", shown["id"]);
    let stage = |leave_out: bool| json!({ "plan": created["id"], "leave_out": leave_out });
    let path = format!("{import}/stage");
    let (status, problem) = site.ask(&ann, Method::POST, &path, stage(false)).await;
    assert_eq!((status, problem["code"].as_str()), (422, Some("rows_rejected")));
    let (status, problem) = site.ask(&ann, Method::POST, &import, json!({})).await;
    assert_eq!((status, problem["code"].as_str()), (422, Some("not_stored")));

    let (status, view) = site.ask(&ann, Method::POST, &path, stage(true)).await;
    assert_eq!(status, 200, "{view}");
    let changes = site.crosswalk(&ann, &format!("BOOKS/plans/{}", view["id"])).await;
    let of = |old: &str| changes.as_array().unwrap().iter().find(|c| c["old_code"] == old).unwrap();
    assert_eq!(of("5010")["new_code"], "5020");
    assert_eq!(of("5020")["new_code"], "5010");
    assert_eq!(of("5040")["changes"], json!(["merged"]));
    assert_eq!(site.ask(&ann, Method::GET, &import, Value::Null).await.0, 404, "the file is gone");

    let (_, uses) = site.upload(&ann, "usage", "a.csv", "Code,Used by,Called\n5010,rule,x\n").await;
    let path = format!("BOOKS/imports/{}/stage", uses["id"]);
    let (status, problem) = site.ask(&ann, Method::POST, &path, stage(true)).await;
    assert_eq!((status, problem["code"].as_str()), (422, Some("not_staged")));
}
