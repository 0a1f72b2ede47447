//! `zerofold inspect`: reads a file as the import would and says what was found, without a database.

use crate::files::{FileSheet, bare_books, code_format, read_chart};
use crate::output::{Found, say};
use anyhow::Context;
use clap::Args;
use serde_json::{Value, json};
use std::collections::BTreeMap;
use std::fmt;
use std::path::PathBuf;
use std::process::ExitCode;
use zf_core::chart::{Account, Chart, ControlRole};
use zf_core::file_kind::FileKind;
use zf_core::ids::AccountId;
use zf_core::money::Currency;
use zf_core::overlap::Overlap;
use zf_core::text::{counted, grouped};
use zf_core::today::Today;
use zf_intake::analysis::choices::Choices;
use zf_intake::analysis::{Against, Analysis, Content};
use zf_intake::chart::{CameFrom, Origins};
use zf_intake::dates::DateOrder;
use zf_intake::question::Question;
use zf_intake::reading::Reading;
use zf_intake::several::Place;
use zf_intake::zero::{ColumnAmounts, FileZero, SheetZero, words_of, zero};
use zf_intake::{crosswalk, journal};
use zf_sheets::How;

/// What to read, and what is chosen instead of being told from the file.
#[derive(Args)]
pub(crate) struct Inspect {
    /// What the file holds.
    #[arg(value_parser = ["chart", "journal", "balances", "crosswalk", "where-used", "usage"])]
    kind: String,
    /// The file: CSV, XLSX, XLS, ODS or an audit file.
    file: PathBuf,
    /// The sheet of a workbook.
    #[arg(long)]
    sheet: Option<String>,
    /// Which of three numbers of a date comes first.
    #[arg(long, value_parser = ["dmy", "mdy", "ymd"])]
    date_order: Option<String>,
    /// An answer to a question, as `dates=dmy`. What may be asked stands in `questions`.
    #[arg(long = "answer", value_name = "ABOUT=READING")]
    answers: Vec<String>,
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
    zero: FileZero,
}

pub(crate) fn run(asked: &Inspect) -> ExitCode {
    say(look(asked), asked.json)
}

fn look(asked: &Inspect) -> anyhow::Result<Findings> {
    let key = if asked.kind == "where-used" { "usage" } else { &asked.kind };
    let kind = FileKind::from_key(key).context("no such kind of file")?;
    let currency = Currency::parse(&asked.currency)?;
    let format = code_format(asked.code_format.as_deref())?;
    let mut choices = Choices { sheet: asked.sheet.clone(), ..Choices::default() };
    choices.dates = asked.date_order.as_deref().and_then(DateOrder::from_key);
    for answer in &asked.answers {
        let (about, reading) = answer
            .split_once('=')
            .with_context(|| format!("“{answer}” is no answer; write ABOUT=READING"))?;
        choices.answer(about.parse()?, reading)?;
    }
    let chosen = choices.chosen()?;
    let how = How { encoding: choices.encoding.clone(), delimiter: choices.delimiter };
    let file = FileSheet::open_as(&asked.file, kind, currency, &chosen, &how)?;
    let (reading, rows) = (file.reading(), file.rows());
    let given =
        asked.chart.as_deref().map(|path| read_chart(path, currency, format)).transpose()?;
    let given = given.map(|(chart, _)| chart);
    let chart = match kind {
        FileKind::Chart => Chart::default(),
        _ => given.unwrap_or_else(|| journal::chart_of_codes(reading, rows)),
    };
    let books = bare_books(chart, currency, format)?;
    let against = Against { today: &books, overlap: Overlap::default(), then: None };
    let mut analysis = Analysis::of(kind, reading, rows, &choices, against)?;
    let of_file = file.opened.question.iter().chain(&file.table.questions).cloned();
    analysis.questions.splice(..0, of_file);
    analysis.warnings.splice(..0, file.table.warnings(&file.opened.sheets));
    let zero = zero(kind, &file.table, &analysis, currency);
    Ok(Findings {
        kind,
        zero,
        ready: ready_json(&analysis, file.reading(), &books),
        totals: totals_json(&analysis, &books),
        file,
        analysis,
    })
}

