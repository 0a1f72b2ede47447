//! Intake of a journal: entries that balance, on accounts that exist and may be posted to.

mod books;
pub(crate) mod huge;
pub mod late;
mod said;

pub use books::JournalContext;

use super::cause::Cause;
use super::columns::{Column, reduce};
use super::periods;
use super::question::{Gives, Question};
use super::reading::Reading;
use super::rows::Rows;
use super::signs::{self, Signs};
use super::usage::found;
use super::{RawRow, Rejected, Warning};
use indexmap::IndexMap;
use late::{Ended, Late, LateLines};
use std::borrow::Cow;
use std::collections::{BTreeMap, BTreeSet, HashMap, HashSet};
use time::Date;
use zf_core::chart::{Account, Chart, Class, Kind, Status};
use zf_core::code::{Code, CodeKey, MAX_CODE};
use zf_core::dimension::{self, DimensionValue};
use zf_core::entry::{Entries, EntryHead, EntryKind, NewLine};
use zf_core::former::{Finder, Found};
use zf_core::ids::AccountId;
use zf_core::money::Currency;
use zf_core::overlap::{Compared, FileEntry, PostedEntry, mark_of, mark_of_code};

/// What a journal file says. Its lines are not held here, but [read once more](FileEntries).
#[derive(Clone, Debug)]
pub struct JournalIntake {
    groups: Groups,
    /// What its signs say.
    signs: Signs,
    /// How many entries are ready.
    pub entries: usize,
    /// How many lines are ready.
    pub ready_rows: usize,
    /// The rows that are left out, by number.
    pub rejected: Vec<Rejected>,
    /// What is worth knowing of others, by number.
    pub warnings: Vec<Warning>,
    /// Codes of the file that are not today’s of their account, with the account of each.
    pub mapped: BTreeMap<String, AccountId>,
    /// Codes that no account is known for, or more than one.
    pub unknown: Vec<UnknownCode>,
    /// Lines that are dated after the day of their account.
    pub late: Vec<LateLines>,
    /// Sum of the debits that are ready, in minor units; credits are the same.
    pub debits: i128,
    /// What is ready by account: how many lines, and their sum in minor units, debits positive.
    pub by_account: BTreeMap<AccountId, (usize, i128)>,
    /// The first and the last day of what is ready.
    pub days: Option<(Date, Date)>,
    /// The entries that do not balance, with their debits less their credits in minor units.
    pub unbalanced: Vec<(String, i128)>,
    /// Tells the same lines from others, whatever their entries are called: a sum of hashes of what
    /// each line says and of the code that its account has today.
    pub digest: u128,
    /// The rows of entries that the journal has just so.
    pub known: BTreeSet<u32>,
    /// Entries that the journal has otherwise, those of which it is known how.
    pub changed: Vec<ChangedEntry>,
}

/// An entry that the journal has otherwise.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct ChangedEntry {
    /// Its first row.
    pub row: u32,
    /// What the journal has.
    pub journal: PostedEntry,
    /// What the file has.
    pub file: PostedEntry,
}

impl JournalIntake {
    /// The entries of the file in their order, ready or not.
    pub fn in_file(&self) -> impl Iterator<Item = FileEntry<'_>> {
        self.groups.0.iter().map(|(number, group)| FileEntry {
            number,
            mark: group.bad.is_none().then_some(group.mark),
        })
    }

    /// Asks what the signs say, where that is not certain.
    pub(crate) fn question(&self, reading: &Reading) -> Option<Question> {
        let asked = self.signs == Signs::Usual && Signs::said(reading).is_none();
        asked.then(|| {
            signs::question(|signs| match signs {
                Signs::Sides => Gives::Unbalanced,
                Signs::Usual => Gives::Balanced,
            })
        })
    }

    /// The first and the last day of all entries of the file, ready or not.
    pub fn days_in_file(&self) -> Option<(Date, Date)> {
        let days = || self.groups.0.values().filter_map(|group| group.last);
        days().min().zip(days().max())
    }
}

