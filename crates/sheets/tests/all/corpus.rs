//! Files as practice has them, with what each must give. A case is a file: its text above the line of
//! equals signs, what must come of it below, with the answers that are given behind
//! the signs. What must come was written by hand and never by the reader.
//!
//! Of balances `code amount` stands below, of a journal `number | date | code | amount` of each line, of a
//! crosswalk on the chart beside the folders `code: what the row does`. Of a chart stands a line for each account, `code | name | class | kind | under | caption | marks`, where a
//! code that is proposed is `+`, or `+` and the code where a case is about those, and `under` is a name; then `rejected: row reason`, `warned:
//! row reason` of totals, `role: name role` of roles that are proposed, where a case is about those, `asked: about`, and
//! `rows: 2 captions, …` for what else the sheet holds.

use std::collections::BTreeMap;
use std::path::Path;
use zf_core::chart::{Account, Chart, Kind};
use zf_core::entry::Entries;
use zf_core::file_kind::FileKind;
use zf_core::money::Currency;
use zf_core::overlap::Overlap;
use zf_core::policy::Policy;
use zf_core::today::Today;
use zf_intake::Sheet;
use zf_intake::analysis::choices::Choices;
use zf_intake::analysis::{Against, Analysis, Content};
use zf_intake::journal::{FileEntries, chart_of_codes};
use zf_intake::reason::Reason;
use zf_intake::table::Table;
use zf_intake::zero::zero;
use zf_phrases::intake::crossing;
use zf_sheets::How;

const SHEET: &str = "#### ";

fn books(chart: Chart) -> Today {
    Today {
        chart,
        activity: zf_core::activity::Activity::default(),
        usage: zf_core::usage::Usage::default(),
        former: zf_core::former::FormerCodes::default(),
        policy: Policy::default(),
        currency: Currency::parse("GBP").unwrap(),
        calendar: zf_core::calendar::FiscalCalendar::starting(1, 1).unwrap(),
        locked: None,
    }
}

/// A text is a file of text, or a workbook where lines as `#### Name` begin its sheets.
fn sheets(content: &[u8]) -> Vec<Sheet> {
    let read = |content: &[u8]| zf_sheets::read("chart.csv", content, &How::default()).unwrap();
    let text = String::from_utf8_lossy(content);
    if !text.starts_with(SHEET) {
        return read(content).sheets;
    }
    let parts = text.split(SHEET).skip(1).filter_map(|part| part.split_once('\n'));
    let sheet =
        |(name, rows): (&str, &str)| Sheet::new(name, read(rows.as_bytes()).sheets.remove(0).rows);
    parts.map(sheet).collect()
}

/// The chart that crosswalks are read against.
fn chart() -> Chart {
    let mut sheets = sheets(include_bytes!("../corpus/chart.csv"));
    let currency = Currency::parse("GBP").unwrap();
    let chosen = Choices::default().chosen().unwrap();
    let table = Table::find(FileKind::Chart, &mut sheets, currency, &chosen).unwrap();
    let today = books(Chart::default());
    let against = Against { today: &today, overlap: Overlap::default(), then: None };
    let (reading, rows) = (&table.reading, &*table.rows);
    let read = Analysis::of(FileKind::Chart, reading, rows, &Choices::default(), against).unwrap();
    match read.content {
        Content::Chart(read) => read.chart(),
        _ => Chart::default(),
    }
}

/// What a text comes to, in the words of the cases.
fn given(kind: FileKind, content: &[u8], answers: &str) -> Vec<String> {
    let currency = Currency::parse("GBP").unwrap();
    let mut sheets = sheets(content);
    let mut choices = Choices::default();
    for (about, reading) in answers.split(", ").filter_map(|answer| answer.split_once('=')) {
        choices.answer(about.parse().unwrap(), reading).unwrap();
    }
    let chosen = choices.chosen().unwrap();
    let mut table = Table::find(kind, &mut sheets, currency, &chosen).unwrap();
    let (reading, rows) = (&table.reading, &*table.rows);
    let today = books(match kind {
        FileKind::Chart => Chart::default(),
        FileKind::Crosswalk => chart(),
        _ => chart_of_codes(reading, rows),
    });
    let against = Against { today: &today, overlap: Overlap::default(), then: None };
    let mut analysis = Analysis::of(kind, reading, rows, &choices, against).unwrap();
    let zero = zero(kind, &table, &analysis, currency);
    let counted: usize = zero.taken().values().sum::<usize>() + zero.left_out();
    assert_eq!(counted, zero.rows(), "every row is accounted for");
    let asked = std::mem::take(&mut table.questions);
    analysis.warnings.extend(table.warnings.iter().cloned());
    assert!(zero.amounts.iter().all(|column| column.difference() == 0));
    let mut lines = ready(&analysis, &table, &today, answers);
    analysis.questions.splice(..0, asked);
    lines.extend(
        analysis.rejected.iter().map(|r| (table.reading.place(r.row), r.cause.reason().key())).map(
            |(place, reason)| match place.sheet {
                Some(sheet) => format!("rejected: {sheet} {} {reason}", place.row),
                None => format!("rejected: {} {reason}", place.row),
            },
        ),
    );
    let off = analysis.warnings.iter().filter(|warning| warning.cause.reason() == Reason::TotalOff);
    lines.extend(
        off.map(|warning| format!("warned: {} {}", warning.row, warning.cause.reason().key())),
    );
    lines.extend(analysis.questions.iter().map(|q| {
        let default = q.default.as_ref().map_or(String::new(), |key| format!(" = {key}"));
        format!("asked: {}{default}", q.about)
    }));
    let plain = ["accounts", "headings", "sums", "heads", "blank", "balances", "lines", "pairs"];
    let mut other: BTreeMap<_, _> =
        zero.taken().into_iter().map(|(kind, rows)| (kind.key(), rows)).collect();
    other.retain(|kind, _| !plain.contains(kind));
    if !other.is_empty() {
        let other: Vec<_> = other.iter().map(|(kind, n)| format!("{n} {kind}")).collect();
        lines.push(format!("rows: {}", other.join(", ")));
    }
    lines
}

