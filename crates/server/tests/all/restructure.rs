//! Renumbering, merging, moving history and the review over HTTP: what is previewed is what is staged,
//! and what cannot be is refused with its reason.

use crate::desk::Desk;
use reqwest::Method;
use serde_json::{Value, json};

fn part(to: i64, more: Value) -> Value {
    let mut which = json!({ "payee": "", "memo": "", "entries": [] });
    which.as_object_mut().unwrap().extend(more.as_object().unwrap().clone());
    json!({ "to": to, "which": which })
}

#[tokio::test]
async fn a_part_of_a_history_is_previewed_staged_applied_and_undone() {
    let desk = Desk::open().await;
    let (coal, wood, oil) = (desk.id("5010").await, desk.id("5020").await, desk.id("5040").await);
    let preview = format!("BOOKS/accounts/{coal}/history");
    let site = json!({ "name": "site", "value": "Larkfell" });
    let split = json!({ "ranked": false, "parts": [
        part(wood, json!({ "until": "2026-01-31" })),
        part(oil, json!({ "memo": "FOR 50", "dimension": site })),
    ] });
    let (status, answered) = desk.ask(Method::POST, &preview, split).await;
    assert_eq!(status, 200, "{answered}");
    let lines =
        |n: usize| (answered["parts"][n]["lines"].clone(), answered["parts"][n]["net"].clone());
    assert_eq!((lines(0), lines(1)), ((json!(1), json!("10.00")), (json!(1), json!("0.50"))));
    assert_eq!(
        (&answered["left"]["lines"], &answered["left"]["sample"][0]["memo"]),
        (&json!(1), &json!("for 300"))
    );
    assert_eq!(answered["overlaps"], json!([]));
    assert_eq!(answered["sides"][0]["years"][0]["today"], "10.00");
    assert_eq!(answered["sides"][1]["years"][0]["after"], "10.00");
    assert_eq!(answered["dimensions"], json!([site]));

    let (_, plan) = desk.stage(coal, "history", answered["split"].clone()).await;
    assert_eq!(plan["report"]["moved"][0]["lines"], 1);
    assert_eq!(plan["staged"][0]["change"]["value"]["parts"][1]["which"]["memo"], "FOR 50");
    assert_eq!(
        (&plan["report"]["difference"], &plan["report"]["accounted"]),
        (&json!("0.00"), &json!(6))
    );
    // Somebody who saw nothing staged does not overwrite it.
    let (status, conflict) = {
        let all = json!({ "ranked": false, "parts": [part(oil, json!({}))] });
        desk.stage(coal, "history", all).await
    };
    assert_eq!((status, &conflict["code"]), (409, &json!("edit_conflict")));
    let agreed = json!({ "fingerprint": plan["fingerprint"], "acknowledged": [] });
    let path = format!("BOOKS/plans/{}/apply", desk.plan);
    let (status, applied) = desk.ask(Method::POST, &path, agreed).await;
    assert_eq!(status, 201, "{applied}");
    let (_, card) =
        desk.ask(Method::GET, &format!("BOOKS/accounts/{wood}/lines"), Value::Null).await;
    assert_eq!((&card[0]["posted_code"], &card[0]["amount"]), (&json!("5010"), &json!("10.00")));

    let path = format!("BOOKS/applications/{}/undo", applied["id"]);
    let (_, undo) = desk.ask(Method::GET, &path, Value::Null).await;
    let agreed = json!({ "fingerprint": undo["fingerprint"], "acknowledged": [] });
    assert_eq!(desk.ask(Method::POST, &path, agreed).await.0, 201);
    let (_, back) = desk.ask(Method::GET, &format!("BOOKS/accounts/{coal}"), Value::Null).await;
    assert_eq!(back["lines"], 3);
    desk.site.books.must_recount().await;
}

#[tokio::test]
async fn parts_that_make_no_sense_are_refused_by_field() {
    let desk = Desk::open().await;
    let (coal, wood) = (desk.id("5010").await, desk.id("5020").await);
    let path = format!("BOOKS/accounts/{coal}/history");
    for (more, field) in [
        (json!({ "from": "31/01/2026" }), "parts[0].which.from"),
        (json!({ "dimension": "Larkfell" }), "parts[0].which.dimension"),
    ] {
        let split = json!({ "ranked": false, "parts": [part(wood, more)] });
        let (status, problem) = desk.ask(Method::POST, &path, split).await;
        assert_eq!((status, &problem["refused"][0]["field"]), (422, &json!(field)));
    }
    let (status, problem) = {
        let nowhere = json!({ "which": part(wood, json!({}))["which"] });
        desk.stage(coal, "history", json!({ "ranked": false, "parts": [nowhere] })).await
    };
    assert_eq!(status, 422);
    assert_eq!(problem["refused"][0]["field"], "history");
    assert!(problem["detail"].as_str().unwrap().contains("missing field `to`"), "{problem}");
}

