//! The keys that `--json` prints are a contract with scripts: the page on files lists them, and there are no others.

use serde_json::Value;
use std::collections::{BTreeMap, BTreeSet};
use std::path::{Path, PathBuf};
use std::process::Command;

const PAGE: &str = include_str!("../../../../docs/files.md");

/// Objects whose keys are codes or kinds of rows.
const MAPS: [&str; 4] = ["before", "after", "by_account", "taken"];

const FILES: [(&str, &str); 8] = [
    (
        "odd.csv",
        "Code,Name,Type,Parent,Kind\n1000,Cash,Asset,,Heading\n1010,Bank,Asset,1000,\n1010,Twin,Asset,1000,\n\
         1090,Gruntle,Gruntle,,Gruntle\n4000,Fees,Income,,\n5000,Coal,Expense,,\n5010,Coal,Expense,,\nTotal,,,,\n",
    ),
    (
        "chart.csv",
        "Code,Name,Class,Caption\n1010,Bank,Asset,\n1020,Bank loan,Asset,\n3000,Funds,Equity,\n4000,Fees,Income,\n\
         5000,Coal,Expense,Fuel\n5010,coal,Expense,Fuel\n5020,Steam coal,Expense,Upkeep\n\
         5030,Coal for steam,Expense,Fuel\n5040,Old papers,Expense,Fuel\n",
    ),
    (
        "journal.csv",
        "Entry,Date,Code,Debit,Credit,Payee\n1,2025-01-03,1010,10.00,,Ann\n1,2025-01-03,4000,,10.00,Ann\n\
         2,2025-02-03,5000,4.00,,Hollin\n2,2025-02-03,1010,,4.00,Hollin\n3,2025-03-03,5010,4.00,,Hollin\n\
         3,2025-03-03,1010,,4.00,Hollin\n4,2025-04-03,5020,4.00,,Hollin\n4,2025-04-03,1010,,4.00,Hollin\n\
         5,2025-05-03,5030,4.00,,Hollin\n5,2025-05-03,1010,,4.00,Hollin\n6,2025-06-03,1010,40.00,,Lender\n\
         6,2025-06-03,1020,,40.00,Lender\n",
    ),
    ("balances.csv", "Code,Debit,Credit\n1010,6.00,\n4000,,10.00\n5000,4.00,\n"),
    (
        "crosswalk.csv",
        "Old code,New code,New name,Class\n5010,5000,,\n4000,4100,Fees of all,\n,7000,New,Expense\n",
    ),
    ("stopped.csv", "Old code,New code\n5010,5000\n4000,1010\n"),
    ("settled.csv", "Old code,New code\n5010,5000\n5020,5000\n"),
    (
        "more.csv",
        "Entry,Date,Code,Debit,Credit\n3,2026-02-03,9999,4.00,\n3,2026-02-03,1010,,4.00\n",
    ),
];

type Keys = BTreeMap<(String, String), BTreeSet<String>>;

/// Adds the keys of a value, by where it stands.
fn collect(command: &str, place: &str, value: &Value, keys: &mut Keys) {
    match value {
        Value::Object(object) => {
            let own = keys.entry((command.to_owned(), place.to_owned())).or_default();
            let last = place.rsplit('.').next().unwrap_or_default();
            if MAPS.contains(&last) && object.values().all(|value| value.is_number()) {
                own.insert("…".to_owned());
                return;
            }
            own.extend(object.keys().cloned());
            for (key, value) in object {
                let below = if place.is_empty() { key.clone() } else { format!("{place}.{key}") };
                collect(command, &below, value, keys);
            }
        }
        Value::Array(values) => {
            let below = format!("{place}[]");
            values.iter().for_each(|value| collect(command, &below, value, keys));
        }
        _ => {}
    }
}

/// A workbook with two sheets of which the second comes later.
fn workbook(folder: &Path) -> PathBuf {
    let sheet = |name: &str, file: &str| {
        let text = FILES.iter().find(|(known, _)| *known == file).unwrap().1;
        let mut rows = text.lines().map(|line| line.split(',').map(str::to_owned).collect());
        let heads: Vec<String> = rows.next().unwrap();
        let columns = heads.into_iter().map(|head| (head, zf_sheets::ColumnKind::Text)).collect();
        zf_sheets::Table::new(name, columns, rows.collect())
    };
    let tables = [sheet("Chart", "chart.csv"), sheet("Journal", "journal.csv")];
    let path = folder.join("book.xlsx");
    std::fs::write(&path, zf_sheets::write(zf_sheets::Format::Xlsx, &tables).unwrap()).unwrap();
    path
}

fn printed() -> Keys {
    let folder = std::env::temp_dir().join(format!("zerofold-json-keys-{}", std::process::id()));
    std::fs::create_dir_all(&folder).unwrap();
    for (name, text) in FILES {
        std::fs::write(folder.join(name), text).unwrap();
    }
    workbook(&folder);
    let books = "--chart chart.csv --journal journal.csv --today 2026-09-24";
    let runs = [
        "inspect chart odd.csv".to_owned(),
        "inspect chart book.xlsx".to_owned(),
        "inspect journal journal.csv --chart chart.csv".to_owned(),
        "inspect journal more.csv --chart chart.csv".to_owned(),
        "inspect balances balances.csv --chart chart.csv".to_owned(),
        "inspect crosswalk crosswalk.csv --chart chart.csv".to_owned(),
        "inspect chart nowhere.csv".to_owned(),
        format!("rehearse {books} --crosswalk crosswalk.csv"),
        format!("rehearse {books} --crosswalk settled.csv"),
        format!("rehearse {books} --crosswalk stopped.csv"),
        format!("review {books}"),
        format!("statements {books}"),
        format!("statements {books} --crosswalk settled.csv"),
    ];
    let mut keys = Keys::new();
    for run in runs {
        let command = run.split(' ').next().unwrap();
        let output = Command::new(env!("CARGO_BIN_EXE_zerofold"))
            .current_dir(&folder)
            .args(run.split(' '))
            .arg("--json")
            .output()
            .unwrap();
        let value: Value = serde_json::from_slice(&output.stdout)
            .unwrap_or_else(|error| panic!("{run}: {error}: {output:?}"));
        collect(command, "", &value, &mut keys);
    }
    std::fs::remove_dir_all(&folder).unwrap();
    keys
}

fn listed() -> Keys {
    let rows = PAGE.lines().skip_while(|line| !line.starts_with("| command | where |")).skip(2);
    let cells = |row: &str| -> Vec<String> {
        row.trim_matches('|').split('|').map(|cell| cell.trim().replace('`', "")).collect()
    };
    let rows = rows.take_while(|row| row.starts_with('|')).map(cells);
    let keys = |text: &str| text.split(", ").map(str::to_owned).collect();
    rows.map(|row| ((row[0].clone(), row[1].clone()), keys(&row[2]))).collect()
}

#[test]
fn the_page_on_files_lists_every_key_and_no_other() {
    let (printed, listed) = (printed(), listed());
    let places = |keys: &Keys| keys.keys().cloned().collect::<BTreeSet<_>>();
    assert_eq!(places(&printed), places(&listed));
    for (place, keys) in &printed {
        assert_eq!(keys, &listed[place], "{place:?}");
    }
}
