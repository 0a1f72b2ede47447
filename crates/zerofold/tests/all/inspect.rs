//! `zerofold inspect`: what it prints of files, and how it ends.

use serde_json::{Value, json};
use std::path::PathBuf;
use std::process::Command;
use std::sync::atomic::{AtomicU32, Ordering};
use zf_sheets::{ColumnKind, Format, Table};

/// A folder that goes when the test ends.
struct Folder(PathBuf);

impl Folder {
    fn new() -> Self {
        static COUNT: AtomicU32 = AtomicU32::new(0);
        let name = format!(
            "zerofold-inspect-{}-{}",
            std::process::id(),
            COUNT.fetch_add(1, Ordering::SeqCst)
        );
        let folder = std::env::temp_dir().join(name);
        std::fs::create_dir_all(&folder).unwrap();
        Self(folder)
    }

    fn file(&self, name: &str, content: impl AsRef<[u8]>) -> String {
        let path = self.0.join(name);
        std::fs::write(&path, content).unwrap();
        path.to_string_lossy().into_owned()
    }
}

impl Drop for Folder {
    fn drop(&mut self) {
        let _ = std::fs::remove_dir_all(&self.0);
    }
}

/// The exit status, and what was printed as JSON.
fn inspect(arguments: &[&str]) -> (i32, Value) {
    let output = Command::new(env!("CARGO_BIN_EXE_zerofold"))
        .arg("inspect")
        .args(arguments)
        .arg("--json")
        .output()
        .unwrap();
    let printed = serde_json::from_slice(&output.stdout);
    (output.status.code().unwrap(), printed.unwrap_or_else(|e| panic!("{e}: {output:?}")))
}

#[test]
fn a_chart_is_described_row_by_row() {
    let folder = Folder::new();
    let text = "Our chart\n\nCode;Name;Type;Parent;Who asked\n1000;Cash;Current assets;;\n1010;Bank;Bank;1000;HB\n1010;Twin;Bank;1000;\nTotal;;;;\n";
    let path = folder.file("chart.csv", text);
    let (status, found) = inspect(&["chart", &path]);
    assert_eq!(status, 1);
    assert_eq!(found["kind"], "chart");
    assert_eq!(
        (&found["sheet"], &found["encoding"], &found["delimiter"]),
        (&Value::Null, &json!("UTF-8"), &json!(";"))
    );
    assert_eq!(found["header_row"], 3);
    assert_eq!(found["columns"][2], json!({ "header": "Type", "field": "class" }));
    assert_eq!(found["columns"][4], json!({ "header": "Who asked", "field": null }));
    let bank = &found["ready"][1];
    assert_eq!(
        (&bank["row"], &bank["code"], &bank["name"]),
        (&json!(5), &json!("1010"), &json!("Bank"))
    );
    assert_eq!(
        (&bank["class"], &bank["section"], &bank["parent"]),
        (&json!("asset"), &json!("cash"), &json!("1000"))
    );
    assert_eq!(found["ready"][0]["kind"], "heading");
    let rejected = &found["rejected"][0];
    assert_eq!(
        (&rejected["row"], &rejected["field"], &rejected["reason"]),
        (&json!(6), &json!("code"), &json!("code_twice"))
    );
    assert_eq!(rejected["message"], "code 1010 is already in row 5");
    assert_eq!(found["warnings"][0]["reason"], "total_row");
}

#[test]
fn a_journal_is_added_up_with_or_without_its_chart() {
    let folder = Folder::new();
    let journal = folder.file(
        "journal.csv",
        "Entry,Date,Account,Debit,Credit\n1,03/04/2026,1010,12.50,\n1,03/04/2026,5010,,12.50\n",
    );
    let (status, asked) = inspect(&["journal", &journal]);
    assert_eq!((status, &asked["rejected"][0]["reason"]), (1, &json!("date_ambiguous")));
    let (status, found) = inspect(&["journal", &journal, "--date-order", "dmy"]);
    assert_eq!(status, 0);
    assert_eq!(
        found["totals"],
        json!({ "entries": 1, "lines": 2, "debit": 1250, "credit": 1250, "by_account": { "1010": 1250, "5010": -1250 } })
    );
    let chart = folder.file("chart.csv", "Code,Name,Class\n1010,Bank,Asset\n");
    let (status, found) = inspect(&["journal", &journal, "--date-order", "dmy", "--chart", &chart]);
    let reasons: Vec<_> =
        found["rejected"].as_array().unwrap().iter().map(|r| r["reason"].clone()).collect();
    assert_eq!((status, reasons), (1, vec![json!("entry_spoilt"), json!("account_unknown")]));
}

