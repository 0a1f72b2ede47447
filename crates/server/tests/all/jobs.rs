//! Long work behind an answer: how far it is can be asked, it can be stopped, and another server takes
//! up what one left.

use crate::site::Site;
use reqwest::{Client, Method, StatusCode};
use serde_json::{Value, json};
use std::time::Duration;
use zf_testing::hold;

const JOURNAL: &str =
    "Entry,Date,Code,Debit,Credit\nN1,2026-05-01,6010,12.00,\nN1,2026-05-01,1010,,12.00\n";

async fn waiting(site: &Site, ann: &Client) -> String {
    let (status, shown) = site.upload(ann, "journal", "may.csv", JOURNAL).await;
    assert_eq!((status, &shown["ready_rows"]), (200, &json!(2)), "{shown}");
    format!("BOOKS/imports/{}", shown["id"])
}

/// Agrees, with an answer that says that it is still underway.
async fn agree(site: &Site, ann: &Client, path: &str) -> Value {
    let answer = ann.post(site.at(path)).json(&json!({})).send().await.unwrap();
    assert_eq!(answer.status(), StatusCode::ACCEPTED);
    answer.json().await.unwrap()
}

#[tokio::test(flavor = "multi_thread")]
async fn what_is_being_stored_says_so_and_can_be_stopped() {
    let site = Site::open().await;
    let ann = site.ann().await;
    let path = waiting(&site, &ann).await;
    let held = hold(&site.books.store).await;
    let progress = agree(&site, &ann, &path).await;
    assert_eq!((&progress["storing"], &progress["state"]), (&json!(true), &json!("underway")));
    assert_eq!(progress["file_name"], "may.csv");
    let shown = ann.get(site.at(&path)).send().await.unwrap();
    assert_eq!(shown.status(), StatusCode::ACCEPTED, "a reload shows how far it is");
    let again = ann.post(site.at(&path)).json(&json!({})).send().await.unwrap();
    assert_eq!(again.status(), StatusCode::CONFLICT, "it is stored once");
    let stop = ann.delete(site.at(&format!("{path}/progress"))).send().await.unwrap();
    assert_eq!(stop.status(), StatusCode::NO_CONTENT);
    let (_, progress) = site.ask(&ann, Method::GET, &format!("{path}/progress"), Value::Null).await;
    assert_eq!((&progress["state"], &progress["stored"]), (&json!("cancelled"), &Value::Null));
    // Whoever is at it is told within the time of a beat.
    tokio::time::sleep(Duration::from_secs(1)).await;
    held.rollback().await.unwrap();

    let (status, shown) = site.ask(&ann, Method::GET, &path, Value::Null).await;
    assert_eq!((status, &shown["ready_rows"]), (200, &json!(2)), "the file waits on");
    assert_eq!(site.lines().await, 0, "nothing was stored");
    let stored = site.ask(&ann, Method::POST, &path, json!({})).await;
    assert_eq!(stored, (200, json!({ "rows": 2 })));
    assert_eq!(site.lines().await, 2);
    site.books.must_recount().await;
}

#[tokio::test(flavor = "multi_thread")]
async fn a_file_whose_job_was_given_up_says_so() {
    let site = Site::open().await;
    let ann = site.ann().await;
    let path = waiting(&site, &ann).await;
    // What is known of a job whose servers died of it.
    site.books.tamper("UPDATE job SET state = 'failed', shown = NULL, problem = NULL").await;
    let (status, answered) = site.ask(&ann, Method::GET, &path, Value::Null).await;
    assert_eq!((status, &answered["code"]), (500, &json!("given_up")), "{answered}");
    assert!(answered["detail"].as_str().unwrap().contains("stopped twice"), "{answered}");
    let (_, progress) = site.ask(&ann, Method::GET, &format!("{path}/progress"), Value::Null).await;
    assert!(progress["message"].as_str().unwrap().contains("stopped twice"), "{progress}");
}

#[tokio::test(flavor = "multi_thread")]
async fn a_file_of_which_nothing_can_be_shown_is_not_answered_as_if_it_were_empty() {
    let site = Site::open().await;
    let ann = site.ann().await;
    let path = waiting(&site, &ann).await;
    // It is looked at again, and whoever does it finds that somebody stored it meanwhile.
    let gone = "CREATE FUNCTION forget() RETURNS trigger LANGUAGE plpgsql AS $$
                BEGIN NEW.shown := NULL; RETURN NEW; END $$;
                CREATE TRIGGER forget BEFORE UPDATE ON job FOR EACH ROW EXECUTE FUNCTION forget()";
    site.books.tamper(gone).await;
    let (status, answered) = site.ask(&ann, Method::PUT, &path, json!({})).await;
    assert_eq!((status, &answered["code"]), (404, &json!("not_found")), "{answered}");
}

