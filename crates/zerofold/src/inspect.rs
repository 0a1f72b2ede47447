//! `zerofold inspect`: reads a file as the import would and says what was found, without a database.

use crate::files::{FileSheet, bare_books, code_format, read_chart};
use crate::output::{Found, STYLE, say};
use anyhow::Context;
use clap::Args;
use std::collections::BTreeMap;
use std::fmt;
use std::path::PathBuf;
use std::process::ExitCode;
use zf_core::chart::{Account, Chart, ControlRole};
use zf_core::file_kind::FileKind;
use zf_core::ids::AccountId;
use zf_core::money::Currency;
use zf_core::overlap::Overlap;
use zf_core::today::Today;
use zf_intake::analysis::choices::Choices;
use zf_intake::analysis::{Against, Analysis, Content};
use zf_intake::chart::{CameFrom, Origins};
use zf_intake::dates::DateOrder;
use zf_intake::layout::ColumnFound;
use zf_intake::question::{Answer, Question};
use zf_intake::reading::Reading;
use zf_intake::rows::Place;
use zf_intake::zero::{ColumnAmounts, FileZero, SheetZero, zero};
use zf_intake::{crosswalk, journal};
use zf_phrases::intake as phrases;
use zf_sheets::How;
use zf_wire::output::inspect::{
    self as output, Column, Inspected, LeftOutAmounts, LeftOutRow, OtherSheet, Ready, SheetRows,
    Totals,
};
use zf_wire::output::minor;

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
    ready: Vec<Ready>,
    totals: Option<Totals>,
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
        ready: ready_of(&analysis, file.reading(), &books),
        totals: totals_of(&analysis, &books),
        file,
        analysis,
    })
}

/// Each thing that is ready, where they are few.
fn ready_of(analysis: &Analysis, reading: &Reading, books: &Today) -> Vec<Ready> {
    match &analysis.content {
        Content::Chart(read) => {
            let all = read.chart();
            let output = |(row, account): &(u32, Account)| {
                let came_from = read.origins.get(&account.id).copied().unwrap_or_default();
                let role = read.roles.get(&account.id).filter(|_| account.role.is_none()).copied();
                let account = account_of(reading.place(*row), account, &all, came_from, role);
                Ready::Account(Box::new(account))
            };
            read.accounts.iter().map(output).collect()
        }
        Content::Crosswalk(read) => {
            let crossings = read.crossings.iter();
            let crossings = crossings.map(|c| crossing_of(c, reading, &books.chart));
            let added = read.added.iter().map(|(row, account)| added_of(*row, account, reading));
            crossings.chain(added).map(|crossing| Ready::Crossing(Box::new(crossing))).collect()
        }
        _ => Vec::new(),
    }
}

/// What amounts come to, debits positive.
fn totals_of(analysis: &Analysis, books: &Today) -> Option<Totals> {
    match &analysis.content {
        Content::Journal(journal) => {
            let by_account = journal.read.by_account.iter().map(|(id, (_, sum))| (*id, *sum));
            Some(Totals::Journal {
                entries: journal.summary.entries,
                lines: analysis.ready_rows,
                debit: minor(journal.summary.debits),
                credit: minor(journal.summary.debits),
                by_account: sums(by_account, journal.chart()),
            })
        }
        Content::Balances(read) => {
            let (debits, credits) = (read.beside.debits, read.beside.credits);
            let by_account = read.balances.iter().map(|b| (b.account, b.amount.into()));
            Some(Totals::Balances {
                debit: minor(debits),
                credit: minor(credits),
                difference: minor(debits - credits),
                by_account: sums(by_account, &books.chart),
            })
        }
        _ => None,
    }
}

/// Sums by code, debits positive.
fn sums(lines: impl Iterator<Item = (AccountId, i128)>, chart: &Chart) -> BTreeMap<String, i64> {
    let mut sums = BTreeMap::new();
    for (account, amount) in lines {
        if let Some(account) = chart.get(account) {
            let sum: &mut i64 = sums.entry(account.code.to_string()).or_default();
            *sum = sum.saturating_add(minor(amount));
        }
    }
    sums
}

