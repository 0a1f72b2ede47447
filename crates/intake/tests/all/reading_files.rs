//! Files as they really look: headings anywhere, outlines told in four ways, wordings of every kind,
//! and nothing guessed where two readings are possible.

use crate::books;
use crate::books::{gbp, railway};
use crate::journals;
use proptest::prelude::*;
use std::collections::{BTreeMap, HashMap};
use zf_core::chart::{Account, Chart, Class, Kind, Section};
use zf_core::code::Code;
use zf_core::entry::NewEntry;
use zf_core::file_kind::FileKind;
use zf_core::former::FormerCodes;
use zf_core::ids::AccountId;
use zf_core::money::Currency;
use zf_core::plan::edit::Wanted;
use zf_core::plan::{Change, Fate, Field, Plan};
use zf_core::policy::{CodeFormat, Policy};
use zf_intake::cause::Cause;
use zf_intake::chart::ChartIntake;
use zf_intake::columns::Column;
use zf_intake::dates::DateOrder;
use zf_intake::layout::{Chosen as ChosenLayout, Layout, Meaning, NoLayout, headings, met_before};
use zf_intake::numbers::DecimalMark;
use zf_intake::question::Gives;
use zf_intake::reading::{Chosen, Reading};
use zf_intake::rows::Place;
use zf_intake::table::Table;
use zf_intake::wordings::Caption;
use zf_intake::{
    Cell, Hidden, Intake, OutlineBy, RawRow, Rejected, Sheet, balances, chart, crosswalk, journal,
};

/// Rows of a file: cells parted by `|`, of which only the ends of the line are trimmed. A cell that
/// begins with `#` is one that the spreadsheet holds as a number or date.
fn rows(text: &str) -> Vec<RawRow> {
    let cell = |text: &str| match text.trim().strip_prefix('#') {
        Some(number) => Cell::native(number.to_owned()),
        None => Cell::text(text),
    };
    let lines = text.lines().skip_while(|line| line.trim().is_empty());
    (1..)
        .zip(lines)
        .map(|(number, line)| RawRow { number, cells: line.split('|').map(cell).collect() })
        .collect()
}

fn reading(kind: FileKind, rows: &[RawRow]) -> Reading {
    Reading::of(kind, &rows.to_vec(), gbp(), &Chosen::default()).unwrap()
}

fn read_chart_as(text: &str, chosen: &Chosen) -> ChartIntake {
    let rows = rows(text);
    let reading = Reading::of(FileKind::Chart, &rows, gbp(), chosen).unwrap();
    let books = chart::ChartContext {
        chart: &Chart::default(),
        format: Policy::default().format,
        blocks: &[],
    };
    chart::read(&reading, &rows, &books, AccountId(1))
}

fn read_chart(text: &str) -> ChartIntake {
    read_chart_as(text, &Chosen::default())
}

/// What was made of a chart: rows as `code name class under`, and what is said of others.
fn made(read: &ChartIntake) -> Vec<String> {
    let accounts: Vec<&Account> = read.intake.ready.iter().map(|(_, account)| account).collect();
    let code =
        |id: AccountId| accounts.iter().find(|a| a.id == id).map_or("?", |a| a.code.as_str());
    let ready = accounts.iter().map(|account| {
        let under = account.parent.map_or(String::new(), |p| format!(" under {}", code(p)));
        let kind = if account.kind == Kind::Account { "" } else { " ·" };
        format!("{} {} {}{under}{kind}", account.code, account.name, account.class.key())
    });
    ready.chain(said(&read.intake.rejected)).collect()
}

fn said(rejected: &[Rejected]) -> impl Iterator<Item = String> + '_ {
    rejected.iter().map(|r| format!("{}: {}", r.row, r.cause.reason().key()))
}

fn warned<T>(intake: &Intake<T>) -> Vec<String> {
    intake.warnings.iter().map(|w| format!("{}: {}", w.row, w.cause.reason().key())).collect()
}

macro_rules! charts {
    ($($name:ident: $text:literal => $by:ident [$($made:literal),*];)+) => {$(
        #[test]
        fn $name() {
            let read = read_chart($text);
            assert_eq!(made(&read), [$($made),*] as [&str; 0 $(+ { let _ = $made; 1 })*]);
            assert_eq!(read.outline, OutlineBy::$by);
        }
    )+};
}