#[test]
fn balances_and_crosswalks_are_read_against_a_chart() {
    let folder = Folder::new();
    let chart = folder.file(
        "chart.csv",
        "Code,Name,Class\n1010,Bank,Asset\n5010,Coal,Expense\n5020,Wood,Expense\n",
    );
    let balances = folder.file("tb.csv", "Code,Debit,Credit\n1010,,7.00\n5010,7.50,\n");
    let (status, found) = inspect(&["balances", &balances, "--chart", &chart]);
    assert_eq!((status, &found["totals"]["difference"]), (1, &json!(50)), "what is out is asked");
    assert_eq!(found["questions"][0]["about"], "difference");
    let said = ["balances", &balances, "--chart", &chart, "--answer", "difference=as_it_is"];
    assert_eq!(inspect(&said).0, 0);
    let crosswalk = folder
        .file("map.csv", "Old code,New code,New name\n5010,5100,Fuel\n5020,5100,\n1010,10-10,\n");
    let (status, found) =
        inspect(&["crosswalk", &crosswalk, "--chart", &chart, "--code-format", "4 digits"]);
    assert_eq!((status, &found["rejected"][0]["reason"]), (1, &json!("code_format")));
    assert_eq!(found["ready"][0]["new_name"], "Fuel");
    assert_eq!(
        (&found["ready"][1]["code"], &found["ready"][1]["merged_into"]),
        (&json!("5020"), &json!("5010"))
    );
}

#[test]
fn the_demo_files_are_ready_to_the_last_row_in_every_form() {
    let folder = Folder::new();
    let scenario = zf_scenario::Scenario::new(zf_scenario::SEED);
    let xlsx = folder.file("chart.xlsx", scenario.chart.write(Format::Xlsx).unwrap());
    let csv = folder.file("chart.csv", scenario.chart.write(Format::Csv).unwrap());
    let (status, a) = inspect(&["chart", &xlsx]);
    let (_, b) = inspect(&["chart", &csv]);
    assert_eq!((status, &a["sheet"]), (0, &json!("Chart of accounts")));
    assert_eq!(a["ready"], b["ready"]);
    let journal = folder.file("journal.csv", scenario.journal.write(Format::Csv).unwrap());
    let (status, found) = inspect(&["journal", &journal, "--chart", &csv]);
    assert_eq!(
        (status, found["ready_rows"].as_u64()),
        (0, Some(scenario.journal.rows.len() as u64))
    );
}

#[test]
fn audit_files_are_read_as_a_chart_and_as_a_journal() {
    let folder = Folder::new();
    let head = "JournalCode|JournalLib|EcritureNum|EcritureDate|CompteNum|CompteLib|CompAuxNum|\
                CompAuxLib|PieceRef|PieceDate|EcritureLib|Debit|Credit|EcritureLet|DateLet|\
                ValidDate|Montantdevise|Idevise\n";
    let line = |code: &str, debit: &str, credit: &str| {
        format!(
            "AC|Achats|1|20260403|{code}|Compte {code}|||F1|20260402|x|{debit}|{credit}|||20260430||\n"
        )
    };
    let lines = [line("606100", "12,50", "0,00"), line("401000", "0,00", "12,50")].concat();
    let entries = folder.file("fec.txt", format!("{head}{lines}"));
    let (status, chart) = inspect(&["chart", &entries]);
    assert_eq!((status, &chart["format"], &chart["ready_rows"]), (0, &json!("FEC"), &json!(2)));
    assert_eq!(chart["ready"][1]["class"], "liability");
    let (status, journal) = inspect(&["journal", &entries]);
    assert_eq!((status, &journal["totals"]["debit"]), (0, &json!(1250)));
    assert_eq!(journal["totals"]["by_account"], json!({ "606100": 1250, "401000": -1250 }));

    let xml = "<?xml version='1.0'?><AuditFile><MasterFiles><GeneralLedgerAccounts><Account>\
        <AccountID>1010</AccountID><AccountDescription>Bank</AccountDescription>\
        <AccountType>Asset</AccountType></Account></GeneralLedgerAccounts></MasterFiles></AuditFile>";
    let (status, chart) = inspect(&["chart", &folder.file("books.xml", xml)]);
    assert_eq!(
        (status, &chart["format"], &chart["ready"][0]["code"]),
        (0, &json!("SAF-T"), &json!("1010"))
    );
}

#[test]
fn what_cannot_be_read_ends_with_two_and_a_plain_sentence() {
    let folder = Folder::new();
    for (name, content, says) in [
        ("a.xlsx", &b"Code,Name"[..], "it holds plain text"),
        ("b.csv", b"", "the file is empty"),
        ("c.csv", b"hello there\n", "no row of headings was found"),
    ] {
        let path = folder.file(name, content);
        let (status, found) = inspect(&["chart", &path]);
        assert_eq!(status, 2, "{name}");
        assert!(found["error"].as_str().unwrap().contains(says), "{found}");
    }
    let (status, found) = inspect(&["chart", "/nowhere/x.csv"]);
    assert_eq!(status, 2);
    assert!(found["error"].as_str().unwrap().contains("cannot be read"), "{found}");
    let path = folder.file("d.csv", "Code,Name,Class\n1,a,Asset\n");
    assert_eq!(inspect(&["chart", &path, "--code-format", "odd"]).0, 2);
    assert_eq!(inspect(&["chart", &path, "--sheet", "Lost"]).0, 2);
}

