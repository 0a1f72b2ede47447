//! Intake of a crosswalk: old codes with the codes they become. It is judged as a whole: the
//! right-hand code is the code After, so the order of rows does not matter, and a code that its
//! owner gives up in the same file may be taken.

mod actions;
pub(crate) mod added;
mod books;
mod crossing;
mod patterns;
pub(crate) mod rings;

pub use books::CrosswalkContext;
pub use crossing::Crossing;

use super::cause::Cause;
use super::columns::{Column, reduce};
use super::question::Question;
use super::reading::Reading;
use super::usage::found;
use super::words::{ActionWord, is_nothing};
use super::{Intake, RawRow, Rejected, Warning};
use actions::{Actions, RowActions};
use books::code_of;
use patterns::Named;
use rings::Rings;
use std::collections::{BTreeMap, HashMap, HashSet};
use zf_core::chart::{Account, Chart};
use zf_core::code::CodeKey;
use zf_core::former::Finder;
use zf_core::ids::AccountId;
use zf_core::plan::texts;

/// What a crosswalk says.
#[derive(Clone, Debug)]
pub struct CrosswalkIntake {
    /// What each row, or each account of a row, comes to, and the misfits.
    pub intake: Intake<Crossing>,
    /// Accounts that are only in the new chart, with their rows.
    pub added: Vec<(u32, Account)>,
    /// What is not certain.
    pub questions: Vec<Question>,
    /// Rows that ask for nothing.
    pub idle: Vec<u32>,
}

/// Reads a crosswalk. What is rejected are its misfits; a plan is filled with none of it before
/// they are settled or left out.
pub fn read(reading: &Reading, rows: &[RawRow], books: &CrosswalkContext<'_>) -> CrosswalkIntake {
    let finder = Finder::of(books.chart, books.former);
    let (mut read, mut rejected, mut warnings) = (Vec::new(), Vec::new(), Vec::new());
    let mut idle = Vec::new();
    let body = reading.layout.body(rows, &mut warnings);
    let actions = Actions::of(reading);
    let (new, old): (Vec<&RawRow>, Vec<&RawRow>) =
        body.iter().partition(|row| added::is_new(reading, row));
    for row in &old {
        match read_row(reading, row, books, &finder, &actions) {
            Ok(crossings) if crossings.is_empty() => idle.push(row.number),
            Ok(crossings) => read.extend(crossings.into_iter().map(|crossing| (*row, crossing))),
            Err(why) => rejected.push(why),
        }
    }
    let read = refuse_two_targets(reading, read, &mut rejected, &mut warnings);
    let mut ready = settle_merges(reading, read, books, &finder, &mut rejected);
    let moved: Vec<&Crossing> = ready.iter().filter(|c| c.fate.is_none()).collect();
    let Rings { merged, question } = rings::look_over(reading, &moved, books.chart);
    let numbered: HashMap<u32, &RawRow> = body.iter().map(|row| (row.number, *row)).collect();
    rejected.extend(ready.iter().filter(|c| merged.contains(&c.account)).map(|crossing| {
        let cause = Cause::MergeRing { code: crossing.code.clone() };
        reading.layout.reject(numbered[&crossing.row], Column::NewCode, cause)
    }));
    ready.retain(|crossing| !merged.contains(&crossing.account));
    warn_of_names(&ready, books.chart, &mut warnings);
    let taken = codes_after(&ready, books.chart);
    let new = added::read(reading, &new, books, &taken);
    rejected.extend(new.rejected);
    warnings.extend(new.warnings);
    let mut questions = actions.questions(&body);
    questions.extend(question.into_iter().chain(new.questions));
    let rows = ready.iter().map(|crossing| crossing.row).collect::<HashSet<_>>().len();
    let intake = Intake::of(ready, rows + new.accounts.len(), rejected, warnings);
    CrosswalkIntake { intake, added: new.accounts, questions, idle }
}

/// What a row comes to: one crossing for each account that it names, and none when it asks for nothing.
fn read_row(
    reading: &Reading,
    row: &RawRow,
    books: &CrosswalkContext<'_>,
    finder: &Finder<'_>,
    actions: &Actions<'_>,
) -> Result<Vec<Crossing>, Rejected> {
    reading.layout.check_texts(row)?;
    let reject = |field, cause: Cause| reading.layout.reject(row, field, cause);
    let (old, new) = (reading.code(row, Column::Code), reading.code(row, Column::NewCode));
    let old_name = reading.layout.cell(row, Column::Name);
    let action = actions.read(row)?;
    if old.is_empty() && new.is_empty() && (old_name.is_empty() || action.is_none()) {
        return Ok(Vec::new());
    }
    let named = match Named::by_several(old, finder) {
        Some(named) if !named.unknown.is_empty() => {
            let codes = named.unknown;
            return Err(reject(Column::Code, Cause::ListUnknown { codes }));
        }
        Some(named) if named.accounts.is_empty() => {
            let pattern = old.to_owned();
            return Err(reject(Column::Code, Cause::PatternUnknown { pattern }));
        }
        Some(named) => named,
        None => {
            let (code, _) = patterns::parted(old);
            let account = found(old, old_name, finder).or_else(|why| match code {
                code if code == old => Err(why),
                code => found(code, "", finder),
            });
            let account = account.map_err(|why| reject(Column::Code, why))?;
            Named { accounts: vec![(account, Vec::new())], ..Named::default() }
        }
    };
    let (new, beside) = patterns::parted(new);
    let new_name = match reading.layout.cell(row, Column::NewName) {
        "" => beside,
        text => text,
    };
    let new_name = Some(new_name).filter(|name| !name.is_empty() && !is_nothing(name));
    let new_name = new_name.map(texts::name).transpose();
    let new_name = new_name.map_err(|why| reject(Column::NewName, why.into()))?;
    let asked = RowActions { action, has_code: !is_nothing(new), has_name: new_name.is_some() };
    asked.check().map_err(|(field, cause)| reject(field, cause))?;
    let stays = is_nothing(new) || asked.fate().is_some() || action == Some(ActionWord::Keep);
    let crossing = |(account, kept): &(&Account, Vec<String>)| {
        let new_code = if stays {
            account.code.clone()
        } else {
            let text = match (kept.as_slice(), &named.range) {
                ([], Some(range)) => patterns::shifted(range, &account.code, new),
                ([], None) => Ok(new.to_owned()),
                (kept, _) if patterns::is_pattern(new) => {
                    patterns::filled(new, kept).ok_or(Cause::PatternsDiffer)
                }
                _ => Ok(new.to_owned()),
            };
            let code = text.and_then(|text| code_of(&text, books.format));
            code.map_err(|why| reject(Column::NewCode, why))?
        };
        let code = account.code.clone();
        let renamed = !named.several || stays;
        Ok(Crossing {
            row: row.number,
            account: account.id,
            code,
            new_code,
            new_name: new_name.clone().filter(|_| renamed && asked.fate().is_none()),
            into: None,
            fate: asked.fate(),
        })
    };
    named.accounts.iter().map(crossing).collect()
}

