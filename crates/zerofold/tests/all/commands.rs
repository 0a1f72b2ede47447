//! The commands of the program, as a person runs them.

use std::io::Write;
use std::process::{Command, Output, Stdio};
use time::macros::date;
use zf_core::access::Capability;
use zf_testing::{Books, fresh_database};

pub(crate) fn zerofold(arguments: &[&str]) -> Output {
    Command::new(env!("CARGO_BIN_EXE_zerofold"))
        .args(arguments)
        .env_remove("DATABASE_URL")
        .output()
        .unwrap()
}

pub(crate) fn said(output: &Output) -> String {
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
fn what_is_said_can_be_read_over() {
    let output = zerofold(&["phrases"]);
    assert!(output.status.success());
    let said = String::from_utf8(output.stdout).unwrap();
    for part in [
        "code is taken (code_taken)",
        "Undo “Tidy up” first.",
        "lines on a heading",
        "Both are in use.",
    ] {
        assert!(said.contains(part), "{part} is not in {said}");
    }
}

#[test]
fn the_openapi_document_is_json() {
    let output = zerofold(&["openapi"]);
    let document: serde_json::Value = serde_json::from_slice(&output.stdout).unwrap();
    assert!(document["paths"]["/api/books/{books}/chart"].is_object());
}

/// Runs a command with a line on its standard input.
fn answered(arguments: &[&str], line: &str) -> Output {
    let mut command = Command::new(env!("CARGO_BIN_EXE_zerofold"))
        .args(arguments)
        .env_remove("DATABASE_URL")
        .stdin(Stdio::piped())
        .stdout(Stdio::piped())
        .stderr(Stdio::piped())
        .spawn()
        .unwrap();
    command.stdin.take().unwrap().write_all(line.as_bytes()).unwrap();
    command.wait_with_output().unwrap()
}

#[tokio::test(flavor = "multi_thread")]
async fn people_are_added_let_in_and_removed() {
    let books = Books::railway().await;
    let url = books.url.as_str();
    let person = |rest: &[&str], line: &str| {
        let output = answered(&[&["person", "--database", url], rest].concat(), line);
        (output.status.success(), said(&output))
    };
    let add = ["add", "Bea@books.example", "--name", "Bea Books"];
    let (done, why) = person(&add, "short\n");
    assert!(!done && why.contains("at least 12 characters"), "{why}");
    assert!(person(&add, "a long enough password\n").0);
    let (done, why) = person(&add, "a long enough password\n");
    assert!(!done && why.contains("is there already"), "{why}");
    let (done, why) = person(&["add", "bea", "--name", "Bea"], "a long enough password\n");
    assert!(!done && why.contains("no e-mail address"), "{why}");
    assert!(person(&["list"], "").1.contains("bea@books.example\tBea Books\tmember of 0"));
    let bea = books.store.person_by_email("bea@books.example").await.unwrap().unwrap();

    let number = books.member.books().to_string();
    let members = |rest: &[&str]| {
        let output = zerofold(&[&["books", "--database", url, "members"], rest].concat());
        (output.status.success(), said(&output))
    };
    let (done, listed) =
        members(&[&number, "--add", "bea@books.example", "--roles", "reviewer,reader"]);
    assert!(done && listed.contains("bea@books.example\tBea Books\treviewer, reader"), "{listed}");
    let member = books.store.member(bea.id, books.member.books()).await.unwrap();
    assert!(member.may(Capability::Override) && !member.may(Capability::Stage));
    let (done, why) = members(&["999"]);
    assert!(!done && why.contains("no books have the number 999"), "{why}");
    let listed = said(&zerofold(&["books", "--database", url, "list"]));
    assert!(listed.contains(&format!("{number}\tSmall books")), "{listed}");

    let before = bea.password_hash;
    assert!(person(&["password", "bea@books.example"], "another long password\n").0);
    let bea = books.store.person_by_email("bea@books.example").await.unwrap().unwrap();
    assert_ne!(bea.password_hash, before);
    assert!(person(&["remove", "bea@books.example"], "").0);
    assert!(books.store.person_by_email("bea@books.example").await.unwrap().is_none());
    assert!(books.store.member(bea.id, books.member.books()).await.is_err());
    let trail = books.done_last(5).await;
    assert_eq!((&*trail[0].by, &*trail[0].what), ("Bea Books", "let_in"));
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
async fn verify_goes_to_all_books_and_knows_which_there_must_be() {
    let books = Books::railway().await;
    let verify = || {
        let output = zerofold(&["verify", "--database", &books.url]);
        (output.status.success(), said(&output))
    };
    let untriggered = async |what: &str| {
        books.tamper(&format!("SET LOCAL session_replication_role = replica; {what}")).await;
    };
    assert!(verify().0, "{}", verify().1);
    // Nobody is a member any more: the books are looked at all the same.
    books.tamper("DELETE FROM membership").await;
    let (sound, answered) = verify();
    assert!(sound && answered.contains("its trail: 2 rows"), "{answered}");
    untriggered("UPDATE trail SET facts = '{}'").await;
    let (sound, answered) = verify();
    assert!(!sound && answered.contains("was changed since it was sealed"), "{answered}");
    // A trail that was emptied together with its head.
    untriggered(
        "DELETE FROM trail; UPDATE trail_head SET rows = 0, seal = decode(repeat('00', 32), 'hex')",
    )
    .await;
    let (sound, answered) = verify();
    assert!(!sound && answered.contains("it has no row, though something was done"), "{answered}");
    // Whole books that were deleted behind the program's back.
    untriggered("DELETE FROM trail_head; DELETE FROM books").await;
    let (sound, answered) = verify();
    assert!(!sound && answered.contains("has no row that deletes them"), "{answered}");
    untriggered(
        "DELETE FROM server_trail; UPDATE server_trail_head SET rows = 0, seal = decode(repeat('00', 32), 'hex')",
    )
    .await;
    let (sound, answered) = verify();
    assert!(!sound && answered.contains("The trail of the server: it has no row"), "{answered}");
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