#[test]
fn sheets_of_one_form_are_asked_about_and_rows_are_named_by_sheet() {
    let folder = Folder::new();
    let sheet = |name: &str, rows: &[[&str; 2]]| {
        let columns = ["Code", "Name"].map(|title| (title.to_owned(), ColumnKind::Text)).to_vec();
        let rows = rows.iter().map(|row| row.map(str::to_owned).to_vec()).collect();
        Table::new(name, columns, rows)
    };
    let assets = sheet("Assets", &[["1000", "Till"], ["1010", "Safe"]]);
    let income = sheet("Income", &[["4000", "Fees"], ["4010", ""], ["", "Total"]]);
    let notes = sheet("Read me", &[["", ""]]);
    let book = zf_sheets::write(Format::Xlsx, &[assets, income, notes]).unwrap();
    let path = folder.file("by class.xlsx", book);

    let (status, open) = inspect(&["chart", &path]);
    assert_eq!(status, 1);
    let question = &open["questions"][0];
    assert_eq!((&question["about"], &question["default"]), (&json!("sheet"), &json!("*")));
    let keys: Vec<&Value> =
        question["readings"].as_array().unwrap().iter().map(|reading| &reading["key"]).collect();
    // A sheet with the same headings and nothing below them is of the same form.
    assert_eq!(keys[..3], ["*", "Assets", "Income"]);
    assert_eq!(
        (&open["rejected"][0]["row"], &open["rejected"][0]["sheet"]),
        (&json!(3), &json!("Income"))
    );
    let rows = open["rows_of_file"].as_array().unwrap();
    let of = |name: &str| rows.iter().find(|sheet| sheet["sheet"] == name).unwrap();
    assert_eq!(of("Assets")["taken"], json!({ "accounts": 2, "heads": 1 }));
    assert_eq!(of("Income")["taken"], json!({ "accounts": 1, "heads": 1, "totals": 1 }));
    assert_eq!(of("Income")["left_out"], json!([{ "row": 3, "why": "name_missing" }]));
    for sheet in rows {
        let taken = sheet["taken"].as_object().unwrap().values().filter_map(Value::as_u64);
        let left_out = sheet["left_out"].as_array().unwrap().len() as u64;
        assert_eq!(taken.sum::<u64>() + left_out, sheet["rows"].as_u64().unwrap());
    }

    let (status, one) = inspect(&["chart", &path, "--answer", "sheet=Assets"]);
    assert_eq!((status, &one["questions"], &one["ready_rows"]), (0, &json!([]), &json!(2)));
    assert_eq!(one["ready"][0]["class"], "asset", "the sheet is called so");
    assert_eq!(one["rows_of_file"][1]["taken"], json!({ "not_read": 4 }));
}

#[test]
fn wishes_are_said_as_answers() {
    let folder = Folder::new();
    let path = folder.file("chart.csv", "Name,Type\nBank,Asset\nTotal assets,\nFees,Income\n");
    let (status, plain) = inspect(&["chart", &path]);
    assert_eq!((status, &plain["ready_rows"]), (0, &json!(2)), "totals never count");
    assert_eq!(plain["ready"][0]["role"], Value::Null);
    assert_eq!(plain["ready"][0]["proposed_role"], "bank");
    let wishes = ["totals=sum_lines", "codes_by=order", "code_digits=3", "roles=yes"];
    let answers = wishes.iter().flat_map(|wish| ["--answer", wish]);
    let arguments: Vec<&str> = ["chart", &path].into_iter().chain(answers).collect();
    let (status, wished) = inspect(&arguments);
    assert_eq!(status, 0, "{wished}");
    let ready = wished["ready"].as_array().unwrap();
    let told: Vec<_> = ready.iter().map(|a| (&a["code"], &a["name"], &a["kind"])).collect();
    assert_eq!(told.len(), 3, "{told:?}");
    assert_eq!(ready[0]["role"], "bank");
    assert_eq!(ready[0]["came_from"]["role"], "wording");
    let sum = ready.iter().find(|account| account["kind"] == "sum").unwrap();
    assert_eq!((&sum["name"], &sum["class"]), (&json!("Total assets"), &json!("asset")));
    assert_eq!(sum["intervals"], ready[0]["code"]);
}
