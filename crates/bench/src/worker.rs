//! A server's worker in a process of its own, which can be watched and killed.

use crate::large;
use crate::memory;
use anyhow::{Context, ensure};
use std::io::{BufRead, BufReader};
use std::process::{Child, Command, Stdio};
use std::time::Duration;
use zf_core::ids::ImportId;
use zf_server::App;
use zf_server::jobs;
use zf_store::Store;
use zf_store::jobs::{JobState, State, Step};
use zf_testing::Books;

/// The argument that makes a process a worker.
pub(crate) const WORK: &str = "work";

/// The argument that makes a process a server.
pub(crate) const SERVE: &str = "serve";

/// How often a worker looks for a job, and is looked at.
const POLL: Duration = Duration::from_millis(20);

/// Does jobs until the process is killed.
pub(crate) async fn work(url: &str) -> anyhow::Result<()> {
    let app = App::new(Store::connect(url).await?, large::running()?);
    loop {
        if !jobs::run_next(&app).await? {
            tokio::time::sleep(POLL).await;
        }
    }
}

/// The process.
pub(crate) struct Worker(Child);

impl Worker {
    pub(crate) fn start(books: &Books) -> anyhow::Result<Self> {
        let own = std::env::current_exe()?;
        Ok(Self(Command::new(own).args([WORK, &books.url]).spawn()?))
    }

    /// The most memory that it took, in megabytes.
    pub(crate) fn peak(&self) -> anyhow::Result<u64> {
        memory::of(self.0.id(), "VmHWM")
    }
}

impl Drop for Worker {
    fn drop(&mut self) {
        // SIGKILL: nothing is tidied up.
        let _ = self.0.kill();
        let _ = self.0.wait();
    }
}

/// Serves until the process is killed; where, is printed.
pub(crate) async fn serve(url: &str) -> anyhow::Result<()> {
    let app = App::new(Store::connect(url).await?, large::running()?);
    let listener = tokio::net::TcpListener::bind("127.0.0.1:0").await?;
    println!("http://{}", listener.local_addr()?);
    Ok(zf_server::serve(app, listener, Box::pin(std::future::pending())).await?)
}

/// A server in a process of its own.
pub(crate) struct Serving {
    process: Worker,
    pub(crate) address: String,
}

impl Serving {
    pub(crate) fn start(books: &Books) -> anyhow::Result<Self> {
        let own = std::env::current_exe()?;
        let mut child =
            Command::new(own).args([SERVE, &books.url]).stdout(Stdio::piped()).spawn()?;
        let said = child.stdout.take().context("it can be read what the server prints")?;
        let process = Worker(child);
        let mut address = String::new();
        BufReader::new(said).read_line(&mut address)?;
        Ok(Self { process, address: address.trim().to_owned() })
    }

    /// The most memory that it took, in megabytes.
    pub(crate) fn peak(&self) -> anyhow::Result<u64> {
        self.process.peak()
    }
}

/// Queues a step and waits until a job is as one wants it, or at its end.
pub(crate) async fn until(
    books: &Books,
    import: i64,
    step: Step,
    wanted: impl Fn(&JobState<serde_json::Value>) -> bool,
) -> anyhow::Result<JobState<serde_json::Value>> {
    let (store, member) = (&books.store, books.member);
    store.queue_job(member, ImportId(import), step, &zf_wire::imports::Agreed::default()).await?;
    loop {
        let job = store.job(member, ImportId(import)).await?;
        ensure!(job.state != State::Failed, "it failed: {:?}", job.failure);
        if wanted(&job) || job.state != State::Underway {
            return Ok(job);
        }
        tokio::time::sleep(POLL).await;
    }
}

/// Queues a step and waits until it is done; returns how many rows are stored then.
pub(crate) async fn done(books: &Books, import: i64, step: Step) -> anyhow::Result<i64> {
    let job = until(books, import, step, |_| false).await?;
    ensure!(job.state == State::Done, "it was stopped");
    Ok(job.stored.unwrap_or_default())
}
