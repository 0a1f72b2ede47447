//! Intake of a journal: entries that balance, on accounts that exist and may be posted to.

use super::columns::{Column, Layout, reduce};
use super::dates::DateOrder;
use super::{Intake, RawRow, Rejected};
use crate::calendar::{FiscalCalendar, Period};
use crate::chart::{Account, Chart, Status, keyed};
use crate::code::{Code, CodeKey};
use crate::former::{FormerCodes, Found, current_codes, find};
use crate::ids::AccountId;
use crate::money::Currency;
use std::collections::{BTreeMap, HashMap, HashSet};
use time::Date;

keyed! {
    /// What an entry is for.
    EntryKind {
        /// What happened in the business.
        Ordinary = "ordinary", "ordinary";
        /// Balances brought forward into the books.
        Opening = "opening", "opening";
        /// Income and expense brought into retained earnings at a year's end.
        Closing = "closing", "closing";
    }
}

/// An entry that is ready to be stored: its lines balance to zero and share one date.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct NewEntry {
    /// Its number in the file; no entry of the books has it yet.
    pub number: String,
    /// The date of all its lines.
    pub date: Date,
    /// What it is for.
    pub kind: EntryKind,
    /// Its lines, in the order of the file.
    pub lines: Vec<NewLine>,
}

/// A line that is ready to be stored.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct NewLine {
    /// The account.
    pub account: AccountId,
    /// Signed minor units of the base currency; debits are positive.
    pub amount: i64,
    /// Signed minor units of another currency.
    pub foreign: Option<(i64, Currency)>,
    /// Who was paid or paid.
    pub payee: String,
    /// What it was for.
    pub memo: String,
    /// The number of the document.
    pub reference: String,
    /// Dimension values by name, as `department=Workshop; site=Larkfell`.
    pub dimensions: String,
    /// Whether it was cleared in a bank reconciliation.
    pub cleared: bool,
}

/// What a journal is read against.
pub struct Books<'a> {
    /// The chart.
    pub chart: &'a Chart,
    /// Former codes, which stand for the accounts that hold their history now.
    pub former: &'a FormerCodes,
    /// The base currency.
    pub currency: Currency,
    /// The fiscal calendar.
    pub calendar: FiscalCalendar,
    /// The last locked period.
    pub locked: Option<Period>,
    /// The numbers of the entries already stored.
    pub entries: &'a HashSet<String>,
}

/// What a journal file says besides its lines.
#[derive(Clone, Debug)]
pub struct JournalIntake {
    /// The entries and the rejected rows.
    pub intake: Intake<NewEntry>,
    /// Former codes found in the file, with the account each was read as.
    pub mapped: BTreeMap<String, AccountId>,
    /// Sum of the debits that are ready, in minor units.
    pub debits: i128,
}

/// Reads the entries of a file. An entry is taken whole or not at all: when one of its rows cannot
/// be taken, the others are rejected with it, and say so.
pub fn read(layout: &Layout, rows: &[RawRow], books: &Books<'_>) -> JournalIntake {
    let order = DateOrder::detect(layout.body(rows).map(|row| layout.cell(row, Column::Date)));
    let mut reader = Reader {
        layout,
        books,
        order,
        current: current_codes(books.chart),
        known: HashMap::new(),
        mapped: BTreeMap::new(),
    };
    let mut rejected = Vec::new();
    let mut places: HashMap<&str, usize> = HashMap::new();
    let mut groups: Vec<Group<'_>> = Vec::new();
    for row in layout.body(rows) {
        let number = layout.cell(row, Column::Entry);
        if number.is_empty() {
            rejected.push(layout.reject(row, Column::Entry, "the entry number is missing"));
            continue;
        }
        let at = *places.entry(number).or_insert_with(|| {
            groups.push(Group { number, lines: Vec::new(), bad: Vec::new() });
            groups.len() - 1
        });
        match reader.line(row) {
            Ok(line) => groups[at].lines.push((row, line)),
            Err(why) => groups[at].bad.push(why),
        }
    }
    let (mut ready, mut ready_rows, mut debits) = (Vec::new(), 0, 0);
    for group in groups {
        match group.settle(layout, books) {
            Ok(entry) => {
                ready_rows += entry.lines.len();
                debits += entry.lines.iter().map(|l| i128::from(l.amount.max(0))).sum::<i128>();
                ready.push(entry);
            }
            Err(why) => rejected.extend(why),
        }
    }
    JournalIntake { intake: Intake::of(ready, ready_rows, rejected), mapped: reader.mapped, debits }
}

