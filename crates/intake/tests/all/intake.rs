//! Intake: what a file's rows become, and what is said of those that cannot be taken.

use crate::books;
use crate::books::{calendar, gbp, period, railway};
use crate::journals;
use proptest::prelude::*;
use std::collections::{BTreeMap, HashMap, HashSet};
use time::macros::date;
use zf_core::chart::{Account, Chart, Kind};
use zf_core::code::Code;
use zf_core::entry::{EntryKind, NewEntry};
use zf_core::file_kind::FileKind;
use zf_core::former::{CodeUse, FormerCodes};
use zf_core::ids::{AccountId, ReportLineId};
use zf_core::overlap::Overlap;
use zf_core::policy::Policy;
use zf_core::usage::Usage;
use zf_exports::chart::FORM;
use zf_intake::journal::late::LateMeans;
use zf_intake::journal::{self, JournalIntake};
use zf_intake::reading::{Chosen, Reading};
use zf_intake::{Cell, RawRow, Rejected, chart, usage};
use zf_phrases::{Style, intake as phrases};

/// Rows of a file, cells parted by `|`.
pub(crate) fn rows(text: &str) -> Vec<RawRow> {
    let lines = text.lines().map(str::trim).filter(|line| !line.is_empty());
    (1..)
        .zip(lines)
        .map(|(number, line)| RawRow {
            number,
            cells: line.split('|').map(|cell| Cell::text(cell.trim())).collect(),
        })
        .collect()
}

fn said(rejected: &[Rejected]) -> Vec<String> {
    let line = |r: &Rejected| {
        let why = phrases::sentence(&r.cause, Style::default());
        format!("{} {}: {why}", r.row, r.field.map_or("", |field| field.words()))
    };
    rejected.iter().map(line).collect()
}

pub(crate) fn reading(kind: FileKind, rows: &[RawRow]) -> Reading {
    Reading::of(kind, &rows.to_vec(), gbp(), &Chosen::default()).unwrap()
}

fn read_chart(text: &str, chart: &Chart) -> (Vec<Account>, Vec<String>) {
    let rows = rows(text);
    let books = chart::ChartContext { chart, format: Policy::default().format, blocks: &[] };
    let reading = reading(FileKind::Chart, &rows);
    let intake = chart::read(&reading, &rows, &books, AccountId(9_000)).intake;
    assert_eq!(intake.ready.len(), intake.ready_rows);
    (intake.ready.into_iter().map(|(_, account)| account).collect(), said(&intake.rejected))
}

const CHART: &str =
    "Code | Name | Type | Section | Heading | Row kind | Adds up | Control role | Currency\n";

macro_rules! chart_rows {
    ($($name:ident: $rows:literal => [$($said:literal),*];)+) => {$(
        #[test]
        fn $name() {
            let (_, said) = read_chart(&format!("{CHART}{}", $rows), &railway().chart);
            assert_eq!(said, [$($said),*] as [&str; 0 $(+ { let _ = $said; 1 })*]);
        }
    )+};
}

