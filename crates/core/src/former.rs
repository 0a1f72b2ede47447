//! Former codes: what each account used to be called, so that an old code always finds the account
//! that holds its history now.

use crate::chart::{Account, Chart, Kind};
use crate::code::{Code, CodeKey, is_invisible};
use crate::ids::AccountId;
use std::collections::{HashMap, HashSet};
use time::{Date, OffsetDateTime};

/// Every code and every name that any account bore before today.
#[derive(Clone, Debug, Default)]
pub struct FormerCodes {
    bearers: HashMap<CodeKey, Vec<AccountId>>,
    called: HashMap<String, Vec<AccountId>>,
    /// On which day the latest bearer gave a code up.
    given_up: HashMap<CodeKey, Date>,
}

impl FromIterator<(CodeKey, AccountId)> for FormerCodes {
    /// Collects codes with the account that bore each, oldest first.
    fn from_iter<T: IntoIterator<Item = (CodeKey, AccountId)>>(pairs: T) -> Self {
        let mut bearers: HashMap<CodeKey, Vec<AccountId>> = HashMap::new();
        for (key, account) in pairs {
            bearers.entry(key).or_default().push(account);
        }
        Self { bearers, ..Self::default() }
    }
}

impl<'a> FromIterator<&'a CodeUse> for FormerCodes {
    /// Collects the codes and names of the past, oldest first.
    fn from_iter<T: IntoIterator<Item = &'a CodeUse>>(uses: T) -> Self {
        let mut former = Self::default();
        for used in uses {
            former.bearers.entry(used.code.key()).or_default().push(used.account);
            former.called.entry(alike(&used.name)).or_default().push(used.account);
            if let Some(to) = used.to {
                former.given_up.insert(used.code.key(), to.date());
            }
        }
        former
    }
}

/// The accounts that hold the history of some, through merges, latest first and each once.
fn holders<'a>(bearers: Option<&Vec<AccountId>>, chart: &'a Chart) -> Vec<&'a Account> {
    let mut seen = HashSet::new();
    let bearers = bearers.map(Vec::as_slice).unwrap_or_default();
    let holders = bearers.iter().rev().filter_map(|id| chart.holder(*id));
    holders.filter(|account| seen.insert(account.id)).collect()
}

impl FormerCodes {
    /// The accounts that hold the history once posted under a code, through merges, latest bearer
    /// first and each once.
    pub fn holders<'a>(&self, key: &CodeKey, chart: &'a Chart) -> Vec<&'a Account> {
        holders(self.bearers.get(key), chart)
    }

    /// Who bore a code last, and on which day they gave it up, as far as that is known.
    pub fn last_bearer(&self, key: &CodeKey) -> Option<(AccountId, Date)> {
        Some((*self.bearers.get(key)?.last()?, *self.given_up.get(key)?))
    }

    /// The same of a name.
    fn called<'a>(&self, name: &str, chart: &'a Chart) -> Vec<&'a Account> {
        holders(self.called.get(name), chart)
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

impl<'a> Found<'a> {
    fn former(mut holders: Vec<&'a Account>) -> Self {
        match holders.len() {
            0 => Self::Nobody,
            1 => Self::Former(holders.remove(0)),
            _ => Self::Several(holders),
        }
    }
}

/// What accounts are called: by code, by name and by path, today and before.
#[derive(Debug)]
pub struct Finder<'a> {
    chart: &'a Chart,
    former: &'a FormerCodes,
    codes: HashMap<CodeKey, &'a Account>,
    /// Live accounts by name, and by each path that ends with it.
    names: HashMap<String, Vec<&'a Account>>,
}

/// The marks between the names of a path.
const PATH_MARKS: [char; 5] = [':', '>', '|', '»', '\\'];

/// A name or a path as it is compared: in small letters, with one space for any white space, and one mark
/// between its parts.
pub(crate) fn alike(text: &str) -> String {
    let visible: String = text.chars().filter(|c| !is_invisible(*c)).collect();
    let parts = visible
        .split(PATH_MARKS)
        .map(|part| part.split_whitespace().collect::<Vec<_>>().join(" ").to_lowercase());
    parts.filter(|part| !part.is_empty()).collect::<Vec<_>>().join(":")
}

impl<'a> Finder<'a> {
    /// A finder of the accounts of a chart.
    pub fn of(chart: &'a Chart, former: &'a FormerCodes) -> Self {
        let codes = chart.live().map(|account| (account.code.key(), account)).collect();
        let mut names: HashMap<String, Vec<&Account>> = HashMap::new();
        for account in chart.live().filter(|account| account.kind != Kind::Sum) {
            let mut path = alike(&account.name);
            names.entry(path.clone()).or_default().push(account);
            for above in chart.above(account) {
                path = format!("{}:{path}", alike(&above.name));
                names.entry(path.clone()).or_default().push(account);
            }
        }
        Self { chart, former, codes, names }
    }

    /// The live account that bears a code today.
    pub fn current(&self, key: &CodeKey) -> Option<&'a Account> {
        self.codes.get(key).copied()
    }

    /// The live accounts by the code that they bear.
    pub fn codes(&self) -> impl Iterator<Item = (&CodeKey, &'a Account)> {
        self.codes.iter().map(|(key, account)| (key, *account))
    }

    /// Looks a code up: today's bearer counts before former ones.
    pub fn by_code(&self, key: &CodeKey) -> Found<'a> {
        match self.current(key) {
            Some(account) => Found::Current(account),
            None => Found::former(self.former.holders(key, self.chart)),
        }
    }

    /// Looks a name or a path up: accounts that are called so today count before those that were; one
    /// that takes postings counts before headings of the same name.
    pub fn by_name(&self, name: &str) -> Found<'a> {
        let name = alike(name);
        let own = self.names.get(&name).map(Vec::as_slice).unwrap_or_default();
        let posting: Vec<_> = own.iter().copied().filter(|a| a.is_posting()).collect();
        let own = if posting.is_empty() { own.to_vec() } else { posting };
        match own.as_slice() {
            [] => Found::former(self.former.called(&name, self.chart)),
            [account] => Found::Current(account),
            _ => Found::Several(own),
        }
    }
}
