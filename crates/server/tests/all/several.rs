//! Several servers on one database: what one does the other shows, whoever is asked, and jobs are done once.

use crate::site::{PASSWORD, Site, running};
use reqwest::{Client, Method};
use serde_json::{Value, json};
use zf_core::access::Role;
use zf_server::App;
use zf_store::Store;

/// A second server on the database of a site.
async fn beside(site: &Site) -> String {
    let store = Store::connect_on(&site.books.url, 6).await.unwrap();
    let listener = tokio::net::TcpListener::bind("127.0.0.1:0").await.unwrap();
    let address = format!("http://{}", listener.local_addr().unwrap());
    tokio::spawn(zf_server::serve(
        App::new(store, running()),
        listener,
        Box::pin(std::future::pending()),
    ));
    address
}

#[tokio::test(flavor = "multi_thread")]
async fn edits_jobs_and_applies_go_on_across_two_servers() {
    let first = Site::open().await;
    let second = Site {
        books: first.books.other(first.books.member.books().0).await,
        address: beside(&first).await,
    };
    // Whoever signed in at one is known at the other.
    let shared = Client::builder().build().unwrap();
    let (_, answer) = first.sign_in("ann@books.example", PASSWORD).await;
    let cookies: Vec<_> = answer.cookies().map(|c| format!("{}={}", c.name(), c.value())).collect();
    let ask = async |site: &Site, method: Method, path: &str, body: Value| {
        let request = shared.request(method, site.at(path)).header("cookie", cookies.join("; "));
        let answer = request.json(&body).send().await.unwrap();
        (answer.status().as_u16(), answer.json::<Value>().await.unwrap_or_default())
    };
    assert_eq!(ask(&second, Method::GET, "/api/session", Value::Null).await.1["name"], "Ann");
    first.books.post_coal_and_wood().await;

    // An edit here is rehearsed there, and who was first is known to both.
    let (coal, wood) = (first.books.id("5010").await.0, first.books.id("5020").await.0);
    let (_, created) = ask(&first, Method::POST, "BOOKS/plans", json!({ "name": "Spring" })).await;
    let plan = format!("BOOKS/plans/{}", created["id"]);
    let edit = |account: i64, field: &str, value: Value, seen: Value| {
        let wanted = json!({ "stage": { "field": field, "value": value } });
        json!({ "edits": [{ "account": account, "seen": seen, "wanted": wanted }] })
    };
    let path = format!("{plan}/edits");
    let named = edit(coal, "name", json!("Steam coal"), Value::Null);
    assert_eq!(ask(&first, Method::POST, &path, named).await.0, 200);
    let other = edit(coal, "name", json!("House coal"), Value::Null);
    let (status, conflict) = ask(&second, Method::POST, &path, other).await;
    assert_eq!((status, &conflict["code"]), (409, &json!("edit_conflict")));
    let merge = edit(wood, "fate", json!({ "fate": "merge_into", "into": coal }), Value::Null);
    assert_eq!(ask(&second, Method::POST, &path, merge).await.0, 200);
    let (_, here) = ask(&first, Method::GET, &plan, Value::Null).await;
    let (_, there) = ask(&second, Method::GET, &plan, Value::Null).await;
    assert_eq!(here["fingerprint"], there["fingerprint"]);
    assert_eq!(here["revision"], there["revision"]);

    // Both apply what they saw at once: one of them does.
    let keys: Vec<Value> = here["report"]["findings"]
        .as_array()
        .unwrap()
        .iter()
        .map(|finding| finding["key"].clone())
        .collect();
    let agreed = json!({ "fingerprint": here["fingerprint"], "revision": here["revision"], "acknowledged": keys });
    let path = format!("{plan}/apply");
    let (a, b) = tokio::join!(
        ask(&first, Method::POST, &path, agreed.clone()),
        ask(&second, Method::POST, &path, agreed)
    );
    let mut statuses = [a.0, b.0];
    statuses.sort_unstable();
    assert_eq!(statuses, [201, 409], "{a:?} {b:?}");
    let proof = if a.0 == 201 { &a.1["id"] } else { &b.1["id"] };
    for site in [&first, &second] {
        let (_, chart) = ask(site, Method::GET, "BOOKS/chart", Value::Null).await;
        let rows = chart["rows"].as_array().unwrap();
        assert!(rows.iter().any(|row| row["name"] == "Steam coal"), "both show it at once");
        let (_, shown) =
            ask(site, Method::GET, &format!("BOOKS/applications/{proof}"), Value::Null).await;
        assert_eq!(shown["report"]["difference"], "0.00");
    }

    // Files that are brought in here and there are stored once each, by whoever is free.
    let ann = first.ann().await;
    let journal = |n: u32| {
        let lines = ["5010,{}.50,", "1010,,{}.50"].map(|line| line.replace("{}", &n.to_string()));
        format!(
            "Entry,Date,Code,Debit,Credit\nX{n},2026-04-01,{}\nX{n},2026-04-01,{}\n",
            lines[0], lines[1]
        )
    };
    let before = first.lines().await;
    let second_ann = second.ann().await;
    let bring = async |site: &Site, client: &Client, n: u32| {
        let (status, shown) = site.upload(client, "journal", &format!("{n}.csv"), journal(n)).await;
        assert_eq!(status, 200, "{shown}");
        let path = format!("BOOKS/imports/{}", shown["id"]);
        loop {
            let (status, stored) = site.ask(client, Method::POST, &path, json!({})).await;
            if status == 200 {
                break;
            }
            // Another file was stored while this one was looked at: one looks again, as one is told.
            assert_eq!(stored["code"], "stored_meanwhile", "{stored}");
            assert_eq!(site.ask(client, Method::GET, &path, Value::Null).await.0, 200);
        }
    };
    tokio::join!(
        async {
            for n in 0..4 {
                bring(&first, &ann, n).await;
            }
        },
        async {
            for n in 4..8 {
                bring(&second, &second_ann, n).await;
            }
        }
    );
    assert_eq!(first.lines().await, before + 16);
    first.books.must_recount().await;

    // A role that is taken away here is gone there with the next request, and one session ends for both.
    let sly = first.books.store.person_by_email("sly@books.example").await.unwrap().unwrap().id;
    first.books.add_member(sly, &[Role::Preparer]).await;
    let (client, _) = second.sign_in("sly@books.example", PASSWORD).await;
    let begin =
        async || second.ask(&client, Method::POST, "BOOKS/plans", json!({ "name": "x" })).await.0;
    assert_eq!(begin().await, 201);
    first.books.add_member(sly, &[Role::Reader]).await;
    assert_eq!(begin().await, 403);
    assert!(first.books.store.follow_trail(first.books.member.books()).await.unwrap().is_ok());
    assert!(first.books.store.follow_server_trail().await.unwrap().is_ok());
}
