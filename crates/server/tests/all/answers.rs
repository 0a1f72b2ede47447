//! What is answered when something is wrong: always in words of ours, whole however it is sent, and never as
//! a fault of the server when it is none.

use crate::site::Site;
use reqwest::{Client, Method};
use serde_json::{Value, json};
use std::time::Duration;
use tokio::io::{AsyncReadExt, AsyncWriteExt};
use tokio::net::TcpStream;

#[tokio::test]
async fn refusals_are_made_before_they_are_compressed() {
    let site = Site::open().await;
    let ann = site.ann().await;
    let large = "a".repeat(5 << 20);
    let requests = [
        ann.get(site.at("BOOKS/plans/abc")),
        ann.get(site.at("BOOKS/plans/%FF")),
        ann.get(site.at("BOOKS/exports/%FF%FE.csv")),
        ann.get(site.at("/api/books/%FF/chart")),
        ann.patch(site.at("BOOKS/plans")),
        ann.post(site.at("BOOKS/plans")).header("content-type", "application/json").body(large),
        ann.post(site.at("BOOKS/plans")).header("origin", "https://elsewhere.example").body("{}"),
    ];
    for request in requests {
        let answer = request.header("accept-encoding", "gzip").send().await.unwrap();
        let (status, headers) = (answer.status().as_u16(), answer.headers().clone());
        let body = answer.bytes().await.unwrap();
        assert!((400..500).contains(&status), "{status}");
        assert_eq!(headers["content-type"], "application/problem+json");
        match headers.get("content-encoding") {
            Some(_) => assert_eq!(body[..2], [0x1f, 0x8b], "it says that it is compressed, and is"),
            None => {
                let problem: Value = serde_json::from_slice(&body).unwrap();
                assert_eq!(problem["status"], status);
                assert!(problem["request"].is_string(), "{problem}");
            }
        }
    }
}

#[tokio::test]
async fn what_is_no_address_is_not_the_page() {
    let site = Site::open().await;
    let get = async |path: &str, accept: &str| {
        let answer =
            Client::new().get(site.at(path)).header("accept", accept).send().await.unwrap();
        let status = answer.status().as_u16();
        (status, answer.text().await.unwrap().contains("<html"))
    };
    for path in ["/metrics", "/.git/config", "/_app/nothing.js", "/nothing/at/all"] {
        assert_eq!(get(path, "*/*").await, (404, false), "{path}");
    }
    assert_eq!(get("/nothing", "text/html").await, (404, true), "a browser is told by the page");
    for path in ["/", "/sign-in", "/books/1/chart", "/link"] {
        assert_eq!(get(path, "*/*").await, (200, true), "{path}");
    }
}

#[test]
fn every_place_of_the_front_end_is_served() {
    let routes = concat!(env!("CARGO_MANIFEST_DIR"), "/../../web/src/routes");
    for entry in std::fs::read_dir(routes).unwrap() {
        let entry = entry.unwrap();
        if entry.file_type().unwrap().is_dir() {
            let name = entry.file_name().into_string().unwrap();
            assert!(zf_server::is_place(&name), "{name} has no place in `assets.rs`");
        }
    }
    assert!(!zf_server::is_place("metrics"));
}

#[tokio::test]
async fn an_upload_that_is_left_in_the_middle_is_no_fault_of_the_server() {
    let site = Site::open().await;
    let ann = site.ann().await;
    let body = "--x\r\nContent-Disposition: form-data; name=\"kind\"\r\n\r\nchart\r\n--x\r\nContent-Disposition: \
                form-data; name=\"file\"; filename=\"c.csv\"\r\n\r\nCode,Name\r\n";
    let answer = ann
        .post(site.at("BOOKS/imports"))
        .header("content-type", "multipart/form-data; boundary=x")
        .body(body)
        .send()
        .await
        .unwrap();
    assert_eq!(answer.status().as_u16(), 400);
    let problem: Value = answer.json().await.unwrap();
    assert_eq!(problem["code"], "upload_unreadable", "{problem}");
}

#[tokio::test]
async fn an_upload_that_stalls_is_told_so_and_is_not_kept() {
    let site = Site::open().await;
    let ann = site.ann().await;
    let before = site.ask(&ann, Method::GET, "BOOKS/imports", Value::Null).await;
    let begun = "--x\r\nContent-Disposition: form-data; name=\"kind\"\r\n\r\nchart\r\n--x\r\nContent-Disposition: \
                 form-data; name=\"file\"; filename=\"c.csv\"\r\n\r\nCode,Name\r\n";
    let (_, signed_in) = site.sign_in("ann@books.example", crate::site::PASSWORD).await;
    let cookies = signed_in.headers().get_all("set-cookie").iter();
    let cookies = cookies.map(|cookie| cookie.to_str().unwrap().split(';').next().unwrap());
    let cookie = cookies.collect::<Vec<_>>().join("; ");
    let path = site.at("BOOKS/imports").replace(&site.address, "");
    let head = format!(
        "POST {path} HTTP/1.1\r\nHost: x\r\nCookie: {cookie}\r\nContent-Length: 5000\r\n\
         Content-Type: multipart/form-data; boundary=x\r\n\r\n{begun}"
    );
    let mut stream = TcpStream::connect(site.address.trim_start_matches("http://")).await.unwrap();
    stream.write_all(head.as_bytes()).await.unwrap();
    // What comes next never comes, but the line stays open.
    let mut answer = vec![0; 8 << 10];
    let read = stream.read(&mut answer).await.unwrap();
    let answer = String::from_utf8_lossy(&answer[..read]);
    assert!(answer.starts_with("HTTP/1.1 408"), "{answer}");
    assert!(answer.contains("too_slow"), "{answer}");
    let kept = site.ask(&ann, Method::GET, "BOOKS/imports", Value::Null).await;
    assert_eq!(kept, before, "nothing of it is kept");
}

