//! Measures what the design promises, each against its own baseline in the same run. These are not
//! timed tests: the machine is noisy, and only ratios are worth keeping. Without names all are measured.

mod answers;
mod browser;
mod heavy;
mod history;
mod import;
mod large;
mod layouts;
mod look_alikes;
mod measured;
mod memory;
mod merge;
mod rehearsal;
mod statements;
mod trial;
mod worker;

pub(crate) use measured::{Measured, Peak, Size};
use serde::Serialize;
use std::fmt::Display;
use std::time::{Duration, Instant};
use zf_testing::races::{Beside, Tally, apply_beside};

/// How often each thing is measured; the median counts.
const RUNS: usize = 5;

/// Prints a line of the result: for people, or as JSON.
fn print<T: Serialize + Display>(line: &T, json: bool) {
    if json {
        println!("{}", serde_json::json!(line));
    } else {
        println!("{line}");
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
        let Tally { first, refused } = apply_beside(beside, RACES).await;
        eprintln!(
            "{RACES} races of an apply and somebody beside it ({beside:?}): {first} times done first, {refused} \
             times refused since it came too late, never answered otherwise than it was"
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
    if let [first, url] = arguments.as_slice()
        && first == worker::SERVE
    {
        return worker::serve(url).await;
    }
    let json = arguments.iter().any(|argument| argument == "--json");
    let named: Vec<&String> = arguments.iter().filter(|a| !a.starts_with("--")).collect();
    let wanted = |name: &str| named.is_empty() || named.iter().any(|asked| *asked == name);
    if wanted("rehearsal") {
        print(&rehearsal::measure()?, json);
    }
    if wanted("look-alikes") {
        print(&look_alikes::measure()?, json);
    }
    if wanted("answers") {
        let (times, sizes, peak) = answers::measure().await?;
        times.iter().for_each(|time| print(time, json));
        sizes.iter().for_each(|size| print(size, json));
        print(&peak, json);
    }
    if wanted("merge") {
        for measured in merge::measure().await? {
            print(&measured, json);
        }
    }
    if wanted("history") {
        print(&history::measure().await?, json);
    }
    if wanted("statement") {
        statements::measure().await?.iter().for_each(|line| print(line, json));
    }
    if wanted("trial") {
        print(&trial::measure().await?, json);
    }
    if wanted("import") {
        let (measured, peak) = import::measure().await?;
        print(&measured, json);
        print(&peak, json);
    }
    if wanted("layouts") {
        for layout in &layouts::LAYOUTS {
            let (measured, peak) = layout.measure().await?;
            print(&measured, json);
            print(&peak, json);
        }
    }
    if wanted("workbook") {
        print(&import::measure_workbook().await?, json);
    }
    if wanted("heavy") {
        let (times, peak) = heavy::measure().await?;
        times.iter().for_each(|time| print(time, json));
        print(&peak, json);
    }
    if wanted("race") {
        race().await;
    }
    if wanted("kill") {
        eprintln!("{}", import::kill().await?);
    }
    Ok(())
}
