//! One change of one field: what it may be, how it is kept and sent, and how it is said.

use super::field::Field;
use super::texts;
use crate::chart::{Account, ControlRole, Kind, Status};
use crate::code::{Code, Interval};
use crate::history::Split;
use crate::ids::{AccountId, ImportId, ItemId};
use crate::money::Currency;
use crate::statement::{Class, Structure};
use serde::{Deserialize, Deserializer, Serialize};
use std::collections::HashMap;
use time::Date;

/// What a plan has in store for an account beyond its fields.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Hash, Serialize, Deserialize)]
#[serde(tag = "fate", rename_all = "snake_case", deny_unknown_fields)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum Fate {
    /// It does not exist yet; the plan adds it.
    Add,
    /// Its history is to stand under another account.
    MergeInto {
        /// The account that stays.
        into: AccountId,
    },
    /// No new postings; still on reports.
    Deactivate {
        /// Lines dated after this day are asked; it is the day of staging when it is missing.
        #[serde(default)]
        #[cfg_attr(feature = "schema", schema(value_type = Option<String>, format = Date))]
        from: Option<Date>,
    },
    /// No new postings and out of sight.
    Archive {
        /// Lines dated after this day are asked; it is the day of staging when it is missing.
        #[serde(default)]
        #[cfg_attr(feature = "schema", schema(value_type = Option<String>, format = Date))]
        from: Option<Date>,
    },
    /// Active again.
    Restore,
    /// Gone; only for what was never used.
    Delete,
}

impl Fate {
    /// To be deactivated, from the day on which that is staged.
    pub const fn deactivate() -> Self {
        Self::Deactivate { from: None }
    }

    /// To be archived, from the day on which that is staged.
    pub const fn archive() -> Self {
        Self::Archive { from: None }
    }

    /// The same, from a day if it says none. What an account is already it stays from the day that is known.
    #[must_use]
    pub fn dated(self, today: Option<Self>, day: Date) -> Self {
        match (self, today) {
            (Self::Deactivate { from: None }, Some(Self::Deactivate { from })) => {
                Self::Deactivate { from }
            }
            (Self::Archive { from: None }, Some(Self::Archive { from })) => Self::Archive { from },
            (Self::Deactivate { from }, _) => Self::Deactivate { from: from.or(Some(day)) },
            (Self::Archive { from }, _) => Self::Archive { from: from.or(Some(day)) },
            (other, _) => other,
        }
    }
}

