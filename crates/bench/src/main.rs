//! Measures what the design promises, each against its own baseline in the same run. These are not
//! timed tests: the machine is noisy, and only ratios are worth keeping. Without names all are measured.

mod answers;
mod history;
mod import;
mod large;
mod look_alikes;
mod merge;
mod rehearsal;
mod trial;
mod worker;

use serde::Serialize;
use std::time::{Duration, Instant};
use zf_testing::races::{Beside, Tally, apply_beside};

/// How often each thing is measured; the median counts.
const RUNS: usize = 5;

/// One line of the result.
#[derive(Serialize)]
struct Measured {
    name: &'static str,
    ours_ms: f64,
    baseline: &'static str,
    baseline_ms: f64,
    /// Baseline over ours: how many times faster we are.
    ratio: f64,
    target: f64,
    met: bool,
}

impl Measured {
    /// At least `target` times faster than the baseline.
    fn new(
        name: &'static str,
        ours: Duration,
        baseline: &'static str,
        against: Duration,
        target: f64,
    ) -> Self {
        let ms = |d: Duration| d.as_secs_f64() * 1000.0;
        let ratio = ms(against) / ms(ours).max(0.001);
        Self {
            name,
            ours_ms: ms(ours),
            baseline,
            baseline_ms: ms(against),
            ratio,
            target,
            met: ratio >= target,
        }
    }

    fn print(&self, json: bool) -> anyhow::Result<()> {
        if json {
            println!("{}", serde_json::to_string(self)?);
        } else {
            let verdict = if self.met { "met" } else { "short" };
            println!(
                "{}: ours {:.1} ms, {} {:.1} ms, ratio {:.2}, target {:.2}, {verdict}",
                self.name, self.ours_ms, self.baseline, self.baseline_ms, self.ratio, self.target
            );
        }
        Ok(())
    }
}

/// The most memory that something took.
#[derive(Serialize)]
struct Peak {
    name: &'static str,
    ours_mb: u64,
    target_mb: u64,
    met: bool,
}

impl Peak {
    fn new(name: &'static str, ours_mb: u64, target_mb: u64) -> Self {
        Self { name, ours_mb, target_mb, met: ours_mb <= target_mb }
    }

    fn print(&self, json: bool) -> anyhow::Result<()> {
        if json {
            println!("{}", serde_json::to_string(self)?);
        } else {
            let verdict = if self.met { "met" } else { "short" };
            println!("{}: {} MB, target {} MB, {verdict}", self.name, self.ours_mb, self.target_mb);
        }
        Ok(())
    }
}

/// How large an answer is.
#[derive(Serialize)]
struct Size {
    name: &'static str,
    ours_kb: f64,
    target_kb: u32,
    met: bool,
}

impl Size {
    fn new(name: &'static str, bytes: usize, target_kb: u32) -> Self {
        let ours_kb = bytes as f64 / 1000.0;
        Self { name, ours_kb, target_kb, met: ours_kb <= f64::from(target_kb) }
    }

    fn print(&self, json: bool) -> anyhow::Result<()> {
        if json {
            println!("{}", serde_json::to_string(self)?);
        } else {
            let verdict = if self.met { "met" } else { "short" };
            println!(
                "{}: {:.1} KB, target {} KB, {verdict}",
                self.name, self.ours_kb, self.target_kb
            );
        }
        Ok(())
    }
}

fn median(mut times: Vec<Duration>) -> Duration {
    times.sort();
    times[times.len() / 2]
}

/// Times a future.
async fn timed<T>(work: impl Future<Output = T>) -> (Duration, T) {
    let began = Instant::now();
    let done = work.await;
    (began.elapsed(), done)
}

/// How often each race is run; the tests run ten.
const RACES: usize = 80;

/// Runs the races of two people over one plan, and says who came first.
async fn race() {
    for beside in [Beside::Edit, Beside::Discard, Beside::Apply] {
        let Tally { first, told } = apply_beside(beside, RACES).await;
        eprintln!(
            "{RACES} races of an apply and somebody beside it ({beside:?}): {first} times done first, {told} \
             times told that it came too late, never answered otherwise than it was"
        );
    }
}

#[tokio::main]
async fn main() -> anyhow::Result<()> {
    let arguments: Vec<String> = std::env::args().skip(1).collect();
    if let [first, url] = arguments.as_slice()
        && first == worker::WORK
    {
        return worker::work(url).await;
    }
    let json = arguments.iter().any(|argument| argument == "--json");
    let named: Vec<&String> = arguments.iter().filter(|a| !a.starts_with("--")).collect();
    let wanted = |name: &str| named.is_empty() || named.iter().any(|asked| *asked == name);
    if wanted("rehearsal") {
        rehearsal::measure()?.print(json)?;
    }
    if wanted("look-alikes") {
        look_alikes::measure()?.print(json)?;
    }
    if wanted("answers") {
        let (times, sizes) = answers::measure().await?;
        times.iter().try_for_each(|time| time.print(json))?;
        sizes.iter().try_for_each(|size| size.print(json))?;
    }
    if wanted("merge") {
        for measured in merge::measure().await? {
            measured.print(json)?;
        }
    }
    if wanted("history") {
        history::measure().await?.print(json)?;
    }
    if wanted("trial") {
        trial::measure().await?.print(json)?;
    }
    if wanted("import") {
        let (measured, peak) = import::measure().await?;
        measured.print(json)?;
        peak.print(json)?;
    }
    if wanted("workbook") {
        import::measure_workbook().await?.print(json)?;
    }
    if wanted("race") {
        race().await;
    }
    if wanted("kill") {
        eprintln!("{}", import::kill().await?);
    }
    Ok(())
}
