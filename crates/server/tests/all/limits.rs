//! What strangers, broken clients and hostile requests meet: limits that are checked before anything
//! is done, and refusals that say why, whoever raised them.

use crate::site::{PASSWORD, Site, running};
use reqwest::{Client, Method, StatusCode};
use serde_json::{Value, json};
use std::collections::BTreeSet;
use std::time::Duration;
use tokio::io::{AsyncReadExt, AsyncWriteExt};
use tokio::net::TcpStream;
use tokio::task::JoinSet;
use tokio::time::{Instant, timeout};
use zf_server::App;
use zf_store::trail::Actor;

/// A refusal as it must leave the server, whoever raised it.
fn must_be_a_problem(status: u16, problem: &Value, code: &str) {
    assert_eq!((problem["status"].as_u64(), &problem["code"]), (Some(status.into()), &json!(code)));
    assert!(problem["detail"].as_str().unwrap().len() > 10, "{problem}");
    assert_eq!(problem["request"].as_str().unwrap().len(), 32, "{problem}");
}

#[tokio::test]
async fn refusals_of_the_framework_are_problems_with_a_sentence_too() {
    let site = Site::open().await;
    let ann = site.ann().await;
    let plans = site.at("BOOKS/plans");
    let sent = |request: reqwest::RequestBuilder| async {
        let answer = request.send().await.unwrap();
        assert_eq!(answer.headers()["content-type"], "application/problem+json");
        assert_eq!(answer.headers()["cache-control"], "no-store");
        (answer.status().as_u16(), answer.json::<Value>().await.unwrap())
    };
    let json = |body: &str| {
        ann.post(&plans).header("content-type", "application/json").body(body.to_owned())
    };
    let (status, problem) = sent(json("{")).await;
    must_be_a_problem(status, &problem, "malformed");
    let (status, problem) = sent(json("{ \"name\": 7 }")).await;
    must_be_a_problem(status, &problem, "fields_refused");
    assert_eq!(problem["refused"][0]["field"], "name");
    let (status, problem) = sent(ann.post(&plans).body("name=x")).await;
    must_be_a_problem(status, &problem, "not_json");
    let (status, problem) = sent(ann.get(site.at("BOOKS/nothing"))).await;
    must_be_a_problem(status, &problem, "not_found");
    let (status, problem) = sent(ann.patch(&plans)).await;
    must_be_a_problem(status, &problem, "not_allowed");
    let (status, problem) = sent(ann.get(site.at("BOOKS/trail?page=x"))).await;
    must_be_a_problem(status, &problem, "fields_refused");
    let (status, problem) = sent(ann.get(site.at("BOOKS/plans/one"))).await;
    must_be_a_problem(status, &problem, "malformed");
}

#[tokio::test]
async fn answers_about_books_are_kept_by_nobody() {
    let site = Site::open().await;
    let ann = site.ann().await;
    let answer = ann.get(site.at("BOOKS/chart")).send().await.unwrap();
    assert_eq!(answer.headers()["cache-control"], "no-store");
}

#[tokio::test]
async fn more_than_a_request_may_hold_is_refused_by_its_size() {
    let site = Site::open().await;
    let ann = site.ann().await;
    // Anybody may send this, so little is taken.
    let sign_in = json!({ "email": "a".repeat(100_000), "password": "b" });
    let answer = Client::new().post(site.at("/api/session")).json(&sign_in).send().await.unwrap();
    assert_eq!(answer.status(), StatusCode::PAYLOAD_TOO_LARGE);
    let text = "a".repeat(5 << 20);
    let (status, problem) =
        site.ask(&ann, Method::POST, "BOOKS/plans", json!({ "name": text })).await;
    must_be_a_problem(status, &problem, "too_large");
    // A stranger is turned away before anything of it is read.
    let answer = Client::new()
        .post(site.at("BOOKS/plans"))
        .json(&json!({ "name": "a".repeat(1 << 20) }))
        .send()
        .await
        .unwrap();
    assert_eq!(answer.status(), StatusCode::UNAUTHORIZED);
}

