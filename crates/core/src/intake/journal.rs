//! Intake of a journal: entries that balance, on accounts that exist and may be posted to.

use super::columns::{Column, reduce};
use super::reading::Reading;
use super::reason::Reason;
use super::{Intake, RawRow, Rejected};
use crate::activity::LineContent;
use crate::calendar::{FiscalCalendar, Period};
use crate::chart::{Account, Chart, Class, Status, keyed};
use crate::code::{Code, CodeKey};
use crate::former::{CodesThen, FormerCodes, Found, current_codes, find};
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
    /// The codes of an earlier time, when the file follows those.
    pub then: Option<&'a CodesThen>,
    /// What a person said that codes of the file stand for.
    pub said: &'a HashMap<CodeKey, AccountId>,
}

/// What a journal file says besides its lines.
#[derive(Clone, Debug)]
pub struct JournalIntake {
    /// The entries and the rejected rows.
    pub intake: Intake<NewEntry>,
    /// Codes of the file that are not today’s of their account, with the account of each.
    pub mapped: BTreeMap<String, AccountId>,
    /// Codes that no account is known for, or more than one.
    pub unknown: Vec<UnknownCode>,
    /// Sum of the debits that are ready, in minor units; credits are the same.
    pub debits: i128,
    /// The first and the last day of what is ready.
    pub days: Option<(Date, Date)>,
    /// The entries that do not balance, with their debits less their credits in minor units.
    pub unbalanced: Vec<(String, i128)>,
    /// Tells the same lines from others, whatever their entries and accounts are called: a sum of
    /// hashes of what each line says.
    pub digest: u128,
}

/// A code that a person has to say something of.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct UnknownCode {
    /// The code as the file has it.
    pub code: String,
    /// The name that the file gives with it.
    pub name: String,
    /// In how many rows it stands.
    pub rows: usize,
    /// Who bore it, when there are several.
    pub bearers: Vec<AccountId>,
    /// The class of the account with the next lower code: a guess, for a new account.
    pub class: Option<Class>,
}

/// Reads the entries of a file. An entry is taken whole or not at all: when one of its rows cannot
/// be taken, the others are rejected with it, and say so.
pub fn read(reading: &Reading, rows: &[RawRow], books: &Books<'_>) -> JournalIntake {
    let mut reader = Reader {
        reading,
        books,
        current: current_codes(books.chart),
        known: HashMap::new(),
        mapped: BTreeMap::new(),
        unknown: BTreeMap::new(),
    };
    let mut warnings = Vec::new();
    let mut rejected = Vec::new();
    let mut places: HashMap<String, usize> = HashMap::new();
    let mut groups: Vec<Group<'_>> = Vec::new();
    for row in reading.layout.body(rows, &mut warnings) {
        let Some(number) = reader.entry(row, groups.last().map(|group| group.number.as_str()))
        else {
            let message = "the entry number is missing";
            let reason = Reason::EntryMissing;
            rejected.push(reading.layout.reject(row, Column::Entry, reason, message));
            continue;
        };
        let at = *places.entry(number).or_insert_with_key(|number| {
            groups.push(Group { number: number.clone(), lines: Vec::new(), bad: Vec::new() });
            groups.len() - 1
        });
        let carried = groups[at].lines.last().map(|(_, line)| line.date);
        match reader.line(row, carried) {
            Ok(line) => groups[at].lines.push((row, line)),
            Err(why) => groups[at].bad.push(why),
        }
    }
    let mut ready: Vec<NewEntry> = Vec::new();
    let mut unbalanced = Vec::new();
    for group in groups {
        let (number, sum) = (group.number.clone(), group.sum());
        match group.settle(reading, books) {
            Ok(entry) => ready.push(entry),
            Err(why) => {
                let off = why.iter().any(|r| r.reason == Reason::EntryUnbalanced);
                unbalanced.extend(off.then_some((number, sum)));
                rejected.extend(why);
            }
        }
    }
    let lines = || ready.iter().flat_map(|entry| entry.lines.iter().map(|line| (entry.date, line)));
    let dates = || ready.iter().map(|entry| entry.date);
    let debits = lines().map(|(_, line)| i128::from(line.amount.max(0))).sum();
    let days = dates().min().zip(dates().max());
    let digest = lines().map(|(date, line)| u128::from(line.hash(date))).sum();
    let ready_rows = lines().count();
    let (mapped, unknown) = (reader.mapped, reader.unknown.into_values().collect());
    let intake = Intake::of(ready, ready_rows, rejected, warnings);
    JournalIntake { intake, mapped, unknown, debits, days, unbalanced, digest }
}

/// The names and values of a line's dimensions, as [`NewLine::dimensions`] keeps them.
pub fn dimension_pairs(dimensions: &str) -> impl Iterator<Item = (&str, &str)> {
    dimensions.split("; ").filter_map(|pair| pair.split_once('='))
}

