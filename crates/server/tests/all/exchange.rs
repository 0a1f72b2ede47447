//! Files on their way in and out over HTTP: how they are read can be chosen and is remembered, a
//! chart stands beside that of the books, and what is handed out can be brought in again.

use crate::site::Site;
use reqwest::{Client, Method};
use serde_json::{Value, json};
use std::collections::BTreeMap;
use zf_core::chart::Chart;
use zf_core::code::Code;
use zf_core::ids::PlanId;
use zf_core::plan::{Change, Field};
use zf_sheets::{ColumnKind, Format, How, Table};

const FORMATS: [&str; 3] = ["csv", "xlsx", "ods"];

async fn file(site: &Site, client: &Client, path: &str) -> Vec<u8> {
    let answer = client.get(site.at(path)).send().await.unwrap();
    assert_eq!(answer.status(), 200, "{path}");
    answer.bytes().await.unwrap().to_vec()
}

async fn bring(site: &Site, client: &Client, kind: &str, name: &str, content: Vec<u8>) -> Value {
    let (status, shown) = site.upload(client, kind, name, content).await;
    assert_eq!(status, 200, "{name}: {shown}");
    shown
}

async fn choose(site: &Site, client: &Client, looked: &Value, change: Value) -> (u16, Value) {
    let mut choices = looked["choices"].clone();
    for (key, value) in change.as_object().unwrap() {
        choices[key] = value.clone();
    }
    let path = format!("BOOKS/imports/{}", looked["id"]);
    site.ask(client, Method::PUT, &path, choices).await
}

const JOURNAL: &str = "Nummer,Tag,Konto,Betrag\nA1,03/04/2026,1010,250\nA1,03/04/2026,5010,-250\n";

#[tokio::test]
async fn what_a_person_says_of_a_file_is_remembered_for_the_next_of_its_form() {
    let site = Site::open().await;
    let ann = site.ann().await;
    let looked = bring(&site, &ann, "journal", "may.csv", JOURNAL.into()).await;
    assert_eq!(looked["missing"][0], "Entry");
    let columns = json!({ "Nummer": "entry", "Tag": "date", "Konto": "code", "Betrag": "amount" });
    let (_, looked) = choose(&site, &ann, &looked, json!({ "columns": columns })).await;
    assert_eq!(
        (&looked["ready_rows"], &looked["questions"][0]["about"]),
        (&json!(0), &json!("dates"))
    );
    let (status, looked) = choose(&site, &ann, &looked, json!({ "dates": "dmy" })).await;
    assert_eq!((status, &looked["ready_rows"], &looked["questions"]), (200, &json!(2), &json!([])));
    assert_eq!(looked["columns"][0]["field"], "entry");
    // What was chosen is kept with the file, and shown again after a reload.
    let path = format!("BOOKS/imports/{}", looked["id"]);
    let shown = site.ask(&ann, Method::GET, &path, Value::Null).await.1;
    assert_eq!(shown["choices"], looked["choices"]);
    assert_eq!(site.ask(&ann, Method::POST, &path, json!({})).await.0, 200);

    let next = format!("Larkfell\n\n{}", JOURNAL.replace("A1", "A2"));
    let looked = bring(&site, &ann, "journal", "june.csv", next.into()).await;
    assert_eq!((&looked["ready_rows"], &looked["header_row"]), (&json!(2), &json!(3)));
    assert_eq!(looked["dates"], "dmy");

    for (change, field) in [
        (json!({ "dates": "xyz" }), "dates"),
        (json!({ "columns": { "Tag": "colour" } }), "columns"),
        (json!({ "settled": { "x": { "class": "asset", "section": "revenue" } } }), "settled"),
    ] {
        let (status, refused) = choose(&site, &ann, &looked, change).await;
        assert_eq!((status, &refused["refused"][0]["field"]), (422, &json!(field)));
    }
}

#[tokio::test]
async fn a_column_that_is_not_read_may_hold_what_cannot_be_kept() {
    let site = Site::open().await;
    let ann = site.ann().await;
    let content = "\u{feff}Entry,Date,Account,Amount,No\0te\n\
                   A1,2026-04-03,1010,250,x\0y\nA1,2026-04-03,5010,-250,\n";
    let looked = bring(&site, &ann, "journal", "may.csv", content.into()).await;
    assert_eq!((&looked["ready_rows"], &looked["rejected_rows"]), (&json!(2), &json!(0)));
    assert_eq!(looked["columns"][4]["heading"], "No\u{FFFD}te");
    let path = format!("BOOKS/imports/{}", looked["id"]);
    let (status, stored) = site.ask(&ann, Method::POST, &path, json!({})).await;
    assert_eq!(status, 200, "{stored}");
}