/// What the lines of a file can be compared by.
pub fn compared(reading: &Reading) -> Compared {
    let has = |column| reading.layout.place(column).is_some();
    Compared {
        foreign: has(Column::Foreign),
        payee: has(Column::Payee),
        memo: has(Column::Memo),
        reference: has(Column::Reference),
        dimensions: reading.layout.dimensions().next().is_some(),
    }
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
///
/// Where nothing tells debits from credits and the entries balance only when what is positive stands on the
/// usual side of its account, that is how they are read.
pub fn read(reading: &Reading, rows: &dyn Rows, books: &JournalContext<'_>) -> JournalIntake {
    if !Signs::may_be_either(reading) {
        return read_by(Signs::Sides, reading, rows, books);
    }
    match Signs::said(reading) {
        Some(signs) => read_by(signs, reading, rows, books),
        None => {
            let read = read_by(Signs::Sides, reading, rows, books);
            let usual = read.groups.balance_by_usual_sides();
            if usual { read_by(Signs::Usual, reading, rows, books) } else { read }
        }
    }
}

fn read_by(
    signs: Signs,
    reading: &Reading,
    rows: &dyn Rows,
    books: &JournalContext<'_>,
) -> JournalIntake {
    let mut reader = Reader::of(reading, books, signs);
    let mut groups = Groups::default();
    let (mut sums, mut warnings) = (Sums::default(), Vec::new());
    let mut first_rows: HashMap<AccountId, u32> = HashMap::new();
    let (mut unnumbered, mut gathered) = (false, late::Gathered::default());
    for row in rows.walk().filter(|row| reading.layout.is_body(row, &mut warnings)) {
        let Some(at) = reader.place(&row, |number| groups.add(number)) else {
            unnumbered = true;
            continue;
        };
        let group = &mut groups[at];
        match reader.line(&row, group.last) {
            Ok(line) => {
                if let Some(late) = line.late {
                    gathered.note(at, late, line.date);
                } else {
                    first_rows.entry(line.line.account).or_insert(row.number);
                }
                sums.add(&line);
                group.take(&line);
            }
            Err(_) => group.bad = group.bad.or(Some(row.number)),
        }
    }
    let refused = groups.settle(books);
    let mut left = LeftOut::default();
    if unnumbered || !refused.is_empty() || !books.overlap.same.is_empty() {
        let again = Reader::of(reading, books, signs);
        left = LeftOut::of(again, rows, &groups, &refused, &mut sums);
    }
    warnings.extend(past_postings(&sums, &first_rows, books));
    let off = |(at, refusal): (&usize, &Refusal)| match refusal {
        Refusal::Unbalanced(sum) => Some((groups.number(*at).to_owned(), *sum)),
        _ => None,
    };
    let dates = || groups.ready().map(|head| head.date);
    JournalIntake {
        entries: groups.ready().count(),
        ready_rows: sums.by_account.values().map(|(lines, _)| lines).sum(),
        rejected: left.rejected,
        known: left.known,
        changed: left.changed.into_values().collect(),
        warnings,
        mapped: reader.mapped,
        unknown: reader.unknown.into_values().collect(),
        late: gathered.settle(|at| groups[at].is_known(at, books)),
        debits: sums.debits,
        by_account: sums.by_account,
        days: dates().min().zip(dates().max()),
        unbalanced: refused.iter().filter_map(off).collect(),
        digest: sums.digest,
        signs,
        groups,
    }
}

/// Says of accounts to which nothing new could be posted how many lines come in as they were.
fn past_postings(
    sums: &Sums,
    first_rows: &HashMap<AccountId, u32>,
    books: &JournalContext<'_>,
) -> Vec<Warning> {
    let past = sums.by_account.iter().filter(|(_, (lines, _))| *lines > 0);
    let past = past.filter_map(|(id, (lines, _))| {
        let account = books.chart.get(*id)?;
        let (kind, status) = (account.kind, account.status);
        if (kind, status) == (Kind::Account, Status::Active) {
            return None;
        }
        let cause = Cause::AccountPast { account: account.label(), kind, status, lines: *lines };
        Some(Warning { row: *first_rows.get(id)?, cause })
    });
    past.collect()
}

/// What is not taken of a file.
#[derive(Default)]
struct LeftOut {
    rejected: Vec<Rejected>,
    known: BTreeSet<u32>,
    changed: BTreeMap<usize, ChangedEntry>,
}

impl LeftOut {
    /// Says of every row of an entry that is refused why, and takes it out of the sums, as it does with what
    /// the journal has already.
    fn of(
        mut reader: Reader<'_>,
        rows: &dyn Rows,
        groups: &Groups,
        refused: &BTreeMap<usize, Refusal>,
        sums: &mut Sums,
    ) -> Self {
        let (reading, books) = (reader.reading, reader.books);
        let mut carried: HashMap<usize, Date> = HashMap::new();
        let mut left = Self::default();
        for row in reading.layout.walk_body(rows) {
            let Some(at) = reader.place(&row, |number| groups.find(number)) else {
                let cause = Cause::EntryMissing;
                left.rejected.push(reading.layout.reject(&row, Column::Entry, cause));
                continue;
            };
            let refusal = refused.get(&at);
            if refusal.is_none() && !groups[at].is_known(at, books) {
                continue;
            }
            let line = match reader.line(&row, carried.get(&at).copied()) {
                Ok(line) => line,
                Err(why) => {
                    left.rejected.push(why);
                    continue;
                }
            };
            sums.remove(&line);
            carried.insert(at, line.date);
            let Some(refusal) = refusal else {
                left.known.insert(row.number);
                continue;
            };
            let (column, cause) = refusal.why(groups.number(at), reading, books);
            left.rejected.push(reading.layout.reject(&row, column, cause));
            if let Some(Some(journal)) = books.overlap.changed.get(&at) {
                let number = groups.number(at).to_owned();
                let new = || ChangedEntry {
                    row: row.number,
                    journal: journal.clone(),
                    file: PostedEntry { number, date: line.date, lines: Vec::new() },
                };
                left.changed.entry(at).or_insert_with(new).file.lines.push(line.line);
            }
        }
        left
    }
}

/// The entries of a file that are ready, with their lines read once more from the rows.
#[derive(Clone, Copy)]
pub struct FileEntries<'a> {
    /// What was read of the file.
    pub read: &'a JournalIntake,
    /// How it was read.
    pub reading: &'a Reading,
    /// Its rows.
    pub rows: &'a dyn Rows,
    /// What it was read against.
    pub books: &'a JournalContext<'a>,
}

