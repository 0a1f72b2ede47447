//! `zerofold rehearse` on files: what a crosswalk would do to books, with the trial balances before and
//! after.

use serde_json::{Value, json};
use std::path::PathBuf;
use std::process::Command;

const CHART: &str = "Code,Name,Class,Status\n1010,Bank,Asset,\n5010,Coal,Expense,\n5020,Steam coal,Expense,\n\
                     5030,Oil,Expense,\n5040,Wood,Expense,deactivated\n4010,Fares,Income,\n";

const JOURNAL: &str = "Entry,Date,Code,Debit,Credit\n1,2026-03-01,5010,120.00,\n1,2026-03-01,1010,,120.00\n\
                       2,2026-03-05,5020,30.00,\n2,2026-03-05,1010,,30.00\n\
                       3,2026-04-01,1010,200.00,\n3,2026-04-01,4010,,200.00\n\
                       4,2024-04-01,5040,5.00,\n4,2024-04-01,1010,,5.00\n";

struct Files(PathBuf);

impl Files {
    fn new(name: &str, crosswalk: &str, journal: &str) -> Self {
        let folder = std::env::temp_dir().join(format!("zerofold-{name}-{}", std::process::id()));
        std::fs::create_dir_all(&folder).unwrap();
        for (file, content) in
            [("chart.csv", CHART), ("journal.csv", journal), ("crosswalk.csv", crosswalk)]
        {
            std::fs::write(folder.join(file), content).unwrap();
        }
        Self(folder)
    }

    /// The exit status and what was printed.
    fn rehearse(&self, more: &[&str]) -> (i32, String) {
        let mut command = Command::new(env!("CARGO_BIN_EXE_zerofold"));
        command.arg("rehearse");
        for file in ["chart", "journal", "crosswalk"] {
            command.arg(format!("--{file}")).arg(self.0.join(format!("{file}.csv")));
        }
        let output = command.args(more).output().unwrap();
        (output.status.code().unwrap(), String::from_utf8(output.stdout).unwrap())
    }

    fn json(&self) -> (i32, Value) {
        let (status, text) = self.rehearse(&["--json"]);
        (status, serde_json::from_str(&text).unwrap())
    }
}

impl Drop for Files {
    fn drop(&mut self) {
        std::fs::remove_dir_all(&self.0).unwrap();
    }
}

fn rules(found: &Value) -> Vec<&str> {
    found.as_array().unwrap().iter().map(|f| f["rule"].as_str().unwrap()).collect()
}

#[test]
fn a_crosswalk_moves_sums_and_loses_none() {
    // Bank and oil swap with nobody; steam coal goes into coal, which takes the code of oil.
    let crosswalk = "Old code,New code\n5010,5030\n5020,5030\n5030,5010\n";
    let files = Files::new("rehearse", crosswalk, JOURNAL);
    let (status, report) = files.json();
    assert_eq!((status, &report["stops"]), (0, &json!([])), "{report}");
    let before =
        json!({ "1010": 4_500, "4010": -20_000, "5010": 12_000, "5020": 3_000, "5040": 500 });
    assert_eq!(report["before"], before);
    let after = json!({ "1010": 4_500, "4010": -20_000, "5030": 15_000, "5040": 500 });
    assert_eq!(report["after"], after);
    assert_eq!((&report["difference"], &report["lines"]), (&json!(0), &json!(8)));
    let moved = json!([
        { "from": "5010", "to": "5030" },
        { "from": "5020", "to": "5030" },
        { "from": "5030", "to": "5010" }
    ]);
    assert_eq!(report["crosswalk"], moved);
    let (status, words) = files.rehearse(&[]);
    assert_eq!(status, 0);
    assert!(words.contains("5020 becomes 5030") && words.contains("Difference 0.00 over 8 lines"));
}

#[test]
fn what_stands_against_it_is_said_with_the_way_out() {
    let crosswalk = "Old code,New code,Action\n5010,1010,\n9999,5050,\n5030,,merge\n";
    let (status, report) = Files::new("misfits", crosswalk, JOURNAL).json();
    assert_eq!(status, 1);
    assert_eq!(rules(&report["stops"]), ["merge_class", "account_unknown", "new_code_missing"]);
    assert_eq!(report["stops"][1]["codes"], json!(["9999"]));
    assert_eq!(report["before"], report["after"], "none of it is done");

    let format = Files::new("format", "Old code,New code\n5010,501000\n", JOURNAL);
    let (status, words) = format.rehearse(&["--code-format", "4"]);
    assert_eq!(status, 1);
    assert!(words.starts_with("stop: "), "{words}");
}

#[test]
fn books_of_which_rows_are_left_out_are_not_rehearsed() {
    let journal = JOURNAL.replace("4010,,200.00", "4010,,199.00");
    let (status, report) = Files::new("unread", "Old code,New code\n5010,5011\n", &journal).json();
    assert_eq!(status, 2);
    let error = report["error"].as_str().unwrap();
    assert!(error.contains("2 rows cannot be taken; the first is row 6"), "{error}");
}