#[tokio::test]
async fn a_crosswalk_can_be_a_list_of_moves() {
    let desk = Desk::open().await;
    let upload =
        |content: &'static str| desk.site.upload(&desk.ann, "crosswalk", "moves.csv", content);
    let (_, looked) = upload("Old code,New code\n5010,5040\n").await;
    let body = json!({ "plan": desk.plan, "leave_out": false, "moves": true });
    let (status, plan) = desk
        .ask(Method::POST, &format!("BOOKS/imports/{}/stage", looked["id"]), body.clone())
        .await;
    assert_eq!(status, 200, "{plan}");
    assert_eq!(plan["report"]["moved"][0]["which"], "all lines");
    assert_eq!(plan["report"]["crossings"], 0, "both accounts stay as they are");
    let (_, looked) = upload("Old code,New code\n5010,5777\n").await;
    let (status, problem) =
        desk.ask(Method::POST, &format!("BOOKS/imports/{}/stage", looked["id"]), body).await;
    assert_eq!(status, 422);
    assert!(
        problem["detail"].as_str().unwrap().contains("no account has the code 5777"),
        "{problem}"
    );
}

#[tokio::test]
async fn a_rule_is_previewed_on_the_map_and_makes_new_accounts() {
    let desk = Desk::open().await;
    let scheme = json!({ "format": "4 digits", "blocks": [
        { "class": "asset", "section": null, "codes": "1000 to 1999" },
        { "class": "expense", "section": null, "codes": "5000 to 6999" },
    ] });
    let (status, laid) = desk.ask(Method::PUT, "BOOKS/scheme", scheme.clone()).await;
    assert_eq!((status, &laid["scheme"]), (200, &scheme));
    assert_eq!(laid["starting"].as_array().unwrap().len(), 2);
    let foreign = json!({ "format": "4 digits", "blocks": [
        { "class": "asset", "section": "revenue", "codes": "1000 to 1999" }] });
    let (status, problem) = desk.ask(Method::PUT, "BOOKS/scheme", foreign).await;
    assert_eq!((status, &problem["refused"][0]["field"]), (422, &json!("blocks")));
    let twice = json!({ "format": "4 digits", "blocks": [
        { "class": "asset", "section": null, "codes": "1000 to 1999" },
        { "class": "income", "section": null, "codes": "1900 to 2999" } ] });
    let (_, problem) = desk.ask(Method::PUT, "BOOKS/scheme", twice).await;
    assert_eq!(
        problem["refused"][0]["reason"],
        "1000 to 1999 for asset and 1900 to 2999 for income overlap"
    );

    let (_, map) =
        desk.ask(Method::POST, "BOOKS/numbering", json!({ "plan": null, "rule": null })).await;
    assert_eq!(map["map"]["bands"][1]["room"], 2_000);
    assert_eq!(map["map"]["ticks"].as_array().unwrap().len(), 9);
    let rule = json!({
        "scope": { "codes": "5010 to 5040" },
        "rule": { "spread": { "start": "6500", "step": 10, "gap": 0, "order": "name" } },
        "copying": { "reads": "Coal", "with": "Peat" },
    });
    let asked = json!({ "plan": desk.plan, "rule": rule });
    let (status, answered) = desk.ask(Method::POST, "BOOKS/numbering", asked).await;
    assert_eq!(status, 200, "{answered}");
    let first = &answered["codes"][0];
    assert_eq!((&first["to"], &first["name"]), (&json!("6500"), &json!("Peat")));
    assert_eq!((&answered["findings"], &answered["refused"]), (&json!([]), &json!([])));
    let (status, answered) =
        desk.ask(Method::POST, &format!("BOOKS/plans/{}/copies", desk.plan), rule).await;
    assert_eq!(status, 200, "{answered}");
    assert_eq!(answered["added"].as_array().unwrap().len(), 4);
    assert_eq!(answered["plan"]["whole"]["report"]["crossings"], 4);
    let (_, place) = desk
        .ask(
            Method::GET,
            &format!("BOOKS/codes?plan={}&code=6505&class=expense", desk.plan),
            Value::Null,
        )
        .await;
    assert_eq!(place["message"], "free, between 6500 Peat and 6510 Peat and firewood");
    assert_eq!((&place["free"], &place["next"]), (&json!(true), &json!("6531")));
}

