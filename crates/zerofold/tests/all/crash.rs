//! The real server, killed at every boundary between two statements of apply, undo and import: the
//! books are as before or as after, never between, and the work can go on.

use reqwest::StatusCode;
use reqwest::multipart::{Form, Part};
use serde_json::{Value, json};
use std::collections::BTreeMap;
use std::io::{BufRead, BufReader};
use std::process::{Child, Command, Stdio};
use std::sync::mpsc::{Receiver, channel};
use std::time::Duration;
use zf_core::chart::Account;
use zf_core::code::Interval;
use zf_core::ids::AccountId;
use zf_core::usage::{Named, ReportLine, Use};
use zf_testing::{Books, agreement};

const PASSWORD: &str = "not a secret";

/// A server in a process of its own, and a client that is signed in to it.
struct Server {
    process: Child,
    paused: Receiver<()>,
    address: String,
    client: reqwest::Client,
}

impl Server {
    async fn start(books: &Books, pause_at: usize) -> Self {
        let mut process = Command::new(env!("CARGO_BIN_EXE_zerofold"))
            .args(["serve", "--bind", "127.0.0.1:0", "--database", &books.url, "--outbox"])
            .arg(std::env::temp_dir().join("zerofold-crash-outbox"))
            .env("ZEROFOLD_PAUSE_AT", pause_at.to_string())
            .stdout(Stdio::piped())
            .stderr(Stdio::piped())
            .spawn()
            .unwrap();
        let (send, paused) = channel();
        let errors = BufReader::new(process.stderr.take().unwrap());
        std::thread::spawn(move || {
            for line in errors.lines().map_while(Result::ok) {
                if line.starts_with("paused at statement boundary") {
                    let _ = send.send(());
                }
            }
        });
        let mut output = BufReader::new(process.stdout.take().unwrap());
        let mut line = String::new();
        output.read_line(&mut line).unwrap();
        let address = line.trim().rsplit(' ').next().unwrap().to_owned();
        let client = reqwest::Client::builder().cookie_store(true).build().unwrap();
        let server = Self { process, paused, address, client };
        let sign_in = json!({ "email": "ann@books.example", "password": PASSWORD });
        let answer =
            server.client.post(server.at("/api/session")).json(&sign_in).send().await.unwrap();
        assert!(answer.status().is_success());
        server
    }

    fn at(&self, path: &str) -> String {
        format!("{}{path}", self.address)
    }

    /// Waits until what is done with a file is done; false when the server pauses before.
    async fn is_done(&self, import: &str) -> bool {
        loop {
            if self.paused.try_recv().is_ok() {
                return false;
            }
            let progress = self.client.get(self.at(&format!("{import}/progress"))).send().await;
            let progress: Value = progress.unwrap().json().await.unwrap();
            if progress["state"] != "underway" {
                assert_eq!(progress["state"], "done", "{progress}");
                return true;
            }
            tokio::time::sleep(Duration::from_millis(20)).await;
        }
    }

    /// Sends a request and waits until it is answered, or until the server pauses.
    async fn pauses(&self, request: reqwest::RequestBuilder) -> bool {
        let mut answer = tokio::spawn(request.send());
        loop {
            tokio::select! {
                answer = &mut answer => {
                    let answer = answer.unwrap().unwrap();
                    let status = answer.status();
                    let path = answer.url().path().to_owned();
                    let said = answer.text().await.unwrap();
                    assert!(status.is_success(), "{status} {said}");
                    // A slow machine says how far it is before it is done.
                    return status == StatusCode::ACCEPTED && !self.is_done(&path).await;
                }
                () = tokio::time::sleep(Duration::from_millis(5)) => {
                    if self.paused.try_recv().is_ok() {
                        return true;
                    }
                }
            }
        }
    }
}

impl Drop for Server {
    fn drop(&mut self) {
        // SIGKILL: nothing is tidied up.
        self.process.kill().unwrap();
        self.process.wait().unwrap();
    }
}

type State = (BTreeMap<AccountId, Account>, u64, String, Vec<ReportLine>);

async fn state(books: &Books) -> State {
    books.must_recount().await;
    let today = books.store.snapshot(books.member).await.unwrap().today;
    let chart = today.chart.iter().map(|a| (a.id, a.clone())).collect();
    let lines = today.figures().values().map(|f| f.all.lines).sum();
    let strands = today.activity.strands().map(|s| format!("{:?} {}", s.0.id, s.0.account));
    (chart, lines, strands.collect::<Vec<_>>().join(","), today.usage.report_lines)
}

