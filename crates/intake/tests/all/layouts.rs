//! Random charts, written out in every layout that charts have, read back as the same chart.

use crate::books::{self, gbp};
use proptest::prelude::*;
use proptest::sample::Index;
use std::collections::BTreeSet;
use zf_core::chart::{Account, Chart, Class, Kind};
use zf_core::file_kind::FileKind;
use zf_core::ids::AccountId;
use zf_core::overlap::Overlap;
use zf_core::policy::Policy;
use zf_core::today::Today;
use zf_intake::analysis::choices::Choices;
use zf_intake::analysis::{Against, Analysis};
use zf_intake::chart;
use zf_intake::reading::{Chosen, Reading};
use zf_intake::table::Table;
use zf_intake::zero::zero;
use zf_intake::{Cell, RawRow, Sheet};

const NAMES: [&str; 24] = [
    "Ambulance",
    "Bandages",
    "Canteen",
    "Dressings",
    "Endoscopes",
    "Footwear",
    "Gloves",
    "Hygiene",
    "Implants",
    "Journals",
    "Kitchen",
    "Linen",
    "Masks",
    "Needles",
    "Oxygen",
    "Pharmacy",
    "Quilts",
    "Radiology",
    "Syringes",
    "Theatre",
    "Uniforms",
    "Vaccines",
    "Wheelchairs",
    "X-ray films",
];

/// An account, with the place of the one it stands under.
#[derive(Clone, Debug)]
struct Row {
    name: String,
    class: Class,
    under: Option<usize>,
    depth: usize,
    contra: bool,
}

/// Trees of up to three levels, written out from the top, each class in one piece.
fn charts() -> impl Strategy<Value = Vec<Row>> {
    let node = (any::<Index>(), 0..3_usize, any::<bool>());
    (prop::collection::vec(node, 4..20), Just(NAMES.to_vec()).prop_shuffle()).prop_map(
        |(nodes, names)| {
            let mut rows: Vec<Row> = Vec::new();
            let mut above: Vec<usize> = Vec::new();
            let classes = Class::ALL;
            let count = nodes.len();
            for (at, ((_, depth, contra), name)) in nodes.into_iter().zip(names).enumerate() {
                let class = classes[at * classes.len() / count];
                let fresh = rows.last().is_none_or(|last| last.class != class);
                let depth = if fresh { 0 } else { depth.min(above.len()) };
                above.truncate(depth);
                rows.push(Row {
                    name: name.to_owned(),
                    class,
                    under: above.last().copied(),
                    depth,
                    contra,
                });
                above.push(at);
            }
            rows
        },
    )
}

fn has_rows_below(rows: &[Row], at: usize) -> bool {
    rows.iter().any(|row| row.under == Some(at))
}

/// What is the same however a chart is written: names with the path to them, classes and kinds.
fn told(rows: &[Row]) -> BTreeSet<String> {
    let path = |at: usize| {
        let mut names = Vec::new();
        let mut next = Some(at);
        while let Some(at) = next {
            names.insert(0, rows[at].name.clone());
            next = rows[at].under;
        }
        names.join(" > ")
    };
    let line = |(at, row): (usize, &Row)| {
        let kind = if has_rows_below(rows, at) { "heading" } else { "account" };
        format!("{} {} {kind}", path(at), row.class.key())
    };
    rows.iter().enumerate().map(line).collect()
}

fn read_back(rows: &[RawRow], accounts: &[(u32, Account)]) -> BTreeSet<String> {
    assert!(!rows.is_empty());
    let all = Chart::new(accounts.iter().map(|(_, account)| account.clone()));
    let path = |account: &Account| {
        let mut names = vec![account.name.clone()];
        let mut next = account.parent.and_then(|id| all.get(id));
        while let Some(above) = next {
            names.insert(0, above.name.clone());
            next = above.parent.and_then(|id| all.get(id));
        }
        names.join(" > ")
    };
    let sums = accounts.iter().filter(|(_, account)| account.kind != Kind::Sum);
    sums.map(|(_, a)| format!("{} {} {}", path(a), a.class.key(), a.kind.key())).collect()
}

/// A way to write a chart down.
type Layout = fn(&[Row]) -> Vec<Vec<String>>;