charts! {
    headings_stand_below_titles_and_blank_rows:
        "Chart of accounts||\n||\n|as of 2026|\nAcct. No|Title|Type\n1000|Bank|Asset" => Nothing ["1000 Bank asset"];
    columns_need_not_begin_at_the_left:
        "||\n|Code||Name|Class\n|1000||Bank|Asset" => Nothing ["1000 Bank asset"];
    codes_stored_as_numbers_are_codes:
        "Code|Name|Class\n1000.0|Bank|Asset\n\u{a0}0990\u{200b}|Till|Asset\n#1010|Safe|Asset" => Nothing
        ["1000 Bank asset", "0990 Till asset", "1010 Safe asset"];
    code_and_name_may_share_a_cell:
        "Account code and name|Class\n1000 - Bank|Asset\n1010: Till|Asset" => Nothing
        ["1000 Bank asset", "1010 Till asset"];
    a_column_is_told_by_its_cells_where_its_heading_is_strange:
        "Nummer|Name|Class\n1000|Bank|Asset\n1010|Till|Asset\n1020|Safe|Asset" => Nothing
        ["1000 Bank asset", "1010 Till asset", "1020 Safe asset"];
    totals_and_headings_once_more_are_passed_over:
        "Code|Name|Class\n1000|Bank|Asset\nCode|Name|Class\n|Total assets|\n1010|Till|Asset\nGrand total||" => Nothing
        ["1000 Bank asset", "1010 Till asset"];
    an_outline_by_parent_makes_headings:
        "Code|Name|Class|Parent\n1000|Cash|Asset|\n1010|Bank|Asset|1000" => Parent
        ["1000 Cash asset ·", "1010 Bank asset under 1000"];
    an_outline_by_path_parts_the_names:
        "Code|Name|Class\n1|Assets|\n10|Assets : Cash|\n101|Assets : Cash : Bank|" => Path
        ["1 Assets asset ·", "10 Cash asset under 1 ·", "101 Bank asset under 10"];
    a_mark_that_leads_nowhere_is_no_path:
        "Code|Name|Class\n10|Coal: steam|Expense\n20|Coal: house|Expense" => Nothing
        ["10 Coal: steam expense", "20 Coal: house expense"];
    an_outline_by_indentation:
        "Code|Name|Class\n5000|Costs|Expense\n5010|  Coal|\n5020|  Wood|\n6000|Office|Expense\n6010|  Post|" => Indent
        ["5000 Costs expense ·", "5010 Coal expense under 5000", "5020 Wood expense under 5000",
         "6000 Office expense ·", "6010 Post expense under 6000"];
    an_outline_by_the_beginning_of_codes:
        "Code|Name|Class\n5|Costs|Expense\n51|Running|\n511|Coal|\n512|Wood|" => Prefix
        ["5 Costs expense ·", "51 Running expense under 5 ·", "511 Coal expense under 51", "512 Wood expense under 51"];
    codes_of_several_lengths_alone_are_no_outline:
        "Code|Name|Class\n5|Costs|Expense\n61|Running|Expense\n77|Coal|Expense\n88|Wood|Expense" => Nothing
        ["5 Costs expense", "61 Running expense", "77 Coal expense", "88 Wood expense"];
    a_class_comes_down_from_the_heading:
        "Code|Name|Parent\n1|Fixed assets|\n15|Land|1\n9|Odds and ends|\n91|String|9" => Parent
        ["1 Fixed assets asset ·", "15 Land asset under 1", "4: class_missing", "5: class_missing"];
    wordings_of_the_trade_tell_class_and_section:
        "Code|Name|Type\n1|A|Accounts receivable\n2|B|Cost of Goods Sold\n3|C|Long-term liabilities\n4|D|Moonbeams" => Nothing
        ["1 A asset", "2 B expense", "3 C liability", "5: class_unknown"];
    a_currency_is_fixed_on_monetary_items_only:
        "Code|Name|Section|Currency\n1|Bank|cash|EUR\n2|Stock|inventories|EUR" => Nothing
        ["1 Bank asset", "3: currency_not_allowed"];
    a_balance_on_the_other_side_is_contra_unless_the_file_says_otherwise:
        "Code|Name|Class|Contra|Normal balance\n1|Plant|Asset||Debit\n2|Worn|Asset|yes|Credit\n3|Odd|Asset||Cr\n4|X|Asset||up" => Nothing
        ["1 Plant asset", "2 Worn asset", "3 Odd asset", "4 X asset"];
}

