//! Finds the row of headings in a file and what each column means, by the wordings of the trade.

use super::RawRow;
use crate::chart::keyed;
use std::collections::BTreeMap;

keyed! {
    /// What a file brings in.
    FileKind {
        /// A chart of accounts.
        Chart = "chart", "chart of accounts";
        /// Journal lines.
        Journal = "journal", "journal";
        /// What names the accounts elsewhere.
        Usage = "usage", "where-used list";
    }
}

keyed! {
    /// What a column means.
    Column {
        /// The account's code.
        Code = "code", "Code";
        /// The account's name.
        Name = "name", "Name";
        /// Account, heading or sum line.
        Kind = "kind", "Kind";
        /// The class.
        Class = "class", "Class";
        /// The section of the statements.
        Section = "section", "Section";
        /// The code of the heading it stands under.
        Parent = "parent", "Heading";
        /// The control role.
        Role = "role", "Control role";
        /// Whether it is a contra account.
        Contra = "contra", "Contra";
        /// The fixed currency, or the currency of a foreign amount.
        Currency = "currency", "Currency";
        /// What the account is for.
        Description = "description", "Description";
        /// The default tax code.
        Tax = "tax", "Tax code";
        /// What a sum line adds up.
        Intervals = "intervals", "Adds up";
        /// The number of the entry.
        Entry = "entry", "Entry";
        /// The date.
        Date = "date", "Date";
        /// A debit amount.
        Debit = "debit", "Debit";
        /// A credit amount.
        Credit = "credit", "Credit";
        /// A signed amount, debits positive.
        Amount = "amount", "Amount";
        /// A signed amount in the currency of the line.
        Foreign = "foreign", "Foreign amount";
        /// Who was paid or paid.
        Payee = "payee", "Payee";
        /// What it was for.
        Memo = "memo", "Memo";
        /// The number of the document.
        Reference = "reference", "Reference";
        /// Ordinary, opening or closing.
        EntryKind = "entry_kind", "Entry kind";
        /// Cleared in a bank reconciliation.
        Cleared = "cleared", "Cleared";
        /// What kind of thing names the account.
        UsedBy = "used_by", "Used by";
        /// What that thing is called.
        Label = "label", "Called";
    }
}

impl Column {
    /// The wordings of headings that mean this column in a kind of file, reduced to small letters
    /// and single spaces. Empty when such a file has no such column.
    fn wordings(self, kind: FileKind) -> &'static [&'static str] {
        const CODE: &[&str] = &[
            "code",
            "account code",
            "account number",
            "account no",
            "acct no",
            "acct",
            "account",
            "number",
            "no",
            "nominal code",
            "gl code",
            "gl account",
            "ledger code",
            "a c",
        ];
        match (kind, self) {
            (_, Self::Code) => CODE,
            (FileKind::Chart, Self::Name) => {
                &["name", "account name", "title", "account title", "description of account"]
            }
            (FileKind::Chart, Self::Kind) => &["kind", "row kind", "line kind"],
            (FileKind::Chart, Self::Class) => &["class", "account class", "type", "account type"],
            (FileKind::Chart, Self::Section) => {
                &["section", "caption", "statement line", "statement caption", "category"]
            }
            (FileKind::Chart, Self::Parent) => {
                &["heading", "parent", "parent code", "parent account", "under", "rolls up to"]
            }
            (FileKind::Chart, Self::Role) => {
                &["control role", "role", "control account", "control"]
            }
            (FileKind::Chart, Self::Contra) => &["contra", "contra account"],
            (_, Self::Currency) => &["currency", "ccy", "currency code"],
            (FileKind::Chart, Self::Description) => &["description", "notes", "what belongs here"],
            (FileKind::Chart, Self::Tax) => &["tax code", "tax", "vat code", "vat"],
            (FileKind::Chart, Self::Intervals) => &["adds up", "intervals", "sum of", "totalling"],
            (FileKind::Journal, Self::Entry) => &[
                "entry",
                "entry number",
                "entry no",
                "journal",
                "journal number",
                "journal no",
                "transaction",
                "transaction number",
                "transaction no",
                "voucher",
            ],
            (FileKind::Journal, Self::Date) => &["date", "posting date", "entry date"],
            (FileKind::Journal, Self::Debit) => &["debit", "dr", "debit amount"],
            (FileKind::Journal, Self::Credit) => &["credit", "cr", "credit amount"],
            (FileKind::Journal, Self::Amount) => &["amount", "net amount", "value"],
            (FileKind::Journal, Self::Foreign) => {
                &["foreign amount", "currency amount", "amount in currency"]
            }
            (FileKind::Journal, Self::Payee) => {
                &["payee", "counterparty", "customer supplier", "contact", "paid to from"]
            }
            (FileKind::Journal, Self::Memo) => {
                &["memo", "description", "details", "narrative", "text", "particulars"]
            }
            (FileKind::Journal, Self::Reference) => {
                &["reference", "ref", "document", "document no"]
            }
            (FileKind::Journal, Self::EntryKind) => &["entry kind", "kind of entry"],
            (FileKind::Journal, Self::Cleared) => &["cleared", "reconciled"],
            (FileKind::Usage, Self::UsedBy) => &["used by", "used in", "kind"],
            (FileKind::Usage, Self::Label) => &["called", "name", "label"],
            _ => &[],
        }
    }
}