chart_rows! {
    a_whole_row_is_taken: "7000|Fees|Expenses|administrative expenses" => [];
    a_class_can_come_from_the_section: "7000|Fees||revenue" => [];
    a_missing_code_is_proposed: "|Fees|Expense" => [];
    a_missing_name_is_named: "7000||Expense" => ["2 Name: the name is empty"];
    an_unknown_class_is_named:
        "7000|Fees|Things" => ["2 Class: it is not one of the classes asset, liability, equity, income or expense"];
    a_missing_class_is_named: "7000|Fees|" => ["2 Class: the class is missing, and neither caption nor heading tells it"];
    a_caption_of_its_own_is_taken: "7000|Fees|Expense|Stuff" => [];
    a_caption_of_another_class_is_taken: "7000|Fees|Expense|revenue" => [];
    a_code_twice_in_the_file_is_named:
        "7000|Fees|Expense\n7000|Rates|Expense" => ["3 Code: code 7000 is already in row 2"];
    a_heading_may_come_after_its_rows: "7010|Fees|Expense||7000\n7000|All|Expense|||heading" => [];
    a_heading_of_the_chart_will_do: "7010|Fees|Expense||6000" => [];
    an_unknown_heading_is_named:
        "7010|Fees|Expense||9999" => ["2 Heading: no heading with this code is in the file or the chart"];
    a_row_under_an_account_is_named:
        "7010|Fees|Expense||6010" => ["2 Heading: the row it should stand under is not a heading"];
    a_row_under_itself_is_named:
        "7010|Fees|Expense||7010|heading" => ["2 Heading: a row cannot stand under itself"];
    rows_under_a_rejected_heading_go_with_it:
        "7000|All|Nonsense|||heading\n7010|Fees|Expense||7000" => [
            "2 Class: it is not one of the classes asset, liability, equity, income or expense",
            "3 Heading: the heading above this row cannot be taken"
        ];
    headings_in_a_circle_are_named:
        "7000|A|Expense||7100|heading\n7100|B|Expense||7000|heading" => [
            "2 Heading: the headings above this row stand under each other in a circle",
            "3 Heading: the headings above this row stand under each other in a circle"
        ];
    a_sum_line_needs_its_intervals:
        "7099|All|Expense|||sum line" => ["2 Adds up: a sum line needs the codes it adds up, and no account stands above it"];
    backward_intervals_are_named:
        "7099|All|Expense|||sum|20 to 10" => ["2 Adds up: the interval 20 to 10 runs backwards"];
    an_unknown_kind_is_asked: "7000|Fees|Expense|||thing" => [];
    an_unknown_role_is_named: "7000|A|Expense|||||boss" => ["2 Control role: no such control role is known"];
    one_account_carries_the_results:
        "3010|A|Equity|||||retained earnings\n3020|B|Equity|||||retained earnings" => [
            "3 Control role: 3010 A is already the retained earnings account"
        ];
    a_wrong_currency_is_named:
        "1090|Bank|Asset||||||pounds" => [
            "2 Currency: “pounds” is not a currency code; write the three letters of ISO 4217, such as GBP"
        ];
}

#[test]
fn a_chart_written_out_reads_back_the_same() {
    let today = railway();
    let headings: Vec<String> = FORM.headed().into_iter().map(|(heading, _)| heading).collect();
    let written = zf_exports::chart::rows(&today.chart, true);
    let rows: Vec<RawRow> = (1..)
        .zip(std::iter::once(headings).chain(written))
        .map(|(number, cells)| RawRow {
            number,
            cells: cells.iter().map(|cell| Cell::text(cell)).collect(),
        })
        .collect();
    let books = chart::ChartContext {
        chart: &Chart::default(),
        format: Policy::default().format,
        blocks: &[],
    };
    let reading = reading(FileKind::Chart, &rows);
    let intake = chart::read(&reading, &rows, &books, AccountId(1)).intake;
    assert_eq!(said(&intake.rejected), [""; 0]);
    let plain = |account: &Account, chart: &Chart| {
        let parent = account.parent.and_then(|p| chart.get(p)).map(|p| p.code.clone());
        let status = zf_core::chart::Status::Active;
        let id = AccountId(0);
        (Account { id, status, parent: None, ..account.clone() }, parent)
    };
    let back = Chart::new(intake.ready.into_iter().map(|(_, account)| account));
    for (account, _) in today.chart.outline() {
        let found = back.by_code(&account.code.key()).unwrap();
        assert_eq!(plain(found, &back), plain(account, &today.chart));
    }
    assert_eq!(back.iter().filter(|a| a.kind == Kind::Heading).count(), 3);
}

fn read_journal(text: &str) -> (JournalIntake, Vec<NewEntry>) {
    let today = railway();
    let rows = rows(text);
    let reading = reading(FileKind::Journal, &rows);
    let key = Code::parse("4711").unwrap().key();
    let former = FormerCodes::from_iter([(key, AccountId(5010))]);
    let of = journal::JournalContext {
        chart: &today.chart,
        former: &former,
        currency: gbp(),
        calendar: calendar(),
        locked: Some(period(date!(2024 - 12 - 31))),
        overlap: &Overlap::default(),
        then: None,
        said: &HashMap::new(),
        late: &zf_intake::journal::late::Said::default(),
    };
    journals::read_journal(&reading, &rows, &of)
}

