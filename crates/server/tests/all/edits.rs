//! An edit answers what it changed; whoever shows the plan makes of it the plan that the edit left.

use crate::site::{PASSWORD, Site};
use reqwest::Method;
use serde_json::{Value, json};
use std::collections::BTreeSet;
use zf_core::access::Role;

/// A list of which what is gone is left out, and each of the others put at its place.
fn made(list: &Value, change: &Value, item: &str, key: &str) -> Value {
    let gone = change["removed"].as_array().unwrap();
    let stays = |one: &&Value| !gone.contains(&one[key]);
    let mut list: Vec<Value> = list.as_array().unwrap().iter().filter(stays).cloned().collect();
    for put in change["placed"].as_array().unwrap() {
        list.insert(put["at"].as_u64().unwrap() as usize, put[item].clone());
    }
    json!(list)
}

/// The plan that an edit left, as the page makes it.
fn after(shown: &Value, edited: &Value) -> Value {
    let change = &edited["plan"]["changed"];
    let mut plan = shown.clone();
    for field in ["name", "revision", "fingerprint", "counts"] {
        plan[field] = change[field].clone();
    }
    let report = &shown["report"];
    for (field, figure) in change["figures"].as_object().unwrap() {
        plan["report"][field] = figure.clone();
    }
    plan["steps"] = edited["steps"].clone();
    plan["crosswalk"] = made(&shown["crosswalk"], &change["crosswalk"], "crossing", "account");
    plan["report"]["crossings"] = json!(plan["crosswalk"].as_array().unwrap().len());
    plan["report"]["findings"] = made(&report["findings"], &change["findings"], "finding", "key");
    for field in ["moved", "report_lines"] {
        if !change[field].is_null() {
            plan["report"][field] = change[field].clone();
        }
    }
    if !change["added"].is_null() {
        plan["added"] = change["added"].clone();
    }
    plan
}

#[tokio::test]
async fn what_an_edit_changed_makes_the_plan_that_it_left() {
    let site = Site::open().await;
    let ann = site.ann().await;
    let path = format!("BOOKS/plans/{}", site.draft(&ann).await);
    let id = async |code: &str| site.books.id(code).await.0;
    let code = |code: &str| json!({ "stage": { "field": "code", "value": code } });
    let fate = |fate: Value| json!({ "stage": { "field": "fate", "value": fate } });
    let (coal, wood, oil) = (id("5010").await, id("5020").await, id("5040").await);
    let all = json!({ "payee": "", "memo": "", "entries": [] });
    let split = json!({ "ranked": false, "parts": [{ "to": wood, "which": all }] });
    let steps = [
        (oil, code("5045")),
        // A clash: one finding that names both, and that goes again.
        (coal, code("5045")),
        (coal, code("5015")),
        (wood, fate(json!({ "fate": "merge_into", "into": coal }))),
        (wood, json!({ "unstage": "fate" })),
        (coal, json!({ "stage": { "field": "history", "value": split } })),
        (oil, fate(json!({ "fate": "archive" }))),
        (oil, json!({ "unstage": "code" })),
    ];
    let read = async || {
        let mut plan = site.ask(&ann, Method::GET, &path, Value::Null).await.1;
        plan["crosswalk"] = site.crosswalk(&ann, &path).await;
        plan
    };
    let mut shown = read().await;
    let mut seen_rules = BTreeSet::new();
    for (account, wanted) in steps {
        let field = wanted.pointer("/stage/field").unwrap_or(&wanted["unstage"]).clone();
        let staged = shown["staged"].as_array().unwrap().iter();
        let mut staged =
            staged.filter(|s| s["account"] == account && s["change"]["field"] == field);
        let seen = staged.next().map(|staged| staged["change"].clone());
        let edit = json!({ "account": account, "seen": seen, "wanted": wanted });
        let body = json!({ "edits": [edit], "revision": shown["revision"] });
        let (status, edited) = site.ask(&ann, Method::POST, &format!("{path}/edits"), body).await;
        assert_eq!(status, 200, "{edited}");
        assert!(edited["plan"]["whole"].is_null(), "only what changed is answered");
        let mut left = read().await;
        let mut made = after(&shown, &edited);
        shown = left.clone();
        let findings = left["report"]["findings"].as_array().unwrap();
        seen_rules.extend(findings.iter().map(|f| f["rule"].as_str().unwrap().to_owned()));
        for plan in [&mut made, &mut left] {
            plan["staged"] = Value::Null;
            plan["took_ms"] = Value::Null;
        }
        assert_eq!(made, left);
    }
    assert!(seen_rules.contains("code_taken"), "findings came and went: {seen_rules:?}");
}

