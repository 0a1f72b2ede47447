//! Which figures of a trial balance are read, what only adds up others, and what is said of a difference.

use crate::books::gbp;
use proptest::prelude::*;
use zf_core::chart::{Account, Chart, Class, Kind};
use zf_core::code::Code;
use zf_core::file_kind::FileKind;
use zf_core::ids::AccountId;
use zf_core::money::Currency;
use zf_core::overlap::Overlap;
use zf_core::today::Today;
use zf_intake::analysis::choices::Choices;
use zf_intake::analysis::{Against, Analysis, Content};
use zf_intake::journal::chart_of_codes;
use zf_intake::numbers::DecimalMark;
use zf_intake::question::About;
use zf_intake::question::{Gives, Question};
use zf_intake::reason::Reason;
use zf_intake::table::Table;
use zf_intake::{Cell, RawRow, Sheet};
use zf_phrases::{Style, intake as phrases};

/// Reads balances, with answers such as `figures=C+D`, against a chart or the codes of the file.
fn read(text: &str, answers: &[&str], chart: Option<Chart>) -> (Analysis, Chart) {
    let cells = |line: &str| line.split('|').map(Cell::text).collect();
    let rows = (1..).zip(text.lines()).map(|(number, line)| RawRow { number, cells: cells(line) });
    let mut sheets = [Sheet::new("", Box::new(rows.collect::<Vec<_>>()))];
    let mut choices = Choices::default();
    for answer in answers {
        let (about, reading) = answer.split_once('=').unwrap();
        choices.answer(about.parse().unwrap(), reading).unwrap();
    }
    let chosen = choices.chosen().unwrap();
    let table = Table::find(FileKind::Balances, &mut sheets, gbp(), &chosen).unwrap();
    let chart = chart.unwrap_or_else(|| chart_of_codes(&table.reading, &*table.rows));
    let today =
        Today { chart: chart.clone(), former: Default::default(), ..crate::books::railway() };
    let against = Against { today: &today, overlap: Overlap::default(), then: None };
    let reading = &table.reading;
    let analysis =
        Analysis::of(FileKind::Balances, reading, &*table.rows, &choices, against).unwrap();
    (analysis, chart)
}

fn balances(analysis: &Analysis, chart: &Chart) -> Vec<String> {
    let read = match &analysis.content {
        Content::Balances(read) => read.balances.as_slice(),
        _ => &[],
    };
    let said = |b: &zf_intake::balances::NewBalance| {
        format!("{} {}", chart.get(b.account).unwrap().code, b.amount)
    };
    read.iter().map(said).collect()
}

const WIDE: &str =
    "Code|Name|2026|2025|Budget\n1000|Bank|5.00|4.00|9.00\n3000|Capital|-5.00|-4.00|-9.00";

#[test]
fn the_latest_year_holds_until_another_is_chosen_and_budgets_are_no_choice() {
    let (open, chart) = read(WIDE, &[], None);
    let question = &open.questions[0];
    assert_eq!(
        (question.about.to_string().as_str(), question.default.as_deref()),
        ("figures", Some("C"))
    );
    let sums = question.readings.iter().map(|reading| match reading.gives {
        Gives::Sides { debits, credits, .. } => (reading.key.as_str(), debits, credits),
        _ => panic!("{reading:?}"),
    });
    assert_eq!(sums.collect::<Vec<_>>(), [("C", 500, 500), ("D", 400, 400)]);
    assert_eq!(balances(&open, &chart), ["1000 500", "3000 -500"]);
    let (said, chart) = read(WIDE, &["figures=D"], None);
    assert!(said.questions.is_empty());
    assert_eq!(balances(&said, &chart), ["1000 400", "3000 -400"]);
    // An answer that names no columns of this file is none.
    let (strange, _) = read(WIDE, &["figures=Q"], None);
    assert_eq!(strange.questions.len(), 1);
}

#[test]
fn what_cannot_be_read_of_the_figures_rejects_its_row() {
    let text = format!("{WIDE}\n4000|Sales|lots|1.00|");
    let (read, chart) = read(&text, &["figures=C"], None);
    let rejected: Vec<_> = read.rejected.iter().map(|r| (r.row, r.cause.reason())).collect();
    assert_eq!(rejected, [(4, Reason::AmountUnreadable)]);
    assert_eq!(balances(&read, &chart).len(), 2);
}