#[tokio::test]
async fn texts_that_cannot_be_kept_are_refused_with_their_field() {
    let site = Site::open().await;
    let ann = site.ann().await;
    let plan = site.draft(&ann).await;
    let coal = site.books.id("5010").await.0;
    let edit = |value: &str| {
        let wanted = json!({ "stage": { "field": "name", "value": value } });
        json!({ "edits": [{ "account": coal, "wanted": wanted }] })
    };
    let new =
        |name: &str| json!({ "name": name, "currency": "GBP", "year_month": 1, "year_day": 1 });
    let forms = |text: &str| {
        [
            (Method::POST, "/api/books".to_owned(), new(text), "name"),
            (Method::POST, "BOOKS/plans".to_owned(), json!({ "name": text }), "name"),
            (Method::PUT, format!("BOOKS/plans/{plan}"), json!({ "name": text }), "name"),
            (
                Method::POST,
                format!("BOOKS/plans/{plan}/edits"),
                edit(text),
                "edits[0].wanted.stage.value",
            ),
            (
                Method::PUT,
                format!("BOOKS/plans/{plan}/override"),
                json!({ "finding": text, "reason": "x" }),
                "finding",
            ),
            (
                Method::POST,
                "BOOKS/not-duplicates".to_owned(),
                json!({ "accounts": [coal, coal], "reason": text }),
                "reason",
            ),
            (
                Method::POST,
                "BOOKS/dismissed".to_owned(),
                json!({ "kind": "name_form", "account": coal, "reason": text }),
                "reason",
            ),
        ]
    };
    for text in ["a\0b".to_owned(), "\u{1b}[0m".to_owned(), "x".repeat(40_000)] {
        for (method, path, body, field) in forms(&text) {
            let (status, problem) = site.ask(&ann, method, &path, body).await;
            assert_eq!((status, &problem["refused"][0]["field"]), (422, &json!(field)), "{path}");
        }
        let page = format!("BOOKS/codes?code={}", if text.len() > 9 { "x%00" } else { "%1B" });
        assert_eq!(site.ask(&ann, Method::GET, &page, Value::Null).await.0, 422);
    }
    let (status, problem) = site
        .ask(&ann, Method::POST, &format!("BOOKS/plans/{plan}/edits"), edit(&"x".repeat(20_000)))
        .await;
    assert_eq!(status, 422, "{problem}");
    let twice = json!({ "edits": [edit("A")["edits"][0], edit("B")["edits"][0]] });
    let (status, problem) =
        site.ask(&ann, Method::POST, &format!("BOOKS/plans/{plan}/edits"), twice).await;
    must_be_a_problem(status, &problem, "refused");
    let (status, problem) = site
        .ask(
            &ann,
            Method::PUT,
            "BOOKS/plans/999/override",
            json!({ "finding": "x", "reason": "y" }),
        )
        .await;
    must_be_a_problem(status, &problem, "not_found");
}

#[tokio::test]
async fn a_person_who_was_removed_is_signed_out() {
    let site = Site::open().await;
    let (sly, _) = site.sign_in("sly@books.example", PASSWORD).await;
    let store = &site.books.store;
    let id = store.person_by_email("sly@books.example").await.unwrap().unwrap().id;
    store.remove_person(Actor::Person(id), id).await.unwrap();
    let new = json!({ "name": "New", "currency": "GBP", "year_month": 1, "year_day": 1 });
    for (method, path) in [(Method::POST, "/api/books"), (Method::GET, "/api/session")] {
        let (status, problem) = site.ask(&sly, method, path, new.clone()).await;
        must_be_a_problem(status, &problem, "signed_out");
    }
}