fn texts(cells: &[&str]) -> Vec<String> {
    cells.iter().map(|cell| (*cell).to_owned()).collect()
}

fn code(at: usize) -> String {
    format!("{}", 1000 + 10 * at)
}

fn headed(heads: &[&str], rows: impl Iterator<Item = Vec<String>>) -> Vec<Vec<String>> {
    std::iter::once(texts(heads)).chain(rows).collect()
}

fn by_parent_code(rows: &[Row]) -> Vec<Vec<String>> {
    let line = |(at, row): (usize, &Row)| {
        vec![
            code(at),
            row.name.clone(),
            row.class.words().to_owned(),
            row.under.map_or(String::new(), code),
        ]
    };
    headed(&["Account no.", "Title", "Type", "Parent"], rows.iter().enumerate().map(line))
}

fn by_parent_name(rows: &[Row]) -> Vec<Vec<String>> {
    let line = |row: &Row| {
        let above = row.under.map_or(String::new(), |at| rows[at].name.clone());
        vec![row.name.clone(), row.class.title().to_owned(), above]
    };
    headed(&["Account", "Account type", "Parent account"], rows.iter().map(line))
}

fn by_spaces(rows: &[Row]) -> Vec<Vec<String>> {
    let line = |row: &Row| {
        vec![format!("{}{}", "   ".repeat(row.depth), row.name), row.class.title().to_owned()]
    };
    headed(&["Name", "Type"], rows.iter().map(line))
}

fn by_spaces_with_codes(rows: &[Row]) -> Vec<Vec<String>> {
    let line = |(at, row): (usize, &Row)| {
        vec![
            code(at),
            format!("{}{}", "  ".repeat(row.depth), row.name),
            row.class.words().to_owned(),
        ]
    };
    headed(&["Nominal code", "Nominal name", "Class"], rows.iter().enumerate().map(line))
}

fn by_path(rows: &[Row]) -> Vec<Vec<String>> {
    let line = |row: &Row| {
        let mut names = vec![row.name.clone()];
        let mut next = row.under;
        while let Some(at) = next {
            names.insert(0, rows[at].name.clone());
            next = rows[at].under;
        }
        vec![names.join(":"), row.class.words().to_owned()]
    };
    headed(&["Account", "Type"], rows.iter().map(line))
}

/// Stands for a step by which the format of a cell moves it.
const STEP: char = '\u{1}';

fn by_format(rows: &[Row]) -> Vec<Vec<String>> {
    let line = |(at, row): (usize, &Row)| {
        let steps: String = std::iter::repeat_n(STEP, row.depth).collect();
        vec![code(at), format!("{steps}{}", row.name), row.class.words().to_owned()]
    };
    headed(&["Code", "Account name", "Type"], rows.iter().enumerate().map(line))
}

/// The place of the row at the top over one.
fn root(rows: &[Row], at: usize) -> usize {
    rows[at].under.map_or(at, |above| root(rows, above))
}

fn by_paths_beside_names(rows: &[Row]) -> Vec<Vec<String>> {
    let paths = by_path(rows).into_iter().skip(1).map(|mut line| line.remove(0));
    let line = |((at, row), path): ((usize, &Row), String)| {
        let path = path.replace(':', " > ");
        vec![code(at), row.name.clone(), row.class.words().to_owned(), path]
    };
    headed(&["Code", "Name", "Class", "Path"], rows.iter().enumerate().zip(paths).map(line))
}

fn by_level(rows: &[Row]) -> Vec<Vec<String>> {
    let line =
        |row: &Row| vec![row.depth.to_string(), row.name.clone(), row.class.words().to_owned()];
    headed(&["Level", "Name", "Class"], rows.iter().map(line))
}

fn by_columns(rows: &[Row]) -> Vec<Vec<String>> {
    let line = |row: &Row| {
        let mut cells = vec![String::new(); 3];
        cells[row.depth] = row.name.clone();
        cells.push(row.class.words().to_owned());
        cells
    };
    headed(&["Account", "", "", "Class"], rows.iter().map(line))
}

