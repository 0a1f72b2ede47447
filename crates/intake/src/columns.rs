//! What files bring in, and what their columns mean by the wordings of the trade.

use zf_core::file_kind::FileKind;
use zf_core::keyed;

keyed! {
    /// What a column means.
    Column {
        /// The account's code.
        Code = "code", "Code";
        /// The account's name.
        Name = "name", "Name";
        /// Code and name in one cell.
        CodeAndName = "code_and_name", "Code and name";
        /// The code After.
        NewCode = "new_code", "New code";
        /// The name After.
        NewName = "new_name", "New name";
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
        /// The side on which the balance usually stands.
        Normal = "normal", "Normal balance";
        /// The fixed currency, or the currency of a foreign amount.
        Currency = "currency", "Currency";
        /// What the account is for.
        Description = "description", "Description";
        /// The default tax code.
        Tax = "tax", "Tax code";
        /// What a sum line adds up.
        Intervals = "intervals", "Adds up";
        /// Active, deactivated or archived.
        Status = "status", "Status";
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
        /// Whether the amount is a debit or a credit.
        Side = "side", "Side";
        /// A signed amount in the currency of the line.
        Foreign = "foreign", "Foreign amount";
        /// What one of the foreign currency is worth in the base currency.
        Rate = "rate", "Rate";
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
        /// The month that a budget line is for.
        Month = "month", "Month";
    }
}

/// Wordings of headings, reduced to small letters and single spaces.
type Wordings = &'static [&'static str];

const CODE: Wordings = &[
    "code",
    "account code",
    "account number",
    "account no",
    "acct no",
    "acct",
    "account",
    "nominal code",
    "nominal",
    "nominal account",
    "gl code",
    "gl account",
    "gl no",
    "ledger code",
    "ledger account",
    "a c",
    "a c no",
    "account id",
    "acc no",
    "acc code",
    "konto",
    "compte",
    "cuenta",
    "conto",
    "number",
    "no",
];

const NAME: Wordings = &[
    "name",
    "account name",
    "title",
    "account title",
    "description of account",
    "account description",
    "nominal name",
    "ledger name",
    "gl name",
    "bezeichnung",
    "intitule",
    "libelle",
];

impl Column {
    /// The wordings of headings that mean this column in a kind of file. Empty when such a file has
    /// no such column.
    fn wordings(self, kind: FileKind) -> Wordings {
        use FileKind::{Balances, Chart, Crosswalk, Journal, Usage};
        match (kind, self) {
            (Crosswalk, Self::Code) => &[
                "old code",
                "old",
                "old account",
                "old account code",
                "old number",
                "old no",
                "from",
                "from code",
                "current code",
                "present code",
                "code today",
                "code",
                "account code",
                "account number",
                "account",
                "source code",
                "before",
            ],
            (Crosswalk, Self::Name) => {
                &["old name", "current name", "name", "account name", "name today"]
            }
            (Crosswalk, Self::NewCode) => &[
                "new code",
                "new",
                "new account",
                "new account code",
                "new number",
                "new no",
                "to",
                "to code",
                "target code",
                "code after",
                "after",
                "mapped to",
                "map to",
                "becomes",
            ],
            (Crosswalk, Self::NewName) => {
                &["new name", "new account name", "target name", "name after"]
            }
            // In a journal a bare number is more likely that of the entry.
            (Journal, Self::Code) => &CODE[..CODE.len() - 2],
            (_, Self::Code) => CODE,
            (Chart | Journal | Balances, Self::CodeAndName) => {
                &["code and name", "account and name", "account code and name", "code name"]
            }
            (Chart, Self::Name) => NAME,
            (Journal | Balances, Self::Name) => {
                &["account name", "account title", "name", "title", "nominal name", "ledger name"]
            }
            // A bare name is more likely that of what uses the account.
            (Usage, Self::Name) => &["account name", "account title", "nominal name"],
            (Chart, Self::Kind) => &["kind", "row kind", "line kind", "row type", "line type"],
            (Chart, Self::Class) => &[
                "class",
                "account class",
                "type",
                "account type",
                "kind of a c",
                "kind of account",
                "classification",
            ],
            (Chart, Self::Section) => &[
                "section",
                "caption",
                "statement line",
                "statement caption",
                "category",
                "sub type",
                "subtype",
            ],
            (Chart, Self::Parent) => &[
                "heading",
                "parent",
                "parent code",
                "parent account",
                "under",
                "rolls up to",
                "parent no",
                "parent number",
                "summary account",
            ],
            (Chart, Self::Role) => &["control role", "role", "control account", "control"],
            (Chart, Self::Contra) => &["contra", "contra account"],
            (Chart, Self::Normal) => {
                &["normal balance", "normal side", "dr cr", "debit credit", "balance side"]
            }
            (_, Self::Currency) => &["currency", "ccy", "currency code", "cur"],
            (Chart, Self::Description) => {
                &["description", "notes", "what belongs here", "remarks", "comment"]
            }
            (Chart, Self::Tax) => {
                &["tax code", "tax", "vat code", "vat", "default tax code", "tax rate"]
            }
            (Chart, Self::Intervals) => {
                &["adds up", "intervals", "sum of", "totalling", "totaling", "range"]
            }
            (Chart, Self::Status) => &["status", "state", "account status", "active"],
            (Journal, Self::Entry) => &[
                "entry",
                "entry number",
                "entry no",
                "journal",
                "journal number",
                "journal no",
                "transaction",
                "transaction number",
                "transaction no",
                "trans no",
                "voucher",
                "voucher no",
                "voucher number",
                "je",
                "je no",
                "journal id",
                "transaction id",
                "entry id",
                "no",
                "number",
            ],
            (Journal, Self::Date) => &[
                "date",
                "posting date",
                "entry date",
                "transaction date",
                "journal date",
                "posted",
                "datum",
                "value date",
            ],
            (Journal | Balances, Self::Debit) => {
                &["debit", "dr", "debit amount", "debits", "debit balance", "soll", "debe"]
            }
            (Journal | Balances, Self::Credit) => {
                &["credit", "cr", "credit amount", "credits", "credit balance", "haben", "haber"]
            }
            (Journal, Self::Amount) => {
                &["amount", "net amount", "value", "net", "betrag", "montant"]
            }
            (Balances, Self::Amount) => &[
                "amount",
                "balance",
                "closing balance",
                "opening balance",
                "net",
                "net balance",
                "saldo",
                "solde",
            ],
            (Journal | Balances, Self::Side) => {
                &["side", "dr cr", "debit credit", "d c", "dc", "sign", "dr or cr"]
            }
            (Balances, Self::Rate) => &["rate", "exchange rate", "fx rate", "rate of exchange"],
            (Journal | Balances, Self::Foreign) => &[
                "foreign amount",
                "currency amount",
                "amount in currency",
                "foreign currency amount",
                "transaction currency amount",
                "fc amount",
                "original amount",
            ],
            (Journal, Self::Payee) => &[
                "payee",
                "counterparty",
                "customer supplier",
                "contact",
                "paid to from",
                "supplier",
                "customer",
                "vendor",
                "party",
            ],
            (Journal, Self::Memo) => &[
                "memo",
                "description",
                "details",
                "narrative",
                "text",
                "particulars",
                "narration",
                "line description",
                "comment",
                "notes",
            ],
            (Journal, Self::Reference) => &[
                "reference",
                "ref",
                "document",
                "document no",
                "doc no",
                "ref no",
                "reference no",
                "invoice no",
                "cheque no",
                "check no",
            ],
            (Journal, Self::EntryKind) => &["entry kind", "kind of entry"],
            (Journal, Self::Cleared) => &["cleared", "reconciled"],
            (Usage, Self::UsedBy) => &["used by", "used in", "kind"],
            (Usage, Self::Label) => &["called", "name", "label"],
            (Usage, Self::Month) => &["month", "budget month", "period"],
            (Usage, Self::Amount) => &["amount", "budget", "budgeted"],
            _ => &[],
        }
    }
}