/// Columns of a journal whose heading is the name of a dimension.
const DIMENSIONS: &[&str] =
    &["department", "site", "project", "cost centre", "cost center", "fund"];

fn required(kind: FileKind) -> &'static [Column] {
    match kind {
        FileKind::Chart => &[Column::Code, Column::Name],
        FileKind::Journal => &[Column::Entry, Column::Date, Column::Code],
        FileKind::Usage => &[Column::Code, Column::UsedBy, Column::Label],
    }
}

/// How a file is laid out.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct Layout {
    /// The number of the row of headings.
    pub header_row: u32,
    /// Where each recognised column stands, with its heading as written.
    pub columns: BTreeMap<Column, (usize, String)>,
    /// Dimension columns: where and named how.
    pub dimensions: Vec<(usize, String)>,
    /// Headings that mean nothing here.
    pub unused: Vec<String>,
}

/// Why no layout was found.
#[derive(Clone, Debug, PartialEq, Eq, thiserror::Error)]
pub enum NoLayout {
    /// The file has no rows.
    #[error("the file has no rows")]
    Empty,
    /// No row has the headings that are needed.
    #[error(
        "no row of headings was found in the first {SEARCHED} rows; a {} needs columns headed {needed}",
        kind.words()
    )]
    NoHeadings {
        /// What the file should have been.
        kind: FileKind,
        /// The columns it needs.
        needed: String,
    },
}

/// How far down the row of headings is looked for.
const SEARCHED: usize = 20;

impl Layout {
    /// Finds the row of headings: the first one that has every column the kind of file needs.
    ///
    /// # Errors
    /// When there is none.
    pub fn find(kind: FileKind, rows: &[RawRow]) -> Result<Self, NoLayout> {
        if rows.iter().all(RawRow::is_blank) {
            return Err(NoLayout::Empty);
        }
        rows.iter()
            .take(SEARCHED)
            .map(|row| Self::of(kind, row))
            .find(|l| l.is_enough(kind))
            .ok_or_else(|| {
                let mut needed: Vec<_> = required(kind).iter().map(|c| c.words()).collect();
                if kind == FileKind::Journal {
                    needed.push("Debit and Credit (or Amount)");
                }
                NoLayout::NoHeadings { kind, needed: needed.join(", ") }
            })
    }