#[tokio::test]
async fn rows_are_corrected_here_or_taken_away_with_their_reasons() {
    let site = Site::open().await;
    let ann = site.ann().await;
    let journal = "Entry,Date,Code,Debit,Credit\nB1,2026-04-03,1O10,10,\nB1,2026-04-03,5010,,10\n\
                   B2,2026-04-03,1010,7,\nB2,2026-04-03,5010,,8\n";
    let looked = bring(&site, &ann, "journal", "may.csv", journal.into()).await;
    let reasons: Vec<_> =
        looked["rejected"].as_array().unwrap().iter().map(|r| r["reason"].clone()).collect();
    let unbalanced = "entry_unbalanced";
    assert_eq!(reasons, ["account_unknown", "entry_spoilt", unbalanced, unbalanced]);
    assert_eq!(
        (&looked["rejected"][0]["at"], &looked["rejected"][0]["row"]),
        (&json!(2), &json!(2))
    );

    let rejected =
        file(&site, &ann, &format!("BOOKS/imports/{}/rejected.xlsx", looked["id"])).await;
    let opened = zf_sheets::read("a.xlsx", rejected, &How::default()).unwrap();
    let rows = opened.sheets[0].rows.all();
    assert_eq!(rows.len(), 5);
    assert_eq!(rows[1].cells[2].text, "1O10");
    assert_eq!(rows[4].cells[6].text, "entry B2 does not balance: its credits are 1.00 too much");

    let fix = json!([{ "row": 2, "at": 2, "text": "1010" }, { "row": 5, "at": 4, "text": "7" }]);
    let (_, looked) = choose(&site, &ann, &looked, json!({ "corrections": fix })).await;
    assert_eq!((&looked["ready_rows"], &looked["rejected_rows"]), (&json!(4), &json!(0)));
    // Corrections stand in cells: another delimiter makes other cells.
    let (_, looked) = choose(&site, &ann, &looked, json!({ "delimiter": ";" })).await;
    assert_eq!(looked["choices"]["corrections"], json!([]));
    assert_eq!(looked["missing"][0], "Entry");
}

#[tokio::test]
async fn a_chart_handed_out_comes_back_the_same_and_edits_are_staged() {
    let site = Site::open().await;
    let ann = site.ann().await;
    let rows = site.books.store.snapshot(site.books.member).await.unwrap().today.chart;
    let rows = rows.live().count();
    for format in FORMATS {
        let content = file(&site, &ann, &format!("BOOKS/exports/chart.{format}")).await;
        let looked = bring(&site, &ann, "chart", &format!("chart.{format}"), content).await;
        let comparison = &looked["comparison"];
        assert_eq!((&comparison["same"], &looked["rejected_rows"]), (&json!(rows), &json!(0)));
        let path = format!("BOOKS/imports/{}/stage", looked["id"]);
        let plan = site.draft(&ann).await;
        let all = json!({ "plan": plan, "leave_out": false, "new": true, "changed": true });
        let (status, why) = site.ask(&ann, Method::POST, &path, all).await;
        assert_eq!((status, &why["code"]), (422, &json!("nothing_to_stage")));
    }
    let chart = String::from_utf8(file(&site, &ann, "BOOKS/exports/chart.csv").await).unwrap();
    let kept = chart.lines().filter(|line| !line.starts_with("6020,"));
    let edited: Vec<String> = kept.map(|line| line.replace("Diesel", "Fuel")).collect();
    let edited = edited.join("\n") + "\n7010,Audit,,expense\n";
    let looked = bring(&site, &ann, "chart", "edited.csv", edited.into()).await;
    let change = &looked["comparison"]["changed"][0];
    assert_eq!(change["fields"], json!([{ "field": "name", "old": "Diesel", "new": "Fuel" }]));
    let plan = site.draft(&ann).await;
    let wanted = json!({ "plan": plan, "leave_out": false, "new": true, "changed": true,
                         "missing": "deactivate" });
    let path = format!("BOOKS/imports/{}/stage", looked["id"]);
    let (status, staged) = site.ask(&ann, Method::POST, &path, wanted).await;
    assert_eq!(status, 200, "{staged}");
    let crosswalk = site.crosswalk(&ann, &format!("BOOKS/plans/{plan}")).await;
    let mut kinds: Vec<String> = crosswalk
        .as_array()
        .unwrap()
        .iter()
        .map(|crossing| {
            format!("{} {}", crossing["new_code"], crossing["changes"][0]).replace('"', "")
        })
        .collect();
    kinds.sort();
    assert_eq!(kinds, ["5030 renamed", "6020 deactivated", "7010 added"]);
    // The file is done with; the account it brings says where it came from.
    assert_eq!(site.ask(&ann, Method::POST, &path, json!({})).await.0, 422);
    let plan = format!("BOOKS/plans/{plan}");
    let keys: Vec<Value> =
        staged["report"]["findings"].as_array().unwrap().iter().map(|f| f["key"].clone()).collect();
    let agreed = json!({ "fingerprint": staged["fingerprint"], "acknowledged": keys });
    assert_eq!(site.ask(&ann, Method::POST, &format!("{plan}/apply"), agreed).await.0, 201);
    let shown = site.ask(&ann, Method::GET, "BOOKS/chart", Value::Null).await.1;
    let audit = shown["rows"].as_array().unwrap().iter().find(|r| r["code"] == "7010").unwrap();
    assert_eq!((&audit["origin"], &shown["origins"][0]["id"]), (&looked["id"], &looked["id"]));
}

