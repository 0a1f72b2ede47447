//! The statements, the trial balance and the journal over HTTP.

use crate::desk::Desk;
use reqwest::Method;
use serde_json::{Value, json};

#[tokio::test]
async fn statements_are_drawn_as_they_are_and_as_a_plan_would_restate_them() {
    let desk = Desk::open().await;
    let (coal, wood) = (desk.id("5010").await, desk.id("5020").await);
    let find = |answered: &Value, code: &str| {
        let rows = answered["statements"][1]["rows"].as_array().unwrap().iter();
        let mut accounts = rows.flat_map(|row| row["accounts"].as_array().unwrap());
        accounts.find(|account| account["code"] == code).cloned().unwrap_or_default()
    };
    let tied = |answered: &Value| {
        let ties = answered["ties"].as_array().unwrap();
        !ties.is_empty() && ties.iter().all(|tie| tie["difference"] == "0.00")
    };
    let (status, answered) = desk.ask(Method::GET, "BOOKS/reports/statements", Value::Null).await;
    assert_eq!(status, 200, "{answered}");
    assert_eq!(answered["columns"].as_array().unwrap().len(), 2, "nothing was posted before");
    assert_eq!(find(&answered, "5010")["amounts"], json!(["-3.50", "-10.00"]));
    assert_eq!((tied(&answered), &answered["reading"]), (true, &json!("as_it_is")));

    desk.stage(coal, "fate", json!({ "fate": "merge_into", "into": wood })).await;
    let planned = format!("BOOKS/reports/statements?plan={}&count=1", desk.plan);
    let (_, answered) = desk.ask(Method::GET, &planned, Value::Null).await;
    assert_eq!(answered["columns"].as_array().unwrap().len(), 1);
    assert_eq!(find(&answered, "5010"), Value::Null);
    assert_eq!(find(&answered, "5020")["amounts"], json!(["-3.50"]));
    assert_eq!(find(&answered, "5020")["note"].as_str().unwrap().split(' ').nth(1), Some("5010"));
    assert_eq!(
        (tied(&answered), &answered["moved"], &answered["earlier_changed"]),
        (true, &json!([]), &json!(0))
    );
    let (_, answered) =
        desk.ask(Method::GET, &format!("{planned}&reading=as_posted"), Value::Null).await;
    assert_eq!(find(&answered, "5010")["amounts"], json!(["-3.50"]));
    let (_, answered) =
        desk.ask(Method::GET, &format!("{planned}&until=2027-01-31&span=month"), Value::Null).await;
    assert_eq!(
        answered["columns"],
        json!([{ "months": 1, "from": "2027-01-01", "until": "2027-01-31" }])
    );

    for (wrong, status) in
        [("plan=999999", 404), ("count=9", 422), ("until=soon", 422), ("span=week", 422)]
    {
        let (got, _) =
            desk.ask(Method::GET, &format!("BOOKS/reports/statements?{wrong}"), Value::Null).await;
        assert_eq!(got, status, "{wrong}");
    }
}

