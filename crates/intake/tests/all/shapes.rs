//! Random journals, balances and crosswalks written into the layouts that practice has, and read back.

use crate::books::gbp;
use proptest::prelude::*;
use std::collections::BTreeMap;
use zf_core::chart::{Account, Chart, Class};
use zf_core::code::Code;
use zf_core::file_kind::FileKind;
use zf_core::ids::AccountId;
use zf_core::overlap::Overlap;
use zf_core::today::Today;
use zf_intake::analysis::choices::Choices;
use zf_intake::analysis::{Against, Analysis, Content};
use zf_intake::journal::chart_of_codes;
use zf_intake::question::About;
use zf_intake::table::Table;
use zf_intake::zero::{FileZero, zero};
use zf_intake::{Cell, RawRow, Sheet};

/// A debit account, a credit account, a day and an amount in minor units.
type Posted = (usize, usize, u8, i64);

const ACCOUNTS: [&str; 5] = ["1000", "3000", "4000", "5000", "6000"];

fn posted() -> impl Strategy<Value = Vec<Posted>> {
    let one = (0..5_usize, 0..5_usize, 1..29_u8, 1..900_000_i64);
    let apart = one.prop_filter("two accounts", |(debit, credit, ..)| debit != credit);
    prop::collection::vec(apart, 1..12)
}

fn money(minor: i64) -> String {
    format!("{}{}.{:02}", if minor < 0 { "-" } else { "" }, minor.abs() / 100, minor.abs() % 100)
}

fn row(cells: &[&str]) -> Vec<String> {
    cells.iter().map(|cell| (*cell).to_owned()).collect()
}

/// What a file comes to by account, with its zero.
fn read(
    kind: FileKind,
    lines: &[Vec<String>],
    chart: Option<Chart>,
) -> (Analysis, Chart, FileZero) {
    let number = |(number, cells): (u32, &Vec<String>)| RawRow {
        number,
        cells: cells.iter().map(|cell| Cell::text(cell)).collect(),
    };
    let rows: Vec<RawRow> = (1..).zip(lines).map(number).collect();
    let choices = Choices::default();
    let chosen = choices.chosen().unwrap();
    let mut sheets = [Sheet::new("", Box::new(rows))];
    let table = Table::find(kind, &mut sheets, gbp(), &chosen).unwrap();
    let chart = chart.unwrap_or_else(|| chart_of_codes(&table.reading, &*table.rows));
    let today =
        Today { chart: chart.clone(), former: Default::default(), ..crate::books::railway() };
    let against = Against { today: &today, overlap: Overlap::default(), then: None };
    let analysis = Analysis::of(kind, &table.reading, &*table.rows, &choices, against).unwrap();
    let zero = zero(kind, &table, &analysis, gbp());
    assert!(zero.amounts.iter().all(|column| column.difference() == 0), "{:?}", zero.amounts);
    assert_eq!(zero.taken().values().sum::<usize>() + zero.left_out(), zero.rows());
    (analysis, chart, zero)
}

/// Entries and sums by code, of a journal.
fn journal(lines: &[Vec<String>]) -> (usize, BTreeMap<String, i128>) {
    let (analysis, chart, _) = read(FileKind::Journal, lines, None);
    assert!(analysis.rejected.is_empty(), "{:?}", analysis.rejected);
    let read = match analysis.content {
        Content::Journal(journal) => Some(journal),
        _ => None,
    };
    let read = read.expect("a journal").read;
    let sums = read
        .by_account
        .iter()
        .map(|(id, (_, sum))| (chart.get(*id).unwrap().code.to_string(), *sum));
    (read.entries, sums.collect())
}

fn sums(posted: &[Posted]) -> BTreeMap<String, i128> {
    let mut sums = BTreeMap::new();
    for (debit, credit, _, amount) in posted {
        *sums.entry(ACCOUNTS[*debit].to_owned()).or_default() += i128::from(*amount);
        *sums.entry(ACCOUNTS[*credit].to_owned()).or_default() -= i128::from(*amount);
    }
    sums
}

/// The lines of each account with what it comes to, as a ledger prints them.
fn grouped(posted: &[Posted], numbered: bool) -> Vec<Vec<String>> {
    let mut lines = vec![row(&["Ledger"]), row(&[])];
    let (number, reference) = if numbered { ("Entry no", "Ref") } else { ("Ref", "Page") };
    lines.push(row(&["Date", number, reference, "Details", "Debit", "Credit", "Balance"]));
    for (at, code) in ACCOUNTS.iter().enumerate() {
        lines.push(row(&[&format!("{code} Account of {at}")]));
        let (mut balance, mut debits, mut credits) = (0, 0, 0);
        for (n, (debit, credit, day, amount)) in posted.iter().enumerate() {
            if ![*debit, *credit].contains(&at) {
                continue;
            }
            let is_debit = *debit == at;
            balance += if is_debit { *amount } else { -amount };
            *(if is_debit { &mut debits } else { &mut credits }) += amount;
            let (left, right) = if is_debit {
                (money(*amount), String::new())
            } else {
                (String::new(), money(*amount))
            };
            lines.push(row(&[
                &format!("2026-03-{day:02}"),
                &format!("J{n}"),
                "",
                "Balance of a thing",
                &left,
                &right,
                &money(balance),
            ]));
        }
        lines.push(row(&["Total", "", "", "", &money(debits), &money(credits)]));
    }
    lines
}

