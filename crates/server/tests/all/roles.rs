//! Who may ask for what: every operation that there is, for every role, for an administrator, for a
//! member of other books and for a stranger; and another member's numbers, which lead nowhere.

use crate::site::{PASSWORD, Site};
use reqwest::{Client, Method};
use serde_json::{Value, json};
use std::collections::{BTreeMap, BTreeSet};
use zf_core::access::{Capability, Role, Roles};
use zf_server::access::{TABLE, Wants};
use zf_store::people::links::Admission;
use zf_testing::Books;

/// An operation: its identity, method and address.
type Operation = (String, Method, String);

fn operations() -> Vec<Operation> {
    let document: Value = serde_json::from_str(&zf_server::openapi()).unwrap();
    let mut all = Vec::new();
    for (path, methods) in document["paths"].as_object().unwrap() {
        for (method, operation) in methods.as_object().unwrap() {
            let method = Method::from_bytes(method.to_uppercase().as_bytes()).unwrap();
            all.push((operation["operationId"].as_str().unwrap().to_owned(), method, path.clone()));
        }
    }
    // Whoever signs out is asked for nothing more.
    all.sort_by_key(|(id, ..)| id == "session_sign_out");
    all
}

/// An address with numbers that nothing has, but for the books and the plan.
fn address(site: &Site, path: &str, plan: i64) -> String {
    let path = path
        .replace("{books}", &site.books.member.books().to_string())
        .replace("{plan}", &plan.to_string())
        .replace("{file}", "chart.csv");
    let mut filled = String::new();
    for part in path.split('/') {
        let number = if part.starts_with('{') { "999999999" } else { part };
        filled.push_str(if part.is_empty() { "" } else { "/" });
        filled.push_str(number);
    }
    filled
}

/// What an operation answers that is asked for with nothing in it: the status and the code.
async fn ask(site: &Site, client: &Client, operation: &Operation, plan: i64) -> (u16, Value) {
    let (_, method, path) = operation;
    let request = client.request(method.clone(), site.at(&address(site, path, plan)));
    let answer = request.json(&json!({})).send().await.unwrap();
    let status = answer.status().as_u16();
    (status, answer.json::<Value>().await.unwrap_or_default()["code"].clone())
}

#[test]
fn every_operation_has_a_place_in_the_table_and_no_place_is_empty() {
    let there: BTreeSet<String> = operations().into_iter().map(|(id, ..)| id).collect();
    let listed: BTreeSet<String> = TABLE.iter().map(|(id, _)| (*id).to_owned()).collect();
    assert_eq!(there, listed);
    assert_eq!(TABLE.len(), listed.len(), "none is listed twice");
    // What changes books wants more than to see them.
    for (id, method, path) in operations() {
        let wants = TABLE.iter().find(|(known, _)| *known == id).unwrap().1;
        let looks =
            ["history_preview", "numbering_preview", "settings_preview"].contains(&id.as_str());
        let personal = id.starts_with("cards_");
        if path.contains("{books}") && method != Method::GET && !looks && !personal {
            assert!(!matches!(wants, Wants::Of(Capability::See | Capability::SeePlan)), "{id}");
        }
        if path.contains("{books}") {
            assert!(matches!(wants, Wants::Of(_)), "{id} is of the books");
        }
    }
}