#[tokio::test]
async fn sheets_that_are_one_table_are_so_in_the_next_file_of_the_form() {
    let site = Site::open().await;
    let ann = site.ann().await;
    let book = |entry: &str| {
        let sheet = |name: &str, number: &str| {
            let columns = ["Entry", "Date", "Code", "Amount"];
            let line = |code: &str, amount: &str| {
                [number, "2026-04-03", code, amount].map(str::to_owned).to_vec()
            };
            let columns = columns.map(|title| (title.to_owned(), ColumnKind::Text)).to_vec();
            Table::new(name, columns, vec![line("1010", "5.00"), line("5010", "-5.00")])
        };
        let (april, may) = (format!("{entry}1"), format!("{entry}2"));
        let sheets = [sheet("April", &april), sheet("May", &may)];
        zf_sheets::write(Format::Xlsx, &sheets).unwrap()
    };
    let looked = bring(&site, &ann, "journal", "spring.xlsx", book("S")).await;
    assert_eq!(looked["questions"][0]["about"], "sheet");
    assert_eq!((&looked["ready_rows"], &looked["together"]), (&json!(4), &json!(true)));
    let (_, looked) = choose(&site, &ann, &looked, json!({ "answers": { "sheet": "*" } })).await;
    assert_eq!(
        (&looked["questions"], &looked["choices"]["all_sheets"]),
        (&json!([]), &json!(true))
    );
    assert_eq!(looked["zero"]["rows"], 6);
    let path = format!("BOOKS/imports/{}", looked["id"]);
    assert_eq!(site.ask(&ann, Method::POST, &path, json!({})).await.0, 200);
    let next = bring(&site, &ann, "journal", "summer.xlsx", book("T")).await;
    assert_eq!((&next["questions"], &next["ready_rows"]), (&json!([]), &json!(4)));
    assert_eq!(next["sample"][2]["place"], json!({ "sheet": "May", "row": 2 }));
    // One of them is still to be had.
    let (_, one) = choose(&site, &ann, &next, json!({ "all_sheets": false, "sheet": "May" })).await;
    assert_eq!((&one["ready_rows"], &one["together"]), (&json!(2), &json!(false)));
}

#[tokio::test]
async fn a_compared_chart_brings_lines_of_its_own() {
    let site = Site::open().await;
    let ann = site.ann().await;
    let text = "Code,Name,Type,Category\n5030,Diesel,Expense,Running the engines\n\
                7010,Audit,Expense,Running the engines\n";
    let looked = bring(&site, &ann, "chart", "lines.csv", text.into()).await;
    let fields = looked["comparison"]["changed"][0]["fields"].as_array().unwrap();
    let caption = fields.iter().find(|field| field["new"] == "Running the engines");
    assert!(caption.is_some(), "{fields:?}");
    let plan = site.draft(&ann).await;
    let wanted = json!({ "plan": plan, "leave_out": false, "new": true, "changed": true });
    let path = format!("BOOKS/imports/{}/stage", looked["id"]);
    let (status, staged) = site.ask(&ann, Method::POST, &path, wanted).await;
    assert_eq!(status, 200, "{staged}");
    let today = site.books.store.snapshot(site.books.member).await.unwrap().today;
    let own = |name: &str| {
        let lines: Vec<_> = today.chart.structure().captions().filter(|l| l.name == name).collect();
        assert_eq!(lines.len(), 1, "{name}");
        lines[0].id
    };
    let line = own("Running the engines");
    let (_, staged) =
        site.books.store.plan(site.books.member, PlanId(plan.as_i64().unwrap())).await.unwrap();
    let diesel = today.chart.live().find(|account| account.code.as_str() == "5030").unwrap();
    let change = staged.staged(diesel.id, Field::Caption).cloned();
    assert_eq!(change, Some(Change::Caption(Some(line))));
    assert!(diesel.place().1 != Some(line), "nothing is changed before the plan is applied");
}

#[tokio::test]
async fn a_journal_and_a_crosswalk_handed_out_can_be_brought_in_again() {
    let site = Site::open().await;
    let ann = site.ann().await;
    let looked = bring(&site, &ann, "journal", "a.csv",
        "Entry,Date,Code,Debit,Credit,Memo,Site\nB1,2026-04-03,1010,10.50,,=1+1,North\nB1,2026-04-03,5010,,10.50,,\n".into()).await;
    let path = format!("BOOKS/imports/{}", looked["id"]);
    assert_eq!(site.ask(&ann, Method::POST, &path, json!({})).await.0, 200);
    let trial = file(&site, &ann, "BOOKS/exports/trial-balance.csv").await;

    for format in FORMATS {
        let content = file(&site, &ann, &format!("BOOKS/exports/journal.{format}")).await;
        let looked = bring(&site, &ann, "journal", &format!("b.{format}"), content.clone()).await;
        assert_eq!((&looked["ready_rows"], &looked["rejected_rows"]), (&json!(0), &json!(0)));
        let overlap = &looked["journal"]["overlap"];
        assert_eq!((&overlap["known_rows"], &overlap["vanished_entries"]), (&json!(2), &json!(0)));
        let opened = zf_sheets::read(&format!("b.{format}"), content, &How::default()).unwrap();
        let row = opened.sheets[0].rows.all().remove(1);
        let texts: Vec<&str> = row.cells.iter().map(|cell| cell.text.as_str()).collect();
        assert!(texts.contains(&"=1+1") && texts.contains(&"North"), "{texts:?}");
    }
    assert!(String::from_utf8(trial).unwrap().contains("1010,Bank,10.50,"));
    let none = file(&site, &ann, "BOOKS/exports/journal.csv?from=2026-05-01").await;
    assert_eq!(String::from_utf8(none).unwrap().lines().count(), 1);

    let plan = site.draft(&ann).await;
    let bank = site.books.id("5030").await;
    let edits = json!({ "edits": [{ "account": bank.0, "wanted": { "stage": { "field": "code", "value": "5035" } } }] });
    site.ask(&ann, Method::POST, &format!("BOOKS/plans/{plan}/edits"), edits).await;
    let crosswalk = file(&site, &ann, &format!("BOOKS/exports/crosswalk.xlsx?plan={plan}")).await;
    let looked = bring(&site, &ann, "crosswalk", "crosswalk.xlsx", crosswalk).await;
    assert_eq!((&looked["ready_rows"], &looked["rejected_rows"]), (&json!(1), &json!(0)));
}

