//! The Standard Audit File for Tax of the OECD, an XML file with a chart and its journal, as the two
//! sheets that it holds.

use super::opened::{CannotRead, Opened};
use encoding_rs::{Encoding, UTF_8};
use quick_xml::Reader;
use quick_xml::events::Event;
use std::borrow::Cow;
use std::collections::{BTreeMap, BTreeSet, HashMap};
use zf_core::file_kind::FileKind;
use zf_intake::audit::{ACCOUNT_COLUMNS, ACCOUNTS, JOURNAL, JOURNAL_COLUMNS, head, sheet};
use zf_intake::columns::Column;
use zf_intake::rows::MAX_ROWS;
use zf_intake::{Cell, RawRow, Sheet};

/// Elements stand in each other at most so deep.
const MAX_DEPTH: usize = 32;

/// Whether a text begins as an XML file does.
pub(super) fn is_xml(start: &str) -> bool {
    start.starts_with("<?xml") || start.starts_with("<auditfile") || start.contains(":auditfile ")
}

pub(super) fn read(content: &[u8]) -> Result<Opened, CannotRead> {
    let text = decode(content)?;
    let mut file = AuditFile::default();
    let mut reader = Reader::from_str(&text);
    loop {
        match reader.read_event().map_err(damaged)? {
            Event::Start(tag) => file.open(tag.local_name().as_ref())?,
            Event::End(_) => file.close()?,
            Event::Text(text) => file.text.push_str(&text),
            Event::CData(text) => file.text.push_str(&text),
            // Entities of its own a file may not have: they could stand for gigabytes.
            Event::GeneralRef(name) => file.text.push(entity(&name)?),
            Event::DocType(_) => return Err(damaged("it declares a document type")),
            Event::Eof if !file.path.is_empty() => return Err(damaged("it breaks off")),
            Event::Eof => break,
            _ => {}
        }
    }
    file.opened()
}

/// UTF-8, or the encoding that the first line declares.
fn decode(content: &[u8]) -> Result<Cow<'_, str>, CannotRead> {
    let start = String::from_utf8_lossy(&content[..content.len().min(200)]);
    let declared = start.split_once("encoding=").and_then(|(_, rest)| rest.get(1..));
    let declared = declared.and_then(|rest| rest.split(['"', '\'']).next());
    let encoding = match declared {
        Some(name) => Encoding::for_label(name.as_bytes())
            .ok_or_else(|| CannotRead::UnknownEncoding(name.to_owned()))?,
        None => UTF_8,
    };
    let (text, _, unsound) = encoding.decode(content);
    if unsound {
        return Err(damaged(format!("it is not written in {}", encoding.name())));
    }
    Ok(text)
}

fn damaged(reason: impl ToString) -> CannotRead {
    CannotRead::Damaged { kind: "XML", reason: reason.to_string() }
}

fn entity(name: &quick_xml::events::BytesRef<'_>) -> Result<char, CannotRead> {
    if let Some(character) = name.resolve_char_ref().map_err(damaged)? {
        return Ok(character);
    }
    match &**name {
        "amp" => Ok('&'),
        "lt" => Ok('<'),
        "gt" => Ok('>'),
        "quot" => Ok('"'),
        "apos" => Ok('\''),
        other => Err(damaged(format!("it uses the unknown entity {other}"))),
    }
}

/// What was read so far.
#[derive(Default)]
struct AuditFile {
    /// The elements that are open.
    path: Vec<String>,
    text: String,
    /// What stands in the account, the transaction and the line that are open, by element.
    account: HashMap<String, String>,
    transaction: HashMap<String, String>,
    line: HashMap<String, String>,
    /// The name of the dimension whose value comes next.
    analysis: String,
    /// Values of dimensions in the line that is open, by name.
    analyses: BTreeMap<String, String>,
    /// Those of all lines.
    dimensions: Vec<BTreeMap<String, String>>,
    journal: String,
    /// Customers and suppliers, by their identity.
    names: HashMap<String, String>,
    party: (String, String),
    accounts: Vec<RawRow>,
    lines: Vec<RawRow>,
    known: bool,
}

impl AuditFile {
    fn open(&mut self, name: &str) -> Result<(), CannotRead> {
        if self.path.len() >= MAX_DEPTH {
            return Err(damaged("its elements stand in each other without end"));
        }
        let name = name.to_owned();
        self.known |= self.path.is_empty() && name == "AuditFile";
        match name.as_str() {
            "Account" => self.account.clear(),
            "Transaction" => self.transaction.clear(),
            "Line" | "DebitLine" | "CreditLine" => {
                self.line.clear();
                self.analyses.clear();
            }
            "Customer" | "Supplier" => self.party = Default::default(),
            _ => {}
        }
        self.path.push(name);
        self.text.clear();
        Ok(())
    }