fn account_of(
    place: Place,
    account: &Account,
    chart: &Chart,
    from: Origins,
    proposed: Option<ControlRole>,
) -> output::Account {
    let parent = chart.above(account).next();
    let mut path: Vec<String> = chart.above(account).map(|heading| heading.name.clone()).collect();
    path.reverse();
    path.push(account.name.clone());
    let key = |from: Option<CameFrom>| from.map(CameFrom::key);
    output::Account {
        row: place.row,
        sheet: place.sheet,
        code: account.code.to_string(),
        proposed_code: account.code_proposed,
        name: account.name.clone(),
        kind: account.kind.key(),
        class: account.class.key(),
        section: account.standard().map(|s| s.key()),
        caption: account.caption.as_ref().map(|caption| caption.name.clone()),
        parent: parent.map(|p| p.code.to_string()),
        path,
        role: account.role.map(|r| r.key()),
        proposed_role: proposed.map(|r| r.key()),
        contra: account.contra,
        currency: account.currency.map(|c| c.to_string()),
        description: account.description.clone(),
        tax: account.tax_code.clone(),
        intervals: zf_core::code::Interval::format_list(&account.intervals),
        came_from: output::CameFrom {
            code: key(from.code),
            class: key(from.class),
            kind: key(from.kind),
            parent: key(from.parent),
            contra: key(from.contra),
            caption: key(from.caption),
            role: key(from.role),
        },
    }
}

/// Rows by sheet; sheets that are not read are counted whole.
fn rows_of(zero: &FileZero) -> Vec<SheetRows> {
    let sheet = |sheet: &SheetZero| SheetRows {
        sheet: sheet.sheet.clone(),
        rows: sheet.rows,
        taken: sheet.taken.iter().map(|(kind, rows)| (kind.key(), *rows)).collect(),
        left_out: sheet
            .left_out
            .iter()
            .map(|(row, why)| LeftOutRow { row: *row, why: why.key() })
            .collect(),
    };
    zero.sheets.iter().map(sheet).collect()
}

/// Amounts by column, in minor units.
fn amounts_of(zero: &FileZero) -> Vec<output::ColumnAmounts> {
    let column = |column: &ColumnAmounts| output::ColumnAmounts {
        column: column.column.clone(),
        means: column.means.map(|field| field.key()),
        sum: minor(column.sum),
        taken: minor(column.taken),
        left_out: column
            .left_out
            .iter()
            .map(|(why, (sum, rows))| LeftOutAmounts {
                why: phrases::left_out(*why),
                sum: minor(*sum),
                rows: *rows,
            })
            .collect(),
    };
    zero.amounts.iter().map(column).collect()
}

fn question_of(question: &Question) -> output::Question {
    let reading = |reading: &Answer| output::Reading {
        key: reading.key.clone(),
        say: phrases::means(&reading.means),
        gives: phrases::gives(&reading.gives, STYLE),
    };
    output::Question {
        about: question.about.to_string(),
        say: phrases::question(&question.asks, STYLE),
        readings: question.readings.iter().map(reading).collect(),
        default: question.default.clone(),
    }
}

fn crossing_of(
    crossing: &crosswalk::Crossing,
    reading: &Reading,
    chart: &Chart,
) -> output::Crossing {
    let place = reading.place(crossing.row);
    let account = chart.get(crossing.account);
    let parent = account.and_then(|a| a.parent).and_then(|p| chart.get(p));
    let into = crossing.into.and_then(|id| chart.get(id)).map(|a| a.code.to_string());
    output::Crossing {
        row: place.row,
        sheet: place.sheet,
        code: Some(crossing.code.to_string()),
        name: account.map(|a| a.name.clone()),
        class: account.map(|a| a.class.key()),
        section: account.and_then(|a| a.standard()).map(|s| s.key()),
        parent: parent.map(|p| p.code.to_string()),
        new_code: crossing.new_code.to_string(),
        new_name: crossing.new_name.clone(),
        merged_into: into,
        does: phrases::crossing(crossing, chart),
    }
}

fn added_of(row: u32, account: &Account, reading: &Reading) -> output::Crossing {
    let place = reading.place(row);
    output::Crossing {
        row: place.row,
        sheet: place.sheet,
        code: None,
        name: None,
        class: Some(account.class.key()),
        section: None,
        parent: None,
        new_code: account.code.to_string(),
        new_name: Some(account.name.clone()),
        merged_into: None,
        does: format!("added as {}", account.class.words()),
    }
}