impl Entries for FileEntries<'_> {
    fn count(&self) -> usize {
        self.read.entries
    }

    fn line_count(&self) -> usize {
        self.read.ready_rows
    }

    fn accounts(&self) -> BTreeSet<AccountId> {
        self.read.by_account.keys().copied().collect()
    }

    fn heads(&self) -> Box<dyn Iterator<Item = EntryHead<'_>> + Send + '_> {
        Box::new(self.read.groups.ready())
    }

    fn lines(&self) -> Box<dyn Iterator<Item = (usize, Cow<'_, NewLine>)> + Send + '_> {
        let groups = &self.read.groups;
        let mut reader = Reader::of(self.reading, self.books, self.read.signs);
        Box::new(self.reading.layout.walk_body(self.rows).filter_map(move |row| {
            let at = reader.place(&row, |number| groups.find(number))?;
            let group = &groups[at];
            let rank = group.ready?;
            let line = reader.line(&row, group.last).ok()?.line;
            Some((rank as usize, Cow::Owned(line)))
        }))
    }
}

/// A chart of nothing but the codes, or the names, that a file has, for reading it without its chart.
pub fn chart_of_codes(reading: &Reading, rows: &dyn Rows) -> Chart {
    let mut seen = HashSet::new();
    let body = reading.layout.walk_body(rows);
    let called = body.filter_map(|row| {
        let code = reading.code(&row, Column::Code);
        let name = reading.name(&row).to_owned();
        let text = if code.is_empty() { &name } else { code };
        // A name that is too long for a code is found as a name all the same.
        let short: String = text.chars().take(MAX_CODE).collect();
        let name = if code.is_empty() { name.clone() } else { code.to_owned() };
        Some((Code::parse(&short).ok()?, name))
    });
    let called = called.filter(|(code, _)| seen.insert(code.key()));
    Chart::new(
        (1..)
            .zip(called)
            .map(|(id, (code, name))| Account::new(AccountId(id), code, name, Class::Asset)),
    )
}

