//! Audit files that the law lays down, as sheets that are read like any other: what their columns are
//! called here, and the chart that a list of entries implies.

use super::columns::{Column, FileKind};
use super::template::heading;
use super::{Cell, RawRow, Sheet};
use crate::chart::{Class, Section};
use std::collections::BTreeMap;

/// The name of the sheet of accounts of an audit file.
pub const ACCOUNTS: &str = "Accounts";

/// The name of its sheet of journal lines.
pub const JOURNAL: &str = "Journal";

/// The columns of [`ACCOUNTS`].
pub const ACCOUNT_COLUMNS: [Column; 5] =
    [Column::Code, Column::Name, Column::Class, Column::Section, Column::Contra];

/// The columns of [`JOURNAL`].
pub const JOURNAL_COLUMNS: [Column; 12] = [
    Column::Entry,
    Column::Date,
    Column::Code,
    Column::Name,
    Column::Debit,
    Column::Credit,
    Column::Payee,
    Column::Memo,
    Column::Reference,
    Column::Currency,
    Column::Foreign,
    Column::EntryKind,
];

/// A sheet with a row of headings on top, in row 1.
pub fn sheet(name: &str, kind: FileKind, columns: &[Column], rows: Vec<RawRow>) -> Sheet {
    let head = columns.iter().map(|column| Cell::text(heading(kind, *column))).collect();
    let head = RawRow { number: 1, cells: head };
    let rows = std::iter::once(head).chain(rows).collect();
    Sheet { name: name.to_owned(), hidden: false, rows }
}

/// Where the columns of a French file of accounting entries stand, whose names article A. 47 A-1 of
/// the Livre des procédures fiscales lays down. Either Debit and Credit, or Montant and Sens.
struct Entries {
    places: BTreeMap<String, usize>,
}

impl Entries {
    fn of(head: &RawRow) -> Option<Self> {
        let places = head.filled().map(|(at, name)| (name.to_lowercase(), at)).collect();
        let entries = Self { places };
        let needed = ["journalcode", "ecriturenum", "ecrituredate", "comptenum", "comptelib"];
        let amounts = [["debit", "credit"], ["montant", "sens"]];
        let has = |name: &&str| entries.places.contains_key(*name);
        let sound = needed.iter().all(has) && amounts.iter().any(|two| two.iter().all(has));
        sound.then_some(entries)
    }

    fn cell<'a>(&self, row: &'a RawRow, name: &str) -> &'a str {
        let cell = self.places.get(name).and_then(|at| row.cells.get(*at));
        cell.map_or("", |cell| cell.text.trim())
    }

    fn line(&self, row: &RawRow) -> RawRow {
        let cell = |name| self.cell(row, name);
        let (debit, credit) = match cell("sens").to_uppercase().as_str() {
            "" => (cell("debit"), cell("credit")),
            "C" | "-1" => ("", cell("montant")),
            _ => (cell("montant"), ""),
        };
        // Both stand in the file, one of them as zero.
        let is_zero = |text: &str| text.chars().all(|c| matches!(c, '0' | ',' | '.'));
        let (debit, credit) = match (is_zero(debit), is_zero(credit)) {
            (true, false) => ("", credit),
            (_, true) => (debit, ""),
            (false, false) => (debit, credit),
        };
        let foreign = match cell("montantdevise").trim_start_matches(['-', '+']) {
            "" => String::new(),
            amount if debit.is_empty() != debit.starts_with('-') => format!("-{amount}"),
            amount => amount.to_owned(),
        };
        // Numbers may begin anew in each journal.
        let entry = format!("{} {}", cell("journalcode"), cell("ecriturenum"));
        let texts = [
            entry.trim(),
            &iso(cell("ecrituredate")),
            cell("comptenum"),
            cell("comptelib"),
            debit,
            credit,
            cell("compauxlib"),
            cell("ecriturelib"),
            cell("pieceref"),
            cell("idevise"),
            if is_zero(&foreign) { "" } else { &foreign },
            "",
        ];
        RawRow { number: row.number, cells: texts.iter().map(|text| Cell::text(text)).collect() }
    }
}

/// A date of eight digits with its dashes; anything else as it is.
fn iso(date: &str) -> String {
    match (date.get(..4), date.get(4..6), date.get(6..)) {
        (Some(year), Some(month), Some(day))
            if date.len() == 8 && date.bytes().all(|b| b.is_ascii_digit()) =>
        {
            format!("{year}-{month}-{day}")
        }
        _ => date.to_owned(),
    }
}