async fn posted() -> Books {
    let books = Books::railway().await;
    // The hash is made as slowly as for a person, once.
    let hash = password_auth::generate_hash(PASSWORD);
    books.store.add_person("ann@books.example", "Ann Tester", &hash).await.unwrap();
    books.post_coal_and_wood().await;
    // A line of a report that follows 5030.
    let names = Named::Stretches(Interval::parse_list("5030 to 5035").unwrap());
    let (used_by, label) = ("report layout".to_owned(), "Diesel".to_owned());
    books.use_list(&[Use { names, used_by, label, budget: None }]).await;
    books
}

/// Kills the server at the first boundary of a request, then at the second, and so on until the
/// request is answered. Returns how many boundaries there were.
async fn kill_everywhere(
    books: &Books,
    request: impl AsyncFn(&Server) -> reqwest::RequestBuilder,
) -> usize {
    let before = state(books).await;
    for boundary in 1.. {
        let server = Server::start(books, boundary).await;
        let request = request(&server).await;
        let paused = server.pauses(request).await;
        drop(server);
        if !paused {
            assert_ne!(state(books).await, before, "the work was done in the end");
            return boundary - 1;
        }
        assert_eq!(state(books).await, before, "killed at boundary {boundary}");
        // Or the next server would take up what this one left.
        books.tamper("DELETE FROM import WHERE stored_at IS NULL").await;
    }
    unreachable!("there are only so many statements")
}

#[tokio::test(flavor = "multi_thread")]
async fn a_kill_during_apply_or_undo_leaves_before_or_after() {
    let books = posted().await;
    let id = books.member.books();
    let words = "5020 fate merge 5010; 5030 code 5020; 5040 fate delete; 1010 history to 1020, until 2026-03-31";
    let plan = books.stage(words).await;
    let agreed = agreement(&books.rehearse(plan).await);
    let body = json!({
        "fingerprint": agreed.fingerprint,
        "acknowledged": agreed.acknowledged,
    });
    let boundaries = kill_everywhere(&books, async |server| {
        server.client.post(server.at(&format!("/api/books/{id}/plans/{plan}/apply"))).json(&body)
    })
    .await;
    assert!(boundaries >= 16, "apply has many statements, {boundaries} were passed");

    let followed = state(&books).await.3.remove(0).intervals;
    assert_eq!(Interval::format_list(&followed), "5020");

    let application = books.done_last(1).await[0].application.unwrap();
    let (_, rehearsal) = books.store.rehearse_undo(books.member, application).await.unwrap();
    let agreed = agreement(&rehearsal);
    let body = json!({ "fingerprint": agreed.fingerprint, "acknowledged": agreed.acknowledged });
    let path = format!("/api/books/{id}/applications/{application}/undo");
    let boundaries =
        kill_everywhere(&books, async |server| server.client.post(server.at(&path)).json(&body))
            .await;
    assert!(boundaries >= 10, "undo has many statements, {boundaries} were passed");
}

#[tokio::test(flavor = "multi_thread")]
async fn a_kill_during_an_import_or_taking_it_back_leaves_before_or_after() {
    let books = posted().await;
    let id = books.member.books();
    let journal =
        "Entry,Date,Code,Debit,Credit\nN1,2026-05-01,6010,12.00,\nN1,2026-05-01,1010,,12.00\n";
    let boundaries = kill_everywhere(&books, async |server| {
        let file = Part::bytes(journal.as_bytes()).file_name("journal.csv");
        let form = Form::new().text("kind", "journal").part("file", file);
        let upload =
            server.client.post(server.at(&format!("/api/books/{id}/imports"))).multipart(form);
        let shown: Value = upload.send().await.unwrap().json().await.unwrap();
        let import = format!("/api/books/{id}/imports/{}", shown["id"]);
        assert!(server.is_done(&import).await, "it pauses where it stores");
        server.client.post(server.at(&import)).json(&json!({}))
    })
    .await;
    assert!(boundaries >= 6, "an import has many statements, {boundaries} were passed");

    let stored = books.store.stored_files(books.member).await.unwrap()[0].id;
    let path = format!("/api/books/{id}/imports/{stored}/rollback");
    let boundaries =
        kill_everywhere(&books, async |server| server.client.delete(server.at(&path))).await;
    assert!(boundaries >= 8, "taking back has many statements, {boundaries} were passed");
}
