//! `zerofold rehearse` on files: what a crosswalk would do to books, with the trial balances before and
//! after.

use crate::files::Files;
use serde_json::{Value, json};

const CHART: &str = "Code,Name,Class,Status\n1010,Bank,Asset,\n5010,Coal,Expense,\n5020,Steam coal,Expense,\n\
                     5030,Oil,Expense,\n5040,Wood,Expense,deactivated\n4010,Fares,Income,\n";

const JOURNAL: &str = "Entry,Date,Code,Debit,Credit\n1,2026-03-01,5010,120.00,\n1,2026-03-01,1010,,120.00\n\
                       2,2026-03-05,5020,30.00,\n2,2026-03-05,1010,,30.00\n\
                       3,2026-04-01,1010,200.00,\n3,2026-04-01,4010,,200.00\n\
                       4,2024-04-01,5040,5.00,\n4,2024-04-01,1010,,5.00\n";

const THREE: [&str; 3] = ["chart", "journal", "crosswalk"];

fn files(name: &str, crosswalk: &str, journal: &str) -> Files {
    Files::new(name, &[("chart", CHART), ("journal", journal), ("crosswalk", crosswalk)])
}

trait Rehearsed {
    /// The exit status and what was printed.
    fn rehearse(&self, more: &[&str]) -> (i32, String);
    fn json(&self) -> (i32, Value);
}

impl Rehearsed for Files {
    fn rehearse(&self, more: &[&str]) -> (i32, String) {
        self.run("rehearse", &THREE, more)
    }

    fn json(&self) -> (i32, Value) {
        self.run_json("rehearse", &THREE, &[])
    }
}

fn rules(found: &Value) -> Vec<&str> {
    found.as_array().unwrap().iter().map(|f| f["rule"].as_str().unwrap()).collect()
}

#[test]
fn a_crosswalk_moves_sums_and_loses_none() {
    // Bank and oil swap with nobody; steam coal goes into coal, which takes the code of oil.
    let crosswalk = "Old code,New code\n5010,5030\n5020,5030\n5030,5010\n";
    let files = files("rehearse", crosswalk, JOURNAL);
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
    let (status, report) = files("misfits", crosswalk, JOURNAL).json();
    assert_eq!(status, 1);
    assert_eq!(rules(&report["stops"]), ["merge_class", "account_unknown", "new_code_missing"]);
    assert_eq!(report["stops"][1]["codes"], json!(["9999"]));
    assert_eq!(report["before"], report["after"], "none of it is done");

    let format = files("format", "Old code,New code\n5010,501000\n", JOURNAL);
    let (status, words) = format.rehearse(&["--code-format", "4"]);
    assert_eq!(status, 1);
    assert!(words.starts_with("stop: "), "{words}");
}

#[test]
fn books_of_which_rows_are_left_out_are_not_rehearsed() {
    let journal = JOURNAL.replace("4010,,200.00", "4010,,199.00");
    let (status, report) = files("unread", "Old code,New code\n5010,5011\n", &journal).json();
    assert_eq!(status, 2);
    let error = report["error"].as_str().unwrap();
    assert!(error.contains("2 rows cannot be taken; the first is row 6"), "{error}");
}
