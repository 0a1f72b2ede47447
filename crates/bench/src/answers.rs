//! What the server answers on books of 10,000 accounts and a million lines with 5,000 targets staged: how
//! large each answer is, and how long one waits for it.

use crate::{Measured, Peak, RUNS, Size, browser, large, median, memory, timed};
use anyhow::ensure;
use reqwest::{Client, Response};
use serde_json::{Value, json};
use std::time::Duration;
use zf_browser_tests::{PASSWORD, Site};
use zf_core::code::Code;
use zf_core::ids::{AccountId, PlanId};
use zf_core::plan::Change;
use zf_core::rehearsal::rehearse;
use zf_server::App;
use zf_testing::Books;

const ACCOUNTS: usize = 10_000;
const LINES: usize = 1_000_000;
const TARGETS: usize = 5_000;
const EMAIL: &str = "ann@books.example";

/// How many sets of books are open at once when memory is measured.
const OPEN: u64 = 10;

/// A server over books, and somebody who is signed in.
struct Desk {
    books: Books,
    client: Client,
    address: String,
    plan: i64,
    ids: Vec<AccountId>,
}

pub(crate) async fn measure() -> anyhow::Result<(Vec<Measured>, Vec<Size>, Peak)> {
    let desk = Desk::open().await?;
    let mut sizes = Vec::new();
    let chart = desk.get("chart").header("accept-encoding", "gzip").send().await?;
    sizes.push(Size::new("chart_bytes: opening the chart, compressed", bytes(chart).await?, 400));
    let (edited, size) = desk.edits().await?;
    sizes.push(size);
    let mut times = vec![edited];
    let (reviewed, size) = desk.reviews().await?;
    times.extend(reviewed);
    sizes.push(size);
    let store = desk.books.store.clone();
    let app = App::new(store.clone(), large::running()?);
    let site = Site { address: desk.address.clone(), store, app };
    times.extend(browser::measure(&site, EMAIL, desk.books.member.books().0).await?);
    let peak = desk.snapshots().await?;
    times.push(desk.apply().await?);
    Ok((times, sizes, peak))
}

async fn bytes(answer: Response) -> anyhow::Result<usize> {
    ensure!(answer.status().is_success(), "{}", answer.status());
    Ok(answer.bytes().await?.len())
}

impl Desk {
    async fn open() -> anyhow::Result<Self> {
        let books = large::books(ACCOUNTS, ACCOUNTS, LINES).await?;
        let hash = password_auth::generate_hash(PASSWORD);
        books.tamper(&format!("UPDATE person SET password_hash = '{hash}'")).await;
        let listener = tokio::net::TcpListener::bind("127.0.0.1:0").await?;
        let address = format!("http://{}", listener.local_addr()?);
        let app = App::new(books.store.clone(), large::running()?);
        tokio::spawn(zf_server::serve(app, listener, Box::pin(std::future::pending())));
        let client = Client::builder().cookie_store(true).build()?;
        let known = json!({ "email": EMAIL, "password": PASSWORD });
        let session = client.post(format!("{address}/api/session")).json(&known).send().await?;
        ensure!(session.status().is_success(), "{}", session.status());
        let ids = large::ids(&books).await?;
        let plan = books.store.create_plan(books.member, "Renumbering").await?;
        let staged = ids
            .iter()
            .take(TARGETS)
            .enumerate()
            .map(|(n, id)| Ok((*id, Change::Code(Code::parse(&format!("{}", 200_000 + n))?))));
        books.stage_changes(plan, staged.collect::<anyhow::Result<_>>()?).await;
        Ok(Self { books, client, address, plan: plan.0, ids })
    }

    fn at(&self, path: &str) -> String {
        format!("{}/api/books/{}/{path}", self.address, self.books.member.books())
    }

    fn get(&self, path: &str) -> reqwest::RequestBuilder {
        self.client.get(self.at(path))
    }

    /// Names one account after the other, each time as the page does it: on the revision it shows.
    async fn edits(&self) -> anyhow::Result<(Measured, Size)> {
        let plan: Value = self.get(&format!("plans/{}", self.plan)).send().await?.json().await?;
        let mut revision = plan["revision"].as_i64();
        let (mut times, mut largest) = (Vec::new(), 0);
        for n in 0..RUNS {
            let change = json!({ "field": "name", "value": format!("Named {n}") });
            let account = self.ids[TARGETS + n].0;
            let edit = json!({ "account": account, "seen": null, "wanted": { "stage": change } });
            let body = json!({ "edits": [edit], "revision": revision });
            let path = self.at(&format!("plans/{}/edits", self.plan));
            let (time, answer) = timed(async {
                let answer = self.client.post(path).json(&body).send().await?;
                ensure!(answer.status().is_success(), "{}", answer.status());
                Ok(answer.bytes().await?)
            })
            .await;
            let answer = answer?;
            times.push(time);
            largest = largest.max(answer.len());
            let answer: Value = serde_json::from_slice(&answer)?;
            ensure!(answer["plan"]["whole"].is_null(), "all of the plan was answered");
            revision = answer["plan"]["changed"]["revision"].as_i64();
        }
        let (_, staged) = self.books.store.plan(self.books.member, PlanId(self.plan)).await?;
        let today = self.books.store.snapshot(self.books.member).await?.today;
        let rehearsals = (0..RUNS).map(|_| {
            let began = std::time::Instant::now();
            let rehearsal = rehearse(&today, &staged);
            (began.elapsed(), rehearsal.effects.rows.len()).0
        });
        let limit = median(rehearsals.collect()) * 3;
        let name = "edit_time: one cell, 5,000 targets staged";
        let time = Measured::new(name, median(times), "three rehearsals", limit, 1.0);
        Ok((time, Size::new("edit_bytes: one cell, 5,000 targets staged", largest, 20)))
    }

    async fn reviews(&self) -> anyhow::Result<([Measured; 2], Size)> {
        let (first, answer) = timed(async { bytes(self.get("review").send().await?).await }).await;
        let size = answer?;
        let mut again = Vec::new();
        for _ in 0..RUNS {
            let (time, answer) =
                timed(async { bytes(self.get("review").send().await?).await }).await;
            ensure!(answer? == size, "the same was found");
            again.push(time);
        }
        let limit =
            |name, ours, seconds| Measured::within(name, ours, Duration::from_secs_f64(seconds));
        let first = limit("review_first", first, 2.0);
        let again = limit("review_again: the books unchanged", median(again), 0.1);
        Ok(([first, again], Size::new("review_bytes: a page of findings", size, 100)))
    }

    /// How much more memory is held for each of ten open sets of books.
    async fn snapshots(&self) -> anyhow::Result<Peak> {
        let held = || memory::of(std::process::id(), "VmRSS");
        let before = held()?;
        let mut open = Vec::new();
        for _ in 0..OPEN {
            open.push(self.books.store.snapshot(self.books.member).await?);
        }
        let each = held()?.saturating_sub(before) / OPEN;
        Ok(Peak::new("snapshot_memory: each of ten open sets of books", each, 100))
    }

    async fn apply(&self) -> anyhow::Result<Measured> {
        let agreed = zf_testing::agreement(&self.books.rehearse(PlanId(self.plan)).await);
        let agreed =
            json!({ "fingerprint": agreed.fingerprint, "acknowledged": agreed.acknowledged });
        let path = self.at(&format!("plans/{}/apply", self.plan));
        let (time, applied) = timed(self.client.post(path).json(&agreed).send()).await;
        bytes(applied?).await?;
        let name = "apply_5000: 5,000 renumberings with all checks";
        Ok(Measured::within(name, time, Duration::from_millis(1_500)))
    }
}