struct DatedLine {
    date: Date,
    /// Tells it from others, by the code of its account too: the same amounts on the other account are others.
    mark: u64,
    kind: EntryKind,
    /// Its amount, were it signed by the usual side of its account.
    usual: i64,
    /// What becomes of it, if it is dated after the day of its account; and whether nobody said where it goes, or that
    /// it is left out.
    late: Option<Late>,
    goes_nowhere: bool,
    line: NewLine,
}

/// The entries of a file by number, in the order in which they begin.
#[derive(Clone, Debug, Default)]
struct Groups(IndexMap<Box<str>, Group>);

/// What an entry comes to as far as it was read.
#[derive(Clone, Debug, Default)]
struct Group {
    /// The date of its latest line; of all lines, unless they differ.
    last: Option<Date>,
    dates_differ: bool,
    kind: Option<EntryKind>,
    sum: i128,
    /// The sum of its lines, were they signed by the usual sides of their accounts.
    usual: i128,
    /// The wrapping sum of the marks of its lines.
    mark: u64,
    /// The first row that cannot be taken.
    bad: Option<u32>,
    /// A line whose account takes none of its day, and of which nobody said where it goes.
    late: Option<Late>,
    /// Its place among those that are ready.
    ready: Option<u32>,
}

/// Why an entry is not taken whose rows could be read.
#[derive(Clone, Copy, Debug)]
enum Refusal {
    Changed,
    Locked,
    Spoilt(u32),
    Dates,
    Late(Late),
    Unbalanced(i128),
}

impl Groups {
    fn add(&mut self, number: &str) -> Option<usize> {
        let found = self.find(number);
        Some(found.unwrap_or_else(|| self.0.insert_full(number.into(), Group::default()).0))
    }

    fn find(&self, number: &str) -> Option<usize> {
        self.0.get_index_of(number)
    }

    fn number(&self, at: usize) -> &str {
        self.0.get_index(at).map_or("", |(number, _)| number)
    }

    /// Whether they balance when each amount is signed by the usual side of its account, and not as they
    /// stand. What could not be read has no say.
    fn balance_by_usual_sides(&self) -> bool {
        let mut read = self.0.values().filter(|group| group.bad.is_none());
        read.clone().any(|group| group.sum != 0) && read.all(|group| group.usual == 0)
    }

    /// Tells which are ready; the others are returned with why not.
    fn settle(&mut self, books: &JournalContext<'_>) -> BTreeMap<usize, Refusal> {
        let mut refused = BTreeMap::new();
        let mut ready = 0;
        for (at, group) in self.0.values_mut().enumerate() {
            if group.is_known(at, books) {
                continue;
            }
            match group.refusal(at, books) {
                Some(refusal) => {
                    refused.insert(at, refusal);
                }
                None => {
                    group.ready = Some(ready);
                    ready += 1;
                }
            }
        }
        refused
    }