impl Findings {
    /// The file's zero: every row and every amount, as taken or left out.
    fn write_zero(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        for sheet in &self.zero.sheets {
            let kinds =
                sheet.taken.iter().map(|(kind, rows)| format!("{rows} {}", phrases::kind(*kind)));
            let kinds: Vec<_> = kinds.collect();
            let name = if sheet.sheet.is_empty() { "the sheet" } else { &sheet.sheet };
            writeln!(f, "{} in {name}: {}", STYLE.counted(sheet.rows, "row"), kinds.join(", "))?;
        }
        for column in &self.zero.amounts {
            write!(f, "  {} {}: taken {}", column.column, column.sum, column.taken)?;
            for (why, (sum, rows)) in &column.left_out {
                let (why, rows) = (phrases::left_out(*why), STYLE.counted(*rows, "row"));
                write!(f, ", left out {sum} ({why}, {rows})")?;
            }
            writeln!(f, ", difference {}", column.difference())?;
        }
        for other in &self.file.table.also {
            let when = if other.before { "to be imported before" } else { "to be imported next" };
            writeln!(f, "the {} on “{}” is {when}", other.kind.words(), other.sheet)?;
        }
        for question in &self.analysis.questions {
            let asked = phrases::question(&question.asks, STYLE);
            writeln!(f, "asked, {}: {asked}", question.about)?;
            for reading in &question.readings {
                let holds =
                    if question.default.as_ref() == Some(&reading.key) { " (holds)" } else { "" };
                let means = phrases::means(&reading.means);
                let gives = phrases::gives(&reading.gives, STYLE);
                writeln!(f, "  {}: {means}; {gives}{holds}", reading.key)?;
            }
        }
        Ok(())
    }
}

impl Found for Findings {
    fn is_settled(&self) -> bool {
        self.analysis.rejected.is_empty() && self.analysis.questions.is_empty()
    }

    type Output = Inspected;

    fn output(&self) -> Inspected {
        let (reading, table) = (self.file.reading(), &self.file.table);
        let column = |column: &ColumnFound| {
            let dimension = column.dimension.as_ref().map(|_| "dimension");
            Column {
                header: column.heading.clone(),
                field: column.field.map(|field| field.key()).or(dimension),
            }
        };
        let rejected = self.analysis.rejected.iter().map(|rejected| {
            let place = reading.place(rejected.row);
            output::Rejected {
                row: place.row,
                sheet: place.sheet,
                field: rejected.field.map(|field| field.key()),
                value: rejected.value.clone(),
                reason: rejected.cause.reason().key(),
                message: phrases::sentence(&rejected.cause, STYLE),
            }
        });
        let warnings = self.analysis.warnings.iter().map(|warning| {
            let place = reading.place(warning.row);
            output::Warning {
                row: place.row,
                sheet: place.sheet,
                reason: warning.cause.reason().key(),
                message: phrases::sentence(&warning.cause, STYLE),
            }
        });
        let also = table.also.iter().map(|other| OtherSheet {
            kind: other.kind.key(),
            sheet: other.sheet.clone(),
            before: other.before,
        });
        let opened = &self.file.opened;
        Inspected {
            kind: self.kind.key(),
            format: opened.kind.to_string(),
            sheet: Some(table.name()).filter(|name| !name.is_empty()).map(|name| name.to_string()),
            encoding: opened.encoding.map(|encoding| encoding.to_string()),
            delimiter: opened.delimiter,
            header_row: reading.layout.header_row,
            date_order: reading.dates.map(|order| order.key()),
            decimal_mark: reading.decimal.map(|mark| mark.key()),
            columns: reading.layout.columns.iter().map(column).collect(),
            ready: self.ready.clone(),
            ready_rows: self.analysis.ready_rows,
            rejected: rejected.collect(),
            warnings: warnings.collect(),
            totals: self.totals.clone(),
            also: also.collect(),
            rows_of_file: rows_of(&self.zero),
            amounts_of_file: amounts_of(&self.zero),
            questions: self.analysis.questions.iter().map(question_of).collect(),
        }
    }
}

impl fmt::Display for Findings {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        let count = |n: usize| STYLE.number(n);
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
            STYLE.counted(self.analysis.ready_rows, "row"),
            count(self.analysis.rejected.len())
        )?;
        self.write_zero(f)?;
        for rejected in &self.analysis.rejected {
            writeln!(
                f,
                "  {}: {} ({})",
                phrases::place(&self.file.reading().place(rejected.row)),
                phrases::sentence(&rejected.cause, STYLE),
                rejected.cause.reason().key()
            )?;
        }
        for warning in &self.analysis.warnings {
            let place = phrases::place(&self.file.reading().place(warning.row));
            let sentence = phrases::sentence(&warning.cause, STYLE);
            writeln!(f, "  {place}: {sentence} (worth knowing)")?;
        }
        match &self.totals {
            Some(Totals::Journal { entries, lines, debit, credit, .. }) => {
                writeln!(f, "  entries: {entries}\n  lines: {lines}")?;
                writeln!(f, "  debit: {debit}\n  credit: {credit}")
            }
            Some(Totals::Balances { debit, credit, difference, .. }) => {
                writeln!(f, "  debit: {debit}\n  credit: {credit}\n  difference: {difference}")
            }
            None => Ok(()),
        }
    }
}