#[tokio::test(flavor = "multi_thread")]
async fn a_file_that_is_being_stored_can_be_dropped() {
    let site = Site::open().await;
    let ann = site.ann().await;
    let path = waiting(&site, &ann).await;
    let held = hold(&site.books.store).await;
    agree(&site, &ann, &path).await;
    let dropped = ann.delete(site.at(&path)).send().await.unwrap();
    assert_eq!(dropped.status(), StatusCode::NO_CONTENT);
    held.rollback().await.unwrap();
    assert_eq!(site.ask(&ann, Method::GET, &path, Value::Null).await.0, 404);
    // The next file goes through, and only its lines are there.
    let path = waiting(&site, &ann).await;
    assert_eq!(site.ask(&ann, Method::POST, &path, json!({})).await.0, 200);
    assert_eq!(site.lines().await, 2);
}

#[tokio::test(flavor = "multi_thread")]
async fn what_a_server_left_is_taken_up_by_another() {
    let site = Site::open().await;
    let ann = site.ann().await;
    let path = waiting(&site, &ann).await;
    // As a server leaves it that was killed a while ago.
    site.books
        .tamper(
            "UPDATE job SET task = 'store', state = 'running', tries = 1, shown = NULL,
                 agreed = '{\"again\": false, \"date\": null, \"take_gap\": false}',
                 beat = now() - interval '1 minute'",
        )
        .await;
    let progress = format!("{path}/progress");
    let stored = async {
        loop {
            let (_, progress) = site.ask(&ann, Method::GET, &progress, Value::Null).await;
            match progress["state"].as_str() {
                Some("underway") => tokio::time::sleep(Duration::from_millis(50)).await,
                _ => return progress,
            }
        }
    };
    let progress = tokio::time::timeout(Duration::from_secs(30), stored).await.unwrap();
    assert_eq!((&progress["state"], &progress["stored"]), (&json!("done"), &json!(2)));
    assert_eq!(site.lines().await, 2);
}

#[tokio::test(flavor = "multi_thread")]
async fn a_file_that_cannot_be_read_leaves_nothing() {
    let site = Site::open().await;
    let ann = site.ann().await;
    let (status, problem) = site.upload(&ann, "journal", "may.xlsx", JOURNAL).await;
    assert_eq!((status, &problem["code"]), (422, &json!("file_unreadable")));
    for table in ["import_piece", "job"] {
        assert_eq!(site.books.count(table).await, 0, "{table}");
    }
}

#[tokio::test(flavor = "multi_thread")]
async fn what_was_read_before_is_used_only_as_long_as_it_holds() {
    let site = Site::open().await;
    let ann = site.ann().await;
    // WaitingFile at with the first reading of its dates, and stored with the second.
    let journal = "Entry,Date,Code,Debit,Credit\nN1,03/05/2026,6010,12.00,\nN1,03/05/2026,1010,,12.00\n\
                   N2,04/05/2026,6010,5.00,\nN2,04/05/2026,1010,,5.00\n";
    let (_, shown) = site.upload(&ann, "journal", "may.csv", journal).await;
    assert_eq!(shown["questions"][0]["about"], "dates");
    let path = format!("BOOKS/imports/{}", shown["id"]);
    let mut first = "";
    for order in ["mdy", "dmy"] {
        let mut choices = shown["choices"].clone();
        choices["dates"] = json!(order);
        let (status, looked) = site.ask(&ann, Method::PUT, &path, choices).await;
        assert_eq!((status, &looked["ready_rows"]), (200, &json!(4)));
        first = if order == "mdy" { "2026-03-05" } else { "2026-05-03" };
        assert_eq!(looked["journal"]["first"], first);
    }
    assert_eq!(site.ask(&ann, Method::POST, &path, json!({})).await.0, 200);
    let stored = site.books.days().await;
    assert_eq!(stored.first().map(String::as_str), Some(first));

    // WaitingFile at, and then the books change: an entry of the same number comes in between.
    let (_, shown) =
        site.upload(&ann, "journal", "june.csv", journal.replace("05/2026", "06/2026")).await;
    assert_eq!(shown["rejected"][0]["reason"], "entry_changed");
    let overlap = &shown["journal"]["overlap"];
    assert_eq!(overlap["changed_entries"], 2);
    let sides = [&overlap["changed"][0]["journal"], &overlap["changed"][0]["file"]];
    assert_eq!(sides.map(|side| side["date"].as_str().unwrap()), ["2026-05-03", "2026-06-03"]);
    assert!(sides.iter().all(|side| side["lines"].as_array().unwrap().len() == 2));
    let other = journal.replace("N1", "M1").replace("N2", "M2").replace("05/2026", "07/2026");
    let choices = |shown: &Value| {
        let mut choices = shown["choices"].clone();
        choices["dates"] = json!("dmy");
        choices
    };
    let (_, second) = site.upload(&ann, "journal", "july.csv", other.clone()).await;
    let path = format!("BOOKS/imports/{}", second["id"]);
    site.ask(&ann, Method::PUT, &path, choices(&second)).await;
    let (_, third) = site.upload(&ann, "journal", "july again.csv", other).await;
    let third_path = format!("BOOKS/imports/{}", third["id"]);
    site.ask(&ann, Method::PUT, &third_path, choices(&third)).await;
    assert_eq!(site.ask(&ann, Method::POST, &path, json!({})).await.0, 200);
    let (status, problem) =
        site.ask(&ann, Method::POST, &third_path, json!({ "again": true })).await;
    assert_eq!((status, &problem["code"]), (422, &json!("nothing_ready")), "{problem}");
    site.books.must_recount().await;
}
