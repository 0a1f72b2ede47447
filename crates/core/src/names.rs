//! What accounts and statement items are called, on both sides of a plan. What is found out names them by
//! identity; whoever says it to a person looks here.

use crate::chart::{Account, Called, Chart};
use crate::code::Code;
use crate::ids::{AccountId, ItemId};
use serde::{Deserialize, Serialize};
use std::collections::BTreeMap;

/// Looks up what things are called today and After.
pub trait Names {
    /// What an account is called today, if it is in today's chart.
    fn today(&self, account: AccountId) -> Option<Called<'_>>;

    /// What an account would be called, if it would be in the chart.
    fn after(&self, account: AccountId) -> Option<Called<'_>>;

    /// What a statement item is called.
    fn item(&self, item: ItemId) -> Option<&str>;
}

/// Names as the charts of both sides have them.
#[derive(Clone, Copy, Debug)]
pub struct Charts<'a> {
    /// The chart today, whose statement items are those of the books.
    pub today: &'a Chart,
    /// The chart After.
    pub after: &'a Chart,
}

impl Names for Charts<'_> {
    fn today(&self, account: AccountId) -> Option<Called<'_>> {
        self.today.get(account).map(Account::called)
    }

    fn after(&self, account: AccountId) -> Option<Called<'_>> {
        self.after.get(account).map(Account::called)
    }

    fn item(&self, item: ItemId) -> Option<&str> {
        self.today.structure().item(item).map(|item| item.name.as_str())
    }
}

/// An account's code and name, as they are kept.
#[derive(Clone, Debug, PartialEq, Eq, Serialize, Deserialize)]
pub struct ArchivedName {
    code: Code,
    name: String,
}

impl ArchivedName {
    /// What an account is called.
    pub fn of(called: Called<'_>) -> Self {
        Self { code: called.code.clone(), name: called.name.to_owned() }
    }

    /// Its code and name.
    pub fn called(&self) -> Called<'_> {
        Called { code: &self.code, name: &self.name }
    }
}

/// Names as they were at a time, for what is kept of it and read later.
#[derive(Clone, Debug, PartialEq, Eq, Serialize, Deserialize)]
pub struct ArchivedNames {
    today: BTreeMap<AccountId, ArchivedName>,
    /// Of those that are called otherwise After; none where an account is gone.
    after: BTreeMap<AccountId, Option<ArchivedName>>,
    items: BTreeMap<ItemId, String>,
}

impl ArchivedNames {
    /// What all accounts and statement items are called.
    pub fn of(charts: Charts<'_>) -> Self {
        let Charts { today, after } = charts;
        let kept = |account: &Account| (account.id, ArchivedName::of(account.called()));
        let gone = today.iter().filter(|account| after.get(account.id).is_none());
        let differs = |account: &&Account| charts.today(account.id) != Some(account.called());
        let other = after.iter().filter(differs).map(kept).map(|(id, name)| (id, Some(name)));
        let items = today.structure().items();
        Self {
            today: today.iter().map(kept).collect(),
            after: gone.map(|account| (account.id, None)).chain(other).collect(),
            items: items.map(|item| (item.id, item.name.clone())).collect(),
        }
    }
}

impl Names for ArchivedNames {
    fn today(&self, account: AccountId) -> Option<Called<'_>> {
        self.today.get(&account).map(ArchivedName::called)
    }

    fn after(&self, account: AccountId) -> Option<Called<'_>> {
        match self.after.get(&account) {
            Some(other) => other.as_ref().map(ArchivedName::called),
            None => self.today(account),
        }
    }

    fn item(&self, item: ItemId) -> Option<&str> {
        self.items.get(&item).map(String::as_str)
    }
}