#[test]
fn names_that_differ_from_line_to_line_of_one_account_are_payees() {
    let lines = |names: [&str; 3]| {
        let entry = |(n, name): (usize, &str)| {
            format!("{n}|2026-03-01|5010|{name}|5|\n{n}|2026-03-01|1050|{name}||5\n")
        };
        let rows: String = (1..).zip(names).map(entry).collect();
        let (read, entries) =
            read_journal(&format!("Entry|Date|Account|Name|Debit|Credit\n{rows}"));
        assert_eq!(said(&read.rejected), [""; 0]);
        entries.iter().map(|entry| entry.lines[0].payee.clone()).collect::<Vec<_>>()
    };
    assert_eq!(lines(["Hollin", "Marsh", "Tarn"]), ["Hollin", "Marsh", "Tarn"]);
    assert_eq!(lines(["Coal", "Coal", "Coal"]), ["", "", ""], "they are the account’s own");
}

#[test]
fn a_chart_that_is_said_to_be_a_journal_looks_like_a_chart() {
    let text = "Code|Name|Row kind|Class\n1000|Bank|account|asset\n5010|Coal|account|expense";
    let seems = |kind| {
        let mut sheets = vec![zf_intake::Sheet::new("", Box::new(rows(text)))];
        let chosen = zf_intake::reading::Chosen::default();
        zf_intake::table::Table::find(kind, &mut sheets, gbp(), &chosen).unwrap().seems
    };
    assert_eq!(seems(FileKind::Journal), Some(FileKind::Chart));
    assert_eq!(seems(FileKind::Chart), None);
}

/// What becomes of a file with lines before and after the day from which 6020 is deactivated.
fn read_late(means: Option<LateMeans>) -> (JournalIntake, Vec<NewEntry>) {
    let mut today = railway();
    let mut telegraph = today.chart.get(AccountId(6_020)).unwrap().clone();
    telegraph.status_from = Some(date!(2026 - 01 - 31));
    today.chart.put(telegraph);
    let text = format!(
        "{JOURNAL}1|2026-01-31|6020|12.00|\n1|2026-01-31|1050||12.00\n2|2026-02-01|6020|5.00|\n\
         2|2026-02-01|1050||5.00\n3|2026-03-01|6020|7.00|\n3|2026-03-01|1050||7.00"
    );
    let rows = rows(&text);
    let reading = reading(FileKind::Journal, &rows);
    let late: HashMap<_, _> = means.into_iter().map(|means| (AccountId(6_020), means)).collect();
    let of = journal::JournalContext {
        chart: &today.chart,
        former: &FormerCodes::default(),
        currency: gbp(),
        calendar: calendar(),
        locked: None,
        overlap: &Overlap::default(),
        then: None,
        said: &HashMap::new(),
        late: &late,
    };
    journals::read_journal(&reading, &rows, &of)
}

#[test]
fn lines_up_to_the_day_of_their_account_come_in_and_later_ones_are_asked() {
    let (read, entries) = read_late(None);
    assert_eq!((entries.len(), entries[0].lines[0].account), (1, AccountId(6_020)));
    let why =
        "6020 Telegraph is deactivated from 31 Jan 2026; say what becomes of lines dated after it";
    let rows = [4, 5, 6, 7].map(|row| format!("{row} Date: {why}"));
    assert_eq!(said(&read.rejected), rows);
    let late = &read.late[0];
    assert_eq!((late.account, late.lines, late.holder), (AccountId(6_020), 2, None));
    assert_eq!((late.first, late.last), (date!(2026 - 02 - 01), date!(2026 - 03 - 01)));
}

#[test]
fn later_lines_go_to_the_successor_open_the_account_again_or_are_left_out() {
    let holders = |means| {
        let (read, entries) = read_late(Some(means));
        assert_eq!(read.late[0].means, Some(means), "it is still shown, and can be said otherwise");
        let sums: i64 = entries.iter().flat_map(|e| &e.lines).map(|l| l.amount).sum();
        assert_eq!(sums, 0);
        entries.iter().map(|entry| entry.lines[0].account.0).collect::<Vec<_>>()
    };
    assert_eq!(holders(LateMeans::Successor(6_010)), [6_020, 6_010, 6_010]);
    assert_eq!(holders(LateMeans::OpenAgain), [6_020; 3]);
    assert_eq!(holders(LateMeans::LeftOut), [6_020]);
    assert_eq!(holders(LateMeans::Successor(5_000)), [6_020], "a heading takes no lines");
}