    fn of(kind: FileKind, row: &RawRow) -> Self {
        let mut layout = Self {
            header_row: row.number,
            columns: BTreeMap::new(),
            dimensions: Vec::new(),
            unused: Vec::new(),
        };
        for (at, heading) in row.cells.iter().enumerate().filter(|(_, h)| !h.trim().is_empty()) {
            let wording = reduce(heading);
            let heading = heading.trim().to_owned();
            let means = |column: &&Column| {
                column.wordings(kind).contains(&wording.as_str())
                    && !layout.columns.contains_key(column)
            };
            if let Some(column) = Column::ALL.iter().find(means) {
                layout.columns.insert(*column, (at, heading));
            } else if kind == FileKind::Journal && DIMENSIONS.contains(&wording.as_str()) {
                layout.dimensions.push((at, wording));
            } else {
                layout.unused.push(heading);
            }
        }
        layout
    }

    fn is_enough(&self, kind: FileKind) -> bool {
        let has = |column: &Column| self.columns.contains_key(column);
        let amounts = has(&Column::Amount) || (has(&Column::Debit) && has(&Column::Credit));
        required(kind).iter().all(has) && (kind != FileKind::Journal || amounts)
    }

    /// The rows below the headings that are not blank.
    pub fn body<'a>(&self, rows: &'a [RawRow]) -> impl Iterator<Item = &'a RawRow> + use<'a> {
        let header = self.header_row;
        rows.iter().filter(move |row| row.number > header && !row.is_blank())
    }

    /// The trimmed text of a column in a row; empty when either is missing.
    pub fn cell<'a>(&self, row: &'a RawRow, column: Column) -> &'a str {
        let at = self.columns.get(&column).map(|(at, _)| *at);
        at.and_then(|at| row.cells.get(at)).map_or("", |cell| cell.trim())
    }

    /// A rejection of a row for what stands in a column.
    pub(super) fn reject(
        &self,
        row: &RawRow,
        column: Column,
        reason: impl std::fmt::Display,
    ) -> super::Rejected {
        super::Rejected {
            row: row.number,
            column: self.columns.get(&column).map(|(_, heading)| heading.clone()),
            value: self.cell(row, column).to_owned(),
            reason: reason.to_string(),
        }
    }
}

/// Small letters and digits with single spaces: `Acct. No` and `acct no` are the same heading.
pub(super) fn reduce(text: &str) -> String {
    let words = text.split(|c: char| !c.is_alphanumeric()).filter(|word| !word.is_empty());
    words.collect::<Vec<_>>().join(" ").to_lowercase()
}

#[cfg(test)]
mod tests {
    use super::*;

    fn row(number: u32, cells: &[&str]) -> RawRow {
        RawRow { number, cells: cells.iter().map(ToString::to_string).collect() }
    }

    #[test]
    fn headings_are_found_below_titles() {
        let rows = [
            row(1, &["Chart 2026"]),
            row(3, &["Acct. No", "Title", "Type", "Who asked"]),
            row(4, &["1000", "Bank"]),
        ];
        let layout = Layout::find(FileKind::Chart, &rows).unwrap();
        assert_eq!((layout.header_row, layout.unused), (3, vec!["Who asked".to_owned()]));
        assert_eq!(layout.columns[&Column::Class], (2, "Type".to_owned()));
    }

    #[test]
    fn a_file_without_headings_says_what_it_needs() {
        let says = Layout::find(FileKind::Journal, &[row(1, &["1", "2"])]).unwrap_err().to_string();
        assert_eq!(
            says,
            "no row of headings was found in the first 20 rows; a journal needs columns headed \
             Entry, Date, Code, Debit and Credit (or Amount)"
        );
    }

    #[test]
    fn no_wording_means_two_columns() {
        for kind in FileKind::ALL {
            let mut seen = std::collections::HashSet::new();
            for column in Column::ALL {
                assert!(column.wordings(*kind).iter().all(|w| seen.insert(*w)), "{column:?}");
            }
        }
    }
}