#[tokio::test(flavor = "multi_thread")]
async fn every_operation_is_let_through_for_those_whom_the_table_names_and_for_nobody_else() {
    let site = Site::open().await;
    let plan = site.books.stage("5010 name Steam coal").await;
    let hash = password_auth::generate_hash(PASSWORD);
    let mut people: Vec<(String, Option<Roles>, bool)> = Role::ALL
        .iter()
        .map(|role| (role.key().to_owned(), Some(Roles::of([*role]).unwrap()), false))
        .collect();
    people.push(("all".to_owned(), Some(Roles::alone()), false));
    people.push(("administrator".to_owned(), None, true));
    people.push(("outsider".to_owned(), None, false));
    let mut refused = BTreeMap::new();
    for (name, roles, administers) in people {
        let email = format!("{name}@roles.example");
        let id = site.books.store.add_person(&email, &name, &hash).await.unwrap();
        if administers {
            site.books.administer(id).await;
        }
        if let Some(roles) = &roles {
            let guest = roles.hold(Role::Guest);
            let tomorrow = time::OffsetDateTime::now_utc() + time::Duration::DAY;
            let admission = Admission {
                books: site.books.member.books(),
                roles: roles.clone(),
                plan: guest.then_some(plan),
                until: guest.then_some(tomorrow),
            };
            site.books.store.admit(site.books.member, id, &admission).await.unwrap();
        }
        let (client, _) = site.sign_in(&email, PASSWORD).await;
        for operation in operations() {
            let wants = TABLE.iter().find(|(id, _)| *id == operation.0).unwrap().1;
            // Others would discard it on the way.
            let shown = if name == "guest" { plan.0 } else { 999_999_999 };
            let (status, code) = ask(&site, &client, &operation, shown).await;
            let said = format!("{} as {name}: {status} {code}", operation.0);
            let let_through = status != 401 && code != "not_yours";
            match (wants, &roles) {
                (Wants::Nothing | Wants::SignedIn, _) => {
                    assert!(let_through || operation.0 == "session_sign_in", "{said}");
                }
                (Wants::Administrator, _) => assert_eq!(let_through, administers, "{said}"),
                (Wants::Of(_), None) => {
                    assert_eq!((status, &code), (404, &json!("not_found")), "{said}")
                }
                (Wants::Of(capability), Some(roles)) => {
                    assert_eq!(let_through, roles.capabilities().hold(capability), "{said}");
                    if !let_through {
                        *refused.entry(name.clone()).or_insert(0) += 1;
                    }
                }
            }
        }
    }
    assert!(refused["guest"] > refused["reader"] && refused["reader"] > refused["preparer"]);
    assert!(!refused.contains_key("all"));
    // A guest sees the plan that they were let in to, and no other.
    let other = site.books.stage("5020 name Firewood").await;
    let (guest, _) = site.sign_in("guest@roles.example", PASSWORD).await;
    for (plan, status) in [(plan, 200), (other, 404)] {
        let path = format!("BOOKS/plans/{plan}/crosswalk");
        assert_eq!(site.ask(&guest, Method::GET, &path, Value::Null).await.0, status);
    }
    // When their time is over, there is nothing any more.
    site.books
        .tamper("UPDATE membership SET until = now() - interval '1 second' WHERE until IS NOT NULL")
        .await;
    let path = format!("BOOKS/plans/{plan}");
    assert_eq!(site.ask(&guest, Method::GET, &path, Value::Null).await.0, 404);
    let listed = site.ask(&guest, Method::GET, "/api/books", Value::Null).await.1;
    assert_eq!(listed, json!([]));
}

#[tokio::test(flavor = "multi_thread")]
async fn a_stranger_is_told_nothing_whatever_is_asked_for() {
    let site = Site::open().await;
    for operation in operations() {
        let (status, code) = ask(&site, &Client::new(), &operation, 1).await;
        let open = TABLE.iter().any(|(id, wants)| *id == operation.0 && *wants == Wants::Nothing);
        if open {
            assert!((200..500).contains(&status), "{}: {status}", operation.0);
        } else {
            assert_eq!((status, code), (401, json!("signed_out")), "{}", operation.0);
        }
    }
}

/// What the numbers of somebody else's books are called in addresses and requests.
const NUMBERS: [&str; 14] = [
    "account",
    "accounts",
    "plan",
    "import",
    "application",
    "not-duplicates",
    "dismissed",
    "parent",
    "like",
    "takes",
    "to",
    "into",
    "under",
    "without_accounts",
];

/// What can be got rid of twice.
const RID_OF: [&str; 3] = ["cards_unfollow", "imports_cancel", "imports_discard"];

