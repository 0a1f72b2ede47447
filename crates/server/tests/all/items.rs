//! The statement items over HTTP: changed at once, merged by a plan, and as a list that is taken
//! away, edited and brought in again.

use crate::site::Site;
use reqwest::multipart::{Form, Part};
use reqwest::{Client, Method};
use serde_json::{Value, json};

async fn shown(site: &Site, client: &Client) -> Vec<Value> {
    let (status, lines) = site.ask(client, Method::GET, "BOOKS/items", Value::Null).await;
    assert_eq!(status, 200, "{lines}");
    let classes = lines["classes"].as_array().unwrap();
    let of_class = |class: &Value| {
        let lines = class["items"].as_array().unwrap().clone();
        let of = class["class"].clone();
        lines.into_iter().map(move |mut line| {
            line["class"] = of.clone();
            line
        })
    };
    classes.iter().flat_map(of_class).collect()
}

fn named<'a>(lines: &'a [Value], name: &str) -> &'a Value {
    lines.iter().find(|line| line["name"] == name).unwrap()
}

async fn list(site: &Site, client: &Client, text: String) -> (u16, Value) {
    let form = Form::new().part("file", Part::bytes(text.into_bytes()).file_name("lines.csv"));
    let path = site.at("BOOKS/items/list");
    let answer = client.post(path).multipart(form).send().await.unwrap();
    (answer.status().as_u16(), answer.json().await.unwrap())
}

#[tokio::test]
async fn a_line_is_merged_by_a_plan_and_retired_when_it_is_empty() {
    let site = Site::open().await;
    let ann = site.ann().await;
    let lines = shown(&site, &ann).await;
    let [from, into, other] =
        [0, 1, 2].map(|n| lines.iter().filter(|line| line["class"] == "expense").nth(n).unwrap());
    let edit = async |edits: Value| {
        let body = json!({ "edits": edits });
        site.ask(&ann, Method::POST, "BOOKS/items", body).await
    };
    let retire = |line: &Value| json!([{ "do": "retire", "item": line["id"] }]);
    let plan = site.draft(&ann).await;
    let path = format!("BOOKS/plans/{plan}/items");
    let merges = json!({ "merges": [{ "item": from["id"], "into": into["id"] }] });
    let (status, empty) = site.ask(&ann, Method::POST, &path, merges.clone()).await;
    assert_eq!((status, &empty["code"]), (422, &json!("refused")), "{empty}");
    // What the draft has put there goes along.
    let coal = site.books.id("5010").await.0;
    let wanted = json!({ "stage": { "field": "caption", "value": from["id"] } });
    let body = json!({ "edits": [{ "account": coal, "wanted": wanted }] });
    let edits = format!("BOOKS/plans/{plan}/edits");
    assert_eq!(site.ask(&ann, Method::POST, &edits, body).await.0, 200);
    let (status, edited) = site.ask(&ann, Method::POST, &path, merges).await;
    assert_eq!((status, &edited["done"][0]["account"]), (200, &json!(coal)), "{edited}");
    assert_eq!(edited["done"][0]["after"]["value"], into["id"]);
    // A draft that puts accounts under a line keeps it from being retired.
    let (status, refused) = edit(retire(into)).await;
    assert_eq!(status, 409, "{refused}");
    assert!(refused["detail"].as_str().unwrap().contains("“Draft”"), "{refused}");

    let all = json!([
        { "do": "retire", "item": other["id"] },
        { "do": "add", "class": "expense", "name": "Boats", "before": from["id"] },
        { "do": "rename", "item": into["id"], "name": "Stores" },
    ]);
    assert_eq!(edit(all).await.0, 200);
    let after = shown(&site, &ann).await;
    let place = |name: &Value| after.iter().position(|line| line["name"] == *name).unwrap();
    assert_eq!(place(&json!("Boats")) + 1, place(&from["name"]));
    assert_eq!(named(&after, "Stores")["id"], into["id"]);
    assert_eq!(after[place(&other["name"])]["retired"], true);
    let trail = site.ask(&ann, Method::GET, "BOOKS/trail?page=0", Value::Null).await.1;
    assert_eq!(trail["rows"][0]["action"], "changed_lines");
}

#[tokio::test]
async fn a_list_comes_back_as_it_was_taken_away_and_says_what_it_asks_for() {
    let site = Site::open().await;
    let ann = site.ann().await;
    let path = site.at("BOOKS/exports/items.csv");
    let taken = ann.get(path).send().await.unwrap().text().await.unwrap();
    let (status, asked) = list(&site, &ann, taken.clone()).await;
    assert_eq!((status, &asked["edits"], &asked["merges"]), (200, &json!([]), &json!([])));

    let edited = taken.replace("Assets,investments,", "Assets,investments,Long-term assets");
    let edited = edited.replace("Assets,prepayments,", "Assets,prepayments,inventories");
    let (_, asked) = list(&site, &ann, format!("{edited}\nGoo,Slime,,\n")).await;
    assert_eq!(
        asked["summary"],
        json!(["renamed an item: investments (Assets) to Long-term assets"])
    );
    assert_eq!(asked["merges"].as_array().unwrap().len(), 1);
    assert_eq!(asked["refused"][0]["reason"], "“Goo” is no class");
    let body = json!({ "edits": asked["edits"] });
    assert_eq!(site.ask(&ann, Method::POST, "BOOKS/items", body).await.0, 200);
    named(&shown(&site, &ann).await, "Long-term assets");
    let (status, problem) = list(&site, &ann, "a,b\n1,2\n".to_owned()).await;
    assert_eq!((status, &problem["code"]), (422, &json!("not_laid_out")));
}