    fn close(&mut self) -> Result<(), CannotRead> {
        let Some(name) = self.path.pop() else { return Ok(()) };
        let text = std::mem::take(&mut self.text).trim().to_owned();
        let inside = |element: &str| self.path.iter().any(|open| open == element);
        let parent = self.path.last().map_or("", String::as_str);
        match name.as_str() {
            "Account" if inside("GeneralLedgerAccounts") => self.end_account()?,
            "Line" | "DebitLine" | "CreditLine" if inside("Transaction") => self.end_line(&name)?,
            "JournalID" if parent == "Journal" => self.journal = text,
            "Customer" | "Supplier" => {
                let (id, name) = std::mem::take(&mut self.party);
                self.names.insert(id, name);
            }
            "CustomerID" if parent == "Customer" => self.party.0 = text,
            "SupplierID" if parent == "Supplier" => self.party.0 = text,
            "AnalysisType" if parent == "Analysis" => self.analysis = text,
            "AnalysisID" if parent == "Analysis" => {
                self.analyses.insert(std::mem::take(&mut self.analysis), text);
            }
            "Name" | "CompanyName"
                if (inside("Customer") || inside("Supplier")) && self.party.1.is_empty() =>
            {
                self.party.1 = text;
            }
            _ if inside("GeneralLedgerAccounts") && parent == "Account" => {
                self.account.insert(name, text);
            }
            _ if inside("Line") || inside("DebitLine") || inside("CreditLine") => {
                // An amount is nested with its currency, or stands alone.
                let key = match parent {
                    "DebitAmount" | "CreditAmount" => format!("{parent}/{name}"),
                    _ => name,
                };
                if !text.is_empty() {
                    self.line.entry(key).or_insert(text);
                }
            }
            _ if parent == "Transaction" => {
                self.transaction.insert(name, text);
            }
            _ => {}
        }
        Ok(())
    }

    fn end_account(&mut self) -> Result<(), CannotRead> {
        let take = |name: &str| self.account.get(name).cloned().unwrap_or_default();
        let cells = ACCOUNT_COLUMNS.map(|column| match column {
            Column::Code => take("AccountID"),
            Column::Name => take("AccountDescription"),
            Column::Class => take("AccountType"),
            Column::Section => take("GroupingCategory"),
            _ => String::new(),
        });
        push(&mut self.accounts, &cells)
    }

    fn end_line(&mut self, element: &str) -> Result<(), CannotRead> {
        let line = |name: &str| self.line.get(name).map_or("", String::as_str);
        let transaction = |name: &str| self.transaction.get(name).map_or("", String::as_str);
        let first = |texts: &[&str]| {
            texts.iter().find(|text| !text.is_empty()).copied().unwrap_or_default().to_owned()
        };
        let side = |name: &str| first(&[line(name), line(&format!("{name}/Amount"))]);
        let of_currency = |what: &str| {
            first(&[line(&format!("DebitAmount/{what}")), line(&format!("CreditAmount/{what}"))])
        };
        let party = first(&[
            line("CustomerID"),
            line("SupplierID"),
            transaction("CustomerID"),
            transaction("SupplierID"),
        ]);
        let (debit, credit) = match element {
            "DebitLine" => (side("DebitAmount"), String::new()),
            "CreditLine" => (String::new(), side("CreditAmount")),
            _ => (side("DebitAmount"), side("CreditAmount")),
        };
        let foreign = match of_currency("CurrencyAmount") {
            amount if amount.is_empty() || credit.is_empty() => amount,
            amount => format!("-{amount}"),
        };
        let cells = JOURNAL_COLUMNS.map(|column| match column {
            Column::Entry => {
                format!("{} {}", self.journal, transaction("TransactionID")).trim().to_owned()
            }
            Column::Date => first(&[transaction("GLPostingDate"), transaction("TransactionDate")]),
            Column::Code => line("AccountID").to_owned(),
            Column::Debit => debit.clone(),
            Column::Credit => credit.clone(),
            Column::Payee => self.names.get(&party).cloned().unwrap_or(party.clone()),
            Column::Memo => first(&[line("Description"), transaction("Description")]),
            Column::Reference => {
                first(&[line("SourceDocumentID"), transaction("SourceDocumentID")])
            }
            Column::Currency => of_currency("CurrencyCode"),
            Column::Foreign => foreign.clone(),
            Column::EntryKind => match transaction("TransactionType") {
                kind @ ("opening" | "closing") => kind.to_owned(),
                _ => String::new(),
            },
            _ => String::new(),
        });
        self.dimensions.push(std::mem::take(&mut self.analyses));
        push(&mut self.lines, &cells)
    }

    /// The journal, with a column for each dimension.
    fn journal(&mut self) -> Sheet {
        let names: BTreeSet<String> =
            self.dimensions.iter().flat_map(BTreeMap::keys).cloned().collect();
        let mut head = head(FileKind::Journal, &JOURNAL_COLUMNS);
        let mut lines = std::mem::take(&mut self.lines);
        for name in names {
            head.cells.push(Cell::text(&name));
            for (row, line) in lines.iter_mut().zip(&self.dimensions) {
                row.cells.push(Cell::text(line.get(&name).map_or("", String::as_str)));
            }
        }
        lines.insert(0, head);
        Sheet::new(JOURNAL, Box::new(lines))
    }

    fn opened(mut self) -> Result<Opened, CannotRead> {
        if !self.known {
            return Err(damaged("it is not a Standard Audit File"));
        }
        let journal = self.journal();
        Ok(Opened {
            kind: "SAF-T",
            encoding: None,
            delimiter: None,
            sheets: vec![
                sheet(ACCOUNTS, FileKind::Chart, &ACCOUNT_COLUMNS, self.accounts),
                journal,
            ],
            question: None,
        })
    }
}

/// Rows are counted as they come, below the headings.
fn push(rows: &mut Vec<RawRow>, cells: &[String]) -> Result<(), CannotRead> {
    if rows.len() >= MAX_ROWS {
        return Err(CannotRead::TooLong);
    }
    let number = u32::try_from(rows.len() + 2).unwrap_or(u32::MAX);
    rows.push(RawRow { number, cells: cells.iter().map(|text| Cell::text(text)).collect() });
    Ok(())
}