/// The journal and the chart of a French file of accounting entries; `None` when a sheet is none.
pub fn of_entries(sheet: &Sheet) -> Option<[Sheet; 2]> {
    let head = sheet.rows.first()?;
    let entries = Entries::of(head)?;
    let body = || sheet.rows.iter().skip(1).filter(|row| !row.is_blank());
    let mut accounts: BTreeMap<&str, (u32, &str)> = BTreeMap::new();
    for row in body() {
        let place = (row.number, entries.cell(row, "comptelib"));
        accounts.entry(entries.cell(row, "comptenum")).or_insert(place);
    }
    accounts.remove("");
    let account = |(code, (number, name)): (&str, (u32, &str))| {
        let (class, section) = french(code).map_or(("", ""), |(class, section)| {
            (class.words(), section.map_or("", Section::words))
        });
        let contra = if is_french_contra(code) { "yes" } else { "" };
        let cells = [code, name, class, section, contra].map(Cell::text).to_vec();
        RawRow { number, cells }
    };
    let mut rows: Vec<RawRow> = accounts.into_iter().map(account).collect();
    rows.sort_by_key(|row| row.number);
    let lines = body().map(|row| entries.line(row)).collect();
    Some([
        self::sheet(JOURNAL, FileKind::Journal, &JOURNAL_COLUMNS, lines),
        self::sheet(ACCOUNTS, FileKind::Chart, &ACCOUNT_COLUMNS, rows),
    ])
}

/// What the first digits of a code mean in the Plan comptable général (règlement ANC 2014-03). The
/// longest beginning counts.
const FRENCH: [(&str, Class, Option<Section>); 36] = {
    use Class::{Asset, Equity, Expense, Income, Liability};
    [
        ("10", Equity, Some(Section::Capital)),
        ("11", Equity, Some(Section::RetainedEarnings)),
        ("12", Equity, Some(Section::RetainedEarnings)),
        ("13", Equity, Some(Section::Capital)),
        ("14", Equity, Some(Section::Capital)),
        ("15", Liability, Some(Section::Provisions)),
        ("16", Liability, Some(Section::Borrowings)),
        ("17", Liability, Some(Section::Borrowings)),
        ("18", Liability, None),
        ("20", Asset, Some(Section::Intangibles)),
        ("2", Asset, Some(Section::Property)),
        ("26", Asset, Some(Section::Investments)),
        ("27", Asset, Some(Section::Investments)),
        ("3", Asset, Some(Section::Inventories)),
        ("40", Liability, Some(Section::Payables)),
        ("409", Asset, Some(Section::Receivables)),
        ("41", Asset, Some(Section::Receivables)),
        ("419", Liability, Some(Section::Payables)),
        ("42", Liability, Some(Section::Payables)),
        ("43", Liability, Some(Section::Payables)),
        ("44", Liability, Some(Section::Taxes)),
        ("4456", Asset, Some(Section::Taxes)),
        ("45", Liability, Some(Section::Payables)),
        ("46", Liability, Some(Section::Payables)),
        ("462", Asset, Some(Section::Receivables)),
        ("47", Asset, None),
        ("48", Asset, Some(Section::Prepayments)),
        ("487", Liability, Some(Section::DeferredIncome)),
        ("49", Asset, Some(Section::Receivables)),
        ("5", Asset, Some(Section::Cash)),
        ("519", Liability, Some(Section::Borrowings)),
        ("6", Expense, None),
        ("64", Expense, Some(Section::Staff)),
        ("66", Expense, Some(Section::FinanceCosts)),
        ("7", Income, None),
        ("70", Income, Some(Section::Revenue)),
    ]
};

fn french(code: &str) -> Option<(Class, Option<Section>)> {
    let fits = FRENCH.iter().filter(|(start, ..)| code.starts_with(start));
    fits.max_by_key(|(start, ..)| start.len()).map(|(_, class, section)| (*class, *section))
}

/// Depreciation and impairment: 28, 29, 39, 49 and 59.
fn is_french_contra(code: &str) -> bool {
    ["28", "29", "39", "49", "59"].iter().any(|start| code.starts_with(start))
}