/// Each thing that is ready, where they are few.
fn ready_json(analysis: &Analysis, reading: &Reading, books: &Today) -> Vec<Value> {
    match &analysis.content {
        Content::Chart(read) => {
            let all = read.chart();
            let json = |(row, account): &(u32, Account)| {
                let came_from = read.origins.get(&account.id).copied().unwrap_or_default();
                let role = read.roles.get(&account.id).filter(|_| account.role.is_none()).copied();
                account_json(reading.place(*row), account, &all, came_from, role)
            };
            read.accounts.iter().map(json).collect()
        }
        Content::Crosswalk(read) => {
            let crossings = read.crossings.iter();
            let crossings = crossings.map(|c| crossing_json(c, reading, &books.chart));
            let added = read.added.iter().map(|(row, account)| added_json(*row, account, reading));
            crossings.chain(added).collect()
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

fn account_json(
    place: Place<'_>,
    account: &Account,
    chart: &Chart,
    from: Origins,
    proposed: Option<ControlRole>,
) -> Value {
    let parent = chart.above(account).next();
    let mut path: Vec<&str> = chart.above(account).map(|heading| heading.name.as_str()).collect();
    path.reverse();
    path.push(&account.name);
    let key = |from: Option<CameFrom>| from.map(CameFrom::key);
    json!({
        "row": place.row,
        "sheet": place.sheet,
        "code": account.code.as_str(),
        "proposed_code": account.code_proposed,
        "name": account.name,
        "kind": account.kind.key(),
        "class": account.class.key(),
        "section": account.standard().map(|s| s.key()),
        "caption": account.caption.as_ref().map(|caption| &caption.name),
        "parent": parent.map(|p| p.code.to_string()),
        "path": path,
        "role": account.role.map(|r| r.key()),
        "proposed_role": proposed.map(|r| r.key()),
        "contra": account.contra,
        "currency": account.currency.map(|c| c.to_string()),
        "description": account.description,
        "tax": account.tax_code,
        "intervals": zf_core::code::Interval::format_list(&account.intervals),
        "came_from": {
            "code": key(from.code),
            "class": key(from.class),
            "kind": key(from.kind),
            "parent": key(from.parent),
            "contra": key(from.contra),
            "caption": key(from.caption),
            "role": key(from.role),
        },
    })
}

/// Rows by sheet; sheets that are not read are counted whole.
fn rows_json(zero: &FileZero) -> Vec<Value> {
    let sheet = |sheet: &SheetZero| {
        let left_out = sheet.left_out.iter();
        let left_out = left_out.map(|(row, why)| json!({ "row": row, "why": why.key() }));
        json!({
            "sheet": sheet.sheet,
            "rows": sheet.rows,
            "taken": sheet.taken,
            "left_out": left_out.collect::<Vec<_>>(),
        })
    };
    zero.sheets.iter().map(sheet).collect()
}

/// Amounts by column, in minor units.
fn amounts_json(zero: &FileZero) -> Vec<Value> {
    let minor = |sum: i128| i64::try_from(sum).unwrap_or(i64::MAX);
    let column = |column: &ColumnAmounts| {
        let left_out = column.left_out.iter();
        let left_out = left_out
            .map(|(why, (sum, rows))| json!({ "why": why, "sum": minor(*sum), "rows": rows }));
        json!({
            "column": column.column,
            "means": column.means.map(|field| field.key()),
            "sum": minor(column.sum),
            "taken": minor(column.taken),
            "left_out": left_out.collect::<Vec<_>>(),
        })
    };
    zero.amounts.iter().map(column).collect()
}

fn question_json(question: &Question) -> Value {
    let readings = question.readings.iter();
    let readings = readings.map(|r| json!({ "key": r.key, "say": r.say, "gives": r.gives }));
    json!({
        "about": question.about.to_string(),
        "say": question.say,
        "readings": readings.collect::<Vec<_>>(),
        "default": question.default,
    })
}

fn crossing_json(crossing: &crosswalk::Crossing, reading: &Reading, chart: &Chart) -> Value {
    let place = reading.place(crossing.row);
    let account = chart.get(crossing.account);
    let parent = account.and_then(|a| a.parent).and_then(|p| chart.get(p));
    let into = crossing.into.and_then(|id| chart.get(id)).map(|a| a.code.to_string());
    json!({
        "row": place.row,
        "sheet": place.sheet,
        "code": crossing.code.as_str(),
        "name": account.map(|a| a.name.clone()),
        "class": account.map(|a| a.class.key()),
        "section": account.and_then(|a| a.standard()).map(|s| s.key()),
        "parent": parent.map(|p| p.code.to_string()),
        "new_code": crossing.new_code.as_str(),
        "new_name": crossing.new_name,
        "merged_into": into,
        "does": crossing.says(chart),
    })
}

fn added_json(row: u32, account: &Account, reading: &Reading) -> Value {
    let place = reading.place(row);
    json!({
        "row": place.row,
        "sheet": place.sheet,
        "code": null,
        "name": null,
        "class": account.class.key(),
        "section": null,
        "parent": null,
        "new_code": account.code.as_str(),
        "new_name": account.name,
        "merged_into": null,
        "does": format!("added as {}", account.class.words()),
    })
}

impl Findings {
    /// The file's zero: every row and every amount, as taken or left out.
    fn write_zero(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        for sheet in &self.zero.sheets {
            let kinds = sheet.taken.iter().map(|(kind, rows)| format!("{rows} {}", words_of(kind)));
            let kinds: Vec<_> = kinds.collect();
            let name = if sheet.sheet.is_empty() { "the sheet" } else { &sheet.sheet };
            writeln!(f, "{} in {name}: {}", counted(sheet.rows, "row"), kinds.join(", "))?;
        }
        for column in &self.zero.amounts {
            write!(f, "  {} {}: taken {}", column.column, column.sum, column.taken)?;
            for (why, (sum, rows)) in &column.left_out {
                write!(f, ", left out {sum} ({why}, {})", counted(*rows, "row"))?;
            }
            writeln!(f, ", difference {}", column.difference())?;
        }
        for other in &self.file.table.also {
            let when = if other.before { "to be imported before" } else { "to be imported next" };
            writeln!(f, "the {} on “{}” is {when}", other.kind.words(), other.sheet)?;
        }
        for question in &self.analysis.questions {
            writeln!(f, "asked, {}: {}", question.about, question.say)?;
            for reading in &question.readings {
                let holds =
                    if question.default.as_ref() == Some(&reading.key) { " (holds)" } else { "" };
                writeln!(f, "  {}: {}; {}{holds}", reading.key, reading.say, reading.gives)?;
            }
        }
        Ok(())
    }
}

impl Found for Findings {
    fn is_settled(&self) -> bool {
        self.analysis.rejected.is_empty() && self.analysis.questions.is_empty()
    }

    fn json(&self) -> Value {
        let field = |column: &zf_intake::layout::ColumnFound| {
            let dimension = column.dimension.as_ref().map(|_| "dimension");
            column.field.map(|field| field.key()).or(dimension)
        };
        let columns = self.file.reading().layout.columns.iter();
        let columns = columns.map(|c| json!({ "header": c.heading, "field": field(c) }));
        let rejected = self.analysis.rejected.iter().map(|r| {
            let place = self.file.reading().place(r.row);
            json!({
                "row": place.row,
                "sheet": place.sheet,
                "field": r.field.map(|field| field.key()),
                "value": r.value,
                "reason": r.reason.key(),
                "message": r.message,
            })
        });
        let warnings = self.analysis.warnings.iter().map(|w| {
            let place = self.file.reading().place(w.row);
            json!({
                "row": place.row,
                "sheet": place.sheet,
                "reason": w.reason.key(),
                "message": w.message,
            })
        });
        let sheet = self.file.table.name();
        let also = self.file.table.also.iter();
        json!({
            "kind": self.kind.key(),
            "format": self.file.opened.kind,
            "sheet": Some(sheet).filter(|name| !name.is_empty()),
            "encoding": self.file.opened.encoding,
            "delimiter": self.file.opened.delimiter,
            "header_row": self.file.reading().layout.header_row,
            "date_order": self.file.reading().dates.map(|order| order.key()),
            "decimal_mark": self.file.reading().decimal.map(|mark| mark.key()),
            "columns": columns.collect::<Vec<_>>(),
            "ready": self.ready,
            "ready_rows": self.analysis.ready_rows,
            "rejected": rejected.collect::<Vec<_>>(),
            "warnings": warnings.collect::<Vec<_>>(),
            "totals": self.totals,
            "also": also.map(|other| json!({
                "kind": other.kind.key(),
                "sheet": other.sheet,
                "before": other.before,
            })).collect::<Vec<_>>(),
            "rows_of_file": rows_json(&self.zero),
            "amounts_of_file": amounts_json(&self.zero),
            "questions": self.analysis.questions.iter().map(question_json).collect::<Vec<_>>(),
        })
    }
}

impl fmt::Display for Findings {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        let count = |n: usize| grouped(&n.to_string());
        let sheet = self.file.table.name();
        let place = if sheet.is_empty() { String::new() } else { format!(", sheet “{sheet}”") };
        let row = self.file.reading().layout.header_row;
        writeln!(f, "{}{place}, headings in row {row}", self.file.opened.kind)?;
        for column in &self.file.reading().layout.columns {
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
        self.write_zero(f)?;
        for rejected in &self.analysis.rejected {
            writeln!(
                f,
                "  {}: {} ({})",
                self.file.reading().place(rejected.row),
                rejected.message,
                rejected.reason.key()
            )?;
        }
        for warning in &self.analysis.warnings {
            let place = self.file.reading().place(warning.row);
            writeln!(f, "  {place}: {} (worth knowing)", warning.message)?;
        }
        if let Some(totals) = self.totals.as_object() {
            for (what, sum) in totals.iter().filter(|(_, sum)| sum.is_number()) {
                writeln!(f, "  {what}: {sum}")?;
            }
        }
        Ok(())
    }
}