    /// Those that are ready.
    fn ready(&self) -> impl Iterator<Item = EntryHead<'_>> + Send {
        let ready = self.0.iter().filter(|(_, group)| group.ready.is_some());
        ready.filter_map(|(number, group)| {
            let (date, kind) = (group.last?, group.kind?);
            Some(EntryHead { number, date, kind })
        })
    }
}

impl std::ops::Index<usize> for Groups {
    type Output = Group;

    fn index(&self, at: usize) -> &Group {
        &self.0[at]
    }
}

impl std::ops::IndexMut<usize> for Groups {
    fn index_mut(&mut self, at: usize) -> &mut Group {
        &mut self.0[at]
    }
}

impl Group {
    fn take(&mut self, line: &DatedLine) {
        self.dates_differ |= self.last.is_some_and(|last| last != line.date);
        self.last = Some(line.date);
        self.kind = self.kind.or(Some(line.kind));
        self.sum += i128::from(line.line.amount);
        self.usual += i128::from(line.usual);
        self.mark = self.mark.wrapping_add(line.mark);
        self.late = self.late.or(line.late.filter(|_| line.goes_nowhere));
    }

    /// Whether the journal has it just so: then it is no matter of what could be posted now.
    fn is_known(&self, at: usize, books: &JournalContext<'_>) -> bool {
        self.bad.is_none() && books.overlap.same.contains(&at)
    }

    fn refusal(&self, at: usize, books: &JournalContext<'_>) -> Option<Refusal> {
        let locked =
            |day| books.locked.is_some_and(|locked| books.calendar.period_of(day) <= locked);
        match (self.bad, self.late) {
            (Some(row), _) => Some(Refusal::Spoilt(row)),
            _ if books.overlap.changed.contains_key(&at) => Some(Refusal::Changed),
            _ if self.dates_differ => Some(Refusal::Dates),
            _ if self.last.is_some_and(locked) => Some(Refusal::Locked),
            (_, Some(late)) => Some(Refusal::Late(late)),
            _ if self.sum != 0 => Some(Refusal::Unbalanced(self.sum)),
            _ => None,
        }
    }
}

impl Refusal {
    fn why(self, number: &str, reading: &Reading, books: &JournalContext<'_>) -> (Column, Cause) {
        let entry = number.to_owned();
        match self {
            Self::Changed => (Column::Entry, Cause::EntryChanged { entry }),
            Self::Locked => (Column::Date, Cause::PeriodLocked),
            Self::Spoilt(row) => {
                (Column::Entry, Cause::EntrySpoilt { entry, place: reading.place(row) })
            }
            Self::Dates => (Column::Date, Cause::EntryDates { entry }),
            Self::Late(late) => (Column::Date, late.why(books)),
            Self::Unbalanced(gap) => {
                let currency = books.currency;
                (Column::Entry, Cause::EntryUnbalanced { entry, gap, currency })
            }
        }
    }
}

/// What lines come to together.
#[derive(Default)]
struct Sums {
    debits: i128,
    digest: u128,
    by_account: BTreeMap<AccountId, (usize, i128)>,
}

impl Sums {
    fn add(&mut self, DatedLine { line, mark, .. }: &DatedLine) {
        self.debits += i128::from(line.amount.max(0));
        self.digest += u128::from(*mark);
        let sum = self.by_account.entry(line.account).or_default();
        *sum = (sum.0 + 1, sum.1 + i128::from(line.amount));
    }

    /// Takes out what was added before.
    fn remove(&mut self, DatedLine { line, mark, .. }: &DatedLine) {
        self.debits -= i128::from(line.amount.max(0));
        self.digest -= u128::from(*mark);
        if let Some(sum) = self.by_account.get_mut(&line.account) {
            *sum = (sum.0 - 1, sum.1 - i128::from(line.amount));
            if sum.0 == 0 {
                self.by_account.remove(&line.account);
            }
        }
    }
}

/// What a code of the file was found to be.
#[derive(Clone, Copy)]
struct Meant {
    account: AccountId,
    /// Until when it takes lines, if not for good.
    ended: Option<Ended>,
}