#[tokio::test]
async fn an_account_that_only_the_new_chart_has_is_staged_as_one_that_is_added() {
    let site = Site::open().await;
    let ann = site.ann().await;
    let text = "Old code,New code,New name\n5010,5110,\n,5015,Coke\n,5016,\n";
    let looked = bring(&site, &ann, "crosswalk", "new.csv", text.into()).await;
    assert_eq!(looked["crossings"][1]["does"], "added as expense");
    assert_eq!(looked["rejected"][0]["reason"], "name_missing");
    let plan = site.draft(&ann).await;
    let path = format!("BOOKS/imports/{}/stage", looked["id"]);
    let wanted = json!({ "plan": plan, "leave_out": true });
    let (status, staged) = site.ask(&ann, Method::POST, &path, wanted).await;
    assert_eq!(status, 200, "{staged}");
    let (_, staged) =
        site.books.store.plan(site.books.member, PlanId(plan.as_i64().unwrap())).await.unwrap();
    let today = site.books.store.snapshot(site.books.member).await.unwrap().today;
    let after = zf_core::rehearsal::rehearse(&today, &staged).after;
    let name = |chart: &Chart, code: &str| {
        chart.by_code(&Code::parse(code).unwrap().key()).map(|account| account.name.clone())
    };
    assert_eq!(name(&after, "5015").as_deref(), Some("Coke"));
    assert_eq!((name(&today.chart, "5015"), name(&after, "5110").is_some()), (None, true));
}

#[tokio::test]
async fn forms_are_handed_out_and_can_be_read_as_they_are() {
    let site = Site::open().await;
    let ann = site.ann().await;
    for kind in ["chart", "journal", "crosswalk", "usage", "balances"] {
        for format in FORMATS {
            let form = file(&site, &ann, &format!("/api/templates/{kind}.{format}")).await;
            let opened =
                zf_sheets::read(&format!("a.{format}"), form.clone(), &How::default()).unwrap();
            let sheets = if format == "csv" { 1 } else { 2 };
            assert_eq!(opened.sheets.len(), sheets, "the columns are explained in a workbook");
            let looked = bring(&site, &ann, kind, &format!("form.{format}"), form).await;
            assert_eq!(looked["missing"], json!([]), "{kind}.{format}");
        }
    }
    for path in
        ["/api/templates/colours.csv", "/api/templates/chart.pdf", "BOOKS/exports/chart.doc"]
    {
        assert_eq!(site.ask(&ann, Method::GET, path, Value::Null).await.0, 422, "{path}");
    }
}

#[tokio::test]
async fn codes_nobody_bears_are_mapped_or_added_and_lines_are_not_stored_twice_unseen() {
    let site = Site::open().await;
    let ann = site.ann().await;
    let journal = "Entry,Date,Code,Name,Debit,Credit\nB1,2026-04-03,9100,Tea,10,\nB1,2026-04-03,1010,,,10\n\
                   B2,2026-04-04,9200,Cake,7,\nB2,2026-04-04,1010,,,7\n";
    let looked = bring(&site, &ann, "journal", "may.csv", journal.into()).await;
    let unknown = &looked["journal"]["unknown"];
    assert_eq!((&unknown[0]["code"], &unknown[1]["name"]), (&json!("9100"), &json!("Cake")));
    assert_eq!(looked["ready_rows"], 0);
    let oil = site.books.id("5040").await;
    let said = json!({ "9100": { "account": oil.0 }, "9200": { "new": { "name": "Cake", "class": "expense" } } });
    let (status, looked) = choose(&site, &ann, &looked, json!({ "accounts": said })).await;
    assert_eq!(
        (status, &looked["ready_rows"], &looked["journal"]["entries"]),
        (200, &json!(4), &json!(2))
    );
    assert_eq!(
        (&looked["journal"]["debits"], &looked["journal"]["last"]),
        (&json!("17.00"), &json!("2026-04-04"))
    );
    let path = format!("BOOKS/imports/{}", looked["id"]);
    assert_eq!(site.ask(&ann, Method::POST, &path, json!({})).await, (200, json!({ "rows": 4 })));
    let chart = site.ask(&ann, Method::GET, "BOOKS/chart", Value::Null).await.1;
    let row = |code: &str| {
        chart["rows"].as_array().unwrap().iter().find(|r| r["code"] == code).unwrap().clone()
    };
    assert_eq!(
        (&row("9200")["balance"], &row("5040")["balance"]),
        (&json!("7.00"), &json!("10.00"))
    );
    assert_eq!(row("9200")["origin"], looked["id"]);

    // The same lines under other numbers: 9100 is known from last time.
    let again = journal.replace("B1", "C1").replace("B2", "C2");
    let looked = bring(&site, &ann, "journal", "may again.csv", again.into()).await;
    assert_eq!(
        (&looked["ready_rows"], &looked["journal"]["stored_before"]["file_name"]),
        (&json!(4), &json!("may.csv"))
    );
    let path = format!("BOOKS/imports/{}", looked["id"]);
    let (status, why) = site.ask(&ann, Method::POST, &path, json!({})).await;
    assert_eq!((status, &why["code"]), (409, &json!("stored_before")));
    assert_eq!(site.lines().await, 4);
    assert_eq!(site.ask(&ann, Method::POST, &path, json!({ "again": true })).await.0, 200);
    assert_eq!(site.lines().await, 8);
}