#[tokio::test]
async fn sentences_are_in_the_forms_of_whoever_reads_them() {
    let site = Site::open().await;
    let ann = site.ann().await;
    let path = format!("BOOKS/plans/{}", site.draft(&ann).await);
    let (bank, coal) = (site.books.id("1010").await, site.books.id("5010").await);
    let day = time::macros::date!(2026 - 05 - 01);
    site.books.post(&[site.books.entry(day, coal, bank, 123_456)]).await;
    let wanted = json!({ "stage": { "field": "fate", "value": { "fate": "deactivate", "from": "2026-06-30" } } });
    let edit = json!({ "account": bank.0, "seen": null, "wanted": wanted });
    let edits = json!({ "edits": [edit], "revision": null });
    assert_eq!(site.ask(&ann, Method::POST, &format!("{path}/edits"), edits).await.0, 200);
    let choose = async |dates: &str, numbers: &str| {
        let forms = json!({ "dates": dates, "numbers": numbers });
        assert_eq!(site.ask(&ann, Method::PUT, "/api/account/forms", forms).await.0, 204);
    };
    let read = async |path: &str| site.ask(&ann, Method::GET, path, Value::Null).await.1;
    let sentences = |report: &Value| report["findings"].to_string();
    let plain = sentences(&read(&path).await["report"]);
    assert!(plain.contains("1,234.56 in credit") && plain.contains("1 May 2026"), "{plain}");

    choose("points", "point_comma").await;
    let plan = read(&path).await;
    let said = sentences(&plan["report"]);
    assert!(said.contains("1.234,56 in credit") && said.contains("01.05.2026"), "{said}");
    let crosswalk = read(&format!("{path}/crosswalk")).await;
    assert!(crosswalk.to_string().contains("from 30.06.2026"), "{crosswalk}");

    // What keeps a plan from being applied is said likewise, and so is its proof.
    let mut agreed = json!({ "fingerprint": plan["fingerprint"], "acknowledged": [] });
    let apply = async |agreed: &Value| {
        site.ask(&ann, Method::POST, &format!("{path}/apply"), agreed.clone()).await
    };
    let (status, unread) = apply(&agreed).await;
    assert_eq!(status, 409, "{unread}");
    assert!(sentences(&unread).contains("1.234,56 in credit"), "{unread}");
    let keys = plan["report"]["findings"].as_array().unwrap().iter().map(|f| f["key"].clone());
    agreed["acknowledged"] = keys.collect();
    let (status, applied) = apply(&agreed).await;
    assert_eq!(status, 201, "{applied}");
    let proof = format!("BOOKS/applications/{}", applied["id"]);
    assert!(sentences(&read(&proof).await["report"]).contains("1.234,56 in credit"));
    choose("day_month", "comma_point").await;
    assert!(sentences(&read(&proof).await["report"]).contains("1,234.56 in credit"));
}

