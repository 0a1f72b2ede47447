//! What others notice while the costliest requests of a reader run: a sign-in and an edit, beside sixteen of
//! each kind at once, and the most memory that the server takes. It runs in a process of its own.

use crate::worker::Serving;
use crate::{Measured, Peak, large, median};
use anyhow::{Context, ensure};
use futures_util::future::join_all;
use reqwest::{Client, Response};
use serde_json::{Value, json};
use std::time::{Duration, Instant};
use zf_core::history::MOST_PARTS;
use zf_testing::Books;

const ACCOUNTS: usize = 2_000;
/// Few accounts hold all lines, so that a history is long.
const USED: usize = 10;
const LINES: usize = 200_000;

/// How many of a kind are asked for at once.
const AT_ONCE: usize = 16;

/// A file whose second row leaves a quotation mark open, in bytes.
const LEFT_OPEN: usize = 60 << 20;

const EMAIL: &str = "ann@books.example";
const PASSWORD: &str = "not a secret";

/// What is asked for sixteen times at once.
#[derive(Clone, Copy)]
enum Costly {
    Journal,
    AuditFile,
    Parts,
    OpenQuote,
}

struct Desk {
    books: Books,
    address: String,
    client: Client,
    plan: i64,
    account: i64,
}

pub(crate) async fn measure() -> anyhow::Result<(Vec<Measured>, Peak)> {
    let books = large::books(ACCOUNTS, USED, LINES).await?;
    let hash = password_auth::generate_hash(PASSWORD);
    books.tamper(&format!("UPDATE person SET password_hash = '{hash}'")).await;
    let serving = Serving::start(&books)?;
    let account = large::ids(&books).await?[0].0;
    let plan = books.store.create_plan(books.member, "Beside heavy work").await?;
    let client = Client::builder().cookie_store(true).build()?;
    let desk = Desk { address: serving.address.clone(), books, client, plan: plan.0, account };
    desk.sign_in().await?;
    desk.edit(0).await?;
    let mut lines = Vec::new();
    for (costly, sign_in, edit) in [
        (Costly::Journal, "sign_in beside 16 journals", "edit beside 16 journals"),
        (Costly::AuditFile, "sign_in beside 16 audit files", "edit beside 16 audit files"),
        (
            Costly::Parts,
            "sign_in beside 16 histories in 200 parts",
            "edit beside 16 histories in 200 parts",
        ),
        (Costly::OpenQuote, "sign_in beside 16 files of 60 MB", "edit beside 16 files of 60 MB"),
    ] {
        let (signed_in, edited) = desk.beside(costly).await?;
        lines.push(Measured::within(sign_in, signed_in, Duration::from_secs(1)));
        lines.push(Measured::within(edit, edited, Duration::from_secs(1)));
    }
    Ok((lines, Peak::new("heavy: the server's memory", serving.peak()?, 1_000)))
}

impl Desk {
    fn at(&self, path: &str) -> String {
        format!("{}/api/books/{}/{path}", self.address, self.books.member.books())
    }

    async fn sign_in(&self) -> anyhow::Result<()> {
        let known = json!({ "email": EMAIL, "password": PASSWORD });
        let sign_in = self.client.post(format!("{}/api/session", self.address)).json(&known);
        sound(sign_in.send().await?).await.map(drop)
    }

    async fn edit(&self, n: usize) -> anyhow::Result<()> {
        let change = json!({ "field": "name", "value": format!("Named {n}") });
        let edit =
            json!({ "account": self.account, "seen": Value::Null, "wanted": { "stage": change } });
        let path = self.at(&format!("plans/{}/edits", self.plan));
        let answer = self.client.post(path).json(&json!({ "edits": [edit] })).send().await?;
        // From the second on somebody was first in the field, which is as much work.
        ensure!(answer.status().as_u16() < 500, "{}", answer.text().await?);
        Ok(())
    }

    /// How long a sign-in and an edit take while sixteen of a kind are underway: the median of all.
    async fn beside(&self, costly: Costly) -> anyhow::Result<(Duration, Duration)> {
        let heavy = async { join_all((0..AT_ONCE).map(|_| self.ask(costly))).await };
        let light = async {
            let (mut signed_in, mut edited) = (Vec::new(), Vec::new());
            // The sixteen have begun by then.
            tokio::time::sleep(Duration::from_millis(200)).await;
            for n in 0..8 {
                let began = Instant::now();
                self.sign_in().await?;
                signed_in.push(began.elapsed());
                let began = Instant::now();
                self.edit(n).await?;
                edited.push(began.elapsed());
            }
            anyhow::Ok((median(signed_in), median(edited)))
        };
        let (asked, light) = tokio::join!(heavy, light);
        asked.into_iter().collect::<anyhow::Result<Vec<()>>>()?;
        light
    }

    async fn ask(&self, costly: Costly) -> anyhow::Result<()> {
        let request = match costly {
            Costly::Journal => self.client.get(self.at("exports/journal.csv")),
            Costly::AuditFile => self.client.get(self.at("exports/books.xml")),
            Costly::Parts => {
                let part = |n: usize| {
                    let which =
                        json!({ "payee": format!("nobody {n}"), "memo": "", "entries": [] });
                    json!({ "to": 0, "which": which })
                };
                let parts: Vec<_> = (0..MOST_PARTS).map(part).collect();
                let path = self.at(&format!("accounts/{}/history", self.account));
                self.client.post(path).json(&json!({ "ranked": true, "parts": parts }))
            }
            Costly::OpenQuote => {
                let kind = "multipart/form-data; boundary=x";
                self.client.post(self.at("imports")).header("content-type", kind).body(left_open())
            }
        };
        let answer = request.send().await?;
        let status = answer.status().as_u16();
        let size = answer.bytes().await?.len();
        // A journal that is refused, or that waits too long in line, is no work.
        ensure!(status < 300 || status == 422, "{status} with {size} bytes");
        Ok(())
    }
}

fn left_open() -> String {
    let field = |name: &str| format!("--x\r\nContent-Disposition: form-data; name=\"{name}\"");
    let rows = "1010,Bank,Asset\n".repeat(LEFT_OPEN / 16);
    format!(
        "{}\r\n\r\nchart\r\n{}; filename=\"a.csv\"\r\n\r\nCode,Name,Class\n1,\"Coal,Expense\n{rows}\r\n--x--\r\n",
        field("kind"),
        field("file")
    )
}

async fn sound(answer: Response) -> anyhow::Result<Response> {
    let status = answer.status();
    ensure!(status.is_success(), "{status}: {}", answer.text().await.context("no words")?);
    Ok(answer)
}
