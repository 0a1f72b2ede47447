//! A chart from a file beside the chart of the books: what is new, what changed field by field, what
//! is the same, and what the file does not have. Nothing is overwritten: what a person takes of it
//! is staged in a plan.

use super::chart::ChartIntake;
use super::columns::{Column, columns_of, reduce};
use super::layout::Layout;
use super::reading::Reading;
use super::{OutlineBy, RawRow};
use std::collections::{BTreeMap, HashMap, HashSet};
use zf_core::chart::{Account, Chart, Structure};
use zf_core::code::{Code, CodeKey};
use zf_core::ids::{AccountId, ById, ImportId, ItemId};
use zf_core::keyed;
use zf_core::plan::{Change, Fate, Field};

keyed! {
    /// What tells which account of the books a row is.
    MatchedBy {
        /// It bears the same code.
        Code = "code", "by code";
        /// Nobody bears its code, and one account has the same name under the same headings.
        Path = "path", "by path";
        /// Nobody bears its code, and one account has the same name.
        Name = "name", "by name";
    }
}

/// A row of the file that is not as its account is today.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct Changed {
    /// The row of the file.
    pub row: u32,
    /// The account it was found to be.
    pub account: AccountId,
    /// What tells that.
    pub by: MatchedBy,
    /// What the file says otherwise.
    pub changes: Vec<Change>,
}

/// What a file says otherwise than the books. Accounts that are new keep the identities they were
/// read with; everything else names accounts of the books.
#[derive(Clone, Debug, Default, PartialEq, Eq)]
pub struct Comparison {
    /// Rows that no account of the books stands for.
    pub new: Vec<(u32, Account)>,
    /// Rows whose account is otherwise today.
    pub changed: Vec<Changed>,
    /// How many rows are as their account is today.
    pub same: usize,
    /// Accounts of the books that no row stands for, by code.
    pub missing: Vec<AccountId>,
    /// The statement items, with those that the file adds to them.
    pub structure: Structure,
}

/// What a person takes of a comparison.
#[derive(Clone, Debug, Default, PartialEq, Eq)]
pub struct Taken {
    /// Whether new accounts are added.
    pub new: bool,
    /// Whether changes are staged.
    pub changed: bool,
    /// What becomes of accounts that the file does not have; `None` leaves them as they are.
    pub missing: Option<Fate>,
    /// Rows of the file that are left out of this.
    pub without_rows: HashSet<u32>,
    /// Missing accounts that are left as they are.
    pub without_accounts: HashSet<AccountId>,
}

/// Compares the accounts of a file with the live ones of the books: matched by code, and those that
/// are left by a name that only one of them has on either side. Only what the file has columns for
/// is compared. An account whose code stands in a row that cannot be taken is not missing.
pub fn compare(
    read: &ChartIntake,
    reading: &Reading,
    rows: &[RawRow],
    chart: &Chart,
) -> Comparison {
    let ready = &read.intake.ready;
    let found = match_up(ready, chart);
    let fields = compared(&reading.layout, read.outline);
    let structure = read.structure.clone();
    let mut comparison = Comparison { structure, ..Comparison::default() };
    for (row, account) in ready {
        let mut account = account.clone();
        let at_home = |parent: AccountId| found.get(&parent).map_or(parent, |(id, _)| *id);
        account.parent = account.parent.map(at_home);
        let Some((id, by)) = found.get(&account.id) else {
            comparison.new.push((*row, account));
            continue;
        };
        let today = chart.get(*id);
        // A file that gives no day says nothing against the one that is known.
        if today.is_some_and(|t| t.status == account.status) {
            account.status_from = account.status_from.or(today.and_then(|t| t.status_from));
        }
        let changes: Vec<Change> = fields
            .iter()
            .filter(|field| {
                today.is_some_and(|t| Change::of(t, **field) != Change::of(&account, **field))
            })
            .map(|field| Change::of(&account, *field))
            .collect();
        if changes.is_empty() {
            comparison.same += 1;
        } else {
            comparison.changed.push(Changed { row: *row, account: *id, by: *by, changes });
        }
    }
    let there: HashSet<AccountId> = found.into_values().map(|(id, _)| id).collect();
    let rejected: HashSet<u32> = read.intake.rejected.iter().map(|r| r.row).collect();
    let rejected = rows.iter().filter(|row| rejected.contains(&row.number));
    let named: HashSet<CodeKey> = rejected
        .filter_map(|row| Code::parse(reading.code(row, Column::Code)).ok())
        .map(|code| code.key())
        .collect();
    let is_missing = |a: &&Account| !there.contains(&a.id) && !named.contains(&a.code.key());
    let mut missing: Vec<_> = chart.live().filter(is_missing).collect();
    missing.sort_by(|a, b| a.code.chart_order(&b.code));
    comparison.missing = missing.into_iter().map(|account| account.id).collect();
    comparison
}

