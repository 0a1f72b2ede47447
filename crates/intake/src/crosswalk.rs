//! Intake of a crosswalk: old codes with the codes they become. It is judged as a whole: the
//! right-hand code is the code After, so the order of rows does not matter, and a code that its
//! owner gives up in the same file may be taken.

use super::columns::{Column, reduce};
use super::reading::Reading;
use super::reason::Reason;
use super::usage::account;
use super::{Intake, RawRow, Rejected, Warning};
use std::collections::{BTreeMap, HashMap, HashSet};
use zf_core::chart::{Account, Chart};
use zf_core::code::{Code, CodeKey};
use zf_core::former::{FormerCodes, current_codes, find};
use zf_core::history::{Part, Split, Which};
use zf_core::ids::AccountId;
use zf_core::plan::edit::Wanted;
use zf_core::plan::{Change, Fate, Field, Plan, texts};
use zf_core::policy::CodeFormat;

/// One row of a crosswalk, with what it comes to.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct Crossing {
    /// The row of the file.
    pub row: u32,
    /// The account today.
    pub account: AccountId,
    /// The code it gives up.
    pub code: Code,
    /// The code that is to hold its history.
    pub new_code: Code,
    /// The name After, when the file gives one.
    pub new_name: Option<String>,
    /// Another account whose history it joins.
    pub into: Option<AccountId>,
}

impl Crossing {
    /// What has to be staged for it in a plan: what differs from today, and what the plan
    /// holds that the crosswalk contradicts.
    pub fn edits(&self, chart: &Chart, plan: &Plan) -> Vec<Wanted> {
        let wanted = match self.into {
            Some(survivor) => vec![Change::Fate(Fate::MergeInto(survivor))],
            None => {
                let name = self.new_name.clone().map(Change::Name);
                std::iter::once(Change::Code(self.new_code.clone())).chain(name).collect()
            }
        };
        let today = chart.get(self.account);
        let mut edits = Vec::new();
        for change in wanted {
            let field = change.field();
            let same = today.is_some_and(|a| Change::of(a, field) == change);
            if !same {
                edits.push(Wanted::Stage(change));
            } else if plan.staged(self.account, field).is_some() {
                edits.push(Wanted::TakeBack(field));
            }
        }
        // An account that has a code After cannot be on its way into another, or out.
        let leaves = matches!(plan.fate(self.account), Some(Fate::MergeInto(_) | Fate::Delete));
        if self.into.is_none() && leaves {
            edits.push(Wanted::TakeBack(Field::Fate));
        }
        edits
    }
}

impl Crossing {
    /// The split that moves all history of the account to the one that bears the new code today;
    /// `None` where nobody does, or where it stands there already.
    pub fn moving(&self, chart: &Chart) -> Option<Split> {
        let to = chart.by_code(&self.new_code.key()).map(|account| account.id);
        let to = to.filter(|to| *to != self.account)?;
        Some(Split { parts: vec![Part { which: Which::default(), to }], ranked: false })
    }
}

/// What a crosswalk is read against.
pub struct Books<'a> {
    /// The chart.
    pub chart: &'a Chart,
    /// Former codes.
    pub former: &'a FormerCodes,
    /// The form that new codes must have.
    pub format: CodeFormat,
}

/// Reads a crosswalk. What is rejected are its misfits; a plan is filled with none of it before
/// they are settled or left out.
pub fn read(reading: &Reading, rows: &[RawRow], books: &Books<'_>) -> Intake<Crossing> {
    let current = current_codes(books.chart);
    let (mut read, mut rejected, mut warnings) = (Vec::new(), Vec::new(), Vec::new());
    let body = reading.layout.body(rows, &mut warnings);
    for row in &body {
        match read_row(reading, row, books, &current) {
            Ok(crossing) => read.push((*row, crossing)),
            Err(why) => rejected.push(why),
        }
    }
    let read = refuse_two_targets(reading, read, &mut rejected, &mut warnings);
    let ready = settle_merges(reading, read, books, &current, &mut rejected);
    warn_of_names(&ready, books.chart, &mut warnings);
    let count = ready.len();
    Intake::of(ready, count, rejected, warnings)
}

fn read_row(
    reading: &Reading,
    row: &RawRow,
    books: &Books<'_>,
    current: &HashMap<CodeKey, &Account>,
) -> Result<Crossing, Rejected> {
    reading.layout.check_texts(row)?;
    let reject =
        |field, reason, message: String| reading.layout.reject(row, field, reason, message);
    let found = |key: &CodeKey| find(key, current, books.former, books.chart);
    let account = account(reading, row, Column::Code, found)?;
    let new_code =
        Code::parse(reading.code(row, Column::NewCode)).map_err(|e| match Reason::from(&e) {
            Reason::CodeMissing => {
                let message = "the new code is missing".to_owned();
                reject(Column::NewCode, Reason::NewCodeMissing, message)
            }
            reason => reject(Column::NewCode, reason, e.to_string()),
        })?;
    if let Some(objection) = books.format.objection(&new_code) {
        let message = format!("{new_code} {objection}");
        return Err(reject(Column::NewCode, Reason::CodeFormat, message));
    }
    let new_name = match reading.layout.cell(row, Column::NewName) {
        "" => None,
        text => Some(
            texts::name(text)
                .map_err(|e| reject(Column::NewName, Reason::from(&e), e.to_string()))?,
        ),
    };
    let code = account.code.clone();
    Ok(Crossing { row: row.number, account: account.id, code, new_code, new_name, into: None })
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
                let message = format!("{} is to become more than one code", crossing.code);
                let reason = Reason::TwoTargets;
                rejected.push(reading.layout.reject(row, Column::Code, reason, message));
                return false;
            }
            let first = seen.insert(crossing.account);
            if !first {
                let message =
                    format!("{} stands in an earlier row too; passed over", crossing.code);
                warnings.push(Warning { row: row.number, reason: Reason::CodeTwice, message });
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
    books: &Books<'_>,
    current: &HashMap<CodeKey, &Account>,
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
        let keeper = current.get(&key).map(|a| a.id).filter(|id| !gives_up.contains(id));
        first.entry(key).or_insert(keeper.unwrap_or(crossing.account));
    }
    let mut ready = Vec::with_capacity(read.len());
    for (row, mut crossing) in read {
        let survivor = first[&crossing.new_code.key()];
        if survivor != crossing.account {
            if let Some((reason, message)) = unlike(books.chart, crossing.account, survivor) {
                rejected.push(reading.layout.reject(row, Column::NewCode, reason, message));
                continue;
            }
            crossing.into = Some(survivor);
        }
        ready.push(crossing);
    }
    ready
}

fn unlike(chart: &Chart, merged: AccountId, survivor: AccountId) -> Option<(Reason, String)> {
    let (merged, survivor) = (chart.get(merged)?, chart.get(survivor)?);
    let say = |a: &str, b: &str| {
        format!(
            "{} would be merged into {}, but one is {a}, the other {b}",
            merged.label(),
            survivor.label()
        )
    };
    if merged.kind != survivor.kind || !merged.is_posting() {
        let words = say(merged.kind.words(), survivor.kind.words());
        return Some((Reason::MergeKind, words));
    }
    (merged.class != survivor.class)
        .then(|| (Reason::MergeClass, say(merged.class.words(), survivor.class.words())))
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
        let message = format!("the new name is today that of {}", other.label());
        warnings.push(Warning { row: crossing.row, reason: Reason::NameOfAnother, message });
    }
}