struct DatedLine {
    date: Date,
    kind: EntryKind,
    line: NewLine,
}

struct Group<'a> {
    number: &'a str,
    lines: Vec<(&'a RawRow, DatedLine)>,
    bad: Vec<Rejected>,
}

impl Group<'_> {
    fn settle(self, layout: &Layout, books: &Books<'_>) -> Result<NewEntry, Vec<Rejected>> {
        let Self { number, lines, mut bad } = self;
        let first_bad = bad.first().map(|b| b.row);
        let mut reject_all = |reason: String, column| {
            bad.extend(lines.iter().map(|(row, _)| layout.reject(row, column, &reason)));
            std::mem::take(&mut bad)
        };
        if books.entries.contains(number) {
            let reason = format!("entry {number} is already in the journal");
            return Err(reject_all(reason, Column::Entry));
        }
        if let Some(row) = first_bad {
            let reason = format!("row {row} of the same entry, {number}, can’t be taken");
            return Err(reject_all(reason, Column::Entry));
        }
        let Some((_, first)) = lines.first() else {
            return Err(Vec::new());
        };
        let (date, kind) = (first.date, first.kind);
        if lines.iter().any(|(_, l)| l.date != date) {
            return Err(reject_all(
                format!("entry {number} has lines of different dates"),
                Column::Date,
            ));
        }
        let sum: i128 = lines.iter().map(|(_, l)| i128::from(l.line.amount)).sum();
        if sum != 0 {
            let over = if sum > 0 { "debits" } else { "credits" };
            let by = books.currency.say(sum.abs());
            let reason = format!("entry {number} does not balance: its {over} are {by} too much");
            return Err(reject_all(reason, Column::Entry));
        }
        let lines = lines.into_iter().map(|(_, l)| l.line).collect();
        Ok(NewEntry { number: number.to_owned(), date, kind, lines })
    }
}

struct Reader<'a> {
    layout: &'a Layout,
    books: &'a Books<'a>,
    order: DateOrder,
    current: HashMap<CodeKey, &'a Account>,
    /// What each code of the file was found to be: most codes stand in many rows.
    known: HashMap<String, Result<AccountId, String>>,
    mapped: BTreeMap<String, AccountId>,
}