fn in_german(rows: &[Row]) -> Vec<Vec<String>> {
    let class = |class| match class {
        Class::Asset => "Aktiva",
        Class::Liability => "Verbindlichkeit",
        Class::Equity => "Eigenkapital",
        Class::Income => "Ertrag",
        Class::Expense => "Aufwand",
    };
    let line = |(at, row): (usize, &Row)| {
        vec![
            code(at),
            row.name.clone(),
            class(row.class).to_owned(),
            row.under.map_or(String::new(), code),
        ]
    };
    headed(
        &["Kontonummer", "Kontobezeichnung", "Kontoart", "Übergeordnetes Konto"],
        rows.iter().enumerate().map(line),
    )
}

const LAYOUTS: [(&str, Layout); 10] = [
    ("parent codes", by_parent_code),
    ("parent names", by_parent_name),
    ("spaces", by_spaces),
    ("spaces with codes", by_spaces_with_codes),
    ("paths", by_path),
    ("format", by_format),
    ("paths beside names", by_paths_beside_names),
    ("levels", by_level),
    ("a column a level", by_columns),
    ("german", in_german),
];

fn raw(lines: Vec<Vec<String>>) -> Vec<RawRow> {
    let cell = |text: &String| {
        let plain = text.trim_start_matches(STEP);
        Cell { indent: (text.len() - plain.len()) as u8, ..Cell::text(plain) }
    };
    let cells = |line: Vec<String>| line.iter().map(cell).collect();
    (1..).zip(lines).map(|(number, line)| RawRow { number, cells: cells(line) }).collect()
}

fn read(rows: &[RawRow]) -> chart::ChartIntake {
    let reading = Reading::of(FileKind::Chart, &rows.to_vec(), gbp(), &Chosen::default()).unwrap();
    let (chart, policy) = (Chart::default(), Policy::default());
    let books = chart::ChartContext { chart: &chart, format: policy.format, blocks: &[] };
    chart::read(&reading, rows, &books, AccountId(1))
}

/// Whether the layout can tell the tree: one row below another tells little by white space or paths.
fn tells(name: &str, rows: &[Row]) -> bool {
    let below = rows.iter().filter(|row| row.under.is_some()).count();
    match name {
        "spaces" | "spaces with codes" | "format" | "paths" => below > 1,
        "paths beside names" => {
            let led = |at: usize| rows[at].under.is_some().then(|| root(rows, at));
            let led: Vec<usize> = (0..rows.len()).filter_map(led).collect();
            below * 2 >= rows.len()
                && led.iter().any(|at| led.iter().filter(|other| *other == at).count() > 1)
        }
        "a column a level" => below > 0,
        _ => true,
    }
}