#[tokio::test]
async fn the_journal_is_read_entry_by_entry() {
    let desk = Desk::open().await;
    let coal = desk.id("5010").await;
    let ask = async |query: &str| {
        let path = format!("BOOKS/journal?{query}");
        let (status, answered) = desk.ask(Method::GET, &path, Value::Null).await;
        assert_eq!(status, 200, "{answered}");
        answered
    };
    let all = ask(&format!("account={coal}")).await;
    let entries = all["entries"].as_array().unwrap();
    assert_eq!((entries.len(), &all["more"]), (3, &json!(false)));
    assert_eq!(entries[0]["date"], "2026-04-05", "the latest first");
    let lines = entries[0]["lines"].as_array().unwrap();
    let coal_line = lines.iter().find(|line| line["account"] == coal).unwrap();
    assert_eq!(
        (lines.len(), &coal_line["amount"], &coal_line["posted_code"]),
        (2, &json!("0.50"), &json!("5010"))
    );
    let source = ask(&format!("import={}", entries[0]["import"])).await;
    assert_eq!(source["entries"][0]["id"], entries[0]["id"]);
    let wood = desk.id("5020").await;
    desk.stage(coal, "fate", json!({ "fate": "merge_into", "into": wood })).await;
    let planned = ask(&format!("account={wood}&plan={}", desk.plan)).await;
    assert_eq!(planned["entries"].as_array().unwrap().len(), 3, "what the plan puts there");
    let posted = ask(&format!("account={coal}&code=5099")).await;
    assert_eq!(posted["entries"], json!([]), "nothing was posted to it under that code");
    let third = ask("amount=%C2%A310.00&to=2025-12-31").await;
    assert_eq!(third["entries"][0]["id"], entries[2]["id"]);
    let behind = format!("after_day=2026-02-05&after_entry={}&account={coal}", entries[1]["id"]);
    assert_eq!(ask(&behind).await["entries"].as_array().unwrap().len(), 1);
    for wrong in ["from=soon", "amount=much", "after_day=2026"] {
        let (status, answered) =
            desk.ask(Method::GET, &format!("BOOKS/journal?{wrong}"), Value::Null).await;
        assert_eq!(status, 422, "{answered}");
    }
}

#[tokio::test]
async fn two_readings_stand_side_by_side_and_every_figure_has_its_months() {
    let desk = Desk::open().await;
    let (coal, wood) = (desk.id("5010").await, desk.id("5020").await);
    desk.stage(coal, "fate", json!({ "fate": "merge_into", "into": wood })).await;
    let ask = async |query: &str| {
        let path = format!("BOOKS/reports/{query}");
        let (status, answered) = desk.ask(Method::GET, &path, Value::Null).await;
        assert_eq!(status, 200, "{answered}");
        answered
    };
    let plan = format!("plan={}", desk.plan);
    let answered = ask(&format!("statements?{plan}&reading=as_planned&against=as_it_is")).await;
    let accounts: Vec<&Value> = answered["statements"][1]["rows"]
        .as_array()
        .unwrap()
        .iter()
        .flat_map(|row| row["accounts"].as_array().unwrap())
        .collect();
    let of = |code: &str| {
        let found = accounts.iter().find(|account| account["code"] == code).unwrap();
        (found["amounts"].clone(), found["against"].clone())
    };
    assert_eq!(of("5010"), (json!([]), json!(["-3.50", "-10.00"])));
    assert_eq!(of("5020"), (json!(["-3.50", "-10.00"]), json!([])));
    assert_eq!(
        (&answered["moved_from"], &answered["moved_to"]),
        (&json!("as_it_is"), &json!("as_planned"))
    );

    let answered = ask(&format!("statements?{plan}&in_thousands=true")).await;
    let rows = answered["statements"][0]["rows"].as_array().unwrap();
    assert!(rows.iter().all(|row| row["amounts"][1] == "0"), "10.00 is no thousand: {answered}");

    let months = ask(&format!("accounts/{wood}/months?{plan}")).await;
    let latest = months[0]["columns"][0].as_array().unwrap();
    let said: Vec<_> = latest.iter().map(|month| (&month["until"], &month["amount"])).collect();
    assert!(said.contains(&(&json!("2026-04-30"), &json!("-0.50"))), "{said:?}");
    let (status, _) =
        desk.ask(Method::GET, "BOOKS/reports/accounts/999999/months", Value::Null).await;
    assert_eq!(status, 404);

    let trial = ask(&format!("trial-balance?{plan}&form=roll&span=quarter&zeros=true")).await;
    let figures: Vec<_> =
        trial["columns"].as_array().unwrap().iter().map(|column| &column["figure"]).collect();
    assert_eq!(figures, ["opening", "debits", "credits", "closing"]);
    assert_eq!((&trial["totals"][0], &trial["totals"][3]), (&json!("0.00"), &json!("0.00")));
    assert_eq!(trial["left_out"], 0);
    let wood = trial["rows"].as_array().unwrap().iter().find(|row| row["account"] == wood).unwrap();
    assert_eq!(wood["amounts"], json!(["0.00", "3.50", "0.00", "3.50"]));
}

