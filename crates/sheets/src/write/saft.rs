//! The Standard Audit File for Tax of the OECD, version 2.00: a chart and its journal in one XML file.

use super::sheet::CannotWrite;
use quick_xml::Writer;
use quick_xml::events::{BytesDecl, BytesEnd, BytesStart, BytesText, Event};
use std::collections::HashMap;
use zf_core::text::for_cell;

/// What stands at the head of an audit file. Dates are written as 2026-09-24, amounts with decimals.
#[derive(Clone, Debug, Default)]
pub struct AuditHeader {
    /// Whose books they are.
    pub company: String,
    /// The base currency.
    pub currency: String,
    /// The day the file is made.
    pub created: String,
    /// The first and the last day of what it holds.
    pub days: Option<(String, String)>,
    /// How many entries it has.
    pub entries: usize,
    /// Sum of the debits.
    pub debits: String,
    /// Sum of the credits.
    pub credits: String,
}

/// An account of an audit file.
#[derive(Clone, Debug, Default)]
pub struct AuditAccount {
    /// Its code.
    pub code: String,
    /// Its name.
    pub name: String,
    /// Its class.
    pub class: String,
    /// Its section; may be empty.
    pub section: String,
}

/// An entry of an audit file.
#[derive(Clone, Debug, Default)]
pub struct AuditEntry {
    /// Its number.
    pub number: String,
    /// Its date.
    pub date: String,
    /// Ordinary, opening or closing.
    pub kind: String,
    /// Its lines.
    pub lines: Vec<AuditLine>,
}

/// A line of an audit file.
#[derive(Clone, Debug, Default)]
pub struct AuditLine {
    /// Tells it from all others.
    pub id: String,
    /// The code of its account.
    pub account: String,
    /// The amount, unsigned.
    pub amount: String,
    /// Whether it is a credit.
    pub credit: bool,
    /// Another currency with the unsigned amount in it.
    pub foreign: Option<(String, String)>,
    /// Who was paid or paid: one of the parties that the file was begun with.
    pub payee: String,
    /// What it was for.
    pub memo: String,
    /// The number of the document.
    pub reference: String,
    /// Values of dimensions, by name.
    pub dimensions: Vec<(String, String)>,
}

/// Writes an audit file entry by entry.
pub struct AuditWriter {
    xml: Writer<Vec<u8>>,
    /// The identities of the parties.
    parties: HashMap<String, String>,
}

const NAMESPACE: &str = "urn:OECD:StandardAuditFile-Taxation/2.00";

impl AuditWriter {
    /// Begins a file with all that stands before its entries.
    ///
    /// # Errors
    /// When there is no memory for it.
    pub fn new(
        header: &AuditHeader,
        accounts: &[AuditAccount],
        payees: &[String],
    ) -> Result<Self, CannotWrite> {
        let xml = Writer::new_with_indent(Vec::new(), b' ', 1);
        let named = payees.iter().filter(|payee| !payee.is_empty());
        let parties = (1..).zip(named).map(|(n, payee)| (payee.clone(), format!("P{n}")));
        let mut file = Self { xml, parties: parties.collect() };
        file.event(Event::Decl(BytesDecl::new("1.0", Some("UTF-8"), None)))?;
        file.event(Event::Start(
            BytesStart::new("AuditFile").with_attributes([("xmlns", NAMESPACE)]),
        ))?;
        file.header(header)?;
        file.open("MasterFiles")?;
        file.open("GeneralLedgerAccounts")?;
        for account in accounts {
            file.open("Account")?;
            file.text("AccountID", &account.code)?;
            file.text("AccountDescription", &account.name)?;
            file.text("GroupingCategory", &account.section)?;
            file.text("AccountType", &account.class)?;
            file.close("Account")?;
        }
        file.close("GeneralLedgerAccounts")?;
        file.suppliers()?;
        file.close("MasterFiles")?;
        file.open("GeneralLedgerEntries")?;
        file.text("NumberOfEntries", &header.entries.to_string())?;
        file.text("TotalDebit", &header.debits)?;
        file.text("TotalCredit", &header.credits)?;
        file.open("Journal")?;
        file.text("Description", "Journal")?;
        Ok(file)
    }

