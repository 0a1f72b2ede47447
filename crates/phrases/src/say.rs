//! How sentences name accounts, statement items, amounts and days.

use crate::style::Style;
use std::fmt;
use time::Date;
use zf_core::chart::Called;
use zf_core::ids::{AccountId, ItemId};
use zf_core::money::Currency;
use zf_core::names::Names;
use zf_core::people::Forms;
use zf_core::rehearsal::cause::{Place, SumOf};

/// How many accounts a sentence names before it counts the others.
const SHOWN: usize = 5;

/// Puts what is given by identity and in minor units in words.
#[derive(Clone, Copy)]
pub struct Say<'a> {
    /// What things are called.
    pub names: &'a dyn Names,
    /// The base currency of the books.
    pub currency: Currency,
    /// The forms of whoever reads it.
    pub style: Style,
}

impl fmt::Debug for Say<'_> {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        f.debug_struct("Say").field("currency", &self.currency).field("style", &self.style).finish()
    }
}

impl<'a> Say<'a> {
    /// Says it in the forms that are usual where nobody has chosen.
    pub fn plain(names: &'a dyn Names, currency: Currency) -> Self {
        Self { names, currency, style: Style::default() }
    }

    /// Says it in the forms that a person has chosen.
    pub fn to(forms: Forms, names: &'a dyn Names, currency: Currency) -> Self {
        Self { names, currency, style: Style(forms) }
    }

    /// An account as it would be called After.
    pub(crate) fn after(&self, id: AccountId) -> String {
        label(self.names.after(id).or_else(|| self.names.today(id)))
    }

    /// An account as it is called today.
    pub(crate) fn now(&self, id: AccountId) -> String {
        label(self.names.today(id).or_else(|| self.names.after(id)))
    }

    /// The code of an account today.
    pub(crate) fn code(&self, id: AccountId) -> String {
        let called = self.names.today(id).or_else(|| self.names.after(id));
        called.map_or_else(String::new, |called| called.code.to_string())
    }

    /// The name of an account After.
    pub(crate) fn name(&self, id: AccountId) -> &'a str {
        self.names.after(id).or_else(|| self.names.today(id)).map_or("", |called| called.name)
    }

    /// All of them.
    pub(crate) fn list(
        &self,
        ids: &[AccountId],
        name: impl Fn(&Self, AccountId) -> String,
    ) -> String {
        ids.iter().map(|id| name(self, *id)).collect::<Vec<_>>().join(", ")
    }

    /// The first few of them, and how many more there are.
    pub(crate) fn some(
        &self,
        ids: &[AccountId],
        name: impl Fn(&Self, AccountId) -> String,
    ) -> String {
        let (shown, more) = ids.split_at(ids.len().min(SHOWN));
        let names: Vec<_> = shown.iter().map(|id| name(self, *id)).collect();
        match (names.as_slice(), more.len()) {
            ([first @ .., last], 0) if !first.is_empty() => {
                format!("{} and {last}", first.join(", "))
            }
            (names, 0) => names.join(", "),
            (names, more) => format!("{} and {more} more", names.join(", ")),
        }
    }

    /// A statement item.
    pub(crate) fn item(&self, id: ItemId) -> Option<&'a str> {
        self.names.item(id)
    }

    /// Where amounts stand on the statements: the item, else the class.
    pub(crate) fn place(&self, (class, item): Place) -> &'a str {
        item.and_then(|id| self.item(id)).unwrap_or(class.words())
    }

    /// What adds up codes.
    pub(crate) fn sum(&self, sum: &SumOf) -> String {
        match sum {
            SumOf::Row(id) => self.after(*id),
            SumOf::Report(name) => format!("The {name}"),
        }
    }

    /// An amount in the base currency.
    pub(crate) fn money(&self, minor: i128) -> String {
        self.style.money(self.currency, minor)
    }

    /// A day.
    pub(crate) fn day(&self, day: Date) -> String {
        self.style.day(day)
    }

    /// So many of a kind.
    pub(crate) fn counted(&self, number: u64, one: &str) -> String {
        self.style.counted(number, one)
    }
}

fn label(called: Option<Called<'_>>) -> String {
    called.map_or_else(|| "an account that is gone".to_owned(), Called::label)
}

/// Words with their article, as sentences name one of a kind: `an asset`, `a heading`.
pub(crate) fn a(words: &str) -> String {
    let article = if words.starts_with(['a', 'e', 'i', 'o']) { "an" } else { "a" };
    format!("{article} {words}")
}