#[tokio::test]
async fn pages_of_other_sites_cannot_have_anything_done() {
    let site = Site::open().await;
    let ann = site.ann().await;
    let port = site.address.rsplit(':').next().unwrap().to_owned();
    let begin = |headers: &[(&'static str, String)]| {
        let request = ann.post(site.at("BOOKS/plans")).json(&json!({ "name": "Draft" }));
        let request =
            headers.iter().fold(request, |request, (name, value)| request.header(*name, value));
        async { request.send().await.unwrap().status().as_u16() }
    };
    assert_eq!(begin(&[("sec-fetch-site", "cross-site".to_owned())]).await, 403);
    assert_eq!(begin(&[("sec-fetch-site", "same-site".to_owned())]).await, 403);
    assert_eq!(begin(&[("origin", "http://127.0.0.1:1".to_owned())]).await, 403);
    assert_eq!(begin(&[("origin", "null".to_owned())]).await, 403);
    assert_eq!(begin(&[("origin", format!("http://127.0.0.1:{port}"))]).await, 201);
    assert_eq!(begin(&[("sec-fetch-site", "same-origin".to_owned())]).await, 201);
    assert_eq!(begin(&[]).await, 201);
}

#[tokio::test]
async fn of_many_guesses_at_once_no_more_are_looked_at_than_are_allowed() {
    let site = Site::open().await;
    let mut guesses = JoinSet::new();
    for _ in 0..60 {
        let address = site.at("/api/session");
        let body = json!({ "email": "ann@books.example", "password": "guess" });
        guesses.spawn(async move {
            Client::new().post(address).json(&body).send().await.unwrap().status().as_u16()
        });
    }
    let answers = guesses.join_all().await;
    let tried = answers.iter().filter(|status| **status == 401).count();
    assert!(tried <= 8, "{tried} were tried");
    assert_eq!(answers.iter().filter(|status| **status == 429).count(), 60 - tried);
}

#[tokio::test]
async fn one_client_cannot_go_through_all_addresses() {
    let site = Site::open().await;
    let mut tried = 0;
    for n in 0..40 {
        let (_, answer) = site.sign_in(&format!("p{n}@books.example"), "spring2026").await;
        tried += usize::from(answer.status() == StatusCode::UNAUTHORIZED);
    }
    assert_eq!(tried, 24);
}

#[tokio::test]
async fn whoever_guesses_at_a_password_does_not_lock_its_owner_out() {
    let site = Site::open().await;
    // A device from which Ann signed in before.
    let ann = site.ann().await;
    for _ in 0..12 {
        site.sign_in("ann@books.example", "guess").await;
    }
    let (_, stranger) = site.sign_in("ann@books.example", PASSWORD).await;
    assert_eq!(stranger.status(), StatusCode::TOO_MANY_REQUESTS);
    let body = |password| json!({ "email": "ann@books.example", "password": password });
    let address = site.at("/api/session");
    let known = ann.post(&address).json(&body(PASSWORD)).send().await.unwrap();
    assert_eq!(known.status(), StatusCode::OK);
    // That device does not get to guess without end either.
    let mut tried = 0;
    for _ in 0..12 {
        let answer = ann.post(&address).json(&body("guess")).send().await.unwrap();
        tried += usize::from(answer.status() == StatusCode::UNAUTHORIZED);
    }
    assert_eq!(tried, 8);
}

#[tokio::test]
async fn a_session_lasts_on_while_it_is_used_and_goes_when_it_has_ended() {
    let site = Site::open().await;
    let ann = site.ann().await;
    let expiry = async || -> i64 {
        let query = "SELECT extract(epoch FROM max(expiry_date) - now())::bigint FROM tower_sessions.session";
        site.books.ask(query).await
    };
    site.ask(&ann, Method::GET, "/api/books", Value::Null).await;
    // As if it had begun six days ago.
    site.books
        .tamper("UPDATE tower_sessions.session SET expiry_date = now() + interval '1 day'")
        .await;
    assert!(expiry().await <= 86_400);
    // What is used again is written down once an hour; a new sign-in stands in for the hour.
    let fresh = site.ann().await;
    site.ask(&fresh, Method::GET, "/api/books", Value::Null).await;
    assert!(expiry().await > 6 * 86_400);
}

#[tokio::test]
async fn half_open_requests_are_cut_off_and_keep_nobody_out() {
    let site = Site::open().await;
    let address = site.address.trim_start_matches("http://").to_owned();
    let mut open = Vec::new();
    for _ in 0..300 {
        // Beyond the bound a connection waits to be taken, which is as good.
        let connected = timeout(Duration::from_secs(1), TcpStream::connect(&address)).await;
        let Ok(Ok(mut stream)) = connected else { break };
        let _ = stream.write_all(b"POST /api/session HTTP/1.1\r\nHost: x\r\n").await;
        open.push(stream);
    }
    let began = Instant::now();
    let first = &mut open[0];
    let ended = timeout(Duration::from_secs(25), first.read(&mut [0; 64])).await;
    assert!(ended.is_ok(), "a half-open request stays");
    assert!(began.elapsed() < Duration::from_secs(25));
    // Others come in again, though nobody of those went by themselves.
    let answer =
        timeout(Duration::from_secs(40), Client::new().get(site.at("/api/session")).send());
    assert_eq!(answer.await.unwrap().unwrap().status(), StatusCode::UNAUTHORIZED);
}

#[tokio::test]
async fn a_server_stops_within_bounds_whoever_holds_on_to_it() {
    let books = zf_testing::Books::railway().await;
    let listener = tokio::net::TcpListener::bind("127.0.0.1:0").await.unwrap();
    let address = listener.local_addr().unwrap();
    let (stop, stopped) = tokio::sync::oneshot::channel::<()>();
    let app = App::new(books.store.clone(), running());
    let serving =
        tokio::spawn(zf_server::serve(app, listener, Box::pin(async { drop(stopped.await) })));
    let mut held = TcpStream::connect(address).await.unwrap();
    held.write_all(b"POST /api/session HTTP/1.1\r\nHost: x\r\nContent-Type: application/json\r\nContent-Length: 50\r\n\r\n{")
        .await
        .unwrap();
    tokio::time::sleep(Duration::from_millis(200)).await;
    stop.send(()).unwrap();
    timeout(Duration::from_secs(20), serving).await.expect("it does not stop").unwrap().unwrap();
}

/// Every number and every list of a request, with how to reach it in a form that is sound.
fn fields(document: &Value) -> BTreeSet<(String, String, String)> {
    let mut all = BTreeSet::new();
    for (path, methods) in document["paths"].as_object().unwrap() {
        for (method, operation) in methods.as_object().unwrap() {
            let mut found = Vec::new();
            let body = &operation["requestBody"]["content"]["application/json"]["schema"];
            walk(document, body, "", &mut found);
            for parameter in operation["parameters"].as_array().into_iter().flatten() {
                let name = parameter["name"].as_str().unwrap();
                if parameter["in"] == "query" {
                    walk(document, &parameter["schema"], &format!("?{name}"), &mut found);
                }
            }
            all.extend(found.into_iter().map(|at| (method.clone(), path.clone(), at)));
        }
    }
    all
}

fn walk(document: &Value, schema: &Value, at: &str, found: &mut Vec<String>) {
    if let Some(name) = schema["$ref"].as_str() {
        return walk(document, &document["components"]["schemas"][&name[21..]], at, found);
    }
    for choice in ["oneOf", "allOf", "anyOf"] {
        schema[choice].as_array().into_iter().flatten().for_each(|s| walk(document, s, at, found));
    }
    let is = |kind: &str| {
        schema["type"] == kind
            || schema["type"].as_array().is_some_and(|all| all.contains(&json!(kind)))
    };
    if is("integer") || is("number") {
        found.push(at.to_owned());
    }
    if is("array") {
        found.push(format!("{at}[]"));
        walk(document, &schema["items"], &format!("{at}/0"), found);
    }
    for (name, field) in schema["properties"].as_object().into_iter().flatten() {
        walk(document, field, &format!("{at}/{name}"), found);
    }
}

/// A sound form for each address that takes numbers or lists.
fn sound(path: &str, at: &str, books: &Numbers) -> Value {
    let Numbers { coal, plan, .. } = books;
    let rule = || {
        if at.contains("/rewrite/piece/segment") {
            json!({ "rewrite": { "piece": { "segment": 1 }, "edit": "remove" } })
        } else if at.contains("/rewrite/piece") {
            json!({ "rewrite": { "piece": { "characters": { "from": 1, "count": 1 } }, "edit": "remove" } })
        } else if at.contains("/rewrite") {
            json!({ "rewrite": { "piece": "whole", "edit": { "pad": { "width": 5, "front": true } } } })
        } else if at.contains("/fit") {
            json!({ "fit": { "step": 1, "order": "code" } })
        } else {
            json!({ "spread": { "start": "6000", "step": 1, "gap": 0, "order": "code" } })
        }
    };
    let scope = || {
        if at.contains("/under") { json!({ "under": coal }) } else { json!({ "accounts": [coal] }) }
    };
    let split = || {
        let which = json!({ "payee": "", "memo": "", "entries": ["J1"] });
        json!({ "ranked": false, "parts": [{ "to": coal, "which": which }] })
    };
    let change = || match at {
        _ if at.contains("/value/parts") => json!({ "field": "history", "value": split() }),
        _ if at.contains("/into") => {
            json!({ "field": "fate", "value": { "fate": "merge_into", "into": coal } })
        }
        _ if at.contains("/value[]") => json!({ "field": "intervals", "value": [] }),
        _ => json!({ "field": "parent", "value": coal }),
    };
    let scoped = || json!({ "scope": scope(), "rule": rule(), "copying": null });
    match path.rsplit('/').next().unwrap() {
        "books" if path.contains("{person}") => json!({ "books": 1 }),
        "books" => json!({ "name": "N", "currency": "GBP", "year_month": 1, "year_day": 1 }),
        "history" => split(),
        "not-duplicates" => json!({ "accounts": [coal, books.wood], "reason": "x" }),
        "dismissed" => json!({ "kind": "name_form", "account": coal, "item": null, "reason": "x" }),
        "step" => json!({ "again": false, "revision": 0 }),
        "apply" | "undo" => json!({ "fingerprint": "x", "acknowledged": ["x"], "revision": 0 }),
        "{import}" => json!({ "encoding": null, "delimiter": null, "sheet": null, "header_row": 1,
            "columns": {}, "dates": null, "decimal": null, "settled": {},
            "corrections": [{ "row": 1, "at": 0, "text": "x" }], "as_of": null,
            "codes_before": null, "accounts": {}, "options": { "code_digits": 4 } }),
        "stage" => json!({ "plan": plan, "leave_out": true, "without_rows": [2],
            "without_accounts": [coal] }),
        "numbering" => json!({ "plan": plan, "rule": scoped() }),
        "copies" => scoped(),
        "accounts" => {
            json!({ "caption": null, "code": "7001", "name": "N", "kind": "account", "class": "expense",
            "like": coal, "parent": coal, "takes": coal })
        }
        "edits" if at.contains("/count_on") => {
            let wanted = json!({ "count_on": { "code": "5010", "by": 1 } });
            json!({ "edits": [{ "account": coal, "seen": null, "wanted": wanted }], "revision": 0 })
        }
        "edits" => {
            let wanted = json!({ "stage": change() });
            json!({ "edits": [{ "account": coal, "seen": change(), "wanted": wanted }], "revision": 0 })
        }
        "scheme" => json!({ "format": "4 digits", "blocks": [] }),
        "items" if path.contains("{plan}") => json!({ "merges": [{ "item": 2, "into": 3 }] }),
        "items" if at.contains("/terms") => {
            let terms = json!([{ "of": { "item": 2 }, "taken_off": false }]);
            json!({ "edits": [{ "do": "calculate", "item": 2, "terms": terms }] })
        }
        "items" if at.contains("/other") => {
            json!({ "edits": [{ "do": "name_other_side", "item": 2, "other": 3 }] })
        }
        "members" => {
            json!({ "email": "bob@books.example", "name": "Bob", "roles": ["guest"], "plan": plan,
            "until": "2099-12-31" })
        }
        "settings" => json!({ "year": { "year_month": 1, "year_day": 1 } }),
        "items" => json!({ "edits": [{ "do": "move", "item": 2, "before": 3 }] }),
        _ => Value::Null,
    }
}

struct Numbers {
    coal: i64,
    wood: i64,
    plan: Value,
    import: Value,
}

#[tokio::test]
async fn no_number_and_no_list_of_a_request_is_taken_beyond_its_limit() {
    let site = Site::open().await;
    let ann = site.ann().await;
    let (_, waiting) = site.upload(&ann, "crosswalk", "x.csv", "Code,New code\n5010,5110\n").await;
    let books = Numbers {
        coal: site.books.id("5010").await.0,
        wood: site.books.id("5020").await.0,
        plan: site.draft(&ann).await,
        import: waiting["id"].clone(),
    };
    let document: Value = serde_json::from_str(&zf_server::openapi()).unwrap();
    let all = fields(&document);
    assert!(all.len() > 40, "the walk finds {} fields", all.len());
    for (method, path, at) in all {
        let address = path
            .replace("{books}", &site.books.member.books().to_string())
            .replace("{plan}", &books.plan.to_string())
            .replace("{import}", &books.import.to_string())
            .replace("{account}", &books.coal.to_string())
            .replace("{application}", "1")
            .replace("{file}", if at == "?plan" { "crosswalk.csv" } else { "journal.csv" });
        let method = Method::from_bytes(method.to_uppercase().as_bytes()).unwrap();
        let extremes = if at.ends_with("[]") {
            vec![Value::Array(vec![json!(0); 200_000])]
        } else {
            [i64::MAX, i64::MIN, (1 << 53) - 1, i64::from(i32::MAX), -1].map(Value::from).to_vec()
        };
        for extreme in extremes {
            let (address, body) = match at.strip_prefix('?') {
                Some(name) => (format!("{address}?{name}={extreme}"), Value::Null),
                None => {
                    let mut body = sound(&path, &at, &books);
                    let pointer = at.trim_end_matches("[]");
                    let field = body.pointer_mut(pointer);
                    *field.unwrap_or_else(|| panic!("{path} has no {at} here")) = extreme.clone();
                    (address.clone(), body)
                }
            };
            let (status, problem) = site.ask(&ann, method.clone(), &address, body).await;
            let shown = extreme.to_string().chars().take(30).collect::<String>();
            assert!((400..500).contains(&status), "{path} {at} {shown}: {status} {problem}");
        }
    }
}