#[test]
fn what_was_passed_over_is_said() {
    let read = read_chart(
        "Code|Name|Class|Parent\n1|Cash|Asset|\n11|Bank|Liability|1\n|Total|||\nCode|Name|Class|Parent",
    );
    assert_eq!(warned(&read.intake), ["3: class_of_heading", "4: total_row", "5: header_again"]);
}

#[test]
fn a_wording_is_settled_once_for_all_rows_that_have_it() {
    let text = "Code|Name|Type\n1|A|Owed soon\n2|B|owed soon\n3|C|Moonbeams";
    let read = read_chart(text);
    let about: Vec<_> = read.questions.iter().map(|question| question.about.to_string()).collect();
    assert_eq!(about, ["class:Owed soon", "class:Moonbeams"], "the most frequent first");
    assert_eq!(read.questions[0].readings[0].gives, Gives::Rows(2));
    let mut chosen = Chosen::default();
    let soon = Caption { class: Class::Liability, section: Some(Section::Payables) };
    chosen.settled.insert("owed soon".to_owned(), soon);
    let settled = read_chart_as(text, &chosen);
    assert_eq!(made(&settled), ["1 A liability", "2 B liability", "4: class_unknown"]);
    assert_eq!(settled.intake.ready[0].1.standard(), Some(Section::Payables));
}

#[test]
fn a_person_chooses_headings_and_columns() {
    let text = "Code|Name|Remark|Class\nCode|Name|Title|Class\n1000|b|Bank|Asset";
    let mut chosen = Chosen::default();
    chosen.layout.header_row = Some(2);
    chosen.layout.columns.insert("Title".to_owned(), Meaning::Field(Column::Name));
    chosen.layout.columns.insert("Class".to_owned(), Meaning::Unused);
    let rows = rows(text);
    let reading = Reading::of(FileKind::Chart, &rows, gbp(), &chosen).unwrap();
    assert_eq!(reading.layout.header_row, 2);
    assert_eq!(reading.layout.place(Column::Name), Some(2));
    assert_eq!(reading.layout.unused().collect::<Vec<_>>(), ["Name", "Class"]);
    let read = read_chart_as(text, &chosen);
    assert_eq!(made(&read), ["1000 Bank asset"], "as its name says");
    assert_eq!(read.questions, []);
}

#[test]
fn the_sheet_is_the_one_that_has_what_is_needed() {
    let sheet =
        |name: &str, hidden, text: &str| Sheet { hidden, ..Sheet::new(name, Box::new(rows(text))) };
    let mut sheets = [
        sheet("Notes", false, "Please read|first\nDear|all"),
        sheet("Old", true, "Code|Name|Class|Section|Tax\n1|x|Asset||"),
        sheet("Accounts", false, "Code|Name|Class\n1|Bank|Asset"),
    ];
    let mut find = |name: Option<&str>| {
        let chosen = Chosen { sheet: name.map(str::to_owned), ..Chosen::default() };
        let found = Table::find(FileKind::Chart, &mut sheets, gbp(), &chosen);
        found.map(|found| (found.sheets[0], found.reading.layout.lacking(FileKind::Chart)))
    };
    assert_eq!(find(None), Ok((2, vec![])), "a hidden sheet counts last");
    assert_eq!(find(Some("Old")), Ok((1, vec![])));
    assert_eq!(find(Some("Lost")), Err(NoLayout::NoSheet("Lost".to_owned())));
    assert_eq!(find(Some("Notes")), Ok((0, vec!["Name"])), "a person has to say");
    let mut empty = [sheet("a", false, "")];
    let nothing = Table::find(FileKind::Chart, &mut empty, gbp(), &Chosen::default());
    assert_eq!(nothing.map(|found| found.sheets), Err(NoLayout::Empty));
    let long = "Code|Name|Class".to_owned() + &"\n1|Bank|Asset".repeat(60_000);
    let mut long = [sheet("a", false, &long)];
    let long = Table::find(FileKind::Chart, &mut long, gbp(), &Chosen::default());
    assert_eq!(
        long.map(|found| found.sheets).unwrap_err().to_string(),
        "the file has 60001 rows, which is more than a chart of accounts has; is it something else?"
    );
}

