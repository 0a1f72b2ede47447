//! Audit files that the law lays down, as sheets that are read like any other: what their columns are
//! called here, and the chart that a list of entries implies.

use super::columns::{Column, heading};
use super::rows::{Rows, Walk};
use super::{Cell, RawRow, Sheet};
use std::borrow::Cow;
use std::collections::BTreeMap;
use zf_core::chart::{Class, Section};
use zf_core::file_kind::FileKind;

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
    let rows: Vec<RawRow> = std::iter::once(head(kind, columns)).chain(rows).collect();
    Sheet::new(name, Box::new(rows))
}

/// The row of headings of a sheet.
pub fn head(kind: FileKind, columns: &[Column]) -> RawRow {
    let cells = columns.iter().map(|column| Cell::text(heading(kind, *column))).collect();
    RawRow { number: 1, cells }
}

/// Where the columns of a French file of accounting entries stand, whose names article A. 47 A-1 of
/// the Livre des procédures fiscales lays down. Either Debit and Credit, or Montant and Sens.
#[derive(Debug)]
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

/// The journal lines of a French file of accounting entries.
#[derive(Debug)]
struct FrenchLines {
    rows: Box<dyn Rows>,
    entries: Entries,
}

impl FrenchLines {
    fn body(&self) -> impl Iterator<Item = Cow<'_, RawRow>> + Send {
        self.rows.walk().skip(1).filter(|row| !row.is_blank())
    }

    /// A row for each account, in the order in which they come.
    fn accounts(&self) -> Vec<RawRow> {
        let mut names: BTreeMap<String, (u32, String)> = BTreeMap::new();
        for row in self.body() {
            let code = self.entries.cell(&row, "comptenum");
            if !code.is_empty() && !names.contains_key(code) {
                let name = self.entries.cell(&row, "comptelib").to_owned();
                names.insert(code.to_owned(), (row.number, name));
            }
        }
        let mut rows: Vec<RawRow> = names.iter().map(account).collect();
        rows.sort_by_key(|row| row.number);
        rows
    }
}

impl Rows for FrenchLines {
    fn walk(&self) -> Walk<'_> {
        let head = head(FileKind::Journal, &JOURNAL_COLUMNS);
        let lines = self.body().map(|row| self.entries.line(&row));
        Box::new(std::iter::once(head).chain(lines).map(Cow::Owned))
    }

    fn count(&self) -> usize {
        self.rows.count()
    }
}

fn account((code, (number, name)): (&String, &(u32, String))) -> RawRow {
    let (class, section) = french(code)
        .map_or(("", ""), |(class, section)| (class.words(), section.map_or("", Section::words)));
    let contra = if is_french_contra(code) { "yes" } else { "" };
    let cells = [code, name, class, section, contra].map(Cell::text).to_vec();
    RawRow { number: *number, cells }
}

/// The journal and the chart of a French file of accounting entries.
///
/// # Errors
/// The rows as they were, when they are none.
pub fn of_entries(rows: Box<dyn Rows>) -> Result<[Sheet; 2], Box<dyn Rows>> {
    let Some(entries) = rows.start(1).first().and_then(Entries::of) else { return Err(rows) };
    let lines = FrenchLines { rows, entries };
    let accounts = sheet(ACCOUNTS, FileKind::Chart, &ACCOUNT_COLUMNS, lines.accounts());
    Ok([Sheet::new(JOURNAL, Box::new(lines)), accounts])
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
