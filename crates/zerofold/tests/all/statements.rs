//! `zerofold statements` on files: which line each amount stands on, what ties, and what a crosswalk moves.

use crate::files::Files;
use serde_json::{Value, json};

const CHART: &str = "Code,Name,Class,Caption\n1010,Bank,Asset,Cash\n2010,Loan,Liability,Borrowings\n\
                     3010,Kept,Equity,Retained earnings\n4010,Fares,Income,Revenue\n\
                     5010,Coal,Expense,Running the engines\n5020,Oil,Expense,Running the engines\n\
                     5030,Paint,Expense,Upkeep\n5090,Odds and ends,Expense,\n";

const JOURNAL: &str = "Entry,Date,Code,Debit,Credit,Entry kind\n1,2025-03-01,1010,500.00,,\n1,2025-03-01,4010,,500.00,\n\
                       2,2025-04-01,5010,120.00,,\n2,2025-04-01,1010,,120.00,\n\
                       3,2025-12-31,4010,500.00,,closing\n3,2025-12-31,5010,,120.00,closing\n\
                       3,2025-12-31,3010,,380.00,closing\n\
                       4,2026-02-01,5020,30.00,,\n4,2026-02-01,1010,,30.00,\n\
                       5,2026-03-01,5030,10.00,,\n5,2026-03-01,5090,5.00,,\n5,2026-03-01,1010,,15.00,\n";

fn line<'a>(of: &'a Value, statement: usize, label: &str) -> &'a Value {
    let lines = of["statements"][statement]["lines"].as_array().unwrap();
    lines.iter().find(|line| line["label"] == label).unwrap()
}

#[test]
fn closed_years_keep_their_results_and_every_total_ties() {
    let files = Files::new("statements", &[("chart", CHART), ("journal", JOURNAL)]);
    let two = ["--years", "2", "--as-of", "2026-03-31"];
    let (status, answered) = files.run_json("statements", &["chart", "journal"], &two);
    assert_eq!(status, 0, "{answered}");
    assert_eq!(answered["columns"], json!(["3 months to 31 Mar 2026", "12 months to 31 Dec 2025"]));
    assert_eq!(answered["statements"][0]["name"], "Balance sheet");
    let engines = line(&answered, 1, "Running the engines");
    assert_eq!(engines["amounts"], json!([3_000, 12_000]), "the closing entry is left out");
    assert_eq!(
        (&engines["accounts"], &engines["shown_as"]),
        (&json!(["5010", "5020"]), &json!(-1))
    );
    assert_eq!(line(&answered, 1, "Total income")["amounts"], json!([0, -50_000]));
    assert_eq!(line(&answered, 1, "Result")["amounts"], json!([4_500, -38_000]));
    assert_eq!(line(&answered, 0, "Total assets")["amounts"], json!([33_500, 38_000]));
    assert_eq!(line(&answered, 0, "Result of the year")["amounts"], json!([4_500, 0]));
    assert_eq!(line(&answered, 0, "Total equity")["amounts"], json!([-33_500, -38_000]));
    assert_eq!(answered["coverage"]["unmapped"], json!(["5090"]));
    let ties = answered["ties"].as_array().unwrap();
    assert!(ties.len() > 10 && ties.iter().all(|tie| tie["difference"] == 0), "{ties:?}");

    let (status, said) = files.run("statements", &["chart", "journal"], &two);
    assert_eq!(status, 0);
    for sentence in
        ["Income statement, as it is today", "1 accounts stand under no statement item", "-45.00"]
    {
        assert!(said.contains(sentence), "{sentence}: {said}");
    }
}

#[test]
fn a_crosswalk_moves_amounts_from_line_to_line_and_none_is_lost() {
    let crosswalk = "Old code,New code\n5030,5020\n5030,5020\n5010,5510\n";
    let files = Files::new(
        "statements-after",
        &[("chart", CHART), ("journal", JOURNAL), ("crosswalk", crosswalk)],
    );
    let all = ["chart", "journal", "crosswalk"];
    let (status, answered) = files.run_json("statements", &all, &["--as-of", "2026-03-31"]);
    assert_eq!(status, 0, "{answered}");
    let (today, after) = (&answered["today"], &answered["after"]);
    assert_eq!(line(today, 1, "Upkeep")["amounts"], json!([1_000, 0]));
    assert_eq!(line(after, 1, "Running the engines")["amounts"], json!([4_000, 12_000]));
    assert_eq!(line(after, 1, "Running the engines")["accounts"], json!(["5020", "5510"]));
    let moved = json!([{ "account": "5030", "into": "5020", "from": "Upkeep", "to": "Running the engines",
                         "amounts": [1_000, 0], "lines": 1 }]);
    assert_eq!(answered["moved"], moved, "a renumbering moves nothing");
    for of in [today, after] {
        assert_eq!(line(of, 1, "Result")["amounts"], json!([4_500, -38_000]));
        assert!(of["ties"].as_array().unwrap().iter().all(|tie| tie["difference"] == 0));
    }
}

#[test]
fn what_cannot_be_read_is_said() {
    let files =
        Files::new("statements-none", &[("chart", CHART), ("journal", "Entry,Date,Code,Amount\n")]);
    let (status, answered) = files.run_json("statements", &["chart", "journal"], &[]);
    assert_eq!(status, 2);
    assert!(answered["error"].as_str().is_some_and(|error| !error.is_empty()), "{answered}");
}