impl Reader<'_> {
    fn line(&mut self, row: &RawRow) -> Result<DatedLine, Rejected> {
        let (layout, books) = (self.layout, self.books);
        let cell = |column| layout.cell(row, column);
        let date =
            self.order.read(cell(Column::Date)).map_err(|e| layout.reject(row, Column::Date, e))?;
        if books.locked.is_some_and(|locked| books.calendar.period_of(date) <= locked) {
            return Err(layout.reject(row, Column::Date, "the date lies in a locked period"));
        }
        let kind = match reduce(cell(Column::EntryKind)).as_str() {
            "" => EntryKind::Ordinary,
            text => EntryKind::from_key(text).ok_or_else(|| {
                layout.reject(row, Column::EntryKind, "it is not ordinary, opening or closing")
            })?,
        };
        let account = self
            .account(cell(Column::Code))
            .map_err(|reason| layout.reject(row, Column::Code, reason))?;
        let amount = self.amount(row)?;
        let foreign = self.foreign(row, account)?;
        let dimensions = layout.dimensions.iter().filter_map(|(at, name)| {
            let value = row.cells.get(*at)?.trim();
            (!value.is_empty()).then(|| format!("{name}={value}"))
        });
        let line = NewLine {
            account,
            amount,
            foreign,
            payee: cell(Column::Payee).to_owned(),
            memo: cell(Column::Memo).to_owned(),
            reference: cell(Column::Reference).to_owned(),
            dimensions: dimensions.collect::<Vec<_>>().join("; "),
            cleared: matches!(reduce(cell(Column::Cleared)).as_str(), "yes" | "true" | "1" | "x"),
        };
        Ok(DatedLine { date, kind, line })
    }

    fn account(&mut self, text: &str) -> Result<AccountId, String> {
        if let Some(known) = self.known.get(text) {
            return known.clone();
        }
        let found = self.look_up(text);
        self.known.insert(text.to_owned(), found.clone());
        found
    }

    fn look_up(&mut self, text: &str) -> Result<AccountId, String> {
        let code = Code::parse(text).map_err(|e| e.to_string())?;
        let (chart, former) = (self.books.chart, self.books.former);
        let account = match find(&code.key(), &self.current, former, chart) {
            Found::Current(account) => account,
            Found::Former(account) => {
                self.mapped.insert(code.to_string(), account.id);
                account
            }
            Found::Several(accounts) => {
                let names = accounts.iter().map(|a| a.label()).collect::<Vec<_>>().join(", ");
                return Err(format!("{code} is a former code of several accounts: {names}"));
            }
            Found::Nobody => return Err(format!("no account has, or ever had, the code {code}")),
        };
        if !account.is_posting() {
            return Err(format!(
                "{} is a {} and takes no lines",
                account.label(),
                account.kind.words()
            ));
        }
        if account.status != Status::Active {
            return Err(format!(
                "{} is {} and takes no new lines",
                account.label(),
                account.status.words()
            ));
        }
        Ok(account.id)
    }

    fn amount(&self, row: &RawRow) -> Result<i64, Rejected> {
        let read = |column| match self.layout.cell(row, column) {
            "" => Ok(None),
            text => self
                .books
                .currency
                .parse_amount(text)
                .map(Some)
                .map_err(|e| self.layout.reject(row, column, e)),
        };
        match (read(Column::Debit)?, read(Column::Credit)?, read(Column::Amount)?) {
            (None, None, Some(amount)) => Ok(amount),
            (Some(debit), None | Some(0), None) => Ok(debit),
            (None | Some(0), Some(credit), None) => Ok(-credit),
            (None, None, None) => {
                Err(self.layout.reject(row, Column::Debit, "the amount is missing"))
            }
            _ => Err(self.layout.reject(row, Column::Debit, "the line has more than one amount")),
        }
    }

    fn foreign(
        &self,
        row: &RawRow,
        account: AccountId,
    ) -> Result<Option<(i64, Currency)>, Rejected> {
        let reject = |column, reason: String| self.layout.reject(row, column, reason);
        let currency = match self.layout.cell(row, Column::Currency) {
            "" => self.books.currency,
            text => Currency::parse(text).map_err(|e| reject(Column::Currency, e.to_string()))?,
        };
        if let Some(account) = self.books.chart.get(account)
            && let Some(fixed) = account.currency.filter(|fixed| *fixed != currency)
        {
            let reason = format!("{} holds {fixed} only", account.label());
            return Err(reject(Column::Currency, reason));
        }
        match self.layout.cell(row, Column::Foreign) {
            _ if currency == self.books.currency => Ok(None),
            "" => {
                let reason = format!("the amount in {currency} is missing");
                Err(reject(Column::Foreign, reason))
            }
            text => currency
                .parse_amount(text)
                .map(|amount| Some((amount, currency)))
                .map_err(|e| reject(Column::Foreign, e.to_string())),
        }
    }
}