#[tokio::test(flavor = "multi_thread")]
async fn another_members_numbers_find_nothing_in_any_place_of_any_operation() {
    let site = Site::open().await;
    let store = &site.books.store;
    let sly = store.person_by_email("sly@books.example").await.unwrap().unwrap().id;
    let theirs = Books::railway_of(store.clone(), sly).await;
    // Everything of Ann's that has a number.
    let ann = site.ann().await;
    let (coal, oil) = (site.books.id("5010").await, site.books.id("5040").await);
    let plan = site.books.stage("5010 name Steam coal").await;
    let applied = site.books.stage("5040 name Oils").await;
    let applied = site.books.apply(applied).await.unwrap().0;
    let (_, import) = site.upload(&ann, "crosswalk", "x.csv", "Code,New code\n5010,5110\n").await;
    store.mark_not_duplicates(site.books.member, &[coal, oil], "they differ").await.unwrap();
    let apart: i64 = site.books.ask("SELECT max(id) FROM told_apart").await;
    let waiting = import["id"].as_i64().unwrap();
    let number = |name: &str| match name {
        "plan" => plan.0,
        "import" => waiting,
        "application" => applied,
        "not-duplicates" | "dismissed" => apart,
        _ => coal.0,
    };
    let before = site.books.store.snapshot(site.books.member).await.unwrap().today;
    let books_of_ann = site.books.member.books();
    let count = async || {
        let mut rows = Vec::new();
        for table in ["plan", "plan_change", "told_apart", "import_piece", "application", "trail"] {
            let query = format!("SELECT count(*) FROM {table} WHERE books_id = {books_of_ann}");
            rows.push(site.books.ask(&query).await);
        }
        rows
    };
    let rows = count().await;
    let (client, _) = site.sign_in("sly@books.example", PASSWORD).await;
    let document: Value = serde_json::from_str(&zf_server::openapi()).unwrap();
    let own_plan = theirs.stage("5010 name Anthracite").await;
    let mut tried = 0;
    for (id, method, path) in operations().into_iter().filter(|(.., path)| path.contains("{books}"))
    {
        // In the address, below one's own books.
        let names: Vec<&str> =
            NUMBERS.into_iter().filter(|name| path.contains(&format!("{{{name}}}"))).collect();
        let file = if id == "files_export" { "crosswalk.csv" } else { "trial_balance.csv" };
        let fill = |own: bool| {
            let filled = path.replace("{books}", &theirs.member.books().to_string());
            let filled = filled.replace("{file}", file).replace("{person}", "999999");
            let own_plan = if own { own_plan } else { plan };
            let filled = filled.replace("{plan}", &own_plan.to_string());
            names.iter().fold(filled, |path, name| {
                path.replace(&format!("{{{name}}}"), &number(name).to_string())
            })
        };
        if !names.is_empty()
            && (names != ["plan"] || method == Method::GET || path.ends_with("{plan}"))
        {
            let body = if path.ends_with("{plan}") { json!({ "name": "Mine" }) } else { json!({}) };
            let (status, answer) = site.ask(&client, method.clone(), &fill(false), body).await;
            // To be rid of what one does not have is no error.
            let rid = status == 204 && method == Method::DELETE && RID_OF.contains(&id.as_str());
            assert!((400..500).contains(&status) || rid, "{id}: {status} {answer}");
            tried += 1;
        }
        // In what is asked for beside the address.
        let parameters =
            document["paths"][&path][method.as_str().to_lowercase()]["parameters"].clone();
        for parameter in parameters.as_array().into_iter().flatten() {
            let name = parameter["name"].as_str().unwrap();
            if parameter["in"] != "query" || !NUMBERS.contains(&name) || names.contains(&name) {
                continue;
            }
            let asked = format!("{}?{name}={}", fill(true), number(name));
            let (status, answer) = site.ask(&client, method.clone(), &asked, Value::Null).await;
            let empty = answer["entries"] == json!([]) || answer["matching"] == 0;
            assert!((400..500).contains(&status) || empty, "{id} {name}: {status} {answer}");
            tried += 1;
        }
    }
    // In the body of what changes plans, reviews and numbers.
    let own = theirs.id("5020").await.0;
    let stage = |field: &str, value: Value| {
        let wanted = json!({ "stage": { "field": field, "value": value } });
        json!({ "edits": [{ "account": own, "wanted": wanted }] })
    };
    let edits = [
        json!({ "edits": [{ "account": coal.0, "wanted": { "stage": { "field": "name", "value": "x" } } }] }),
        stage("parent", json!(coal.0)),
        stage("fate", json!({ "fate": "merge_into", "into": coal.0 })),
        stage(
            "history",
            json!({ "ranked": false, "parts": [{ "to": coal.0, "which": { "payee": "x", "memo": "", "entries": [] } }] }),
        ),
    ];
    let books = theirs.member.books();
    let at = |rest: &str| format!("/api/books/{books}/{rest}");
    for edit in edits {
        let path = at(&format!("plans/{own_plan}/edits"));
        let (status, answer) = site.ask(&client, Method::POST, &path, edit).await;
        // What can only be judged with the plan is staged and stopped.
        let stopped = answer["plan"].to_string().contains("stop");
        assert!((400..500).contains(&status) || stopped, "{status} {answer}");
        tried += 1;
    }
    let bodies = [
        ("not-duplicates", json!({ "accounts": [coal.0, oil.0], "reason": "x" })),
        ("dismissed", json!({ "kind": "name_form", "account": coal.0, "reason": "x" })),
        (
            "numbering",
            json!({ "plan": plan, "rule": { "scope": { "accounts": [own] }, "rule": { "fit": { "step": 1, "order": "code" } } } }),
        ),
        (
            "numbering",
            json!({ "plan": null, "rule": { "scope": { "accounts": [coal.0] }, "rule": { "fit": { "step": 1, "order": "code" } } } }),
        ),
        (
            "numbering",
            json!({ "plan": null, "rule": { "scope": { "under": coal.0 }, "rule": { "fit": { "step": 1, "order": "code" } } } }),
        ),
    ];
    for (rest, body) in bodies {
        let (status, answer) = site.ask(&client, Method::POST, &at(rest), body).await;
        assert!((400..500).contains(&status), "{rest}: {status} {answer}");
        tried += 1;
    }
    assert!(tried > 35, "{tried} were tried");
    let after = site.books.store.snapshot(site.books.member).await.unwrap().today;
    assert!(before.chart.iter().eq(after.chart.iter()), "nothing of Ann's changed");
    assert_eq!(count().await, rows, "and nothing was put in or taken out");
}
