//! Files that went through a spreadsheet program: saved in every format it knows, they say the same.
//! Where LibreOffice is not installed there is nothing to go through.

use serde_json::Value;
use std::path::{Path, PathBuf};
use std::process::Command;
use zf_scenario::{SEED, Scenario};
use zf_sheets::{Format, Table};

const OFFICE: &str = "soffice";

/// A person says so in a dialog: comma, quotes, UTF-8, from the first row.
const CSV_IS_UTF8: &str = "--infilter=CSV:44,34,76,1";

fn is_installed() -> bool {
    Command::new(OFFICE).arg("--version").output().is_ok_and(|answer| answer.status.success())
}

/// Saves a file in another format, into a folder.
fn save_as(file: &Path, format: &str, folder: &Path) -> PathBuf {
    let profile = format!("-env:UserInstallation=file://{}", folder.join("profile").display());
    let saved = Command::new(OFFICE)
        .args([&profile, "--headless", CSV_IS_UTF8, "--convert-to", format, "--outdir"])
        .args([folder, file])
        .output()
        .unwrap();
    assert!(saved.status.success(), "{}", String::from_utf8_lossy(&saved.stderr));
    let ending = format.split(':').next().unwrap();
    folder.join(file.file_name().unwrap()).with_extension(ending)
}

fn inspect(kind: &str, file: &Path, chart: Option<&Path>) -> Value {
    let mut command = Command::new(env!("CARGO_BIN_EXE_zerofold"));
    command.args(["inspect", kind, "--json"]).arg(file);
    if let Some(chart) = chart {
        command.arg("--chart").arg(chart);
    }
    serde_json::from_slice(&command.output().unwrap().stdout).unwrap()
}

/// A few of the rows: a spreadsheet program takes its time over a hundred thousand.
fn some(table: &Table, rows: usize) -> Table {
    Table { rows: table.rows[..rows].to_vec(), ..table.clone() }
}

#[test]
fn what_a_spreadsheet_program_saved_says_the_same() {
    if !is_installed() {
        eprintln!("LibreOffice is not installed; nothing was tried");
        return;
    }
    let folder = std::env::temp_dir().join(format!("zerofold-office-{}", std::process::id()));
    let out = folder.join("out");
    std::fs::create_dir_all(&out).unwrap();
    let scenario = Scenario::new(SEED);
    // Whole entries only: the opening entry is the first, and ends where the number changes.
    let first = &scenario.journal.rows[0][0];
    let opening = scenario.journal.rows.iter().take_while(|row| row[0] == *first).count();
    let files = [("chart", scenario.chart.clone()), ("journal", some(&scenario.journal, opening))];
    let chart = folder.join("whole chart.csv");
    std::fs::write(&chart, scenario.chart.write(Format::Csv).unwrap()).unwrap();
    for (kind, table) in files {
        let against = (kind == "journal").then_some(chart.as_path());
        for format in [Format::Xlsx, Format::Ods, Format::Csv] {
            let file = folder.join(format!("{kind}-{}.{}", format.ending(), format.ending()));
            std::fs::write(&file, table.write(format).unwrap()).unwrap();
            let before = inspect(kind, &file, against);
            assert_eq!(before["rejected"], serde_json::json!([]), "{}", file.display());
            for other in ["xlsx", "xls", "ods", "csv"] {
                let after = inspect(kind, &save_as(&file, other, &out), against);
                for what in ["ready", "ready_rows", "rejected", "totals"] {
                    assert_eq!(
                        after[what],
                        before[what],
                        "{what} of {} as {other}",
                        file.display()
                    );
                }
            }
        }
    }
    std::fs::remove_dir_all(folder).unwrap();
}