/// Columns of a journal whose heading is the name of a dimension.
const DIMENSIONS: Wordings = &[
    "department",
    "site",
    "project",
    "cost centre",
    "cost center",
    "fund",
    "location",
    "job",
    "division",
    "branch",
    "region",
];

/// What a heading means in a kind of file, and how plainly: 0 is the plainest wording.
pub fn meaning(kind: FileKind, heading: &str) -> Option<(Column, usize)> {
    let wording = reduce(heading);
    Column::ALL.iter().find_map(|column| {
        let at = column.wordings(kind).iter().position(|known| *known == wording)?;
        Some((*column, at))
    })
}

/// The dimension that a heading names, if such a file has dimensions.
pub fn dimension(kind: FileKind, heading: &str) -> Option<String> {
    let wording = reduce(heading);
    (kind == FileKind::Journal && DIMENSIONS.contains(&wording.as_str())).then_some(wording)
}

/// The columns that a kind of file may have.
pub fn possible(kind: FileKind) -> impl Iterator<Item = Column> {
    Column::ALL.iter().copied().filter(move |column| !column.wordings(kind).is_empty())
}

/// The columns that a kind of file needs.
pub fn required(kind: FileKind) -> &'static [Column] {
    match kind {
        FileKind::Chart => &[Column::Code, Column::Name],
        FileKind::Journal => &[Column::Entry, Column::Date, Column::Code],
        FileKind::Balances => &[Column::Code],
        FileKind::Crosswalk => &[Column::Code, Column::NewCode],
        FileKind::Usage => &[Column::Code, Column::UsedBy, Column::Label],
    }
}

/// Small letters and digits with single spaces: `Acct. No` and `acct no` are the same heading.
pub fn reduce(text: &str) -> String {
    let words = text.split(|c: char| !c.is_alphanumeric()).filter(|word| !word.is_empty());
    words.collect::<Vec<_>>().join(" ").to_lowercase()
}

#[cfg(test)]
mod tests {
    use super::*;
    use std::collections::HashSet;

    #[test]
    fn no_wording_means_two_columns_and_all_are_reduced() {
        for kind in FileKind::ALL {
            let mut seen = HashSet::new();
            for column in Column::ALL {
                for wording in column.wordings(*kind) {
                    assert!(seen.insert(*wording), "{wording} twice in a {}", kind.words());
                    assert_eq!(reduce(wording), *wording);
                }
            }
        }
    }

    #[test]
    fn headings_are_known_however_they_are_written() {
        let means = |kind, heading| meaning(kind, heading).map(|(column, _)| column);
        assert_eq!(means(FileKind::Chart, " Acct. No "), Some(Column::Code));
        assert_eq!(means(FileKind::Crosswalk, "New-Code"), Some(Column::NewCode));
        assert_eq!(means(FileKind::Chart, "No."), Some(Column::Code));
        assert_eq!(means(FileKind::Journal, "No."), Some(Column::Entry));
        assert_eq!(meaning(FileKind::Journal, "Colour"), None);
        assert_eq!(dimension(FileKind::Journal, "Cost Centre").as_deref(), Some("cost centre"));
    }
}