impl NewLine {
    /// A hash of what the line says, but for the account, whose code may change from file to file.
    fn hash(&self, date: Date) -> u64 {
        LineContent {
            id: 0,
            entry: 0,
            date,
            amount: self.amount,
            foreign: self.foreign,
            payee: &self.payee,
            memo: &self.memo,
            reference: &self.reference,
            dimensions: &self.dimensions,
        }
        .hash()
    }
}

/// A chart of nothing but the codes that a file names, for reading a journal without its chart.
pub fn chart_of_codes(reading: &Reading, rows: &[RawRow]) -> Chart {
    let mut seen = HashSet::new();
    let body = reading.layout.body(rows, &mut Vec::new());
    let codes = body.iter().filter_map(|row| Code::parse(reading.code(row, Column::Code)).ok());
    let codes = codes.filter(|code| seen.insert(code.key()));
    Chart::new((1..).zip(codes).map(|(id, code)| {
        let name = code.to_string();
        Account::new(AccountId(id), code, name, Class::Asset)
    }))
}

struct DatedLine {
    date: Date,
    kind: EntryKind,
    line: NewLine,
}

struct Group<'a> {
    number: String,
    lines: Vec<(&'a RawRow, DatedLine)>,
    bad: Vec<Rejected>,
}

impl Group<'_> {
    fn sum(&self) -> i128 {
        self.lines.iter().map(|(_, l)| i128::from(l.line.amount)).sum()
    }

    fn settle(self, reading: &Reading, books: &Books<'_>) -> Result<NewEntry, Vec<Rejected>> {
        let sum = self.sum();
        let Self { number, lines, mut bad } = self;
        let first_bad = bad.first().map(|b| b.row);
        let mut reject_all = |column, reason, message: String| {
            let rows = lines.iter();
            bad.extend(rows.map(|(row, _)| reading.layout.reject(row, column, reason, &message)));
            std::mem::take(&mut bad)
        };
        if books.entries.contains(&number) {
            let message = format!("entry {number} is already in the journal");
            return Err(reject_all(Column::Entry, Reason::EntryTaken, message));
        }
        if let Some(row) = first_bad {
            let message = format!("row {row} of the same entry, {number}, can’t be taken");
            return Err(reject_all(Column::Entry, Reason::EntrySpoilt, message));
        }
        let Some((_, first)) = lines.first() else {
            return Err(Vec::new());
        };
        let (date, kind) = (first.date, first.kind);
        if lines.iter().any(|(_, l)| l.date != date) {
            let message = format!("entry {number} has lines of different dates");
            return Err(reject_all(Column::Date, Reason::EntryDates, message));
        }
        if sum != 0 {
            let over = if sum > 0 { "debits" } else { "credits" };
            let by = books.currency.say(sum.abs());
            let message = format!("entry {number} does not balance: its {over} are {by} too much");
            return Err(reject_all(Column::Entry, Reason::EntryUnbalanced, message));
        }
        let lines = lines.into_iter().map(|(_, l)| l.line).collect();
        Ok(NewEntry { number, date, kind, lines })
    }
}

struct Reader<'a> {
    reading: &'a Reading,
    books: &'a Books<'a>,
    current: HashMap<CodeKey, &'a Account>,
    /// What each code of the file was found to be: most codes stand in many rows.
    known: HashMap<String, Result<AccountId, (Reason, String)>>,
    mapped: BTreeMap<String, AccountId>,
    unknown: BTreeMap<String, UnknownCode>,
}