#[tokio::test]
async fn a_subtotal_is_a_formula_in_a_workbook_and_a_ratio_stands_beside_it() {
    let desk = Desk::open().await;
    let class = |class: &str| json!({ "of": { "class": class }, "taken_off": false });
    let add = |name: &str, ratio: bool, terms: Value| {
        json!({ "do": "add_calculated", "class": "expense", "name": name, "before": null,
            "ratio": ratio, "terms": terms })
    };
    let edits = json!({ "edits": [
        add("Gross result", false, json!([class("income"), class("expense")])),
        add("Of expenses", true, json!([class("expense"), class("expense")])),
    ] });
    let (status, answered) = desk.ask(Method::POST, "BOOKS/items", edits).await;
    assert_eq!(status, 200, "{answered}");
    let of_class = &answered["classes"][4]["items"];
    let kinds: Vec<&Value> =
        of_class.as_array().unwrap().iter().rev().take(2).map(|line| &line["kind"]).collect();
    assert_eq!(kinds, ["ratio", "subtotal"]);
    let (status, answered) = desk.ask(Method::GET, "BOOKS/reports/statements", Value::Null).await;
    assert_eq!(status, 200, "{answered}");
    let rows = answered["statements"][1]["rows"].as_array().unwrap();
    let row = |label: &str| rows.iter().find(|row| row["label"] == label).unwrap();
    assert_eq!(row("Gross result")["amounts"], json!(["-3.50", "-10.00"]));
    assert_eq!(row("Of expenses")["ratios"], json!([1000, 1000]));
    let path = "BOOKS/reports/files/income_statement.csv";
    let csv = desk.ann.get(desk.site.at(path)).send().await.unwrap().text().await.unwrap();
    assert!(
        csv.contains("Gross result,-3.50,-10.00") && csv.contains("Of expenses,100.0 %"),
        "{csv}"
    );
    let (status, answered) = desk
        .ask(
            Method::POST,
            "BOOKS/items",
            json!({ "edits": [
        { "do": "calculate", "item": row("Of expenses")["item"], "terms": [class("income")] },
    ] }),
        )
        .await;
    assert_eq!(status, 422, "{answered}");
}

#[tokio::test]
async fn books_are_summed_up_before_they_are_opened() {
    let desk = Desk::open().await;
    let (coal, bank) = (desk.id("5010").await, desk.id("1010").await);
    let ask = async || {
        let (status, answered) = desk.ask(Method::GET, "BOOKS/summary", Value::Null).await;
        assert_eq!(status, 200, "{answered}");
        answered
    };
    let answered = ask().await;
    assert_eq!(
        (&answered["as_of"], &answered["last_posted"]),
        (&json!("2026-04-30"), &json!("2026-04-05"))
    );
    let plan = &answered["plans"][0];
    assert_eq!((&plan["id"], &plan["changes"], &plan["stops"]), (&desk.plan, &json!(0), &json!(0)));
    assert!(answered["people"].as_array().unwrap().contains(&json!("Ann")), "{answered}");
    // Coal is no bank account: a merge across classes is a stop.
    desk.stage(coal, "fate", json!({ "fate": "merge_into", "into": bank })).await;
    let answered = ask().await;
    let plan = &answered["plans"][0];
    assert_eq!(
        (&plan["changes"], plan["stops"].as_u64() > Some(0)),
        (&json!(1), true),
        "{answered}"
    );
    let (status, plans) = desk.ask(Method::GET, "BOOKS/plans", Value::Null).await;
    assert_eq!((status, &plans[0]["application"]), (200, &Value::Null));

    let place = "BOOKS/codes?class=expense&code=5099";
    let (_, answered) = desk.ask(Method::GET, place, Value::Null).await;
    assert_eq!(answered["item"], Value::Null);
    let (_, lines) = desk.ask(Method::GET, "BOOKS/items", Value::Null).await;
    let costs = &lines["classes"][4]["items"][0];
    let (_, answered) =
        desk.ask(Method::GET, &format!("{place}&caption={}", costs["id"]), Value::Null).await;
    let holds = json!({ "name": costs["name"], "accounts": costs["accounts"], "amount": "0.00" });
    assert_eq!(answered["item"], holds);
}

