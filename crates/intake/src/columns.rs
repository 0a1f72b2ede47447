//! What files bring in: the meanings that their columns may have.

use unicode_normalization::UnicodeNormalization;
use zf_core::file_kind::FileKind;
use zf_core::keyed;
use zf_core::plan::Field;

keyed! {
    /// What a column means.
    Column {
        /// The account's code.
        Code = "code", "Code";
        /// The account's name.
        Name = "name", "Name";
        /// Code and name in one cell.
        CodeAndName = "code_and_name", "Code and name";
        /// The account that is debited.
        DebitCode = "debit_code", "Account debited";
        /// The account that is credited.
        CreditCode = "credit_code", "Account credited";
        /// The account on the other side.
        Counter = "counter", "Counter-account";
        /// The code After.
        NewCode = "new_code", "New code";
        /// The name After.
        NewName = "new_name", "New name";
        /// What is asked for.
        Action = "action", "Action";
        /// Account, heading or sum line.
        Kind = "kind", "Kind";
        /// The class.
        Class = "class", "Class";
        /// The statement item.
        Section = "section", "Caption";
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
        /// Balance sheet or income statement.
        Statement = "statement", "Statement";
        /// How deep the row stands under others.
        Level = "level", "Level";
        /// What the account held: beside a chart it is looked at and not taken.
        Balance = "balance", "Balance";
        /// What a sum line adds up.
        Intervals = "intervals", "Adds up";
        /// Active, deactivated or archived.
        Status = "status", "Status";
        /// From which day it is deactivated or archived.
        StatusFrom = "status_from", "Status from";
        /// The number of the entry.
        Entry = "entry", "Entry";
        /// The date.
        Date = "date", "Date";
        /// The month, or the period of the fiscal year.
        Period = "period", "Period";
        /// The year of the period.
        Year = "year", "Year";
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
        /// The tax of a row that has a net amount.
        TaxAmount = "tax_amount", "Tax";
        /// Net and tax together.
        Gross = "gross", "Gross";
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

/// Columns of a journal whose heading is the name of a dimension.
const DIMENSIONS: &[&str] = &[
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

/// The dimension that a heading names, if such a file has dimensions.
pub fn dimension(kind: FileKind, heading: &str) -> Option<String> {
    let wording = reduce(heading);
    (kind == FileKind::Journal && DIMENSIONS.contains(&wording.as_str())).then_some(wording)
}

/// The columns of a chart that say something of a field of accounts.
pub const fn columns_of(field: Field) -> &'static [Column] {
    match field {
        Field::Code => &[Column::Code],
        Field::Name => &[Column::Name],
        Field::Kind => &[Column::Kind],
        Field::Class => &[Column::Class, Column::Section],
        Field::Caption => &[Column::Section],
        Field::Parent => &[Column::Parent],
        Field::Contra => &[Column::Contra],
        Field::Role => &[Column::Role],
        Field::Currency => &[Column::Currency],
        Field::Description => &[Column::Description],
        Field::Tax => &[Column::Tax],
        Field::Intervals => &[Column::Intervals],
        Field::Fate => &[Column::Status],
        Field::History | Field::Origin => &[],
    }
}

/// What a column is headed in files that are handed out.
pub fn heading(kind: FileKind, column: Column) -> &'static str {
    match (kind, column) {
        (FileKind::Crosswalk, Column::Code) => "Old code",
        (FileKind::Crosswalk, Column::Name) => "Old name",
        (FileKind::Usage, Column::Name) => "Account name",
        _ => column.words(),
    }
}

/// The columns that a kind of file needs.
pub fn required(kind: FileKind) -> &'static [Column] {
    match kind {
        // A code can be proposed where there is none.
        FileKind::Chart => &[Column::Name],
        FileKind::Journal => &[Column::Entry, Column::Date, Column::Code],
        FileKind::Balances => &[Column::Code],
        FileKind::Crosswalk => &[Column::Code, Column::NewCode],
        FileKind::Usage => &[Column::Code, Column::UsedBy],
    }
}

/// Small letters and digits with single spaces and without accents: `Acct. No` and `acct no` are the
/// same wording, and so are `Intitulé` and `intitule`.
pub fn reduce(text: &str) -> String {
    let marks =
        |c: &char| !matches!(c, '\u{300}'..='\u{36f}' | '\u{200b}'..='\u{200f}' | '\u{feff}');
    let plain: String = text.nfkd().filter(marks).collect();
    let plain = plain.replace('ß', "ss").to_lowercase();
    let words = plain.split(|c: char| !c.is_alphanumeric()).filter(|word| !word.is_empty());
    words.collect::<Vec<_>>().join(" ")
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn wordings_are_the_same_however_they_are_written() {
        assert_eq!(reduce(" Acct. No "), "acct no");
        assert_eq!(reduce("INTITULÉ du\u{a0}compte"), "intitule du compte");
        assert_eq!(reduce("Straße\u{200b}"), "strasse");
        assert_eq!(dimension(FileKind::Journal, "Cost Centre").as_deref(), Some("cost centre"));
    }
}