proptest! {
    #[test]
    fn a_chart_in_any_layout_is_read_back_the_same(rows in charts(), layout in 0..LAYOUTS.len()) {
        let (name, write) = LAYOUTS[layout];
        prop_assume!(tells(name, &rows));
        let raw = raw(write(&rows));
        let read = read(&raw);
        prop_assert_eq!(&read.intake.rejected, &vec![], "{}", name);
        prop_assert_eq!(read_back(&raw, &read.intake.ready), told(&rows), "{}", name);
        prop_assert!(read.questions.is_empty());
        let codes: BTreeSet<_> = read.intake.ready.iter().map(|(_, a)| a.code.key()).collect();
        prop_assert_eq!(codes.len(), rows.len(), "every account has a code of its own");
    }

    /// The file's own zero: whatever stands in it, rows and amounts are taken or left out.
    #[test]
    fn every_row_and_every_amount_is_accounted_for(
        rows in charts(),
        layout in 0..LAYOUTS.len(),
        amounts in prop::collection::vec(("[0-9]{1,4}\\.[0-9]{2}|-|[a-z]{0,2}", any::<bool>()), 24),
    ) {
        let mut lines = LAYOUTS[layout].1(&rows);
        let heads = lines[0].clone();
        lines[0].push("Balance".to_owned());
        for (line, (amount, _)) in lines.iter_mut().skip(1).zip(&amounts) {
            line.push(amount.clone());
        }
        // Totals, blank rows and headings once more anywhere.
        for (at, _) in amounts.iter().enumerate().filter(|(at, (_, more))| *more && *at > 0) {
            let mut more = vec![String::new(); heads.len() + 1];
            match at % 3 {
                0 => more[0] = "Total".to_owned(),
                1 => more = lines[0].clone(),
                _ => {}
            }
            *more.last_mut().unwrap() = if at % 3 == 0 { "7.00".to_owned() } else { more.last().unwrap().clone() };
            lines.insert(at.min(lines.len()), more);
        }
        let mut sheets = [Sheet::new("", Box::new(raw(lines)))];
        let table = Table::find(FileKind::Chart, &mut sheets, gbp(), &Chosen::default()).unwrap();
        let today = books::railway();
        let bare = Today { chart: Chart::default(), ..today };
        let against = Against { today: &bare, overlap: Overlap::default(), then: None };
        let analysis =
            Analysis::of(FileKind::Chart, &table.reading, &*table.rows, &Choices::default(), against).unwrap();
        let zero = zero(FileKind::Chart, &table, &analysis, gbp());
        prop_assert_eq!(zero.rows(), table.rows.count());
        prop_assert_eq!(zero.taken().values().sum::<usize>() + zero.left_out(), zero.rows());
        for column in &zero.amounts {
            prop_assert_eq!(column.difference(), 0, "{}", column.column);
        }
    }

    #[test]
    fn sheets_of_one_form_are_one_table(rows in charts(), cuts in prop::collection::vec(0usize..30, 1..4)) {
        let line = |(at, row): (usize, &Row)| {
            vec![code(at), row.name.clone(), row.class.words().to_owned()]
        };
        let lines: Vec<_> = rows.iter().enumerate().map(line).collect();
        let heads = ["Code", "Name", "Class"];
        let whole = read(&raw(headed(&heads, lines.iter().cloned())));
        let mut cuts: Vec<usize> = cuts.into_iter().map(|cut| cut.min(lines.len())).collect();
        cuts.extend([0, lines.len()]);
        cuts.sort_unstable();
        let mut sheets: Vec<Sheet> = cuts.windows(2).enumerate().map(|(n, cut)| {
            // A title stands above the headings of some.
            let title = (n % 2 == 1).then(|| vec!["Harbour Lights".to_owned()]);
            let part = headed(&heads, lines[cut[0]..cut[1]].iter().cloned());
            Sheet::new(&format!("Part {n}"), Box::new(raw(title.into_iter().chain(part).collect())))
        }).collect();
        let all = Chosen { all_sheets: true, ..Chosen::default() };
        let table = Table::find(FileKind::Chart, &mut sheets, gbp(), &all).unwrap();
        let raw = table.rows.all();
        let books = chart::ChartContext { chart: &Chart::default(), format: Policy::default().format, blocks: &[] };
        let parts = chart::read(&table.reading, &raw, &books, AccountId(1)).intake;
        let accounts = |ready: &[(u32, Account)]| ready.iter().map(|(_, a)| a.clone()).collect::<Vec<_>>();
        prop_assert_eq!(accounts(&parts.ready), accounts(&whole.intake.ready));
        for ((number, account), at) in parts.ready.iter().zip(0..) {
            let place = table.reading.place(*number);
            let n = cuts.windows(2).position(|cut| (cut[0]..cut[1]).contains(&at)).unwrap();
            let row = at - cuts[n] + 2 + n % 2;
            let sheet = place.sheet;
            prop_assert_eq!(sheet, Some(format!("Part {n}")), "{}", account.name);
            prop_assert_eq!(place.row as usize, row);
        }
    }

    #[test]
    fn a_balance_on_the_other_side_is_contra(rows in charts()) {
        let side = |row: &Row| {
            let debit = matches!(row.class, Class::Asset | Class::Expense) != row.contra;
            if debit { "Dr" } else { "Cr" }.to_owned()
        };
        let line = |(at, row): (usize, &Row)| {
            vec![code(at), row.name.clone(), row.class.words().to_owned(), side(row)]
        };
        let heads = ["Code", "Name", "Class", "Normal balance"];
        let read = read(&raw(headed(&heads, rows.iter().enumerate().map(line))));
        prop_assert_eq!(&read.intake.rejected, &vec![]);
        let contra: Vec<bool> = read.intake.ready.iter().map(|(_, account)| account.contra).collect();
        prop_assert_eq!(contra, rows.iter().map(|row| row.contra).collect::<Vec<_>>());
    }
}