struct Reader<'a> {
    reading: &'a Reading,
    books: &'a JournalContext<'a>,
    signs: Signs,
    /// The column that tells the day.
    day: Column,
    finder: Finder<'a>,
    /// What each code of the file was found to be: most codes stand in many rows.
    known: HashMap<String, Result<Meant, Cause>>,
    marks: HashMap<AccountId, i64>,
    mapped: BTreeMap<String, AccountId>,
    unknown: BTreeMap<String, UnknownCode>,
    /// The place of the entry of the row before.
    last: Option<usize>,
}

impl<'a> Reader<'a> {
    fn of(reading: &'a Reading, books: &'a JournalContext<'a>, signs: Signs) -> Self {
        Self {
            reading,
            books,
            signs,
            day: if periods::stand_for_days(&reading.layout) {
                Column::Period
            } else {
                Column::Date
            },
            finder: Finder::of(books.chart, books.former),
            known: HashMap::new(),
            marks: HashMap::new(),
            mapped: BTreeMap::new(),
            unknown: BTreeMap::new(),
            last: None,
        }
    }

    /// The place of the entry that a row belongs to, by its number. Below the first row of an entry
    /// number and date may be left blank; in a file without numbers date and reference tell the
    /// entry. `None` when the number is missing.
    fn place(&mut self, row: &RawRow, place: impl FnOnce(&str) -> Option<usize>) -> Option<usize> {
        let cell = |field| self.reading.layout.cell(row, field);
        let at = match (cell(Column::Entry), cell(self.day)) {
            ("", "") => return self.last,
            ("", _) if self.reading.layout.place(Column::Entry).is_some() => return None,
            ("", date) => {
                let date = self.date(row).map_or(date.to_owned(), |d| d.to_string());
                place(format!("{date} {}", cell(Column::Reference)).trim_end())
            }
            (number, _) => place(self.reading.codes.clean(number)),
        };
        self.last = at;
        at
    }

    fn line(&mut self, row: &RawRow, carried: Option<Date>) -> Result<DatedLine, Rejected> {
        let (reading, books) = (self.reading, self.books);
        let layout = &reading.layout;
        layout.check_texts(row)?;
        let cell = |field| layout.cell(row, field);
        let date = match carried.filter(|_| cell(self.day).is_empty()) {
            Some(date) => date,
            None => self.date(row)?,
        };
        let kind = match reduce(cell(Column::EntryKind)).as_str() {
            "" => EntryKind::Ordinary,
            text => EntryKind::from_key(text)
                .ok_or_else(|| layout.reject(row, Column::EntryKind, Cause::EntryKindUnknown))?,
        };
        let code = reading.code(row, Column::Code);
        let code = if code.is_empty() { reading.name(row) } else { code };
        let Meant { account, ended } = self.account(code).map_err(|why| {
            if let Some(unknown) = self.unknown.get_mut(code) {
                unknown.rows += 1;
                if unknown.name.is_empty() {
                    reading.name(row).clone_into(&mut unknown.name);
                }
            }
            layout.reject(row, Column::Code, why)
        })?;
        let late = ended.and_then(|ended| ended.late(date, books));
        let (account, goes_nowhere) = match late.map(|late| late.goes_to(books)) {
            None => (account, false),
            Some(to) => (to.unwrap_or(account), to.is_none()),
        };
        let written = reading.signed(row, books.currency)?;
        let turn = |signs: Signs, amount: i64| {
            books.chart.get(account).map_or(amount, |account| signs.turn(amount, account))
        };
        let (amount, usual) = (turn(self.signs, written), turn(Signs::Usual, written));
        let foreign = self.foreign(row, account)?;
        let foreign = foreign.map(|(amount, currency)| (turn(self.signs, amount), currency));
        let dimensions = layout.dimensions().filter_map(|(at, name)| {
            let value = row.cells.get(at)?.text.trim();
            (!value.is_empty()).then(|| DimensionValue::new(name, value))
        });
        let line = NewLine {
            account,
            amount,
            foreign,
            payee: cell(Column::Payee).to_owned(),
            memo: cell(Column::Memo).to_owned(),
            reference: cell(Column::Reference).to_owned(),
            dimensions: dimension::written(dimensions),
            cleared: matches!(reduce(cell(Column::Cleared)).as_str(), "yes" | "true" | "1" | "x"),
        };
        let mark = mark_of(&line, self.code_mark(account), date);
        Ok(DatedLine { date, mark, kind, usual, late, goes_nowhere, line })
    }

