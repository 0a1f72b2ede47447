//! `zerofold inspect`: reads a file as the import would and says what was found, without a database.

use crate::files::{FileSheet, bare_books, code_format, read_chart};
use crate::found::{Found, say};
use anyhow::Context;
use clap::Args;
use serde_json::{Value, json};
use std::collections::{BTreeMap, HashSet};
use std::fmt;
use std::path::PathBuf;
use std::process::ExitCode;
use zf_core::chart::{Account, Chart};
use zf_core::file_kind::FileKind;
use zf_core::ids::AccountId;
use zf_core::money::Currency;
use zf_core::text::{counted, grouped};
use zf_core::today::Today;
use zf_intake::analysis::choices::Choices;
use zf_intake::analysis::{Against, Analysis, Content};
use zf_intake::dates::DateOrder;
use zf_intake::reading::Chosen;
use zf_intake::{crosswalk, journal};

/// What to read, and what is chosen instead of being told from the file.
#[derive(Args)]
pub(crate) struct Inspect {
    /// What the file holds.
    #[arg(value_parser = ["chart", "journal", "balances", "crosswalk", "usage"])]
    kind: String,
    /// The file: CSV, XLSX, XLS, ODS or an audit file.
    file: PathBuf,
    /// The sheet of a workbook.
    #[arg(long)]
    sheet: Option<String>,
    /// Which of three numbers of a date comes first.
    #[arg(long, value_parser = ["dmy", "mdy", "ymd"])]
    date_order: Option<String>,
    /// The form of codes: `4`, `4-6 digits` or `1-12 characters`.
    #[arg(long)]
    code_format: Option<String>,
    /// The chart that a journal, balances or a crosswalk are read against.
    #[arg(long, value_name = "CHARTFILE")]
    chart: Option<PathBuf>,
    /// The base currency.
    #[arg(long, default_value = "GBP")]
    currency: String,
    /// Prints one JSON object.
    #[arg(long)]
    json: bool,
}

/// Everything that is said of a file.
struct Findings {
    kind: FileKind,
    file: FileSheet,
    analysis: Analysis,
    ready: Vec<Value>,
    totals: Value,
}

pub(crate) fn run(asked: &Inspect) -> ExitCode {
    say(look(asked), asked.json)
}

fn look(asked: &Inspect) -> anyhow::Result<Findings> {
    let kind = FileKind::from_key(&asked.kind).context("no such kind of file")?;
    let currency = Currency::parse(&asked.currency)?;
    let format = code_format(asked.code_format.as_deref())?;
    let mut chosen = Chosen { sheet: asked.sheet.clone(), ..Chosen::default() };
    chosen.dates = asked.date_order.as_deref().and_then(DateOrder::from_key);
    let file = FileSheet::open(&asked.file, kind, currency, &chosen)?;
    let (reading, rows) = (&file.reading, file.rows());
    let given =
        asked.chart.as_deref().map(|path| read_chart(path, currency, format)).transpose()?;
    let given = given.map(|(chart, _)| chart);
    let chart = match kind {
        FileKind::Chart => Chart::default(),
        _ => given.unwrap_or_else(|| journal::chart_of_codes(reading, rows)),
    };
    let books = bare_books(chart, currency, format)?;
    let against = Against { today: &books, entries: HashSet::new(), then: None };
    let mut analysis = Analysis::of(kind, reading, rows, &Choices::default(), against)?;
    let hides = &file.opened.sheets[file.at].hides;
    analysis.warnings.splice(..0, hides.warnings(&reading.layout));
    Ok(Findings {
        kind,
        file,
        ready: ready_json(&analysis, &books),
        totals: totals_json(&analysis, &books),
        analysis,
    })
}

/// Each thing that is ready, where they are few.
fn ready_json(analysis: &Analysis, books: &Today) -> Vec<Value> {
    match &analysis.content {
        Content::Chart(accounts) => {
            let all = Chart::new(accounts.iter().map(|(_, account)| account.clone()));
            accounts.iter().map(|(row, account)| account_json(*row, account, &all)).collect()
        }
        Content::Crosswalk(crossings) => {
            crossings.iter().map(|crossing| crossing_json(crossing, &books.chart)).collect()
        }
        _ => Vec::new(),
    }
}

/// What amounts come to, debits positive.
fn totals_json(analysis: &Analysis, books: &Today) -> Value {
    let money = |sum: i128| json!(i64::try_from(sum).unwrap_or(i64::MAX));
    match &analysis.content {
        Content::Journal(journal) => {
            let by_account = journal.read.by_account.iter().map(|(id, (_, sum))| (*id, *sum));
            json!({
                "entries": journal.summary.entries,
                "lines": analysis.ready_rows,
                "debit": money(journal.summary.debits),
                "credit": money(journal.summary.debits),
                "by_account": sums(by_account, journal.chart()),
            })
        }
        Content::Balances(read) => {
            let (debits, credits) = (read.beside.debits, read.beside.credits);
            let by_account = read.balances.iter().map(|b| (b.account, b.amount.into()));
            json!({
                "debit": money(debits),
                "credit": money(credits),
                "difference": money(debits - credits),
                "by_account": sums(by_account, &books.chart),
            })
        }
        _ => Value::Null,
    }
}