#[tokio::test]
async fn a_journal_may_follow_the_codes_before_a_plan() {
    let site = Site::open().await;
    let ann = site.ann().await;
    let plan = site.books.stage("5010 code 5020; 5020 code 5010").await;
    let applied = site.books.apply(plan).await.unwrap();
    let journal = "Entry,Date,Code,Debit,Credit\nB1,2026-04-03,5010,10,\nB1,2026-04-03,1010,,10\n";
    let looked = bring(&site, &ann, "journal", "may.csv", journal.into()).await;
    assert_eq!(looked["journal"]["mapped"], json!([]));
    assert_eq!(looked["applied"][0]["id"], applied.0);
    let (_, looked) = choose(&site, &ann, &looked, json!({ "codes_before": applied.0 })).await;
    assert_eq!(looked["journal"]["mapped"], json!([{ "code": "5010", "account": "5020 Coal" }]));
    let path = format!("BOOKS/imports/{}", looked["id"]);
    assert_eq!(site.ask(&ann, Method::POST, &path, json!({})).await.0, 200);
    let coal = site.books.id("5020").await;
    let today = site.books.store.snapshot(site.books.member).await.unwrap().today;
    assert_eq!(today.figures()[&coal].all.net(), 1_000);
}

#[tokio::test]
async fn balances_are_compared_with_the_journal_and_may_open_the_books() {
    let site = Site::open().await;
    let ann = site.ann().await;
    let off = "Code,Debit,Credit\n1010,100.00,\n1020,20.00,\n5010,,119.00\n";
    let looked = bring(&site, &ann, "balances", "opening.csv", off.into()).await;
    let balances = &looked["balances"];
    assert_eq!((&balances["debits"], &balances["gap"]), (&json!("120.00"), &json!("1.00")));
    let path = format!("BOOKS/imports/{}", looked["id"]);
    let (status, why) = site.ask(&ann, Method::POST, &path, json!({})).await;
    assert_eq!((status, &why["refused"][0]["field"]), (422, &json!("date")));
    let (status, why) = site.ask(&ann, Method::POST, &path, json!({ "date": "2026-02-01" })).await;
    assert_eq!((status, &why["code"]), (422, &json!("cannot_open")));
    // The cell is typed over, and the totals run along.
    let fix = json!([{ "row": 4, "at": 2, "text": "120.00" }]);
    let (_, looked) = choose(&site, &ann, &looked, json!({ "corrections": fix })).await;
    assert_eq!(looked["balances"]["gap"], "0.00");
    let opened = site.ask(&ann, Method::POST, &path, json!({ "date": "2026-02-01" })).await;
    assert_eq!(opened, (200, json!({ "rows": 3 })));
    assert_eq!(site.lines().await, 3);

    let trial = file(&site, &ann, "BOOKS/exports/trial-balance.xlsx").await;
    let looked = bring(&site, &ann, "balances", "trial.xlsx", trial).await;
    assert_eq!(
        (&looked["balances"]["differing"], &looked["balances"]["agree"]),
        (&json!(0), &json!(3))
    );
    let other = off.replace("20.00", "25.00").replace("119", "125");
    let looked = bring(&site, &ann, "balances", "other.csv", other.into()).await;
    let differences = looked["balances"]["differences"].as_array().unwrap();
    let said: Vec<_> = differences.iter().map(|d| (&d["code"], &d["difference"])).collect();
    assert_eq!(said, [(&json!("1020"), &json!("5.00")), (&json!("5010"), &json!("-5.00"))]);
}