#[tokio::test]
async fn accounts_stand_side_by_side_and_what_is_told_apart_is_remembered() {
    let desk = Desk::open().await;
    let (coal, wood) = (desk.id("5010").await, desk.id("5020").await);
    let path = format!("BOOKS/merging?accounts={wood},{coal}");
    let (status, beside) = desk.ask(Method::GET, &path, Value::Null).await;
    assert_eq!((status, &beside["survivor"]), (200, &json!(coal)), "{beside}");
    assert_eq!(beside["reason"], "it is still posted to");
    assert_eq!(beside["settings"][1]["differs"], true);
    assert_eq!(
        beside["years"][1],
        json!({ "start": "2025-02-01", "end": "2026-01-31", "nets": ["0.00", "10.00"],
            "together": "10.00" })
    );
    assert_eq!(desk.ask(Method::GET, "BOOKS/merging?accounts=999", Value::Null).await.0, 404);

    let groups = |review: &Value| format!("{}{}", review["look_alikes"], review["worth_a_look"]);
    let (_, review) = desk.ask(Method::GET, "BOOKS/review", Value::Null).await;
    for tier in ["look_alikes", "worth_a_look"] {
        for group in review[tier].as_array().unwrap() {
            let sure = group["score"].as_u64().unwrap();
            assert_eq!(sure >= 68, tier == "look_alikes", "{group}");
            assert!(group["evidence"].is_array() && group["against"].is_array(), "{group}");
        }
    }
    let answered = json!({ "accounts": [coal, wood], "reason": "  " });
    assert_eq!(
        desk.ask(Method::POST, "BOOKS/not-duplicates", answered).await.0,
        422,
        "without a reason"
    );
    let answered = json!({ "accounts": [coal, wood], "reason": "other suppliers" });
    assert_eq!(desk.ask(Method::POST, "BOOKS/not-duplicates", answered).await.0, 204);
    let (_, after) = desk.ask(Method::GET, "BOOKS/review?since=2026-03-01", Value::Null).await;
    assert_eq!(after["not_duplicates"][0]["reason"], "other suppliers");
    assert!(!groups(&after).contains(&format!("[{coal},{wood}]")));
    assert_eq!(after["since"], "2026-03-01");
    let forget = format!("BOOKS/not-duplicates/{}", after["not_duplicates"][0]["id"]);
    assert_eq!(desk.ask(Method::DELETE, &forget, Value::Null).await.0, 204);
    let (_, again) = desk.ask(Method::GET, "BOOKS/review", Value::Null).await;
    assert_eq!(groups(&again), groups(&review));
}

#[tokio::test]
async fn what_is_right_in_these_books_is_not_remarked_again() {
    let desk = Desk::open().await;
    let review = async || desk.ask(Method::GET, "BOOKS/review", Value::Null).await.1;
    let remarks = async || review().await["others"].as_array().unwrap().clone();
    let all = remarks().await;
    let first = all.iter().find(|remark| remark["accounts"][0].is_i64()).unwrap();
    let (kind, account) = (&first["kind"], &first["accounts"][0]);
    let form = |account: &Value, reason: &str| json!({ "kind": kind, "account": account, "item": null, "reason": reason });
    for (refused, status) in [
        (form(account, " "), 422),
        (form(&json!(999), "x"), 422),
        (json!({ "kind": kind, "item": 999_999, "reason": "x" }), 422),
    ] {
        assert_eq!(desk.ask(Method::POST, "BOOKS/dismissed", refused).await.0, status);
    }
    let dismissed = desk.ask(Method::POST, "BOOKS/dismissed", form(account, "ours")).await;
    assert_eq!(dismissed.0, 204, "{}", dismissed.1);
    let left = remarks().await;
    assert_eq!(left.len() + 1, all.len());
    assert!(!left.contains(first));
    let said = review().await["dismissed"][0].clone();
    assert_eq!((&said["reason"], &said["title"]), (&json!("ours"), &first["title"]));

    assert_eq!(desk.ask(Method::POST, "BOOKS/dismissed", form(&Value::Null, "all")).await.0, 204);
    assert!(remarks().await.iter().all(|remark| remark["kind"] != *kind));
    for said in review().await["dismissed"].as_array().unwrap() {
        let forget = format!("BOOKS/dismissed/{}", said["id"]);
        assert_eq!(desk.ask(Method::DELETE, &forget, Value::Null).await.0, 204);
        assert_eq!(desk.ask(Method::DELETE, &forget, Value::Null).await.0, 404);
    }
    assert_eq!(remarks().await, all);
}

#[tokio::test]
async fn each_person_follows_accounts_of_their_own() {
    let desk = Desk::open().await;
    let coal = desk.id("5010").await;
    let path = format!("BOOKS/accounts/{coal}/follow");
    assert_eq!(desk.ask(Method::PUT, &path, Value::Null).await.0, 204);
    assert_eq!(desk.ask(Method::PUT, "BOOKS/accounts/999/follow", Value::Null).await.0, 404);
    let followed =
        async || desk.ask(Method::GET, "BOOKS/chart", Value::Null).await.1["followed"].clone();
    assert_eq!(followed().await, json!([coal]));
    assert_eq!(desk.ask(Method::DELETE, &path, Value::Null).await.0, 204);
    assert_eq!(followed().await, json!([]));
}