#[tokio::test]
async fn names_of_files_are_kept_as_they_read() {
    let site = Site::open().await;
    let ann = site.ann().await;
    let chart = "Code,Name,Class\n1,Bank,Asset\n";
    let (_, shown) = site.upload(&ann, "chart", "a\u{202e}vsc.exe\u{200f}.csv", chart).await;
    assert_eq!(shown["file_name"], "avsc.exe.csv", "{shown}");
    let (status, answered) =
        site.upload(&ann, "chart", &format!("{}.csv", "a".repeat(300)), chart).await;
    assert_eq!(status, 422, "{answered}");
    assert!(answered["detail"].as_str().unwrap().contains("255 characters"), "{answered}");
}

#[tokio::test]
async fn a_file_that_could_not_be_read_is_not_read_again_by_who_only_looks() {
    let site = Site::open().await;
    let ann = site.ann().await;
    let (status, waiting) =
        site.upload(&ann, "chart", "c.csv", "Code,Name,Class\n1,Bank,Asset\n").await;
    assert_eq!(status, 200, "{waiting}");
    let path = format!("BOOKS/imports/{}", waiting["id"]);
    site.books
        .tamper(
            "UPDATE job SET state = 'failed', problem = '{\"status\": 422, \"code\": \"file_unreadable\", \"detail\": \"no\"}', shown = NULL",
        )
        .await;
    for _ in 0..3 {
        let (status, answered) = site.ask(&ann, Method::GET, &path, Value::Null).await;
        assert_eq!((status, &answered["code"]), (422, &"file_unreadable".into()), "{answered}");
    }
}

#[tokio::test]
async fn one_client_does_not_take_all_places() {
    let site = Site::open().await;
    let address = site.address.trim_start_matches("http://").to_owned();
    let mut open = Vec::new();
    let mut let_go = 0;
    for _ in 0..150 {
        let mut stream = TcpStream::connect(&address).await.unwrap();
        let _ = stream.write_all(b"POST /api/session HTTP/1.1\r\nHost: x\r\n").await;
        let mut byte = [0; 1];
        let read = tokio::time::timeout(Duration::from_millis(20), stream.read(&mut byte)).await;
        // Who is beyond their part is let go at once; the others wait for the rest of the head.
        if matches!(read, Ok(Ok(0) | Err(_))) {
            let_go += 1;
        }
        open.push(stream);
    }
    assert!(
        (45..=55).contains(&let_go),
        "{let_go} of 150 were let go, where a part has 100 places"
    );
}

#[tokio::test]
async fn what_work_grows_with_is_taken_up_to_a_limit() {
    let site = Site::open().await;
    let ann = site.ann().await;
    let (coal, plan) = (site.books.id("5010").await.0, site.draft(&ann).await);
    let parts = |count: usize| {
        let which = json!({ "payee": "x", "memo": "", "entries": [] });
        json!({ "ranked": true, "parts": vec![json!({ "to": coal, "which": which }); count] })
    };
    let history = format!("BOOKS/accounts/{coal}/history");
    assert_eq!(site.ask(&ann, Method::POST, &history, parts(200)).await.0, 200);
    let (status, answered) = site.ask(&ann, Method::POST, &history, parts(201)).await;
    assert_eq!((status, &answered["refused"][0]["field"]), (422, &json!("parts")), "{answered}");
    let wanted = json!({ "stage": { "field": "history", "value": parts(201) } });
    let edits = json!({ "edits": [{ "account": coal, "seen": null, "wanted": wanted }] });
    let path = format!("BOOKS/plans/{plan}/edits");
    let (status, answered) = site.ask(&ann, Method::POST, &path, edits).await;
    assert!(
        status == 422 && answered["detail"].as_str().unwrap().contains("at most 200 parts"),
        "{answered}"
    );

    let many = vec![coal.to_string(); 201].join(",");
    let beside = format!("BOOKS/merging?accounts={many}");
    assert_eq!(site.ask(&ann, Method::GET, &beside, Value::Null).await.0, 422);
    let long = "9".repeat(25);
    for rule in [
        json!({ "affix": { "prefix": long, "suffix": "" } }),
        json!({ "affix": { "prefix": "", "suffix": long } }),
        json!({ "rewrite": { "piece": "whole", "edit": { "insert": long } } }),
        json!({ "rewrite": { "piece": "whole", "edit": { "replace": { "reads": "5", "with": long } } } }),
    ] {
        let asked = json!({ "rule": { "scope": "all", "rule": rule } });
        let (status, answered) = site.ask(&ann, Method::POST, "BOOKS/numbering", asked).await;
        assert!(
            status == 422
                && answered["detail"].as_str().unwrap().contains("more than 24 characters"),
            "{rule}: {answered}"
        );
    }
}