#[test]
fn a_person_says_what_columns_mean_and_where_the_headings_stand() {
    let rows = rows("X|Y|Z|Kostenstelle\nA1|2026-04-03|1010|North\nA1|2026-04-03|3000|South");
    let of = |chosen: &ChosenLayout| Layout::find(FileKind::Journal, &rows, chosen).unwrap();
    assert!(!of(&ChosenLayout::default()).lacking(FileKind::Journal).is_empty());

    let columns = [
        ("X", Meaning::Field(Column::Entry)),
        ("Y", Meaning::Field(Column::Date)),
        ("Z", Meaning::Field(Column::Code)),
        ("Kostenstelle", Meaning::Dimension),
    ];
    let columns: BTreeMap<_, _> = columns.map(|(h, m)| (h.to_owned(), m)).into();
    let said = of(&ChosenLayout { columns: columns.clone(), ..ChosenLayout::default() });
    assert_eq!(said.header_row, 1);
    assert_eq!(said.lacking(FileKind::Journal), ["Debit and Credit (or Amount)"]);
    assert_eq!(said.dimensions().collect::<Vec<_>>(), [(3, "kostenstelle")]);

    // What is left unused is not given a meaning by its cells either.
    let mut unused = columns;
    unused.insert("Y".to_owned(), Meaning::Unused);
    let said =
        of(&ChosenLayout { columns: unused, header_row: Some(1), ..ChosenLayout::default() });
    assert_eq!(said.unused().collect::<Vec<_>>(), ["Y"]);
    assert!(said.lacking(FileKind::Journal).contains(&"Date"));

    let beyond = ChosenLayout { header_row: Some(9), ..ChosenLayout::default() };
    assert_eq!(Layout::find(FileKind::Journal, &rows, &beyond), Err(NoLayout::NoRow));
}

#[test]
fn a_block_without_headings_is_told_by_its_cells() {
    let rows = rows("1000|Cash\n1010|Bank\n2000|Suppliers\n3000|Capital");
    let none = ChosenLayout { header_row: Some(0), ..ChosenLayout::default() };
    let layout = Layout::find(FileKind::Chart, &rows, &none).unwrap();
    assert!(layout.lacking(FileKind::Chart).is_empty());
    assert_eq!((layout.place(Column::Code), layout.place(Column::Name)), (Some(0), Some(1)));
    assert_eq!(layout.columns[1].heading, "Column B");
    assert_eq!(layout.body(&rows, &mut Vec::new()).len(), 4, "the first row is one of them");
}

#[test]
fn a_form_that_was_met_before_is_known_again_wherever_it_stands() {
    let sheet = |hidden, text: &str| Sheet { hidden, ..Sheet::new("a", Box::new(rows(text))) };
    let form = |text: &str| headings(&rows(text)[0]);
    let forms = [form("Konto|Text"), form("Acct. No|What|Kind of a/c")];
    let file = "Small books|\n|\nacct no|WHAT|kind of a/c\n1|x|y";
    let at = |sheets: &[Sheet]| met_before(sheets, &forms);
    assert_eq!(at(&[sheet(false, file)]), Some((1, 0, 3)));
    assert_eq!(at(&[sheet(true, "Konto|Text"), sheet(false, file)]), Some((1, 1, 3)));
    assert_eq!(at(&[sheet(false, "acct no|WHAT\n1|x")]), None, "every heading counts");
}

#[test]
fn cells_are_read_as_they_were_corrected() {
    let mut sheets = [Sheet::new("", Box::new(rows("Code|Name\n1O|Cash\n20")))];
    let corrections = [((2, 0), "10"), ((3, 1), "Bank"), ((9, 0), "nobody’s")];
    let corrections = corrections.map(|(at, text)| (at, text.to_owned())).into();
    let chosen = Chosen { corrections, ..Chosen::default() };
    let found = Table::find(FileKind::Chart, &mut sheets, gbp(), &chosen).unwrap();
    let rows = found.rows.all();
    let texts: Vec<Vec<&str>> =
        rows.iter().map(|row| row.cells.iter().map(|cell| cell.text.as_str()).collect()).collect();
    assert_eq!(texts, [vec!["Code", "Name"], vec!["10", "Cash"], vec!["20", "Bank"]]);
}

