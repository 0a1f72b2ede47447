//! What a plan can change of an account: one table, a row a field. From a row follow the key and the words of the field,
//! the change of it, what an account has in it (which is the base of a change, and what is compared with a file or with
//! another account), how an account is given it, and how a merge and a crosswalk treat it.

use super::fate::Fate;
use super::texts;
use crate::chart::{Account, ControlRole, Kind};
use crate::code::{Code, Interval};
use crate::history::Split;
use crate::ids::{AccountId, ImportId, ItemId};
use crate::keyed::keyed;
use crate::money::Currency;
use crate::statement::{Class, Structure};
use serde::{Deserialize, Deserializer, Serialize};
use std::collections::HashMap;

/// How a field is treated where accounts become one.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum Merging {
    /// They are set side by side, and what any of them has can be kept.
    Chosen,
    /// They are set side by side, and should agree.
    Agreed,
    /// The account that stays keeps its own.
    Own,
}

/// How a change of a field stands in a crosswalk.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum InCrosswalk {
    /// As a kind of change of its own: renumbered, renamed, merged.
    Kind,
    /// As a setting that changed, with what it was and becomes.
    Setting,
    /// Elsewhere: what moves has a table of its own, and where an account came from is no change.
    Elsewhere,
}

macro_rules! account_fields {
    ($(
        $(#[$doc:meta])*
        $name:ident = $key:literal, $words:literal, $merging:ident, $crosswalk:ident {
            value: ($(#[$attribute:meta])* $value:ty),
            of: |$from:ident| $of:expr,
            give: |$to:ident, $new:pat_param, $items:pat_param| $give:expr,
        }
    )+) => {
        keyed! {
            /// What a plan can change of an account.
            Field { $($(#[$doc])* $name = $key, $words;)+ }
        }

        impl Field {
            /// How it is treated where accounts become one.
            pub const fn merging(self) -> Merging {
                match self { $(Self::$name => Merging::$merging,)+ }
            }

            /// How a change of it stands in a crosswalk.
            pub const fn in_crosswalk(self) -> InCrosswalk {
                match self { $(Self::$name => InCrosswalk::$crosswalk,)+ }
            }
        }

        /// One change of one field. The field and its value are one thing in the books, in the database and on
        /// the wire, so that they cannot disagree: `{"field": "code", "value": "5110"}`.
        #[derive(Clone, Debug, PartialEq, Eq, Hash, Serialize, Deserialize)]
        #[serde(tag = "field", content = "value", rename_all = "snake_case", deny_unknown_fields)]
        #[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
        pub enum Change { $($(#[$doc])* $name($(#[$attribute])* $value),)+ }

        impl Change {
            /// The field it changes.
            pub fn field(&self) -> Field {
                match self { $(Self::$name(_) => Field::$name,)+ }
            }

            /// What an account has in a field, as the change that would give another one the same. Moving
            /// history is something that is done, and not a setting that an account has: that is no part.
            pub fn of(account: &Account, field: Field) -> Self {
                match field {
                    $(Field::$name => { let $from = account; Self::$name($of) })+
                }
            }

            /// Gives an account what it says; `items` are those of the books' statements.
            pub(crate) fn give(&self, account: &mut Account, items: &Structure) {
                match self {
                    $(Self::$name($new) => { let ($to, $items) = (account, items); $give })+
                }
            }
        }
    };
}

account_fields! {
    /// Its code.
    Code = "code", "code", Chosen, Kind {
        value: (Code),
        of: |account| account.code.clone(),
        give: |account, code, _| (account.code, account.code_proposed) = (code.clone(), false),
    }
    /// Its name.
    Name = "name", "name", Chosen, Kind {
        value: (#[serde(deserialize_with = "name")] String),
        of: |account| account.name.clone(),
        give: |account, name, _| account.name.clone_from(name),
    }
    /// Account, heading or sum line.
    Kind = "kind", "kind", Own, Setting {
        value: (Kind),
        of: |account| account.kind,
        give: |account, kind, _| account.kind = *kind,
    }
    /// Its class.
    Class = "class", "class", Agreed, Kind {
        value: (Class),
        of: |account| account.class,
        give: |account, class, _| account.class = *class,
    }
    /// The statement item that it stands under, or none.
    Caption = "caption", "statement item", Chosen, Kind {
        value: (Option<ItemId>),
        of: |account| account.place().1,
        give: |account, item, items| account.caption = item.and_then(|item| items.caption(item)),
    }
    /// The heading it stands under, or none.
    Parent = "parent", "heading", Chosen, Kind {
        value: (Option<AccountId>),
        of: |account| account.parent,
        give: |account, parent, _| account.parent = *parent,
    }
    /// Whether it is presented as a deduction from another account.
    Contra = "contra", "contra mark", Own, Setting {
        value: (bool),
        of: |account| account.contra,
        give: |account, contra, _| account.contra = *contra,
    }
    /// The job the books rely on it for, if any.
    Role = "role", "control role", Agreed, Setting {
        value: (Option<ControlRole>),
        of: |account| account.role,
        give: |account, role, _| account.role = *role,
    }
    /// The one currency it may hold, if any.
    Currency = "currency", "fixed currency", Agreed, Setting {
        value: (Option<Currency>),
        of: |account| account.currency,
        give: |account, currency, _| account.currency = *currency,
    }
    /// What it is for; may be empty.
    Description = "description", "description", Own, Setting {
        value: (#[serde(deserialize_with = "description")] String),
        of: |account| account.description.clone(),
        give: |account, text, _| account.description.clone_from(text),
    }
    /// The tax code that new lines start with, if any.
    Tax = "tax", "tax code", Chosen, Setting {
        value: (#[serde(deserialize_with = "tax")] Option<String>),
        of: |account| account.tax_code.clone(),
        give: |account, code, _| account.tax_code.clone_from(code),
    }
    /// The codes that a sum line adds up.
    Intervals = "intervals", "codes added up", Own, Kind {
        value: (Vec<Interval>),
        of: |account| account.intervals.clone(),
        give: |account, intervals, _| account.intervals.clone_from(intervals),
    }
    /// Which of its lines are to stand under other accounts.
    History = "history", "history", Own, Elsewhere {
        value: (Split),
        of: |_account| Split::default(),
        give: |_account, _, _| (),
    }
    /// The file it came with; only of an account the plan adds.
    Origin = "origin", "origin", Own, Elsewhere {
        value: (Option<ImportId>),
        of: |account| account.origin,
        give: |account, import, _| account.origin = *import,
    }
    /// What becomes of it.
    Fate = "fate", "fate", Own, Kind {
        value: (Fate),
        of: |account| Fate::of(account),
        give: |account, fate, _| fate.meet(account),
    }
}

fn name<'de, D: Deserializer<'de>>(from: D) -> Result<String, D::Error> {
    texts::name(&String::deserialize(from)?).map_err(serde::de::Error::custom)
}

fn description<'de, D: Deserializer<'de>>(from: D) -> Result<String, D::Error> {
    texts::text(Field::Description.words(), &String::deserialize(from)?)
        .map_err(serde::de::Error::custom)
}

fn tax<'de, D: Deserializer<'de>>(from: D) -> Result<Option<String>, D::Error> {
    let code = Option::<String>::deserialize(from)?;
    let code = code.map(|code| texts::text(Field::Tax.words(), &code)).transpose();
    Ok(code.map_err(serde::de::Error::custom)?.filter(|code| !code.is_empty()))
}

impl Change {
    /// What an account has beyond what one of its class has at first.
    pub fn made(account: &Account) -> impl Iterator<Item = Self> + use<'_> {
        let Account { id, code, name, class, .. } = account;
        let plain = Account::new(*id, code.clone(), name.clone(), *class);
        let fields = Field::ALL.iter().map(move |field| (Self::of(&plain, *field), *field));
        fields
            .map(|(plain, field)| (plain, Self::of(account, field)))
            .filter(|(plain, own)| plain != own)
            .map(|(_, own)| own)
    }

    /// Everything that has to be staged for an account that a plan adds.
    pub fn adding(account: &Account) -> Vec<Self> {
        let always = [Field::Code, Field::Name, Field::Class];
        let always = always.map(|field| Self::of(account, field));
        let settings = Self::made(account).filter(|change| change.field() != Field::Fate);
        std::iter::once(Self::Fate(Fate::Add)).chain(always).chain(settings).collect()
    }

    /// Puts other statement items in place of those that it names, by identity.
    pub fn under_items(&mut self, items: &HashMap<ItemId, ItemId>) {
        if let Self::Caption(Some(item)) = self {
            *item = items.get(item).copied().unwrap_or(*item);
        }
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use serde_json::{Value, from_value, json, to_value};

    #[test]
    fn changes_are_kept_in_these_forms() {
        for form in [
            json!({"field": "code", "value": "50-10"}),
            json!({"field": "name", "value": "Coal"}),
            json!({"field": "kind", "value": "heading"}),
            json!({"field": "class", "value": "asset"}),
            json!({"field": "caption", "value": null}),
            json!({"field": "caption", "value": 2}),
            json!({"field": "parent", "value": 12}),
            json!({"field": "contra", "value": true}),
            json!({"field": "role", "value": "bank"}),
            json!({"field": "currency", "value": "EUR"}),
            json!({"field": "description", "value": "What the café takes in."}),
            json!({"field": "tax", "value": "T1"}),
            json!({"field": "intervals", "value": [
                {"first": "1000", "last": "1999"}, {"first": "25 to 3, or 4", "last": "25 to 3, or 4"},
            ]}),
            json!({"field": "history", "value": {"ranked": true, "parts": [{"to": 7, "which": {
                "from": "2024-02-01", "until": null, "payee": "Harrock\tand Sons", "memo": "",
                "dimension": {"name": "site", "value": "Larkfell=North; old"}, "entries": ["J1", "J2"],
            }}]}}),
            json!({"field": "origin", "value": 7}),
            json!({"field": "fate", "value": {"fate": "merge_into", "into": 7}}),
            json!({"field": "fate", "value": {"fate": "archive", "from": null}}),
            json!({"field": "fate", "value": {"fate": "deactivate", "from": "2026-12-31"}}),
            json!({"field": "fate", "value": {"fate": "restore"}}),
        ] {
            let change: Change = from_value(form.clone()).unwrap();
            assert_eq!(to_value(&change).unwrap(), form);
        }
    }

    #[test]
    fn what_cannot_be_staged_says_why() {
        let says = |field: &str, value: Value| {
            from_value::<Change>(json!({"field": field, "value": value})).unwrap_err().to_string()
        };
        assert_eq!(says("name", json!("  ")), "the name is empty");
        assert_eq!(says("code", json!("")), "the code is empty");
        let backwards = json!([{"first": "20", "last": "10"}]);
        assert_eq!(says("intervals", backwards), "the interval 20 to 10 runs backwards");
        let long = "x".repeat(texts::MAX_TEXT + 1);
        let too_long = format!("the tax code is longer than {} characters", texts::MAX_TEXT);
        assert_eq!(says("tax", json!(long)), too_long);
        assert!(says("class", json!("thing")).starts_with("unknown variant `thing`"));
        assert!(says("fate", json!({"fate": "merge_into"})).contains("into"));
        assert!(says("history", json!({"ranked": false})).contains("parts"));
    }
}