#[tokio::test]
async fn an_audit_file_of_the_books_brings_its_chart_and_journal() {
    let site = Site::open().await;
    let ann = site.ann().await;
    let journal = "Entry,Date,Code,Debit,Credit,Payee,Memo,Site\nB1,2026-04-03,5010,10.50,,Hollin,Coal & wood,North\n\
                   B1,2026-04-03,1010,,10.50,,,\nB2,2026-04-04,5030,2,,,,\nB2,2026-04-04,1010,,2,,,\n";
    let looked = bring(&site, &ann, "journal", "may.csv", journal.into()).await;
    let path = format!("BOOKS/imports/{}", looked["id"]);
    assert_eq!(site.ask(&ann, Method::POST, &path, json!({})).await.0, 200);
    let xml = file(&site, &ann, "BOOKS/exports/books.xml").await;
    let text = String::from_utf8(xml.clone()).unwrap();
    assert!(text.contains("<NumberOfEntries>2</NumberOfEntries>"));
    assert!(text.contains("<TotalDebit>12.50</TotalDebit>"));
    let chart = bring(&site, &ann, "chart", "books.xml", xml.clone()).await;
    assert_eq!((&chart["format"], &chart["rejected_rows"]), (&json!("SAF-T"), &json!(0)));
    assert_eq!(chart["comparison"]["changed_rows"], 0);
    let read = zf_sheets::read("books.xml", xml.clone(), &How::default()).unwrap();
    let first = read.sheets[1].rows.all().remove(1);
    let row: Vec<&str> = first.cells.iter().map(|c| c.text.as_str()).collect();
    let line = [
        "B1",
        "2026-04-03",
        "5010",
        "",
        "10.50",
        "",
        "Hollin",
        "Coal & wood",
        "",
        "",
        "",
        "",
        "North",
    ];
    assert_eq!(row, line);
    let lines = bring(&site, &ann, "journal", "books.xml", xml).await;
    let known = &lines["journal"]["overlap"]["known_rows"];
    assert_eq!((&lines["rejected_rows"], known), (&json!(0), &json!(4)), "they are there already");
}

/// What a sum of journal lines says by account, in minor units.
async fn balances(site: &Site) -> BTreeMap<String, (u64, i128)> {
    let today = site.books.store.snapshot(site.books.member).await.unwrap().today;
    let figures = today.figures().iter();
    let of = figures.map(|(id, f)| (today.chart.get(*id).unwrap().code.to_string(), f.all));
    of.map(|(code, all)| (code, (all.lines, all.net()))).collect()
}

#[tokio::test]
async fn books_with_retired_accounts_and_posted_headings_go_out_and_come_in_whole() {
    for seed in 0..4_u32 {
        let site = Site::open().await;
        let ann = site.ann().await;
        let codes = ["1010", "1020", "5010", "5020", "5030", "5040", "6010", "6020"];
        let mut state = seed.wrapping_mul(2_654_435_761).wrapping_add(12_345);
        let mut next = |below: usize| {
            state = state.wrapping_mul(1_664_525).wrapping_add(1_013_904_223);
            (state >> 8) as usize % below
        };
        let mut journal = "Entry,Date,Code,Debit,Credit\n".to_owned();
        for n in 0..40 {
            let (from, amount) = (next(codes.len()), 1 + next(90_000));
            let to = (from + 1 + next(codes.len() - 1)) % codes.len();
            let (from, to, day) = (codes[from], codes[to], 1 + next(28));
            journal += &format!(
                "J{n},2024-03-{day:02},{from},{amount},\nJ{n},2024-03-{day:02},{to},,{amount}\n"
            );
        }
        let looked = bring(&site, &ann, "journal", "j.csv", journal.into()).await;
        let path = format!("BOOKS/imports/{}", looked["id"]);
        assert_eq!(site.ask(&ann, Method::POST, &path, json!({})).await.0, 200);
        // One account becomes a heading and others are retired, as books of practice have them.
        let books = site.books.member.books();
        site.books
            .tamper(&format!(
                "UPDATE account SET kind = 'heading' WHERE books_id = {books} AND code = '5010';
                 UPDATE account SET status = 'deactivated' WHERE books_id = {books} AND code = '5020';
                 UPDATE account SET status = 'archived' WHERE books_id = {books} AND code IN ('5030', '6010');
                 UPDATE books SET revision = revision + 1 WHERE id = {books}"
            ))
            .await;
        let chart = file(&site, &ann, "BOOKS/exports/chart.csv").await;
        let journal = file(&site, &ann, "BOOKS/exports/journal.csv").await;

        let new = json!({ "name": "Again", "currency": "GBP", "year_month": 2, "year_day": 1 });
        let (_, created) = site.ask(&ann, Method::POST, "/api/books", new).await;
        let again = Site {
            books: site.books.other(created["id"].as_i64().unwrap()).await,
            address: site.address.clone(),
        };
        for (kind, content) in [("chart", chart), ("journal", journal)] {
            let looked = bring(&again, &ann, kind, &format!("{kind}.csv"), content).await;
            assert_eq!(looked["rejected_rows"], 0, "{looked}");
            let path = format!("BOOKS/imports/{}", looked["id"]);
            let (status, why) = again.ask(&ann, Method::POST, &path, json!({})).await;
            assert_eq!(status, 200, "{why}");
            if kind == "journal" {
                let said = looked["warnings"].to_string();
                assert!(said.contains("5010 Coal is a heading; its "), "{said}");
                assert!(said.contains("is archived; its "), "{said}");
            }
        }
        assert_eq!(balances(&again).await, balances(&site).await);
        again.books.must_recount().await;
        posting_account_takes_the_lines_of_a_heading(&again, &ann).await;
    }
}

/// What the review offers about the lines on 5010 Coal, done in one step.
async fn posting_account_takes_the_lines_of_a_heading(site: &Site, ann: &Client) {
    let before = balances(site).await;
    let review = site.ask(ann, Method::GET, "BOOKS/review", Value::Null).await.1;
    let others = review["others"].as_array().unwrap();
    let posted = others.iter().find(|remark| remark["kind"] == "heading_posted").unwrap();
    let offered = &posted["fixes"][0];
    assert_eq!(offered["label"], "Give its lines to a new 5011 Coal, general");
    let plan = site.draft(ann).await;
    let path = format!("BOOKS/plans/{plan}/accounts");
    let (status, view) = site.ask(ann, Method::POST, &path, offered["adds"].clone()).await;
    assert_eq!(status, 200, "{view}");
    site.books.apply(PlanId(plan.as_i64().unwrap())).await.unwrap();
    let mut expected = before;
    let lines = expected.remove("5010").unwrap();
    expected.insert("5011".to_owned(), lines);
    assert_eq!(balances(site).await, expected);
    site.books.must_recount().await;
}