#[test]
fn what_is_hidden_is_read_and_said() {
    let say = |hides: Hidden| {
        let text = "Books\nCode|Name|Old no.\n10|Cash|1\n20|Bank|2";
        let mut sheets = [Sheet { hides, ..Sheet::new("Chart", Box::new(rows(text))) }];
        let found = Table::find(FileKind::Chart, &mut sheets, gbp(), &Chosen::default()).unwrap();
        let said = found.warnings(&sheets).into_iter();
        said.map(|warning| (warning.row, warning.cause)).collect::<Vec<_>>()
    };
    let said = say(Hidden { rows: vec![1, 4, 3], columns: vec![(3, 9)] });
    let first = Place { sheet: None, row: 3 };
    let hidden = (3, Cause::HiddenRows { first, rows: 2 });
    let column = Cause::HiddenColumn { heading: "Old no.".to_owned() };
    assert_eq!(said, [hidden, (2, column)], "what stands above the headings is of no matter");
    assert!(say(Hidden::default()).is_empty());
}

fn read_journal_as(text: &str, chosen: &Chosen) -> (Vec<String>, Vec<String>) {
    let rows = rows(text);
    let reading = Reading::of(FileKind::Journal, &rows, gbp(), chosen).unwrap();
    let chart = journal::chart_of_codes(&reading, &rows);
    let of = journal::JournalContext {
        chart: &chart,
        former: &FormerCodes::default(),
        currency: gbp(),
        calendar: books::calendar(),
        locked: None,
        overlap: &Default::default(),
        then: None,
        said: &HashMap::new(),
        late: &zf_intake::journal::late::Said::default(),
    };
    let (read, entries) = journals::read_journal(&reading, &rows, &of);
    let entry = |e: &NewEntry| {
        let lines = e
            .lines
            .iter()
            .map(|line| format!("{} {}", chart.get(line.account).unwrap().code, line.amount));
        format!("{} {}: {}", e.number, e.date, lines.collect::<Vec<_>>().join(", "))
    };
    (entries.iter().map(entry).collect(), said(&read.rejected).collect())
}

macro_rules! journals {
    ($($name:ident: $text:literal => [$($ready:literal),*] [$($said:literal),*];)+) => {$(
        #[test]
        fn $name() {
            let (ready, said) = read_journal_as($text, &Chosen::default());
            assert_eq!(ready, [$($ready),*] as [&str; 0 $(+ { let _ = $ready; 1 })*]);
            assert_eq!(said, [$($said),*] as [&str; 0 $(+ { let _ = $said; 1 })*]);
        }
    )+};
}