/// One change of one field. The field and its value are one thing in the books, in the database and on
/// the wire, so that they cannot disagree: `{"field": "code", "value": "5110"}`.
#[derive(Clone, Debug, PartialEq, Eq, Hash, Serialize, Deserialize)]
#[serde(tag = "field", content = "value", rename_all = "snake_case", deny_unknown_fields)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum Change {
    /// A new code.
    Code(Code),
    /// A new name.
    Name(#[serde(deserialize_with = "name")] String),
    /// Another kind of row.
    Kind(Kind),
    /// Another class.
    Class(Class),
    /// Another line of the statements to stand under, or none.
    Caption(Option<ItemId>),
    /// Another heading, or none.
    Parent(Option<AccountId>),
    /// Contra or not.
    Contra(bool),
    /// Another control role, or none.
    Role(Option<ControlRole>),
    /// Another fixed currency, or none.
    Currency(Option<Currency>),
    /// Another description; may be empty.
    Description(#[serde(deserialize_with = "description")] String),
    /// Another tax code, or none.
    Tax(#[serde(deserialize_with = "tax")] Option<String>),
    /// Other codes that a sum line adds up.
    Intervals(Vec<Interval>),
    /// Which lines are to stand under other accounts.
    History(Split),
    /// The file that an added account came with.
    Origin(Option<ImportId>),
    /// A fate.
    Fate(Fate),
}

fn name<'de, D: Deserializer<'de>>(from: D) -> Result<String, D::Error> {
    texts::name(&String::deserialize(from)?).map_err(serde::de::Error::custom)
}

fn description<'de, D: Deserializer<'de>>(from: D) -> Result<String, D::Error> {
    texts::text(Field::Description, &String::deserialize(from)?).map_err(serde::de::Error::custom)
}

fn tax<'de, D: Deserializer<'de>>(from: D) -> Result<Option<String>, D::Error> {
    let code = Option::<String>::deserialize(from)?;
    let code = code.map(|code| texts::text(Field::Tax, &code)).transpose();
    Ok(code.map_err(serde::de::Error::custom)?.filter(|code| !code.is_empty()))
}

impl Change {
    /// The field it changes.
    pub fn field(&self) -> Field {
        match self {
            Self::Code(_) => Field::Code,
            Self::Name(_) => Field::Name,
            Self::Kind(_) => Field::Kind,
            Self::Class(_) => Field::Class,
            Self::Caption(_) => Field::Caption,
            Self::Parent(_) => Field::Parent,
            Self::Contra(_) => Field::Contra,
            Self::Role(_) => Field::Role,
            Self::Currency(_) => Field::Currency,
            Self::Description(_) => Field::Description,
            Self::Tax(_) => Field::Tax,
            Self::Intervals(_) => Field::Intervals,
            Self::History(_) => Field::History,
            Self::Origin(_) => Field::Origin,
            Self::Fate(_) => Field::Fate,
        }
    }

    /// What an account has in a field, as the change that would give another one the same. Moving
    /// history is something that is done, and not a setting that an account has: that is no part.
    pub fn of(account: &Account, field: Field) -> Self {
        match field {
            Field::Code => Self::Code(account.code.clone()),
            Field::Name => Self::Name(account.name.clone()),
            Field::Kind => Self::Kind(account.kind),
            Field::Class => Self::Class(account.class),
            Field::Caption => Self::Caption(account.place().1),
            Field::Parent => Self::Parent(account.parent),
            Field::Contra => Self::Contra(account.contra),
            Field::Role => Self::Role(account.role),
            Field::Currency => Self::Currency(account.currency),
            Field::Description => Self::Description(account.description.clone()),
            Field::Tax => Self::Tax(account.tax_code.clone()),
            Field::Intervals => Self::Intervals(account.intervals.clone()),
            Field::Origin => Self::Origin(account.origin),
            Field::History => Self::History(Split::default()),
            Field::Fate => Self::Fate(match (account.status, account.merged_into) {
                (Status::Deactivated, _) => Fate::Deactivate { from: account.status_from },
                (Status::Archived, _) => Fate::Archive { from: account.status_from },
                (Status::Merged, Some(survivor)) => Fate::MergeInto { into: survivor },
                (Status::Active | Status::Merged, _) => Fate::Restore,
            }),
        }
    }

    /// Everything that has to be staged for an account that a plan adds.
    pub fn adding(account: &Account) -> Vec<Self> {
        let plain =
            Account::new(account.id, account.code.clone(), account.name.clone(), account.class);
        let always = [Field::Code, Field::Name, Field::Class];
        let settings = Field::ALL.iter().filter(|field| {
            **field != Field::Fate
                && !always.contains(field)
                && Self::of(&plain, **field) != Self::of(account, **field)
        });
        let fields = always.iter().chain(settings).map(|field| Self::of(account, *field));
        std::iter::once(Self::Fate(Fate::Add)).chain(fields).collect()
    }

    /// Gives an account what it says; `lines` are those of the books' statements.
    pub(crate) fn carry_out(&self, account: &mut Account, lines: &Structure) {
        match self {
            Self::Code(code) => (account.code, account.code_proposed) = (code.clone(), false),
            Self::Name(name) => account.name.clone_from(name),
            Self::Kind(kind) => account.kind = *kind,
            Self::Class(class) => account.class = *class,
            Self::Caption(line) => account.caption = line.and_then(|line| lines.caption(line)),
            Self::Parent(parent) => account.parent = *parent,
            Self::Contra(contra) => account.contra = *contra,
            Self::Role(role) => account.role = *role,
            Self::Currency(currency) => account.currency = *currency,
            Self::Description(text) => account.description.clone_from(text),
            Self::Tax(code) => account.tax_code.clone_from(code),
            Self::Intervals(intervals) => account.intervals.clone_from(intervals),
            Self::Origin(import) => account.origin = *import,
            Self::Fate(Fate::MergeInto { into: survivor }) => {
                (account.status, account.merged_into) = (Status::Merged, Some(*survivor));
                account.status_from = None;
            }
            Self::Fate(Fate::Deactivate { from }) => {
                (account.status, account.status_from) = (Status::Deactivated, *from);
            }
            Self::Fate(Fate::Archive { from }) => {
                (account.status, account.status_from) = (Status::Archived, *from);
            }
            Self::Fate(Fate::Restore) => {
                (account.status, account.status_from) = (Status::Active, None);
            }
            Self::History(_) | Self::Fate(Fate::Add | Fate::Delete) => {}
        }
    }

    /// Puts other lines in place of those that it names, by identity.
    pub fn under_lines(&mut self, lines: &HashMap<ItemId, ItemId>) {
        if let Self::Caption(Some(line)) = self {
            *line = lines.get(line).copied().unwrap_or(*line);
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