#[tokio::test]
async fn a_balance_on_the_other_side_is_owed_on_the_statement_and_a_plan_moves_it() {
    let desk = Desk::open().await;
    let (_, lines) = desk.ask(Method::GET, "BOOKS/items", Value::Null).await;
    let line = |class: usize, standard: &str| {
        let of = lines["classes"][class]["items"].as_array().unwrap();
        of.iter().find(|line| line["standard"] == standard).unwrap()["id"].clone()
    };
    let (cash, loans) = (line(0, "cash"), line(1, "borrowings"));
    let named = json!({ "edits": [{ "do": "name_other_side", "item": cash, "other": loans }] });
    let (status, answered) = desk.ask(Method::POST, "BOOKS/items", named).await;
    assert_eq!(status, 200, "{answered}");
    assert_eq!(answered["classes"][0]["items"][0]["other_side"], loans);
    // The bank comes to stand on the line: what it is overdrawn by is owed.
    let bank = desk.id("1010").await;
    desk.stage(bank, "caption", cash.clone()).await;
    let path = format!("BOOKS/reports/statements?plan={}", desk.plan);
    let (status, answered) = desk.ask(Method::GET, &path, Value::Null).await;
    assert_eq!(status, 200, "{answered}");
    let rows = answered["statements"][0]["rows"].as_array().unwrap();
    let row = rows.iter().find(|row| row["item"] == loans).unwrap();
    assert_eq!(row["amounts"], json!(["13.50", "10.00"]), "{answered}");
    assert!(rows.iter().all(|row| row["item"] != cash), "nothing stands there");
    let whole = rows.last().unwrap();
    assert_eq!(whole["amounts"], json!(["0.00", "0.00"]));
    assert!(answered["ties"].as_array().unwrap().iter().all(|tie| tie["difference"] == "0.00"));
    let moved = &answered["moved"][0];
    assert_eq!((&moved["amounts"], &moved["lines"]), (&json!(["-13.50", "-10.00"]), &json!(3)));
    assert_eq!(moved["accounts"][0]["code"], "1010");
    assert!(answered["earlier_changed"].as_u64() > Some(0), "{answered}");
    let costs =
        json!({ "edits": [{ "do": "name_other_side", "item": line(4, "staff"), "other": loans }] });
    let (status, answered) = desk.ask(Method::POST, "BOOKS/items", costs).await;
    assert_eq!(status, 422, "{answered}");
}

#[tokio::test]
async fn a_trial_balance_is_handed_over_in_the_form_that_is_shown() {
    let desk = Desk::open().await;
    let file = async |name: &str| {
        let path = format!("BOOKS/reports/files/{name}");
        let answer = desk.ann.get(desk.site.at(&path)).send().await.unwrap();
        assert_eq!(answer.status(), 200, "{path}");
        answer.bytes().await.unwrap().to_vec()
    };
    let csv = file("trial_balance.csv?form=roll&span=year&count=1").await;
    let csv = String::from_utf8(csv).unwrap();
    assert!(csv.contains("opening 31 Jan 2026") && csv.contains("closing 30 Apr 2026"), "{csv}");
    assert!(csv.contains(",expense,0.00,3.50,0.00,3.50"), "{csv}");
    assert!(csv.contains(",All accounts,,0.00,3.50,3.50,0.00"), "{csv}");
    assert!(file("trial_balance.xlsx").await.len() > 3_000);
    let zeros = String::from_utf8(file("trial_balance.csv?zeros=true").await).unwrap();
    assert!(zeros.lines().count() > csv.lines().count(), "{zeros}");
    let (status, _) = desk.ask(Method::GET, "BOOKS/reports/files/cash_flow.csv", Value::Null).await;
    assert_eq!(status, 422);
}