journals! {
    number_and_date_may_stand_on_the_first_row_of_an_entry_only:
        "Entry|Date|Account|Debit|Credit\n1|24/09/2026|10|5.00|\n||20||5.00\n2|25/09/2026|10|7|\n||20||7" =>
        ["1 2026-09-24: 10 500, 20 -500", "2 2026-09-25: 10 700, 20 -700"] [];
    without_numbers_date_and_reference_tell_the_entries:
        "Date|Ref|Account|Amount\n2026-09-24|A|10|5\n2026-09-24|B|10|7\n2026-09-24|A|20|-5\n2026-09-24|B|20|-7" =>
        ["2026-09-24 A 2026-09-24: 10 500, 20 -500", "2026-09-24 B 2026-09-24: 10 700, 20 -700"] [];
    a_column_of_sides_turns_amounts:
        "Entry|Date|Account|Amount|Dr/Cr\n1|2026-09-24|10|5.00|D\n1|2026-09-24|20|5.00|Cr" =>
        ["1 2026-09-24: 10 500, 20 -500"] [];
    a_side_behind_the_amount_turns_it:
        "Entry|Date|Account|Amount\n1|2026-09-24|10|5.00 Dr\n1|2026-09-24|20|5.00 Cr" =>
        ["1 2026-09-24: 10 500, 20 -500"] [];
    commas_part_decimals_where_the_file_says_so:
        "Entry|Date|Account|Debit|Credit\n1|24.09.2026|10|1.234,50|\n1|24.09.2026|20||1.234,50" =>
        ["1 2026-09-24: 10 123450, 20 -123450"] [];
    native_numbers_and_dates_are_read_as_they_are:
        "Entry|Date|Account|Debit|Credit\n1|#2026-09-24|#10|#1234.5|\n1|#2026-09-24|#20||1.234,50" =>
        ["1 2026-09-24: 10 123450, 20 -123450"] [];
    a_date_of_two_readings_is_asked:
        "Entry|Date|Account|Debit|Credit\n1|03/04/2026|10|5|\n1|03/04/2026|20||5" =>
        [] ["2: date_ambiguous", "3: date_ambiguous"];
    one_clear_date_tells_for_all:
        "Entry|Date|Account|Debit|Credit\n1|03/04/2026|10|5|\n1|03/04/2026|20||5\n2|28/04/2026|10|0|" =>
        ["1 2026-04-03: 10 500, 20 -500", "2 2026-04-28: 10 0"] [];
    an_unbalanced_entry_spoils_no_other:
        "Entry|Date|Account|Debit|Credit\n1|2026-09-24|10|5|\n1|2026-09-24|20||4\n2|2026-09-24|10|1|\n2|2026-09-24|20||1" =>
        ["2 2026-09-24: 10 100, 20 -100"] ["2: entry_unbalanced", "3: entry_unbalanced"];
    a_side_that_is_none_is_named:
        "Entry|Date|Account|Amount|Side\n1|2026-09-24|10|5|left" => [] ["2: side_unknown"];
}

#[test]
fn a_person_says_how_dates_and_amounts_are_written() {
    let text = "Entry|Date|Account|Debit|Credit\n1|03/04/2026|10|5|\n1|03/04/2026|20||5";
    let dates = |order| Chosen { dates: Some(order), ..Chosen::default() };
    assert_eq!(
        read_journal_as(text, &dates(DateOrder::DayFirst)).0,
        ["1 2026-04-03: 10 500, 20 -500"]
    );
    assert_eq!(
        read_journal_as(text, &dates(DateOrder::MonthFirst)).0,
        ["1 2026-03-04: 10 500, 20 -500"]
    );

    // Three decimals may be thousands; only a currency with three leaves it open.
    let rows = rows("Code|Balance\n10|1.234");
    let dinar = Currency::parse("BHD").unwrap();
    let amount = |decimal| {
        let chosen = Chosen { decimal, ..Chosen::default() };
        let reading = Reading::of(FileKind::Balances, &rows, dinar, &chosen).unwrap();
        reading.signed(&rows[1], dinar).map_err(|why| why.cause.reason().key())
    };
    assert_eq!(amount(None), Err("amount_ambiguous"));
    assert_eq!(amount(Some(DecimalMark::Point)), Ok(1_234));
    assert_eq!(amount(Some(DecimalMark::Comma)), Ok(1_234_000));
}

#[test]
fn a_trial_balance_is_read_account_by_account() {
    let today = railway();
    let rows = rows(
        "Code|Name|Debit|Credit\n1010|Bank||40.00\n5010|Coal|36.00|\n5030|Diesel||\n5010|Coal|1|\n9999|?|1|\n|Total|37|40",
    );
    let reading = reading(FileKind::Balances, &rows);
    let read = balances::read(&reading, &rows, &today.chart, &today.former, gbp());
    let amounts: Vec<_> = read.ready.iter().map(|b| (b.account.0, b.amount)).collect();
    assert_eq!(amounts, [(1010, -4_000), (5010, 3_600), (5030, 0)], "blank is zero");
    assert_eq!(said(&read.rejected).collect::<Vec<_>>(), ["5: code_twice", "6: account_unknown"]);
    assert_eq!(warned(&read), ["7: total_row"]);
}

/// The value that a change gives, as the cases below write it.
fn given(change: &Change) -> String {
    match change {
        Change::Code(code) => code.to_string(),
        Change::Name(name) => name.clone(),
        Change::Fate(Fate::MergeInto { into }) => format!("merge into {into}"),
        Change::Fate(Fate::Deactivate { .. }) => "deactivated".to_owned(),
        Change::Fate(Fate::Archive { .. }) => "archived".to_owned(),
        Change::Fate(Fate::Restore) => "active".to_owned(),
        Change::Fate(Fate::Delete) => "deleted".to_owned(),
        other => unreachable!("no case of a crosswalk gives {other:?}"),
    }
}