/// What is ready of a file, a line each.
fn ready(analysis: &Analysis, table: &Table, today: &Today, answers: &str) -> Vec<String> {
    let money = |minor: i64| today.currency.format(minor.into());
    let code = |id| today.chart.get(id).map_or_else(String::new, |a| a.code.to_string());
    match &analysis.content {
        Content::Chart(read) => {
            let all = read.chart();
            let accounts = read.accounts.iter().map(|(_, account)| line(account, &all, answers));
            let roles = read.roles.iter().filter(|_| answers.contains("roles=no"));
            let roles = roles.map(|(id, role)| {
                format!("role: {} {}", all.get(*id).map_or("", |a| &a.name), role.key())
            });
            accounts.chain(roles).collect()
        }
        Content::Balances(read) => {
            let balances = read.balances.iter();
            balances.map(|b| format!("{} {}", code(b.account), money(b.amount))).collect()
        }
        Content::Journal(journal) => {
            let books = journal.books(today);
            let (reading, rows) = (&table.reading, &*table.rows);
            let entries = FileEntries { read: &journal.read, reading, rows, books: &books };
            let heads: Vec<_> = entries.heads().collect();
            let lines = entries.lines().map(|(at, line)| {
                let head = &heads[at];
                let amount = money(line.amount);
                format!("{} | {} | {} | {amount}", head.number, head.date, code(line.account))
            });
            lines.collect()
        }
        Content::Crosswalk(read) => {
            let crossings = read.crossings.iter();
            let crossings = crossings.map(|c| format!("{}: {}", c.code, crossing(c, &today.chart)));
            let added = read.added.iter().map(|(_, account)| {
                format!("new {}: {}, {}", account.code, account.name, account.class.key())
            });
            crossings.chain(added).collect()
        }
        _ => Vec::new(),
    }
}

fn line(account: &Account, all: &Chart, answers: &str) -> String {
    let code = match account.code_proposed {
        true if answers.contains("code") => format!("+{}", account.code),
        true => "+".to_owned(),
        false => account.code.to_string(),
    };
    let kind = if account.kind == Kind::Account { "" } else { account.kind.key() };
    let under = account.parent.and_then(|id| all.get(id)).map_or("", |heading| &heading.name);
    let caption = account.caption.as_ref().map_or("", |caption| &caption.name);
    let mut marks = Vec::new();
    marks.extend(account.contra.then(|| "contra".to_owned()));
    marks.extend(account.role.map(|role| role.key().to_owned()));
    marks.extend(
        (!account.intervals.is_empty())
            .then(|| zf_core::code::Interval::format_list(&account.intervals)),
    );
    if account.status != zf_core::chart::Status::Active {
        marks.push(account.status.key().to_owned());
    }
    let marks = marks.join(", ");
    let cells = [&code, &account.name, account.class.key(), kind, under, caption, &marks];
    cells.join(" | ").trim_end_matches([' ', '|']).to_owned()
}

/// Runs all cases of a folder.
fn all_of(kind: FileKind, folder: &str) {
    let folder = Path::new(env!("CARGO_MANIFEST_DIR")).join("tests/corpus").join(folder);
    let mut cases: Vec<_> = std::fs::read_dir(folder).unwrap().map(|e| e.unwrap().path()).collect();
    cases.sort();
    let mut wrong = Vec::new();
    for path in &cases {
        let text = std::fs::read_to_string(path).unwrap();
        let (file, must) = text.split_once("\n====").unwrap();
        let (answers, must) = must.split_once('\n').unwrap();
        let must: Vec<&str> = must.lines().filter(|line| !line.trim().is_empty()).collect();
        let given = given(kind, file.as_bytes(), answers.trim());
        if given != must {
            let name = path.file_stem().unwrap_or_default().to_string_lossy();
            wrong.push(format!(
                "{name}\n  must {}\n  is   {}",
                must.join("\n       "),
                given.join("\n       ")
            ));
        }
    }
    let (count, all) = (wrong.len(), cases.len());
    assert!(wrong.is_empty(), "{count} of {all} are wrong:\n{}", wrong.join("\n"));
}

#[test]
fn every_chart_of_the_corpus_comes_in_as_it_must() {
    all_of(FileKind::Chart, "charts");
}

#[test]
fn every_trial_balance_of_the_corpus_comes_in_as_it_must() {
    all_of(FileKind::Balances, "balances");
}

#[test]
fn every_journal_of_the_corpus_comes_in_as_it_must() {
    all_of(FileKind::Journal, "journals");
}

#[test]
fn every_crosswalk_of_the_corpus_comes_in_as_it_must() {
    all_of(FileKind::Crosswalk, "crosswalks");
}