#[test]
fn lines_under_the_code_of_a_merged_account_go_on_to_its_holder_and_say_so() {
    let mut today = railway();
    let mut wood = today.chart.get(AccountId(5_020)).unwrap().clone();
    (wood.status, wood.merged_into) = (zf_core::chart::Status::Merged, Some(AccountId(5_010)));
    today.chart.put(wood.clone());
    let given_up = CodeUse {
        account: wood.id,
        code: wood.code,
        name: wood.name,
        from: None,
        to: Some(date!(2026 - 01 - 31).midnight().assume_utc()),
    };
    let former: FormerCodes = [&given_up].into_iter().collect();
    let text = format!(
        "{JOURNAL}1|2026-01-31|5020|12.00|\n1|2026-01-31|1050||12.00\n2|2026-02-01|5020|5.00|\n\
         2|2026-02-01|1050||5.00"
    );
    let rows = rows(&text);
    let reading = reading(FileKind::Journal, &rows);
    let read = |late: &HashMap<AccountId, LateMeans>| {
        let of = journal::JournalContext {
            chart: &today.chart,
            former: &former,
            currency: gbp(),
            calendar: calendar(),
            locked: None,
            overlap: &Overlap::default(),
            then: None,
            said: &HashMap::new(),
            late,
        };
        let (read, entries) = journals::read_journal(&reading, &rows, &of);
        (read.late, entries.iter().map(|e| e.lines[0].account.0).collect::<Vec<_>>())
    };
    let (late, holders) = read(&HashMap::new());
    assert_eq!((late[0].holder, late[0].lines), (Some(AccountId(5_010)), 1));
    assert_eq!(holders, [5_010, 5_010]);
    let said = |means| read(&HashMap::from([(AccountId(5_020), means)])).1;
    assert_eq!(said(LateMeans::LeftOut), [5_010]);
    assert_eq!(said(LateMeans::Successor(5_030)), [5_010, 5_030]);
}

const JOURNAL: &str =
    "Entry | Date | Code | Debit | Credit | Currency | Foreign amount | Entry kind | Site\n";

macro_rules! journal_rows {
    ($($name:ident: $rows:literal => [$($said:literal),*];)+) => {$(
        #[test]
        fn $name() {
            let (read, _) = read_journal(&format!("{JOURNAL}{}", $rows));
            assert_eq!(said(&read.rejected), [$($said),*] as [&str; 0 $(+ { let _ = $said; 1 })*]);
        }
    )+};
}