/// What a crosswalk comes to on the railway: changes as `code what`, and what is said.
fn crossed(text: &str) -> (Vec<String>, Vec<String>) {
    let today = railway();
    let rows = rows(&format!("Old code|New code|New name\n{text}"));
    let reading = reading(FileKind::Crosswalk, &rows);
    let format = CodeFormat::parse("4 digits").unwrap();
    let books = crosswalk::CrosswalkContext { chart: &today.chart, former: &today.former, format };
    let read = crosswalk::read(&reading, &rows, &books).intake;
    let changes = read.ready.iter().flat_map(|crossing| {
        let edits = crossing.edits(&today.chart, &Plan::default()).into_iter();
        let changes = edits.filter_map(|wanted| match wanted {
            Wanted::Stage(change) => Some(given(&change)),
            Wanted::Unstage(_) => None,
        });
        changes.map(|said| format!("{} {said}", crossing.code)).collect::<Vec<_>>()
    });
    (changes.collect(), said(&read.rejected).chain(warned(&read)).collect())
}

macro_rules! crosswalks {
    ($($name:ident: $text:literal => [$($change:literal),*] [$($said:literal),*];)+) => {$(
        #[test]
        fn $name() {
            let (changes, said) = crossed($text);
            assert_eq!(changes, [$($change),*] as [&str; 0 $(+ { let _ = $change; 1 })*]);
            assert_eq!(said, [$($said),*] as [&str; 0 $(+ { let _ = $said; 1 })*]);
        }
    )+};
}

crosswalks! {
    a_free_code_is_a_renumbering: "5010|5110|" => ["5010 5110"] [];
    a_new_name_goes_with_it: "5010|5110|Steam coal" => ["5010 5110", "5010 Steam coal"] [];
    the_same_code_is_no_change: "5010|5010|Coal" => [] [];
    codes_may_be_swapped: "5010|5020|\n5020|5010|" => ["5010 5020", "5020 5010"] [];
    codes_may_rotate_and_a_block_shift_onto_itself:
        "5010|5020|\n5020|5030|\n5030|5040|\n5040|5050|" => ["5010 5020", "5020 5030", "5030 5040", "5040 5050"] [];
    a_code_that_is_kept_takes_the_others_in: "5020|5010|" => ["5020 merge into 5010"] [];
    rows_that_share_a_code_are_merged: "5010|5110|\n5020|5110|" => ["5010 5110", "5020 merge into 5010"] [];
    a_name_of_another_account_is_worth_a_look: "5010|5020|Diesel\n5020|5010|" =>
        ["5010 5020", "5010 Diesel", "5020 5010"] ["2: name_of_another"];
    unknown_codes_are_misfits: "4711|5110|" => [] ["2: account_unknown"];
    two_targets_are_misfits: "5010|5110|\n5010|5120|" => [] ["2: two_targets", "3: two_targets"];
    saying_it_twice_is_no_misfit: "5010|5110|\n5010|5110|" => ["5010 5110"] ["3: code_twice"];
    an_old_code_alone_stays_and_a_malformed_one_is_a_misfit: "5010||\n5020|51-10|" => [] ["3: code_format"];
    a_new_name_alone_renames: "5010||Steam coal" => ["5010 Steam coal"] [];
    a_range_merges_all_that_are_in_it: "5010-5020|5110|" => ["5010 5110", "5020 merge into 5010"] [];
    a_list_merges_each: "5010, 5020|5110|" => ["5010 5110", "5020 merge into 5010"] [];
    a_range_of_nobody_is_a_misfit: "4700-4799|5110|" => [] ["2: account_unknown"];
    a_pattern_keeps_its_open_part: "501x|511x|" => ["5010 5110"] [];
    what_is_kept_must_fit: "501x|5*1*|" => [] ["2: patterns_differ"];
    code_and_name_may_stand_in_one_cell: "5010 Coal|5110 Steam coal|" => ["5010 5110", "5010 Steam coal"] [];
    a_ring_with_the_names_of_its_targets_is_a_misfit: "5010|5030|Diesel\n5030|5010|Coal" => [] ["2: merge_ring", "3: merge_ring"];
    a_dash_is_no_code: "5010|n/a|Steam coal" => ["5010 Steam coal"] [];
    a_row_without_codes_says_nothing: "||Costs\n5010|5110|" => ["5010 5110"] [];
    classes_are_not_merged: "1050|2010|" => [] ["2: merge_class"];
    kinds_are_not_merged: "5000|5010|" => [] ["2: merge_kind"];
}