/// Sums by code, debits positive.
fn sums(lines: impl Iterator<Item = (AccountId, i128)>, chart: &Chart) -> BTreeMap<String, i64> {
    let mut sums = BTreeMap::new();
    for (account, amount) in lines {
        if let Some(account) = chart.get(account) {
            let sum: &mut i64 = sums.entry(account.code.to_string()).or_default();
            *sum = sum.saturating_add(i64::try_from(amount).unwrap_or(i64::MAX));
        }
    }
    sums
}

fn account_json(row: u32, account: &Account, chart: &Chart) -> Value {
    let parent = account.parent.and_then(|p| chart.get(p)).map(|p| p.code.to_string());
    json!({
        "row": row,
        "code": account.code.as_str(),
        "name": account.name,
        "kind": account.kind.key(),
        "class": account.class.key(),
        "section": account.standard().map(|s| s.key()),
        "parent": parent,
        "role": account.role.map(|r| r.key()),
        "contra": account.contra,
        "currency": account.currency.map(|c| c.to_string()),
        "description": account.description,
        "tax": account.tax_code,
        "intervals": zf_core::code::Interval::format_list(&account.intervals),
    })
}

fn crossing_json(crossing: &crosswalk::Crossing, chart: &Chart) -> Value {
    let account = chart.get(crossing.account);
    let parent = account.and_then(|a| a.parent).and_then(|p| chart.get(p));
    let into = crossing.into.and_then(|id| chart.get(id)).map(|a| a.code.to_string());
    json!({
        "row": crossing.row,
        "code": crossing.code.as_str(),
        "name": account.map(|a| a.name.clone()),
        "class": account.map(|a| a.class.key()),
        "section": account.and_then(|a| a.standard()).map(|s| s.key()),
        "parent": parent.map(|p| p.code.to_string()),
        "new_code": crossing.new_code.as_str(),
        "new_name": crossing.new_name,
        "merged_into": into,
    })
}

impl Found for Findings {
    fn is_settled(&self) -> bool {
        self.analysis.rejected.is_empty()
    }

    fn json(&self) -> Value {
        let field = |column: &zf_intake::layout::ColumnFound| {
            let dimension = column.dimension.as_ref().map(|_| "dimension");
            column.field.map(|field| field.key()).or(dimension)
        };
        let columns = self.file.reading.layout.columns.iter();
        let columns = columns.map(|c| json!({ "header": c.heading, "field": field(c) }));
        let rejected = self.analysis.rejected.iter().map(|r| {
            json!({
                "row": r.row,
                "field": r.field.map(|field| field.key()),
                "value": r.value,
                "reason": r.reason.key(),
                "message": r.message,
            })
        });
        let warnings = self
            .analysis
            .warnings
            .iter()
            .map(|w| json!({ "row": w.row, "reason": w.reason.key(), "message": w.message }));
        let sheet = self.file.name();
        json!({
            "kind": self.kind.key(),
            "format": self.file.opened.kind,
            "sheet": Some(sheet).filter(|name| !name.is_empty()),
            "encoding": self.file.opened.encoding,
            "delimiter": self.file.opened.delimiter,
            "header_row": self.file.reading.layout.header_row,
            "date_order": self.file.reading.dates.map(|order| order.key()),
            "decimal_mark": self.file.reading.decimal.map(|mark| mark.key()),
            "columns": columns.collect::<Vec<_>>(),
            "ready": self.ready,
            "ready_rows": self.analysis.ready_rows,
            "rejected": rejected.collect::<Vec<_>>(),
            "warnings": warnings.collect::<Vec<_>>(),
            "totals": self.totals,
        })
    }
}

impl fmt::Display for Findings {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        let count = |n: usize| grouped(&n.to_string());
        let sheet = self.file.name();
        let place = if sheet.is_empty() { String::new() } else { format!(", sheet “{sheet}”") };
        let row = self.file.reading.layout.header_row;
        writeln!(f, "{}{place}, headings in row {row}", self.file.opened.kind)?;
        for column in &self.file.reading.layout.columns {
            let meaning = match (column.field, &column.dimension) {
                (Some(field), _) => field.words().to_owned(),
                (None, Some(name)) => format!("dimension {name}"),
                (None, None) => "not used".to_owned(),
            };
            writeln!(f, "  {:30} {meaning}", column.heading)?;
        }
        writeln!(
            f,
            "{} ready, {} rejected",
            counted(self.analysis.ready_rows, "row"),
            count(self.analysis.rejected.len())
        )?;
        for rejected in &self.analysis.rejected {
            writeln!(
                f,
                "  row {}: {} ({})",
                rejected.row,
                rejected.message,
                rejected.reason.key()
            )?;
        }
        for warning in &self.analysis.warnings {
            writeln!(f, "  row {}: {} (worth knowing)", warning.row, warning.message)?;
        }
        if let Some(totals) = self.totals.as_object() {
            for (what, sum) in totals.iter().filter(|(_, sum)| sum.is_number()) {
                writeln!(f, "  {what}: {sum}")?;
            }
        }
        Ok(())
    }
}