impl Reader<'_> {
    /// The number of the entry that a row belongs to. Below the first row of an entry number and
    /// date may be left blank; in a file without numbers date and reference tell the entry.
    fn entry(&self, row: &RawRow, last: Option<&str>) -> Option<String> {
        let cell = |field| self.reading.layout.cell(row, field);
        match (cell(Column::Entry), cell(Column::Date)) {
            ("", "") => last.map(str::to_owned),
            ("", _) if self.reading.layout.place(Column::Entry).is_some() => None,
            ("", date) => {
                let date = self.reading.date(row).map_or(date.to_owned(), |d| d.to_string());
                Some(format!("{date} {}", cell(Column::Reference)).trim_end().to_owned())
            }
            (number, _) => Some(self.reading.codes.clean(number).to_owned()),
        }
    }

    fn line(&mut self, row: &RawRow, carried: Option<Date>) -> Result<DatedLine, Rejected> {
        let (reading, books) = (self.reading, self.books);
        let layout = &reading.layout;
        let cell = |field| layout.cell(row, field);
        let date = match carried.filter(|_| cell(Column::Date).is_empty()) {
            Some(date) => date,
            None => reading.date(row)?,
        };
        if books.locked.is_some_and(|locked| books.calendar.period_of(date) <= locked) {
            let message = "the date lies in a locked period";
            return Err(layout.reject(row, Column::Date, Reason::PeriodLocked, message));
        }
        let kind = match reduce(cell(Column::EntryKind)).as_str() {
            "" => EntryKind::Ordinary,
            text => EntryKind::from_key(text).ok_or_else(|| {
                let message = "it is not ordinary, opening or closing";
                layout.reject(row, Column::EntryKind, Reason::EntryKindUnknown, message)
            })?,
        };
        let code = reading.code(row, Column::Code);
        let account = self.account(code).map_err(|(reason, message)| {
            if let Some(unknown) = self.unknown.get_mut(code) {
                unknown.rows += 1;
                if unknown.name.is_empty() {
                    reading.name(row).clone_into(&mut unknown.name);
                }
            }
            layout.reject(row, Column::Code, reason, message)
        })?;
        let amount = reading.signed(row, books.currency)?;
        let foreign = self.foreign(row, account)?;
        let dimensions = layout.dimensions().filter_map(|(at, name)| {
            let value = row.cells.get(at)?.text.trim();
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

    fn account(&mut self, text: &str) -> Result<AccountId, (Reason, String)> {
        if let Some(known) = self.known.get(text) {
            return known.clone();
        }
        let found = self.look_up(text);
        self.known.insert(text.to_owned(), found.clone());
        found
    }

    fn look_up(&mut self, text: &str) -> Result<AccountId, (Reason, String)> {
        let code = Code::parse(text).map_err(|e| (Reason::from(&e), e.to_string()))?;
        let (chart, former, key) = (self.books.chart, self.books.former, code.key());
        let said = self.books.said.get(&key).and_then(|id| chart.get(*id));
        let then = || self.books.then.and_then(|then| then.holder(&key, chart));
        let found = match said.or_else(then) {
            Some(account) => Found::Former(account),
            None => find(&key, &self.current, former, chart),
        };
        let account = match found {
            Found::Current(account) | Found::Former(account) => account,
            Found::Several(accounts) => {
                self.ask(text, &key, &accounts);
                let names = accounts.iter().map(|a| a.label()).collect::<Vec<_>>().join(", ");
                let message = format!("{code} is a former code of several accounts: {names}");
                return Err((Reason::AccountAmbiguous, message));
            }
            Found::Nobody => {
                self.ask(text, &key, &[]);
                let message = format!("no account has, or ever had, the code {code}");
                return Err((Reason::AccountUnknown, message));
            }
        };
        if account.code.key() != key {
            self.mapped.insert(code.to_string(), account.id);
        }
        if !account.is_posting() {
            let message =
                format!("{} is a {} and takes no lines", account.label(), account.kind.words());
            return Err((Reason::AccountNotPosting, message));
        }
        if account.status != Status::Active {
            let (label, status) = (account.label(), account.status.words());
            let message = format!("{label} is {status} and takes no new lines");
            return Err((Reason::AccountInactive, message));
        }
        Ok(account.id)
    }

    fn ask(&mut self, code: &str, key: &CodeKey, bearers: &[&Account]) {
        let below = self.current.iter().filter(|(other, _)| *other < key);
        let class = below.max_by(|a, b| a.0.cmp(b.0)).map(|(_, account)| account.class);
        let bearers = bearers.iter().map(|account| account.id).collect();
        let code = code.to_owned();
        let unknown =
            UnknownCode { code: code.clone(), name: String::new(), rows: 0, bearers, class };
        self.unknown.insert(code, unknown);
    }

    fn foreign(
        &self,
        row: &RawRow,
        account: AccountId,
    ) -> Result<Option<(i64, Currency)>, Rejected> {
        let layout = &self.reading.layout;
        let reject = |field, reason, message: String| layout.reject(row, field, reason, message);
        let currency = match layout.cell(row, Column::Currency) {
            "" => self.books.currency,
            text => Currency::parse(text)
                .map_err(|e| reject(Column::Currency, Reason::CurrencyUnknown, e.to_string()))?,
        };
        if let Some(account) = self.books.chart.get(account)
            && let Some(fixed) = account.currency.filter(|fixed| *fixed != currency)
        {
            let message = format!("{} holds {fixed} only", account.label());
            return Err(reject(Column::Currency, Reason::CurrencyOther, message));
        }
        if currency == self.books.currency {
            return Ok(None);
        }
        match self.reading.amount(row, Column::Foreign, currency)? {
            Some(amount) => Ok(Some((amount, currency))),
            None => {
                let message = format!("the amount in {currency} is missing");
                Err(reject(Column::Foreign, Reason::ForeignMissing, message))
            }
        }
    }
}
