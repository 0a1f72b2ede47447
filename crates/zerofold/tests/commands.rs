//! The commands of the program, as a person runs them.

#![allow(clippy::unwrap_used, reason = "what cannot be built fails the test")]

use std::process::{Command, Output};
use time::macros::date;
use zf_testing::{Books, fresh_database};

fn zerofold(arguments: &[&str]) -> Output {
    Command::new(env!("CARGO_BIN_EXE_zerofold"))
        .args(arguments)
        .env_remove("DATABASE_URL")
        .output()
        .unwrap()
}

fn said(output: &Output) -> String {
    String::from_utf8_lossy(&[&output.stdout[..], &output.stderr[..]].concat()).into_owned()
}

#[test]
fn the_scenario_is_written_as_files_a_person_could_have() {
    let folder = std::env::temp_dir().join(format!("zerofold-scenario-{}", std::process::id()));
    let output = zerofold(&["scenario", "--out", folder.to_str().unwrap()]);
    assert!(output.status.success(), "{}", said(&output));
    for name in ["chart", "journal", "where-used"] {
        let csv = std::fs::read(folder.join(format!("{name}.csv"))).unwrap();
        let xlsx = std::fs::read(folder.join(format!("{name}.xlsx"))).unwrap();
        let rows = |name: &str, content: &[u8]| {
            let opened = zf_sheets::read(name, content, &zf_sheets::How::default()).unwrap();
            opened.sheets[0].rows.all()
        };
        let (a, b) = (rows("a.csv", &csv), rows("a.xlsx", &xlsx));
        assert_eq!(a.len(), b.len(), "{name} has the same rows in both forms");
        assert_eq!(a[0].cells, b[0].cells);
    }
    std::fs::remove_dir_all(folder).unwrap();
}

#[test]
fn a_folder_that_cannot_be_made_is_named() {
    let output = zerofold(&["scenario", "--out", "/dev/null/files"]);
    assert!(!output.status.success());
    assert!(said(&output).contains("/dev/null/files cannot be made"), "{}", said(&output));
}

#[test]
fn the_openapi_document_is_json() {
    let output = zerofold(&["openapi"]);
    let document: serde_json::Value = serde_json::from_slice(&output.stdout).unwrap();
    assert!(document["paths"]["/api/books/{books}/chart"].is_object());
}

#[tokio::test(flavor = "multi_thread")]
async fn verify_recounts_and_fails_when_something_was_touched() {
    let books = Books::railway().await;
    let (bank, coal) = (books.id("1010").await, books.id("5010").await);
    books.post(&[books.entry(date!(2026 - 05 - 01), coal, bank, 12_300)]).await;
    let verify =
        || zerofold(&["verify", "--database", &books.url, "--member", "ann@books.example"]);
    let output = verify();
    assert!(output.status.success(), "{}", said(&output));
    assert!(
        said(&output).contains("2 lines, 0 misses; the trial balance comes to 0.00"),
        "{}",
        said(&output)
    );
    books.tamper("UPDATE line SET amount = amount + 1 WHERE amount > 0").await;
    let output = verify();
    assert!(!output.status.success(), "{}", said(&output));
    assert!(said(&output).contains("do not balance"), "{}", said(&output));
}

#[tokio::test(flavor = "multi_thread")]
async fn whom_nobody_knows_is_said() {
    let url = fresh_database().await;
    let output = zerofold(&["verify", "--database", &url, "--member", "nobody@books.example"]);
    assert!(!output.status.success());
    assert!(said(&output).contains("nobody has this e-mail address"), "{}", said(&output));
    let output = zerofold(&["verify", "--database", "postgres://127.0.0.1:1/x", "--member", "x"]);
    assert!(said(&output).contains("the database cannot be used"), "{}", said(&output));
}