/// The codes that the accounts of the books have After.
fn codes_after(ready: &[Crossing], chart: &Chart) -> HashSet<CodeKey> {
    let moved: HashMap<AccountId, &Crossing> = ready.iter().map(|c| (c.account, c)).collect();
    let after = |account: &Account| match moved.get(&account.id) {
        Some(crossing) => crossing.new_code.key(),
        None => account.code.key(),
    };
    chart.live().map(after).collect()
}

/// One account cannot become two. A row that only says the same once more is passed over.
fn refuse_two_targets<'a>(
    reading: &Reading,
    read: Vec<(&'a RawRow, Crossing)>,
    rejected: &mut Vec<Rejected>,
    warnings: &mut Vec<Warning>,
) -> Vec<(&'a RawRow, Crossing)> {
    let mut targets: HashMap<AccountId, HashSet<CodeKey>> = HashMap::new();
    for (_, crossing) in &read {
        targets.entry(crossing.account).or_default().insert(crossing.new_code.key());
    }
    let mut seen = HashSet::new();
    read.into_iter()
        .filter(|(row, crossing)| {
            if targets[&crossing.account].len() > 1 {
                let cause = Cause::TwoTargets { code: crossing.code.clone() };
                rejected.push(reading.layout.reject(row, Column::Code, cause));
                return false;
            }
            let first = seen.insert(crossing.account);
            if !first {
                let cause = Cause::RowAgain { code: crossing.code.clone() };
                warnings.push(Warning { row: row.number, cause });
            }
            first
        })
        .collect()
}

/// Rows that share a new code are one account After: the one that bears the code and keeps it, or
/// else the first of the rows. Only like goes into like.
fn settle_merges(
    reading: &Reading,
    read: Vec<(&RawRow, Crossing)>,
    books: &CrosswalkContext<'_>,
    finder: &Finder<'_>,
    rejected: &mut Vec<Rejected>,
) -> Vec<Crossing> {
    let gives_up: HashSet<AccountId> = read
        .iter()
        .filter(|(_, c)| c.code.key() != c.new_code.key())
        .map(|(_, c)| c.account)
        .collect();
    let mut first: BTreeMap<CodeKey, AccountId> = BTreeMap::new();
    for (_, crossing) in &read {
        let key = crossing.new_code.key();
        let keeper = finder.current(&key).map(|a| a.id).filter(|id| !gives_up.contains(id));
        if crossing.fate.is_none() {
            first.entry(key).or_insert(keeper.unwrap_or(crossing.account));
        }
    }
    let mut ready = Vec::with_capacity(read.len());
    for (row, mut crossing) in read {
        let survivor = first.get(&crossing.new_code.key()).copied();
        let survivor = survivor.filter(|_| crossing.fate.is_none()).unwrap_or(crossing.account);
        if survivor != crossing.account {
            if let Some(cause) = unlike(books.chart, crossing.account, survivor) {
                rejected.push(reading.layout.reject(row, Column::NewCode, cause));
                continue;
            }
            crossing.into = Some(survivor);
        }
        ready.push(crossing);
    }
    ready
}

fn unlike(chart: &Chart, merged: AccountId, survivor: AccountId) -> Option<Cause> {
    let (one, other) = (chart.get(merged)?, chart.get(survivor)?);
    let (merged, survivor) = (one.label(), other.label());
    if one.kind != other.kind || !one.is_posting() {
        return Some(Cause::MergeKind { merged, survivor, kinds: (one.kind, other.kind) });
    }
    let classes = (one.class, other.class);
    (one.class != other.class).then_some(Cause::MergeClass { merged, survivor, classes })
}

/// A code taken over together with the name of the account that bore it looks like a slip of rows.
fn warn_of_names(ready: &[Crossing], chart: &Chart, warnings: &mut Vec<Warning>) {
    let mut named: HashMap<String, &Account> = HashMap::new();
    for account in chart.live() {
        named.entry(reduce(&account.name)).or_insert(account);
    }
    for crossing in ready {
        let other = crossing.new_name.as_ref().and_then(|name| named.get(&reduce(name)));
        let Some(other) =
            other.filter(|other| other.id != crossing.account && Some(other.id) != crossing.into)
        else {
            continue;
        };
        let cause = Cause::NameOfAnother { account: other.label() };
        warnings.push(Warning { row: crossing.row, cause });
    }
}