journal_rows! {
    a_balanced_entry_is_taken: "1|2026-03-01|5010|12.00|\n1|2026-03-01|1050||12.00" => [];
    rows_of_an_entry_need_not_be_neighbours:
        "1|2026-03-01|5010|12|\n2|2026-03-01|5010|5|\n1|2026-03-01|1050||12\n2|2026-03-01|1050||5" => [];
    an_unbalanced_entry_goes_whole:
        "1|2026-03-01|5010|1,012.00|\n1|2026-03-01|1050||2.00" => [
            "2 Entry: entry 1 does not balance: its debits are 1,010.00 too much",
            "3 Entry: entry 1 does not balance: its debits are 1,010.00 too much"
        ];
    an_unknown_account_takes_its_entry_along:
        "1|2026-03-01|5999|12|\n1|2026-03-01|1050||12" => [
            "2 Code: no account has, or ever had, the code 5999",
            "3 Entry: row 2 of the same entry, 1, can’t be taken"
        ];
    a_missing_number_is_named: "|2026-03-01|5010|12|" => ["2 Entry: the entry number is missing"];
    two_dates_in_one_entry_are_named:
        "1|2026-03-01|5010|12|\n1|2026-03-02|1050||12" => [
            "2 Date: entry 1 has lines of different dates",
            "3 Date: entry 1 has lines of different dates"
        ];
    a_date_that_is_none_is_named:
        "1|soon|5010|12|" => ["2 Date: “soon” is not a date; write it as 2026-09-24"];
    a_locked_date_is_named: "1|2024-03-01|5010|12|" => ["2 Date: the date lies in a locked period"];
    two_amounts_are_named: "1|2026-03-01|5010|12|12" => ["2 Debit: the line has more than one amount"];
    no_amount_is_named: "1|2026-03-01|5010||" => ["2 Debit: the amount is missing"];
    a_wrong_amount_is_named: "1|2026-03-01|5010|1.2345|" => ["2 Debit: “1.2345” has more than the 2 decimals of GBP"];
    a_text_that_cannot_be_kept_is_named:
        "1|2026-03-01|5010|12|||||North\u{1b}\n1|2026-03-01|1050||12" => [
            "2 : the text holds a character that cannot be kept (U+001B); type it anew",
            "3 Entry: row 2 of the same entry, 1, can’t be taken"
        ];
    an_amount_beyond_all_bounds_is_named:
        "1|2026-03-01|5010|10000000000000.01|" => ["2 Debit: an amount cannot be more than 10,000,000,000,000.00"];
    what_was_posted_to_a_heading_or_a_retired_account_is_a_fact:
        "1|2026-03-01|5000|12|\n1|2026-03-01|6020||12" => [];
    a_fixed_currency_is_kept: "1|2026-03-01|1030|12|" => ["2 Currency: 1030 Euro bank holds EUR only"];
    a_foreign_line_needs_its_amount:
        "1|2026-03-01|1030|12||EUR" => ["2 Foreign amount: the amount in EUR is missing"];
    a_foreign_line_is_taken:
        "1|2026-03-01|1030|12||EUR|14\n1|2026-03-01|1050||12" => [];
    an_unknown_entry_kind_is_named:
        "1|2026-03-01|5010|12|||  |weird" => ["2 Entry kind: it is not ordinary, opening or closing"];
}

#[test]
fn an_entry_keeps_everything_the_file_says() {
    let (read, entries) = read_journal(&format!(
        "{JOURNAL}1|2026-03-01|1030|12.50||EUR|14.00|opening|Larkfell\n1|2026-03-01|4711||12.50|||opening|"
    ));
    let entry = &entries[0];
    assert_eq!((entry.kind, entry.date), (EntryKind::Opening, date!(2026 - 03 - 01)));
    assert_eq!(entry.lines[0].amount, 1_250);
    assert_eq!(
        entry.lines[0].foreign.map(|(amount, c)| (amount, c.to_string())),
        Some((1_400, "EUR".to_owned()))
    );
    assert_eq!(entry.lines[0].dimensions, "site=Larkfell");
    assert_eq!(entry.lines[1].account, AccountId(5010), "a former code finds its history");
    assert_eq!(read.mapped.get("4711"), Some(&AccountId(5010)));
    assert_eq!(read.debits, 1_250);
}

#[test]
fn one_signed_column_will_do() {
    let (_, entries) = read_journal(
        "Entry | Date | Account | Amount\n1|2026-03-01|5010|(12.00)\n1|2026-03-01|1050|12.00",
    );
    let amounts: Vec<_> = entries[0].lines.iter().map(|line| line.amount).collect();
    assert_eq!(amounts, [-1_200, 1_200]);
}

#[test]
fn uses_are_read_or_named() {
    let today = railway();
    let rows = rows(
        "Code | Used by | Called\n5010 | bank rule | Coal merchant\n9999 | item | Lamp\n5020 | | x",
    );
    let reading = reading(FileKind::Usage, &rows);
    let intake = usage::read(&reading, &rows, &today.chart, &today.former, books::gbp());
    assert_eq!(intake.ready.len(), 1);
    assert_eq!(
        said(&intake.rejected),
        [
            "3 Code: no account has, or ever had, the code 9999",
            "4 Used by: what uses the account is missing"
        ]
    );
}