#[test]
fn a_crosswalk_takes_back_what_it_contradicts_in_a_plan() {
    let today = railway();
    let edits = |row: &str, staged: &str| -> Vec<Wanted> {
        let rows = rows(&format!("Old code|New code|New name\n{row}"));
        let reading = reading(FileKind::Crosswalk, &rows);
        let format = Policy::default().format;
        let books =
            crosswalk::CrosswalkContext { chart: &today.chart, former: &today.former, format };
        let read = crosswalk::read(&reading, &rows, &books).intake;
        read.ready[0].edits(&today.chart, &books::plan(&today, staged))
    };
    assert_eq!(edits("5010|5010|", "5010 code 5110"), [Wanted::Unstage(Field::Code)]);
    assert_eq!(edits("5010|5010|Coal", "5010 name Fuel"), [Wanted::Unstage(Field::Name)]);
    let code = Wanted::Stage(Change::Code(Code::parse("5120").unwrap()));
    assert_eq!(
        edits("5010|5120|", "5010 fate merge 5020"),
        [code.clone(), Wanted::Unstage(Field::Fate)]
    );
    assert_eq!(edits("5010|5120|", "5010 fate deactivate"), [code]);
}

#[test]
fn a_form_of_codes_is_read_from_words() {
    let form = |text: &str| CodeFormat::parse(text).map(|f| (f.min, f.max, f.digits_only));
    assert_eq!(form("4"), Ok((4, 4, true)));
    assert_eq!(form("4-6 digits"), Ok((4, 6, true)));
    assert_eq!(form(" 1-12 characters "), Ok((1, 12, false)));
    for text in ["", "six", "6-4", "0-4", "4 letters", "1-999"] {
        assert!(form(text).is_err(), "{text}");
    }
}

proptest! {
    /// The order of rows in a crosswalk does not matter, apart from which of several merged rows is
    /// the first.
    #[test]
    fn a_renumbering_is_the_same_in_any_order(
        targets in prop::sample::subsequence(vec!["5010", "5020", "5030", "5040", "5110", "5120"], 4)
            .prop_shuffle(),
        order in Just([0usize, 1, 2, 3]).prop_shuffle(),
    ) {
        let old = ["5010", "5020", "5030", "5040"];
        let row = |n: &usize| format!("{}|{}|", old[*n], targets[*n]);
        let sorted = |rows: Vec<String>| {
            let (mut changes, said) = crossed(&rows.join("\n"));
            changes.sort();
            (changes, said)
        };
        let straight = sorted((0..4).map(|n| row(&n)).collect());
        prop_assert_eq!(sorted(order.iter().map(row).collect()), straight.clone());
        prop_assert!(straight.1.is_empty());
    }

    /// Whatever stands in a file, reading it ends, and every row of the body is ready, rejected or
    /// of a kind that is counted.
    #[test]
    fn every_row_of_a_chart_is_accounted_for(
        lines in prop::collection::vec(("[0-9]{0,5}", "[ A-Za-z:]{0,12}", "(Asset|Expense|Sales|.{0,6})", "[0-9]{0,4}"), 0..14),
    ) {
        let line = |(a, b, c, d): &(String, String, String, String)| {
            [a, b, c, d].map(|t| t.replace(['|', '\n', '\r', '#'], "")).join("|")
        };
        let body: Vec<String> = lines.iter().map(line).filter(|l| l.split('|').any(|c| !c.trim().is_empty())).collect();
        let read = read_chart(&format!("Code|Name|Class|Parent\n{}", body.join("\n")));
        let mut named: Vec<u32> = read.kinds.keys().copied().collect();
        named.extend(read.intake.rejected.iter().map(|r| r.row));
        named.sort_unstable();
        prop_assert_eq!(named, (1..body.len() as u32 + 2).collect::<Vec<_>>());
    }
}
