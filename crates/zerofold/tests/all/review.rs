//! `zerofold review` on the demo books, against the key of what is planted in them.

use serde_json::Value;
use std::collections::BTreeSet;
use std::process::Command;
use std::sync::LazyLock;
use zf_scenario::{SEED, Scenario};
use zf_sheets::Format;

static BOOKS: LazyLock<Scenario> = LazyLock::new(|| Scenario::new(SEED));

static FOUND: LazyLock<Value> = LazyLock::new(|| {
    let folder = std::env::temp_dir().join(format!("zerofold-review-{}", std::process::id()));
    std::fs::create_dir_all(&folder).unwrap();
    let mut command = Command::new(env!("CARGO_BIN_EXE_zerofold"));
    command.arg("review");
    for (name, table) in BOOKS.files() {
        let file = folder.join(format!("{name}.csv"));
        std::fs::write(&file, table.write(Format::Csv).unwrap()).unwrap();
        command.arg(format!("--{name}")).arg(file);
    }
    let day = ["--fiscal-year-start", "02-01", "--today", "2026-11-26", "--json"];
    let output = command.args(day).output().unwrap();
    std::fs::remove_dir_all(&folder).unwrap();
    assert_eq!(output.status.code(), Some(0), "{}", String::from_utf8_lossy(&output.stderr));
    serde_json::from_slice(&output.stdout).unwrap()
});

fn texts(value: &Value) -> Vec<String> {
    value.as_array().unwrap().iter().map(|text| text.as_str().unwrap().to_owned()).collect()
}

/// All pairs of a group, in order.
fn pairs(group: &[String]) -> BTreeSet<(String, String)> {
    let sorted: BTreeSet<&String> = group.iter().collect();
    let pair = |a: &&String| {
        let a = (*a).clone();
        sorted
            .range::<String, _>((std::ops::Bound::Excluded(&a), std::ops::Bound::Unbounded))
            .map(|b| (a.clone(), (*b).clone()))
            .collect::<Vec<_>>()
    };
    sorted.iter().flat_map(pair).collect()
}

/// How many of the planted groups are found by pairs, and how many of the pairs are planted.
fn measure(proposed: &BTreeSet<(String, String)>) -> (f64, f64) {
    let planted = &BOOKS.key.look_alikes;
    let of_planted: BTreeSet<_> = planted.iter().flat_map(|group| pairs(group)).collect();
    let missed: Vec<_> = planted.iter().filter(|group| !pairs(group).is_subset(proposed)).collect();
    let wrong: Vec<_> = proposed.difference(&of_planted).collect();
    println!("missed {missed:?}\nwrong {wrong:?}");
    let found = 1.0 - missed.len() as f64 / planted.len() as f64;
    (found, 1.0 - wrong.len() as f64 / proposed.len() as f64)
}

#[test]
fn planted_look_alikes_are_found_and_little_else() {
    let tier = |name: &str| -> BTreeSet<(String, String)> {
        let groups = FOUND[name].as_array().unwrap().iter();
        groups.flat_map(|group| pairs(&texts(&group["codes"]))).collect()
    };
    let sure = tier("look_alikes");
    let (found, precision) = measure(&sure);
    assert!(found >= 0.55 && precision >= 0.97, "sure: {found:.3}, {precision:.3}");
    let all = sure.union(&tier("worth_a_look")).cloned().collect();
    let (found, precision) = measure(&all);
    assert!(found >= 0.8 && precision >= 0.85, "both tiers: {found:.3}, {precision:.3}");
}

#[test]
fn what_only_looks_alike_is_not_proposed() {
    let proposed = FOUND["look_alikes"].as_array().unwrap();
    for (a, b) in &BOOKS.key.unlike {
        let together = |group: &&Value| {
            let codes = texts(&group["codes"]);
            codes.contains(a) && codes.contains(b)
        };
        assert!(!proposed.iter().any(|group| together(&group)), "{a} and {b}");
    }
}

#[test]
fn every_group_has_a_survivor_of_its_own_and_says_why() {
    for group in FOUND["look_alikes"].as_array().unwrap() {
        assert!(texts(&group["codes"]).contains(&group["survivor"].as_str().unwrap().to_owned()));
        assert!(!texts(&group["evidence"]).is_empty());
        assert!((0.0..=1.0).contains(&group["score"].as_f64().unwrap()));
    }
}

#[test]
fn what_is_not_used_is_listed_with_the_fate_it_qualifies_for() {
    let unused = FOUND["unused"].as_array().unwrap();
    let of = |code: &String| unused.iter().find(|unused| unused["code"] == code.as_str());
    for code in &BOOKS.key.never_used {
        let found = of(code).unwrap();
        let control = BOOKS.key.quiet_controls.contains(code);
        assert_eq!(found["fate"], if control { "none" } else { "delete" }, "{found}");
        assert_eq!(found["last_posted"], Value::Null);
    }
    for code in BOOKS.key.long_unused.iter().chain(&BOOKS.key.marked_old) {
        let found = of(code).unwrap_or_else(|| unreachable!("{code} is not listed"));
        let fate = found["fate"].as_str().unwrap();
        let cleared = found["balance"] == 0;
        assert!(fate == "archive" && cleared || fate == "deactivate" || fate == "none", "{found}");
    }
}

