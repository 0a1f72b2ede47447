//! What names accounts outside the journal: bank rules, items, budget lines, lines of reports.

use crate::code::{CodeKey, Interval};
use crate::ids::{AccountId, ReportLineId};
use std::collections::{BTreeMap, HashMap};
use time::Date;

/// What a where-used entry names.
#[derive(Clone, Debug, PartialEq, Eq)]
pub enum Named {
    /// One account.
    Account(AccountId),
    /// Stretches of codes, whichever accounts stand there, as a line of a report layout does.
    Stretches(Vec<Interval>),
}

/// One where-used entry: a thing that names an account, or a stretch of them.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct Use {
    /// What it names.
    pub names: Named,
    /// What kind of thing: a bank rule, a budget line, an item, a report layout.
    pub used_by: String,
    /// What the thing is called.
    pub label: String,
    /// Of a budget line: the first day of its month, and what is budgeted, in minor units.
    pub budget: Option<(Date, i64)>,
}

impl Use {
    /// How it is spoken of: `bank rule “Coal merchant”`.
    pub fn words(&self) -> String {
        let Self { used_by, label, .. } = self;
        if label.is_empty() { used_by.clone() } else { format!("{used_by} “{label}”") }
    }
}

/// A line of a report that adds up stretches of codes.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct ReportLine {
    /// Its identity.
    pub id: ReportLineId,
    /// How it is spoken of: `report layout “Cafés, sales”`.
    pub name: String,
    /// The stretches, as written.
    pub intervals: Vec<Interval>,
}

/// What names accounts outside the journal.
#[derive(Clone, Debug, Default, PartialEq, Eq)]
pub struct Usage {
    /// Whether a where-used list was ever given.
    pub given: bool,
    /// Whether the journal is known to be complete from the accounts' beginning.
    pub journal_complete: bool,
    /// The first day from which it is known to be complete, when that is not the beginning.
    pub complete_from: Option<Date>,
    /// By account, what names it: for example `bank rule “Coal merchant”`.
    pub by_account: HashMap<AccountId, Vec<String>>,
    /// By account, what is budgeted for it in each month, by the first day of the month, in minor units.
    pub budgets: HashMap<AccountId, BTreeMap<Date, i128>>,
    /// Lines of reports, in the order of their identities.
    pub report_lines: Vec<ReportLine>,
}

impl Usage {
    /// Takes note of an entry. What names an account that was merged names its `holder`; what names
    /// one account for each of many months is noted once.
    pub fn note(&mut self, id: ReportLineId, one: Use, holder: impl Fn(AccountId) -> AccountId) {
        let name = one.words();
        let account = match one.names {
            Named::Account(account) => holder(account),
            Named::Stretches(intervals) => {
                self.report_lines.push(ReportLine { id, name, intervals });
                return;
            }
        };
        let names = self.by_account.entry(account).or_default();
        if !names.contains(&name) {
            names.push(name);
        }
        if let Some((month, amount)) = one.budget {
            let months = self.budgets.entry(account).or_default();
            *months.entry(month).or_default() += i128::from(amount);
        }
    }

    /// Takes note of a plan that is still open, and names these accounts like anything else.
    pub fn note_plan(&mut self, name: &str, accounts: impl IntoIterator<Item = AccountId>) {
        for account in accounts {
            self.by_account.entry(account).or_default().push(format!("the plan “{name}”"));
        }
    }

    /// What is budgeted for an account, month by month.
    pub fn budget_of(&self, account: AccountId) -> Option<&BTreeMap<Date, i128>> {
        self.budgets.get(&account)
    }

    /// The lines of reports that add up a code.
    pub fn report_lines_over(&self, code: &CodeKey) -> impl Iterator<Item = &ReportLine> {
        let over = |line: &&ReportLine| line.intervals.iter().any(|i| i.contains(code));
        self.report_lines.iter().filter(over)
    }

    /// What names an account.
    pub fn of(&self, account: AccountId) -> &[String] {
        self.by_account.get(&account).map(Vec::as_slice).unwrap_or_default()
    }
}
