//! Charts as practice has them, with what each must give. A case is a file: its text above the line of
//! equals signs, what must come of it below, with the answers that are given behind
//! the signs. What must come was written by hand and never by the reader.
//!
//! Below stands a line for each account, `code | name | class | kind | under | caption | marks`, where a
//! code that is proposed is `+`, or `+` and the code where a case is about those, and `under` is a name; then `rejected: row reason`, `warned:
//! row reason` of totals, `role: name role` of roles that are proposed, where a case is about those, `asked: about`, and
//! `rows: 2 captions, …` for what else the sheet holds.

use std::collections::BTreeMap;
use std::path::Path;
use zf_core::chart::{Account, Chart, Kind};
use zf_core::file_kind::FileKind;
use zf_core::money::Currency;
use zf_core::policy::Policy;
use zf_core::today::Today;
use zf_intake::Sheet;
use zf_intake::analysis::choices::Choices;
use zf_intake::analysis::{Against, Analysis, Content};
use zf_intake::reason::Reason;
use zf_intake::table::Table;
use zf_intake::zero::zero;
use zf_sheets::How;

const SHEET: &str = "#### ";

fn books() -> Today {
    Today {
        chart: Chart::default(),
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

/// What a text comes to, in the words of the cases.
fn given(content: &[u8], answers: &str) -> Vec<String> {
    let books = books();
    let mut sheets = sheets(content);
    let mut choices = Choices::default();
    for (about, reading) in answers.split(", ").filter_map(|answer| answer.split_once('=')) {
        choices.answer(about, reading).unwrap();
    }
    let chosen = choices.chosen().unwrap();
    let mut table = Table::find(FileKind::Chart, &mut sheets, books.currency, &chosen).unwrap();
    let (reading, rows) = (&table.reading, &*table.rows);
    let against = Against { today: &books, entries: Default::default(), then: None };
    let mut analysis = Analysis::of(FileKind::Chart, reading, rows, &choices, against).unwrap();
    let zero = zero(FileKind::Chart, &table, &analysis, books.currency);
    let counted: usize = zero.taken().values().sum::<usize>() + zero.left_out();
    assert_eq!(counted, zero.rows(), "every row is accounted for");
    analysis.questions.splice(..0, table.question.take());
    assert!(zero.amounts.iter().all(|column| column.difference() == 0));
    let mut lines = Vec::new();
    if let Content::Chart(read) = &analysis.content {
        let all = read.chart();
        lines.extend(read.accounts.iter().map(|(_, account)| line(account, &all, answers)));
        let roles = read.roles.iter().filter(|_| answers.contains("roles=no"));
        lines.extend(roles.map(|(id, role)| {
            format!("role: {} {}", all.get(*id).map_or("", |a| &a.name), role.key())
        }));
    }
    lines.extend(
        analysis.rejected.iter().map(|r| (table.reading.place(r.row), r.reason.key())).map(
            |(place, reason)| match place.sheet {
                Some(sheet) => format!("rejected: {sheet} {} {reason}", place.row),
                None => format!("rejected: {} {reason}", place.row),
            },
        ),
    );
    let off = analysis.warnings.iter().filter(|warning| warning.reason == Reason::TotalOff);
    lines.extend(off.map(|warning| format!("warned: {} {}", warning.row, warning.reason.key())));
    lines.extend(analysis.questions.iter().map(|q| {
        let default = q.default.as_ref().map_or(String::new(), |key| format!(" = {key}"));
        format!("asked: {}{default}", q.about)
    }));
    let plain = ["accounts", "headings", "sums", "heads", "blank"];
    let other: BTreeMap<_, _> =
        zero.taken().into_iter().filter(|(kind, _)| !plain.contains(kind)).collect();
    if !other.is_empty() {
        let other: Vec<_> = other.iter().map(|(kind, n)| format!("{n} {kind}")).collect();
        lines.push(format!("rows: {}", other.join(", ")));
    }
    lines
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

#[test]
fn every_chart_of_the_corpus_comes_in_as_it_must() {
    let folder = Path::new(env!("CARGO_MANIFEST_DIR")).join("tests/corpus/charts");
    let mut cases: Vec<_> = std::fs::read_dir(folder).unwrap().map(|e| e.unwrap().path()).collect();
    cases.sort();
    let mut wrong = Vec::new();
    for path in &cases {
        let text = std::fs::read_to_string(path).unwrap();
        let (file, must) = text.split_once("\n====").unwrap();
        let (answers, must) = must.split_once('\n').unwrap();
        let must: Vec<&str> = must.lines().filter(|line| !line.trim().is_empty()).collect();
        let given = given(file.as_bytes(), answers.trim());
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