#[test]
fn budget_lines_have_a_month_and_an_amount_and_add_up() {
    let today = railway();
    let rows = rows(
        "Code | Used by | Called | Month | Amount\n5010 | budget line | Coal | 2026-03 | 15.00\n\
         5010 | budget line | Coal | 2026-04-17 | 7.50\n5010 | budget line | More | 2026-03 | 1.00\n\
         5020 | budget line | Wood | March | 1.00\n5020 | budget line | Wood | 2026-03 | \n\
         5020 | budget line | Wood | | 1.00",
    );
    let reading = reading(FileKind::Usage, &rows);
    let intake = usage::read(&reading, &rows, &today.chart, &today.former, books::gbp());
    assert_eq!(
        said(&intake.rejected),
        [
            "5 Month: “March” is not a month; write it as 2026-03",
            "6 Amount: the amount of the month is missing",
            "7 Month: the month of the amount is missing",
        ]
    );
    let mut usage = Usage::default();
    for used in intake.ready {
        usage.note(ReportLineId(0), used, |account| account);
    }
    let named = ["budget line “Coal”", "budget line “More”"];
    assert_eq!(usage.of(AccountId(5010)), named, "once, however many months it is for");
    let months: Vec<_> = usage.budget_of(AccountId(5010)).unwrap().values().copied().collect();
    assert_eq!(months, [1_600, 750]);
}

#[test]
fn a_line_of_a_report_names_stretches_of_codes() {
    let today = railway();
    let rows = rows(
        "Code | Used by | Called | Amount\n5000 to 5029, 5050 | report layout | Fuel |\n\
         5029 to 5000 | report layout | Backwards |\n5000 to 5029 | budget line | Fuel | 15.00",
    );
    let reading = reading(FileKind::Usage, &rows);
    let intake = usage::read(&reading, &rows, &today.chart, &today.former, books::gbp());
    assert_eq!(
        said(&intake.rejected),
        [
            "3 Code: the interval 5029 to 5000 runs backwards",
            "4 Code: an amount is budgeted for one account, not for a range of codes",
        ]
    );
    let mut usage = Usage::default();
    usage.note(ReportLineId(7), intake.ready[0].clone(), |account| account);
    let over = |code: &str| {
        let key = Code::parse(code).unwrap().key();
        usage.report_lines_over(&key).map(|line| line.name.as_str()).collect::<Vec<_>>()
    };
    assert_eq!(over("5020"), ["report layout “Fuel”"]);
    assert_eq!(over("5050"), ["report layout “Fuel”"]);
    assert!(over("5040").is_empty());
    assert!(usage.of(AccountId(5010)).is_empty(), "an account is not named by a stretch over it");
}

proptest! {
    /// Whatever a file holds, every row is either ready or named, no entry that is ready fails to
    /// balance, and nothing panics.
    #[test]
    fn every_row_is_ready_or_named(
        lines in proptest::collection::vec(
            ("[123]?", "(2026-0[1-9]-1[0-9]|.{0,6})", "(5010|1050|9999|.{0,4})", "([0-9]{1,4}|.{0,5})", "([0-9]{1,4})?"),
            0..12,
        )
    ) {
        let lines: Vec<String> = lines
            .iter()
            .map(|(a, b, c, d, e)| [a, b, c, d, e].map(|t| t.replace(['|', '\n', '\r'], "")).join("|"))
            .filter(|line| line.split('|').any(|cell| !cell.trim().is_empty()))
            .collect();
        let text = format!("Entry|Date|Code|Debit|Credit\n{}", lines.join("\n"));
        let (read, entries) = read_journal(&text);
        let rows = rows(&text).len() - 1;
        let named: HashSet<u32> = read.rejected.iter().map(|r| r.row).collect();
        let body = text.lines().skip(1).filter(|l| l.split('|').any(|c| !c.trim().is_empty())).count();
        let known = read.ready_rows + named.len() + read.warnings.len();
        prop_assert_eq!(known, body.min(rows));
        for entry in &entries {
            prop_assert_eq!(entry.lines.iter().map(|l| i128::from(l.amount)).sum::<i128>(), 0);
        }
        prop_assert_eq!(entries.len(), read.entries);
        prop_assert_eq!(entries.iter().map(|e| e.lines.len()).sum::<usize>(), read.ready_rows);
        let lines = || entries.iter().flat_map(|entry| &entry.lines);
        prop_assert_eq!(lines().map(|l| i128::from(l.amount.max(0))).sum::<i128>(), read.debits);
        let mut sums = BTreeMap::new();
        for line in lines() {
            let sum: &mut (usize, i128) = sums.entry(line.account).or_default();
            *sum = (sum.0 + 1, sum.1 + i128::from(line.amount));
        }
        prop_assert_eq!(sums, read.by_account);
    }
}