#[tokio::test]
async fn an_audit_file_has_one_transaction_for_each_entry_however_the_journal_was_sorted() {
    let site = Site::open().await;
    let ann = site.ann().await;
    let journal = "Entry,Date,Code,Debit,Credit\nA,2026-04-03,1010,,10\nB,2026-04-04,1010,,2\n\
                   A,2026-04-03,5010,10,\nB,2026-04-04,5030,2,\n";
    let looked = bring(&site, &ann, "journal", "sorted.csv", journal.into()).await;
    let path = format!("BOOKS/imports/{}", looked["id"]);
    assert_eq!(site.ask(&ann, Method::POST, &path, json!({})).await.0, 200);
    let xml = String::from_utf8(file(&site, &ann, "BOOKS/exports/books.xml").await).unwrap();
    assert_eq!(xml.matches("<Transaction>").count(), 2, "{xml}");
}

#[tokio::test]
async fn a_block_without_headings_and_wordings_of_ones_own_are_read_as_chosen() {
    let site = Site::open().await;
    let ann = site.ann().await;
    let block = "7010\tFees\tMoonbeams\n7020\tRates\tMoonbeams\n7030\tRent\tSunshine\n";
    let looked = bring(&site, &ann, "chart", "pasted block.tsv", block.into()).await;
    assert_eq!((&looked["missing"], &looked["header_row"]), (&json!([]), &json!(0)));
    let columns = json!({ "Column C": "class" });
    let (_, looked) = choose(&site, &ann, &looked, json!({ "columns": columns })).await;
    let about: Vec<_> =
        looked["questions"].as_array().unwrap().iter().map(|q| q["about"].clone()).collect();
    assert_eq!(about, ["class:Moonbeams", "class:Sunshine"]);
    assert_eq!(looked["ready_rows"], 0);
    let settled = json!({
        "Moonbeams": { "class": "expense", "section": "administration" },
        "Sunshine": { "class": "income", "section": null },
    });
    let (_, looked) = choose(&site, &ann, &looked, json!({ "settled": settled })).await;
    assert_eq!(looked["comparison"]["new_rows"], 3);
    assert_eq!(looked["comparison"]["new"][2]["class"], "income");
    // What else there is of the books is missing from such a block, and is left as it is.
    let rows =
        site.books.store.snapshot(site.books.member).await.unwrap().today.chart.live().count();
    assert_eq!(looked["comparison"]["missing_rows"], rows);
    let plan = site.draft(&ann).await;
    let stage = json!({ "plan": plan, "leave_out": false, "new": true });
    let path = format!("BOOKS/imports/{}/stage", looked["id"]);
    let (status, staged) = site.ask(&ann, Method::POST, &path, stage).await;
    assert_eq!((status, staged["report"]["crossings"].as_u64()), (200, Some(3)));
    let wrong = json!({ "plan": plan, "leave_out": false, "missing": "delete" });
    assert_eq!(site.ask(&ann, Method::POST, &path, wrong).await.0, 404, "the file is done with");
}

#[tokio::test]
async fn files_that_were_stored_are_listed_and_taken_back() {
    let site = Site::open().await;
    let ann = site.ann().await;
    let journal = "Entry,Date,Code,Debit,Credit\nB1,2026-04-03,5010,10,\nB1,2026-04-03,1010,,10\n";
    let looked = bring(&site, &ann, "journal", "may.csv", journal.into()).await;
    let path = format!("BOOKS/imports/{}", looked["id"]);
    assert_eq!(site.ask(&ann, Method::POST, &path, json!({})).await.0, 200);
    let brought = format!("{path}/rollback");
    let shown = site.ask(&ann, Method::GET, &brought, Value::Null).await.1;
    let whole = json!({ "accounts": 0, "entries": 1, "lines": 2, "uses": 0, "blockers": [] });
    assert_eq!(shown, whole);
    let applied = site.books.apply(site.books.stage("5010 fate merge 5020").await).await.unwrap();
    let (status, why) = site.ask(&ann, Method::DELETE, &brought, Value::Null).await;
    assert_eq!((status, &why["code"]), (409, &json!("refused")));
    assert!(why["detail"].as_str().unwrap().contains("undo it first"), "{why}");
    site.books.undo(applied).await.unwrap();
    assert_eq!(site.ask(&ann, Method::DELETE, &brought, Value::Null).await.0, 204);
    assert_eq!(site.lines().await, 0);
    assert_eq!(site.ask(&ann, Method::GET, &brought, Value::Null).await.0, 404);
    let listed = site.ask(&ann, Method::GET, "BOOKS/imports", Value::Null).await.1;
    assert_eq!((&listed[0]["file_name"], &listed[0]["rows"]), (&json!("may.csv"), &json!(2)));
    assert!(listed[0]["rolled_back_at"].is_string() && listed[1]["rolled_back_at"].is_null());
}

