//! What is sent of a rehearsal, and what is kept and printed.

#![allow(clippy::unwrap_used, reason = "what is not sent fails the test")]
#![allow(dead_code, reason = "the small books are those of the core's tests")]

#[path = "../../../core/tests/all/books/mod.rs"]
mod books;
mod kept;

use books::{plan, railway};
use serde_json::{Value, json, to_value};
use zf_core::names::Charts;
use zf_core::rehearsal::{Rehearsal, rehearse, report};
use zf_core::today::Today;
use zf_phrases::Say;
use zf_wire::rehearsal::{Report, TrialBalances};

/// What is sent of a plan for the railway.
fn sent(words: &str) -> (Report, TrialBalances) {
    let today = railway();
    let rehearsal = rehearse(&today, &plan(&today, words));
    let names = Charts { today: &today.chart, after: &rehearsal.after };
    let say = Say::plain(&names, today.currency);
    (worded(&today, &rehearsal, &say), trials(&rehearsal, &say))
}

fn worded(today: &Today, rehearsal: &Rehearsal, say: &Say<'_>) -> Report {
    Report::of(&report::Report::of(today, rehearsal), &rehearsal.findings, say)
}

fn trials(rehearsal: &Rehearsal, say: &Say<'_>) -> TrialBalances {
    TrialBalances::of(&report::TrialBalances::of(rehearsal), say)
}

#[test]
fn an_account_is_sent_with_its_old_and_its_new_self() {
    let (report, _) =
        sent("5020 fate merge 5010; 5010 code 5110; 5040 fate delete; 5030 name Gas oil");
    let rows: Vec<Value> = report.crosswalk.iter().map(|row| to_value(row).unwrap()).collect();
    let of = |account: i64| rows.iter().find(|row| row["account"] == account).unwrap();
    let selves = |account: i64| {
        let row = of(account);
        ["old_code", "old_name", "new_code", "new_name", "changes"].map(|key| row[key].clone())
    };
    assert_eq!(
        selves(5_020),
        [
            json!("5020"),
            json!("Coal and firewood"),
            json!("5110"),
            json!("Coal"),
            json!(["merged"])
        ]
    );
    assert_eq!(selves(5_040)[2..4], [Value::Null, Value::Null], "it is deleted");
    assert_eq!(selves(5_030)[3..], [json!("Gas oil"), json!(["renamed"])]);
    let counts: Vec<_> = report.counts().into_iter().map(|c| (c.words, c.accounts)).collect();
    let sum = ("sum lines that follow", 1);
    assert_eq!(counts, [("merged", 1), ("renumbered", 1), ("renamed", 1), ("deleted", 1), sum]);
}

#[test]
fn an_added_account_has_no_old_self() {
    let (report, _) = sent("777 fate add; 777 code 5045; 777 name Peat; 777 class expense");
    let added = to_value(&report.crosswalk[0]).unwrap();
    assert_eq!((&added["old_code"], &added["new_code"]), (&Value::Null, &json!("5045")));
    assert_eq!(added["changes"], json!(["added"]));
}

#[test]
fn what_has_another_code_stands_in_two_rows_each_on_one_side() {
    let (_, trials) = sent("5010 code 5110");
    let pairs = trials.beside();
    let of = |code: &str| pairs.iter().find(|pair| pair.code == code).unwrap();
    assert!(of("5010").today.is_some() && of("5010").after.is_none());
    assert!(of("5110").today.is_none() && of("5110").after.is_some());
    assert_eq!(of("5010").today, of("5110").after);
    let bank = of("1010");
    assert_eq!((bank.today.is_some(), &bank.today), (true, &bank.after));
    // The results of earlier years have no code, and come after the accounts of their class.
    let earlier = pairs.iter().position(|pair| pair.code.is_empty()).unwrap();
    assert_eq!(pairs[earlier].name, "Results of earlier years");
    assert!(pairs[earlier + 1..].iter().all(|pair| pair.class != pairs[earlier].class));
}

#[test]
fn a_way_out_is_a_button_where_it_names_an_account_else_an_advice() {
    let (report, _) = sent("5030 fate delete");
    let found = to_value(&report.findings[0]).unwrap();
    assert_eq!((&found["rule"], &found["severity"]), (&json!("delete_used"), &json!("stop")));
    let ways = found["remedies"].as_array().unwrap();
    let archive =
        json!({ "stage": { "field": "fate", "value": { "fate": "archive", "from": null } } });
    assert_eq!((&ways[0]["account"], &ways[0]["wanted"]), (&json!(5_030), &archive));
    let advice = ways.last().unwrap();
    assert_eq!((&advice["account"], &advice["wanted"]), (&Value::Null, &Value::Null));
    assert_eq!(advice["label"], "Or merge it into the account that takes its place.");
}

#[test]
fn figures_have_the_decimal_places_of_the_currency() {
    let (report, _) = sent("5010 name Steam coal");
    let figures = to_value(&report.figures).unwrap();
    assert_eq!((&figures["currency"], &figures["difference"]), (&json!("GBP"), &json!("0.00")));
    assert_eq!(figures["debits"], figures["credits"]);
    assert_eq!(figures["all"], json!({ "today": "0.00", "after": "0.00", "difference": "0.00" }));
    assert_eq!(figures["lines"], figures["accounted"]);
}