    fn header(&mut self, header: &AuditHeader) -> Result<(), CannotWrite> {
        self.open("Header")?;
        self.text("AuditFileVersion", "2.00")?;
        self.text("AuditFileDateCreated", &header.created)?;
        self.text("SoftwareID", "Zero Fold")?;
        self.open("Company")?;
        self.text("Name", &header.company)?;
        self.close("Company")?;
        self.text("DefaultCurrencyCode", &header.currency)?;
        if let Some((first, last)) = &header.days {
            self.open("SelectionCriteria")?;
            self.text("SelectionStartDate", first)?;
            self.text("SelectionEndDate", last)?;
            self.close("SelectionCriteria")?;
        }
        self.close("Header")
    }

    fn suppliers(&mut self) -> Result<(), CannotWrite> {
        let mut parties: Vec<(String, String)> =
            self.parties.iter().map(|(name, id)| (id.clone(), name.clone())).collect();
        parties.sort();
        self.open("Suppliers")?;
        for (id, name) in parties {
            self.open("Supplier")?;
            self.text("Name", &name)?;
            self.text("SupplierID", &id)?;
            self.close("Supplier")?;
        }
        self.close("Suppliers")
    }

    /// Writes an entry behind those before.
    ///
    /// # Errors
    /// When there is no memory for it.
    pub fn entry(&mut self, entry: &AuditEntry) -> Result<(), CannotWrite> {
        self.open("Transaction")?;
        self.text("TransactionID", &entry.number)?;
        self.text("TransactionDate", &entry.date)?;
        self.text("TransactionType", &entry.kind)?;
        self.text("GLPostingDate", &entry.date)?;
        entry.lines.iter().try_for_each(|line| self.line(line))?;
        self.close("Transaction")
    }

    fn line(&mut self, line: &AuditLine) -> Result<(), CannotWrite> {
        self.open("Line")?;
        self.text("RecordID", &line.id)?;
        self.text("AccountID", &line.account)?;
        for (name, value) in &line.dimensions {
            self.open("Analysis")?;
            self.text("AnalysisType", name)?;
            self.text("AnalysisID", value)?;
            self.close("Analysis")?;
        }
        self.text("SourceDocumentID", &line.reference)?;
        let party = self.parties.get(&line.payee).cloned().unwrap_or_default();
        self.text("SupplierID", &party)?;
        self.text("Description", &line.memo)?;
        let side = if line.credit { "CreditAmount" } else { "DebitAmount" };
        self.open(side)?;
        self.text("Amount", &line.amount)?;
        if let Some((currency, amount)) = &line.foreign {
            self.text("CurrencyCode", currency)?;
            self.text("CurrencyAmount", amount)?;
        }
        self.close(side)?;
        self.close("Line")
    }

    /// The whole file.
    ///
    /// # Errors
    /// When there is no memory for it.
    pub fn finish(mut self) -> Result<Vec<u8>, CannotWrite> {
        ["Journal", "GeneralLedgerEntries", "AuditFile"]
            .iter()
            .try_for_each(|element| self.close(element))?;
        Ok(self.xml.into_inner())
    }

    fn event(&mut self, event: Event<'_>) -> Result<(), CannotWrite> {
        Ok(self.xml.write_event(event)?)
    }

    fn open(&mut self, element: &str) -> Result<(), CannotWrite> {
        self.event(Event::Start(BytesStart::new(element)))
    }

    fn close(&mut self, element: &str) -> Result<(), CannotWrite> {
        self.event(Event::End(BytesEnd::new(element)))
    }

    /// An element of text; none when there is no text. Characters that XML cannot hold are left out.
    fn text(&mut self, element: &str, text: &str) -> Result<(), CannotWrite> {
        if text.is_empty() {
            return Ok(());
        }
        self.open(element)?;
        self.event(Event::Text(BytesText::new(&for_cell(text))))?;
        self.close(element)
    }
}