#[tokio::test]
async fn a_where_used_list_with_lines_of_reports_comes_back_the_same_in_every_format() {
    let site = Site::open().await;
    let ann = site.ann().await;
    let list = "Code,Used by,Called,Month,Amount\n5010,bank rule,Harrock,,\n\
                5010,budget line,Coal,2026-03,1500.00\n\"5010 to 5029, 5040\",report layout,Fuel,,\n\
                5020 to 5010,report layout,Backwards,,\n";
    let looked = bring(&site, &ann, "usage", "uses.csv", list.into()).await;
    assert_eq!(looked["ready_rows"], 3);
    let rejected = looked["rejected"].as_array().unwrap();
    assert_eq!(rejected[0]["message"], "the interval 5020 to 5010 runs backwards", "{rejected:?}");
    let path = format!("BOOKS/imports/{}", looked["id"]);
    let agreed = json!({ "without_rejected": true });
    let (status, stored) = site.ask(&ann, Method::POST, &path, agreed).await;
    assert_eq!(status, 200, "{stored}");

    let coal = site.books.id("5010").await;
    let (_, card) =
        site.ask(&ann, Method::GET, &format!("BOOKS/accounts/{coal}"), Value::Null).await;
    let uses = ["bank rule “Harrock”", "budget line “Coal”"];
    let line = "report layout “Fuel”, adds up 5010 to 5029, 5040";
    assert_eq!(card["uses"], json!([uses[0], uses[1], line]));

    let before = site.books.store.uses(site.books.member).await.unwrap();
    for format in FORMATS {
        let name = format!("where-used.{format}");
        let content = file(&site, &ann, &format!("BOOKS/exports/{name}")).await;
        let looked = bring(&site, &ann, "usage", &name, content).await;
        assert_eq!((&looked["ready_rows"], &looked["rejected"]), (&json!(3), &json!([])), "{name}");
        let path = format!("BOOKS/imports/{}", looked["id"]);
        assert_eq!(site.ask(&ann, Method::POST, &path, json!({})).await.0, 200);
        let after = site.books.store.uses(site.books.member).await.unwrap();
        let brought = after.iter().filter(|one| before.contains(one)).count();
        assert_eq!((brought, after.len()), (after.len(), before.len() * 2), "{name}");
        let files = site.books.store.stored_files(site.books.member).await.unwrap();
        let latest = files.iter().map(|file| file.id).max().unwrap();
        let path = format!("BOOKS/imports/{latest}/rollback");
        let (status, _) = site.ask(&ann, Method::DELETE, &path, Value::Null).await;
        assert_eq!(status, 204, "{name}");
    }
}

#[tokio::test]
async fn a_chart_is_handed_out_without_the_codes_that_are_only_proposed_and_comes_in_the_same() {
    let site = Site::open().await;
    let ann = site.ann().await;
    site.books
        .tamper("UPDATE account SET code_proposed = true WHERE code IN ('5010', '6020')")
        .await;
    site.books.tamper("UPDATE books SET revision = revision + 1").await;
    let rows = |content: Vec<u8>| {
        let opened = zf_sheets::read("chart.csv", content, &How::default()).unwrap();
        let rows = opened.sheets[0].rows.all();
        rows.iter().map(|row| row.cells[0].text.clone()).collect::<Vec<_>>()
    };
    let with = rows(file(&site, &ann, "BOOKS/exports/chart.csv").await);
    let without = rows(file(&site, &ann, "BOOKS/exports/chart.csv?proposed=false").await);
    assert!(with.contains(&"5010".to_owned()) && !without.contains(&"5010".to_owned()));
    assert_eq!(without.iter().filter(|code| code.is_empty()).count(), 2);
    assert_eq!(with.len(), without.len());
}

#[tokio::test]
async fn what_is_asked_is_answered_and_what_is_left_out_is_counted() {
    let site = Site::open().await;
    let ann = site.ann().await;
    let chart = "Code,Name,Type,Balance\n7010,Fees,Moonbeams,12.50\n7020,Rates,Expense,2.50\n,Total,,15.00\n";
    let looked = bring(&site, &ann, "chart", "asked.csv", chart.into()).await;
    let question = &looked["questions"][0];
    assert_eq!(
        (&question["about"], &question["default"]),
        (&json!("class:Moonbeams"), &Value::Null)
    );
    assert_eq!(question["readings"].as_array().unwrap().len(), 5);
    let zero = &looked["zero"];
    assert_eq!(
        (&zero["rows"], &zero["left_out"], &zero["difference"]),
        (&json!(4), &json!(1), &json!("0.00"))
    );
    assert_eq!(zero["amounts"][0]["sum"], "30.00");
    let wrong =
        choose(&site, &ann, &looked, json!({ "answers": { "class:Moonbeams": "cheese" } })).await;
    assert_eq!(wrong.0, 422, "{}", wrong.1);
    let answers = json!({ "answers": { "class:Moonbeams": "expense", "code:2": "7015" } });
    let (status, looked) = choose(&site, &ann, &looked, answers).await;
    assert_eq!((status, &looked["questions"], &looked["ready_rows"]), (200, &json!([]), &json!(2)));
    assert_eq!(looked["comparison"]["new"][0]["code"], "7015");
}