proptest! {
    #[test]
    fn a_journal_is_the_same_in_every_shape(posted in posted()) {
        let must = (posted.len(), sums(&posted));
        let day = |day: &u8| format!("2026-03-{day:02}");
        let mut pairs = vec![row(&["Date", "No", "Debit account", "Credit account", "Amount"])];
        let mut heads = vec![row(&["Entry", "Date", "Account", "Debit", "Credit"])];
        let mut sides = vec![row(&["Voucher", "Date", "Account", "Amount"])];
        for (n, (debit, credit, d, amount)) in posted.iter().enumerate() {
            let (number, amount) = (format!("J{n}"), money(*amount));
            let (debit, credit) = (ACCOUNTS[*debit], ACCOUNTS[*credit]);
            pairs.push(row(&[&day(d), &number, debit, credit, &amount]));
            heads.push(row(&[&number, &day(d)]));
            heads.push(row(&["", "", debit, &amount, ""]));
            heads.push(row(&["", "", credit, "", &amount]));
            sides.push(row(&[&number, &day(d), debit, &format!("{amount} Dr")]));
            sides.push(row(&[&number, &day(d), credit, &format!("£{amount} CR")]));
        }
        for lines in [pairs, heads, sides, grouped(&posted, true)] {
            prop_assert_eq!(&journal(&lines), &must);
        }
        // Without numbers entries of one day and reference are one, and nothing else changes.
        prop_assert_eq!(journal(&grouped(&posted, false)).1, must.1);
    }

    /// A purchase book with net, tax and gross: the tax goes to the account of its heading.
    #[test]
    fn net_tax_and_gross_are_three_lines_that_balance(
        bought in prop::collection::vec((0..4_usize, 1..29_u8, 100..900_000_i64, 1..25_i64), 1..12),
    ) {
        let mut lines = vec![row(&["Date", "Number", "Account", "Counter account", "Gross", "Net", "VAT"])];
        let mut must: BTreeMap<String, i128> = BTreeMap::new();
        for (n, (account, day, net, rate)) in bought.iter().enumerate() {
            let tax = (net * rate / 100).max(1);
            let mut post = |code: &str, amount: i64| {
                *must.entry(code.to_owned()).or_default() += i128::from(amount);
            };
            post(ACCOUNTS[*account], *net);
            post("VAT", tax);
            post(ACCOUNTS[4], -net - tax);
            lines.push(row(&[
                &format!("2026-03-{day:02}"), &format!("B{n}"), ACCOUNTS[*account], ACCOUNTS[4],
                &money(net + tax), &money(*net), &money(tax),
            ]));
        }
        prop_assert_eq!(journal(&lines), (bought.len(), must));
    }

    /// However a month is written, the same day stands for it.
    #[test]
    fn months_in_place_of_days_are_the_same_however_they_are_written(posted in posted()) {
        let ways: [fn(u8) -> String; 4] = [
            |month| format!("2026-{month:02}"),
            |month| format!("{month:02}/2026"),
            |month| format!("2026{month:02}"),
            |month| format!("{} 2026", time::Month::try_from(month).unwrap()),
        ];
        for way in ways {
            let mut lines = vec![row(&["Entry", "Period", "Account", "Debit", "Credit"])];
            for (n, (debit, credit, day, amount)) in posted.iter().enumerate() {
                let (number, period) = (format!("J{n}"), way(day % 12 + 1));
                lines.push(row(&[&number, &period, ACCOUNTS[*debit], &money(*amount), ""]));
                lines.push(row(&[&number, &period, ACCOUNTS[*credit], "", &money(*amount)]));
            }
            let (analysis, _, _) = read(FileKind::Journal, &lines, None);
            let asked: Vec<_> = analysis.questions.iter().map(|q| q.about.to_string()).collect();
            prop_assert_eq!(asked, ["periods"]);
            let months = posted.iter().map(|(_, _, day, _)| day % 12 + 1);
            let day = |month: u8| {
                let month = time::Month::try_from(month).unwrap();
                time::Date::from_calendar_date(2026, month, month.length(2026)).unwrap()
            };
            let must = months.clone().min().map(day).zip(months.max().map(day));
            let days = match analysis.content {
                Content::Journal(journal) => journal.summary.days,
                _ => None,
            };
            prop_assert_eq!(days, must);
            prop_assert_eq!(journal(&lines).1, sums(&posted));
        }
    }

    /// A ledger grouped by account may have periods where others have days.
    #[test]
    fn a_grouped_ledger_is_the_same_in_periods(posted in posted(), way in 0..3_usize) {
        let period = ["2026-03", "03/2026", "P3 2026"][way];
        let in_periods = |cell: &String| match cell.as_str() {
            "Date" => "Period".to_owned(),
            day if day.starts_with("2026-03-") => period.to_owned(),
            _ => cell.clone(),
        };
        let lines: Vec<Vec<String>> =
            grouped(&posted, true).iter().map(|row| row.iter().map(in_periods).collect()).collect();
        let (analysis, _, _) = read(FileKind::Journal, &lines, None);
        prop_assert!(analysis.questions.iter().any(|question| question.about == About::Periods));
        prop_assert_eq!(journal(&lines), (posted.len(), sums(&posted)));
    }

    #[test]
    fn a_trial_balance_is_the_same_in_every_shape(posted in posted()) {
        let sums = sums(&posted);
        let closing = |lines: &[Vec<String>]| -> BTreeMap<String, i64> {
            let (analysis, chart, _) = read(FileKind::Balances, lines, None);
            let balances = match analysis.content {
                Content::Balances(read) => read.balances,
                _ => Vec::new(),
            };
            let code = |id| chart.get(id).unwrap().code.to_string();
            balances.iter().map(|b| (code(b.account), b.amount)).collect()
        };
        let must: BTreeMap<String, i64> =
            sums.iter().map(|(code, sum)| (code.clone(), i64::try_from(*sum).unwrap())).collect();
        let side = |minor: i64| {
            if minor < 0 { [String::new(), money(-minor)] } else { [money(minor), String::new()] }
        };
        let mut wide = vec![row(&[
            "Code", "Name", "Opening Dr", "Opening Cr", "Closing Dr", "Closing Cr",
        ])];
        let mut marked = vec![row(&["Account", "Balance"])];
        let mut parted = vec![row(&["Code", "Name", "Debit", "Credit"])];
        for (code, amount) in &must {
            let [debit, credit] = side(*amount);
            wide.push(row(&[code, "A", &money(7), "", &debit, &credit]));
            let mark = if *amount < 0 { "Cr" } else { "Dr" };
            marked.push(row(&[&format!("{code} Thing {code}"), &format!("{} {mark}", money(amount.abs()))]));
            parted.push(row(&[code, "A", &debit, &credit]));
        }
        for lines in [wide, marked, parted] {
            prop_assert_eq!(&closing(&lines), &must);
        }
    }

    #[test]
    fn a_range_moves_each_code_as_far_as_its_beginning(
        codes in prop::collection::btree_set(5_000_u32..5_100, 1..8), to in 100_u32..9_800,
    ) {
        let account = |(id, code): (i64, &u32)| {
            let code = Code::parse(&code.to_string()).unwrap();
            Account::new(AccountId(id), code, format!("Thing {id}"), Class::Expense)
        };
        let moved = |right: String| {
            let chart = Chart::new((1..).zip(&codes).map(account));
            let lines = [row(&["Old code", "New code"]), row(&["5000-5099", &right])];
            read(FileKind::Crosswalk, &lines, Some(chart)).0
        };
        let whole = moved(format!("{to:04}-{:04}", to + 99));
        let crossings = match whole.content {
            Content::Crosswalk(read) => read.crossings,
            _ => Vec::new(),
        };
        let new: Vec<String> = crossings.iter().map(|c| c.new_code.to_string()).collect();
        let must: Vec<String> = codes.iter().map(|code| format!("{:04}", to + code - 5_000)).collect();
        prop_assert_eq!(new, must);
        // A range of another length has no place for each of them.
        let short = moved(format!("{to:04}-{:04}", to + 98));
        prop_assert_eq!(short.rejected.len(), 1);
    }

    #[test]
    fn a_pattern_moves_each_code_and_keeps_its_middle(middles in prop::collection::btree_set(10_u32..99, 1..8)) {
        let account = |(id, middle): (i64, &u32)| {
            let code = Code::parse(&format!("40-{middle}-100")).unwrap();
            Account::new(AccountId(id), code, format!("Thing {middle}"), Class::Expense)
        };
        let chart = Chart::new((1..).zip(&middles).map(account));
        let lines = [row(&["Old code", "New code"]), row(&["*-100", "*-200"])];
        let (analysis, _, _) = read(FileKind::Crosswalk, &lines, Some(chart));
        let crossings = match analysis.content {
            Content::Crosswalk(read) => read.crossings,
            _ => Vec::new(),
        };
        let moved: Vec<String> = crossings.iter().map(|c| c.new_code.to_string()).collect();
        let must: Vec<String> = middles.iter().map(|m| format!("40-{m}-200")).collect();
        prop_assert_eq!(moved, must);
    }
}