#[test]
fn planted_strays_and_wrong_classes_are_remarked() {
    let others = FOUND["others"].as_array().unwrap();
    let with = |rule: &str| -> Vec<String> {
        others.iter().filter(|o| o["rule"] == rule).flat_map(|o| texts(&o["codes"])).collect()
    };
    for code in &BOOKS.key.out_of_block {
        assert!(with("out_of_block").contains(code), "{code}");
    }
    for code in &BOOKS.key.wrong_class {
        assert!(with("class_contradicted").contains(code), "{code}");
    }
}

/// The exit status, and what was said, of a review of small books.
fn review_small(more: &[&str]) -> (i32, String, String) {
    let accounts = "Code,Name,Class\n1010,Bank,Asset\n5010,Lamp oil,Expense\n5011,LAMP OIL,Expense\n5012,Wicks,Expense\n";
    let lines = "Entry,Date,Code,Amount\n1,2026-03-01,5010,5\n1,2026-03-01,1010,-5\n2,2022-03-01,5011,5\n2,2022-03-01,1010,-5\n";
    review_of(accounts, lines, more)
}

/// The same of any books.
fn review_of(accounts: &str, lines: &str, more: &[&str]) -> (i32, String, String) {
    static COUNT: std::sync::atomic::AtomicU32 = std::sync::atomic::AtomicU32::new(0);
    let n = COUNT.fetch_add(1, std::sync::atomic::Ordering::SeqCst);
    let folder = std::env::temp_dir().join(format!("zerofold-small-{}-{n}", std::process::id()));
    std::fs::create_dir_all(&folder).unwrap();
    let (chart, journal) = (folder.join("chart.csv"), folder.join("journal.csv"));
    std::fs::write(&chart, accounts).unwrap();
    std::fs::write(&journal, lines).unwrap();
    let mut command = Command::new(env!("CARGO_BIN_EXE_zerofold"));
    command.arg("review").arg("--chart").arg(&chart).arg("--journal").arg(&journal);
    let output = command.args(more).output().unwrap();
    std::fs::remove_dir_all(&folder).unwrap();
    let text = |bytes: &[u8]| String::from_utf8_lossy(bytes).into_owned();
    (output.status.code().unwrap(), text(&output.stdout), text(&output.stderr))
}

#[test]
fn a_person_is_told_in_sentences() {
    let (status, said, _) = review_small(&["--today", "2026-11-26"]);
    assert_eq!(status, 0, "what a review finds need not be done");
    for sentence in [
        "1 groups of look-alikes",
        "5010 Lamp oil, 5011 LAMP OIL",
        "keep 5010 Lamp oil",
        "5011 was last posted to on 1 Mar 2022; 5010 starts after that.",
        "5011 LAMP OIL: archive",
        "5012 Wicks: delete",
        "no complete where-used list was given",
        "The name of 5011 LAMP OIL is written in capitals.",
    ] {
        assert!(said.contains(sentence), "{sentence} is not in {said}");
    }
}

#[test]
fn the_fiscal_year_and_the_day_decide_what_is_long_unused() {
    let unused = |day: &str, start: &str| {
        let (status, said, _) =
            review_small(&["--json", "--as-of", day, "--fiscal-year-start", start]);
        assert_eq!(status, 0);
        let found: Value = serde_json::from_str(&said).unwrap();
        let codes = found["unused"].as_array().unwrap().iter();
        codes.map(|unused| unused["code"].as_str().unwrap().to_owned()).collect::<Vec<_>>()
    };
    assert_eq!(unused("2023-12-31", "01-01"), ["5012"], "the prior year began on 1 January 2022");
    assert_eq!(unused("2024-01-01", "01-01"), ["5011", "5012"]);
    assert_eq!(unused("2023-04-05", "04-06"), ["5012"]);
    assert_eq!(unused("2023-04-06", "04-06"), ["5011", "5012"]);
}

#[test]
fn a_line_dated_ahead_does_not_make_its_year_the_current_one() {
    let chart = "Code,Name,Class,Status\n1010,Bank,Asset,\n5010,Oil,Expense,\n5020,Tallow,Expense,deactivated\n";
    let entry =
        |n: usize, day: &str, code: &str| format!("{n},{day},{code},5\n{n},{day},1010,-5\n");
    let lines = [1, 2, 3].map(|n| entry(n, &format!("2026-0{n}-09"), "5020"));
    let journal =
        format!("Entry,Date,Code,Amount\n{}{}", lines.concat(), entry(9, "2028-05-01", "5010"));
    let remarks = |more: &[&str]| {
        let (status, said, error) = review_of(chart, &journal, more);
        assert_eq!(status, 0, "{error}");
        said.contains("5020 Tallow is deactivated and stands at 15.00 debit")
    };
    assert!(remarks(&["--today", "2026-04-02"]), "2026 is the current year");
    assert!(!remarks(&["--today", "2026-04-02", "--as-of", "2028-05-31"]), "unless one says so");
}

#[test]
fn what_was_asked_wrongly_is_said() {
    let (status, _, error) = review_small(&["--fiscal-year-start", "6 April"]);
    assert_eq!(status, 2);
    assert!(error.contains("is no day of a year; write it as 04-06"), "{error}");
    let (status, said, _) = review_small(&["--json", "--where-used", "/nowhere/uses.csv"]);
    assert_eq!(status, 2);
    assert!(said.contains("cannot be read"), "{said}");
}