/// A heading over two accounts, and one beside them.
fn chart() -> Chart {
    let account = |id, code: &str, parent: Option<i64>| Account {
        parent: parent.map(AccountId),
        ..Account::new(AccountId(id), Code::parse(code).unwrap(), code.to_owned(), Class::Asset)
    };
    let heading = Account { kind: Kind::Heading, ..account(1, "100", None) };
    Chart::new([
        heading,
        account(2, "700", Some(1)),
        account(3, "800", Some(1)),
        account(4, "900", None),
    ])
}

#[test]
fn a_heading_that_adds_up_its_accounts_is_passed_over_and_another_is_not() {
    let file = |heading: &str| {
        format!("Code|Name|Balance\n100|All|{heading}\n700|A|2.00\n800|B|3.00\n900|C|-5.00")
    };
    let (sums, chart_) = read(&file("5.00"), &[], Some(chart()));
    assert_eq!(balances(&sums, &chart_), ["700 200", "800 300", "900 -500"]);
    assert!(sums.questions.is_empty() && sums.warnings.len() == 1);
    let (own, chart_) = read(&file("4.00"), &[], Some(chart()));
    assert_eq!(balances(&own, &chart_).len(), 4, "it holds something of its own");
    assert_eq!(own.questions[0].about, About::Difference);
}

#[test]
fn a_difference_names_what_could_explain_it() {
    let say = |text: &str| {
        let (analysis, _) = read(&format!("Code|Name|Balance\n{text}"), &[], None);
        let words = |question: &Question| phrases::question(&question.asks, Style::default());
        analysis.questions.iter().map(words).collect::<Vec<_>>().join("")
    };
    assert_eq!(say("1|A|5.00\n2|B|-5.00"), "");
    assert!(say("1|A|5.00\n2|B|-5.00\n3|C|7.13").contains("row 4 (3 3) has just that amount"));
    assert!(say("1|A|5.00\n2|B|-5.00\n3|C|-7.13").contains("has just that amount"));
    assert!(say("1|A|9.50\n2|B|3.11\n3|C|3.11\n4|D|-9.50").contains("has half of it"));
    assert!(say("1|A|9.54\n2|B|-9.45").contains("divided by nine"));
    assert!(say("1|A|9.54\n2|B|-9.55").contains("rounding"));
    assert!(say("1|A|9.54\n2|B|-2.00").contains("Nothing in the file explains it"));
}

#[test]
fn months_are_read_one_by_one_or_added_up() {
    let text = "Code|Name|Jan|Feb|Mar\n1000|Bank|1.00|2.00|3.00\n3000|Capital|-1.00|-2.00|-3.00";
    let (open, _) = read(text, &[], None);
    let keys: Vec<_> = open.questions[0].readings.iter().map(|r| r.key.as_str()).collect();
    assert_eq!(keys, ["C", "D", "E", "C+D+E"]);
    assert_eq!(open.questions[0].default, None, "nothing tells balances from movements");
    for (key, amount) in [("C", 100), ("E", 300), ("C+D+E", 600)] {
        let (said, chart) = read(text, &[&format!("figures={key}")], None);
        assert_eq!(balances(&said, &chart), [format!("1000 {amount}"), format!("3000 -{amount}")]);
    }
}

#[test]
fn columns_that_a_person_names_are_no_question() {
    let (said, chart) = read(WIDE, &["column:2025=amount"], None);
    assert!(said.questions.is_empty(), "{:?}", said.questions);
    assert_eq!(balances(&said, &chart), ["1000 400", "3000 -400"]);
}

proptest! {
    #[test]
    fn written_amounts_read_back(minor in -i64::MAX..i64::MAX, code in "(GBP|JPY|BHD)") {
        let currency = Currency::parse(&code).unwrap();
        let point = Style::default().money(currency, minor.into());
        prop_assert_eq!(DecimalMark::Point.read(currency, &point), Ok(minor));
        let swapped: String = point.chars().map(|c| match c { '.' => ',', ',' => '.', c => c }).collect();
        prop_assert_eq!(DecimalMark::Comma.read(currency, &swapped), Ok(minor));
    }
}