/// Which account of the books each account of the file is.
fn match_up(read: &[(u32, Account)], chart: &Chart) -> ById<(AccountId, MatchedBy)> {
    let by_code: HashMap<CodeKey, AccountId> =
        chart.live().map(|account| (account.code.key(), account.id)).collect();
    let mut found: ById<(AccountId, MatchedBy)> = ById::default();
    let rest: Vec<&Account> = read
        .iter()
        .filter_map(|(_, account)| match by_code.get(&account.code.key()) {
            Some(id) => {
                found.insert(account.id, (*id, MatchedBy::Code));
                None
            }
            None => Some(account),
        })
        .collect();
    let file = Chart::new(read.iter().map(|(_, account)| account.clone()));
    for (by, depth) in [(MatchedBy::Path, usize::MAX), (MatchedBy::Name, 0)] {
        let there: HashSet<AccountId> = found.values().map(|(id, _)| *id).collect();
        let books = chart.live().filter(|account| !there.contains(&account.id));
        let books = unique_paths(books, chart, depth);
        let left = rest.iter().copied().filter(|account| !found.contains_key(&account.id));
        let left: Vec<&Account> = left.collect();
        for (path, account) in unique_paths(left.into_iter(), &file, depth) {
            if let Some(today) = books.get(&path) {
                found.insert(account.id, (today.id, by));
            }
        }
    }
    found
}

/// Accounts by their name with the names of so many headings above it, where only one has these. An account
/// that stands under none is known by its name alone.
fn unique_paths<'a>(
    accounts: impl Iterator<Item = &'a Account>,
    chart: &Chart,
    depth: usize,
) -> BTreeMap<Vec<String>, &'a Account> {
    let mut named: BTreeMap<Vec<String>, Option<&Account>> = BTreeMap::new();
    for account in accounts {
        let above = chart.above(account).take(depth).map(|heading| reduce(&heading.name));
        let path: Vec<String> = std::iter::once(reduce(&account.name)).chain(above).collect();
        if path.len() > 1 || depth == 0 {
            named.entry(path).and_modify(|several| *several = None).or_insert(Some(account));
        }
    }
    named.into_iter().filter_map(|(path, account)| Some((path, account?))).collect()
}

/// The fields that a file says something of.
fn compared(layout: &Layout, outline: OutlineBy) -> Vec<Field> {
    let has = |column: &Column| layout.place(*column).is_some();
    let is_given = |field: &Field| match field {
        Field::Code | Field::Name => true,
        Field::Parent => outline != OutlineBy::Nothing,
        _ => columns_of(*field).iter().any(has),
    };
    Field::ALL.iter().copied().filter(is_given).collect()
}

impl Comparison {
    /// The statement items that changes name and the books do not have.
    pub fn new_lines<'a>(
        &self,
        changes: impl IntoIterator<Item = &'a Change>,
        books: &Structure,
    ) -> Vec<ItemId> {
        let named = changes.into_iter().filter_map(|change| match change {
            Change::Caption(line) => *line,
            _ => None,
        });
        let mut new: Vec<ItemId> = named.filter(|line| books.caption(*line).is_none()).collect();
        new.sort_unstable();
        new.dedup();
        new
    }

    /// What has to be staged for what a person takes. `renamed` gives new accounts the identities
    /// they are to have from now on.
    pub fn changes(
        &self,
        taken: &Taken,
        origin: ImportId,
        renamed: impl Fn(AccountId) -> AccountId,
    ) -> Vec<(AccountId, Change)> {
        let new_ids: HashSet<AccountId> = self.new.iter().map(|(_, account)| account.id).collect();
        let final_id = |id: AccountId| if new_ids.contains(&id) { renamed(id) } else { id };
        let finally = |change: Change| match change {
            Change::Parent(parent) => Change::Parent(parent.map(final_id)),
            other => other,
        };
        let wants = |row: &u32| !taken.without_rows.contains(row);
        let new = self.new.iter().filter(|(row, _)| taken.new && wants(row));
        let new = new.flat_map(|(_, account)| {
            let account = Account { origin: Some(origin), ..account.clone() };
            Change::adding(&account).into_iter().map(move |change| (account.id, change))
        });
        let changed = self.changed.iter().filter(|c| taken.changed && wants(&c.row));
        let changed =
            changed.flat_map(|c| c.changes.iter().map(|change| (c.account, change.clone())));
        let missing = self.missing.iter().filter(|id| !taken.without_accounts.contains(id));
        let retired = missing.filter_map(|id| Some((*id, Change::Fate(taken.missing?))));
        let all = new.chain(changed).chain(retired);
        all.map(|(id, change)| (final_id(id), finally(change))).collect()
    }
}