#[tokio::test]
async fn undo_knows_the_steps_from_every_browser_and_leaves_what_others_changed_since() {
    let site = Site::open().await;
    let ann = site.ann().await;
    let path = format!("BOOKS/plans/{}", site.draft(&ann).await);
    let (coal, oil) = (site.books.id("5010").await.0, site.books.id("5040").await.0);
    let staged = async || {
        let plan = site.ask(&ann, Method::GET, &path, Value::Null).await.1;
        let mut fields: Vec<String> = plan["staged"]
            .as_array()
            .unwrap()
            .iter()
            .map(|s| format!("{} {}", s["account"], s["change"]))
            .collect();
        fields.sort();
        (fields, plan["steps"].clone())
    };
    let edit = async |who: &reqwest::Client, account: i64, seen: Value, wanted: Value| {
        let edit = json!({ "account": account, "seen": seen, "wanted": wanted });
        let body = json!({ "edits": [edit], "revision": null });
        assert_eq!(site.ask(who, Method::POST, &format!("{path}/edits"), body).await.0, 200);
    };
    let step = async |who: &reqwest::Client, again: bool| {
        let body = json!({ "again": again, "revision": null });
        site.ask(who, Method::POST, &format!("{path}/step"), body).await
    };
    let steps = |undo: bool, redo: bool| json!({ "undo": undo, "redo": redo });
    assert_eq!(staged().await, (vec![], steps(false, false)));
    assert_eq!(step(&ann, false).await.0, 422, "there is nothing to undo");

    let name = |name: &str| json!({ "stage": { "field": "name", "value": name } });
    edit(&ann, coal, Value::Null, name("Steam coal")).await;
    let renamed = staged().await.0;
    let account = json!({
        "code": "5055", "name": "Wood", "kind": "account", "class": "expense", "caption": null, "parent": null,
        "description": null, "tax": null, "like": null, "takes": null,
    });
    let (status, added) = site.ask(&ann, Method::POST, &format!("{path}/accounts"), account).await;
    assert_eq!(status, 200, "{added}");
    let with_wood = staged().await.0;
    assert!(with_wood.len() > renamed.len());

    // From another browser the account goes first, then the name; both come again.
    let elsewhere = site.ann().await;
    let (status, undone) = step(&elsewhere, false).await;
    assert_eq!((status, &undone["stay"]), (200, &json!(0)), "{undone}");
    assert_eq!(staged().await, (renamed.clone(), steps(true, true)));
    step(&elsewhere, false).await;
    assert_eq!(staged().await, (vec![], steps(false, true)));
    step(&ann, true).await;
    step(&ann, true).await;
    assert_eq!(staged().await, (with_wood, steps(true, false)));

    // Taken back whole with its fate, and brought again.
    let wood = added["added"][0].as_i64().unwrap();
    let seen = json!({ "field": "fate", "value": { "fate": "add" } });
    edit(&ann, wood, seen, json!({ "unstage": "fate" })).await;
    assert_eq!(staged().await.0, renamed);
    step(&ann, false).await;
    assert!(staged().await.0.len() > renamed.len());

    // Of two fields at once, somebody changes one: the other goes back, and this one is counted.
    let two = [coal, oil].map(|account| {
        let seen = if account == coal {
            json!({ "field": "name", "value": "Steam coal" })
        } else {
            Value::Null
        };
        json!({ "account": account, "seen": seen, "wanted": name("Fuel") })
    });
    let body = json!({ "edits": two, "revision": null });
    assert_eq!(site.ask(&ann, Method::POST, &format!("{path}/edits"), body).await.0, 200);
    let hash = password_auth::generate_hash(PASSWORD);
    let bob = site.books.store.add_person("bob@books.example", "Bob", &hash).await.unwrap();
    site.books.add_member(bob, &[Role::Preparer]).await;
    let bob = site.sign_in("bob@books.example", PASSWORD).await.0;
    edit(&bob, oil, json!({ "field": "name", "value": "Fuel" }), name("Fuel oil")).await;
    let undone = step(&ann, false).await.1;
    assert_eq!((&undone["stay"], undone["done"].as_array().unwrap().len()), (&json!(1), 1));
    let left = staged().await.0.join("\n");
    assert!(left.contains("Steam coal") && left.contains("Fuel oil"), "{left}");
    assert_eq!(step(&bob, true).await.0, 422, "Bob undid nothing");
}

#[tokio::test]
async fn whoever_shows_what_is_not_known_any_more_is_answered_all_of_it() {
    let site = Site::open().await;
    let ann = site.ann().await;
    let path = format!("BOOKS/plans/{}/edits", site.draft(&ann).await);
    let coal = site.books.id("5010").await.0;
    for shown in [Value::Null, json!(0)] {
        let wanted = json!({ "stage": { "field": "name", "value": format!("Coal {shown}") } });
        let seen = json!({ "field": "name", "value": "Coal null" });
        let seen = if shown.is_null() { Value::Null } else { seen };
        let edit = json!({ "account": coal, "seen": seen, "wanted": wanted });
        let body = json!({ "edits": [edit], "revision": shown });
        let (status, edited) = site.ask(&ann, Method::POST, &path, body).await;
        assert_eq!(status, 200, "{edited}");
        assert_eq!(edited["plan"]["whole"]["staged"].as_array().unwrap().len(), 1);
    }
}

#[tokio::test]
async fn whom_to_merge_into_is_read_from_a_code_as_it_was_typed() {
    let site = Site::open().await;
    let ann = site.ann().await;
    let path = format!("BOOKS/plans/{}", site.draft(&ann).await);
    let (coal, wood) = (site.books.id("5010").await.0, site.books.id("5020").await.0);
    let typed = async |account: i64, code: &str| {
        let edit = json!({ "account": account, "seen": null, "wanted": { "merge_into": code } });
        let edits = json!({ "edits": [edit] });
        site.ask(&ann, Method::POST, &format!("{path}/edits"), edits).await
    };
    let (status, refused) = typed(coal, "99 99").await;
    assert_eq!(status, 422, "{refused}");
    assert_eq!(refused["refused"][0]["field"], "code", "that is where it was typed");
    assert_eq!(refused["detail"], "no account has, or ever had, the code 99 99");
    let (status, edited) = typed(wood, " 50 10").await;
    assert_eq!(status, 200, "{edited}");
    let staged = &edited["done"][0]["after"];
    assert_eq!(staged["value"], json!({ "fate": "merge_into", "into": coal }), "{edited}");
}