    fn date(&self, row: &RawRow) -> Result<Date, Rejected> {
        match self.day {
            Column::Period => periods::day(self.reading, row, self.books.calendar),
            _ => self.reading.date(row),
        }
    }

    fn account(&mut self, text: &str) -> Result<Meant, Cause> {
        if let Some(known) = self.known.get(text) {
            return known.clone();
        }
        let found = self.look_up(text);
        self.known.insert(text.to_owned(), found.clone());
        found
    }

    /// Tells the code that an account has today from those of others.
    fn code_mark(&mut self, id: AccountId) -> i64 {
        let chart = self.books.chart;
        *self.marks.entry(id).or_insert_with(|| {
            let code = chart.get(id).map(|account| account.code.to_string()).unwrap_or_default();
            mark_of_code(&code)
        })
    }

    fn look_up(&mut self, text: &str) -> Result<Meant, Cause> {
        let key = Code::parse(text).map(|code| code.key());
        let chart = self.books.chart;
        let said = key.as_ref().ok().and_then(|key| self.books.said.get(key));
        let said = said.and_then(|id| chart.get(*id));
        let then = || self.books.then?.holder(key.as_ref().ok()?, chart);
        let found = said.or_else(then).map_or_else(|| found(text, text, &self.finder), Ok);
        let account = match found {
            Ok(account) => account,
            Err(why) => {
                let bearers = key.as_ref().map(|key| self.finder.by_code(key));
                let bearers = match bearers {
                    Ok(Found::Several(accounts)) => accounts,
                    _ => Vec::new(),
                };
                if !text.is_empty() {
                    self.ask(text, key.as_ref().ok(), &bearers);
                }
                return Err(why);
            }
        };
        let ended = Ended::of(account, key.as_ref().ok(), self.books);
        if key.is_ok_and(|key| account.code.key() != key) {
            self.mapped.insert(text.to_owned(), account.id);
        }
        // What was posted is a fact, also where nothing new may be posted any more. A sum line is no
        // account: what would stand on it would be added up twice.
        if account.kind == Kind::Sum {
            return Err(Cause::AccountNotPosting { account: account.label() });
        }
        Ok(Meant { account: account.id, ended })
    }

    fn ask(&mut self, code: &str, key: Option<&CodeKey>, bearers: &[&Account]) {
        let below = self.finder.codes().filter(|(other, _)| key.is_some_and(|key| *other < key));
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
        let reject = |field, cause: Cause| layout.reject(row, field, cause);
        let currency = match layout.cell(row, Column::Currency) {
            "" => self.books.currency,
            text => Currency::parse(text).map_err(|why| reject(Column::Currency, why.into()))?,
        };
        if let Some(account) = self.books.chart.get(account)
            && let Some(fixed) = account.currency.filter(|fixed| *fixed != currency)
        {
            let account = account.label();
            return Err(reject(Column::Currency, Cause::CurrencyOther { account, fixed }));
        }
        if currency == self.books.currency {
            return Ok(None);
        }
        match self.reading.amount(row, Column::Foreign, currency)? {
            Some(amount) => Ok(Some((amount, currency))),
            None => Err(reject(Column::Foreign, Cause::ForeignMissing { currency })),
        }
    }
}
