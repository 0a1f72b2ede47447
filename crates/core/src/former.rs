//! Former codes: what each account used to be called, so that an old code always finds the account
//! that holds its history now.

use crate::chart::{Account, Chart};
use crate::code::{Code, CodeKey};
use crate::ids::AccountId;
use std::collections::{HashMap, HashSet};
use time::OffsetDateTime;

/// Every code that any account bore before today.
#[derive(Clone, Debug, Default)]
pub struct FormerCodes {
    bearers: HashMap<CodeKey, Vec<AccountId>>,
}

impl FromIterator<(CodeKey, AccountId)> for FormerCodes {
    /// Collects codes with the account that bore each, oldest first.
    fn from_iter<T: IntoIterator<Item = (CodeKey, AccountId)>>(pairs: T) -> Self {
        let mut bearers: HashMap<CodeKey, Vec<AccountId>> = HashMap::new();
        for (key, account) in pairs {
            bearers.entry(key).or_default().push(account);
        }
        Self { bearers }
    }
}

impl FormerCodes {
    /// The accounts that hold the history once posted under a code, through merges, latest bearer
    /// first and each once.
    pub fn holders<'a>(&self, key: &CodeKey, chart: &'a Chart) -> Vec<&'a Account> {
        let mut seen = HashSet::new();
        let bearers = self.bearers.get(key).map(Vec::as_slice).unwrap_or_default();
        let holders = bearers.iter().rev().filter_map(|id| chart.holder(*id));
        holders.filter(|account| seen.insert(account.id)).collect()
    }
}

/// A stretch of time in which an account bore a code.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct CodeUse {
    /// The account that bore it.
    pub account: AccountId,
    /// The code.
    pub code: Code,
    /// The name it had with it.
    pub name: String,
    /// Since when; `None` when the account came with it.
    pub from: Option<OffsetDateTime>,
    /// Until when; `None` while it still bears it.
    pub to: Option<OffsetDateTime>,
}

impl CodeUse {
    /// Whether the account bore the code just before a moment.
    fn before(&self, moment: OffsetDateTime) -> bool {
        self.from.is_none_or(|from| from < moment) && self.to.is_none_or(|to| to >= moment)
    }
}

/// The codes as they were just before a moment, for a file that still follows them.
#[derive(Clone, Debug, Default)]
pub struct CodesThen {
    bearers: HashMap<CodeKey, AccountId>,
}

impl CodesThen {
    /// The codes that were borne just before a moment.
    pub fn before<'a>(uses: impl IntoIterator<Item = &'a CodeUse>, moment: OffsetDateTime) -> Self {
        let then = uses.into_iter().filter(|used| used.before(moment));
        Self { bearers: then.map(|used| (used.code.key(), used.account)).collect() }
    }

    /// The account that holds the history of who bore a code then.
    pub fn holder<'a>(&self, key: &CodeKey, chart: &'a Chart) -> Option<&'a Account> {
        chart.holder(*self.bearers.get(key)?)
    }
}

/// What a code written by a person, or in a file, stands for.
#[derive(Clone, Debug, PartialEq, Eq)]
pub enum Found<'a> {
    /// A live account bears it today.
    Current(&'a Account),
    /// An account used to bear it, or was merged into this one.
    Former(&'a Account),
    /// Several accounts hold history of that code.
    Several(Vec<&'a Account>),
    /// Nobody bears it or ever did.
    Nobody,
}

/// Looks a code up: today's bearer counts before former ones.
pub fn find<'a>(
    key: &CodeKey,
    current: &HashMap<CodeKey, &'a Account>,
    former: &FormerCodes,
    chart: &'a Chart,
) -> Found<'a> {
    if let Some(account) = current.get(key) {
        return Found::Current(account);
    }
    let mut holders = former.holders(key, chart);
    match holders.len() {
        0 => Found::Nobody,
        1 => Found::Former(holders.remove(0)),
        _ => Found::Several(holders),
    }
}

/// The live accounts by the code they bear.
pub fn current_codes(chart: &Chart) -> HashMap<CodeKey, &Account> {
    chart.live().map(|account| (account.code.key(), account)).collect()
}