#[tokio::test]
async fn a_new_account_may_take_over_the_settings_of_another() {
    let desk = Desk::open().await;
    let coal = desk.id("5010").await;
    let described = desk.stage(coal, "description", json!("For engines")).await;
    assert_eq!(described.0, 200);
    let path = format!("BOOKS/plans/{}/apply", desk.plan);
    let agreed = json!({ "fingerprint": described.1["fingerprint"], "acknowledged": [] });
    assert_eq!(desk.ask(Method::POST, &path, agreed).await.0, 201);
    let plan = desk.site.draft(&desk.ann).await;
    let new = json!({ "code": "5015", "name": "Peat", "kind": "account", "class": "expense", "like": coal });
    let (status, view) = desk.ask(Method::POST, &format!("BOOKS/plans/{plan}/accounts"), new).await;
    assert_eq!(status, 200, "{view}");
    let added = view["added"][0].as_i64().unwrap();
    let staged = view["plan"]["whole"]["staged"].as_array().unwrap();
    assert!(staged.iter().all(|s| s["account"] == added), "it is known by the id it was given");
    let of = |field: &str| {
        staged.iter().find(|s| s["change"]["field"] == field).map(|s| s["change"]["value"].clone())
    };
    assert_eq!((of("description"), of("name")), (Some(json!("For engines")), Some(json!("Peat"))));
}

#[tokio::test]
async fn every_kind_of_rule_can_be_asked_for_and_what_makes_no_sense_is_refused() {
    let desk = Desk::open().await;
    let coal = desk.id("5010").await;
    let ask = async |scope: Value, rule: Value| {
        let rule = json!({ "scope": scope, "rule": rule, "copying": null });
        let asked = json!({ "plan": desk.plan, "rule": rule });
        desk.ask(Method::POST, "BOOKS/numbering", asked).await
    };
    let rewrite =
        |piece: Value, edit: Value| json!({ "rewrite": { "piece": piece, "edit": edit } });
    let first_two = json!({ "characters": { "from": 1, "count": 2 } });
    let only_coal = json!({ "accounts": [coal] });
    for (scope, rule, first) in [
        (only_coal.clone(), json!({ "fit": { "step": null, "order": "code" } }), None),
        (
            only_coal.clone(),
            rewrite(first_two.clone(), json!({ "replace": { "reads": "50", "with": "71" } })),
            Some("7110"),
        ),
        (only_coal.clone(), rewrite(first_two, json!({ "insert": "9" })), Some("95010")),
        (
            only_coal.clone(),
            rewrite(json!("whole"), json!({ "pad": { "width": 6, "front": false } })),
            Some("501000"),
        ),
        (
            only_coal.clone(),
            rewrite(json!({ "characters": { "from": 3, "count": 1 } }), json!("remove")),
            Some("500"),
        ),
        (only_coal, json!({ "affix": { "prefix": "L", "suffix": "-1" } }), Some("L5010-1")),
        (
            json!({ "under": coal }),
            json!({ "spread": { "start": "7000", "step": 5, "gap": 0, "order": "code" } }),
            Some("7000"),
        ),
        (
            json!({ "words": "coal" }),
            json!({ "spread": { "start": "7000", "step": 5, "gap": 0, "order": "name" } }),
            Some("7000"),
        ),
        (
            json!({ "class": "asset" }),
            json!({ "spread": { "start": "7000", "step": 5, "gap": 0, "order": "balance" } }),
            Some("7000"),
        ),
        (
            json!("all"),
            json!({ "spread": { "start": "10000", "step": 1, "gap": 0, "order": "code" } }),
            Some("10000"),
        ),
    ] {
        let (status, answered) = ask(scope.clone(), rule.clone()).await;
        assert_eq!(status, 200, "{rule}: {answered}");
        match first {
            Some(code) => {
                assert_eq!(answered["codes"][0]["to"], code, "{scope} {rule}: {answered}")
            }
            None => {
                assert_eq!(answered["refused"].as_array().unwrap().len(), 1, "no block: {answered}")
            }
        }
    }
    let spread =
        |start: &str| json!({ "spread": { "start": start, "step": 1, "gap": 0, "order": "code" } });
    for (scope, rule, field) in [
        (json!({ "class": "colour" }), spread("1"), "rule.scope.class"),
        (json!({ "codes": "20 to 10" }), spread("1"), "scope"),
        (json!("all"), spread(""), "start"),
    ] {
        let (status, refused) = ask(scope.clone(), rule.clone()).await;
        assert_eq!(
            (status, &refused["refused"][0]["field"]),
            (422, &json!(field)),
            "{scope} {rule} {refused}"
        );
    }
}
